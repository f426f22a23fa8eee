package web

import (
	"regexp"
	"strconv"
	"strings"
	"text/template/parse"
	"unicode"
)

// Pages are written in English, and each text in them is the key of a message: what
// stands between tags, and in the attributes that people read. Where a value stands in a
// text, the key has its place ({1}, {2} …), so that a language can put it elsewhere. A set
// of templates is made for each language by putting its texts where the keys stand.

// told are the attributes that people read.
var told = map[string]bool{"title": true, "aria-label": true, "placeholder": true, "alt": true, "data-lacks": true, "data-said": true, "aria-description": true}

// localizer walks the templates of a set and puts texts in place of keys.
type localizer struct {
	look func(key string) string
	// counts tells whether a text reads otherwise for one than for many: then it is
	// written when its number is known.
	counts func(key string) bool
	in     markup // where the walk has come to
}

// markup is a place in HTML, as far as it matters for what is read.
type markup struct {
	tag       bool   // inside a tag
	name      string // of the element begun last
	attribute string // whose value this is; empty outside of one
	quote     byte
}

// read tells whether what stands at the place is read by people.
func (m markup) read() bool {
	if m.tag {
		return m.quote != 0 && told[m.attribute]
	}
	return m.name != "script" && m.name != "style"
}

// list localizes the nodes of a list.
func (l *localizer) list(list *parse.ListNode) {
	if list == nil {
		return
	}
	var out, run []parse.Node
	flush := func() {
		out = append(out, l.message(run)...)
		run = nil
	}
	for _, node := range list.Nodes {
		switch n := node.(type) {
		case *parse.TextNode:
			for _, piece := range l.pieces(n) {
				if piece.read {
					run = append(run, piece.node)
				} else {
					flush()
					out = append(out, piece.node)
				}
			}
			continue
		case *parse.ActionNode:
			if l.in.read() && len(n.Pipe.Decl) == 0 {
				run = append(run, n)
				continue
			}
		}
		flush()
		out = append(out, node)
		before := l.in
		switch n := node.(type) {
		case *parse.IfNode:
			l.branch(&n.BranchNode, before)
		case *parse.RangeNode:
			l.branch(&n.BranchNode, before)
		case *parse.WithNode:
			l.branch(&n.BranchNode, before)
		}
	}
	flush()
	list.Nodes = out
}

func (l *localizer) branch(n *parse.BranchNode, before markup) {
	l.list(n.List)
	if n.ElseList != nil {
		l.in = before
		l.list(n.ElseList)
	}
}

// piece is a part of a text: what is read, or the markup around it.
type piece struct {
	node *parse.TextNode
	read bool
}

var (
	tagName       = regexp.MustCompile(`^</?([a-zA-Z][a-zA-Z0-9-]*)`)
	attributeName = regexp.MustCompile(`([a-zA-Z][a-zA-Z0-9:-]*)\s*=\s*$`)
)

// pieces takes a text apart and goes on from where the walk has come to.
func (l *localizer) pieces(n *parse.TextNode) (all []piece) {
	text := string(n.Text)
	from := 0
	cut := func(to int, read bool) {
		if to > from {
			one := *n
			one.Text = []byte(text[from:to])
			all = append(all, piece{&one, read})
			from = to
		}
	}
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case !l.in.tag && c == '<':
			if m := tagName.FindStringSubmatch(text[i:]); m != nil || strings.HasPrefix(text[i:], "<!") {
				cut(i, l.in.read())
				l.in.tag = true
				if m != nil {
					l.in.name = strings.ToLower(m[1])
					if text[i+1] == '/' {
						l.in.name = ""
					}
				}
			}
		case l.in.tag && l.in.quote == 0 && c == '>':
			l.in.tag = false
			cut(i+1, false)
		case l.in.tag && l.in.quote == 0 && (c == '"' || c == '\''):
			if m := attributeName.FindStringSubmatch(text[:i]); m != nil {
				l.in.attribute = m[1]
			}
			l.in.quote = c
			cut(i+1, false)
		case l.in.tag && l.in.quote != 0 && c == l.in.quote:
			cut(i, l.in.read())
			l.in.quote, l.in.attribute = 0, ""
		}
	}
	cut(len(text), l.in.read())
	return all
}

// message puts the text of a language in place of a run of what is read.
func (l *localizer) message(run []parse.Node) []parse.Node {
	var key strings.Builder
	var values []parse.Node
	for _, n := range run {
		if text, is := n.(*parse.TextNode); is {
			key.Write(text.Text)
			continue
		}
		values = append(values, n)
		key.WriteString("{" + strconv.Itoa(len(values)) + "}")
	}
	whole := key.String()
	lead := whole[:len(whole)-len(strings.TrimLeftFunc(whole, unicode.IsSpace))]
	tail := whole[len(strings.TrimRightFunc(whole, unicode.IsSpace)):]
	inner := strings.Join(strings.Fields(whole), " ")
	if !speaks(inner) {
		return run
	}
	said := l.look(inner)
	if len(values) > 0 && l.counts != nil && l.counts(inner) {
		return counted(lead, inner, values, tail)
	}
	if said == inner {
		return run
	}
	var out []parse.Node
	write := func(words string) {
		if words != "" {
			out = append(out, &parse.TextNode{NodeType: parse.NodeText, Text: []byte(words)})
		}
	}
	write(lead)
	for said != "" {
		at := place.FindStringSubmatchIndex(said)
		if at == nil {
			break
		}
		write(said[:at[0]])
		if n, _ := strconv.Atoi(said[at[2]:at[3]]); n >= 1 && n <= len(values) {
			out = append(out, values[n-1])
		}
		said = said[at[1]:]
	}
	write(said)
	write(tail)
	return out
}

// counted gives an action that writes a message by its numbers.
func counted(lead, key string, values []parse.Node, tail string) []parse.Node {
	call := "{{say " + strconv.Quote(key)
	for _, v := range values {
		call += " (" + strings.TrimSuffix(strings.TrimPrefix(v.String(), "{{"), "}}") + ")"
	}
	trees, err := parse.Parse("", lead+call+"}}"+tail, "{{", "}}", map[string]any{"say": true, "len": true, "index": true, "printf": true})
	if err != nil {
		panic("web: a text that counts calls something else: " + key + ": " + err.Error())
	}
	return trees[""].Root.Nodes
}

var place = regexp.MustCompile(`\{(\d+)\}`)

// speaks tells whether a text has words beside values and signs.
func speaks(key string) bool {
	bare := place.ReplaceAllString(entity.ReplaceAllString(key, ""), "")
	return strings.ContainsFunc(bare, unicode.IsLetter)
}

var entity = regexp.MustCompile(`&[a-z]+;|&#\d+;`)

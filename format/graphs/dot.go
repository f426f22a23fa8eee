package graphs

import (
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/safe"
)

// WriteDOT gives a map in the DOT language (graphviz.org/doc/info/lang.html).
func WriteDOT(e *content.Export) []byte {
	var b strings.Builder
	fmt.Fprintf(&b, "/* %s */\ndigraph map {\n\tlabel=%s;\n\tcharset=\"UTF-8\";\n\tnode [shape=box];\n", comment(e), quoted(e.Title()))
	for _, id := range e.Structure.Order {
		c := e.Map.Concepts[id]
		more := ""
		if e.Options.Notes && !c.Note.Empty() {
			more = ", comment=" + quoted(e.Words(c.Note))
		}
		if kind := e.Kind(c); kind != "" {
			more += ", class=" + quoted(kind)
		}
		fmt.Fprintf(&b, "\t%s [label=%s%s];\n", quoted(string(id)), quoted(e.Words(c.Label)), more)
	}
	for _, one := range edges(e) {
		more := ""
		switch {
		case one.plain:
			more = ", dir=none"
		case one.both:
			more = ", dir=both"
		}
		fmt.Fprintf(&b, "\t%s -> %s [label=%s%s];\n", quoted(one.from), quoted(one.to), quoted(one.phrase), more)
	}
	b.WriteString("}\n")
	return []byte(b.String())
}

func quoted(words string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\r", "").Replace(words) + `"`
}

// ReadDOT reads a graph in the DOT language; subgraphs are read as part of it, ports passed over.
func ReadDOT(raw []byte) (*content.Draft, error) {
	p := &dotParser{text: []rune(safe.Text(raw)), line: 1, seen: map[string]int{}}
	d := &p.d
	p.next()
	if strings.EqualFold(p.token, "strict") {
		p.next()
	}
	p.directed = strings.EqualFold(p.token, "digraph")
	if !p.directed && !strings.EqualFold(p.token, "graph") {
		return nil, cm.Refusef("This is no graph in the DOT language.")
	}
	p.next()
	if p.token != "{" {
		p.next() // its name
	}
	if p.token != "{" || p.isString {
		return nil, cm.Refusef("This is no graph in the DOT language.")
	}
	p.next()
	if err := p.statements(0); err != nil {
		return nil, err
	}
	for i := range d.Concepts {
		d.Concepts[i] = labelled(d.Concepts[i])
	}
	return finish(d)
}

type dotParser struct {
	text     []rune
	at, line int
	token    string
	isString bool // the token stood in quotes
	directed bool
	d        content.Draft
	seen     map[string]int // nodes, by their ids
}

// next reads a token; it is empty at the end.
func (p *dotParser) next() {
	p.token, p.isString = "", false
	for p.at < len(p.text) {
		r := p.text[p.at]
		rest := func(n int) string { return string(p.text[p.at:min(len(p.text), p.at+n)]) }
		switch {
		case r == '\n':
			p.line++
			p.at++
		case r == ' ' || r == '\t' || r == '\r':
			p.at++
		case r == '#' || rest(2) == "//":
			for p.at < len(p.text) && p.text[p.at] != '\n' {
				p.at++
			}
		case rest(2) == "/*":
			for p.at < len(p.text) && rest(2) != "*/" {
				if p.text[p.at] == '\n' {
					p.line++
				}
				p.at++
			}
			p.at = min(len(p.text), p.at+2)
		case r == '"':
			p.quotes()
			return
		case r == '<':
			p.markup()
			return
		case rest(2) == "->" || rest(2) == "--":
			p.token = rest(2)
			p.at += 2
			return
		case strings.ContainsRune("{}[];,=:+", r):
			p.token = string(r)
			p.at++
			return
		default:
			from := p.at
			for p.at < len(p.text) && !strings.ContainsRune(" \t\r\n{}[];,=:+\"<", p.text[p.at]) && rest(2) != "->" && rest(2) != "--" {
				p.at++
			}
			if p.at == from {
				p.at++
			}
			p.token = string(p.text[from:p.at])
			return
		}
	}
}

func (p *dotParser) quotes() {
	var b strings.Builder
	p.at++
	for p.at < len(p.text) && p.text[p.at] != '"' {
		if p.text[p.at] == '\\' && p.at+1 < len(p.text) {
			p.at++
			switch p.text[p.at] {
			case 'n', 'l', 'r':
				b.WriteRune('\n')
			case '\n':
			default:
				b.WriteRune(p.text[p.at])
			}
			p.at++
			continue
		}
		if p.text[p.at] == '\n' {
			p.line++
		}
		b.WriteRune(p.text[p.at])
		p.at++
	}
	p.at++
	p.token, p.isString = strings.TrimRight(b.String(), "\n"), true
}

// markup reads a label in angle brackets, and takes its words.
func (p *dotParser) markup() {
	var b strings.Builder
	depth := 0
	for p.at < len(p.text) {
		switch r := p.text[p.at]; r {
		case '<':
			depth++
			b.WriteRune(' ')
		case '>':
			depth--
		default:
			if depth == 1 {
				b.WriteRune(r)
			}
		}
		p.at++
		if depth == 0 {
			break
		}
	}
	p.token, p.isString = words(b.String()), true
}

func (p *dotParser) is(sign string) bool { return p.token == sign && !p.isString }

func (p *dotParser) statements(depth int) error {
	if depth > safe.MaxDepth {
		return cm.Refusef("This file is nested too deeply to be a map.")
	}
	for p.token != "" || p.isString {
		switch {
		case p.is("}"):
			p.next()
			return nil
		case p.is(";") || p.is(","):
			p.next()
		case p.is("{"):
			p.next()
			if err := p.statements(depth + 1); err != nil {
				return err
			}
		case !p.isString && strings.EqualFold(p.token, "subgraph"):
			p.next()
			if !p.is("{") {
				p.next()
			}
			if p.is("{") {
				p.next()
				if err := p.statements(depth + 1); err != nil {
					return err
				}
			}
		case !p.isString && (strings.EqualFold(p.token, "node") || strings.EqualFold(p.token, "edge") || strings.EqualFold(p.token, "graph")):
			p.next()
			p.attributes()
		default:
			if err := p.statement(); err != nil {
				return err
			}
		}
	}
	return cm.Refusef("This file ends before its graph does: is a bracket missing?")
}

// statement reads a node, a chain of edges, or something that is said of the graph.
func (p *dotParser) statement() error {
	first := p.token
	p.next()
	if p.is("=") {
		p.next()
		if first == "label" {
			p.d.Title = words(p.token)
		}
		p.next()
		return nil
	}
	p.port()
	chain := []string{first}
	plain := false
	for p.is("->") || p.is("--") {
		plain = p.is("--")
		p.next()
		if p.is("{") {
			p.d.Tell(p.line, "Edges to a group of nodes.")
			return nil
		}
		chain = append(chain, p.token)
		p.next()
		p.port()
	}
	a := p.attributes()
	for _, id := range chain {
		if _, known := p.seen[id]; known {
			continue
		}
		p.seen[id] = len(p.d.Concepts)
		if err := p.d.Add(content.Concept{Key: id}); err != nil {
			return err
		}
	}
	if len(chain) == 1 {
		c := &p.d.Concepts[p.seen[first]]
		for name, value := range a {
			kept(&c.Data, name, value)
			switch name {
			case "label":
				c.Label = value
			case "comment", "tooltip":
				c.Note = value
			case "class":
				c.Kind = words(value)
			}
		}
		return nil
	}
	for i := range len(chain) - 1 {
		l := content.Link{From: chain[i], To: chain[i+1], Phrase: words(a["label"]), Plain: plain || a["dir"] == "none", Both: a["dir"] == "both"}
		for name, value := range a {
			kept(&l.Data, name, value)
		}
		if a["dir"] == "back" {
			l.From, l.To = l.To, l.From
		}
		if err := p.d.Join(l); err != nil {
			return err
		}
	}
	return nil
}

func (p *dotParser) port() {
	for p.is(":") {
		p.next()
		p.next()
	}
}

func (p *dotParser) attributes() map[string]string {
	all := map[string]string{}
	for p.is("[") {
		p.next()
		for !p.is("]") && (p.token != "" || p.isString) {
			name := p.token
			p.next()
			if p.is("=") {
				p.next()
				if value := p.token; value != `\N` {
					all[strings.ToLower(name)] = value
				}
				p.next()
			}
			for p.is(",") || p.is(";") {
				p.next()
			}
		}
		p.next()
	}
	return all
}

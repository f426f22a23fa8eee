package markdown

import (
	"regexp"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// Passage gives what was copied from a page as text for a note: its words, paragraphs and
// lists, and its links to web addresses; everything else of the HTML is left out. Clean gives
// an address as it may be kept.
func Passage(markup string, clean func(address string) (string, error)) string {
	p := passage{clean: clean}
	tokens := html.NewTokenizer(strings.NewReader(markup))
	for {
		switch tokens.Next() {
		case html.ErrorToken:
			p.closeLink()
			return strings.TrimSpace(manyLines.ReplaceAllString(p.out.String(), "\n\n"))
		case html.TextToken:
			if p.hidden == 0 {
				p.text(string(tokens.Text()))
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			p.begin(tokens.Token())
		case html.EndTagToken:
			name, _ := tokens.TagName()
			p.end(atom.Lookup(name))
		}
	}
}

var (
	manyLines = regexp.MustCompile(`\n[ \n]*\n`)
	unseen    = map[atom.Atom]bool{atom.Script: true, atom.Style: true, atom.Template: true, atom.Head: true, atom.Title: true, atom.Noscript: true}
	blocks    = map[atom.Atom]string{atom.P: "\n\n", atom.Div: "\n", atom.Ul: "\n", atom.Ol: "\n", atom.Li: "\n- ", atom.Br: "\n", atom.H1: "\n\n", atom.H2: "\n\n", atom.H3: "\n\n", atom.H4: "\n\n", atom.Blockquote: "\n\n", atom.Table: "\n\n", atom.Tr: "\n", atom.Td: " ", atom.Th: " ", atom.Pre: "\n\n"}
)

type passage struct {
	out    strings.Builder
	clean  func(string) (string, error)
	hidden int // elements open whose text is not seen
	link   string
	words  strings.Builder // of the link that is open
}

func (p *passage) text(words string) {
	to := &p.out
	if p.link != "" {
		to = &p.words
	}
	for i, word := range strings.Fields(words) {
		if i > 0 || strings.TrimLeft(words, " \t\r\n") != words {
			space(to)
		}
		to.WriteString(word)
	}
	if strings.TrimRight(words, " \t\r\n") != words {
		space(to)
	}
}

func space(to *strings.Builder) {
	if s := to.String(); s != "" && !strings.HasSuffix(s, " ") && !strings.HasSuffix(s, "\n") {
		to.WriteByte(' ')
	}
}

func (p *passage) begin(t html.Token) {
	if unseen[t.DataAtom] && t.Type == html.StartTagToken {
		p.hidden++
	}
	if sign, is := blocks[t.DataAtom]; is {
		p.closeLink()
		p.out.WriteString(sign)
	}
	if t.DataAtom != atom.A || p.hidden > 0 {
		return
	}
	p.closeLink()
	for _, a := range t.Attr {
		if a.Key != "href" {
			continue
		}
		if address, err := p.clean(a.Val); err == nil {
			p.link = address
		}
	}
}

func (p *passage) end(name atom.Atom) {
	if unseen[name] {
		p.hidden = max(0, p.hidden-1)
	}
	if name == atom.A {
		p.closeLink()
	}
	if sign, is := blocks[name]; is && name != atom.Li {
		p.closeLink()
		p.out.WriteString(strings.TrimRight(sign, "- "))
	}
}

func (p *passage) closeLink() {
	if p.link == "" {
		return
	}
	raw := p.words.String()
	words := strings.NewReplacer("[", "(", "]", ")").Replace(strings.TrimSpace(raw))
	switch {
	case words == "":
	case words == p.link:
		p.out.WriteString("<" + p.link + ">")
	default:
		if strings.HasPrefix(raw, " ") {
			space(&p.out)
		}
		p.out.WriteString("[" + words + "](<" + p.link + ">)")
		if strings.HasSuffix(raw, " ") {
			p.out.WriteByte(' ')
		}
	}
	p.link = ""
	p.words.Reset()
}

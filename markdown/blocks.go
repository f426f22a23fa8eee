package markdown

import (
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// Block is a paragraph of a text, for those who set it otherwise than as a page.
type Block struct {
	// Level is that of a heading, 0 for none; Depth how deep it lies in lists, 0 for none.
	Level, Depth int
	Ordered      bool // of a list that is numbered
	Code         bool
	Row          [][]Span // the cells of a row of a table; nil for all else
	Head         bool     // the row names the columns
	Spans        []Span
}

// Span is words that are set alike.
type Span struct {
	Words              string
	Strong, Emph, Code bool
	Link               string
}

// Blocks gives a text in Markdown as its paragraphs.
func Blocks(words string) []Block {
	doc, err := html.Parse(strings.NewReader(HTML(words)))
	if err != nil { // reading from memory does not fail
		return nil
	}
	var b blockReader
	b.walk(doc, Span{})
	b.end()
	return b.all
}

type blockReader struct {
	all     []Block
	now     *Block
	depth   int
	ordered []bool
}

func (b *blockReader) begin(as Block) {
	b.end()
	b.now = &as
}

func (b *blockReader) end() {
	if b.now != nil && (len(b.now.Spans) > 0 || b.now.Row != nil) {
		b.all = append(b.all, *b.now)
	}
	b.now = nil
}

func (b *blockReader) add(s Span) {
	if b.now == nil {
		if strings.TrimSpace(s.Words) == "" {
			return
		}
		b.now = &Block{}
	}
	if b.now.Row != nil {
		last := len(b.now.Row) - 1
		b.now.Row[last] = append(b.now.Row[last], s)
		return
	}
	b.now.Spans = append(b.now.Spans, s)
}

func (b *blockReader) walk(n *html.Node, as Span) {
	if n.Type == html.TextNode {
		s := as
		if s.Words = n.Data; b.now == nil || !b.now.Code {
			s.Words = strings.ReplaceAll(n.Data, "\n", " ")
		}
		if s.Words != "" {
			b.add(s)
		}
		return
	}
	item := func() Block {
		return Block{Depth: b.depth, Ordered: len(b.ordered) > 0 && b.ordered[len(b.ordered)-1]}
	}
	switch n.DataAtom {
	case atom.P:
		if b.now == nil || len(b.now.Spans) > 0 {
			b.begin(item())
		}
	case atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6:
		b.begin(Block{Level: int(n.Data[1] - '0')})
	case atom.Pre:
		b.begin(Block{Code: true})
	case atom.Ul, atom.Ol:
		b.end()
		b.depth++
		b.ordered = append(b.ordered, n.DataAtom == atom.Ol)
		defer func() { b.end(); b.depth--; b.ordered = b.ordered[:len(b.ordered)-1] }()
	case atom.Li:
		b.begin(item())
		defer b.end()
	case atom.Tr:
		b.begin(Block{Row: [][]Span{}})
		defer b.end()
	case atom.Td, atom.Th:
		if b.now != nil && b.now.Row != nil {
			b.now.Row = append(b.now.Row, nil)
			b.now.Head = n.DataAtom == atom.Th
		}
	case atom.Br:
		b.add(Span{Words: "\n"})
	case atom.Strong, atom.B:
		as.Strong = true
	case atom.Em, atom.I:
		as.Emph = true
	case atom.Code:
		as.Code = true
	case atom.A:
		for _, a := range n.Attr {
			if a.Key == "href" {
				as.Link = a.Val
			}
		}
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		b.walk(c, as)
	}
	switch n.DataAtom {
	case atom.P, atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6, atom.Pre:
		b.end()
	}
}

// Package markdown turns what people write into HTML that a page may show:
// CommonMark with tables, strikethrough, bare addresses made links, and formulae
// between dollar signs (package formula). The text is taken as hostile. Raw HTML in it is dropped, and what is left passes
// a list of allowed elements and addresses.
package markdown

import (
	"bytes"
	"html"
	"strings"

	"github.com/microcosm-cc/bluemonday"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	"github.com/yuin/goldmark/parser"
	"github.com/yuin/goldmark/renderer"
	"github.com/yuin/goldmark/text"
	"github.com/yuin/goldmark/util"

	"github.com/yuin/goldmark/ast"

	cm "mevrin/core/conceptmap"
)

// deepest bounds how far quotes and lists nest: text nested deeper is shown
// as it was typed, since laying it out helps nobody and can cost a lot.
const deepest = 40

var writer = goldmark.New(
	goldmark.WithExtensions(extension.Table, extension.Strikethrough, extension.Linkify),
	goldmark.WithParserOptions(parser.WithASTTransformers(util.Prioritized(lower{}, 100)), parser.WithInlineParsers(util.Prioritized(formulae{}, 150))),
	goldmark.WithRendererOptions(renderer.WithNodeRenderers(util.Prioritized(formulae{}, 150))),
)

// lower makes headings two levels smaller: the page around the text has the
// larger ones.
type lower struct{}

func (lower) Transform(doc *ast.Document, _ text.Reader, _ parser.Context) {
	for n := doc.FirstChild(); n != nil; n = n.NextSibling() {
		if h, ok := n.(*ast.Heading); ok {
			h.Level = min(6, h.Level+2)
		}
	}
}

var allowed = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	p.AllowElements("p", "br", "hr", "h3", "h4", "h5", "h6", "em", "strong", "del", "code", "pre", "blockquote", "ul", "ol", "li",
		"table", "thead", "tbody", "tr", "th", "td")
	p.AllowNoAttrs().OnElements("math", "mrow", "mi", "mn", "mo", "mfrac", "msup", "msub", "msqrt") // of package formula; nothing else writes them
	p.AllowAttrs("start").Matching(bluemonday.Integer).OnElements("ol")
	p.AllowAttrs("align").Matching(bluemonday.CellAlign).OnElements("th", "td")
	p.AllowAttrs("href").OnElements("a")
	p.AllowURLSchemes("http", "https", "mailto")
	p.AllowRelativeURLs(false)
	p.RequireParseableURLs(true)
	p.RequireNoReferrerOnLinks(true)
	p.RequireNoFollowOnLinks(true)
	p.AddTargetBlankToFullyQualifiedLinks(true)
	return p
}()

// HTML gives the text as HTML. It never fails: what cannot be laid out, or has
// tables far larger than a note may have, is shown as it was typed.
func HTML(words string) string {
	if nesting(words) > deepest || cm.TableCells(words) > 4*cm.MaxTableCells {
		return "<pre>" + html.EscapeString(words) + "</pre>"
	}
	var out bytes.Buffer
	if err := writer.Convert([]byte(words), &out); err != nil {
		return "<pre>" + html.EscapeString(words) + "</pre>"
	}
	return allowed.Sanitize(out.String())
}

// nesting counts the most signs that open quotes, lists and brackets in one
// line, and indentation, as an upper bound of how deep it goes.
func nesting(words string) int {
	most := 0
	for line := range strings.SplitSeq(words, "\n") {
		count := strings.Count(line, ">") + strings.Count(line, "[") + (len(line)-len(strings.TrimLeft(line, " \t")))/2
		rest := line
		for {
			rest = strings.TrimLeft(rest, " \t>")
			if len(rest) < 2 || !strings.ContainsRune("-*+", rune(rest[0])) || rest[1] != ' ' {
				break
			}
			rest = rest[2:]
			count++
		}
		most = max(most, count)
	}
	return most
}

package markdown

import (
	"bytes"

	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/parser"
	"github.com/yuin/goldmark/renderer"
	"github.com/yuin/goldmark/text"
	"github.com/yuin/goldmark/util"

	"mevrin/format/formula"
)

// formulae reads what stands between two dollar signs in a line, and writes it as
// MathML. "$5 and $6" is none: a formula neither begins nor ends with a space.
type formulae struct{}

var kindFormula = ast.NewNodeKind("Formula")

type formulaNode struct {
	ast.BaseInline
	markup string
}

func (*formulaNode) Kind() ast.NodeKind { return kindFormula }

func (n *formulaNode) Dump(source []byte, level int) { ast.DumpHelper(n, source, level, nil, nil) }

func (formulae) Trigger() []byte { return []byte{'$'} }

func (formulae) Parse(_ ast.Node, block text.Reader, _ parser.Context) ast.Node {
	line, _ := block.PeekLine()
	end := bytes.IndexByte(line[1:], '$') + 1
	if end < 2 || line[1] == ' ' || line[end-1] == ' ' || end+1 < len(line) && line[end+1] >= '0' && line[end+1] <= '9' {
		return nil
	}
	markup, ok := formula.MathML(string(line[1:end]))
	if !ok {
		return nil
	}
	block.Advance(end + 1)
	return &formulaNode{markup: markup}
}

func (formulae) RegisterFuncs(r renderer.NodeRendererFuncRegisterer) {
	r.Register(kindFormula, func(w util.BufWriter, _ []byte, n ast.Node, entering bool) (ast.WalkStatus, error) {
		if entering {
			_, _ = w.WriteString(n.(*formulaNode).markup) // a buffer keeps its error
		}
		return ast.WalkSkipChildren, nil
	})
}

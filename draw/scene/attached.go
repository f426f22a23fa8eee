package scene

import (
	"math"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
)

// Picture is a picture on a slip, above the label.
type Picture struct {
	Source cm.ID
	Hash   string // of the file
	W, H   float64
	Says   string
}

// Grid is a table on a slip, below the label.
type Grid struct {
	Head    bool
	Columns []float64 // the widths
	Rows    []float64 // the heights
	Cells   [][]*Block
	W, H    float64
}

// The measures of pictures and tables, in pixels: the room below the one and above
// the other, the most that a column is wide, and the room in cells.
const (
	PictureGap = 8.0
	GridGap    = 8.0
	widestCell = 170.0
	cellX      = 6.0
	cellY      = 3.0
	minCell    = 26.0
)

var (
	cellSetting = setting{voice: face.Noun, size: 13, lineHeight: 16, wide: widestCell, padX: cellX, padY: cellY, align: cm.AlignLeft}
	headSetting = setting{voice: face.NounBold, size: 13, lineHeight: 16, wide: widestCell, padX: cellX, padY: cellY, align: cm.AlignLeft}
)

// pictureOf gives the picture on a concept's slip, or nil.
func pictureOf(c *cm.Concept) *Picture {
	id, s, ok := c.Picture()
	if !ok {
		return nil
	}
	return &Picture{id, s.File.Hash, math.Round(s.Wide), math.Max(1, math.Round(s.Wide*float64(s.File.H)/float64(s.File.W))), s.Says}
}

// gridOf measures the table of a concept; nil where it has none.
func gridOf(t *cm.Table) *Grid {
	if t == nil || len(t.Rows) == 0 {
		return nil
	}
	g := &Grid{Head: t.Head, Columns: make([]float64, len(t.Rows[0])), Rows: make([]float64, len(t.Rows))}
	for i, row := range t.Rows {
		use := cellSetting
		if t.Head && i == 0 {
			use = headSetting
		}
		cells := make([]*Block, len(row))
		g.Rows[i] = use.lineHeight + 2*cellY
		for j, words := range row {
			cells[j] = block(words, use)
			g.Columns[j] = math.Max(math.Max(g.Columns[j], minCell), math.Ceil(cells[j].W)+2*cellX+2)
			g.Rows[i] = math.Max(g.Rows[i], cells[j].H+2*cellY)
		}
		g.Cells = append(g.Cells, cells)
	}
	for _, w := range g.Columns {
		g.W += w
	}
	for _, h := range g.Rows {
		g.H += h
	}
	return g
}

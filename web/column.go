package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
)

// column is the map as text: outline, propositions, loose ideas, in reading
// order.
func (s *server) column(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		g.HTML(http.StatusOK, "column.html", now.columnOf())
	}
}

type columnView struct {
	Outline      []outlineRow
	Propositions []sentence
	Loose        []outlineRow
	Routes       []columnRoute
}

// columnRoute is a route as a list of its contents.
type columnRoute struct {
	ID    cm.ID
	Title string
	Stops []stopRow
}

// outlineRow is a concept below its parent: the phrase that leads to it, and
// its words.
type outlineRow struct {
	ID      cm.ID
	Depth   int // 1 for a root
	Phrase  string
	Against bool // the phrase is read from the child to the parent
	Open    bool // it hangs from a link without words
	Words   string
	Focus   bool
}

// deepest bounds the indentation of the outline.
const deepest = 9

func (s *state) columnOf() columnView {
	var v columnView
	depth := map[cm.ID]int{}
	for _, id := range s.structure.Order {
		c, place := s.m.Concepts[id], s.structure.Places[id]
		row := outlineRow{ID: id, Words: s.m.Words(c.Label), Focus: s.m.Focus == id}
		if place.Loose && !row.Focus {
			v.Loose = append(v.Loose, row)
			continue
		}
		depth[id] = depth[place.Parent] + 1
		row.Depth = min(depth[id], deepest)
		if place.Parent != "" {
			from, _, _ := s.m.Between(c.Main.Strand)
			l := s.m.Links[c.Main.Link]
			row.Phrase, row.Against = s.m.Words(l.Phrase), from == id && l.Heads == cm.HeadsOne
			row.Open = row.Phrase == ""
		}
		v.Outline = append(v.Outline, row)
	}
	for _, p := range s.structure.Propositions() {
		v.Propositions = append(v.Propositions, s.sentenceOf(p))
	}
	for _, id := range cm.SortedIDs(s.m.Routes) {
		g := s.guideOf(id, "")
		v.Routes = append(v.Routes, columnRoute{id, g.Title, g.Stops})
	}
	return v
}

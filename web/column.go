package web

import (
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/core/likeness"
	"mevrin/draw/scene"
)

// column is the map as text: outline, propositions, loose ideas, in reading
// order.
func (s *server) column(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	defer now.turn(g.Request.Context())()
	g.HTML(http.StatusOK, "column.html", now.columnOf(view, columnAsked{g.Query("seek"), g.Query("which"), g.Query("sort")}))
}

// columnAsked narrows the sentences of the column: to those that hold what is sought,
// to cross-links ("cross") or open ones ("open"), sorted by "from", "phrase" or "to".
type columnAsked struct{ Seek, Which, Sort string }

// columnView is a map as text.
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
	Parent  cm.ID
	Link    cm.ID  // by which it hangs
	Note    string // the beginning of its note
	Remark  string
	Folds   bool // something is below it
	Hides   int  // that is tucked away
	// Pointers lead to concepts that stand elsewhere in the outline.
	Pointers []pointer
}

// pointer is a further link of a concept, to another that stands elsewhere.
type pointer struct {
	Concept       cm.ID
	Phrase, Words string
}

// deepest bounds the indentation of the outline.
const deepest = 9

func (s reading) columnOf(view scene.View, asked columnAsked) columnView {
	var v columnView
	seen := s.seen(view)
	further := s.further()
	depth := map[cm.ID]int{}
	for _, id := range s.structure.Order {
		c, place := s.m.Concepts[id], s.structure.Places[id]
		row := outlineRow{ID: id, Words: s.m.Words(c.Label), Focus: s.m.Focus == id, Note: startOfNote(s.m.Words(c.Note)), Remark: s.m.Words(c.Remark)}
		if place.Loose && !row.Focus {
			v.Loose = append(v.Loose, row)
			continue
		}
		depth[id] = depth[place.Parent] + 1
		slip := seen.Slips[id]
		if slip == nil {
			continue // tucked away
		}
		row.Folds, row.Hides, row.Pointers = len(place.Children) > 0, len(slip.Hides), further[id]
		row.Depth = min(depth[id], deepest)
		if row.Parent = place.Parent; place.Parent != "" {
			row.Link = c.Main.Link
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
	v.Propositions = narrowed(v.Propositions, asked.Seek, asked.Which, asked.Sort)
	for _, id := range cm.SortedIDs(s.m.Routes) {
		g := s.guideOf(id, "")
		v.Routes = append(v.Routes, columnRoute{id, g.Title, g.Stops})
	}
	return v
}

// further gives the links of each concept that do not put another one under it:
// what they lead to stands elsewhere in the outline.
func (s reading) further() map[cm.ID][]pointer {
	all := map[cm.ID][]pointer{}
	for _, p := range s.structure.Propositions() {
		if !p.Main && p.Subject != p.Object {
			all[p.Subject] = append(all[p.Subject], pointer{p.Object, s.m.Words(s.m.Links[p.Strand.Link].Phrase), s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: p.Object})})
		}
	}
	return all
}

// orderView shows in which order siblings would be, before they are.
type orderView struct {
	Parent cm.ID
	Words  string
	Way    layout.Order
	Rows   []orderRow
	Step   string // the operation that does it; empty where nothing would change
}

type orderRow struct {
	Was   int // its number now
	Words string
}

// order shows the children of a concept in another order.
func (s *server) order(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.order(cm.ID(g.Query("parent")), layout.Order(g.Query("way")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.HTML(http.StatusOK, "order.html", v)
}

// order shows the children of a concept in another order.
func (s reading) order(parent cm.ID, way layout.Order) (v orderView, err error) {
	c := s.m.Concepts[parent]
	if c == nil {
		return v, cm.Refusef("That concept is no longer on the map.")
	}
	was := s.structure.Places[c.ID].Children
	order, err := layout.Sorted(s.m, scene.Measurer{}, c.ID, was, way)
	if err != nil {
		return v, err
	}
	v = orderView{Parent: c.ID, Words: s.m.Words(c.Label), Way: way}
	for _, id := range order {
		v.Rows = append(v.Rows, orderRow{slices.Index(was, id) + 1, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id})})
	}
	if !slices.Equal(was, order) {
		raw, err := edit.MarshalOperations([]edit.Operation{&edit.SetOrder{Parent: c.ID, Order: order}})
		if err != nil {
			return v, err
		}
		v.Step = string(raw)
	}
	return v, nil
}

// narrowed gives the sentences that hold what is sought and are of the kind
// asked for, in the order asked for.
func narrowed(all []sentence, seek, which, sort string) []sentence {
	all = slices.DeleteFunc(all, func(s sentence) bool {
		return which == "cross" && !s.Cross || which == "open" && !s.Open ||
			seek != "" && !likeness.Holds(s.Noun1+" "+s.Verb+" "+s.Noun2, seek)
	})
	key := func(s sentence) string {
		switch sort {
		case "from":
			return s.Noun1
		case "phrase":
			return s.Verb
		case "to":
			return s.Noun2
		}
		return ""
	}
	slices.SortStableFunc(all, func(a, b sentence) int { return strings.Compare(likeness.Fold(key(a)), likeness.Fold(key(b))) })
	return all
}

// maxOfNote is how many characters of a note stand in the outline.
const maxOfNote = 140

func startOfNote(note string) string {
	words := []rune(strings.Join(strings.Fields(note), " "))
	if len(words) > maxOfNote {
		return string(words[:maxOfNote]) + "…"
	}
	return string(words)
}

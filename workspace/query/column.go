package query

import (
	"slices"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/core/likeness"
	"mevrin/draw/scene"
	"mevrin/markdown"
)

// ColumnAsked narrows the sentences of the column: to those that hold what is sought,
// to cross-links ("cross") or open ones ("open"), sorted by "from", "phrase" or "to".
type ColumnAsked struct{ Seek, Which, Sort string }

// Column is a map as text.
type Column struct {
	Judged       bool // somebody judged a sentence
	Outline      []outlineRow
	Propositions []Sentence
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

// Deepest bounds the indentation of the outline.
const Deepest = 9

func (s Reading) Column(view scene.View, asked ColumnAsked) Column {
	var v Column
	seen := s.Seen(view)
	further := s.further()
	depth := map[cm.ID]int{}
	for _, id := range s.Structure.Order {
		c, place := s.Map.Concepts[id], s.Structure.Places[id]
		row := outlineRow{ID: id, Words: s.Map.Words(c.Label), Focus: s.Map.Focus == id, Note: startOfNote(markdown.Plain(s.Map.Words(c.Note))), Remark: s.Map.Words(c.Remark)}
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
		row.Depth = min(depth[id], Deepest)
		if row.Parent = place.Parent; place.Parent != "" {
			row.Link = c.Main.Link
			from, _, _ := s.Map.Between(c.Main.Strand)
			l := s.Map.Links[c.Main.Link]
			row.Phrase, row.Against = s.Map.Words(l.Phrase), from == id && l.Heads == cm.HeadsOne
			row.Open = row.Phrase == ""
		}
		v.Outline = append(v.Outline, row)
	}
	judged := s.Map.Judged()
	for _, p := range s.Structure.Propositions() {
		said := s.sentenceOf(p)
		if j := cm.Shown(judged[proposed(p)]); j != nil {
			said.Verdict, said.Stale = j.Verdict, j.Stale(s.Map)
		}
		v.Propositions = append(v.Propositions, said)
	}
	v.Propositions = narrowed(v.Propositions, asked.Seek, asked.Which, asked.Sort)
	for _, id := range cm.SortedIDs(s.Map.Routes) {
		g := s.guideOf(id, "")
		v.Routes = append(v.Routes, columnRoute{id, g.Title, g.Stops})
	}
	return v
}

// further gives the links of each concept that do not put another one under it:
// what they lead to stands elsewhere in the outline.
func (s Reading) further() map[cm.ID][]pointer {
	all := map[cm.ID][]pointer{}
	for _, p := range s.Structure.Propositions() {
		if !p.Main && p.Subject != p.Object {
			all[p.Subject] = append(all[p.Subject], pointer{p.Object, s.Map.Words(s.Map.Links[p.Strand.Link].Phrase), s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: p.Object})})
		}
	}
	return all
}

// SiblingOrder shows in which order siblings would be, before they are.
type SiblingOrder struct {
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

// Order shows the children of a concept in another order.
func (s Reading) Order(parent cm.ID, way layout.Order) (v SiblingOrder, err error) {
	c := s.Map.Concepts[parent]
	if c == nil {
		return v, cm.Refusef("That concept is no longer on the map.")
	}
	was := s.Structure.Places[c.ID].Children
	order, err := layout.Sorted(s.Map, scene.Measurer{}, c.ID, was, way)
	if err != nil {
		return v, err
	}
	v = SiblingOrder{Parent: c.ID, Words: s.Map.Words(c.Label), Way: way}
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
func narrowed(all []Sentence, seek, which, sort string) []Sentence {
	all = slices.DeleteFunc(all, func(s Sentence) bool {
		switch which {
		case "cross":
			if !s.Cross {
				return true
			}
		case "open":
			if !s.Open {
				return true
			}
		case "not-judged":
			if s.Open || s.Verdict != "" && !s.Stale {
				return true
			}
		default:
			if cm.Verdict(which).Valid() && (s.Stale || s.Verdict != cm.Verdict(which)) {
				return true
			}
		}
		return seek != "" && !likeness.Holds(s.Noun1+" "+s.Verb+" "+s.Noun2, seek)
	})
	key := func(s Sentence) string {
		switch sort {
		case "from":
			return s.Noun1
		case "phrase":
			return s.Verb
		case "to":
			return s.Noun2
		case "verdict": // what does not hold first, what nobody judged last
			at := slices.Index([]cm.Verdict{cm.HoldsNot, cm.HoldsInPart, cm.NotSure, cm.Holds}, s.Verdict)
			if at < 0 || s.Stale {
				at = 8
			}
			return strconv.Itoa(at)
		}
		return ""
	}
	slices.SortStableFunc(all, func(a, b Sentence) int { return strings.Compare(likeness.Fold(key(a)), likeness.Fold(key(b))) })
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

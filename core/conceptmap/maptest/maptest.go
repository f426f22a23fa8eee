// Package maptest makes maps and operations for tests and benchmarks.
package maptest

import (
	"encoding/json"
	"flag"
	"fmt"
	"strconv"

	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
)

// The ordinary run draws the same cases each time, so that a change is judged
// and not luck; `make soak` draws new ones, and many more.
func init() {
	if flag.Lookup("rapid.seed") != nil {
		_ = flag.Set("rapid.seed", "20261123") // the flag takes any number
	}
}

// Cases has the ordinary run draw only n cases for each property of a package whose
// cases take long; `make soak` draws as many as it says.
func Cases(n int) bool {
	return flag.Set("rapid.checks", strconv.Itoa(n)) == nil
}

// Thorough tells whether more is to be tried than in an ordinary run.
func Thorough() bool {
	checks := flag.Lookup("rapid.checks")
	n, err := strconv.Atoi(checks.Value.String())
	return err == nil && n > 100
}

var words = []string{"bell", "Glocke", "hum tone", "ton d’été", "λόγος", "звук", "جرس", "钟声", "", "strike <b>", "a & b"}

// Author draws operations as one author of a map would perform them. Names
// are counted, so that two authors with different names never collide.
type Author struct {
	Name         string
	AdditiveOnly bool // speaks as one who works with the plain hand
	made         int
}

func (a *Author) id(kind string) cm.ID {
	a.made++
	return cm.ID(fmt.Sprintf("%s%s%04d", kind, a.Name, a.made))
}

func pick[V any](t *rapid.T, all map[cm.ID]V) cm.ID {
	ids := cm.SortedIDs(all)
	if len(ids) == 0 {
		return "nobody"
	}
	return ids[rapid.IntRange(0, len(ids)-1).Draw(t, "which")]
}

func (a *Author) ends(t *rapid.T, m *cm.Map) []cm.End {
	var ends []cm.End
	for range rapid.IntRange(1, 3).Draw(t, "ends") {
		ends = append(ends, cm.End{ID: a.id("e"), Concept: pick(t, m.Concepts)})
	}
	return ends
}

func anyEnd(t *rapid.T, m *cm.Map, link cm.ID) cm.End {
	l := m.Links[link]
	if l == nil {
		return cm.End{ID: "none"}
	}
	ends := l.Ends()
	return ends[rapid.IntRange(0, len(ends)-1).Draw(t, "end")]
}

// Operation draws one operation; many, not all, can be done on the map.
func (a *Author) Operation(t *rapid.T, m *cm.Map) edit.Operation {
	op := a.operation(t, m)
	edit.Sign([]edit.Operation{op}, edit.Speaker{ID: cm.ID("p" + a.Name), At: fmt.Sprintf("2026-11-27T08:%02d:%02d.%03dZ", a.made/60%60, a.made%60, a.made%1000), AdditiveOnly: a.AdditiveOnly})
	return op
}

func (a *Author) operation(t *rapid.T, m *cm.Map) edit.Operation {
	word := func() string { return rapid.SampledFrom(words).Draw(t, "words") }
	point := func() cm.Point {
		return cm.Point{X: float64(rapid.IntRange(-900, 900).Draw(t, "x")), Y: float64(rapid.IntRange(-900, 900).Draw(t, "y")) / 4}
	}
	lang := rapid.SampledFrom([]cm.Lang{"", "en", "de", "pt-BR"}).Draw(t, "lang")
	concept, link := pick(t, m.Concepts), pick(t, m.Links)
	switch rapid.IntRange(0, 38).Draw(t, "do") {
	case 0, 1, 2, 3:
		return &edit.AddConcept{ID: a.id("c"), Lang: lang, Label: word(), At: point()}
	case 4, 5, 6, 7:
		return &edit.AddLink{ID: a.id("l"), From: a.ends(t, m), To: a.ends(t, m), Lang: lang, Phrase: word(),
			Heads: rapid.SampledFrom([]cm.Heads{"", cm.HeadsOne, cm.HeadsBoth, cm.HeadsNone}).Draw(t, "heads")}
	case 8:
		return &edit.NameConcept{Concept: concept, Lang: lang, Label: word()}
	case 9:
		return &edit.Move{Places: map[cm.ID]cm.Point{concept: point()}}
	case 10:
		return &edit.Remove{Concepts: []cm.ID{concept}}
	case 11:
		return &edit.Remove{Links: []cm.ID{link}}
	case 12:
		return &edit.MergeConcepts{Keep: concept, Gone: pick(t, m.Concepts)}
	case 13:
		return &edit.RankConcept{Concept: concept, After: rapid.SampledFrom([]cm.ID{"", pick(t, m.Concepts)}).Draw(t, "after")}
	case 14:
		if rapid.Bool().Draw(t, "step") {
			if rapid.Bool().Draw(t, "level") {
				return &edit.ShiftLevel{Concept: concept, Way: rapid.SampledFrom([]edit.Way{edit.WayUp, edit.WayDown}).Draw(t, "way"), Link: a.id("l"), Own: a.id("e"), Parent: a.id("e")}
			}
			if rapid.Bool().Draw(t, "hang") {
				return &edit.Reparent{Concept: concept, Below: pick(t, m.Concepts), Link: a.id("l"), Own: a.id("e"), Parent: a.id("e")}
			}
			if c := m.Concepts[concept]; rapid.Bool().Draw(t, "order") && m.Parent(c) != "" {
				return &edit.SetOrder{Parent: m.Parent(c), Order: []cm.ID{concept}}
			}
			return &edit.StepRank{Concept: concept, Step: rapid.IntRange(-2, 2).Draw(t, "by")}
		}
		return &edit.SetFocus{Concept: concept}
	case 15:
		if l := m.Links[link]; l != nil {
			all := l.Strands()
			s := all[rapid.IntRange(0, len(all)-1).Draw(t, "strand")]
			from, to, _ := m.Between(s)
			return &edit.SetMain{Concept: rapid.SampledFrom([]cm.ID{from, to}).Draw(t, "of"), Strand: s}
		}
		return &edit.SetMain{Concept: concept}
	case 16:
		return &edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: concept}, Lang: lang, Note: word()}
	case 17:
		if rapid.Bool().Draw(t, "say") {
			term := func() edit.Term { return edit.Term{Words: word(), Concept: a.id("c"), End: a.id("e")} }
			return &edit.AddProposition{Link: a.id("l"), From: []edit.Term{term()}, Phrase: word(), To: []edit.Term{term(), term()}, At: point()}
		}
		if rapid.Bool().Draw(t, "jot") {
			return &edit.AddIdea{Concept: a.id("c"), Words: word(), At: point(), Under: rapid.SampledFrom([]cm.ID{"", concept}).Draw(t, "under"), Link: a.id("l"), Own: a.id("e"), Above: a.id("e")}
		}
		if rapid.Bool().Draw(t, "sibling") {
			phrase := word()
			if l := m.Links[link]; l != nil && rapid.Bool().Draw(t, "theirs") {
				phrase = m.Words(l.Phrase)
			}
			return &edit.AddSibling{Concept: a.id("c"), Label: word(), Phrase: phrase, Beside: concept, Link: a.id("l"), Own: a.id("e"), Above: a.id("e")}
		}
		if rapid.Bool().Draw(t, "duplicate") {
			op := &edit.Duplicate{Concepts: []cm.ID{concept}, As: map[cm.ID]cm.ID{concept: a.id("c")}, By: point()}
			for _, id := range cm.SortedIDs(m.Concepts) {
				if op.As[id] == "" && rapid.Bool().Draw(t, "also") {
					op.Concepts, op.As[id] = append(op.Concepts, id), a.id("c")
				}
			}
			for _, id := range cm.SortedIDs(m.Links) {
				op.As[id] = a.id("l")
			}
			if rapid.Bool().Draw(t, "as a part") {
				return a.pasted(t, m, op)
			}
			return op
		}
		return &edit.NameLink{Link: link, Lang: lang, Phrase: word()}
	case 18:
		return &edit.SetHeads{Link: link, Heads: rapid.SampledFrom([]cm.Heads{cm.HeadsOne, cm.HeadsBoth, cm.HeadsNone}).Draw(t, "heads")}
	case 19:
		return &edit.ReverseLink{Link: link}
	case 20:
		return &edit.AddEnd{Link: link, Side: rapid.SampledFrom([]cm.Side{cm.SideFrom, cm.SideTo}).Draw(t, "side"), End: cm.End{ID: a.id("e"), Concept: concept}}
	case 21:
		if rapid.Bool().Draw(t, "split") {
			return &edit.SplitEnd{Link: link, End: anyEnd(t, m, link).ID, New: a.id("l")}
		}
		return &edit.RemoveEnd{Link: link, End: anyEnd(t, m, link).ID}
	case 22:
		return &edit.MoveEnd{Link: link, Old: anyEnd(t, m, link).ID, End: cm.End{ID: a.id("e"), Concept: concept}}
	case 23:
		return rapid.SampledFrom([]edit.Operation{&edit.NameMap{Lang: lang, Title: word()}, &edit.Ask{Lang: lang, Question: word()}, &edit.SetLanguage{Language: "de"},
			&edit.KeepApart{A: concept, B: pick(t, m.Concepts), Apart: rapid.Bool().Draw(t, "apart")},
			&edit.SetJudging{Open: rapid.Bool().Draw(t, "open")},
			&edit.SetRule{Rule: rapid.SampledFrom([]string{"loose-idea", "open-link"}).Draw(t, "rule"), On: rapid.Bool().Draw(t, "on")}}).Draw(t, "map")
	case 24:
		return rapid.SampledFrom([]edit.Operation{&edit.AddRoute{ID: a.id("r"), Title: word()}, planned(t, m, word()), rehearsed(t, a, m, word()), &edit.NameRoute{Route: pick(t, m.Routes), Title: word()}, &edit.RemoveRoute{Route: pick(t, m.Routes)}}).Draw(t, "route")
	case 26, 27:
		return a.joining(t, m, concept, link, word(), point())
	case 34, 35:
		return a.meaning(t, m, concept, lang, word())
	case 36, 37, 38:
		return a.talk(t, m, concept, link, lang, word())
	case 33:
		return a.kinds(t, m, concept, lang, word())
	case 28, 29:
		return a.leading(t, m, concept, link, point())
	case 25:
		return &edit.AddStop{ID: a.id("s"), Route: pick(t, m.Routes), Refs: []cm.Key{{Kind: cm.EntityConcept, ID: concept}}}
	default:
		stop := pick(t, m.Stops)
		return rapid.SampledFrom([]edit.Operation{
			&edit.WriteStop{Stop: stop, Part: "card", Words: word()},
			&edit.MoveStop{Stop: stop, After: pick(t, m.Stops)}, &edit.RemoveStop{Stop: stop},
			&edit.ShowAtStop{Stop: stop, Refs: []cm.Key{{Kind: cm.EntityConcept, ID: concept}, {Kind: cm.EntityLink, ID: link}}},
		}).Draw(t, "stop")
	}
}

// joining draws operations that make one of two, or two of one.
func (a *Author) joining(t *rapid.T, m *cm.Map, concept, link cm.ID, words string, at cm.Point) edit.Operation {
	switch rapid.IntRange(0, 3).Draw(t, "join") {
	case 0:
		gone := pick(t, m.Links)
		if alike := m.Alike(link); len(alike) > 0 {
			gone = alike[0]
		}
		return &edit.MergeLinks{Keep: link, Gone: gone}
	case 1:
		return &edit.SecondLink{Link: link, New: a.id("l")}
	case 2:
		return &edit.InsertConcept{Link: link, End: anyEnd(t, m, link).ID, Concept: a.id("c"), Label: words, At: at, Into: a.id("e"), New: a.id("l"), NewFrom: a.id("e"), NewTo: a.id("e")}
	}
	split := &edit.SplitConcept{Concept: concept, New: a.id("c"), Label: words, At: at}
	for _, id := range cm.SortedIDs(m.Links) {
		for _, e := range m.Links[id].Ends() {
			if e.Concept == concept && rapid.Bool().Draw(t, "goes") {
				split.Ends = append(split.Ends, edit.EndAt{Link: id, End: e.ID})
			}
		}
	}
	return split
}

// leading draws operations on how things look and where lines run.
func (a *Author) leading(t *rapid.T, m *cm.Map, concept, link cm.ID, at cm.Point) edit.Operation {
	size, bold, width := rapid.IntRange(-2, 4).Draw(t, "size"), rapid.Bool().Draw(t, "bold"), float64(rapid.IntRange(40, 300).Draw(t, "width"))
	align := rapid.SampledFrom([]cm.Align{cm.AlignCentre, cm.AlignLeft, cm.AlignRight}).Draw(t, "align")
	return rapid.SampledFrom([]edit.Operation{
		&edit.SetType{Concepts: []cm.ID{concept}, Size: &size, Bold: &bold, Width: &width, Align: &align},
		a.source(t, m, concept, pick(t, m.Links)),
		&edit.SetLine{Links: []cm.ID{link}, Line: rapid.SampledFrom([]cm.Line{cm.LineStraight, cm.LineCurved, cm.LineStepped}).Draw(t, "line")},
		&edit.Bend{Link: link, End: anyEnd(t, m, link).ID, Bends: []cm.Point{at, {X: at.Y, Y: at.X}}},
		&edit.PlacePhrase{Link: link, Along: 0.25, Hub: &at}, &edit.FreeLines{Links: []cm.ID{link}},
		&edit.Shift{Concepts: cm.SortedIDs(m.Concepts), By: cm.Point{X: 24, Y: -8}},
		&edit.SetOpening{Tucked: []cm.ID{concept}},
		&edit.Pin{Concepts: []cm.ID{concept}, On: bold}, &edit.KeepTidy{On: bold, Freely: &bold}, &edit.KeepOrder{Concepts: []cm.ID{concept}, On: bold}, &edit.Stretch{Concept: concept, By: 1.5},
		&edit.Tidy{Pattern: rapid.SampledFrom(cm.Patterns).Draw(t, "pattern"), Branch: rapid.SampledFrom([]cm.ID{"", concept}).Draw(t, "branch"), Freely: bold},
		&edit.SetWhen{Concept: concept, When: rapid.SampledFrom([]string{"", "1762", "-40.5", "2026-11", "1760/2026-11-24"}).Draw(t, "when")},
		&edit.LineUp{Concepts: cm.SortedIDs(m.Concepts), Way: edit.LineUpLeft}, &edit.MakeRoom{Concepts: []cm.ID{concept}},
	}).Draw(t, "lead")
}

// Map draws a map by random operations.
func Map(t *rapid.T, most int) *cm.Map {
	m := cm.NewMap("m", "en")
	a := &Author{Name: "z"}
	for range rapid.IntRange(0, most).Draw(t, "operations") {
		if out, err := edit.Apply(m, []edit.Operation{a.Operation(t, m)}, nil); err == nil {
			m = out.Map
		}
	}
	return m
}

// pasted makes what puts down as a part what is to be copied.
func (a *Author) pasted(t *rapid.T, m *cm.Map, op *edit.Duplicate) edit.Operation {
	part, err := edit.Part(m, op.Concepts)
	if err != nil {
		return op
	}
	written, err := document.Write(part)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := json.Marshal(json.RawMessage(written)) // as it travels
	if err != nil {
		t.Fatal(err)
	}
	for id := range part.Kinds {
		op.As[id] = a.id("k")
	}
	for id := range part.Tags {
		op.As[id] = a.id("t")
	}
	return &edit.Paste{Document: raw, As: op.As, By: op.By}
}

// Large makes the operations of a map of n concepts and 1.5 n links in a grid:
// a tree with four children to each concept, and further links beside it.
func Large(n int) []edit.Operation {
	var ops []edit.Operation
	id := func(kind string, i int) cm.ID { return cm.ID(fmt.Sprintf("%s%05d", kind, i)) }
	columns := 1
	for columns*columns < n {
		columns++
	}
	for i := range n {
		ops = append(ops, &edit.AddConcept{ID: id("c", i), Label: fmt.Sprintf("%s %d", words[i%7], i),
			At: cm.Point{X: float64(i%columns) * 240, Y: float64(i/columns) * 150}})
	}
	if n > 0 {
		ops = append(ops, &edit.SetFocus{Concept: id("c", 0)})
	}
	for i := 1; i < n+n/2; i++ {
		from, to := (i-1)/4, i
		if i >= n {
			from, to = (i*7)%n, (i*13+5)%n
			if from == to {
				to = (to + 1) % n
			}
		}
		ops = append(ops, &edit.AddLink{ID: id("l", i), Phrase: "leads to", From: []cm.End{{ID: id("e", 2*i), Concept: id("c", from)}},
			To: []cm.End{{ID: id("e", 2*i+1), Concept: id("c", to)}}})
	}
	return ops
}

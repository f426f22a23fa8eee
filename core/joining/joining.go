// Package joining finds concepts that no link joins and that may have something to say of each
// other.
package joining

import (
	"cmp"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/language"
	"mevrin/core/structure"
	"mevrin/core/work"
)

// Why is a sort of reason for which two concepts may deserve a link.
type Why string

// The reasons.
const (
	SameNeighbour Why = "neighbour" // both are linked with a third
	SameWord      Why = "word"      // their labels have a word in common
	SameNoteWord  Why = "note"      // their notes have
	Mentioned     Why = "mention"   // the note of one names the other
	SameTag       Why = "tag"
	SameSource    Why = "source"
)

// weights say how much each reason counts. A thing that many share says less of each (Adamic and
// Adar, Friends and neighbors on the web, Social Networks 25, 2003).
var weights = map[Why]float64{SameNeighbour: 1, SameWord: 1.5, SameNoteWord: 0.4, Mentioned: 2.5, SameTag: 0.6, SameSource: 1.2}

// Reason is why two concepts may deserve a link, and what they share: concepts by their ids, tags
// by theirs, words and sources as they are.
type Reason struct {
	Why   Why
	Share string
}

// Pair are two concepts, the first that which the map reads first.
type Pair struct {
	A, B    cm.ID
	Score   float64
	Reasons []Reason // the weightiest first
}

// MaxPairs bounds the pairs that are found, the best of them; maxShared bounds by how many
// concepts a thing may be shared to tell anything.
const (
	MaxPairs  = 300
	maxShared = 40
)

// Pairs gives the pairs that may deserve a link, the likeliest first: linked by nothing, not said
// to stay apart, and with a reason.
func Pairs(m *cm.Map, s *structure.Structure, limit *work.Limit) []Pair {
	f := finder{m: m, at: map[cm.ID]int{}, linked: map[[2]int]bool{}, pairs: map[[2]int]*Pair{}, ids: s.Order, limit: limit}
	for i, id := range s.Order {
		f.at[id] = i
	}
	f.apart(s)
	f.shared(SameNeighbour, f.neighbours(s))
	f.words()
	f.shared(SameTag, f.each(func(c *cm.Concept) (all []string) {
		for _, id := range cm.SortedIDs(c.Tags) {
			all = append(all, string(id))
		}
		return all
	}))
	f.shared(SameSource, f.each(func(c *cm.Concept) (all []string) {
		for _, id := range cm.SortedIDs(c.Sources) {
			if name := sourceName(c.Sources[id]); name != "" && !slices.Contains(all, name) {
				all = append(all, name)
			}
		}
		return all
	}))
	all := make([]Pair, 0, len(f.pairs))
	for _, p := range f.pairs {
		slices.SortStableFunc(p.Reasons, func(a, b Reason) int {
			return cmp.Or(cmp.Compare(weights[b.Why], weights[a.Why]), cmp.Compare(a.Share, b.Share))
		})
		all = append(all, *p)
	}
	slices.SortFunc(all, func(a, b Pair) int {
		return cmp.Or(cmp.Compare(b.Score, a.Score), cmp.Compare(f.at[a.A], f.at[b.A]), cmp.Compare(f.at[a.B], f.at[b.B]))
	})
	return all[:min(len(all), MaxPairs)]
}

type finder struct {
	m      *cm.Map
	ids    []cm.ID
	at     map[cm.ID]int
	linked map[[2]int]bool // and what is to stay apart
	pairs  map[[2]int]*Pair
	limit  *work.Limit
}

// apart notes what is linked, by whatever phrase, and what is to stay apart.
func (f *finder) apart(s *structure.Structure) {
	for _, p := range s.Propositions() {
		a, b := f.at[p.Subject], f.at[p.Object]
		f.linked[[2]int{min(a, b), max(a, b)}] = true
	}
	for a, id := range f.ids {
		for other := range f.m.Concepts[id].Apart {
			if b, known := f.at[other]; known {
				f.linked[[2]int{min(a, b), max(a, b)}] = true
			}
		}
	}
}

// each gathers what concepts have, by what it is.
func (f *finder) each(has func(c *cm.Concept) []string) map[string][]int {
	of := map[string][]int{}
	for i, id := range f.ids {
		for _, one := range has(f.m.Concepts[id]) {
			of[one] = append(of[one], i)
		}
	}
	return of
}

func (f *finder) neighbours(s *structure.Structure) map[string][]int {
	of := map[string][]int{}
	add := func(into map[string][]int, a cm.ID, b int) {
		if !slices.Contains(into[string(a)], b) {
			into[string(a)] = append(into[string(a)], b)
		}
	}
	for _, p := range s.Propositions() {
		add(of, p.Subject, f.at[p.Object])
		add(of, p.Object, f.at[p.Subject])
	}
	return of
}

// shared counts what concepts have in common.
func (f *finder) shared(why Why, of map[string][]int) {
	names := make([]string, 0, len(of))
	for name := range of {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		who := of[name]
		if len(who) < 2 || len(who) > maxShared {
			continue
		}
		slices.Sort(who)
		f.limit.TickBy(len(who))
		for i, a := range who {
			for _, b := range who[i+1:] {
				f.note(a, b, Reason{why, name}, weights[why]/math.Log(1+float64(len(who))))
			}
		}
	}
}

func (f *finder) note(a, b int, r Reason, score float64) {
	key := [2]int{min(a, b), max(a, b)}
	if a == b || f.linked[key] {
		return
	}
	p := f.pairs[key]
	if p == nil {
		p = &Pair{A: f.ids[key[0]], B: f.ids[key[1]]}
		f.pairs[key] = p
	}
	p.Score += score
	p.Reasons = append(p.Reasons, r)
}

// words counts words that labels and notes have in common, and notes that name a concept.
func (f *finder) words() {
	tongue := language.Of(string(f.m.Language))
	if tongue == nil {
		return
	}
	labels, notes := map[string][]int{}, map[string][]int{}
	spoken := map[string]string{} // a stem as it was first written
	var noted [][]string
	for i, id := range f.ids {
		c := f.m.Concepts[id]
		note := tongue.Telling(f.m.Words(c.Note))
		noted = append(noted, nil)
		for _, w := range tongue.Telling(f.m.Words(c.Label)) {
			if at := labels[w.Stem]; len(at) == 0 || at[len(at)-1] != i {
				labels[w.Stem] = append(at, i)
			}
			if spoken[w.Stem] == "" {
				spoken[w.Stem] = w.Written
			}
		}
		for _, w := range note {
			noted[i] = append(noted[i], w.Stem)
			if at := notes[w.Stem]; len(at) == 0 || at[len(at)-1] != i {
				notes[w.Stem] = append(at, i)
			}
			if spoken[w.Stem] == "" {
				spoken[w.Stem] = w.Written
			}
		}
	}
	named := func(of map[string][]int) map[string][]int {
		all := map[string][]int{}
		for stem, who := range of {
			all[spoken[stem]] = append(all[spoken[stem]], who...)
		}
		return all
	}
	f.shared(SameWord, named(labels))
	f.shared(SameNoteWord, named(notes))
	for i, id := range f.ids {
		label := tongue.Telling(f.m.Words(f.m.Concepts[id].Label))
		if len(label) == 0 {
			continue
		}
		// The concept is named where all its words stand in a note of another.
		for _, b := range notes[label[0].Stem] {
			f.limit.Tick()
			if !slices.ContainsFunc(label, func(w language.Word) bool { return !slices.Contains(noted[b], w.Stem) }) {
				f.note(i, b, Reason{Mentioned, string(id)}, weights[Mentioned])
			}
		}
	}
}

// sourceName names a source as others may name it, too.
func sourceName(s cm.Source) string {
	if s.File != nil {
		return s.File.Hash
	}
	return cmp.Or(s.URL, s.Title)
}

// Package judging compares what several people, each for themselves, judged of one map.
package judging

import (
	"cmp"
	"math"
	"slices"

	"mevrin/core/agree"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// Rater is somebody who judged propositions of a map.
type Rater struct {
	ID     cm.ID
	Name   string // what they call themselves; empty where they said nothing
	Judged int    // how many of its propositions, as they read now
}

// Row is one proposition and what was said of it.
type Row struct {
	structure.Proposition
	Of cm.Proposed
	// Said holds what each rater said, in their order; nil where one said nothing. What was said
	// of other words than stand there now is Stale and does not count.
	Said    []*cm.Judgement
	Settled *cm.Judgement // what is held after all were heard
	// Apart is how far they disagree: the mean distance of two verdicts as they count, from 0
	// where all say the same to 1.
	Apart float64
}

// Comparison is a table of raters and propositions.
type Comparison struct {
	Raters []Rater // in the order in which they began
	Rows   []Row   // in the order in which the map is read
}

// amounts say what the verdicts stand for on the ordered scale, as docs/figures.md has them.
var amounts = map[cm.Verdict]float64{cm.HoldsNot: 0, cm.HoldsInPart: 1, cm.Holds: 2}

// besideTheOrder is how far “not sure” is from any other verdict, of the scale's 2.
const besideTheOrder = 1

// Compare gathers what all said of the propositions of a map.
func Compare(m *cm.Map, s *structure.Structure) Comparison {
	var c Comparison
	at := map[cm.ID]int{}
	for _, p := range s.Propositions() {
		if !p.Open {
			c.Rows = append(c.Rows, Row{Proposition: p, Of: cm.Proposed{Strand: p.Strand, Against: p.Against}})
		}
	}
	judged := m.Judged()
	first := map[cm.ID]string{}
	for _, all := range judged {
		for _, j := range all {
			if !j.Settled && (first[j.By] == "" || j.At < first[j.By]) {
				first[j.By] = j.At
			}
		}
	}
	for id := range first {
		c.Raters = append(c.Raters, Rater{ID: id})
	}
	slices.SortFunc(c.Raters, func(a, b Rater) int {
		return cmp.Or(cmp.Compare(first[a.ID], first[b.ID]), cmp.Compare(a.ID, b.ID))
	})
	named := map[cm.ID]string{} // when each said how they are called
	for i, r := range c.Raters {
		at[r.ID] = i
	}
	for i := range c.Rows {
		row := &c.Rows[i]
		row.Said = make([]*cm.Judgement, len(c.Raters))
		for _, j := range judged[row.Of] {
			if j.Settled {
				row.Settled = j
				continue
			}
			r := &c.Raters[at[j.By]]
			row.Said[at[j.By]] = j
			if !j.Stale(m) {
				r.Judged++
			}
			if j.Name != "" && j.At >= named[j.By] {
				r.Name, named[j.By] = j.Name, j.At
			}
		}
		row.Apart = row.apart(m)
	}
	return c
}

func (r *Row) apart(m *cm.Map) float64 {
	var said []cm.Verdict
	for _, j := range r.Said {
		if j != nil && !j.Stale(m) {
			said = append(said, j.Verdict)
		}
	}
	sum, pairs := 0.0, 0
	for i, a := range said {
		for _, b := range said[:i] {
			x, sure := amounts[a]
			y, alsoSure := amounts[b]
			switch {
			case a == b:
			case !sure || !alsoSure:
				sum += besideTheOrder
			default:
				sum += max(x-y, y-x)
			}
			pairs++
		}
	}
	if pairs == 0 {
		return 0
	}
	return sum / float64(pairs) / amounts[cm.Holds]
}

// Disputed lists the rows by how far raters disagree, those that are settled behind the others;
// rows alike stay in reading order.
func (c Comparison) Disputed() []Row {
	rows := slices.Clone(c.Rows)
	slices.SortStableFunc(rows, func(a, b Row) int {
		return cmp.Or(cmp.Compare(b2i(a.Settled != nil), b2i(b.Settled != nil)), cmp.Compare(b.Apart, a.Apart))
	})
	return rows
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Done tells that several raters judged, each of them every proposition.
func (c Comparison) Done() bool {
	return len(c.Raters) > 1 && !slices.ContainsFunc(c.Raters, func(r Rater) bool { return r.Judged < len(c.Rows) })
}

// Heard tells whether raters see what others said: at once where the map's author lets them, else
// when all are done.
func (c Comparison) Heard(m *cm.Map) bool { return m.OpenJudging || c.Done() }

// scale is the ordered scale of verdicts, “not sure” beside it where it is a value.
func scale(notSureIsAValue bool) agree.Scale {
	var s agree.Scale
	for _, v := range []cm.Verdict{cm.HoldsNot, cm.HoldsInPart, cm.Holds} {
		s.Names, s.Amounts = append(s.Names, string(v)), append(s.Amounts, amounts[v])
	}
	if notSureIsAValue {
		s.Names, s.Amounts = append(s.Names, string(cm.NotSure)), append(s.Amounts, math.NaN())
	}
	return s
}

// Table gives what was said for the figures of agreement, on the ordered scale of verdicts.
// “Not sure” is missing, or a value of its own.
func (c Comparison) Table(m *cm.Map, notSureIsAValue bool) agree.Table {
	t := agree.Table{Scale: scale(notSureIsAValue)}
	for _, r := range c.Raters {
		t.Raters = append(t.Raters, string(r.ID))
	}
	for _, row := range c.Rows {
		t.Units = append(t.Units, string(row.Of.Link)+"/"+string(row.Of.From)+"/"+string(row.Of.To))
		said := make([]int, len(c.Raters))
		for i, j := range row.Said {
			said[i] = agree.Missing
			if j != nil && !j.Stale(m) {
				said[i] = slices.Index(t.Scale.Names, string(j.Verdict))
			}
		}
		t.Said = append(t.Said, said)
	}
	return t
}

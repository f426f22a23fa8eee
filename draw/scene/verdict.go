package scene

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// VerdictAt is a teacher's mark on a proposition: beside the phrase, or where a phrase has several
// ends on the line of its own.
type VerdictAt struct {
	End     cm.ID // whose line it stands on; empty beside the phrase
	Verdict cm.Verdict
	Stale   bool // it was of other words
}

// judgements knows which mark each proposition carries.
type judgements map[cm.ID][]judgedStrand

type judgedStrand struct {
	p cm.Proposed
	VerdictAt
}

// judgementsOf gathers the marks of a map: what was settled, or else what its own people said
// last.
func judgementsOf(m *cm.Map) judgements {
	if len(m.Judgements) == 0 {
		return nil
	}
	of := judgements{}
	for p, all := range m.Judged() {
		if shown := cm.Shown(all); shown != nil {
			of[p.Link] = append(of[p.Link], judgedStrand{p, VerdictAt{Verdict: shown.Verdict, Stale: shown.Stale(m)}})
		}
	}
	return of
}

// on gives the marks of a link, in the order of its ends.
func (j judgements) on(l *cm.Link) []VerdictAt {
	all := j[l.ID]
	if len(all) == 0 {
		return nil
	}
	var marks []VerdictAt
	for _, e := range l.Ends() {
		for _, one := range all {
			switch {
			case len(l.From) == 1 && len(l.To) == 1:
				if e.ID == one.p.From && !one.p.Against {
					marks = append(marks, one.VerdictAt)
				}
			case len(l.To) > 1 && e.ID == one.p.To, len(l.To) == 1 && e.ID == one.p.From:
				one.End = e.ID
				if !slices.ContainsFunc(marks, func(m VerdictAt) bool { return m.End == e.ID }) {
					marks = append(marks, one.VerdictAt)
				}
			}
		}
	}
	return marks
}

// VerdictSize is the width and height of a mark, in pixels.
const VerdictSize = 14.0

// VerdictPlace gives the middle of a mark.
func (k *Link) VerdictPlace(v VerdictAt) Point {
	for _, leg := range k.Legs {
		if leg.End != v.End || len(leg.Path) == 0 {
			continue
		}
		n := float64(len(leg.Path))
		at, on := leg.Path.At(n*0.4), leg.Path.At(n*0.4+0.02)
		const off = 11
		dx, dy := on.X-at.X, on.Y-at.Y
		if far := distance(at, on); far > 0 {
			return Point{X: at.X + dy/far*off, Y: at.Y - dx/far*off}
		}
		return at
	}
	return Point{X: k.Gap.X + k.Gap.W + VerdictSize/2, Y: k.Gap.Y + 2}
}

// verdictTexts say a mark to those who hear the map.
var verdictTexts = map[cm.Verdict]string{cm.Holds: "judged to hold", cm.HoldsInPart: "judged to hold in part", cm.HoldsNot: "judged not to hold", cm.NotSure: "judged: not sure"}

// Says is the mark in words.
func (v VerdictAt) Says() string {
	if v.Stale {
		return t(verdictTexts[v.Verdict]) + t(" before the words changed")
	}
	return t(verdictTexts[v.Verdict])
}

package conceptmap

import (
	"maps"
	"slices"
	"strings"
)

// Verdict is a person's word on a proposition.
type Verdict string

// The verdicts, from the one that says most for a proposition.
const (
	Holds       Verdict = "holds"
	HoldsInPart Verdict = "in-part"
	HoldsNot    Verdict = "does-not-hold"
	NotSure     Verdict = "not-sure"
)

// Verdicts lists them.
var Verdicts = []Verdict{Holds, HoldsInPart, HoldsNot, NotSure}

// Judgement is what somebody thinks of a proposition: whether it holds, and why. It belongs to
// the words that it saw.
type Judgement struct {
	ID ID `json:"id"`
	// Strand is the way through a link that the proposition reads, and Against tells that it
	// reads from the to-end to the from-end, as the second of a link with two arrowheads does.
	Strand  Strand `json:"strand"`
	Against bool   `json:"against,omitempty"`
	// By names whoever judged, in a way that tells nobody else who that is; Name is what they
	// call themselves.
	By      ID      `json:"by"`
	Name    string  `json:"called,omitempty" mevrin:"limit=speaker"`
	At      string  `json:"at" mevrin:"form=moment"`
	Verdict Verdict `json:"verdict"`
	// Points are what it is worth, from 0 to MaxPoints; nil where the verdict says that.
	Points *int   `json:"points,omitempty"`
	Reason string `json:"reason,omitempty" mevrin:"limit=comment"`
	Source string `json:"source,omitempty" mevrin:"limit=comment"` // where it can be looked up
	// Saw holds the words that stood there: subject, phrase, object.
	Saw Said `json:"saw"`
	// Settled says that this is what is held after all were heard.
	Settled bool `json:"settled,omitempty"`
}

// Said are the words of a proposition.
type Said struct {
	Subject Text `json:"subject,omitempty" mevrin:"limit=label"`
	Phrase  Text `json:"phrase,omitempty" mevrin:"limit=phrase"`
	Object  Text `json:"object,omitempty" mevrin:"limit=label"`
}

// MaxPoints is what a proposition is worth at most, as relational scoring counts (McClure and Bell,
// ERIC ED 341582, 1990).
const MaxPoints = 3

// MaxJudgements bounds the judgements on one map.
const MaxJudgements = 50_000

// Valid tells whether a verdict is one.
func (v Verdict) Valid() bool { return slices.Contains(Verdicts, v) }

// Sound tells what is wrong with a judgement as a whole.
func (j *Judgement) Sound() error {
	if !j.Verdict.Valid() || !j.Strand.Link.Valid() || !j.Strand.From.Valid() || !j.Strand.To.Valid() || !j.By.Valid() {
		return Refusef("A judgement says whether a proposition holds, and who thinks so.")
	}
	if j.Points != nil && (*j.Points < 0 || *j.Points > MaxPoints) {
		return Refusef("A sentence is worth from 0 to %d points.", MaxPoints)
	}
	return nil
}

// Proposed names a proposition: the way through a link, and in which direction it is read.
type Proposed struct {
	Strand
	Against bool
}

// Reads gives the subject and the object of a proposition; known is false where it is not on
// the map any more.
func (m *Map) Reads(p Proposed) (subject, object ID, known bool) {
	l := m.Links[p.Link]
	if l == nil {
		return "", "", false
	}
	find := func(ends []End, id ID) ID {
		if i := slices.IndexFunc(ends, func(e End) bool { return e.ID == id }); i >= 0 {
			return ends[i].Concept
		}
		return ""
	}
	subject, object = find(l.From, p.From), find(l.To, p.To)
	if p.Against {
		subject, object = object, subject
	}
	return subject, object, subject != "" && object != "" && (!p.Against || l.Heads == HeadsBoth)
}

// SaidBy gives the words of a proposition as they are now.
func (m *Map) SaidBy(p Proposed) Said {
	subject, object, known := m.Reads(p)
	if !known {
		return Said{}
	}
	return Said{maps.Clone(m.Concepts[subject].Label), maps.Clone(m.Links[p.Link].Phrase), maps.Clone(m.Concepts[object].Label)}
}

// Of names the proposition that was judged. Where its link was turned round since, it is what
// the link says now.
func (j *Judgement) Of(m *Map) Proposed {
	p := Proposed{j.Strand, j.Against}
	if l := m.Links[p.Link]; l != nil && slices.ContainsFunc(l.To, func(e End) bool { return e.ID == p.From }) {
		p.From, p.To = p.To, p.From
	}
	return p
}

// Stale tells that the words of what was judged have changed since, in a language in which they
// stood there.
func (j *Judgement) Stale(m *Map) bool {
	now := m.SaidBy(j.Of(m))
	for _, pair := range [][2]Text{{j.Saw.Subject, now.Subject}, {j.Saw.Phrase, now.Phrase}, {j.Saw.Object, now.Object}} {
		for lang, words := range pair[0] {
			if pair[1][lang] != words {
				return true
			}
		}
	}
	return false
}

// Judged gives the judgements of all propositions on the map, the settled one of each first and
// then the oldest.
func (m *Map) Judged() map[Proposed][]*Judgement {
	of := map[Proposed][]*Judgement{}
	for _, j := range InOrder(m.Judgements) {
		p := j.Of(m)
		if _, _, known := m.Reads(p); known {
			of[p] = append(of[p], j)
		}
	}
	for _, all := range of {
		slices.SortStableFunc(all, func(a, b *Judgement) int {
			switch {
			case a.Settled != b.Settled && a.Settled:
				return -1
			case a.Settled != b.Settled:
				return 1
			}
			return strings.Compare(a.At, b.At)
		})
	}
	return of
}

// Shown gives the judgement that stands for all of one proposition, as Judged gives them: what was
// settled, or else what the map's own people said last; nil where there is neither.
func Shown(all []*Judgement) (shown *Judgement) {
	for _, j := range all {
		if j.Settled {
			return j
		}
		if !Visitor(j.By) {
			shown = j
		}
	}
	return shown
}

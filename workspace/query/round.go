package query

import (
	"cmp"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/judging"
	"mevrin/core/score"
	"mevrin/core/structure"
	"mevrin/draw/display"
	"mevrin/workspace"
)

// Round is a round of checking: the propositions of a map in the order in which somebody goes
// through them.
type Round struct {
	MapID cm.ID
	Keys  []string // of all of them, in order
	At    int      // the one at which to begin: the first that nobody judged
	Judged,
	Open int // of them
	One RoundOne
}

// RoundOne is one proposition of a round.
type RoundOne struct {
	MapID cm.ID
	Sentence
	Against  bool
	Elements string // its slips and its link, on the paper
	// Mine is what the person asking said of it; nil where nothing.
	Mine  *cm.Judgement
	Stale bool // it was of other words
	Was   string
	// Others are what others said of it.
	Others []roundWord
	// Doubts are the titles of what the rules notice about it.
	Doubts []string
	// Notes are those of its two concepts and its link, Sources the names of their sources.
	Notes   []roundNote
	Sources []string
	// Besides are what else is said of the same two concepts.
	Besides  []string
	Single   bool // its link is its own: it can be turned round and removed alone
	Verdicts []roundVerdict
	// Points are those on offer; none where the map's rubric does not count them.
	Points []roundPoints
	// Judging tells that a rater judges and does no more, Settling that what is held after all
	// were heard is to be settled.
	Judging, Settling bool
}

type roundWord struct {
	Name    string
	Verdict cm.Verdict
	Reason  string
	Stale   bool
}

// Mark is the teacher's mark for it.
func (w roundWord) Mark() string { return display.VerdictMarks[w.Verdict] }

type roundNote struct{ Of, Words string }

// roundVerdict is a verdict on offer, with its key and how it is called.
type roundVerdict struct {
	Verdict cm.Verdict
	Key     string
	Title   string
	Chosen  bool
}

// roundPoints are points on offer, with the verdict that is given with them.
type roundPoints struct {
	Points  int
	Verdict cm.Verdict
	Chosen  bool
}

// Mark is the teacher's mark for it, as a path on a square of 24.
func (v roundVerdict) Mark() string { return display.VerdictMarks[v.Verdict] }

// verdicts lists what can be said of a proposition, with the keys for it.
var verdicts = []roundVerdict{{Verdict: cm.Holds, Key: "1", Title: "holds"}, {Verdict: cm.HoldsInPart, Key: "2", Title: "in part"}, {Verdict: cm.HoldsNot, Key: "3", Title: "does not hold"}, {Verdict: cm.NotSure, Key: "4", Title: "not sure"}}

// keyOf names a proposition among all of the map.
func keyOf(p cm.Proposed) string {
	key := strings.Join([]string{string(p.Link), string(p.From), string(p.To)}, "/")
	if p.Against {
		key += "/back"
	}
	return key
}

func proposed(p structure.Proposition) cm.Proposed {
	return cm.Proposed{Strand: p.Strand, Against: p.Against}
}

// The orders of a round: that in which the map is read; the doubtful first, which are those about
// which the rules notice something, those changed since they were judged, and those that were
// never judged; and those on which raters disagree and which nobody settled, to settle them.
const (
	OrderReading  = "reading"
	OrderDoubtful = "doubtful"
	OrderDisputed = "disputed"
)

// Round gives the order of a round.
func (s Reading) Round(order string, who workspace.Person) Round {
	if order == OrderDisputed && who.Alters() {
		return s.disputed()
	}
	me := who.Speaker(s.Map.ID)
	judged := s.Map.Judged()
	noticed := s.noticed()
	r := Round{MapID: s.Map.ID}
	type ranked struct {
		p    cm.Proposed
		rank int
		done bool
	}
	var all []ranked
	for _, p := range s.Structure.Propositions() {
		if p.Open {
			r.Open++
			continue
		}
		one := ranked{p: proposed(p), rank: 3}
		mine := mineOf(judged[one.p], me)
		switch {
		case len(noticed[p.Strand.Link]) > 0:
			one.rank = 0
		case mine != nil && mine.Stale(s.Map):
			one.rank = 1
		case mine == nil:
			one.rank = 2
		}
		if one.done = mine != nil && !mine.Stale(s.Map); one.done {
			r.Judged++
		}
		all = append(all, one)
	}
	if order == OrderDoubtful && who.Alters() {
		slices.SortStableFunc(all, func(a, b ranked) int { return cmp.Compare(a.rank, b.rank) })
	}
	r.At = -1
	for i, one := range all {
		r.Keys = append(r.Keys, keyOf(one.p))
		if !one.done && r.At < 0 {
			r.At = i
		}
	}
	r.At = max(r.At, 0)
	return r
}

func (s Reading) disputed() Round {
	r := Round{MapID: s.Map.ID}
	for _, row := range judging.Compare(s.Map, s.Structure).Disputed() {
		if row.Settled == nil && row.Apart > 0 {
			r.Keys = append(r.Keys, keyOf(row.Of))
		}
	}
	return r
}

// mineOf gives what one person said, settled or not, the unsettled first.
func mineOf(all []*cm.Judgement, me cm.ID) (mine *cm.Judgement) {
	for _, j := range all {
		if j.By == me && (mine == nil || mine.Settled) {
			mine = j
		}
	}
	return mine
}

func elementsOf(p structure.Proposition) string {
	return "c-" + string(p.Subject) + " l-" + string(p.Strand.Link) + " c-" + string(p.Object)
}

// noticed gives the titles of what the rules notice, by the links that are concerned first.
func (s Reading) noticed() map[cm.ID][]string {
	of := map[cm.ID][]string{}
	for _, f := range s.Findings(s.Rules) {
		for _, p := range f.Places {
			if len(p.Keys) > 0 && p.Keys[0].Kind == cm.EntityLink && !slices.Contains(of[p.Keys[0].ID], f.Rule.Title) {
				of[p.Keys[0].ID] = append(of[p.Keys[0].ID], f.Rule.Title)
			}
		}
	}
	return of
}

// RoundOne gives one proposition by its key, or by that which it had before its link was turned
// round; known is false where it is no longer there.
func (s Reading) RoundOne(key, order string, who workspace.Person) (one RoundOne, known bool) {
	for _, p := range s.Structure.Propositions() {
		q := proposed(p)
		was := q
		was.From, was.To = q.To, q.From
		if keyOf(q) == key || keyOf(was) == key {
			return s.roundOne(p, q, order, who), true
		}
	}
	return one, false
}

func (s Reading) roundOne(p structure.Proposition, q cm.Proposed, order string, who workspace.Person) RoundOne {
	l := s.Map.Links[p.Strand.Link]
	one := RoundOne{MapID: s.Map.ID, Sentence: s.sentenceOf(p), Against: p.Against, Elements: elementsOf(p), Single: len(l.From) == 1 && len(l.To) == 1,
		Judging: !who.Alters(), Settling: order == OrderDisputed && who.Alters()}
	if !one.Judging { // raters think for themselves
		one.Doubts = s.noticed()[l.ID]
	}
	one.FromEnd, one.ToEnd = q.From, q.To
	all, me := s.Map.Judged()[q], who.Speaker(s.Map.ID)
	if one.Mine = mineOf(all, me); one.Mine != nil {
		if one.Stale = one.Mine.Stale(s.Map); one.Stale {
			saw := one.Mine.Saw
			one.Was = s.Map.Words(saw.Subject) + " " + s.Map.Words(saw.Phrase) + " " + s.Map.Words(saw.Object)
		}
	}
	compared := judging.Compare(s.Map, s.Structure)
	if one.Settling {
		one.Mine, one.Stale = nil, false
		if at := slices.IndexFunc(all, func(j *cm.Judgement) bool { return j.Settled }); at >= 0 {
			one.Mine = all[at]
		}
	}
	for _, v := range verdicts {
		v.Chosen = one.Mine != nil && !one.Stale && one.Mine.Verdict == v.Verdict
		one.Verdicts = append(one.Verdicts, v)
	}
	if _, counts := s.Map.Rubric.Weights[cm.EarnsPoint]; counts {
		for n := range cm.MaxPoints + 1 {
			given := roundPoints{Points: n, Verdict: score.VerdictFor(s.Map.Rubric, n)}
			if one.Mine != nil && !one.Stale {
				given.Verdict, given.Chosen = one.Mine.Verdict, one.Mine.Points != nil && *one.Mine.Points == n
			}
			one.Points = append(one.Points, given)
		}
	}
	if one.Settling || compared.Heard(s.Map) {
		names := s.namesOf(compared.Raters, who)
		for i, r := range compared.Raters {
			at := slices.IndexFunc(all, func(j *cm.Judgement) bool { return j.By == r.ID && !j.Settled })
			if at >= 0 && (r.ID != me || one.Settling) {
				one.Others = append(one.Others, roundWord{names[i], all[at].Verdict, all[at].Reason, all[at].Stale(s.Map)})
			}
		}
	}
	note := func(of string, words cm.Text, sources map[cm.ID]cm.Source) {
		if w := s.Map.Words(words); w != "" && !one.Judging { // notes are the author's own
			one.Notes = append(one.Notes, roundNote{of, w})
		}
		for _, id := range cm.SortedIDs(sources) {
			src := sources[id]
			one.Sources = append(one.Sources, cmp.Or(src.Title, src.URL, s.t("a source")))
		}
	}
	subject, object := s.Map.Concepts[p.Subject], s.Map.Concepts[p.Object]
	note(one.Noun1, subject.Note, subject.Sources)
	note(one.Verb, l.Note, l.Sources)
	note(one.Noun2, object.Note, object.Sources)
	for _, o := range s.Structure.Propositions() {
		if !o.Open && o.Strand != p.Strand && (o.Subject == p.Subject && o.Object == p.Object || o.Subject == p.Object && o.Object == p.Subject) {
			said := s.sentenceOf(o)
			one.Besides = append(one.Besides, said.Noun1+" "+said.Verb+" "+said.Noun2)
		}
	}
	return one
}

// VerdictMark is the teacher's mark for what was judged of a sentence, as a path on a square of 24;
// empty where nobody judged it.
func (s Sentence) VerdictMark() string { return display.VerdictMarks[s.Verdict] }

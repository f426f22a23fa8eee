package edit

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
)

// Judge says whether a proposition holds, in the name of whoever speaks. Each has one word on
// each proposition: a later one takes the place of the former. Without a verdict it is taken
// back. Settled says what is held after all were heard; that is for the map's own people.
type Judge struct {
	spoken
	ID      cm.ID      `json:"id"`
	Strand  cm.Strand  `json:"strand"`
	Against bool       `json:"against,omitempty"`
	Verdict cm.Verdict `json:"verdict,omitempty"`
	Points  *int       `json:"points,omitempty"`
	Reason  string     `json:"reason,omitempty"`
	Source  string     `json:"source,omitempty"`
	Name    string     `json:"name,omitempty"`
	Settled bool       `json:"settled,omitempty"`
}

func (op *Judge) apply(d *editing) error {
	if !op.speaker.ID.Valid() || !cm.SoundMoment(op.speaker.At) {
		return errUnsigned
	}
	if op.Settled && op.speaker.AdditiveOnly {
		return cm.Refusef("What is held in the end is settled by whom the map belongs to.")
	}
	p := cm.Proposed{Strand: op.Strand, Against: op.Against}
	if _, _, known := d.Map.Reads(p); !known {
		return cm.Refusef("That sentence is no longer on the map.")
	}
	var mine *cm.Judgement
	for _, j := range d.Map.Judged()[p] {
		if j.By == op.speaker.ID && j.Settled == op.Settled {
			mine = j
		}
	}
	if op.Verdict == "" {
		if mine != nil {
			delete(d.Map.Judgements, mine.ID)
			d.Touch(cm.EntityJudgement, mine.ID)
		}
		return nil
	}
	if !op.Verdict.Valid() {
		return cm.Refusef("A sentence holds, holds in part, does not hold, or one is not sure.")
	}
	next := cm.Judgement{ID: op.ID}
	if mine != nil {
		next.ID = mine.ID
	} else if err := d.Free(op.ID); err != nil {
		return err
	} else if len(d.Map.Judgements) >= cm.MaxJudgements {
		return cm.Refusef("A map can have at most %d judgements.", cm.MaxJudgements)
	}
	var err error
	if next.Reason, err = cm.Clean(op.Reason, cm.MaxCommentWords, "A reason"); err != nil {
		return err
	}
	if next.Source, err = cm.Clean(op.Source, cm.MaxCommentWords, "A source"); err != nil {
		return err
	}
	if next.Name, err = cm.Clean(strings.Join(strings.Fields(op.Name), " "), cm.MaxName, "The name"); err != nil {
		return err
	}
	next.Strand, next.Against, next.Settled = op.Strand, op.Against, op.Settled
	next.By, next.At, next.Verdict, next.Saw = op.speaker.ID, op.speaker.At, op.Verdict, d.Map.SaidBy(p)
	next.Points = op.Points
	if err := next.Sound(); err != nil {
		return err
	}
	d.Put(&next)
	return nil
}

// SetJudging says whether those who judge see at once what others said of a proposition, or once
// all are done.
type SetJudging struct {
	Open bool `json:"open"`
}

func (op *SetJudging) apply(d *editing) error {
	d.Map.OpenJudging = op.Open
	d.TouchHeader()
	return nil
}

// DropRater takes off the map all that one rater judged; what was settled stays.
type DropRater struct {
	Rater cm.ID `json:"rater"`
}

func (op *DropRater) apply(d *editing) error {
	some := false
	for _, id := range cm.SortedIDs(d.Map.Judgements) {
		if j := d.Map.Judgements[id]; j.By == op.Rater && !j.Settled {
			delete(d.Map.Judgements, id)
			d.Touch(cm.EntityJudgement, id)
			some = true
		}
	}
	if !some {
		return cm.Refusef("Nothing of this rater is on the map.")
	}
	return nil
}

// JudgesOnly refuses what is no word of somebody's own on a proposition.
func JudgesOnly(ops []Operation) error {
	for _, op := range ops {
		if j, is := op.(*Judge); !is || j.Settled {
			return cm.Refusef("This link is for judging. Nothing was changed.")
		}
	}
	return nil
}

// ErrCommentsOnly refuses what whoever may comment may not do.
var ErrCommentsOnly = cm.Refusef("You can comment on this map and suggest changes. Nothing was changed.")

// OnlySaid tells whether changes are of what people said of a map alone: comments, judgements and votes.
func OnlySaid(changes []history.Change) bool {
	return !slices.ContainsFunc(changes, func(c history.Change) bool {
		switch {
		case c.Kind == cm.EntityComment || c.Kind == cm.EntityJudgement:
			return false
		case c.Kind != cm.EntityConcept || c.Made() || c.Gone():
			return true
		}
		for _, fields := range []history.Fields{c.Before, c.After} {
			for name := range fields {
				if name != "votes" && !strings.HasPrefix(name, "votes/") {
					return true
				}
			}
		}
		return false
	})
}

// CommentsOnly refuses what is not said of the map: it lets comments, votes and judgements pass.
func CommentsOnly(ops []Operation) error {
	for _, op := range ops {
		switch op := op.(type) {
		case *AddComment, *ChangeComment, *SettleComment, *Vote, *ForgetSpeaker:
			continue
		case *Judge:
			if !op.Settled {
				continue
			}
		}
		return ErrCommentsOnly
	}
	return nil
}

// carryJudgements lets judgements follow ends that go by another name now: merged, split off,
// led elsewhere. Where two of one person come to speak of one sentence, the later one stays.
func (d *editing) carryJudgements(was *cm.Map) {
	if len(d.Map.Judgements) == 0 || len(d.Moves) == 0 {
		return
	}
	at := func(m *cm.Map, link, end cm.ID) cm.ID { // the concept of an end
		if l := m.Links[link]; l != nil {
			ends := l.Ends()
			if i := slices.IndexFunc(ends, func(e cm.End) bool { return e.ID == end }); i >= 0 {
				return ends[i].Concept
			}
		}
		return ""
	}
	moved := false
	for _, id := range cm.SortedIDs(d.Map.Judgements) {
		j := *d.Map.Judgements[id]
		before := j.Strand
		for _, m := range d.Moves {
			if m.Kind != cm.EntityLink || m.NewLink == "" || m.OldLink != j.Strand.Link || m.Old != j.Strand.From && m.Old != j.Strand.To {
				continue
			}
			other := j.Strand.From
			if m.Old == j.Strand.From {
				other = j.Strand.To
			}
			if m.NewLink != m.OldLink { // its other end has another name there, too
				concept := at(was, m.OldLink, other)
				if l := d.Map.Links[m.NewLink]; l != nil {
					for _, e := range l.Ends() {
						if e.Concept == concept && e.ID != m.New {
							other = e.ID
						}
					}
				}
			}
			if m.Old == j.Strand.From {
				j.Strand = cm.Strand{Link: m.NewLink, From: m.New, To: other}
			} else {
				j.Strand = cm.Strand{Link: m.NewLink, From: other, To: m.New}
			}
		}
		if j.Strand != before {
			moved = true
			d.Put(&j)
		}
	}
	if moved {
		d.oneWordEach()
	}
}

// oneWordEach leaves of each person one judgement of a sentence, the latest.
func (d *editing) oneWordEach() {
	type whose struct {
		p       cm.Proposed
		by      cm.ID
		settled bool
	}
	latest := map[whose]*cm.Judgement{}
	for p, all := range d.Map.Judged() {
		for _, j := range all {
			key := whose{p, j.By, j.Settled}
			gone := j
			if o := latest[key]; o == nil || o.At <= j.At {
				gone, latest[key] = o, j
			}
			if gone != nil {
				delete(d.Map.Judgements, gone.ID)
				d.Touch(cm.EntityJudgement, gone.ID)
			}
		}
	}
}

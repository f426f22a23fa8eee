package edit

import (
	"cmp"
	cm "mevrin/core/conceptmap"
	"strings"
)

// Speaker is whoever speaks for themselves. It is told by whoever performs an
// operation, never by the operation itself, so that nobody speaks for another.
type Speaker struct {
	ID           cm.ID  // the same person's is always the same
	At           string // in MomentForm
	AdditiveOnly bool   // may take back their own words, and no one else's
	Name         string // what they are called, where that is known here; otherwise they say it themselves
}

// spoken is part of an operation by which somebody speaks for themselves.
type spoken struct{ speaker Speaker }

func (s *spoken) sign(who Speaker) { s.speaker = who }

// Sign says who speaks. Operations by which somebody speaks are refused without.
func Sign(ops []Operation, who Speaker) {
	for _, op := range ops {
		if own, ok := op.(interface{ sign(Speaker) }); ok {
			own.sign(who)
		}
	}
}

var errUnsigned = cm.Refusef("It is not known who says that. Please reload the page.")

// AddComment says something about a thing on the map, or answers a comment.
type AddComment struct {
	spoken
	ID      cm.ID  `json:"id"`
	On      cm.Key `json:"on,omitzero"`       // of one that begins a thread
	Answers cm.ID  `json:"answers,omitempty"` // of one that does not
	Name    string `json:"name,omitempty"`
	Words   string `json:"words"`
	// Asks says of one that begins a thread that it asks for help.
	Asks bool `json:"asks,omitempty"`
}

func (op *AddComment) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if !op.speaker.ID.Valid() || !cm.SoundMoment(op.speaker.At) {
		return errUnsigned
	}
	if len(d.Map.Comments) >= cm.MaxComments {
		return cm.Refusef("A map can have at most %d comments.", cm.MaxComments)
	}
	name, err := cm.Clean(strings.Join(strings.Fields(cmp.Or(op.speaker.Name, op.Name)), " "), cm.MaxName, "The name")
	if err != nil {
		return err
	}
	if cm.Visitor(op.speaker.ID) && d.Map.SpeaksHere(name) {
		return cm.Refusef("“%s” is what somebody is called who this map belongs to. Please choose another name.", name)
	}
	c := &cm.Comment{ID: op.ID, By: op.speaker.ID, Name: name, At: op.speaker.At}
	if c.Words, err = commentWords(op.Words); err != nil {
		return err
	}
	if op.Answers == "" {
		if c.On, err = d.refTo(op.On); err != nil {
			return err
		}
		c.Asks = op.Asks
	} else {
		first, err := d.comment(op.Answers)
		if err != nil {
			return err
		}
		if first.Answers != "" {
			if first, err = d.comment(first.Answers); err != nil {
				return err
			}
		}
		c.Answers = first.ID
		if first.Settled { // it is not, as it turns out
			first.Settled = false
			d.Put(first)
		}
	}
	d.Put(c)
	return nil
}

func commentWords(words string) (string, error) {
	words, err := cm.Clean(words, cm.MaxCommentWords, "A comment")
	if err == nil && words == "" {
		err = cm.Refusef("A comment needs words.")
	}
	return words, err
}

// comment gives a copy that may be altered and put.
func (d *editing) comment(id cm.ID) (*cm.Comment, error) {
	c := d.Map.Comments[id]
	if c == nil {
		return nil, cm.Refusef("That comment is gone.")
	}
	next := *c
	return &next, nil
}

// refTo gives a reference to something that is on the map.
func (d *editing) refTo(key cm.Key) (cm.Ref, error) {
	if key.Kind == cm.EntityMap && key.ID == d.Map.ID {
		return cm.Ref{Kind: cm.EntityMap}, nil // a copy of the map has another id
	}
	words, there := d.Map.WordsAt(key)
	if !there || key.Kind != cm.EntityConcept && key.Kind != cm.EntityLink && key.Kind != cm.EntityRegion {
		return cm.Ref{}, cm.Refusef("That is no longer on the map.")
	}
	return cm.Ref{Kind: key.Kind, ID: key.ID, Seen: words}, nil
}

// ChangeComment alters the words of a comment, or takes it back where they are
// empty. Whoever wrote it can; a map's author can take any comment away, but
// never change what somebody said. A comment that was answered leaves its place.
type ChangeComment struct {
	spoken
	Comment cm.ID  `json:"comment"`
	Words   string `json:"words,omitempty"`
}

func (op *ChangeComment) apply(d *editing) error {
	c, err := d.comment(op.Comment)
	if err != nil {
		return err
	}
	own := c.By == op.speaker.ID
	switch {
	case !op.speaker.ID.Valid():
		return errUnsigned
	case strings.TrimSpace(op.Words) != "":
		if !own {
			return cm.Refusef("Only whoever wrote a comment can change its words.")
		}
		if c.Words, err = commentWords(op.Words); err != nil {
			return err
		}
	case !own && op.speaker.AdditiveOnly:
		return cm.Refusef("Only whoever wrote a comment can take it back.")
	case d.answered(c.ID):
		c.Words = ""
	default:
		d.dropComment(c.ID)
		return nil
	}
	d.Put(c)
	return nil
}

func (d *editing) answered(id cm.ID) bool {
	for _, c := range d.Map.Comments {
		if c.Answers == id {
			return true
		}
	}
	return false
}

// dropComment takes a comment away, and the empty place of the first of its
// thread where that was the last answer to it.
func (d *editing) dropComment(id cm.ID) {
	first := d.Map.Comments[id].Answers
	delete(d.Map.Comments, id)
	d.Touch(cm.EntityComment, id)
	if f := d.Map.Comments[first]; f != nil && f.Words == "" && !d.answered(first) {
		d.dropComment(first)
	}
}

// ForgetSpeaker takes the name of whoever speaks off all that they said on the map: what they said stays.
type ForgetSpeaker struct{ spoken }

func (op *ForgetSpeaker) apply(d *editing) error {
	if !op.speaker.ID.Valid() {
		return errUnsigned
	}
	for _, c := range cm.InOrder(d.Map.Comments) {
		if c.By == op.speaker.ID && c.Name != "" {
			next := *c
			next.Name = ""
			d.Put(&next)
		}
	}
	for _, j := range cm.InOrder(d.Map.Judgements) {
		if j.By == op.speaker.ID && j.Name != "" {
			next := *j
			next.Name = ""
			d.Put(&next)
		}
	}
	return nil
}

// SettleComment says of a thread that nothing is left to say, or that there is.
type SettleComment struct {
	spoken
	Comment cm.ID `json:"comment"`
	Settled bool  `json:"settled"`
}

func (op *SettleComment) apply(d *editing) error {
	c, err := d.comment(op.Comment)
	if err != nil {
		return err
	}
	switch {
	case !op.speaker.ID.Valid():
		return errUnsigned
	case c.Answers != "":
		return cm.Refusef("A thread is settled by its first comment.")
	case op.speaker.AdditiveOnly && c.By != op.speaker.ID:
		return cm.Refusef("Only whoever began a thread, or the author of the map, can settle it.")
	}
	c.Settled = op.Settled
	d.Put(c)
	return nil
}

// Vote says that whoever speaks agrees with a concept, or does not; nil takes
// that back. Everyone has one vote on each.
type Vote struct {
	spoken
	Concept cm.ID `json:"concept"`
	For     *bool `json:"for"`
}

func (op *Vote) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	by := op.speaker.ID
	if !by.Valid() {
		return errUnsigned
	}
	next := map[cm.ID]bool{}
	for voter, agrees := range c.Votes {
		next[voter] = agrees
	}
	if delete(next, by); op.For != nil {
		next[by] = *op.For
	}
	if len(next) > cm.MaxVotes {
		return cm.Refusef("A concept can have at most %d votes.", cm.MaxVotes)
	}
	if c.Votes = next; len(next) == 0 {
		c.Votes = nil
	}
	d.Put(c)
	return nil
}

// joinVotes gives the votes on a concept that was two: each person's on the one
// that stays, else on the other.
func joinVotes(keep, gone map[cm.ID]bool) map[cm.ID]bool {
	if len(gone) == 0 {
		return keep
	}
	all := map[cm.ID]bool{}
	for _, votes := range []map[cm.ID]bool{gone, keep} {
		for voter, agrees := range votes {
			all[voter] = agrees
		}
	}
	return all
}

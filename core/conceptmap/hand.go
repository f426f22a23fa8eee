package conceptmap

import (
	"cmp"
	"strings"
)

// Hand says with which controls a map is worked on.
type Hand string

// The two hands. With the plain one there are a few large controls, and
// nothing on the map can be lost: it performs gentle operations alone.
const (
	HandFull  Hand = ""
	HandPlain Hand = "plain"
)

func (h Hand) Valid() bool { return h == HandFull || h == HandPlain }

// SetHand says with which hand the map opens.
type SetHand struct {
	Hand Hand `json:"hand"`
}

func (op *SetHand) apply(d *editing) error {
	if !op.Hand.Valid() {
		return Refusef("There is no such hand.")
	}
	d.m.Hand = op.Hand
	d.putHeader()
	return nil
}

// Gentle refuses what takes anything off a map or alters it as a whole. What
// it lets pass adds, joins, names, moves and colours: the plain hand. Words that
// stand on the map are changed by whoever put the thing there, which own tells,
// and by nobody emptied.
func Gentle(m *Map, ops []Operation, own func(Key) (bool, error)) error {
	for _, op := range ops {
		key, was, next := Key{}, "", ""
		switch op := op.(type) {
		case *NameConcept:
			key, next = Key{EntityConcept, op.Concept}, op.Label
			if c := m.Concepts[op.Concept]; c != nil {
				was = c.Label[cmp.Or(op.Lang, m.Language)]
			}
		case *NameLink:
			key, next = Key{EntityLink, op.Link}, op.Phrase
			if l := m.Links[op.Link]; l != nil {
				was = l.Phrase[cmp.Or(op.Lang, m.Language)]
			}
		case *AddConcept, *Move, *Shift, *AddLink, *AddEnd, *AddProposition, *AddKind, *AssignKind, *SetHeads, *ReverseLink, *RankConcept, *StepRank,
			*AddComment, *ChangeComment, *SettleComment, *Vote: // one's own words, which are no part of the map
			continue
		default:
			return Refusef("That cannot be done with the plain hand. Nothing was changed.")
		}
		next = strings.TrimSpace(next)
		switch {
		case was == "" || next == was:
			continue
		case next == "":
			return Refusef("“%s” stays: words can be changed here, but not emptied.", was)
		}
		if mine, err := own(key); err != nil {
			return err
		} else if !mine {
			return Refusef("“%s” was written by somebody else. You can add what you think beside it, or write a comment.", was)
		}
	}
	return nil
}

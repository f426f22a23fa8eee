package conceptmap

// Hand says with which controls a map is worked on.
type Hand string

// The two hands. With the plain one there are a few large controls, and
// nothing on the map can be lost: it performs gentle operations alone.
const (
	HandFull  Hand = ""
	HandPlain Hand = "plain"
)

func (h Hand) valid() bool { return h == HandFull || h == HandPlain }

// SetHand says with which hand the map opens.
type SetHand struct {
	Hand Hand `json:"hand"`
}

func (op *SetHand) apply(d *draft) error {
	if !op.Hand.valid() {
		return refusef("There is no such hand.")
	}
	d.m.Hand = op.Hand
	d.putHeader()
	return nil
}

// Gentle refuses what takes anything off a map or alters it as a whole. What
// it lets pass adds, joins, names, moves and colours: the plain hand.
func Gentle(ops []Operation) error {
	for _, op := range ops {
		switch op.(type) {
		case *AddConcept, *NameConcept, *Move, *Shift, *AddLink, *NameLink, *AddEnd, *Say, *AddKind, *AssignKind, *SetHeads, *ReverseLink, *RankConcept, *StepRank,
			*AddComment, *ChangeComment, *SettleComment, *Vote: // one's own words, which are no part of the map
		default:
			return refusef("That cannot be done with the plain hand. Nothing was changed.")
		}
	}
	return nil
}

package edit

import (
	"cmp"
	cm "mevrin/core/conceptmap"
	"strings"
)

// AdditiveOnly refuses what takes anything off a map or alters it as a whole. What
// it lets pass adds, joins, names, moves and colours: the plain hand. Words that
// stand on the map are changed by whoever put the thing there, which own tells,
// and by nobody emptied.
func AdditiveOnly(m *cm.Map, ops []Operation, own func(cm.Key) (bool, error)) error {
	for _, op := range ops {
		key, was, next := cm.Key{}, "", ""
		switch op := op.(type) {
		case *NameConcept:
			key, next = cm.Key{Kind: cm.EntityConcept, ID: op.Concept}, op.Label
			if c := m.Concepts[op.Concept]; c != nil {
				was = c.Label[cmp.Or(op.Lang, m.Language)]
			}
		case *NameLink:
			key, next = cm.Key{Kind: cm.EntityLink, ID: op.Link}, op.Phrase
			if l := m.Links[op.Link]; l != nil {
				was = l.Phrase[cmp.Or(op.Lang, m.Language)]
			}
		case *AddConcept, *Move, *Shift, *AddLink, *AddEnd, *AddProposition, *AddKind, *AssignKind, *SetHeads, *ReverseLink, *RankConcept, *StepRank,
			*AddComment, *ChangeComment, *SettleComment, *Vote: // one's own words, which are no part of the map
			continue
		default:
			return cm.Refusef("That cannot be done with the plain hand. Nothing was changed.")
		}
		next = strings.TrimSpace(next)
		switch {
		case was == "" || next == was:
			continue
		case next == "":
			return cm.Refusef("“%s” stays: words can be changed here, but not emptied.", was)
		}
		if mine, err := own(key); err != nil {
			return err
		} else if !mine {
			return cm.Refusef("“%s” was written by somebody else. You can add what you think beside it, or write a comment.", was)
		}
	}
	return nil
}

// Operation is what a person meant. Each is a plain struct whose JSON carries
// its name in the member "do".
type Operation interface {
	// apply performs the operation on a draft, or says in plain words why it
	// cannot be; the draft is then thrown away.
	apply(d *editing) error
}

// MaxOperations bounds the operations of one entry.
const MaxOperations = 5000

// operations lists every kind of operation by its name.
var operations = map[string]Operation{
	"add-concept":    &AddConcept{},
	"name-concept":   &NameConcept{},
	"move":           &Move{},
	"shift":          &Shift{},
	"remove":         &Remove{},
	"merge-concepts": &MergeConcepts{},
	"split-concept":  &SplitConcept{},
	"set-type":       &SetType{},
	"attach-source":  &AttachSource{},
	"set-source":     &SetSource{},
	"set-look":       &SetLook{},
	"set-paint":      &SetPaint{},
	"place-source":   &PlaceSource{},
	"set-table":      &SetTable{},
	"detach-source":  &DetachSource{},
	"rank-concept":   &RankConcept{},
	"step-rank":      &StepRank{},
	"shift-level":    &ShiftLevel{},
	"hang":           &Reparent{},
	"add-sibling":    &AddSibling{},
	"duplicate":      &Duplicate{},
	"paste":          &Paste{},
	"set-order":      &SetOrder{},
	"set-focus":      &SetFocus{},
	"set-main":       &SetMain{},
	"set-note":       &SetNote{},
	"add-link":       &AddLink{},
	"say":            &AddProposition{},
	"jot":            &AddIdea{},
	"name-link":      &NameLink{},
	"set-heads":      &SetHeads{},
	"reverse-link":   &ReverseLink{},
	"add-end":        &AddEnd{},
	"remove-end":     &RemoveEnd{},
	"split-end":      &SplitEnd{},
	"move-end":       &MoveEnd{},
	"merge-links":    &MergeLinks{},
	"second-link":    &SecondLink{},
	"insert-concept": &InsertConcept{},
	"set-line":       &SetLine{},
	"bend":           &Bend{},
	"place-phrase":   &PlacePhrase{},
	"free-lines":     &FreeLines{},
	"add-kind":       &AddKind{},
	"set-kind":       &SetKind{},
	"merge-kinds":    &MergeKinds{},
	"order-kinds":    &OrderKinds{},
	"place-key":      &PlaceKey{},
	"add-tag":        &AddTag{},
	"set-tag":        &SetTag{},
	"remove-tag":     &RemoveTag{},
	"assign-tag":     &AssignTag{},
	"add-region":     &AddRegion{},
	"set-region":     &SetRegion{},
	"put-in-region":  &PutInRegion{},
	"remove-region":  &RemoveRegion{},
	"save-filter":    &SaveFilter{},
	"remove-filter":  &RemoveFilter{},
	"set-amount":     &SetAmount{},
	"set-duration":   &SetDuration{},
	"number-steps":   &NumberSteps{},
	"set-icons":      &SetIcons{},
	"add-icon":       &AddIcon{},
	"set-note-card":  &SetNoteCard{},
	"set-remark":     &SetRemark{},
	"set-task":       &SetTask{},
	"add-comment":    &AddComment{},
	"change-comment": &ChangeComment{},
	"settle-comment": &SettleComment{},
	"vote":           &Vote{},
	"remove-kind":    &RemoveKind{},
	"assign-kind":    &AssignKind{},
	"tidy":           &Tidy{},
	"keep-tidy":      &KeepTidy{},
	"pin":            &Pin{},
	"set-when":       &SetWhen{},
	"line-up":        &LineUp{},
	"stretch":        &Stretch{},
	"make-room":      &MakeRoom{},
	"set-hand":       &SetHand{},
	"name-map":       &NameMap{},
	"ask":            &Ask{},
	"set-language":   &SetLanguage{},
	"set-rule":       &SetRule{},
	"set-opening":    &SetOpening{},
	"add-route":      &AddRoute{},
	"name-route":     &NameRoute{},
	"remove-route":   &RemoveRoute{},
	"add-stop":       &AddStop{},
	"write-stop":     &WriteStop{},
	"show-at-stop":   &ShowAtStop{},
	"move-stop":      &MoveStop{},
	"remove-stop":    &RemoveStop{},
}

package edit

import (
	"strings"

	cm "mevrin/core/conceptmap"
)

// DismissFinding leaves something as it is that a rule noticed, with the reason. The rule is
// silent about it until its words change.
type DismissFinding struct {
	spoken
	ID     cm.ID    `json:"id"`
	Rule   string   `json:"rule"`
	On     []cm.Key `json:"on,omitempty"` // what it is about; nothing where it is about the map as a whole
	Reason string   `json:"reason,omitempty"`
	Name   string   `json:"name,omitempty"`
}

func (op *DismissFinding) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if !op.speaker.ID.Valid() || !cm.SoundMoment(op.speaker.At) {
		return errUnsigned
	}
	if !cm.ID(op.Rule).Valid() {
		return cm.Refusef("There is no rule of that name.")
	}
	if len(d.Map.Dismissals) >= cm.MaxDismissals || len(op.On) > cm.MaxRefs {
		return cm.Refusef("At most %d findings can be left as they are.", cm.MaxDismissals)
	}
	next := &cm.Dismissal{ID: op.ID, Rule: op.Rule, By: op.speaker.ID, At: op.speaker.At}
	for _, key := range op.On {
		words, there := d.Map.WordsAt(key)
		if !there {
			return cm.Refusef("That is no longer on the map.")
		}
		next.Refs = append(next.Refs, cm.Ref{Kind: key.Kind, ID: key.ID, Seen: words})
	}
	var err error
	if next.Reason, err = cm.Clean(op.Reason, cm.MaxCommentWords, "A reason"); err != nil {
		return err
	}
	if next.Name, err = cm.Clean(strings.Join(strings.Fields(op.Name), " "), cm.MaxName, "The name"); err != nil {
		return err
	}
	d.Put(next)
	return nil
}

// RecallFinding lets a rule speak again of what was left as it is.
type RecallFinding struct {
	Dismissal cm.ID `json:"dismissal"`
}

func (op *RecallFinding) apply(d *editing) error {
	if d.Map.Dismissals[op.Dismissal] == nil {
		return cm.Refusef("It is looked for again already.")
	}
	delete(d.Map.Dismissals, op.Dismissal)
	d.Touch(cm.EntityDismissal, op.Dismissal)
	return nil
}

package edit

import (
	"maps"
	"slices"

	cm "mevrin/core/conceptmap"
)

// SetRubric says what the map earns points for; empty for nothing.
type SetRubric struct {
	Rubric cm.Rubric `json:"rubric"`
}

func (op *SetRubric) apply(d *editing) error {
	next := op.Rubric
	next.Weights, next.Criteria = maps.Clone(next.Weights), slices.Clone(next.Criteria)
	if err := next.Sound(); err != nil {
		return err
	}
	if len(next.Weights) == 0 {
		next.Weights = nil
	}
	if len(next.Criteria) == 0 {
		next.Criteria = nil
	}
	d.Map.Rubric = next
	d.TouchHeader()
	return nil
}

// GiveGrade says which level of a criterion the map attains, in the name of whoever speaks; nil
// takes it back. Each has one grade for each criterion.
type GiveGrade struct {
	spoken
	ID        cm.ID  `json:"id"`
	Criterion cm.ID  `json:"criterion"`
	Level     *int   `json:"level,omitempty"`
	Reason    string `json:"reason,omitempty"`
}

func (op *GiveGrade) apply(d *editing) error {
	if !op.speaker.ID.Valid() || !cm.SoundMoment(op.speaker.At) {
		return errUnsigned
	}
	at := slices.IndexFunc(d.Map.Rubric.Criteria, func(c cm.Criterion) bool { return c.ID == op.Criterion })
	if at < 0 {
		return cm.Refusef("The rubric has no such criterion.")
	}
	id := op.ID
	for _, was := range cm.SortedIDs(d.Map.Grades) {
		if g := d.Map.Grades[was]; g.Criterion == op.Criterion && g.By == op.speaker.ID {
			id = was
			delete(d.Map.Grades, was)
			d.Touch(cm.EntityGrade, was)
		}
	}
	if op.Level == nil {
		return nil
	}
	if *op.Level < 0 || *op.Level >= len(d.Map.Rubric.Criteria[at].Levels) {
		return cm.Refusef("The criterion has no such level.")
	}
	if id == op.ID {
		if err := d.Free(op.ID); err != nil {
			return err
		}
	}
	if len(d.Map.Grades) >= cm.MaxGrades {
		return cm.Refusef("A map can have at most %d grades.", cm.MaxGrades)
	}
	reason, err := cm.Clean(op.Reason, cm.MaxCommentWords, "A reason")
	if err != nil {
		return err
	}
	d.Put(&cm.Grade{ID: id, Criterion: op.Criterion, Level: *op.Level, Reason: reason, By: op.speaker.ID, At: op.speaker.At})
	return nil
}

package edit

import (
	"fmt"
	"slices"

	cm "mevrin/core/conceptmap"
)

// WriteBrief says what the brief of the map says beside its lines; what is nil stays.
type WriteBrief struct {
	Title  *string     `json:"title,omitempty"`
	Task   *string     `json:"task,omitempty"`
	Before *[]cm.Known `json:"before,omitempty"`
}

func (op *WriteBrief) apply(d *editing) error {
	next := d.Map.Brief
	set(&next.Title, op.Title)
	set(&next.Task, op.Task)
	if op.Before != nil {
		next.Before = slices.DeleteFunc(slices.Clone(*op.Before), func(k cm.Known) bool { return k.Words == "" && k.Address == "" })
	}
	var err error
	if next.Title, err = cm.Clean(next.Title, cm.MaxBriefName, "The title"); err != nil {
		return err
	}
	if next.Task, err = cm.Clean(next.Task, cm.MaxBriefText, "The task"); err != nil {
		return err
	}
	if len(next.Before) == 0 {
		next.Before = nil
	}
	if err := next.Sound(); err != nil {
		return err
	}
	d.Map.Brief = next
	d.TouchHeader()
	return nil
}

// AddRequirement adds a line to the brief of the map, behind another one or at its end.
type AddRequirement struct {
	ID     cm.ID     `json:"id"`
	Demand cm.Demand `json:"demand"`
}

func (op *AddRequirement) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if len(d.Map.Requirements) >= cm.MaxRequirements {
		return cm.Refusef("A brief can have at most %d lines.", cm.MaxRequirements)
	}
	demand, err := cleanDemand(op.Demand)
	if err != nil {
		return err
	}
	last := ""
	if all := d.Map.RequirementsInOrder(); len(all) > 0 {
		last = all[len(all)-1].Rank
	}
	d.Put(&cm.Requirement{ID: op.ID, Rank: cm.KeyBetween(last, ""), Demand: demand})
	return nil
}

// cleanDemand gives a line with its words as they are kept.
func cleanDemand(l cm.Demand) (cm.Demand, error) {
	var err error
	if l.Says, err = cm.Clean(l.Says, cm.MaxBriefText, "A line"); err != nil {
		return l, err
	}
	return l, l.Sound()
}

func (d *editing) requirement(id cm.ID) (cm.Requirement, error) {
	r := d.Map.Requirements[id]
	if r == nil {
		return cm.Requirement{}, cm.Refusef("That line of the brief is gone already.")
	}
	return *r, nil
}

// ChangeRequirement lets a line of the brief ask for something else.
type ChangeRequirement struct {
	Requirement cm.ID     `json:"requirement"`
	Demand      cm.Demand `json:"demand"`
}

func (op *ChangeRequirement) apply(d *editing) error {
	next, err := d.requirement(op.Requirement)
	if err != nil {
		return err
	}
	if next.Demand, err = cleanDemand(op.Demand); err != nil {
		return err
	}
	d.Put(&next)
	return nil
}

// MoveRequirement puts a line of the brief behind another one, or to the front.
type MoveRequirement struct {
	Requirement cm.ID `json:"requirement"`
	After       cm.ID `json:"after,omitempty"`
}

func (op *MoveRequirement) apply(d *editing) error {
	moved, err := d.requirement(op.Requirement)
	if err != nil {
		return err
	}
	others := slices.DeleteFunc(d.Map.RequirementsInOrder(), func(r *cm.Requirement) bool { return r.ID == op.Requirement })
	at := 0
	if op.After != "" {
		if at = slices.IndexFunc(others, func(r *cm.Requirement) bool { return r.ID == op.After }) + 1; at == 0 {
			return cm.Refusef("That line of the brief is gone already.")
		}
	}
	// There are few: all are ranked anew, so that two of one rank are told apart, too.
	rank := ""
	for _, r := range slices.Insert(others, at, &moved) {
		next := *r
		rank = cm.KeyBetween(rank, "")
		if next.Rank = rank; next.ID == moved.ID || next.Rank != r.Rank {
			d.Put(&next)
		}
	}
	return nil
}

// RemoveRequirement takes a line off the brief.
type RemoveRequirement struct {
	Requirement cm.ID `json:"requirement"`
}

func (op *RemoveRequirement) apply(d *editing) error {
	if _, err := d.requirement(op.Requirement); err != nil {
		return err
	}
	delete(d.Map.Requirements, op.Requirement)
	d.Touch(cm.EntityRequirement, op.Requirement)
	return nil
}

// TakeBrief gives the map a whole brief in the place of its own; without lines and words it has
// none. Lines are named anew, after ID.
type TakeBrief struct {
	ID     cm.ID       `json:"id"`
	Title  string      `json:"title,omitempty"`
	Task   string      `json:"task,omitempty"`
	Before []cm.Known  `json:"before,omitempty"`
	Lines  []cm.Demand `json:"lines,omitempty"`
}

func (op *TakeBrief) apply(d *editing) error {
	for _, id := range cm.SortedIDs(d.Map.Requirements) {
		delete(d.Map.Requirements, id)
		d.Touch(cm.EntityRequirement, id)
	}
	before := op.Before
	if before == nil {
		before = []cm.Known{}
	}
	if err := (&WriteBrief{Title: &op.Title, Task: &op.Task, Before: &before}).apply(d); err != nil {
		return err
	}
	if !op.ID.Valid() {
		return cm.Refusef("A brief needs a name for its lines.")
	}
	for i, l := range op.Lines {
		if err := (&AddRequirement{ID: cm.ID(fmt.Sprintf("%s-%d", op.ID, i+1)), Demand: l}).apply(d); err != nil {
			return err
		}
	}
	return nil
}

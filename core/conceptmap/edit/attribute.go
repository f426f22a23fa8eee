package edit

import (
	cm "mevrin/core/conceptmap"
	"slices"
)

// SetAmount says how much something is, with its unit; empty words take that away.
type SetAmount struct {
	Concept cm.ID  `json:"concept"`
	Amount  string `json:"amount"`
}

func (op *SetAmount) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if c.Amount, err = cm.ReadAmount(op.Amount); err != nil {
		return err
	}
	d.Put(c)
	return nil
}

// SetDuration says how long something lasts; empty words take that away.
type SetDuration struct {
	Concept cm.ID  `json:"concept"`
	Lasts   string `json:"lasts"`
}

func (op *SetDuration) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if c.Lasts, err = cm.ReadDuration(op.Lasts); err != nil {
		return err
	}
	d.Put(c)
	return nil
}

// NumberSteps gives concepts numbers in their order, from one on; from 0 takes their
// numbers away. Other icons stay. Siblings among them stand in the order of their numbers,
// in the places that they had among the others.
type NumberSteps struct {
	Concepts []cm.ID `json:"concepts"`
	From     int     `json:"from"`
}

func (op *NumberSteps) apply(d *editing) error {
	if op.From < 0 || op.From+len(op.Concepts)-1 > cm.MaxStep {
		return cm.Refusef("Steps are numbered from 1 to %d.", cm.MaxStep)
	}
	for i, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		c.Icons = slices.DeleteFunc(slices.Clone(c.Icons), func(icon cm.Icon) bool { _, is := icon.Step(); return is })
		if op.From > 0 {
			c.Icons = slices.Insert(c.Icons, 0, cm.StepIcon(op.From+i))
		}
		if len(c.Icons) > cm.MaxIcons {
			return cm.Refusef("“%.40s” has %d icons already. Take one off first.", d.Map.Words(c.Label), cm.MaxIcons)
		}
		if len(c.Icons) == 0 {
			c.Icons = nil
		}
		d.Put(c)
	}
	if op.From == 0 {
		return nil
	}
	return op.order(d)
}

// order puts those in order that hang from the same concept.
func (op *NumberSteps) order(d *editing) error {
	steps := map[cm.ID][]cm.ID{} // by what they hang from
	var parents []cm.ID
	for _, id := range op.Concepts {
		if up := d.Map.Parent(d.Map.Concepts[id]); up != "" && !slices.Contains(steps[up], id) {
			if len(steps[up]) == 0 {
				parents = append(parents, up)
			}
			steps[up] = append(steps[up], id)
		}
	}
	for _, up := range parents {
		next := steps[up]
		if len(next) < 2 {
			continue
		}
		var order []cm.ID
		for _, c := range d.Map.Siblings(up) {
			id := c.ID
			if slices.Contains(steps[up], id) {
				id, next = next[0], next[1:]
			}
			order = append(order, id)
		}
		if err := (&SetOrder{Parent: up, Order: order}).apply(d); err != nil {
			return err
		}
	}
	return nil
}

// SetIcons says which icons stand beside the labels of concepts.
type SetIcons struct {
	Concepts []cm.ID   `json:"concepts"`
	Icons    []cm.Icon `json:"icons"`
}

func (op *SetIcons) apply(d *editing) error {
	if len(op.Icons) > cm.MaxIcons {
		return cm.Refusef("A concept can have at most %d icons.", cm.MaxIcons)
	}
	var icons []cm.Icon
	for _, i := range op.Icons {
		if !i.Valid() {
			return cm.Refusef("There is no such icon.")
		}
		if scale := i.Scale(); scale != "" { // of each scale the last one holds
			icons = slices.DeleteFunc(icons, func(o cm.Icon) bool { return o.Scale() == scale })
		}
		if !slices.Contains(icons, i) {
			icons = append(icons, i)
		}
	}
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		c.Icons = icons
		d.Put(c)
	}
	return nil
}

// AddIcon puts an icon beside the labels of concepts, behind those that each has; where
// there are too many, the oldest goes. There is one number of a step at most, and one degree
// of each scale: a new one takes the place of the old. The number of a step stands first.
type AddIcon struct {
	Concepts []cm.ID `json:"concepts"`
	Icon     cm.Icon `json:"icon"`
}

func (op *AddIcon) apply(d *editing) error {
	if !op.Icon.Valid() {
		return cm.Refusef("There is no such icon.")
	}
	_, step := op.Icon.Step()
	scale := op.Icon.Scale()
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		c.Icons = slices.DeleteFunc(slices.Clone(c.Icons), func(i cm.Icon) bool {
			return i == op.Icon || scale != "" && i.Scale() == scale
		})
		if step {
			c.Icons = slices.Insert(c.Icons, 0, op.Icon)
			c.Icons = c.Icons[:min(len(c.Icons), cm.MaxIcons)]
		} else {
			c.Icons = append(c.Icons, op.Icon)
			c.Icons = c.Icons[max(0, len(c.Icons)-cm.MaxIcons):]
		}
		d.Put(c)
	}
	return nil
}

// SetType sets the labels of concepts: what is nil stays as it is.
type SetType struct {
	Concepts []cm.ID   `json:"concepts"`
	Size     *int      `json:"size,omitempty"`
	Bold     *bool     `json:"bold,omitempty"`
	Italic   *bool     `json:"italic,omitempty"`
	Align    *cm.Align `json:"align,omitempty"`
	Width    *float64  `json:"width,omitempty"`
}

func (op *SetType) apply(d *editing) error {
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		set(&c.Size, op.Size)
		set(&c.Bold, op.Bold)
		set(&c.Italic, op.Italic)
		set(&c.Align, op.Align)
		set(&c.Width, op.Width)
		if err := c.Sound(); err != nil {
			return err
		}
		d.Put(c)
	}
	return nil
}

// SetTable puts a table on a concept's slip, changes it, or (nil) takes it away.
type SetTable struct {
	Concept cm.ID     `json:"concept"`
	Table   *cm.Table `json:"table"`
}

func (op *SetTable) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if op.Table == nil {
		c.Table = nil
		d.Put(c)
		return nil
	}
	next := &cm.Table{Head: op.Table.Head}
	for _, row := range op.Table.Rows {
		cells := make([]string, len(row))
		for i, cell := range row {
			if cells[i], err = cm.Clean(cell, cm.MaxCell, "A cell of a table"); err != nil {
				return err
			}
		}
		next.Rows = append(next.Rows, cells)
	}
	if !next.Valid() {
		return cm.Refusef("A table can have at most %d rows and %d columns, each row as long as the first.", cm.MaxRows, cm.MaxColumns)
	}
	c.Table = next
	d.Put(c)
	return d.grown(cm.Key{Kind: cm.EntityConcept, ID: op.Concept}, true)
}

// SetTask puts a task on a concept, or changes it: what is nil stays. None takes
// it away.
type SetTask struct {
	Concept cm.ID   `json:"concept"`
	What    *string `json:"what,omitempty"`
	Who     *string `json:"who,omitempty"`
	When    *string `json:"when,omitempty"`
	Lasts   *string `json:"lasts,omitempty"` // as people write it, as for SetDuration
	Done    *bool   `json:"done,omitempty"`
	None    bool    `json:"none,omitempty"`
}

func (op *SetTask) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if op.None {
		c.Task = nil
		d.Put(c)
		return nil
	}
	next := cm.Task{}
	if c.Task != nil {
		next = *c.Task
	}
	if op.What != nil {
		if next.What, err = cm.Clean(*op.What, cm.MaxTaskWords, "What is to be done"); err != nil {
			return err
		}
	}
	if op.Who != nil {
		if next.Who, err = cm.Clean(*op.Who, cm.MaxWho, "The name of whoever does it"); err != nil {
			return err
		}
	}
	if op.When != nil {
		if next.When, err = cm.CleanWhen(*op.When); err != nil {
			return err
		}
	}
	if op.Lasts != nil {
		if next.Lasts, err = cm.ReadDuration(*op.Lasts); err != nil {
			return err
		}
	}
	set(&next.Done, op.Done)
	c.Task = &next
	d.Put(c)
	return nil
}

// SetWhen says to which time a concept belongs; empty words take that away.
type SetWhen struct {
	Concept cm.ID  `json:"concept"`
	When    string `json:"when"`
}

func (op *SetWhen) apply(d *editing) error {
	c, err := d.Concept(op.Concept)
	if err != nil {
		return err
	}
	if c.When, err = cm.CleanWhen(op.When); err != nil {
		return err
	}
	d.Put(c)
	return nil
}

package edit

import (
	"maps"

	cm "mevrin/core/conceptmap"
)

// KeepApart says of two concepts that they are not to be linked, so that nobody is asked again; or
// that they may be.
type KeepApart struct {
	A     cm.ID `json:"a"`
	B     cm.ID `json:"b"`
	Apart bool  `json:"apart"`
}

func (op *KeepApart) apply(d *editing) error {
	at, from := min(op.A, op.B), max(op.A, op.B)
	c, err := d.Concept(at)
	if err != nil {
		return err
	}
	if _, err := d.Concept(from); err != nil {
		return err
	}
	if at == from {
		return cm.Refusef("That is one concept and no pair.")
	}
	next := *c
	next.Apart = maps.Clone(c.Apart)
	switch {
	case !op.Apart:
		delete(next.Apart, from)
	case len(next.Apart) >= cm.MaxApart:
		return cm.Refusef("One concept can be kept apart from at most %d.", cm.MaxApart)
	case next.Apart == nil:
		next.Apart = map[cm.ID]bool{from: true}
	default:
		next.Apart[from] = true
	}
	if len(next.Apart) == 0 {
		next.Apart = nil
	}
	d.Put(&next)
	return nil
}

package content

import (
	"fmt"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
)

// Build makes a map of a draft: put in order where the file does not say where things stand. NewID makes
// ids; the operations are those that make it from an empty map, nil where the draft is a whole map.
func (d *Draft) Build(id cm.ID, newID func(kind string) cm.ID, measure layout.Placer) (*cm.Map, []edit.Operation, error) {
	if d.Map != nil {
		m := d.Map.Clone()
		m.ID = id
		return m, nil, nil
	}
	var ops []edit.Operation
	if !d.placed() {
		freely := d.Lines == nil // an outline is in an order that its author gave it
		ops = append(ops, &edit.KeepTidy{On: true, Pattern: cm.PatternLevels, Freely: &freely})
	}
	ops = append(ops, d.Operations(newID, true)...)
	out, err := edit.Apply(cm.NewMap(id, "en"), ops, measure)
	if err != nil {
		return nil, nil, err
	}
	return out.Map, ops, nil
}

// placed tells whether the file says of all concepts where they stand, and of not all the same.
func (d *Draft) placed() bool {
	places := map[cm.Point]bool{}
	for _, c := range d.Concepts {
		if c.At == nil {
			return false
		}
		places[*c.At] = true
	}
	return len(places)*2 > len(d.Concepts)
}

// Counting makes ids that are always the same, for what is made of the same file.
func Counting() func(kind string) cm.ID {
	n := 0
	return func(kind string) cm.ID { n++; return cm.ID(fmt.Sprintf("%s%d", kind, n)) }
}

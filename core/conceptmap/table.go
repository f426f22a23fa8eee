package conceptmap

import "slices"

// Table is a small table on a slip.
type Table struct {
	Head bool       `json:"head,omitempty"` // the first row are headings
	Rows [][]string `json:"rows"`           // each as long as the first
}

// The bounds of a table.
const (
	MaxRows    = 60
	MaxColumns = 12
	MaxCell    = 200 // characters
)

func (t *Table) Valid() bool {
	if t == nil {
		return true
	}
	if len(t.Rows) == 0 || len(t.Rows) > MaxRows || len(t.Rows[0]) == 0 || len(t.Rows[0]) > MaxColumns {
		return false
	}
	for _, row := range t.Rows {
		if len(row) != len(t.Rows[0]) || slices.ContainsFunc(row, func(cell string) bool {
			clean, err := Clean(cell, MaxCell, "")
			return err != nil || clean != cell
		}) {
			return false
		}
	}
	return true
}

// SetTable puts a table on a concept's slip, changes it, or (nil) takes it away.
type SetTable struct {
	Concept ID     `json:"concept"`
	Table   *Table `json:"table"`
}

func (op *SetTable) apply(d *editing) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	if op.Table == nil {
		c.Table = nil
		d.putConcept(c)
		return nil
	}
	next := &Table{Head: op.Table.Head}
	for _, row := range op.Table.Rows {
		cells := make([]string, len(row))
		for i, cell := range row {
			if cells[i], err = Clean(cell, MaxCell, "A cell of a table"); err != nil {
				return err
			}
		}
		next.Rows = append(next.Rows, cells)
	}
	if !next.Valid() {
		return Refusef("A table can have at most %d rows and %d columns, each row as long as the first.", MaxRows, MaxColumns)
	}
	c.Table = next
	d.putConcept(c)
	return d.grown(Key{EntityConcept, op.Concept}, true)
}

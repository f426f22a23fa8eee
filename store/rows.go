package store

import (
	"encoding/json"
	"fmt"

	cm "mevrin/core/conceptmap"
)

// rowOf gives the row of an entity of a map; ok is false where there is none.
// A state in which something is missing that the entity needs is refused.
func rowOf(m *cm.Map, key cm.Key) (row entityRow, ok bool, err error) {
	d := cm.Describe(key.Kind)
	entity := d.Get(m, key.ID)
	if entity == nil {
		return row, false, nil
	}
	for _, need := range d.Needs(entity) {
		if !m.Has(need) {
			return row, false, fmt.Errorf("%s %q needs %s %q, which is not there", key.Kind, key.ID, need.Kind, need.ID)
		}
	}
	body, err := json.Marshal(entity)
	return entityRow{m.ID, key.ID, key.Kind, string(body)}, true, err
}

// into puts the entity on a map.
func (row entityRow) into(m *cm.Map) error {
	d := cm.Describe(row.Entity)
	if d == nil {
		return fmt.Errorf("there is no entity called %q", row.Entity)
	}
	entity := d.New()
	if err := json.Unmarshal([]byte(row.Body), entity); err != nil {
		return fmt.Errorf("%s %q: %w", row.Entity, row.ID, err)
	}
	d.Put(m, row.ID, entity)
	return nil
}

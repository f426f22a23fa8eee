package store

import (
	"context"

	cm "mevrin/core/conceptmap"
)

// Said is a statement of another map.
type Said struct{ Map, Phrase, Noun string }

// maxSaid bounds the maps that are looked through.
const maxSaid = 60

// SaidElsewhere gives what other maps say of a concept, the maps changed last
// first. About tells by its label whether a concept is the one.
func (s *Reach) SaidElsewhere(ctx context.Context, but cm.ID, about func(label string) bool) ([]Said, error) {
	if err := s.reaches(but); err != nil {
		return nil, err
	}
	var rows []struct {
		MapID    cm.ID
		Language cm.Lang
		ID       cm.ID
		Label    cm.Text `gorm:"serializer:json"`
	}
	recent := s.within(s.db.Model(&mapRow{}), "id").Select("id").Where("deleted IS NULL AND id <> ?", but).Order("changed DESC").Limit(maxSaid)
	err := s.db.WithContext(ctx).Model(&entityRow{}).
		Select("entities.map_id, "+s.member("maps.head", "language")+" AS language, entities.id, "+s.member("entities.body", "label")+" AS label").
		Joins("JOIN maps ON maps.id = entities.map_id").Where("entities.map_id IN (?) AND entities.entity = ?", recent, cm.EntityConcept).
		Order("maps.changed DESC, entities.id").Scan(&rows).Error
	if err != nil {
		return nil, err
	}
	var all []Said
	for _, r := range rows {
		if !about(r.Label.For(r.Language)) {
			continue
		}
		m, _, err := s.Load(ctx, r.MapID)
		if err != nil {
			return nil, err
		}
		for _, id := range cm.SortedIDs(m.Links) {
			l := m.Links[id]
			if l.Phrase.Empty() {
				continue
			}
			for _, strand := range l.Strands() {
				from, to, ok := m.Between(strand)
				if ok && from == r.ID {
					all = append(all, Said{m.Name(), m.Words(l.Phrase), m.Words(m.Concepts[to].Label)})
				}
				if ok && to == r.ID && l.Heads == cm.HeadsBoth { // it is said the other way, too
					all = append(all, Said{m.Name(), m.Words(l.Phrase), m.Words(m.Concepts[from].Label)})
				}
			}
		}
	}
	return all, nil
}

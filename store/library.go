package store

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// Summary is a map as a list of maps shows it.
type Summary struct {
	ID       cm.ID
	Name     string // see conceptmap.Map.Name
	Question string
	Title    string // as given on purpose; empty where the name follows something else
	Concepts int
	Routes   int
	Revision int
	Changed  time.Time
	Deleted  time.Time // when it was put into the bin; zero elsewhere
	// Allows is what whoever asks may do with it, Owner the name of whose it is where it is not theirs.
	Allows people.Right
	Owner  string
}

// List gives all maps that are not in the bin, the latest changed first.
func (s *Reach) List(ctx context.Context) ([]Summary, error) {
	return s.list(ctx, s.db.Where("deleted IS NULL"), "changed DESC, id")
}

// Bin gives the maps in the bin that somebody may take out again, the latest deleted first.
func (s *Reach) Bin(ctx context.Context) ([]Summary, error) {
	all, err := s.list(ctx, s.db.Where("deleted <> ?", unfinished), "deleted DESC, id")
	return slices.DeleteFunc(all, func(m Summary) bool { return !m.Allows.Allows(people.RightOwn) }), err
}

func (s *Reach) list(ctx context.Context, which *gorm.DB, order string) ([]Summary, error) {
	var rows []struct {
		Row              mapRow `gorm:"embedded"`
		Concepts, Routes int
		Label            cm.Text `gorm:"serializer:json"`
		Allows           people.Right
		OwnedBy          string
	}
	err := s.within(s.db.WithContext(ctx).Model(&mapRow{}), "maps.id").
		Select("maps.*, (SELECT count(*) FROM entities WHERE map_id = maps.id AND entity = 'concept') AS concepts, "+
			"(SELECT count(*) FROM entities WHERE map_id = maps.id AND entity = 'route') AS routes, "+
			"(SELECT json_extract(body, '$.label') FROM entities WHERE map_id = maps.id AND id = json_extract(maps.head, '$.focus')) AS label, "+
			"(SELECT allows FROM shares WHERE map_id = maps.id AND person = ?) AS allows, (SELECT name FROM people WHERE id = maps.owner) AS owned_by", s.scope.Person).
		Where(which).Order(order).Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("listing maps: %w", err)
	}
	all := make([]Summary, len(rows))
	for i, r := range rows {
		// As much of the map as its name can depend on.
		m := cm.Map{Header: r.Row.Head, Concepts: map[cm.ID]*cm.Concept{r.Row.Head.Focus: {Label: r.Label}}}
		all[i] = Summary{ID: r.Row.ID, Name: m.Name(), Question: m.Words(m.Question), Title: m.Words(m.Title),
			Concepts: r.Concepts, Routes: r.Routes, Revision: r.Row.Revision, Changed: r.Row.Changed, Allows: r.Allows, Owner: r.OwnedBy}
		if s.scope.All || r.Row.Owner == s.scope.Person {
			all[i].Allows, all[i].Owner = people.RightOwn, ""
		}
		if r.Row.Deleted != nil {
			all[i].Deleted = *r.Row.Deleted
		}
	}
	return all, nil
}

// Discard puts a map into the bin: nobody reaches it, until it is restored.
func (s *Reach) Discard(ctx context.Context, id cm.ID) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	now := s.Now().UTC()
	return s.mark(ctx, id, s.db.Where("deleted IS NULL"), &now)
}

// Restore takes a map out of the bin.
func (s *Reach) Restore(ctx context.Context, id cm.ID) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	return s.mark(ctx, id, s.db.Where("deleted <> ?", unfinished), nil)
}

func (s *Reach) mark(ctx context.Context, id cm.ID, where *gorm.DB, deleted *time.Time) error {
	return s.one(s.db.WithContext(ctx).Model(&mapRow{}).Where("id = ?", id).Where(where).Update("deleted", deleted), ErrNoMap)
}

// one gives an error unless a statement touched exactly one row.
func (s *Store) one(done *gorm.DB, otherwise error) error {
	if done.Error != nil {
		return done.Error
	}
	if done.RowsAffected != 1 {
		return otherwise
	}
	return nil
}

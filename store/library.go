package store

import (
	"context"
	"errors"
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
	Made     time.Time
	By       string    // who changed it last; empty where that was whoever asks, or nobody with an account
	Deleted  time.Time // when it was put into the bin; zero elsewhere
	// Allows is what whoever asks may do with it, Owner the name of whose it is where it is not theirs.
	Allows people.Right
	Owner  string
	// Folder is in which it is, Open what everybody may do with it, Template that others are begun with it.
	Folder   string
	Open     people.Right
	Template bool
	Picked   bool // it stands first among those that are open to all
}

// Section is a part of the library.
type Section string

// The sections.
const (
	SectionAll       Section = ""          // all that somebody may see by themselves
	SectionOwn       Section = "own"       // one's own, in one folder or in none
	SectionShared    Section = "shared"    // what others shared
	SectionOpen      Section = "open"      // what is open to all
	SectionTemplates Section = "templates" // those that others are begun with
)

// Order is by what a list of maps is sorted.
type Order string

// The orders, the first being the usual one.
const (
	OrderChanged  Order = "changed" // the latest changed first
	OrderName     Order = "name"    // by question or name
	OrderMade     Order = "made"    // the latest made first
	OrderConcepts Order = "size"    // the largest first
)

// orders say how the database sorts; by names it does as byName says.
var orders = map[Order]string{
	OrderChanged: "changed DESC, id", OrderMade: "created DESC, id", OrderConcepts: "concepts DESC, id",
}

// Listing says which maps are listed.
type Listing struct {
	Section Section
	Folder  string // of SectionOwn, or one that is shared; empty for what lies in none
	Only    []cm.ID
	By      Order
	From    int // how many are left out
	Most    int // 0 for any number
}

// List gives all maps that are not in the bin, the latest changed first.
func (s *Reach) List(ctx context.Context) ([]Summary, error) {
	all, _, err := s.ListOf(ctx, Listing{})
	return all, err
}

// ListOf gives some maps that are not in the bin, and how many there are in all.
func (s *Reach) ListOf(ctx context.Context, l Listing) (all []Summary, count int, err error) {
	which := func(db *gorm.DB) *gorm.DB {
		db, me := db.Where("maps.deleted IS NULL AND maps.suggests = ''"), s.me()
		if l.Only != nil {
			db = db.Where("maps.id IN ?", l.Only)
		}
		switch {
		case l.Folder != "":
			db = db.Where("maps.folder = ?", l.Folder)
		case l.Section == SectionOwn && !s.scope.All:
			db = db.Where("maps.owner = ? AND NOT maps.template AND maps.folder = ''", me)
		case l.Section == SectionOwn:
			db = db.Where("NOT maps.template AND maps.folder = ''")
		case l.Section == SectionShared:
			db = db.Where("maps.owner <> @person AND maps.id IN ("+sharedWith+")", map[string]any{"person": me})
		case l.Section == SectionOpen:
			db = db.Where("maps.open <> ''")
		case l.Section == SectionTemplates:
			db = db.Where("maps.template")
		}
		switch { // what is open to all is no secret, and what a folder holds may be seen with it
		case l.Folder != "":
			return db
		case l.Section == SectionOpen:
			return db
		case l.Section == SectionTemplates && !s.scope.All:
			return db.Where("maps.open <> '' OR maps.id IN (?)", s.within(s.db.Model(&mapRow{}).Select("id"), "id"))
		}
		return s.within(db, "maps.id")
	}
	if l.Folder != "" {
		if _, err := s.Folder(ctx, l.Folder); err != nil {
			return nil, 0, err
		}
	}
	var n int64
	if err := which(s.db.WithContext(ctx).Model(&mapRow{})).Count(&n).Error; err != nil {
		return nil, 0, fmt.Errorf("listing maps: %w", err)
	}
	order, ok := orders[l.By]
	if l.By == OrderName {
		order = s.byName()
	} else if !ok {
		order = orders[OrderChanged]
	}
	if l.Section == SectionOpen && l.Folder == "" {
		order = "picked DESC, " + order
	}
	all, err = s.list(ctx, which, order, l.From, l.Most)
	return all, int(n), err
}

// Summary gives a map as a list of maps shows it, also one in the bin.
func (s *Reach) Summary(ctx context.Context, id cm.ID) (Summary, error) {
	all, err := s.list(ctx, func(db *gorm.DB) *gorm.DB {
		return s.within(db.Where("maps.id = ? AND (deleted IS NULL OR deleted <> ?)", id, unfinished), "maps.id")
	}, "id", 0, 0)
	if err == nil && len(all) == 0 {
		err = ErrNoMap
	}
	if err != nil {
		return Summary{}, err
	}
	return all[0], nil
}

// DaysInBin is how long a map stays in the bin before it is deleted for good.
const DaysInBin = 30

// CountOwn gives how many maps are one's own, those in the bin among them.
func (s *Reach) CountOwn(ctx context.Context) (int, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&mapRow{}).Where("owner = ?", s.me()).Count(&n).Error
	return int(n), err
}

// CountBin gives how many maps of one's own are in the bin.
func (s *Reach) CountBin(ctx context.Context) (int, error) {
	db := s.db.WithContext(ctx).Model(&mapRow{}).Where("deleted <> ?", unfinished)
	if !s.scope.All {
		db = db.Where("owner = ?", s.me())
	}
	var n int64
	err := db.Count(&n).Error
	return int(n), err
}

// Bin gives the maps in the bin that somebody may take out again, the latest deleted first.
func (s *Reach) Bin(ctx context.Context) ([]Summary, error) {
	all, err := s.list(ctx, func(db *gorm.DB) *gorm.DB { return s.within(db.Where("deleted <> ?", unfinished), "maps.id") }, "deleted DESC, id", 0, 0)
	return slices.DeleteFunc(all, func(m Summary) bool { return !m.Allows.Allows(people.RightOwn) }), err
}

func (s *Reach) list(ctx context.Context, which func(*gorm.DB) *gorm.DB, order string, from, most int) ([]Summary, error) {
	var rows []struct {
		Row              mapRow `gorm:"embedded"`
		Concepts, Routes int
		Label            cm.Text `gorm:"serializer:json"`
		Shared           people.Right
		OwnedBy, LastBy  string
	}
	me := s.me()
	db := s.db.WithContext(ctx).Model(&mapRow{})
	if most > 0 { // which ones is found first: what is shown of them is worked out for them alone
		db = db.Where("maps.id IN (?)", which(s.db.Model(&mapRow{})).Select("maps.id").Order(order).Offset(from).Limit(most))
	} else {
		db = which(db)
	}
	db = db.
		Select("maps.*, (SELECT count(*) FROM entities WHERE map_id = maps.id AND entity = 'concept') AS concepts, "+
			"(SELECT count(*) FROM entities WHERE map_id = maps.id AND entity = 'route') AS routes, "+
			s.focusLabel()+" AS label, "+
			"(SELECT allows FROM shares WHERE map_id = maps.id AND person = ?) AS shared, (SELECT name FROM people WHERE id = maps.owner) AS owned_by, "+
			"(SELECT p.name FROM entries e JOIN people p ON p.id = e.author WHERE e.map_id = maps.id AND e.revision = maps.revision AND p.id <> ?) AS last_by", me, me).
		Order(order)
	if err := db.Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("listing maps: %w", err)
	}
	all, foldered := make([]Summary, len(rows)), map[string]people.Right{}
	for i, r := range rows {
		// As much of the map as its name can depend on.
		m := cm.Map{Header: r.Row.Head, Concepts: map[cm.ID]*cm.Concept{r.Row.Head.Focus: {Label: r.Label}}}
		all[i] = Summary{ID: r.Row.ID, Name: m.Name(), Question: m.Words(m.Question), Title: m.Words(m.Title), Concepts: r.Concepts, Routes: r.Routes, Revision: r.Row.Revision,
			Changed: r.Row.Changed, Made: r.Row.Created.UTC(), By: r.LastBy, Folder: r.Row.Folder, Open: r.Row.Open, Template: r.Row.Template, Picked: r.Row.Picked, Owner: r.OwnedBy}
		if s.scope.All || r.Row.Owner == s.scope.Person {
			all[i].Allows, all[i].Owner = people.RightOwn, ""
		} else {
			right, known := foldered[r.Row.Folder]
			if !known && r.Row.Folder != "" {
				f, err := s.Folder(ctx, r.Row.Folder)
				if err != nil && !errors.Is(err, ErrNoFolder) {
					return nil, err
				}
				right = f.Allows
				foldered[r.Row.Folder] = right
			}
			all[i].Allows = people.Greater(people.Greater(r.Shared, r.Row.Open), right)
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

// SetOpen says what everybody may do with a map; RightNone for nothing.
func (s *Reach) SetOpen(ctx context.Context, id cm.ID, allows people.Right) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		alter := map[string]any{"open": allows}
		if allows == people.RightNone {
			alter["picked"] = false
		}
		return s.one(tx.Model(&mapRow{}).Where("id = ? AND deleted IS NULL", id).Updates(alter), ErrNoMap)
	})
}

// SetPicked puts a map that is open to all before the others, or among them again.
func (s *Store) SetPicked(ctx context.Context, id cm.ID, is bool) error {
	return s.one(s.db.WithContext(ctx).Model(&mapRow{}).Where("id = ? AND deleted IS NULL AND open <> ''", id).Update("picked", is), ErrNoMap)
}

// SetTemplate says whether others are begun with a map.
func (s *Reach) SetTemplate(ctx context.Context, id cm.ID, is bool) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Model(&mapRow{}).Where("id = ?", id).Update("template", is), ErrNoMap)
	})
}

// EmptyBin deletes for good what was put into the bin before a time, and gives how many maps that were.
func (s *Store) EmptyBin(ctx context.Context, before time.Time) (int, error) {
	var ids []cm.ID
	err := s.db.WithContext(ctx).Model(&mapRow{}).Where("deleted <> ? AND deleted < ?", unfinished, before.UTC()).Pluck("id", &ids).Error
	for _, id := range ids {
		if err == nil {
			err = s.All().Destroy(ctx, id)
		}
	}
	return len(ids), err
}

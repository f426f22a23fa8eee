package store

import (
	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
)

// Scope is what somebody may reach in a folder. The zero value reaches nothing.
type Scope struct {
	// All tells that every map is reached, and all that its people keep for themselves.
	All bool
	// Map is the one map that is reached otherwise.
	Map cm.ID
}

// Everything is the scope of the one author, and of the program itself.
var Everything = Scope{All: true}

// OneMap is the scope of whoever has a link to a map.
func OneMap(id cm.ID) Scope { return Scope{Map: id} }

// Reach is a folder as far as somebody may reach: every query asks within a scope, so
// that a mistake elsewhere shows nothing that is not theirs. What lies outside is not
// there for them (ErrNoMap).
type Reach struct {
	*Store
	scope Scope
}

// For gives the folder as far as a scope reaches.
func (s *Store) For(scope Scope) *Reach { return &Reach{s, scope} }

// All gives all of the folder.
func (s *Store) All() *Reach { return s.For(Everything) }

// reaches refuses what lies outside the scope.
func (s *Reach) reaches(id cm.ID) error {
	if s.scope.All || id != "" && id == s.scope.Map {
		return nil
	}
	return ErrNoMap
}

// within narrows a query of maps to those in reach; id names the column of their ids.
func (s *Reach) within(db *gorm.DB, id string) *gorm.DB {
	if s.scope.All {
		return db
	}
	return db.Where(id+" = ?", s.scope.Map)
}

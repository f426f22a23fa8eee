package store

import (
	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// Scope is what somebody may reach in a folder. The zero value reaches nothing.
type Scope struct {
	// All tells that every map is reached, and all that its people keep for themselves.
	All bool
	// Map is a map that is reached otherwise, whose it may be.
	Map cm.ID
	// Person is whose maps are reached otherwise: those that are theirs, and those shared with them; and
	// what they keep for themselves.
	Person string
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
	if s.scope.Person != "" {
		var n int64
		if err := s.within(s.db.Model(&mapRow{}), "id").Where("id = ?", id).Count(&n).Error; err != nil {
			return err
		} else if n > 0 {
			return nil
		}
	}
	return ErrNoMap
}

// makes refuses a new map where somebody may make none, and tells whose it will be.
func (s *Reach) makes(id cm.ID) (owner string, err error) {
	switch {
	case s.scope.Person != "":
		return s.scope.Person, nil
	case s.scope.All || id == s.scope.Map:
		return people.FirstOwner, nil
	}
	return "", ErrNoMap
}

// keeps tells whether the scope reaches what somebody keeps for themselves.
func (s *Reach) keeps(person string) bool {
	return s.scope.All || person != "" && person == s.scope.Person
}

// sharedWith are the maps that are shared with somebody, each by itself or with a folder in which it is.
const sharedWith = `SELECT map_id FROM shares WHERE person = @person UNION SELECT id FROM maps WHERE folder IN (
	WITH RECURSIVE down(id) AS (SELECT folder FROM folder_shares WHERE person = @person UNION SELECT f.id FROM folders f JOIN down ON f.parent = down.id) SELECT id FROM down)`

// within narrows a query of maps to those in reach; id names the column of their ids.
func (s *Reach) within(db *gorm.DB, id string) *gorm.DB {
	if s.scope.All {
		return db
	}
	if s.scope.Person != "" {
		return db.Where(id+" IN (SELECT id FROM maps WHERE owner = @person UNION "+sharedWith+")", map[string]any{"person": s.scope.Person})
	}
	return db.Where(id+" = ?", s.scope.Map)
}

package store

import (
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/history"
	"mevrin/core/message"
	"mevrin/core/people"
)

type mapRow struct {
	ID       cm.ID     `gorm:"primaryKey"`
	Owner    string    // the person whose it is
	Head     cm.Header `gorm:"serializer:json"` // what the map says of itself
	Revision int
	Created  time.Time
	Changed  time.Time
	Deleted  *time.Time // when it was put into the bin
	Folder   string     // in which it is; empty for none
	Open     people.Right
	Template bool
	Picked   bool  // the owner of this Mevrin put it first among those that are open to all
	Suggests cm.ID // the map of which it is a sheet; empty for any other
}

func (mapRow) TableName() string { return "maps" }

// entityRow is anything on a map. Nothing is looked for by what it holds, but for what
// lists of maps show, so that a new member of an entity needs no column.
type entityRow struct {
	MapID  cm.ID `gorm:"primaryKey"`
	ID     cm.ID `gorm:"primaryKey"`
	Entity cm.Entity
	Body   string // as in a document
}

func (entityRow) TableName() string { return "entities" }

// fileRow records a file that is kept in the folder, and who brought it to which
// map.
type fileRow struct {
	MapID  cm.ID  `gorm:"primaryKey"`
	Hash   string `gorm:"primaryKey"`
	Type   string
	Size   int64
	W, H   int
	Name   string
	Made   time.Time
	Author string
}

func (fileRow) TableName() string { return "files" }

type entryRow struct {
	MapID      cm.ID `gorm:"primaryKey"`
	Revision   int   `gorm:"primaryKey"`
	ID         cm.ID
	Author     string
	Window     string
	At         time.Time
	Undoes     cm.ID
	Operations string
	Changes    []history.Change  `gorm:"serializer:json"`
	Moved      []draft.Moved     `gorm:"serializer:json"`
	Notices    []message.Message `gorm:"serializer:json"`
}

func (entryRow) TableName() string { return "entries" }

type grantRow struct {
	ID        string `gorm:"primaryKey"`
	MapID     cm.ID
	TokenHash []byte
	Access    Allows
	Route     cm.ID
	Created   time.Time
	Until     *time.Time
	Revoked   *time.Time
	Secret    string // the password, as it is kept; empty for none
	Most      int    // how many may open it; 0 for any number
	Used      int    // how many did, where that is counted
	Frame     *Frame `gorm:"serializer:json"`
}

func (grantRow) TableName() string { return "grants" }

type bankRow struct {
	Author  string `gorm:"primaryKey"`
	GroupID string `gorm:"primaryKey"`
	Folded  string `gorm:"primaryKey"` // the words as they are compared
	Words   string
	Removed bool
	Changed time.Time
}

func (bankRow) TableName() string { return "bank_phrases" }

type viewRow struct {
	MapID  cm.ID  `gorm:"primaryKey"`
	Person string `gorm:"primaryKey"`
	Tucked string // as scene.Tucked is written
}

func (viewRow) TableName() string { return "views" }

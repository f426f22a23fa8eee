package store

import (
	"time"

	cm "mevrin/core/conceptmap"
)

// The rows. Texts are JSON objects from language to words.

type mapRow struct {
	ID       cm.ID `gorm:"primaryKey"`
	Language cm.Lang
	Title    cm.Text `gorm:"serializer:json"`
	Question cm.Text `gorm:"serializer:json"`
	Focus    cm.ID
	Revision int
	Created  time.Time
	Changed  time.Time
	RulesOff map[string]bool `gorm:"serializer:json"`
	Tucked   map[cm.ID]bool  `gorm:"serializer:json"`
	Hand     cm.Hand
	Pattern  cm.Pattern
	Freely   bool
	KeepTidy bool
	Note     cm.Text             `gorm:"serializer:json"`
	KeyPlace *cm.KeyPlace        `gorm:"serializer:json"`
	Look     cm.Look             `gorm:"serializer:json"`
	Tray     map[cm.ID]cm.Source `gorm:"serializer:json"`
	Deleted  *time.Time          // when it was put into the bin
}

func (mapRow) TableName() string { return "maps" }

type conceptRow struct {
	MapID    cm.ID   `gorm:"primaryKey"`
	ID       cm.ID   `gorm:"primaryKey"`
	Label    cm.Text `gorm:"serializer:json"`
	Note     cm.Text `gorm:"serializer:json"`
	Kind     cm.ID
	Hold     cm.Hold
	Pattern  cm.Pattern
	Moment   string // the time that it belongs to
	X, Y     float64
	MainLink cm.ID
	MainFrom cm.ID
	MainTo   cm.ID
	Rank     string
	Size     int
	Bold     bool
	Italic   bool
	Align    cm.Align
	Width    float64
	Tags     map[cm.ID]bool      `gorm:"serializer:json"`
	Icons    []cm.Icon           `gorm:"serializer:json"`
	Amount   *cm.Amount          `gorm:"serializer:json"`
	Lasts    *cm.Amount          `gorm:"serializer:json"`
	Sources  map[cm.ID]cm.Source `gorm:"serializer:json"`
	Table    *cm.Table           `gorm:"serializer:json;column:cells"`
	Paint    *cm.Paint           `gorm:"serializer:json"`
	NoteCard *cm.NoteCard        `gorm:"serializer:json"`
	Remark   cm.Text             `gorm:"serializer:json"`
	Task     *cm.Task            `gorm:"serializer:json"`
	Votes    map[cm.ID]bool      `gorm:"serializer:json"`
}

func (conceptRow) TableName() string { return "concepts" }

type kindRow struct {
	MapID   cm.ID   `gorm:"primaryKey"`
	ID      cm.ID   `gorm:"primaryKey"`
	Name    cm.Text `gorm:"serializer:json"`
	Meaning cm.Text `gorm:"serializer:json"`
	Colour  cm.Colour
	Outline cm.Outline
	Icon    cm.Icon
	Links   bool
	Stroke  cm.Stroke
	Role    cm.Role
	Rank    string
}

func (kindRow) TableName() string { return "kinds" }

type linkRow struct {
	MapID   cm.ID   `gorm:"primaryKey"`
	ID      cm.ID   `gorm:"primaryKey"`
	Phrase  cm.Text `gorm:"serializer:json"`
	Note    cm.Text `gorm:"serializer:json"`
	Heads   cm.Heads
	Line    cm.Line
	Bends   map[cm.ID][]cm.Point `gorm:"serializer:json"`
	Along   float64
	Hub     *cm.Point `gorm:"serializer:json"`
	Tidied  bool
	Kind    cm.ID
	Sources map[cm.ID]cm.Source `gorm:"serializer:json"`

	NoteCard *cm.NoteCard `gorm:"serializer:json"`
}

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

func (linkRow) TableName() string { return "links" }

type endRow struct {
	MapID     cm.ID `gorm:"primaryKey"`
	LinkID    cm.ID `gorm:"primaryKey"`
	ID        cm.ID `gorm:"primaryKey"`
	Side      cm.Side
	ConceptID cm.ID
}

func (endRow) TableName() string { return "ends" }

// partRow is a tag, a region, a filter or a comment: what is small, and never looked for by
// what it holds.
type partRow struct {
	MapID  cm.ID `gorm:"primaryKey"`
	ID     cm.ID `gorm:"primaryKey"`
	Entity cm.Entity
	Body   string // as JSON
}

func (partRow) TableName() string { return "parts" }

type routeRow struct {
	MapID cm.ID   `gorm:"primaryKey"`
	ID    cm.ID   `gorm:"primaryKey"`
	Title cm.Text `gorm:"serializer:json"`
}

func (routeRow) TableName() string { return "routes" }

type stopRow struct {
	MapID      cm.ID `gorm:"primaryKey"`
	ID         cm.ID `gorm:"primaryKey"`
	RouteID    cm.ID
	Rank       string
	Title      cm.Text  `gorm:"serializer:json"`
	Card       cm.Text  `gorm:"serializer:json"`
	GuideNotes cm.Text  `gorm:"serializer:json"`
	Refs       []cm.Ref `gorm:"serializer:json"`
}

func (stopRow) TableName() string { return "stops" }

type entryRow struct {
	MapID      cm.ID `gorm:"primaryKey"`
	Revision   int   `gorm:"primaryKey"`
	ID         cm.ID
	Author     string
	Window     string
	At         time.Time
	Undoes     cm.ID
	Operations string
	Changes    []cm.Change `gorm:"serializer:json"`
	Moved      []cm.Moved  `gorm:"serializer:json"`
	Notices    []string    `gorm:"serializer:json"`
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

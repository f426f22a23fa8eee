package store

import (
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"

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

// partRow is a tag, a region or a filter: what is small, and never looked for by
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

// migrations lead from any earlier version to this one. Each is final once
// released: what changes later is a new one.
var migrations = []*gormigrate.Migration{
	{ID: "0001-maps", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`CREATE TABLE maps (id text PRIMARY KEY, language text NOT NULL, title text, question text, focus text NOT NULL,
				revision integer NOT NULL CHECK (revision >= 0), created datetime NOT NULL, changed datetime NOT NULL)`,
			`CREATE TABLE concepts (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
				label text, note text, x real NOT NULL, y real NOT NULL,
				main_link text NOT NULL, main_from text NOT NULL, main_to text NOT NULL, rank text NOT NULL,
				PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
			`CREATE TABLE links (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
				phrase text, note text, heads text NOT NULL CHECK (heads IN ('one', 'both', 'none')),
				PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
			`CREATE TABLE ends (map_id text NOT NULL, link_id text NOT NULL, id text NOT NULL,
				side text NOT NULL CHECK (side IN ('from', 'to')), concept_id text NOT NULL,
				PRIMARY KEY (map_id, link_id, id),
				FOREIGN KEY (map_id, link_id) REFERENCES links(map_id, id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
				FOREIGN KEY (map_id, concept_id) REFERENCES concepts(map_id, id) DEFERRABLE INITIALLY DEFERRED) WITHOUT ROWID`,
			`CREATE INDEX ends_by_concept ON ends (map_id, concept_id)`,
			`CREATE TABLE routes (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL, title text,
				PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
			`CREATE TABLE stops (map_id text NOT NULL, id text NOT NULL, route_id text NOT NULL, rank text NOT NULL,
				title text, card text, guide_notes text, refs text, PRIMARY KEY (map_id, id),
				FOREIGN KEY (map_id, route_id) REFERENCES routes(map_id, id) DEFERRABLE INITIALLY DEFERRED) WITHOUT ROWID`,
			`CREATE INDEX stops_by_route ON stops (map_id, route_id)`,
			`CREATE TABLE entries (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, revision integer NOT NULL,
				id text NOT NULL, author text NOT NULL, window text NOT NULL, at datetime NOT NULL, undoes text NOT NULL,
				operations text NOT NULL, changes text NOT NULL, moved text, notices text,
				PRIMARY KEY (map_id, revision), UNIQUE (map_id, id)) WITHOUT ROWID`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0002-bin-rules-grants", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`ALTER TABLE maps ADD COLUMN rules_off text`,
			`ALTER TABLE maps ADD COLUMN deleted datetime`,
			`CREATE TABLE grants (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE,
				token_hash blob NOT NULL UNIQUE, access text NOT NULL CHECK (access IN ('walk')), route text NOT NULL,
				created datetime NOT NULL, until datetime, revoked datetime)`,
			`CREATE INDEX grants_by_map ON grants (map_id)`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0003-bank-phrases", Migrate: func(db *gorm.DB) error {
		return db.Exec(`CREATE TABLE bank_phrases (author text NOT NULL, group_id text NOT NULL, folded text NOT NULL, words text NOT NULL,
			removed integer NOT NULL, changed datetime NOT NULL, PRIMARY KEY (author, group_id, folded)) WITHOUT ROWID`).Error
	}},
	{ID: "0004-lines-labels-views", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`ALTER TABLE maps ADD COLUMN tucked text`,
			`ALTER TABLE concepts ADD COLUMN size integer NOT NULL DEFAULT 0`,
			`ALTER TABLE concepts ADD COLUMN bold integer NOT NULL DEFAULT 0`,
			`ALTER TABLE concepts ADD COLUMN italic integer NOT NULL DEFAULT 0`,
			`ALTER TABLE concepts ADD COLUMN align text NOT NULL DEFAULT ''`,
			`ALTER TABLE concepts ADD COLUMN width real NOT NULL DEFAULT 0`,
			`ALTER TABLE concepts ADD COLUMN sources text`,
			`ALTER TABLE links ADD COLUMN line text NOT NULL DEFAULT ''`,
			`ALTER TABLE links ADD COLUMN bends text`,
			`ALTER TABLE links ADD COLUMN along real NOT NULL DEFAULT 0`,
			`ALTER TABLE links ADD COLUMN hub text`,
			`CREATE TABLE views (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, person text NOT NULL,
				tucked text NOT NULL, PRIMARY KEY (map_id, person)) WITHOUT ROWID`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0005-kinds-hand", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`CREATE TABLE kinds (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
				name text, meaning text, colour text NOT NULL, outline text NOT NULL, rank text NOT NULL,
				PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
			`ALTER TABLE concepts ADD COLUMN kind text NOT NULL DEFAULT ''`,
			`ALTER TABLE maps ADD COLUMN hand text NOT NULL DEFAULT ''`,
			// A check cannot be altered: the table is made anew, wider.
			`CREATE TABLE grants_next (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE,
				token_hash blob NOT NULL UNIQUE, access text NOT NULL CHECK (access IN ('walk', 'hand')), route text NOT NULL,
				created datetime NOT NULL, until datetime, revoked datetime)`,
			`INSERT INTO grants_next SELECT id, map_id, token_hash, access, route, created, until, revoked FROM grants`,
			`DROP TABLE grants`,
			`ALTER TABLE grants_next RENAME TO grants`,
			`CREATE INDEX grants_by_map ON grants (map_id)`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0006-patterns", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`ALTER TABLE maps ADD COLUMN pattern text NOT NULL DEFAULT ''`,
			`ALTER TABLE maps ADD COLUMN freely integer NOT NULL DEFAULT 0`,
			`ALTER TABLE maps ADD COLUMN keep_tidy integer NOT NULL DEFAULT 0`,
			`ALTER TABLE concepts ADD COLUMN hold text NOT NULL DEFAULT ''`,
			`ALTER TABLE concepts ADD COLUMN pattern text NOT NULL DEFAULT ''`,
			`ALTER TABLE concepts ADD COLUMN moment text NOT NULL DEFAULT ''`,
			`ALTER TABLE links ADD COLUMN tidied integer NOT NULL DEFAULT 0`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0007-tags-regions-filters", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`ALTER TABLE maps ADD COLUMN note text`,
			`ALTER TABLE maps ADD COLUMN key_place text`,
			`ALTER TABLE concepts ADD COLUMN tags text`,
			`ALTER TABLE concepts ADD COLUMN icons text`,
			`ALTER TABLE concepts ADD COLUMN amount text`,
			`ALTER TABLE concepts ADD COLUMN lasts text`,
			`ALTER TABLE kinds ADD COLUMN icon text NOT NULL DEFAULT ''`,
			`ALTER TABLE kinds ADD COLUMN links integer NOT NULL DEFAULT 0`,
			`ALTER TABLE kinds ADD COLUMN stroke text NOT NULL DEFAULT ''`,
			`ALTER TABLE links ADD COLUMN kind text NOT NULL DEFAULT ''`,
			`CREATE TABLE parts (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
				entity text NOT NULL CHECK (entity IN ('tag', 'region', 'filter')), body text NOT NULL,
				PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0008-roles", Migrate: func(db *gorm.DB) error {
		return db.Exec(`ALTER TABLE kinds ADD COLUMN role text NOT NULL DEFAULT ''`).Error
	}},
	{ID: "0009-files", Migrate: func(db *gorm.DB) error {
		for _, statement := range []string{
			`ALTER TABLE concepts ADD COLUMN cells text`,
			`ALTER TABLE concepts ADD COLUMN paint text`,
			`ALTER TABLE maps ADD COLUMN look text`,
			`ALTER TABLE maps ADD COLUMN tray text`,
			`ALTER TABLE links ADD COLUMN sources text`,
			`CREATE TABLE files (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, hash text NOT NULL, type text NOT NULL,
				size integer NOT NULL, w integer NOT NULL, h integer NOT NULL, name text NOT NULL, made datetime NOT NULL, author text NOT NULL,
				PRIMARY KEY (map_id, hash)) WITHOUT ROWID`,
		} {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}},
	{ID: "0010-looks", Migrate: func(db *gorm.DB) error {
		return db.Exec(`CREATE TABLE looks (author text NOT NULL, folded text NOT NULL, name text NOT NULL, look text NOT NULL, PRIMARY KEY (author, folded)) WITHOUT ROWID`).Error
	}},
}

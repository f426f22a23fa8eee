package store

import (
	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"
)

// migrations lead from any earlier version to this one. Each is final once
// released: what changes later is a new one.
var migrations = []*gormigrate.Migration{
	{ID: "0001-maps", Migrate: statements(
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
	)},
	{ID: "0002-bin-rules-grants", Migrate: statements(
		`ALTER TABLE maps ADD COLUMN rules_off text`,
		`ALTER TABLE maps ADD COLUMN deleted datetime`,
		`CREATE TABLE grants (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE,
				token_hash blob NOT NULL UNIQUE, access text NOT NULL CHECK (access IN ('walk')), route text NOT NULL,
				created datetime NOT NULL, until datetime, revoked datetime)`,
		`CREATE INDEX grants_by_map ON grants (map_id)`,
	)},
	{ID: "0003-bank-phrases", Migrate: statements(
		`CREATE TABLE bank_phrases (author text NOT NULL, group_id text NOT NULL, folded text NOT NULL, words text NOT NULL,
			removed integer NOT NULL, changed datetime NOT NULL, PRIMARY KEY (author, group_id, folded)) WITHOUT ROWID`,
	)},
	{ID: "0004-lines-labels-views", Migrate: statements(
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
	)},
	{ID: "0005-kinds-hand", Migrate: statements(
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
	)},
	{ID: "0006-patterns", Migrate: statements(
		`ALTER TABLE maps ADD COLUMN pattern text NOT NULL DEFAULT ''`,
		`ALTER TABLE maps ADD COLUMN freely integer NOT NULL DEFAULT 0`,
		`ALTER TABLE maps ADD COLUMN keep_tidy integer NOT NULL DEFAULT 0`,
		`ALTER TABLE concepts ADD COLUMN hold text NOT NULL DEFAULT ''`,
		`ALTER TABLE concepts ADD COLUMN pattern text NOT NULL DEFAULT ''`,
		`ALTER TABLE concepts ADD COLUMN moment text NOT NULL DEFAULT ''`,
		`ALTER TABLE links ADD COLUMN tidied integer NOT NULL DEFAULT 0`,
	)},
	{ID: "0007-tags-regions-filters", Migrate: statements(
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
	)},
	{ID: "0008-roles", Migrate: statements(
		`ALTER TABLE kinds ADD COLUMN role text NOT NULL DEFAULT ''`,
	)},
	{ID: "0009-files", Migrate: statements(
		`ALTER TABLE concepts ADD COLUMN cells text`,
		`ALTER TABLE concepts ADD COLUMN paint text`,
		`ALTER TABLE maps ADD COLUMN look text`,
		`ALTER TABLE maps ADD COLUMN tray text`,
		`ALTER TABLE links ADD COLUMN sources text`,
		`CREATE TABLE files (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, hash text NOT NULL, type text NOT NULL,
				size integer NOT NULL, w integer NOT NULL, h integer NOT NULL, name text NOT NULL, made datetime NOT NULL, author text NOT NULL,
				PRIMARY KEY (map_id, hash)) WITHOUT ROWID`,
	)},
	{ID: "0010-looks", Migrate: statements(
		`CREATE TABLE looks (author text NOT NULL, folded text NOT NULL, name text NOT NULL, look text NOT NULL, PRIMARY KEY (author, folded)) WITHOUT ROWID`,
	)},
	{ID: "0011-talk-tasks", Migrate: statements(
		`ALTER TABLE concepts ADD COLUMN note_card text`,
		`ALTER TABLE concepts ADD COLUMN remark text`,
		`ALTER TABLE concepts ADD COLUMN task text`,
		`ALTER TABLE concepts ADD COLUMN votes text`,
		`ALTER TABLE links ADD COLUMN note_card text`,
		// A check cannot be altered: the table is made anew, wider.
		`CREATE TABLE parts_next (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
			entity text NOT NULL CHECK (entity IN ('tag', 'region', 'filter', 'comment')), body text NOT NULL,
			PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
		`INSERT INTO parts_next SELECT map_id, id, entity, body FROM parts`,
		`DROP TABLE parts`,
		`ALTER TABLE parts_next RENAME TO parts`,
	)},
	{ID: "0012-entities", Migrate: statements(
		// One row for each entity, its body as in a document, so that a new member needs no
		// column. What is empty is left out: merging into nothing drops what is null.
		`CREATE TABLE entities (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
			entity text NOT NULL, body text NOT NULL, PRIMARY KEY (map_id, id)) WITHOUT ROWID`,
		`CREATE INDEX entities_by_sort ON entities (map_id, entity)`,
		`INSERT INTO entities SELECT map_id, id, 'kind', json_patch('{}', json_object('id', id, 'name', json(name), 'meaning', json(meaning),
			'colour', nullif(colour, ''), 'outline', nullif(outline, ''), 'icon', nullif(icon, ''), 'links', CASE WHEN links THEN json('true') END,
			'stroke', nullif(stroke, ''), 'role', nullif(role, ''), 'rank', rank)) FROM kinds`,
		`INSERT INTO entities SELECT map_id, id, entity, body FROM parts`,
		`INSERT INTO entities SELECT map_id, id, 'concept', json_patch('{}', json_object('id', id, 'label', json(label), 'note', json(note),
			'noteCard', json(note_card), 'remark', json(remark), 'at', json_object('x', x, 'y', y),
			'main', CASE WHEN main_link <> '' THEN json_object('link', main_link, 'from', main_from, 'to', main_to, 'rank', rank) END,
			'kind', nullif(kind, ''), 'tags', json(tags), 'paint', json(paint), 'icons', json(icons), 'amount', json(amount), 'lasts', json(lasts),
			'hold', nullif(hold, ''), 'pattern', nullif(pattern, ''), 'when', nullif(moment, ''), 'size', nullif(size, 0),
			'bold', CASE WHEN bold THEN json('true') END, 'italic', CASE WHEN italic THEN json('true') END, 'align', nullif(align, ''),
			'width', nullif(width, 0), 'table', json(cells), 'sources', json(sources), 'task', json(task), 'votes', json(votes))) FROM concepts`,
		`INSERT INTO entities SELECT map_id, id, 'link', json_patch('{}', json_object('id', id, 'phrase', json(phrase), 'note', json(note),
			'noteCard', json(note_card), 'kind', nullif(kind, ''), 'heads', heads, 'line', nullif(line, ''), 'bends', json(bends), 'along', nullif(along, 0),
			'hub', json(hub), 'tidied', CASE WHEN tidied THEN json('true') END, 'sources', json(sources),
			'from', json((SELECT json_group_array(json_object('id', e.id, 'concept', e.concept_id)) FROM
				(SELECT * FROM ends WHERE map_id = links.map_id AND link_id = links.id AND side = 'from' ORDER BY id) e)),
			'to', json((SELECT json_group_array(json_object('id', e.id, 'concept', e.concept_id)) FROM
				(SELECT * FROM ends WHERE map_id = links.map_id AND link_id = links.id AND side = 'to' ORDER BY id) e)))) FROM links`,
		`INSERT INTO entities SELECT map_id, id, 'route', json_patch('{}', json_object('id', id, 'title', json(title))) FROM routes`,
		`INSERT INTO entities SELECT map_id, id, 'stop', json_patch('{}', json_object('id', id, 'route', route_id, 'rank', rank, 'title', json(title),
			'card', json(card), 'guideNotes', json(guide_notes), 'refs', json(refs))) FROM stops`,
		`ALTER TABLE maps ADD COLUMN head text NOT NULL DEFAULT '{}'`,
		`UPDATE maps SET head = json_patch('{}', json_object('language', language, 'title', json(title), 'question', json(question), 'focus', nullif(focus, ''),
			'rulesOff', json(rules_off), 'tucked', json(tucked), 'hand', nullif(hand, ''), 'pattern', nullif(pattern, ''),
			'freely', CASE WHEN freely THEN json('true') END, 'keepTidy', CASE WHEN keep_tidy THEN json('true') END, 'note', json(note),
			'keyPlace', json(key_place), 'look', json(look), 'tray', json(tray)))`,
		`DROP TABLE stops`, `DROP TABLE routes`, `DROP TABLE ends`, `DROP TABLE links`, `DROP TABLE concepts`, `DROP TABLE parts`, `DROP TABLE kinds`,
		`ALTER TABLE maps DROP COLUMN language`, `ALTER TABLE maps DROP COLUMN title`, `ALTER TABLE maps DROP COLUMN question`, `ALTER TABLE maps DROP COLUMN focus`,
		`ALTER TABLE maps DROP COLUMN rules_off`, `ALTER TABLE maps DROP COLUMN tucked`, `ALTER TABLE maps DROP COLUMN hand`, `ALTER TABLE maps DROP COLUMN pattern`,
		`ALTER TABLE maps DROP COLUMN freely`, `ALTER TABLE maps DROP COLUMN keep_tidy`, `ALTER TABLE maps DROP COLUMN note`, `ALTER TABLE maps DROP COLUMN key_place`,
		`ALTER TABLE maps DROP COLUMN look`, `ALTER TABLE maps DROP COLUMN tray`,
	)},
	{ID: "0013-judges-kept-understood", Migrate: statements(
		// A check cannot be altered: the table is made anew, wider.
		`CREATE TABLE grants_next (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE,
			token_hash blob NOT NULL UNIQUE, access text NOT NULL CHECK (access IN ('walk', 'hand', 'judge')), route text NOT NULL,
			created datetime NOT NULL, until datetime, revoked datetime)`,
		`INSERT INTO grants_next SELECT id, map_id, token_hash, access, route, created, until, revoked FROM grants`,
		`DROP TABLE grants`,
		`ALTER TABLE grants_next RENAME TO grants`,
		`CREATE INDEX grants_by_map ON grants (map_id)`,
		// What an author keeps for other maps: looks, briefs, how rules are set.
		`CREATE TABLE kept (author text NOT NULL, sort text NOT NULL, folded text NOT NULL, name text NOT NULL, body text NOT NULL,
			PRIMARY KEY (author, sort, folded)) WITHOUT ROWID`,
		`INSERT INTO kept SELECT author, 'look', folded, name, look FROM looks`,
		`DROP TABLE looks`,
		`CREATE TABLE understood (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, person text NOT NULL,
			marks text NOT NULL, PRIMARY KEY (map_id, person)) WITHOUT ROWID`,
	)},
	{ID: "0014-walked", Migrate: statements(
		// At which revision somebody went along a route last.
		`CREATE TABLE walked (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, person text NOT NULL, route text NOT NULL,
			revision integer NOT NULL, at datetime NOT NULL, PRIMARY KEY (map_id, person, route)) WITHOUT ROWID`,
	)},
	{ID: "0015-pictures", Migrate: statements(
		// A link may allow to see the picture of a map.
		`CREATE TABLE grants_next (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE,
			token_hash blob NOT NULL UNIQUE, access text NOT NULL CHECK (access IN ('walk', 'hand', 'judge', 'picture')), route text NOT NULL,
			created datetime NOT NULL, until datetime, revoked datetime)`,
		`INSERT INTO grants_next SELECT id, map_id, token_hash, access, route, created, until, revoked FROM grants`,
		`DROP TABLE grants`,
		`ALTER TABLE grants_next RENAME TO grants`,
		`CREATE INDEX grants_by_map ON grants (map_id)`,
	)},
	{ID: "0016-people", Migrate: statements(
		// Those who have accounts; whose a map is, and with whom it is shared.
		`CREATE TABLE people (id text PRIMARY KEY, name text NOT NULL, mail text NOT NULL UNIQUE, secret text NOT NULL,
			role text NOT NULL CHECK (role IN ('owner', 'author', 'learner')), since datetime NOT NULL) WITHOUT ROWID`,
		`CREATE TABLE signins (hash blob PRIMARY KEY, id text NOT NULL UNIQUE, person text NOT NULL REFERENCES people(id) ON DELETE CASCADE,
			device text NOT NULL, since datetime NOT NULL, seen datetime NOT NULL) WITHOUT ROWID`,
		`CREATE INDEX signins_by_person ON signins (person)`,
		`CREATE TABLE tickets (hash blob PRIMARY KEY, sort text NOT NULL CHECK (sort IN ('invitation', 'password')), mail text NOT NULL,
			role text NOT NULL, until datetime NOT NULL) WITHOUT ROWID`,
		`CREATE TABLE letters (id integer PRIMARY KEY, recipient text NOT NULL, subject text NOT NULL, body text NOT NULL, made datetime NOT NULL)`,
		`CREATE TABLE audit (id integer PRIMARY KEY, at datetime NOT NULL, person text NOT NULL, deed text NOT NULL, about text NOT NULL)`,
		`ALTER TABLE maps ADD COLUMN owner text NOT NULL DEFAULT 'author'`,
		`CREATE INDEX maps_by_owner ON maps (owner)`,
		`CREATE TABLE shares (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, person text NOT NULL REFERENCES people(id) ON DELETE CASCADE,
			allows text NOT NULL CHECK (allows IN ('look', 'edit', 'own')), since datetime NOT NULL, PRIMARY KEY (map_id, person)) WITHOUT ROWID`,
		`CREATE INDEX shares_by_person ON shares (person)`,
	)},
	{ID: "0017-limits", Migrate: statements(
		// A link may ask for a password, and be good for so many who open it.
		`ALTER TABLE grants ADD COLUMN secret text NOT NULL DEFAULT ''`,
		`ALTER TABLE grants ADD COLUMN most integer NOT NULL DEFAULT 0`,
		`ALTER TABLE grants ADD COLUMN used integer NOT NULL DEFAULT 0`,
	)},
	{ID: "0018-versions", Migrate: statements(
		// States of a map that somebody gave a name.
		`CREATE TABLE versions (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, revision integer NOT NULL, name text NOT NULL,
			person text NOT NULL, at datetime NOT NULL, PRIMARY KEY (map_id, revision)) WITHOUT ROWID`,
	)},
	{ID: "0019-search", Migrate: statements(
		// The words of all entities, as they are searched.
		`CREATE TABLE words (n integer PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, id text NOT NULL,
			entity text NOT NULL, words text NOT NULL, UNIQUE (map_id, id))`,
		`CREATE VIRTUAL TABLE found USING fts5(words, content='words', content_rowid='n', tokenize='unicode61 remove_diacritics 2', prefix='2 3')`,
		`CREATE TRIGGER words_made AFTER INSERT ON words BEGIN INSERT INTO found(rowid, words) VALUES (new.n, new.words); END`,
		`CREATE TRIGGER words_gone AFTER DELETE ON words BEGIN INSERT INTO found(found, rowid, words) VALUES ('delete', old.n, old.words); END`,
		`CREATE TRIGGER words_altered AFTER UPDATE ON words BEGIN INSERT INTO found(found, rowid, words) VALUES ('delete', old.n, old.words);
			INSERT INTO found(rowid, words) VALUES (new.n, new.words); END`,
	)},
	{ID: "0020-folders-rights", Migrate: statements(
		// Folders of the maps of one person, in each other; whoever may do something with a folder may with all in it.
		`CREATE TABLE folders (id text PRIMARY KEY, owner text NOT NULL, parent text NOT NULL, name text NOT NULL, created datetime NOT NULL) WITHOUT ROWID`,
		`CREATE INDEX folders_by_owner ON folders (owner, parent)`,
		`CREATE TABLE folder_shares (folder text NOT NULL REFERENCES folders(id) ON DELETE CASCADE, person text NOT NULL REFERENCES people(id) ON DELETE CASCADE,
			allows text NOT NULL, since datetime NOT NULL, PRIMARY KEY (folder, person)) WITHOUT ROWID`,
		`CREATE INDEX folder_shares_by_person ON folder_shares (person)`,
		// In which folder a map is, what everybody may do with it, and whether it is one to begin others with.
		`ALTER TABLE maps ADD COLUMN folder text NOT NULL DEFAULT ''`,
		`ALTER TABLE maps ADD COLUMN open text NOT NULL DEFAULT ''`,
		`ALTER TABLE maps ADD COLUMN template integer NOT NULL DEFAULT 0`,
		`CREATE INDEX maps_by_folder ON maps (folder)`,
		`CREATE INDEX maps_open ON maps (changed) WHERE open <> ''`,
		// What rights and links there are is said in the code: a check here would have to be made anew each time.
		// Whoever could look could take a copy until now.
		`CREATE TABLE shares_next (map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, person text NOT NULL REFERENCES people(id) ON DELETE CASCADE,
			allows text NOT NULL, since datetime NOT NULL, PRIMARY KEY (map_id, person)) WITHOUT ROWID`,
		`INSERT INTO shares_next SELECT map_id, person, CASE allows WHEN 'look' THEN 'copy' ELSE allows END, since FROM shares`,
		`DROP TABLE shares`,
		`ALTER TABLE shares_next RENAME TO shares`,
		`CREATE INDEX shares_by_person ON shares (person)`,
		`CREATE TABLE grants_next (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE,
			token_hash blob NOT NULL UNIQUE, access text NOT NULL, route text NOT NULL, created datetime NOT NULL, until datetime, revoked datetime,
			secret text NOT NULL DEFAULT '', most integer NOT NULL DEFAULT 0, used integer NOT NULL DEFAULT 0)`,
		`INSERT INTO grants_next SELECT id, map_id, token_hash, access, route, created, until, revoked, secret, most, used FROM grants`,
		`DROP TABLE grants`,
		`ALTER TABLE grants_next RENAME TO grants`,
		`CREATE INDEX grants_by_map ON grants (map_id)`,
	)},
	{ID: "0021-suggestions", Migrate: statements(
		`CREATE TABLE suggestions (id text PRIMARY KEY, map_id text NOT NULL REFERENCES maps(id) ON DELETE CASCADE, person text NOT NULL, name text NOT NULL,
			at datetime NOT NULL, operations text NOT NULL, reason text NOT NULL, state text NOT NULL, decided datetime, decider text NOT NULL) WITHOUT ROWID`,
		`CREATE INDEX suggestions_by_map ON suggestions (map_id, state)`,
		`CREATE TABLE suggestion_answers (suggestion text NOT NULL REFERENCES suggestions(id) ON DELETE CASCADE, n integer NOT NULL, person text NOT NULL, name text NOT NULL,
			at datetime NOT NULL, words text NOT NULL, PRIMARY KEY (suggestion, n)) WITHOUT ROWID`,
	)},
	{ID: "0022-frames", Migrate: statements(
		// On which pages of others a map may stand in a frame, and how large.
		`ALTER TABLE grants ADD COLUMN frame text`,
	)},
	{ID: "0023-letters-identities", Migrate: statements(
		// When a letter was sent, how often that was tried, and why it was not.
		`ALTER TABLE letters ADD COLUMN sent datetime`,
		`ALTER TABLE letters ADD COLUMN tries integer NOT NULL DEFAULT 0`,
		`ALTER TABLE letters ADD COLUMN fault text NOT NULL DEFAULT ''`,
		// Who somebody is at the school's identity.
		`CREATE TABLE identities (issuer text NOT NULL, subject text NOT NULL, person text NOT NULL REFERENCES people(id) ON DELETE CASCADE,
			PRIMARY KEY (issuer, subject)) WITHOUT ROWID`,
		`CREATE INDEX identities_by_person ON identities (person)`,
	)},
	{ID: "0024-sentences", Migrate: statements(
		// The words of links are those of their whole sentences now; they are made anew when the folder is opened.
		`DELETE FROM words`,
	)},
	{ID: "0025-sheets", Migrate: statements(
		// A copy on which somebody does what they would alter on another map.
		`ALTER TABLE maps ADD COLUMN suggests text NOT NULL DEFAULT ''`,
		`CREATE INDEX maps_suggest ON maps (suggests, owner) WHERE suggests <> ''`,
	)},
	{ID: "0026-picked", Migrate: statements(
		// Maps that are open to all and stand first there.
		`ALTER TABLE maps ADD COLUMN picked boolean NOT NULL DEFAULT false`,
		`DROP INDEX maps_open`,
		`CREATE INDEX maps_open ON maps (picked DESC, changed DESC, id) WHERE open <> ''`,
	)},
}

// statements gives a migration that carries out some statements in order.
func statements(all ...string) gormigrate.MigrateFunc {
	return func(db *gorm.DB) error {
		for _, statement := range all {
			if err := db.Exec(statement).Error; err != nil {
				return err
			}
		}
		return nil
	}
}

package store

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
)

// wordsRow holds all words of an entity, as they are searched: an index of SQLite's FTS5 follows it by
// triggers. It is worked out of the entities, and made anew where it is missing.
type wordsRow struct {
	N      int64 `gorm:"primaryKey"`
	MapID  cm.ID
	ID     cm.ID // empty for what the map says of itself
	Entity cm.Entity
	Words  string
}

func (wordsRow) TableName() string { return "words" }

// sought are the sorts of things that are searched.
var sought = []cm.Entity{cm.EntityMap, cm.EntityConcept, cm.EntityLink, cm.EntityRoute, cm.EntityStop, cm.EntityTag, cm.EntityRegion}

// wordsOf gives all words of an entity, in all languages, with the names of its sources; empty where there
// are none, or they are not searched.
func wordsOf(m *cm.Map, key cm.Key) string {
	if !slices.Contains(sought, key.Kind) {
		return ""
	}
	d := cm.Describe(key.Kind)
	entity := d.Get(m, key.ID)
	if entity == nil {
		return ""
	}
	var all []string
	for _, t := range d.Texts(entity) {
		for _, lang := range slices.Sorted(keysOf(*t)) {
			all = append(all, (*t)[lang])
		}
	}
	var sources map[cm.ID]cm.Source
	switch e := entity.(type) {
	case *cm.Concept:
		sources = e.Sources
	case *cm.Link:
		sources = e.Sources
		// A link is found by the whole sentence that it makes.
		for _, end := range e.Ends() {
			if c := m.Concepts[end.Concept]; c != nil {
				for _, lang := range slices.Sorted(keysOf(c.Label)) {
					all = append(all, c.Label[lang])
				}
			}
		}
	}
	for _, id := range cm.SourceList(sources) {
		all = append(all, sources[id].Name())
	}
	return strings.TrimSpace(strings.Join(all, "\n"))
}

func keysOf(t cm.Text) func(yield func(cm.Lang) bool) {
	return func(yield func(cm.Lang) bool) {
		for lang := range t {
			if !yield(lang) {
				return
			}
		}
	}
}

// index gives what brings the words of everything that changed to its next state.
func (s *Store) index(changes []history.Change, next *cm.Map) (all []statement, err error) {
	var rows []wordsRow
	for _, c := range withSentences(changes, next) {
		id := c.ID
		if c.Kind == cm.EntityMap {
			id = ""
		}
		if words := wordsOf(next, c.Key); words != "" {
			rows = append(rows, wordsRow{MapID: next.ID, ID: id, Entity: c.Kind, Words: words})
			continue
		}
		one, err := ready(s.dry().Where("map_id = ? AND id = ?", next.ID, id).Delete(&wordsRow{}))
		if err != nil {
			return nil, err
		}
		all = append(all, one)
	}
	for some := range slices.Chunk(rows, batch) {
		one, err := ready(s.dry().Omit("N").Clauses(clause.OnConflict{
			Columns: []clause.Column{{Name: "map_id"}, {Name: "id"}}, DoUpdates: clause.AssignmentColumns([]string{"words", "entity"}),
			Where: clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: "words.words <> excluded.words"}}}, // most changes are of places
		}).Create(some))
		if err != nil {
			return nil, err
		}
		all = append(all, one)
	}
	return all, nil
}

// withSentences adds to what changed the links whose sentences a change of a label alters.
func withSentences(changes []history.Change, next *cm.Map) []history.Change {
	relabelled, there := map[cm.ID]bool{}, map[cm.ID]bool{}
	for _, c := range changes {
		switch c.Kind {
		case cm.EntityConcept:
			if hasLabel(c.Before) || hasLabel(c.After) { // most changes are of places
				relabelled[c.ID] = true
			}
		case cm.EntityLink:
			there[c.ID] = true
		}
	}
	if len(relabelled) == 0 {
		return changes
	}
	all := slices.Clip(changes)
	for id, l := range next.Links {
		if !there[id] && slices.ContainsFunc(l.Ends(), func(e cm.End) bool { return relabelled[e.Concept] }) {
			all = append(all, history.Change{Key: cm.Key{Kind: cm.EntityLink, ID: id}})
		}
	}
	return all
}

// hasLabel tells whether a label is among the fields of a change.
func hasLabel(fields history.Fields) bool {
	for name := range fields {
		if strings.HasPrefix(name, "label/") {
			return true
		}
	}
	return false
}

// indexAll makes the words of all maps anew where there are none: of a folder of an earlier version.
func (s *Store) indexAll() error {
	var missing []cm.ID
	err := s.db.Raw(`SELECT DISTINCT map_id FROM entities WHERE map_id NOT IN (SELECT DISTINCT map_id FROM words)`).Scan(&missing).Error
	if err != nil {
		return err
	}
	for _, id := range missing {
		var head mapRow
		var rows []entityRow
		if err := s.db.Take(&head, "id = ?", id).Error; err != nil {
			return err
		}
		if err := s.db.Where("map_id = ?", id).Find(&rows).Error; err != nil {
			return err
		}
		m := cm.NewMap(id, head.Head.Language)
		m.Header = head.Head
		for _, row := range rows {
			if err := row.into(m); err != nil {
				return fmt.Errorf("map %s: %w", id, err)
			}
		}
		words, err := s.index(history.Contents(m), m)
		if err == nil {
			err = s.transaction(context.Background(), func(tx *gorm.DB) error { return run(tx, words) })
		}
		if err != nil {
			return fmt.Errorf("map %s: %w", id, err)
		}
	}
	return nil
}

// Hit is something whose words were sought.
type Hit struct {
	MapID  cm.ID
	Entity cm.Entity
	ID     cm.ID
	Words  string // around what was found, each text on lines of its own
	// From and To are the concepts of a link; the words are its phrase then.
	From, To string
}

// Search gives what holds all of some words, or words that begin with them, on maps that are not in the bin:
// the best first, at most so many.
func (s *Reach) Search(ctx context.Context, words string, most int) ([]Hit, error) {
	query := matching(words)
	if query == "" {
		return nil, nil
	}
	var rows []struct {
		MapID  cm.ID
		Entity cm.Entity
		ID     cm.ID
		Words  string
		Body   string
		Lang   cm.Lang
	}
	db := s.db.WithContext(ctx)
	reached := s.within(db.Model(&mapRow{}).Select("id").Where("deleted IS NULL AND suggests = ''"), "id")
	// With FTS5, or PostgreSQL's own text search; either knows beginnings of words, and no language's endings.
	around, from, which, order := "snippet(found, 0, '', '', '…', 16)", "found JOIN words w ON w.n = found.rowid", "found MATCH @words", "rank"
	if s.Served() {
		query = strings.ReplaceAll(strings.ReplaceAll(query, `"*`, ":*"), `"`, "")
		query = strings.Join(strings.Fields(query), " & ")
		around = "CASE WHEN length(w.words) < 120 THEN w.words ELSE ts_headline('simple', w.words, q, 'StartSel=\"\",StopSel=\"\",MaxFragments=1,MaxWords=16,MinWords=6') END"
		from = "words w CROSS JOIN to_tsquery('simple', " + withoutAccents("@words") + ") q"
		which, order = "w.found @@ q", "ts_rank(w.found, q) DESC, w.n"
	}
	err := db.Raw("SELECT w.map_id, w.entity, w.id, "+around+" AS words, coalesce(e.body, '') AS body, "+s.member("m.head", "language")+` AS lang
		FROM `+from+` JOIN maps m ON m.id = w.map_id LEFT JOIN entities e ON w.entity = 'link' AND e.map_id = w.map_id AND e.id = w.id
		WHERE `+which+` AND w.map_id IN (@reached) ORDER BY `+order+` LIMIT @most`, map[string]any{"words": query, "reached": reached, "most": most}).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("seeking words: %w", err)
	}
	all, links, ends := make([]Hit, len(rows)), map[int]cm.Link{}, [][]any{}
	for i, r := range rows {
		all[i] = Hit{MapID: r.MapID, Entity: r.Entity, ID: r.ID, Words: strings.TrimSpace(r.Words)}
		var l cm.Link
		if r.Body == "" || json.Unmarshal([]byte(r.Body), &l) != nil || len(l.From) == 0 || len(l.To) == 0 {
			continue
		}
		links[i] = l
		all[i].Words = l.Phrase.For(r.Lang, r.Lang) // the sentence is shown whole
		ends = append(ends, []any{r.MapID, l.From[0].Concept}, []any{r.MapID, l.To[0].Concept})
	}
	if len(ends) == 0 {
		return all, nil
	}
	var concepts []struct {
		MapID, ID cm.ID
		Label     cm.Text `gorm:"serializer:json"`
	}
	if err := db.Raw("SELECT map_id, id, "+s.member("body", "label")+" AS label FROM entities WHERE (map_id, id) IN ?", ends).Scan(&concepts).Error; err != nil {
		return nil, fmt.Errorf("seeking words: %w", err)
	}
	labels := map[[2]cm.ID]cm.Text{}
	for _, c := range concepts {
		labels[[2]cm.ID{c.MapID, c.ID}] = c.Label
	}
	for i, l := range links {
		label := func(e cm.End) string {
			return strings.Join(strings.Fields(labels[[2]cm.ID{all[i].MapID, e.Concept}].For(rows[i].Lang, rows[i].Lang)), " ")
		}
		all[i].From, all[i].To = label(l.From[0]), label(l.To[0])
	}
	return all, nil
}

// maxSought bounds how many words are sought at once.
const maxSought = 12

// matching writes words as FTS5 reads them (sqlite.org/fts5.html, "Full-text Query Syntax"): each as it is, or
// as the beginning of one.
func matching(words string) string {
	var all []string
	for _, word := range strings.FieldsFunc(words, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsNumber(r) && !unicode.IsMark(r) }) {
		if len(all) < maxSought {
			all = append(all, `"`+cm.Shortened(word, 60)+`"*`)
		}
	}
	return strings.Join(all, " ")
}

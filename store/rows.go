package store

import (
	"encoding/json"
	"fmt"

	cm "mevrin/core/conceptmap"
)

func conceptRowOf(mapID cm.ID, c *cm.Concept) conceptRow {
	row := conceptRow{MapID: mapID, ID: c.ID, Label: c.Label, Note: c.Note, Kind: c.Kind, Hold: c.Hold, Pattern: c.Pattern, Moment: c.When, X: c.At.X, Y: c.At.Y,
		Size: c.Size, Bold: c.Bold, Italic: c.Italic, Align: c.Align, Width: c.Width, Tags: c.Tags, Icons: c.Icons, Amount: c.Amount, Lasts: c.Lasts, Sources: c.Sources, Table: c.Table, Paint: c.Paint,
		NoteCard: c.NoteCard, Remark: c.Remark, Task: c.Task, Votes: c.Votes}
	if c.Main != nil {
		row.MainLink, row.MainFrom, row.MainTo, row.Rank = c.Main.Link, c.Main.From, c.Main.To, c.Main.Rank
	}
	return row
}

func (row conceptRow) concept() *cm.Concept {
	c := &cm.Concept{ID: row.ID, Label: row.Label, Note: row.Note, Kind: row.Kind, Hold: row.Hold, Pattern: row.Pattern, When: row.Moment, At: cm.Point{X: row.X, Y: row.Y},
		Size: row.Size, Bold: row.Bold, Italic: row.Italic, Align: row.Align, Width: row.Width, Tags: row.Tags, Icons: row.Icons, Amount: row.Amount, Lasts: row.Lasts, Sources: row.Sources, Table: row.Table, Paint: row.Paint,
		NoteCard: row.NoteCard, Remark: row.Remark, Task: row.Task, Votes: row.Votes}
	if row.MainLink != "" {
		c.Main = &cm.Main{Strand: cm.Strand{Link: row.MainLink, From: row.MainFrom, To: row.MainTo}, Rank: row.Rank}
	}
	return c
}

func kindRowOf(mapID cm.ID, k *cm.Kind) kindRow {
	return kindRow{mapID, k.ID, k.Name, k.Meaning, k.Colour, k.Outline, k.Icon, k.Links, k.Stroke, k.Role, k.Rank}
}

func (row kindRow) kind() *cm.Kind {
	return &cm.Kind{ID: row.ID, Name: row.Name, Meaning: row.Meaning, Colour: row.Colour, Outline: row.Outline, Icon: row.Icon, Links: row.Links, Stroke: row.Stroke, Role: row.Role, Rank: row.Rank}
}

func linkRowOf(mapID cm.ID, l *cm.Link) linkRow {
	return linkRow{MapID: mapID, ID: l.ID, Phrase: l.Phrase, Note: l.Note, Heads: l.Heads, Line: l.Line, Bends: l.Bends, Along: l.Along, Hub: l.Hub, Tidied: l.Tidied, Kind: l.Kind, Sources: l.Sources, NoteCard: l.NoteCard}
}

// link gives the link without its ends, which have rows of their own.
func (row linkRow) link() *cm.Link {
	return &cm.Link{ID: row.ID, Phrase: row.Phrase, Note: row.Note, Heads: row.Heads, Line: row.Line, Bends: row.Bends, Along: row.Along, Hub: row.Hub, Tidied: row.Tidied, Kind: row.Kind, Sources: row.Sources, NoteCard: row.NoteCard}
}

// partRowOf gives the row of a tag, a region, a filter or a comment of a map; ok is false
// where there is none.
func partRowOf(m *cm.Map, key cm.Key) (row partRow, ok bool, err error) {
	var part any
	switch key.Kind {
	case cm.EntityTag:
		part, ok = m.Tags[key.ID], m.Tags[key.ID] != nil
	case cm.EntityRegion:
		part, ok = m.Regions[key.ID], m.Regions[key.ID] != nil
	case cm.EntityFilter:
		part, ok = m.Filters[key.ID], m.Filters[key.ID] != nil
	case cm.EntityComment:
		part, ok = m.Comments[key.ID], m.Comments[key.ID] != nil
	}
	if !ok {
		return row, false, nil
	}
	body, err := json.Marshal(part)
	return partRow{m.ID, key.ID, key.Kind, string(body)}, true, err
}

// into puts the part on a map.
func (row partRow) into(m *cm.Map) error {
	switch row.Entity {
	case cm.EntityTag:
		m.Tags[row.ID] = new(cm.Tag)
		return json.Unmarshal([]byte(row.Body), m.Tags[row.ID])
	case cm.EntityRegion:
		m.Regions[row.ID] = new(cm.Region)
		return json.Unmarshal([]byte(row.Body), m.Regions[row.ID])
	case cm.EntityFilter:
		m.Filters[row.ID] = new(cm.Filter)
		return json.Unmarshal([]byte(row.Body), m.Filters[row.ID])
	case cm.EntityComment:
		m.Comments[row.ID] = new(cm.Comment)
		return json.Unmarshal([]byte(row.Body), m.Comments[row.ID])
	}
	return fmt.Errorf("there is no part called %q", row.Entity)
}

func endRowsOf(mapID cm.ID, l *cm.Link) []endRow {
	rows := make([]endRow, 0, len(l.From)+len(l.To))
	for _, e := range l.From {
		rows = append(rows, endRow{mapID, l.ID, e.ID, cm.SideFrom, e.Concept})
	}
	for _, e := range l.To {
		rows = append(rows, endRow{mapID, l.ID, e.ID, cm.SideTo, e.Concept})
	}
	return rows
}

func stopRowOf(mapID cm.ID, s *cm.Stop) stopRow {
	return stopRow{mapID, s.ID, s.Route, s.Rank, s.Title, s.Card, s.GuideNotes, s.Refs}
}

func (row stopRow) stop() *cm.Stop {
	return &cm.Stop{ID: row.ID, Route: row.RouteID, Rank: row.Rank, Title: row.Title, Card: row.Card, GuideNotes: row.GuideNotes, Refs: row.Refs}
}

package store

import (
	cm "mevrin/core/conceptmap"
)

func conceptRowOf(mapID cm.ID, c *cm.Concept) conceptRow {
	row := conceptRow{MapID: mapID, ID: c.ID, Label: c.Label, Note: c.Note, Kind: c.Kind, Hold: c.Hold, Pattern: c.Pattern, Moment: c.When, X: c.At.X, Y: c.At.Y,
		Size: c.Size, Bold: c.Bold, Italic: c.Italic, Align: c.Align, Width: c.Width, Sources: c.Sources}
	if c.Main != nil {
		row.MainLink, row.MainFrom, row.MainTo, row.Rank = c.Main.Link, c.Main.From, c.Main.To, c.Main.Rank
	}
	return row
}

func (row conceptRow) concept() *cm.Concept {
	c := &cm.Concept{ID: row.ID, Label: row.Label, Note: row.Note, Kind: row.Kind, Hold: row.Hold, Pattern: row.Pattern, When: row.Moment, At: cm.Point{X: row.X, Y: row.Y},
		Size: row.Size, Bold: row.Bold, Italic: row.Italic, Align: row.Align, Width: row.Width, Sources: row.Sources}
	if row.MainLink != "" {
		c.Main = &cm.Main{Strand: cm.Strand{Link: row.MainLink, From: row.MainFrom, To: row.MainTo}, Rank: row.Rank}
	}
	return c
}

func kindRowOf(mapID cm.ID, k *cm.Kind) kindRow {
	return kindRow{mapID, k.ID, k.Name, k.Meaning, k.Colour, k.Outline, k.Rank}
}

func (row kindRow) kind() *cm.Kind {
	return &cm.Kind{ID: row.ID, Name: row.Name, Meaning: row.Meaning, Colour: row.Colour, Outline: row.Outline, Rank: row.Rank}
}

func linkRowOf(mapID cm.ID, l *cm.Link) linkRow {
	return linkRow{MapID: mapID, ID: l.ID, Phrase: l.Phrase, Note: l.Note, Heads: l.Heads, Line: l.Line, Bends: l.Bends, Along: l.Along, Hub: l.Hub, Tidied: l.Tidied}
}

// link gives the link without its ends, which have rows of their own.
func (row linkRow) link() *cm.Link {
	return &cm.Link{ID: row.ID, Phrase: row.Phrase, Note: row.Note, Heads: row.Heads, Line: row.Line, Bends: row.Bends, Along: row.Along, Hub: row.Hub, Tidied: row.Tidied}
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

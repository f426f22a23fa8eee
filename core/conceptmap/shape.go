package conceptmap

// ShapeOnly gives what is left of a map without its words: how its concepts stand and are joined, of which kinds
// they are, and how it looks. What is only words goes: notes, sources, routes, what was said of it.
func (m *Map) ShapeOnly() *Map {
	next := m.WithoutDiscussion()
	next.Question, next.Note, next.Tray = nil, nil, nil
	next.Routes, next.Stops, next.Requirements, next.Tags = map[ID]*Route{}, map[ID]*Stop{}, map[ID]*Requirement{}, map[ID]*Tag{}
	next.Brief, next.Rubric = BriefHead{}, Rubric{}
	for id, c := range next.Concepts {
		next.Concepts[id] = &Concept{ID: id, At: c.At, Main: c.Main, Kind: c.Kind, Paint: c.Paint, Hold: c.Hold, Pattern: c.Pattern, Ordered: c.Ordered,
			Size: c.Size, Bold: c.Bold, Italic: c.Italic, Align: c.Align, Width: c.Width}
	}
	for id, l := range next.Links {
		bare := *l
		bare.Phrase, bare.Note, bare.NoteCard, bare.Sources = nil, nil, nil, nil
		next.Links[id] = &bare
	}
	return next
}

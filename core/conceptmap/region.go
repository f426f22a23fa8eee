package conceptmap

// Region is an outline around some concepts, with a title. It follows them
// wherever they stand. A member that names nothing means nothing.
type Region struct {
	ID    ID   `json:"id"`
	Title Text `json:"title,omitempty" mevrin:"limit=title"`
	Note  Text `json:"note,omitempty" mevrin:"limit=note"`
	// NoteCard is how its note lies open on the paper; nil for the ordinary way.
	NoteCard *NoteCard `json:"noteCard,omitempty"`
	// Members are concepts inside; Branches are concepts that are inside with all
	// that hangs from them, now or later.
	Members  map[ID]bool `json:"members,omitempty" mevrin:"limit=concepts"`
	Branches map[ID]bool `json:"branches,omitempty" mevrin:"limit=concepts"`
	Colour   Colour      `json:"colour,omitempty"`
	Stroke   Stroke      `json:"stroke,omitempty"`
	// Filled says that the paper inside is tinted with the colour.
	Filled bool `json:"filled,omitempty"`
}

// MaxRegions bounds the regions of a map.
const MaxRegions = 500

// Inside tells which concepts of the map lie inside a region, by what hangs from
// what.
func (m *Map) Inside(r *Region) map[ID]bool {
	inside := map[ID]bool{}
	for id := range r.Members {
		if m.Concepts[id] != nil {
			inside[id] = true
		}
	}
	if len(r.Branches) == 0 {
		return inside
	}
	for id := range m.Concepts {
		at := id
		for range len(m.Concepts) { // hierarchies have no rings; what came from outside might
			if r.Branches[at] {
				inside[id] = true
				break
			}
			if at = m.Parent(m.Concepts[at]); at == "" {
				break
			}
		}
	}
	return inside
}

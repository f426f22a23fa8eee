package structure

// Counts is how large a map is at one moment. The fields are the figures of the same names in Measures.
type Counts struct {
	Concepts, Links, Propositions, CrossLinks, Levels int

	Loose     int // ideas that no link joins to anything
	Unphrased int // propositions whose link has no words yet
}

// Counts gives how large the map is.
func (s *Structure) Counts() Counts {
	c := Counts{
		Concepts: len(s.m.Concepts), Links: len(s.m.Links), Propositions: len(s.Propositions()),
		CrossLinks: len(s.CrossLinks()), Levels: s.Depth(), Loose: len(s.Loose()),
	}
	for _, p := range s.Propositions() {
		if p.Open {
			c.Unphrased++
		}
	}
	return c
}

package structure

import cm "mevrin/core/conceptmap"

// Counts is how large a map is at one moment. The fields are the figures of the same names in Measures.
type Counts struct {
	Concepts, Links, Propositions, CrossLinks, Levels int

	Loose     int // ideas that no link joins to anything
	Unphrased int // propositions whose link has no words yet
}

// Counts gives how large the map is. It counts what Propositions lists, without putting it in order.
func (s *Structure) Counts() Counts {
	c := Counts{Concepts: len(s.m.Concepts), Links: len(s.m.Links), Levels: s.Depth(), Loose: len(s.Loose())}
	for _, l := range s.m.Links {
		if s.crosses(l) {
			c.CrossLinks++
		}
	}
	s.eachStrand(func(l *cm.Link, _ cm.Strand, _, _ cm.ID, both bool) {
		says := 1
		if both {
			says = 2
		}
		c.Propositions += says
		if l.Phrase.Empty() {
			c.Unphrased += says
		}
	})
	return c
}

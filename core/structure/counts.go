package structure

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

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
		strands := l.Strands()
		if slices.ContainsFunc(strands, s.Cross) {
			c.CrossLinks++
		}
		for _, strand := range strands {
			from, to, _ := s.m.Between(strand)
			if s.Places[from] == nil || s.Places[to] == nil {
				continue
			}
			says := 1
			if l.Heads == cm.HeadsBoth {
				says = 2
			}
			c.Propositions += says
			if l.Phrase.Empty() {
				c.Unphrased += says
			}
		}
	}
	return c
}

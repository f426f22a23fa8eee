package structure_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
)

// The functions below say the definitions of the package again, one concept at
// a time and as plainly as can be.

func parent(m *cm.Map, id cm.ID) cm.ID {
	c := m.Concepts[id]
	if id == m.Focus || c.Main == nil || m.Links[c.Main.Link] == nil {
		return ""
	}
	var from, to cm.ID
	for _, e := range m.Links[c.Main.Link].From {
		if e.ID == c.Main.From {
			from = e.Concept
		}
	}
	for _, e := range m.Links[c.Main.Link].To {
		if e.ID == c.Main.To {
			to = e.Concept
		}
	}
	if from == "" || to == "" || from == to {
		return ""
	}
	for _, other := range []cm.ID{from, to} {
		if other != id && (from == id || to == id) && m.Concepts[other] != nil {
			return other
		}
	}
	return ""
}

// way lists the concept and all above it; nil where it goes in a circle.
func way(m *cm.Map, id cm.ID) []cm.ID {
	var up []cm.ID
	for ; id != ""; id = parent(m, id) {
		if slices.Contains(up, id) {
			return nil
		}
		up = append(up, id)
	}
	return up
}

func level(m *cm.Map, id cm.ID) int {
	if up := way(m, id); len(up) > 0 && up[len(up)-1] == m.Focus {
		return len(up)
	}
	return 0
}

func branch(m *cm.Map, id cm.ID) cm.ID {
	up := way(m, id)
	switch {
	case len(up) == 0, id == m.Focus:
		return ""
	case up[len(up)-1] == m.Focus:
		return up[len(up)-2]
	}
	return up[len(up)-1]
}

func order(m *cm.Map) []cm.ID {
	var read []cm.ID
	var visit func(id cm.ID)
	visit = func(id cm.ID) {
		read = append(read, id)
		var below []cm.ID
		for _, c := range cm.SortedIDs(m.Concepts) {
			if parent(m, c) == id {
				below = append(below, c)
			}
		}
		slices.SortStableFunc(below, func(a, b cm.ID) int {
			if m.Concepts[a].Rank() < m.Concepts[b].Rank() {
				return -1
			} else if m.Concepts[a].Rank() > m.Concepts[b].Rank() {
				return 1
			}
			return 0
		})
		for _, c := range below {
			visit(c)
		}
	}
	if m.Concepts[m.Focus] != nil {
		visit(m.Focus)
	}
	for _, id := range cm.SortedIDs(m.Concepts) {
		if id != m.Focus && parent(m, id) == "" {
			visit(id)
		}
	}
	for _, id := range cm.SortedIDs(m.Concepts) {
		if way(m, id) == nil {
			read = append(read, id)
		}
	}
	return read
}

func checkAgainstReference(t *rapid.T, m *cm.Map) {
	checkStructure(t, m, structure.Of(m))
}

// A structure derived from that of an earlier state is the same as a new one.
func TestNextAgreesWithTheReference(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 60)
		s := structure.Of(m)
		me := &maptest.Author{Name: "n"}
		for range 25 {
			if out, err := edit.Apply(m, []edit.Operation{me.Operation(t, m)}, nil); err == nil {
				m = out.Map
				s = structure.Next(s, m)
				checkStructure(t, m, s)
			}
		}
	})
}

func checkStructure(t *rapid.T, m *cm.Map, s *structure.Structure) {
	require.Len(t, s.Places, len(m.Concepts))
	for id := range m.Concepts {
		p := s.Places[id]
		require.Equal(t, parent(m, id), p.Parent)
		require.Equal(t, level(m, id), p.Level)
		require.Equal(t, branch(m, id), p.Branch)
		loose := true
		for _, l := range m.Links {
			for _, e := range l.Ends() {
				loose = loose && e.Concept != id
			}
		}
		require.Equal(t, loose, p.Loose)
	}
	require.Equal(t, order(m), s.Order)
	count := 0
	for _, l := range m.Links {
		each := 1
		if l.Heads == cm.HeadsBoth {
			each = 2
		}
		for _, f := range l.From {
			for _, to := range l.To {
				if m.Concepts[f.Concept] == nil || m.Concepts[to.Concept] == nil {
					continue
				}
				count += each
				strand := cm.Strand{Link: l.ID, From: f.ID, To: to.ID}
				isMain := false
				for id, c := range m.Concepts {
					isMain = isMain || (c.Main != nil && c.Main.Strand == strand && parent(m, id) != "")
				}
				a, b := branch(m, f.Concept), branch(m, to.Concept)
				require.Equal(t, isMain, s.Main(strand))
				require.Equal(t, !isMain && a != "" && b != "" && a != b, s.Cross(strand))
			}
		}
	}
	require.Len(t, s.Propositions(), count)
	n := s.Counts()
	require.Equal(t, []int{len(m.Concepts), len(m.Links), count, len(s.CrossLinks()), s.Depth(), len(s.Loose())}, []int{n.Concepts, n.Links, n.Propositions, n.CrossLinks, n.Levels, n.Loose})
	for _, p := range s.Propositions() {
		if p.Open {
			n.Unphrased--
		}
	}
	require.Zero(t, n.Unphrased)
	for _, p := range s.Propositions() {
		require.Equal(t, s.Cross(p.Strand), p.Cross)
		require.Equal(t, m.Links[p.Strand.Link].Phrase.Empty(), p.Open)
	}
}

func TestDerivedValuesAgreeWithTheReference(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		checkAgainstReference(t, maptest.Map(t, 60))
	})
}

// Maps that no operation can make: main strands anywhere, circles of parents,
// ends at concepts that are not there.
func TestDerivedValuesOfBrokenMaps(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 40)
		links := cm.SortedIDs(m.Links)
		for _, id := range cm.SortedIDs(m.Concepts) {
			if len(links) == 0 || rapid.Bool().Draw(t, "leave") {
				continue
			}
			l := m.Links[rapid.SampledFrom(links).Draw(t, "link")]
			c := *m.Concepts[id]
			c.Main = &cm.Main{Strand: cm.Strand{Link: l.ID, From: l.From[0].ID, To: rapid.SampledFrom([]cm.ID{l.To[0].ID, "gone"}).Draw(t, "to")}, Rank: "V"}
			m.Concepts[id] = &c
		}
		if ids := cm.SortedIDs(m.Concepts); len(ids) > 0 && rapid.Bool().Draw(t, "lose one") {
			delete(m.Concepts, rapid.SampledFrom(ids).Draw(t, "lost"))
		}
		checkAgainstReference(t, m)
	})
}

func BenchmarkStructure1000(b *testing.B) {
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(1000), nil)
	require.NoError(b, err)
	for b.Loop() {
		structure.Of(out.Map)
	}
}

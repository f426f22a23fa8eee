package scene

import (
	"slices"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// coloured gives the colour of each concept by what colours stand for on the map.
func coloured(m *cm.Map, s *structure.Structure) func(*cm.Concept) cm.Colour {
	nth := func(i int) cm.Colour { return cm.Colours[i%len(cm.Colours)] }
	switch m.Look.By {
	case cm.ByBranch:
		branches := branchesOf(m, s)
		return func(c *cm.Concept) cm.Colour {
			if i := slices.Index(branches, s.Places[c.ID].Branch); i >= 0 {
				return nth(i)
			}
			return ""
		}
	case cm.ByLevel:
		return func(c *cm.Concept) cm.Colour {
			if level := s.Places[c.ID].Level; level > 0 {
				return m.Look.OfLevel(level)
			}
			return ""
		}
	case cm.ByTag:
		tags := m.TagList()
		return func(c *cm.Concept) cm.Colour {
			for _, t := range tags {
				if c.Tags[t.ID] {
					return t.Colour
				}
			}
			return ""
		}
	}
	return func(c *cm.Concept) cm.Colour {
		if k := m.KindOf(c); k != nil {
			return k.Colour
		}
		return ""
	}
}

// lineColoured gives the colour that the lines of a link have by what colours stand for: that
// of the branch within which it runs, or of the border that was painted on the one concept to
// which it leads.
func lineColoured(m *cm.Map, s *structure.Structure, hue func(*cm.Concept) cm.Colour) func(*cm.Link) cm.Colour {
	return func(l *cm.Link) cm.Colour {
		if len(l.To) == 1 {
			if c := m.Concepts[l.To[0].Concept]; c != nil && c.Paint != nil && c.Paint.Border != "" {
				return c.Paint.Border
			}
		}
		if m.Look.By != cm.ByBranch {
			return ""
		}
		var branch cm.ID
		for _, e := range l.Ends() {
			place := s.Places[e.Concept]
			if place == nil || e.Concept == m.Focus {
				continue
			}
			if branch != "" && place.Branch != branch {
				return ""
			}
			branch = place.Branch
		}
		if branch == "" {
			return ""
		}
		return hue(m.Concepts[branch])
	}
}

// branchesOf gives the concepts right below the focus concept, in their order.
func branchesOf(m *cm.Map, s *structure.Structure) []cm.ID {
	if place := s.Places[m.Focus]; place != nil {
		return place.Children
	}
	return nil
}

// maxMeant bounds the rows of the key for what colours stand for.
const maxMeant = 12

// coloursMean gives the rows of the key for colours that stand for branches or
// levels.
func coloursMean(m *cm.Map, s *structure.Structure, v View) []KeyRow {
	var rows []KeyRow
	nth := func(i int) cm.Colour { return cm.Colours[i%len(cm.Colours)] }
	switch m.Look.By {
	case cm.ByBranch:
		size := map[cm.ID]int{}
		for _, p := range s.Places {
			size[p.Branch]++
		}
		for i, id := range branchesOf(m, s) {
			rows = append(rows, KeyRow{ID: id, Words: firstLine(m.Concepts[id].Label.For(v.Lang, m.Language)), Colour: nth(i), Count: size[id]})
		}
	case cm.ByLevel:
		size := map[int]int{}
		for _, p := range s.Places {
			size[p.Level]++
		}
		// Levels of one colour are told in one row: nothing on the paper tells them apart.
		for level := 1; level <= s.Depth(); level++ {
			colour := m.Look.OfLevel(level)
			at := slices.IndexFunc(rows, func(r KeyRow) bool { return r.Colour == colour })
			if at < 0 {
				rows = append(rows, KeyRow{Words: strconv.Itoa(level), Colour: colour, Count: size[level]})
				continue
			}
			rows[at].Words, rows[at].Count = rows[at].Words+", "+strconv.Itoa(level), rows[at].Count+size[level]
		}
		for i, r := range rows {
			rows[i].Words = t("level %s", r.Words)
		}
	}
	return rows[:min(len(rows), maxMeant)]
}

func firstLine(words string) string {
	first, _, _ := strings.Cut(words, "\n")
	return shortenedTo(first, 40)
}

package query

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/format/ratings"
	"mevrin/store"
	"mevrin/workspace"
)

// Growth is how a map came to be as large as it is.
type Growth struct {
	MapID cm.ID
	Now   int // the present revision
	Lines []GrowthLine
	Rows  []GrowthRow // the ends of sittings and the named states, the latest first
	Most  int         // the largest of the figures that are drawn
}

// GrowthLine is the course of one figure.
type GrowthLine struct {
	ID, Title string
	Path      string // in revisions and in the figure, downwards from the largest
}

// GrowthRow is how large the map was at one moment.
type GrowthRow struct {
	workspace.GrowthStep
	Name, Who string
	At        time.Time
	Changes   int // in the sitting that ended then; 0 where none did
}

// DrawnGrowth is how many steps a drawing of the growth has, TakenGrowth a table that is taken along.
const DrawnGrowth, TakenGrowth = 60, 1000

// figures of the growth that are drawn, by the ids of structure.Measures.
var grown = []struct {
	id, title string
	of        func(structure.Counts) int
}{
	{"concepts", "Concepts", func(c structure.Counts) int { return c.Concepts }},
	{"propositions", "Propositions", func(c structure.Counts) int { return c.Propositions }},
	{"cross", "Cross-links", func(c structure.Counts) int { return c.CrossLinks }},
}

// Counted gives the figures that are drawn, of one state, in the order of the lines and parted by spaces.
func Counted(s *structure.Structure) string {
	counts, all := s.Counts(), make([]string, len(grown))
	for i, f := range grown {
		all[i] = strconv.Itoa(f.of(counts))
	}
	return strings.Join(all, " ")
}

// maxGrowthRows bounds the rows that are shown.
const maxGrowthRows = 60

// Marked gives the revisions at which sittings ended or that have a name.
func Marked(sat []store.Sitting, named []store.Version) (revisions []int) {
	for _, one := range sat[:min(len(sat), maxGrowthRows)] {
		revisions = append(revisions, one.Last)
	}
	for _, one := range named {
		revisions = append(revisions, one.Revision)
	}
	return revisions
}

// GrowthOf puts together how a map grew.
func GrowthOf(id cm.ID, steps []workspace.GrowthStep, sat []SatDown, named []store.Version) Growth {
	v := Growth{MapID: id, Now: steps[len(steps)-1].Revision, Most: 1}
	for _, f := range grown {
		for _, s := range steps {
			v.Most = max(v.Most, f.of(s.Counts))
		}
	}
	for _, f := range grown {
		line := GrowthLine{ID: f.id, Title: f.title}
		for i, s := range steps {
			n := f.of(s.Counts)
			if i == 0 {
				line.Path = fmt.Sprintf("M%d %d", s.Revision, v.Most-n)
			} else { // as it was until the next state that was counted
				line.Path += fmt.Sprintf("H%dV%d", s.Revision, v.Most-n)
			}
		}
		v.Lines = append(v.Lines, line)
	}
	ends, names := map[int]SatDown{}, map[int]store.Version{}
	for _, one := range sat {
		ends[one.Last] = one
	}
	for _, one := range named {
		names[one.Revision] = one
	}
	for i := len(steps) - 1; i >= 0 && len(v.Rows) < maxGrowthRows; i-- {
		s := steps[i]
		end, ended := ends[s.Revision]
		name, isNamed := names[s.Revision]
		if !ended && !isNamed {
			continue
		}
		row := GrowthRow{GrowthStep: s, Name: name.Name, Who: end.Who, At: end.To}
		if ended {
			row.Changes = end.Changes
		}
		v.Rows = append(v.Rows, row)
	}
	return v
}

// GrowthTable gives how a map grew as a table, with its head: a row for each state that was counted, by whom
// it came and when.
func GrowthTable(head []string, steps []workspace.GrowthStep, heads []store.Head, names map[string]string, named []store.Version) [][]string {
	by, called := map[int]store.Head{}, map[int]string{}
	for _, h := range heads {
		by[h.Revision] = h
	}
	for _, v := range named {
		called[v.Revision] = v.Name
	}
	rows := [][]string{head}
	for _, s := range steps {
		at := ""
		if h, ok := by[s.Revision]; ok {
			at = h.At.Format(time.RFC3339)
		}
		row := []string{strconv.Itoa(s.Revision), at, ratings.Harmless(names[by[s.Revision].Author]), ratings.Harmless(called[s.Revision])}
		for _, n := range []int{s.Concepts, s.Links, s.Propositions, s.CrossLinks, s.Levels, s.Loose, s.Unphrased} {
			row = append(row, strconv.Itoa(n))
		}
		rows = append(rows, row)
	}
	return rows
}

package query

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
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
	// Steps are the revisions that were counted, and Most is the largest of the figures that are drawn.
	Steps string
	Most  int
}

// GrowthLine is the course of one figure.
type GrowthLine struct {
	ID, Title string
	Path      string // in revisions and in the figure, downwards from the largest
	Counts    string // at each of the steps, parted by spaces
	Last      int
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
	of        func(workspace.GrowthStep) int
}{
	{"concepts", "Concepts", func(s workspace.GrowthStep) int { return s.Concepts }},
	{"propositions", "Propositions", func(s workspace.GrowthStep) int { return s.Propositions }},
	{"cross", "Cross-links", func(s workspace.GrowthStep) int { return s.CrossLinks }},
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
			v.Most = max(v.Most, f.of(s))
		}
	}
	for _, f := range grown {
		line := GrowthLine{ID: f.id, Title: f.title, Last: f.of(steps[len(steps)-1])}
		for i, s := range steps {
			n := f.of(s)
			if i == 0 {
				line.Path = fmt.Sprintf("M%d %d", s.Revision, v.Most-n)
			} else { // it stays as it was until the next change
				line.Path += fmt.Sprintf("H%dV%d", s.Revision, v.Most-n)
			}
			line.Counts += " " + strconv.Itoa(n)
		}
		line.Counts = strings.TrimSpace(line.Counts)
		v.Lines = append(v.Lines, line)
	}
	ends, names := map[int]SatDown{}, map[int]store.Version{}
	for _, one := range sat {
		ends[one.Last] = one
	}
	for _, one := range named {
		names[one.Revision] = one
	}
	var at []string
	for _, s := range steps {
		at = append(at, strconv.Itoa(s.Revision))
	}
	v.Steps = strings.Join(at, " ")
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

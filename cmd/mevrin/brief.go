package main

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/format/ratings"
)

func briefCommand() *cobra.Command {
	var asJSON, asCSV bool
	c := &cobra.Command{
		Use: "brief BRIEF MAP.json…", Short: "Say how far maps meet a brief",
		Long: "Counts each line of a brief on each map. BRIEF is a file (docs/briefs.md), or the name of one that\n" +
			"ships: first-map, argument, process, lesson, revision.\n" +
			"Ends with status 0 where every line is met, 1 where one is not, 2 where a file cannot be read.",
		Args: cobra.MinimumNArgs(2),
		RunE: func(c *cobra.Command, args []string) error {
			if asJSON && asCSV {
				return errors.New("choose --json or --csv, not both")
			}
			b := brief.Starters[args[0]]
			if b == nil {
				raw, err := readBounded(args[0])
				if err != nil {
					return err
				}
				if b, err = brief.Read(raw); err != nil {
					return fmt.Errorf("%s: %w", args[0], err)
				}
			}
			return checkBrief(c.OutOrStdout(), b, args[1:], asJSON, asCSV)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON, for other programs")
	c.Flags().BoolVar(&asCSV, "csv", false, "print a table as CSV, a row for each line and map")
	return c
}

// briefed is what is printed of one map.
type briefed struct {
	File   string        `json:"file"`
	Name   string        `json:"name"`
	Title  string        `json:"title,omitempty"`
	Met    bool          `json:"met"`
	Points int           `json:"points"`
	Of     int           `json:"of"` // points that can be had
	Lines  []briefedLine `json:"lines"`
}

type briefedLine struct {
	ID      string     `json:"id"`
	Says    string     `json:"says,omitempty"`
	Step    cm.Step    `json:"step"`
	Count   int        `json:"count"`
	AtLeast *int       `json:"atLeast"`
	AtMost  *int       `json:"atMost"`
	Met     bool       `json:"met"`
	Points  int        `json:"points"`
	Missing []string   `json:"missing"`
	Meets   []reportAt `json:"meets"`
}

func checkBrief(out io.Writer, b *brief.Brief, files []string, asJSON, asCSV bool) error {
	all, unmet := []briefed{}, false
	for _, file := range files {
		m, err := readMap(file)
		if err != nil {
			return err
		}
		one := briefedOf(file, b, m)
		unmet = unmet || !one.Met
		all = append(all, one)
	}
	var err error
	switch {
	case asJSON:
		err = writeJSON(out, all)
	case asCSV:
		err = writeBriefTable(out, all)
	default:
		for _, one := range all {
			one.print(out)
		}
	}
	if err == nil && unmet {
		err = errFound
	}
	return err
}

func briefedOf(file string, b *brief.Brief, m *cm.Map) briefed {
	one := briefed{File: file, Name: m.Name(), Title: b.Title, Met: true, Lines: []briefedLine{}}
	for _, r := range b.Check(m, structure.Of(m)) {
		line := briefedLine{ID: string(r.Line.ID), Says: r.Line.Says, Step: r.Line.Step, Count: r.Count, AtLeast: r.Line.AtLeast, AtMost: r.Line.AtMost, Met: r.Met, Points: r.Points, Missing: []string{}, Meets: []reportAt{}}
		if line.Step == "" {
			line.Step = cm.StepFirst
		}
		for _, m := range r.Missing {
			line.Missing = append(line.Missing, m.String())
		}
		for _, key := range r.Meets {
			line.Meets = append(line.Meets, reportAt{key.Kind, key.ID, wordsAt(m, key)})
		}
		one.Met, one.Points, one.Of = one.Met && r.Met, one.Points+r.Points, one.Of+r.Line.Points
		one.Lines = append(one.Lines, line)
	}
	return one
}

func (b briefed) print(out io.Writer) {
	fmt.Fprintf(out, "%s: %d of %d points\n", b.File, b.Points, b.Of)
	for _, l := range b.Lines {
		mark, says := "–", l.Says
		if l.Met {
			mark = "+"
		}
		if says == "" {
			says = l.ID
		}
		fmt.Fprintf(out, "  %s %s: %d", mark, says, l.Count)
		if len(l.Missing) > 0 {
			fmt.Fprintf(out, " (missing: %s)", strings.Join(l.Missing, "; "))
		}
		fmt.Fprintln(out)
	}
}

func writeBriefTable(out io.Writer, all []briefed) error {
	to := csv.NewWriter(out)
	bound := func(n *int) string {
		if n == nil {
			return ""
		}
		return strconv.Itoa(*n)
	}
	rows := [][]string{{"file", "map", "line", "says", "step", "count", "atLeast", "atMost", "met", "points", "missing"}}
	for _, b := range all {
		for _, l := range b.Lines {
			rows = append(rows, []string{ratings.Harmless(b.File), ratings.Harmless(b.Name), l.ID, ratings.Harmless(l.Says), string(l.Step), strconv.Itoa(l.Count), bound(l.AtLeast), bound(l.AtMost), strconv.FormatBool(l.Met), strconv.Itoa(l.Points), ratings.Harmless(strings.Join(l.Missing, "; "))})
		}
	}
	return to.WriteAll(rows)
}

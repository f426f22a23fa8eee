package main

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"

	"github.com/spf13/cobra"

	cm "mevrin/core/conceptmap"
	"mevrin/core/score"
	"mevrin/core/structure"
	"mevrin/format/ratings"
)

func scoreCommand() *cobra.Command {
	var asJSON, asCSV bool
	var name string
	c := &cobra.Command{
		Use: "score MAP.json…", Short: "Say what maps earn by a rubric",
		Long: "Works out what each map earns. The rubric is a file (docs/briefs.md), or the name of one that\n" +
			"ships: structural, relational, whole.\n" +
			"Ends with status 2 where a file cannot be read.",
		Args: cobra.MinimumNArgs(1),
		RunE: func(c *cobra.Command, files []string) error {
			if asJSON && asCSV {
				return errors.New("choose --json or --csv, not both")
			}
			r := score.Shipped[name]
			if r == nil {
				raw, err := readBounded(name)
				if err != nil {
					return err
				}
				if r, err = score.Read(raw); err != nil {
					return fmt.Errorf("%s: %w", name, err)
				}
			}
			return scoreMaps(c.OutOrStdout(), r.Rubric, files, asJSON, asCSV)
		},
	}
	c.Flags().StringVar(&name, "rubric", "structural", "a file, or the name of one that ships")
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON, for other programs")
	c.Flags().BoolVar(&asCSV, "csv", false, "print a table as CSV, a row for each part and map")
	return c
}

// scored is what is printed of one map.
type scored struct {
	File     string         `json:"file"`
	Name     string         `json:"name"`
	Total    float64        `json:"total"`
	Parts    []scoredPart   `json:"parts"`
	Criteria []scoredGraded `json:"criteria"`
	Open     scoredOpen     `json:"open"`
}

type scoredPart struct {
	What   cm.Earns   `json:"what"`
	Weight float64    `json:"weight"`
	Count  int        `json:"count"`
	Points float64    `json:"points"`
	Earned []reportAt `json:"earned"`
}

type scoredGraded struct {
	ID     cm.ID    `json:"id"`
	Title  string   `json:"title"`
	Points *float64 `json:"points"` // null where nobody graded it
	Of     float64  `json:"of"`
	Grades int      `json:"grades"`
}

type scoredOpen struct {
	Propositions int `json:"propositions"`
	Criteria     int `json:"criteria"`
}

func scoreMaps(out io.Writer, r cm.Rubric, files []string, asJSON, asCSV bool) error {
	all := []scored{}
	for _, file := range files {
		m, err := readMap(file)
		if err != nil {
			return err
		}
		all = append(all, scoredOf(file, r, m))
	}
	switch {
	case asJSON:
		return writeJSON(out, all)
	case asCSV:
		return writeScoreTable(out, all)
	}
	for _, one := range all {
		fmt.Fprintf(out, "%s: %s points\n", one.File, points(one.Total))
		for _, p := range one.Parts {
			fmt.Fprintf(out, "  %s: %d × %s = %s\n", p.What, p.Count, points(p.Weight), points(p.Points))
		}
		for _, c := range one.Criteria {
			if c.Points == nil {
				fmt.Fprintf(out, "  %s: not graded\n", c.Title)
			} else {
				fmt.Fprintf(out, "  %s: %s of %s\n", c.Title, points(*c.Points), points(c.Of))
			}
		}
		if one.Open.Propositions > 0 {
			fmt.Fprintf(out, "  %d propositions are not judged\n", one.Open.Propositions)
		}
	}
	return nil
}

func points(p float64) string { return strconv.FormatFloat(p, 'f', -1, 64) }

func scoredOf(file string, r cm.Rubric, m *cm.Map) scored {
	result := score.Of(m, structure.Of(m), r)
	one := scored{File: file, Name: m.Name(), Total: result.Total, Parts: []scoredPart{}, Criteria: []scoredGraded{}, Open: scoredOpen{result.OpenPropositions, result.OpenCriteria}}
	for _, p := range result.Parts {
		part := scoredPart{p.What, p.Weight, p.Count, p.Points, []reportAt{}}
		for _, key := range p.Earned {
			part.Earned = append(part.Earned, reportAt{key.Kind, key.ID, wordsAt(m, key)})
		}
		one.Parts = append(one.Parts, part)
	}
	for _, c := range result.Criteria {
		one.Criteria = append(one.Criteria, scoredGraded{c.ID, c.Title, c.Points, c.Most, len(c.Grades)})
	}
	return one
}

func writeScoreTable(out io.Writer, all []scored) error {
	to := csv.NewWriter(out)
	rows := [][]string{{"file", "map", "part", "count", "weight", "points"}}
	for _, s := range all {
		for _, p := range s.Parts {
			rows = append(rows, []string{ratings.Harmless(s.File), ratings.Harmless(s.Name), string(p.What), strconv.Itoa(p.Count), points(p.Weight), points(p.Points)})
		}
		for _, c := range s.Criteria {
			given := ""
			if c.Points != nil {
				given = points(*c.Points)
			}
			rows = append(rows, []string{ratings.Harmless(s.File), ratings.Harmless(s.Name), string(c.ID), strconv.Itoa(c.Grades), "", given})
		}
		rows = append(rows, []string{ratings.Harmless(s.File), ratings.Harmless(s.Name), "total", "", "", points(s.Total)})
	}
	return to.WriteAll(rows)
}

// Package score works out what a map earns by a rubric, with what earned each point.
package score

import (
	"bytes"
	"cmp"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// Rubric is a rubric as a document of its own.
type Rubric struct {
	Version int `json:"rubric"` // 1
	cm.Rubric
}

// Read reads a rubric. Errors say in plain words what is wrong.
func Read(raw []byte) (*Rubric, error) {
	from := json.NewDecoder(bytes.NewReader(bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))))
	from.DisallowUnknownFields()
	var r Rubric
	if err := from.Decode(&r); err != nil {
		if strings.Contains(err.Error(), "unknown field") {
			return nil, fmt.Errorf("this is no sound rubric: it has a member that no rubric has: %s", strings.TrimPrefix(err.Error(), "json: unknown field "))
		}
		return nil, errors.New("this is no sound rubric: it is not JSON, or something does not hold what belongs there")
	}
	if from.More() || r.Version != 1 {
		return nil, errors.New("this is no sound rubric: “rubric” must be 1, and nothing may stand behind it")
	}
	if err := r.Sound(); err != nil {
		return nil, fmt.Errorf("this is no sound rubric: %w", err)
	}
	return &r, nil
}

//go:embed rubrics.json
var shipped []byte

// Names are the names of Shipped, in the order in which they are offered.
var Names = []string{"structural", "relational", "whole"}

// Shipped are rubrics to begin with, by their names.
var Shipped = func() map[string]*Rubric {
	var raw map[string]json.RawMessage
	err := json.Unmarshal(shipped, &raw)
	all := map[string]*Rubric{}
	for name, one := range raw {
		if err == nil {
			all[name], err = Read(one)
		}
	}
	if err != nil {
		panic("score: " + err.Error()) // part of the program
	}
	return all
}()

// Part is what a map earns by one weight.
type Part struct {
	What   cm.Earns
	Weight float64 // points for each
	Count  int
	Points float64
	// Earned are the things that were counted, in reading order; of levels the first concept
	// on each, of points the sentences to which they were given.
	Earned []cm.Key
}

// Graded is what people found of one criterion.
type Graded struct {
	cm.Criterion
	Grades []*cm.Grade
	// Points are the mean of what the grades give; nil where there is none.
	Points *float64
	Most   float64 // points that can be had
}

// Result is what a map earns.
type Result struct {
	Parts    []Part
	Criteria []Graded
	Total    float64
	// Open is how many propositions nobody judged, where judgements earn points, and how many
	// criteria nobody graded.
	OpenPropositions, OpenCriteria int
}

// Of works out what a map earns by a rubric. A proposition counts as it was judged last, by what
// was settled or by the map's own people, and by the points that they gave where the rubric counts
// them; of one that was judged in other words nobody has judged
// what it says now.
func Of(m *cm.Map, s *structure.Structure, r cm.Rubric) Result {
	var result Result
	earned := map[cm.Earns][]cm.Key{}
	given := 0 // points
	_, weighsPoints := r.Weights[cm.EarnsPoint]
	byJudgement := weighsPoints
	for _, what := range []cm.Earns{cm.EarnsHolds, cm.EarnsInPart, cm.EarnsNotSure, cm.EarnsNot} {
		_, weighs := r.Weights[what]
		byJudgement = byJudgement || weighs
	}
	judged := m.Judged()
	for _, p := range s.Propositions() {
		if p.Open {
			continue
		}
		key := cm.Key{Kind: cm.EntityLink, ID: p.Strand.Link}
		j := cm.Shown(judged[cm.Proposed{Strand: p.Strand, Against: p.Against}])
		known := j != nil && !j.Stale(m)
		if known && weighsPoints && j.Points != nil {
			earned[cm.EarnsPoint] = append(earned[cm.EarnsPoint], key)
			given += *j.Points
		} else if known {
			earned[cm.Earns(j.Verdict)] = append(earned[cm.Earns(j.Verdict)], key)
		} else if byJudgement {
			result.OpenPropositions++
		}
		if !known || j.Verdict != cm.HoldsNot {
			earned[cm.EarnsProposition] = append(earned[cm.EarnsProposition], key)
		}
	}
	levels := map[int]bool{}
	for _, id := range s.Order {
		concept := cm.Key{Kind: cm.EntityConcept, ID: id}
		if level := s.Places[id].Level; level > 1 && !levels[level] { // the focus concept is what levels are counted from
			levels[level] = true
			earned[cm.EarnsLevel] = append(earned[cm.EarnsLevel], concept)
		}
		if k := m.KindOf(m.Concepts[id]); k != nil && brief.IsForExamples(m, k) {
			earned[cm.EarnsExample] = append(earned[cm.EarnsExample], concept)
		}
	}
	for _, id := range s.CrossLinks() {
		earned[cm.EarnsCrossLink] = append(earned[cm.EarnsCrossLink], cm.Key{Kind: cm.EntityLink, ID: id})
	}
	for _, what := range cm.Earning {
		if weight, weighs := r.Weights[what]; weighs {
			part := Part{What: what, Weight: weight, Count: len(earned[what]), Earned: earned[what]}
			if what == cm.EarnsPoint {
				part.Count = given
			}
			part.Points = weight * float64(part.Count)
			result.Total += part.Points
			result.Parts = append(result.Parts, part)
		}
	}
	for _, c := range r.Criteria {
		g := Graded{Criterion: c}
		for _, l := range c.Levels {
			g.Most = max(g.Most, l.Points)
		}
		sum := 0.0
		for _, grade := range cm.InOrder(m.Grades) {
			if grade.Criterion == c.ID && grade.Level < len(c.Levels) {
				g.Grades = append(g.Grades, grade)
				sum += c.Levels[grade.Level].Points
			}
		}
		if len(g.Grades) > 0 {
			mean := sum / float64(len(g.Grades))
			g.Points = &mean
			result.Total += mean
		} else {
			result.OpenCriteria++
		}
		result.Criteria = append(result.Criteria, g)
	}
	return result
}

// VerdictFor gives the verdict that goes with points where nothing else was said: the one that earns
// what is closest to them.
func VerdictFor(r cm.Rubric, points int) cm.Verdict {
	return slices.MinFunc(cm.Verdicts, func(a, b cm.Verdict) int {
		off := func(v cm.Verdict) float64 { return math.Abs(r.Weights[cm.Earns(v)] - float64(points)) }
		return cmp.Compare(off(a), off(b))
	})
}

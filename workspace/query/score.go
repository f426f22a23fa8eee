package query

import (
	"context"
	"encoding/json"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/score"
	"mevrin/store"
	"mevrin/workspace"
)

// ScoreView is what a map earns by its rubric.
type ScoreView struct {
	MapID  cm.ID
	Rubric cm.Rubric
	Has    bool
	Total  string
	Parts  []earnedView
	// Grades are the criteria with what whoever asks gave.
	Grades           []gradeView
	OpenPropositions int
	Offers           []BriefOffer
	Own              []BriefOffer
}

type earnedView struct {
	What           cm.Earns
	Name           string
	Count          int
	Weight, Points string
	Elements       string
	Found          []wordsAt
	More           int
}

type gradeView struct {
	cm.Criterion
	Mine   int // the level that whoever asks gave; -1 for none
	Reason string
	Count  int
	Points string
	Most   string
}

// earnNames say what earns points.
var earnNames = []Choice{
	{string(cm.EarnsProposition), "sentences that nobody judged not to hold", ""}, {string(cm.EarnsLevel), "levels below the focus concept", ""}, {string(cm.EarnsCrossLink), "cross-links", ""}, {string(cm.EarnsExample), "examples", ""},
	{string(cm.EarnsHolds), "sentences judged to hold", ""}, {string(cm.EarnsInPart), "sentences judged to hold in part", ""}, {string(cm.EarnsNotSure), "sentences of which one was not sure", ""}, {string(cm.EarnsNot), "sentences judged not to hold", ""}, {string(cm.EarnsPoint), "points given to sentences by themselves", ""},
}

func pointsText(p float64) string {
	return strings.Replace(strconv.FormatFloat(p, 'f', -1, 64), "-", "−", 1)
}

// Score works out what the map earns, with the rubrics that it can have.
func (s Reading) Score(ctx context.Context, w *workspace.Workspace, who workspace.Person) (ScoreView, error) {
	v := ScoreView{MapID: s.Map.ID, Rubric: s.Map.Rubric, Has: !s.Map.Rubric.Empty()}
	for _, name := range score.Names {
		r := score.Shipped[name].Rubric
		v.Offers = append(v.Offers, BriefOffer{name, r.Title, s.stepsToScore(r)})
	}
	kept, err := w.Store.For(who.Scope).Kept(ctx, who.ID, store.KeptRubric)
	if err != nil {
		return v, err
	}
	for _, k := range kept {
		if r, unsound := score.Read(k.Body); unsound == nil {
			v.Own = append(v.Own, BriefOffer{k.Name, k.Name, s.stepsToScore(r.Rubric)})
		}
	}
	if !v.Has {
		return v, nil
	}
	result := score.Of(s.Map, s.Structure, s.Map.Rubric)
	v.Total, v.OpenPropositions = pointsText(result.Total), result.OpenPropositions
	for _, p := range result.Parts {
		part := earnedView{What: p.What, Name: nameIn(earnNames, string(p.What)), Count: p.Count, Weight: strconv.FormatFloat(p.Weight, 'f', -1, 64), Points: pointsText(p.Points)}
		var elements []string
		for _, key := range p.Earned {
			elements = append(elements, workspace.Element(key))
			if len(part.Found) == maxBriefFound {
				part.More++
				continue
			}
			part.Found = append(part.Found, wordsAt{workspace.Element(key), s.wordsOf(key)})
		}
		part.Elements = strings.Join(elements, " ")
		v.Parts = append(v.Parts, part)
	}
	me := who.Speaker(s.Map.ID)
	for _, c := range result.Criteria {
		g := gradeView{Criterion: c.Criterion, Mine: -1, Count: len(c.Grades), Most: pointsText(c.Most)}
		if c.Points != nil {
			g.Points = strings.TrimSuffix(strconv.FormatFloat(*c.Points, 'f', 1, 64), ".0")
		}
		for _, grade := range c.Grades {
			if grade.By == me {
				g.Mine, g.Reason = grade.Level, grade.Reason
			}
		}
		v.Grades = append(v.Grades, g)
	}
	return v, nil
}

// stepsToScore gives the operations, as the page sends them, that give the map a rubric.
func (s Reading) stepsToScore(r cm.Rubric) string {
	r.Title = s.t(r.Title)
	criteria := make([]cm.Criterion, len(r.Criteria))
	for i, c := range r.Criteria {
		levels := make([]cm.Attained, len(c.Levels))
		for j, l := range c.Levels {
			levels[j] = cm.Attained{Points: l.Points, Words: s.t(l.Words)}
		}
		criteria[i] = cm.Criterion{ID: c.ID, Title: s.t(c.Title), Levels: levels}
	}
	r.Criteria = criteria
	raw, _ := edit.MarshalOperations([]edit.Operation{&edit.SetRubric{Rubric: r}}) // what was just read can be written
	return string(raw)
}

// StepsToWeigh gives the operations that change the points for one of what earns some.
func (s Reading) StepsToWeigh(what cm.Earns, points string) (json.RawMessage, error) {
	p, err := strconv.ParseFloat(strings.TrimSpace(strings.Replace(points, ",", ".", 1)), 64)
	if err != nil {
		return nil, cm.Refusef("“%s” is no number.", cm.Shortened(points, 40))
	}
	r := s.Map.Rubric
	weights := map[cm.Earns]float64{}
	for k, w := range r.Weights {
		weights[k] = w
	}
	weights[what] = p
	r.Weights = weights
	if err := r.Sound(); err != nil {
		return nil, err
	}
	return edit.MarshalOperations([]edit.Operation{&edit.SetRubric{Rubric: r}})
}

// StepsToRead gives the operations that give the map the rubric of a file.
func (s Reading) StepsToRead(raw []byte) (json.RawMessage, error) {
	r, err := score.Read(raw)
	if err != nil {
		return nil, cm.Refusef("This file cannot be used: %s", err.Error())
	}
	return edit.MarshalOperations([]edit.Operation{&edit.SetRubric{Rubric: r.Rubric}})
}

package query

import (
	"context"
	"fmt"
	"strings"

	"mevrin/core/agree"
	cm "mevrin/core/conceptmap"
	"mevrin/core/judging"
	"mevrin/draw/display"
	"mevrin/format/ratings"
	"mevrin/store"
	"mevrin/workspace"
)

// Raters is the table of those who judged a map, and of what each said.
type Raters struct {
	MapID    cm.ID
	Open     bool // they see at once what others say
	Raters   []raterView
	Rows     []raterRow
	More     int // rows that are not listed
	Disputed int // rows on which they disagree and that nobody settled
	Settled  int
	Figures  []figureView
	Seconds  bool // “not sure” counts as a value of its own
	Sentences,
	Values int
	Links JudgeLinks
	// Verdicts can be chosen to settle a row.
	Verdicts []roundVerdict
}

type raterView struct {
	ID     cm.ID
	Name   string
	Judged int
}

// raterRow is one proposition.
type raterRow struct {
	Key, Elements      string
	Link, From, To     cm.ID
	Against            bool
	Noun1, Verb, Noun2 string
	Said               []saidView
	Settled            *saidView
	Apart              int // how far they disagree, of 100
}

type saidView struct {
	Verdict cm.Verdict
	Reason  string
	Stale   bool
}

// Mark is the teacher's mark for it.
func (v saidView) Mark() string { return display.VerdictMarks[v.Verdict] }

// figureView is a figure of agreement in words.
type figureView struct {
	agree.Measure
	Value, Between, Why string
}

// maxRaterRows bounds the rows that are listed.
const maxRaterRows = 1000

func (s Reading) saidView(j *cm.Judgement) saidView {
	if j == nil {
		return saidView{}
	}
	return saidView{j.Verdict, j.Reason, j.Stale(s.Map)}
}

// names of raters as they are shown: each other one.
func (s Reading) namesOf(raters []judging.Rater, who workspace.Person) []string {
	names := make([]string, len(raters))
	taken := map[string]bool{}
	for i, r := range raters {
		switch {
		case r.ID == who.Speaker(s.Map.ID):
			names[i] = s.t("you")
		case r.Name != "":
			names[i] = r.Name
		default:
			names[i] = s.t("Rater %d", i+1)
		}
		if taken[names[i]] {
			names[i] = fmt.Sprintf("%s (%d)", names[i], i+1)
		}
		taken[names[i]] = true
	}
	return names
}

// Raters compares what all said of the map.
func (s Reading) Raters(who workspace.Person, notSureIsAValue bool) Raters {
	c := judging.Compare(s.Map, s.Structure)
	v := Raters{MapID: s.Map.ID, Open: s.Map.OpenJudging, Seconds: notSureIsAValue, Sentences: len(c.Rows), Verdicts: verdicts}
	for i, name := range s.namesOf(c.Raters, who) {
		v.Raters = append(v.Raters, raterView{c.Raters[i].ID, name, c.Raters[i].Judged})
	}
	if len(c.Raters) == 0 {
		return v
	}
	for _, row := range c.Disputed() {
		if row.Settled != nil {
			v.Settled++
		} else if row.Apart > 0 {
			v.Disputed++
		}
		if len(v.Rows) == maxRaterRows {
			v.More++
			continue
		}
		said := s.sentenceOf(row.Proposition)
		r := raterRow{Key: keyOf(row.Of), Elements: elementsOf(row.Proposition), Link: row.Of.Link, From: row.Of.From, To: row.Of.To, Against: row.Of.Against,
			Noun1: said.Noun1, Verb: said.Verb, Noun2: said.Noun2, Apart: int(row.Apart*100 + 0.5)}
		for _, j := range row.Said {
			r.Said = append(r.Said, s.saidView(j))
		}
		if row.Settled != nil {
			one := s.saidView(row.Settled)
			r.Settled = &one
		}
		v.Rows = append(v.Rows, r)
	}
	f := agree.Of(c.Table(s.Map, notSureIsAValue), agree.Samples)
	v.Values = f.Values
	for _, m := range agree.Measures {
		if m.Two && len(c.Raters) != 2 {
			continue
		}
		unit := ""
		if m.Key == "percent" {
			unit = " %"
		}
		one, line := m.Of(&f), figureView{Measure: m}
		line.Why = one.Why
		if one.Value != nil {
			line.Value = figureText(*one.Value, unit)
		}
		if one.Low != nil {
			line.Between = figureText(*one.Low, unit) + " – " + figureText(*one.High, unit)
		}
		v.Figures = append(v.Figures, line)
	}
	return v
}

func figureText(v float64, unit string) string {
	if unit != "" {
		return fmt.Sprintf("%.0f%s", v, unit)
	}
	return strings.Replace(fmt.Sprintf("%.2f", v), "-", "−", 1)
}

// Ratings gives what raters said as a table that `mevrin agree` reads: unit, rater, value.
func (s Reading) Ratings(who workspace.Person) [][]string {
	c := judging.Compare(s.Map, s.Structure)
	names, t := s.namesOf(c.Raters, who), c.Table(s.Map, true)
	rows := [][]string{{"unit", "rater", "value"}}
	for u, said := range t.Said {
		for i, v := range said {
			value := ""
			if v != agree.Missing {
				value = t.Scale.Names[v]
			}
			rows = append(rows, []string{t.Units[u], ratings.Harmless(names[i]), value})
		}
	}
	return rows
}

// Judge is what whoever judges is told beforehand.
type Judge struct {
	Title, Question   string
	Sentences, Judged int
	Name              string // how they called themselves
	Blind             bool
}

// Judge tells a rater what lies before them.
func (s Reading) Judge(who workspace.Person) Judge {
	c := judging.Compare(s.Map, s.Structure)
	v := Judge{Title: s.Map.Words(s.Map.Title), Question: s.Map.Words(s.Map.Question), Sentences: len(c.Rows), Blind: !s.Map.OpenJudging}
	for _, r := range c.Raters {
		if r.ID == who.Speaker(s.Map.ID) {
			v.Name, v.Judged = r.Name, r.Judged
		}
	}
	return v
}

// JudgeLinks are the links under which a map is judged.
type JudgeLinks struct{ Links []Link }

// JudgeLinksOf lists them.
func JudgeLinksOf(ctx context.Context, w *workspace.Workspace, who workspace.Person, id cm.ID) (all JudgeLinks, err error) {
	all.Links, err = LinksFor(ctx, w, who, id, store.AllowsJudge, "")
	return all, err
}

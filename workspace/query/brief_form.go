package query

import (
	"encoding/json"
	"strings"

	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/workspace"
)

// BriefForm is what a line is written with.
type BriefForm struct {
	MapID cm.ID
	ID    cm.ID // empty for a new line
	cm.Demand
	Amount      string // least, most, exactly or between
	Least, Most int
	Counts      []countChoice
	Steps       []Choice
	Kinds       []Choice
	Tags        []string
	Regions     []string
	Sources     []Choice
	Lists       []Choice
	Concepts    []string
	Branch,
	Under string
	Contains, Begins, List string
	Musts                  []mustView
	Says                   string
}

type countChoice struct {
	Choice
	Narrows string // the fields that have an effect
}

type mustView struct{ Concept, Phrase, To, Or string }

var sourceNames = []Choice{{string(cm.SourceWeb), "address", ""}, {string(cm.SourcePicture), "picture", ""}, {string(cm.SourceSound), "sound", ""}, {string(cm.SourceVideo), "film", ""}, {string(cm.SourceFile), "file", ""}, {string(cm.SourceCite), "citation", ""}}

// maxBriefChoices bounds the labels on offer.
const maxBriefChoices = 500

// BriefForm gives the form of a line; of a new one where there is none of that id.
func (s Reading) BriefForm(id cm.ID) BriefForm {
	v := BriefForm{MapID: s.Map.ID, Steps: stepNames, Sources: sourceNames, Demand: cm.Demand{Of: cm.CountConcepts}}
	if r := s.Map.Requirements[id]; r != nil {
		v.ID, v.Demand = id, r.Demand
	}
	v.Says = v.Demand.Says
	v.Least, v.Most = v.Bounds()
	switch {
	case v.Most < 0:
		v.Amount, v.Most = "least", v.Least
	case v.Least == v.Most:
		v.Amount = "exactly"
	case v.Least == 0:
		v.Amount = "most"
	default:
		v.Amount = "between"
	}
	for _, c := range countNames {
		v.Counts = append(v.Counts, countChoice{c, strings.Join(brief.Narrows(cm.Countable(c.Value)), " ")})
	}
	seen := map[string]bool{}
	kind := func(value, name string) {
		if !seen[name] {
			seen[name] = true
			v.Kinds = append(v.Kinds, Choice{value, name, ""})
		}
	}
	for _, k := range s.Map.Key() {
		if name := s.Map.Words(k.Name); name != "" {
			kind(name, name)
		}
	}
	for _, role := range []string{v.Demand.Kind, s.underOf(v.Demand)} {
		if role != "" {
			kind(role, s.kindWords(role))
		}
	}
	for _, id := range cm.SortedIDs(s.Map.Tags) {
		v.Tags = append(v.Tags, s.Map.Words(s.Map.Tags[id].Name))
	}
	for _, id := range cm.SortedIDs(s.Map.Regions) {
		v.Regions = append(v.Regions, s.Map.Words(s.Map.Regions[id].Title))
	}
	for _, name := range brief.ListNames {
		v.Lists = append(v.Lists, Choice{name, brief.Lists[name].Title, ""})
	}
	for _, id := range s.Structure.Order[:min(len(s.Structure.Order), maxBriefChoices)] {
		v.Concepts = append(v.Concepts, s.Map.Words(s.Map.Concepts[id].Label))
	}
	if w := v.Demand.Where; w != nil {
		v.Branch, v.Under = w.Branch, w.Under
	}
	if w := v.Demand.Words; w != nil {
		v.Contains, v.Begins, v.List = strings.Join(w.Contains, ", "), strings.Join(w.Begins, ", "), w.List
	}
	for _, m := range v.Must {
		v.Musts = append(v.Musts, mustView{m.Concept, m.Phrase, m.To, strings.Join(m.Or, ", ")})
	}
	for range 2 {
		v.Musts = append(v.Musts, mustView{})
	}
	return v
}

func (s Reading) underOf(l cm.Demand) string {
	if l.Where == nil {
		return ""
	}
	return l.Where.Under
}

// KindValue is how the form names the kind of a line.
func (v BriefForm) KindValue() string { return v.Demand.Kind }

// BriefLineSteps gives the operations that write a line as a form says; the form's fields are what
// get gives.
func (s Reading) BriefLineSteps(id cm.ID, get func(field string) string, all func(field string) []string) (json.RawMessage, error) {
	line, err := brief.Written(get, all)
	if err != nil {
		return nil, err
	}
	var op edit.Operation = &edit.AddRequirement{ID: workspace.NewThingID("q"), Demand: line}
	if id != "" {
		op = &edit.ChangeRequirement{Requirement: id, Demand: line}
	}
	return edit.MarshalOperations([]edit.Operation{op})
}

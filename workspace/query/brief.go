package query

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"mevrin/core/brief"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/store"
	"mevrin/workspace"
)

// BriefView is the brief of a map, as it stands beside the paper.
type BriefView struct {
	MapID cm.ID
	cm.BriefHead
	brief.Sum
	Steps []briefStep // the lines by how demanding they are
	Has   bool
	May   bool // be altered by who looks
}

type briefStep struct {
	Step  cm.Step
	Title string
	Lines []briefLine
}

// briefLine is one line.
type briefLine struct {
	ID      cm.ID
	Says    string
	Points  int
	Count   int
	Asked   string // how many are asked for
	Met     bool
	Meets   string // elements on the paper
	Found   []wordsAt
	More    int // found and not listed
	Missing []string
	Makes   []makeView
	First   bool // of all lines
	Last    bool
	Before  cm.ID // behind which it would stand one place further up
	After   cm.ID // behind which it would stand one place further down
}

type wordsAt struct{ Element, Words string }

// makeView makes what a line lacks ready to be filled.
type makeView struct {
	// Words are those of the concept that is made; where they are empty they are asked for.
	Words string
	// Under is the concept below which it is made, by its words; Phrase leads there.
	Under, Phrase string
	To            string // with a phrase: the other concept
	Kind          cm.ID  // that it gets; Kinds are the operations that make it where the key has none
	KindName      string
	Kinds         string
	Deed          string // another thing that helps: sentence, guide, round, look
	Element       string // at which to look
}

// maxBriefFound bounds what is listed that meets a line.
const maxBriefFound = 40

// stepNames are the titles of the steps.
var stepNames = []Choice{{string(cm.StepFirst), "First", ""}, {string(cm.StepFurther), "Further", ""}, {string(cm.StepStretch), "Stretch", ""}}

// Brief gives the brief of the map, with how far it is met.
func (s Reading) Brief(who workspace.Person) BriefView {
	v := BriefView{MapID: s.Map.ID, BriefHead: s.Map.Brief, Has: brief.Of(s.Map) != nil, May: who.Alters()}
	results := s.Briefed()
	v.Sum = brief.Add(results)
	for _, name := range stepNames {
		step := briefStep{Step: cm.Step(name.Value), Title: name.Name}
		for i, r := range results {
			if cmp.Or(r.Line.Step, cm.StepFirst) != step.Step {
				continue
			}
			line := s.briefLine(r)
			line.First, line.Last = i == 0, i == len(results)-1
			if i > 1 {
				line.Before = results[i-2].Line.ID
			}
			if !line.Last {
				line.After = results[i+1].Line.ID
			}
			step.Lines = append(step.Lines, line)
		}
		if len(step.Lines) > 0 {
			v.Steps = append(v.Steps, step)
		}
	}
	return v
}

func (s Reading) briefLine(r brief.Result) briefLine {
	l := r.Line
	v := briefLine{ID: l.ID, Says: cmp.Or(l.Says, s.demandWords(l.Demand)), Points: l.Points, Count: r.Count, Asked: s.bounds(l.Demand), Met: r.Met}
	var elements []string
	for _, key := range r.Meets {
		element := ""
		if key.Kind == cm.EntityConcept || key.Kind == cm.EntityLink {
			element = workspace.Element(key)
			elements = append(elements, element)
		}
		if len(v.Found) == maxBriefFound {
			v.More++
			continue
		}
		v.Found = append(v.Found, wordsAt{element, s.wordsOf(key)})
	}
	v.Meets = strings.Join(elements, " ")
	for _, m := range r.Missing {
		v.Missing = append(v.Missing, s.t(m.Key, m.Args...))
	}
	if !r.Met {
		v.Makes = s.makes(r)
	}
	return v
}

// bounds says how many are asked for.
func (s Reading) bounds(l cm.Demand) string {
	least, most := l.Bounds()
	switch {
	case most < 0:
		return s.t("at least %d", least)
	case least == most:
		return s.t("exactly %d", least)
	case least == 0:
		return s.t("at most %d", most)
	}
	return s.t("%d to %d", least, most)
}

// countNames say what can be counted.
var countNames = []Choice{
	{string(cm.CountConcepts), "concepts", ""}, {string(cm.CountLinks), "links", ""}, {string(cm.CountPropositions), "sentences", ""}, {string(cm.CountCrossLinks), "cross-links", ""},
	{string(cm.CountLevels), "levels", ""}, {string(cm.CountBranches), "branches", ""}, {string(cm.CountSources), "sources", ""}, {string(cm.CountNotes), "concepts with a note", ""},
	{string(cm.CountPictures), "concepts with a picture", ""}, {string(cm.CountExamples), "examples", ""}, {string(cm.CountStops), "stops of routes", ""}, {string(cm.CountHeld), "sentences judged to hold", ""},
	{string(cm.CountRequired), "of what must be there", ""},
}

func nameIn(all []Choice, value string) string {
	if i := slices.IndexFunc(all, func(c Choice) bool { return c.Value == value }); i >= 0 {
		return all[i].Name
	}
	return value
}

// demandWords says what a line asks for, for one whose author said nothing.
func (s Reading) demandWords(l cm.Demand) string {
	words := s.bounds(l) + " " + s.t(nameIn(countNames, string(l.Of)))
	add := func(on bool, key string, args ...any) {
		if on {
			words += ", " + s.t(key, args...)
		}
	}
	add(l.Kind != "", "of the kind “%s”", s.kindWords(l.Kind))
	add(l.Tag != "", "with the tag “%s”", l.Tag)
	add(l.Region != "", "in the region “%s”", l.Region)
	add(l.Level > 0 && l.Of != cm.CountBranches, "on level %d", l.Level)
	add(l.Level > 0 && l.Of == cm.CountBranches, "that reach level %d", l.Level)
	add(l.Source != "", "with a source of the sort “%s”", l.Source)
	if l.Where != nil {
		add(l.Where.Branch != "", "below “%s”", l.Where.Branch)
		add(l.Where.Under != "", "below each concept of the kind “%s”", s.kindWords(l.Where.Under))
	}
	if w := l.Words; w != nil {
		add(len(w.Contains) > 0, "with the words “%s”", strings.Join(w.Contains, ", "))
		add(len(w.Begins) > 0, "beginning with “%s”", strings.Join(w.Begins, ", "))
		if list := brief.Lists[w.List]; list != nil {
			add(true, "beginning with one of: %s", s.t(list.Title))
		}
	}
	return words
}

// kindWords gives the name of a kind that is named by what it is known as.
func (s Reading) kindWords(name string) string {
	if k, _, _ := s.kindMeant(name); k != "" {
		return k
	}
	return name
}

// kindMeant finds a kind by its name or by what it is known as: on the map, or else in what ships,
// with the operations that make it.
func (s Reading) kindMeant(name string) (words string, id cm.ID, make_ string) {
	for _, k := range s.Map.Key() {
		if string(k.Role) == name || s.Map.Words(k.Name) == name {
			return s.Map.Words(k.Name), k.ID, ""
		}
	}
	for _, set := range kinds.Shipped {
		for _, k := range set.Kinds {
			if set.ID+"."+k.Part == name {
				id := workspace.NewThingID("k")
				op := &edit.AddKind{ID: id, Name: k.Name(s.Map.Language), Colour: k.Colour, Outline: k.Outline, Icon: k.Icon, Role: cm.Role(name), Reuse: true}
				raw, _ := edit.MarshalOperations([]edit.Operation{op}) // what was just made can be written
				return k.Name(s.Map.Language), id, string(raw)
			}
		}
	}
	return "", "", ""
}

// makes gives what would help to meet a line.
func (s Reading) makes(r brief.Result) (all []makeView) {
	l := r.Line
	least, _ := l.Bounds()
	if r.Count >= least && len(r.Lacks) == 0 {
		return nil // there are too many
	}
	switch l.Of {
	case cm.CountRequired:
		for _, m := range r.Absent {
			all = append(all, makeView{Words: m.Concept, Phrase: m.Phrase, To: m.To})
		}
	case cm.CountConcepts, cm.CountExamples:
		one := makeView{}
		if kind := cmp.Or(l.Kind, s.exampleKind(l.Of)); kind != "" {
			one.KindName, one.Kind, one.Kinds = s.kindMeant(kind)
		}
		under := []string{""}
		if l.Where != nil && l.Where.Branch != "" {
			under = []string{l.Where.Branch}
		}
		if len(r.Lacks) > 0 {
			under = nil
			for _, id := range r.Lacks {
				under = append(under, s.Map.Words(s.Map.Concepts[id].Label))
			}
		}
		for _, u := range under {
			one.Under = u
			all = append(all, one)
		}
	case cm.CountLinks, cm.CountPropositions, cm.CountCrossLinks:
		all = append(all, makeView{Deed: "sentence"})
	case cm.CountStops:
		all = append(all, makeView{Deed: "guide"})
	case cm.CountHeld:
		all = append(all, makeView{Deed: "round"})
	case cm.CountNotes, cm.CountPictures, cm.CountSources:
		if id, found := s.without(l.Of); found {
			all = append(all, makeView{Deed: "look", Element: "c-" + string(id), Words: s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id})})
		}
	}
	return all
}

// exampleKind names the kind for examples, where such are asked for and the key has one.
func (s Reading) exampleKind(of cm.Countable) string {
	if of != cm.CountExamples {
		return ""
	}
	for _, k := range s.Map.Key() {
		if brief.IsForExamples(s.Map, k) {
			return s.Map.Words(k.Name)
		}
	}
	return ""
}

// without finds the first concept that lacks a note or a source.
func (s Reading) without(of cm.Countable) (cm.ID, bool) {
	for _, id := range s.Structure.Order {
		c := s.Map.Concepts[id]
		if of == cm.CountNotes && c.Note.Empty() || of != cm.CountNotes && len(c.Sources) == 0 {
			return id, true
		}
	}
	return "", false
}

// BriefOffer is a brief that can be taken up.
type BriefOffer struct{ Name, Title, Steps string }

// BriefsOnOffer lists those that ship, with the operations that give them to the map.
func (s Reading) BriefsOnOffer() []BriefOffer {
	var all []BriefOffer
	for _, name := range brief.StarterNames {
		b := brief.Starters[name]
		all = append(all, BriefOffer{name, b.Title, s.StepsToTake(b)})
	}
	return all
}

// OwnBriefs lists those that the author keeps.
func (s Reading) OwnBriefs(ctx context.Context, w *workspace.Workspace, who workspace.Person) ([]BriefOffer, error) {
	kept, err := w.Store.For(who.Scope).Kept(ctx, who.ID, store.KeptBrief)
	var all []BriefOffer
	for _, k := range kept {
		if b, unsound := brief.Read(k.Body); unsound == nil {
			all = append(all, BriefOffer{k.Name, k.Name, s.StepsToTake(b)})
		}
	}
	return all, err
}

// StepsToTake gives the operations, as the page sends them, that give the map a brief.
func (s Reading) StepsToTake(b *brief.Brief) string {
	op := &edit.TakeBrief{ID: workspace.NewThingID("b"), Title: s.t(b.Title), Task: s.t(b.Task), Before: b.Before}
	for _, l := range b.Lines {
		line := l.Demand
		line.Says = s.t(line.Says)
		op.Lines = append(op.Lines, line)
	}
	raw, _ := edit.MarshalOperations([]edit.Operation{op}) // what was just read can be written
	return string(raw)
}

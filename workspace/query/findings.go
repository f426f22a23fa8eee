package query

import (
	"encoding/json"
	"slices"
	"strings"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/workspace"
)

// checkView is what the rules noticed on a map, and which of them are off.
type checkView struct {
	Findings []findingView
	Groups   []groupView
	Few      bool // so few that all lie open
	// Sentences are those that the map says, Judged how many of them somebody judged as they are.
	Sentences, Judged int
	Off               []offView
	OffMine           []offView // on all maps of the author
	Synonyms          string
	Left              []dismissedView
	Silent            []*check.Rule // in the map's language
}

// groupView is what is about one thing.
type groupView struct {
	ID       check.Group
	Title    string
	Count    int
	Findings []findingView
}

// fewFindings is up to how many findings all lie open.
const fewFindings = 6

type findingView struct {
	*check.Rule
	Places []placeView
	More   int
	// At is from how much on the rule speaks here; Own that this is the map's own.
	At  float64
	Own bool
	// Mine tells that the author has it otherwise than it comes, for all maps.
	Mine bool
	// Alike mends all places in the same way, where there are several that one step mends: how
	// that is called, and the operations, as the page sends them.
	Alike      string
	AlikeSteps string
}

// offView is a rule that is switched off, and under which name.
type offView struct{ Title, As string }

// dismissedView is a finding that was left as it is.
type dismissedView struct {
	ID           cm.ID
	Title, Words string
	Reason, Name string
	Changed      bool // its words are others now, so that the rule speaks again
}

type placeView struct {
	Element string // the thing to look at first; empty for the whole map
	// Stop and Route are that which it is about, if it is about one.
	Stop, Route cm.ID
	Elements    string // all of them
	Words       string
	On          string // the things that it is about, as the page sends them
	Remedies    []remedyView
}

type remedyView struct {
	check.Remedy
	Element   string
	Steps     string // the operations, as the page sends them
	FromWords string
	ToWords   string
}

// maxPlaces is how many places of one finding the margin lists.
const maxPlaces = 40

func (s Reading) checkOf() checkView {
	var v checkView
	for _, f := range s.Findings(s.Rules) {
		view := findingView{Rule: f.Rule, At: check.LeastOf(s.Map, s.Rules, f.Rule)}
		_, view.Own = s.Map.RuleLeast[f.Rule.ID]
		_, view.Mine = s.Rules.Least[f.Rule.ID]
		view.alike(f.Places)
		for i, p := range f.Places {
			if i == maxPlaces {
				view.More = len(f.Places) - maxPlaces
				break
			}
			view.Places = append(view.Places, s.placeOf(p))
		}
		v.Findings = append(v.Findings, view)
	}
	for _, g := range check.Groups {
		view := groupView{ID: g.ID, Title: g.Title}
		for _, f := range v.Findings {
			if f.About == g.ID {
				view.Findings = append(view.Findings, f)
				view.Count += len(f.Places) + f.More
			}
		}
		if view.Count > 0 {
			v.Groups = append(v.Groups, view)
		}
	}
	judged := s.Map.Judged()
	for _, p := range s.Structure.Propositions() {
		if p.Open {
			continue
		}
		v.Sentences++
		if slices.ContainsFunc(judged[proposed(p)], func(j *cm.Judgement) bool { return !j.Stale(s.Map) }) {
			v.Judged++
		}
	}
	v.Left, v.Synonyms = s.leftAsTheyAre(), s.Rules.Lines()
	v.Few, v.Silent = len(v.Findings) <= fewFindings, check.Silent(s.Map, s.Structure)
	for _, rule := range check.Rules {
		if as := check.OffAs(s.Map, rule); as != "" {
			v.Off = append(v.Off, offView{rule.Title, as})
		}
		if s.Rules.Off[rule.ID] {
			v.OffMine = append(v.OffMine, offView{rule.Title, rule.ID})
		}
	}
	return v
}

// alike offers to mend all places at once, where each has a step of the same name.
func (v *findingView) alike(places []check.Place) {
	if len(places) < 2 || len(places) > maxPlaces {
		return
	}
	var ops []edit.Operation
	title := ""
	for _, p := range places {
		i := slices.IndexFunc(p.Remedies, func(r check.Remedy) bool { return len(r.Operations) > 0 && (title == "" || r.Title == title) })
		if i < 0 {
			return
		}
		title = p.Remedies[i].Title
		ops = append(ops, p.Remedies[i].Operations...)
	}
	if raw, err := edit.MarshalOperations(ops); err == nil {
		v.Alike, v.AlikeSteps = title, string(raw)
	}
}

// leftAsTheyAre lists the findings that somebody left, the latest first.
func (s Reading) leftAsTheyAre() []dismissedView {
	var all []dismissedView
	for _, d := range slices.Backward(cm.InOrder(s.Map.Dismissals)) {
		view := dismissedView{ID: d.ID, Reason: d.Reason, Name: d.Name, Changed: !d.Holds(s.Map)}
		for _, rule := range check.Rules {
			if rule.ID == d.Rule {
				view.Title = rule.Title
			}
		}
		var words []string
		for _, ref := range d.Refs {
			words = append(words, s.wordsOf(cm.Key{Kind: ref.Kind, ID: ref.ID}))
		}
		if view.Words = strings.Join(words, " · "); view.Title != "" {
			all = append(all, view)
		}
	}
	return all
}

func (s Reading) placeOf(p check.Place) placeView {
	var v placeView
	var elements, words []string
	for _, key := range p.Keys {
		switch key.Kind {
		case cm.EntityStop:
			if stop := s.Map.Stops[key.ID]; stop != nil && v.Stop == "" {
				v.Stop, v.Route = stop.ID, stop.Route
			}
		case cm.EntityRoute:
			if len(p.Keys) == 1 {
				v.Route = key.ID
			}
		}
		if key.Kind == cm.EntityConcept || key.Kind == cm.EntityLink {
			elements = append(elements, workspace.Element(key))
		}
		if w := s.wordsOf(key); len(words) == 0 || words[len(words)-1] != w {
			words = append(words, w)
		}
	}
	if len(elements) > 0 {
		v.Element, v.Elements, v.Words = elements[0], strings.Join(elements, " "), strings.Join(words, " · ")
	}
	if raw, err := json.Marshal(p.Keys); err == nil {
		v.On = string(raw)
	}
	for _, r := range p.Remedies {
		view := remedyView{Remedy: r, Element: v.Element}
		if len(r.Operations) > 0 {
			// Operations that were just made always marshal.
			if raw, err := edit.MarshalOperations(r.Operations); err == nil {
				view.Steps = string(raw)
			}
		}
		if c := s.Map.Concepts[r.From]; c != nil {
			view.FromWords = s.Map.Words(c.Label)
		}
		if c := s.Map.Concepts[r.To]; c != nil {
			view.ToWords = s.Map.Words(c.Label)
		}
		v.Remedies = append(v.Remedies, view)
	}
	return v
}

// wordsOf gives a concept by its label, a link by what it says.
func (s Reading) wordsOf(key cm.Key) string {
	if l := s.Scene.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
		return strings.Replace(l.Says, "(no words yet)", "…", 1)
	}
	if stop := s.Map.Stops[key.ID]; key.Kind == cm.EntityStop && stop != nil {
		at := slices.IndexFunc(s.Map.StopsOf(stop.Route), func(o *cm.Stop) bool { return o.ID == stop.ID })
		if words := s.Map.Words(stop.Title); words != "" {
			return s.t("stop %d: %s", at+1, words)
		}
		return s.t("stop %d", at+1)
	}
	if route := s.Map.Routes[key.ID]; key.Kind == cm.EntityRoute && route != nil {
		if words := s.Map.Words(route.Title); words != "" {
			return words
		}
		return s.t("a route without a title")
	}
	if c := s.Map.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
		if words := s.Map.Words(c.Label); words != "" {
			return words
		}
	}
	return s.t("without words")
}

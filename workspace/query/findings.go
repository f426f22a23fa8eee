package query

import (
	"strings"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/workspace"
)

// checkView is what the rules noticed on a map, and which of them are off.
type checkView struct {
	Findings []findingView
	Off      []*check.Rule
}

type findingView struct {
	*check.Rule
	Places []placeView
	More   int
}

type placeView struct {
	Element  string // the thing to look at first; empty for the whole map
	Elements string // all of them
	Words    string
	Remedies []remedyView
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
	for _, f := range check.Find(s.Map, s.Structure) {
		view := findingView{Rule: f.Rule}
		for i, p := range f.Places {
			if i == maxPlaces {
				view.More = len(f.Places) - maxPlaces
				break
			}
			view.Places = append(view.Places, s.placeOf(p))
		}
		v.Findings = append(v.Findings, view)
	}
	for _, rule := range check.Rules {
		if s.Map.RulesOff[rule.ID] {
			v.Off = append(v.Off, rule)
		}
	}
	return v
}

func (s Reading) placeOf(p check.Place) placeView {
	var v placeView
	var elements, words []string
	for _, key := range p.Keys {
		elements = append(elements, workspace.Element(key))
		if w := s.wordsOf(key); len(words) == 0 || words[len(words)-1] != w {
			words = append(words, w)
		}
	}
	if len(elements) > 0 {
		v.Element, v.Elements, v.Words = elements[0], strings.Join(elements, " "), strings.Join(words, " · ")
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
	if c := s.Map.Concepts[key.ID]; key.Kind == cm.EntityConcept && c != nil {
		if words := s.Map.Words(c.Label); words != "" {
			return words
		}
	}
	return s.t("without words")
}

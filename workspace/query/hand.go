package query

import (
	"context"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/draw/scene"
	"mevrin/store"
	"mevrin/workspace"
)

// Swatch shows how the concepts of a kind look.
type Swatch struct {
	Kind    cm.ID
	Name    string
	Colour  cm.Colour
	Outline cm.Outline
	Count   int // of its concepts
}

func newSwatch(id cm.ID, name string, colour cm.Colour, outline cm.Outline) Swatch {
	return Swatch{Kind: id, Name: name, Colour: colour, Outline: outline}
}

// Key gives the key of the map.
func (s Reading) Key() []Swatch {
	count := map[cm.ID]int{}
	for _, c := range s.Map.Concepts {
		count[c.Kind]++
	}
	all := []Swatch{}
	for _, k := range s.Map.Key() {
		if k.Links {
			continue
		}
		sw := newSwatch(k.ID, s.Map.Words(k.Name), k.Colour, k.Outline)
		sw.Count = count[k.ID]
		all = append(all, sw)
	}
	return all
}

// StartOf gives the kinds of a set in the map's language.
func (s Reading) StartOf(set kinds.Set) []Swatch {
	all := []Swatch{}
	for _, k := range set.Kinds {
		all = append(all, newSwatch("", k.Name(s.Map.Language), k.Colour, k.Outline))
	}
	return all
}

// Utterance is a sentence with the elements that it speaks of.
type Utterance struct {
	Words    string   `json:"words"`
	Elements []string `json:"elements"`
}

func (s Reading) Spoken(v scene.View, chosen string) []Utterance {
	seen := s.Seen(v)
	all := []Utterance{}
	said := map[cm.ID]bool{}
	for _, p := range s.Structure.Propositions() {
		one := s.sentenceOf(p)
		elements := []string{"c-" + string(p.Subject), "l-" + string(one.Link), "c-" + string(p.Object)}
		if seen.Slips[p.Subject] == nil || seen.Slips[p.Object] == nil || len(all) == workspace.MaxSpoken {
			continue
		}
		said[p.Subject], said[p.Object] = true, true
		if chosen == "" || chosen == elements[0] || chosen == elements[1] || chosen == elements[2] {
			all = append(all, Utterance{strings.Join(strings.Fields(one.Noun1+" "+one.Verb+" "+one.Noun2), " ") + ".", elements})
		}
	}
	for _, id := range s.Structure.Order {
		element := "c-" + string(id)
		if said[id] || seen.Slips[id] == nil || chosen != "" && chosen != element || len(all) == workspace.MaxSpoken {
			continue
		}
		all = append(all, Utterance{s.Map.Words(s.Map.Concepts[id].Label) + ".", []string{element}})
	}
	if kind, id, _ := strings.Cut(chosen, "-"); kind == "c" {
		if c := s.Map.Concepts[cm.ID(id)]; c != nil && !c.Remark.Empty() {
			all = append(all, Utterance{s.Map.Words(c.Remark) + ".", []string{chosen}})
		}
	}
	return all
}

// HandLinks are the links under which a map is worked on with the plain hand, and
// who did so.
type HandLinks struct {
	MapID    cm.ID
	Links    []Link
	Visitors []visitorView
}

// visitorView is what somebody did who has a link.
type visitorView struct {
	ID     cm.ID // as a speaker
	Name   string
	Count  int
	Latest time.Time
}

// maxVisitors bounds those who are listed, the latest first.
const maxVisitors = 60

func HandLinksOf(ctx context.Context, w *workspace.Workspace, who workspace.Person, m *cm.Map) (all HandLinks, err error) {
	all.MapID = m.ID
	if all.Links, err = LinksFor(ctx, w, who, m.ID, store.AllowsHand, ""); err != nil {
		return all, err
	}
	did, err := w.Store.For(who.Scope).Visitors(ctx, m.ID, workspace.HandPrefix)
	if err != nil {
		return all, err
	}
	for i, a := range did[:min(len(did), maxVisitors)] {
		v := visitorView{ID: workspace.SpeakerOf(m.ID, a.Author, true), Count: a.Entries, Latest: a.Latest}
		if v.Name = m.NameOf(v.ID); v.Name == "" {
			v.Name = who.Says().Sprintf("Visitor %d", len(did)-i)
		}
		all.Visitors = append(all.Visitors, v)
	}
	return all, nil
}

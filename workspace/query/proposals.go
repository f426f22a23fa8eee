package query

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/workspace"
)

// ProposalView is a route on offer, with the operations that make it.
type ProposalView struct {
	Title, Why, About string
	Count             int
	First             []string // the words of its first stops
	More              int
	Closes            []wordsAt // links that close a circle
	Route             cm.ID
	Elements          string
	Steps             string
}

// shownStops bounds the stops of a proposal that are named.
const shownStops = 5

// Proposals gives the routes that the map suggests.
func (s Reading) Proposals(chosen []cm.ID) (all []ProposalView) {
	for _, p := range guide.Propose(s.Map, s.Structure, chosen) {
		v := ProposalView{Title: p.Title, Why: p.Why, Count: len(p.Stops), Route: workspace.NewThingID("r")}
		if p.About.ID != "" {
			v.About = s.aboutWords(p.About)
		}
		title := s.t(p.Title)
		if v.About != "" {
			title += ": " + v.About
		}
		ops := []edit.Operation{&edit.AddRoute{ID: v.Route, Title: cm.Shortened(title, cm.MaxTitle)}}
		after := cm.ID("")
		for i, id := range p.Stops {
			stop := workspace.NewThingID("s")
			ops = append(ops, &edit.AddStop{ID: stop, Route: v.Route, After: after, Refs: []cm.Key{{Kind: cm.EntityConcept, ID: id}}})
			after = stop
			if i < shownStops {
				v.First = append(v.First, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}))
			}
			if i > 0 {
				v.Elements += " "
			}
			v.Elements += "c-" + string(id)
		}
		v.More = max(0, len(p.Stops)-shownStops)
		for _, id := range p.Closes {
			v.Closes = append(v.Closes, wordsAt{"l-" + string(id), s.wordsOf(cm.Key{Kind: cm.EntityLink, ID: id})})
		}
		raw, _ := edit.MarshalOperations(ops) // what was just made can be written
		v.Steps = string(raw)
		all = append(all, v)
	}
	return all
}

// aboutWords names what a proposal is about.
func (s Reading) aboutWords(key cm.Key) string {
	switch key.Kind {
	case cm.EntityKind:
		if k := s.Map.Kinds[key.ID]; k != nil {
			return s.Map.Words(k.Name)
		}
	case cm.EntityTag:
		if t := s.Map.Tags[key.ID]; t != nil {
			return s.Map.Words(t.Name)
		}
	}
	return s.wordsOf(key)
}

package query

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/guide"
	"mevrin/workspace"
	"strings"
)

// ProposalView is a route on offer, with the operations that make it.
type ProposalView struct {
	Title, Why, About string
	Count             int
	First             []string // the words of its first stops
	More              int
	Closes            []wordsAt // links that close a circle
	MapID             cm.ID
	By                string // the name by which a room can be led so at once; empty where it cannot
	Route             cm.ID
	Elements          string
	Steps             string
}

// shownStops bounds the stops of a proposal that are named.
const shownStops = 5

// ProposalsView are the routes that the map suggests, and what else one could be made from.
type ProposalsView struct {
	Proposals []ProposalView
	From      []Choice // kinds, tags, filters, regions, what is selected
	Sortings  []Choice
	// Asked and Sorting are what was asked for.
	Asked, Sorting string
	Made           *ProposalView // of that; nil where nothing was asked for
	None           bool          // it comes to nothing
}

// Proposals gives the routes that the map suggests; from names what one is to be made from, as
// From does, and by in which order.
func (s Reading) Proposals(chosen []cm.ID, from string, by guide.Sorting) ProposalsView {
	v := ProposalsView{Asked: from, Sorting: string(by)}
	for _, p := range guide.Propose(s.Map, s.Structure, chosen) {
		v.Proposals = append(v.Proposals, s.proposal(p))
	}
	if len(chosen) > 1 {
		v.From = append(v.From, Choice{"chosen", s.t("what is selected"), ""})
	}
	add := func(sort cm.Entity, id cm.ID, words string) {
		v.From = append(v.From, Choice{string(sort) + " " + string(id), words, ""})
	}
	for _, k := range s.Map.Key() {
		if !k.Links {
			add(cm.EntityKind, k.ID, s.Map.Words(k.Name))
		}
	}
	for _, id := range cm.SortedIDs(s.Map.Tags) {
		add(cm.EntityTag, id, s.Map.Words(s.Map.Tags[id].Name))
	}
	for _, id := range cm.SortedIDs(s.Map.Filters) {
		add(cm.EntityFilter, id, s.Map.Words(s.Map.Filters[id].Name))
	}
	for _, id := range cm.SortedIDs(s.Map.Regions) {
		add(cm.EntityRegion, id, s.Map.Words(s.Map.Regions[id].Title))
	}
	for _, o := range guide.Sortings {
		v.Sortings = append(v.Sortings, Choice{string(o.ID), o.Title, ""})
	}
	if from == "" {
		return v
	}
	title := ""
	for _, c := range v.From {
		if c.Value == from {
			title = c.Name
		}
	}
	stops := guide.Sorted(s.Map, s.Structure, s.among(from, chosen), by)
	stops = stops[:min(len(stops), guide.MaxProposed)]
	if v.None = len(stops) == 0; !v.None {
		made := s.proposal(guide.Proposal{Order: guide.Order{Title: title}, Stops: stops})
		v.Made = &made
	}
	return v
}

// among gives the concepts of what a route is to be made from.
func (s Reading) among(from string, chosen []cm.ID) (all []cm.ID) {
	if from == "chosen" {
		return chosen
	}
	sort, name, _ := strings.Cut(from, " ")
	id := cm.ID(name)
	var matches, inside map[cm.ID]bool
	if f := s.Map.Filters[id]; f != nil {
		matches = s.Structure.Matches(f)
	}
	if r := s.Map.Regions[id]; r != nil {
		inside = s.Map.Inside(r)
	}
	for _, id := range s.Structure.Order {
		c := s.Map.Concepts[id]
		k := s.Map.KindOf(c)
		switch cm.Entity(sort) {
		case cm.EntityKind:
			if k == nil || string(k.ID) != name {
				continue
			}
		case cm.EntityTag:
			if !c.Tags[cm.ID(name)] {
				continue
			}
		case cm.EntityFilter:
			if !matches[id] {
				continue
			}
		case cm.EntityRegion:
			if !inside[id] {
				continue
			}
		default:
			continue
		}
		all = append(all, id)
	}
	return all
}

// proposal gives a route on offer as the page shows it.
func (s Reading) proposal(p guide.Proposal) ProposalView {
	v := ProposalView{Title: p.Title, Why: p.Why, Count: len(p.Stops), MapID: s.Map.ID, Route: workspace.NewThingID("r")}
	if p.About.ID == "" {
		v.By = p.ID
	}
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
	return v
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

// Package guide follows routes through a map: what stands at each stop, what
// is new there, and what is on the paper by then.
package guide

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// Step is one stop of a route as a walk meets it.
type Step struct {
	Stop cm.ID
	// Shows is what the stop speaks of: the concepts and links that it names and
	// that are still on the map, whether they are new here or not.
	Shows []cm.Key
	// Concepts and Links are what this stop adds to the paper, in the order of
	// the stop's references, then of ids. What an earlier stop has shown is not
	// repeated.
	Concepts, Links []cm.ID
	// Whole tells that the stop shows the map as a whole.
	Whole bool
	// Missing counts references whose concept or link is no longer on the map.
	Missing int
}

// Growth gives the steps of a route in order, the paper growing from empty. A
// stop reveals the concepts that it names, all concepts of the links that it
// names and those links, all inside the regions that it names, with branches
// all that hangs from its concepts, and the whole map where it names that; then
// every link whose concepts are all on the paper by now. A stop without
// references, or whose references are all gone, is a step that adds nothing. A
// route that is not on the map has no steps.
func Growth(m *cm.Map, route cm.ID) []Step { return grow(m, m.WalkedStops(route)) }

// GrowthAlong does as Growth, along some stops as they are gone through. Those that are not on the
// map are passed over.
func GrowthAlong(m *cm.Map, way []cm.ID) []Step {
	var stops []*cm.Stop
	for _, id := range way {
		if s := m.Stops[id]; s != nil {
			stops = append(stops, s)
		}
	}
	return grow(m, stops)
}

func grow(m *cm.Map, stops []*cm.Stop) []Step {
	steps := make([]Step, 0, len(stops))
	shown := map[cm.ID]bool{}
	// How many of the concepts of each link are not shown yet, and at which links each concept is.
	waits, at := map[cm.ID]int{}, map[cm.ID][]cm.ID{}
	for id, l := range m.Links {
		for _, e := range l.Ends() {
			if of := at[e.Concept]; len(of) == 0 || of[len(of)-1] != id { // its ends come one after the other
				at[e.Concept] = append(of, id)
				waits[id]++
			}
		}
	}
	of := reader{m: m}
	for _, stop := range stops {
		step := Step{Stop: stop.ID}
		for _, ref := range stop.Refs {
			there, concepts := of.concepts(ref, stop.Branches)
			if !there {
				step.Missing++
				continue
			}
			for _, id := range concepts {
				if shown[id] {
					continue
				}
				shown[id] = true
				step.Concepts = append(step.Concepts, id)
				for _, l := range at[id] {
					if waits[l]--; waits[l] == 0 {
						step.Links = append(step.Links, l)
					}
				}
			}
			switch {
			case ref.Kind == cm.EntityMap:
				step.Whole = true
			case ref.Kind == cm.EntityLink:
				step.Shows = append(step.Shows, cm.Key{Kind: ref.Kind, ID: ref.ID})
			default:
				for _, id := range concepts {
					if key := (cm.Key{Kind: cm.EntityConcept, ID: id}); !slices.Contains(step.Shows, key) {
						step.Shows = append(step.Shows, key)
					}
				}
			}
		}
		slices.Sort(step.Links)
		steps = append(steps, step)
	}
	return steps
}

// reader finds the concepts that stops show; the order in which the map is read is worked out
// once it is needed.
type reader struct {
	m *cm.Map
	s *structure.Structure
}

func (r *reader) read() *structure.Structure {
	if r.s == nil {
		r.s = structure.Of(r.m)
	}
	return r.s
}

// concepts gives the concepts of what a stop shows; there is false where it is gone.
func (r *reader) concepts(ref cm.Ref, branches bool) (there bool, all []cm.ID) {
	m := r.m
	switch c, l, region := m.Concepts[ref.ID], m.Links[ref.ID], m.Regions[ref.ID]; {
	case ref.Kind == cm.EntityConcept && c != nil && branches:
		inside := map[cm.ID]bool{ref.ID: true}
		for _, id := range r.read().Order {
			if id == ref.ID || inside[r.read().Places[id].Parent] {
				inside[id] = true
				all = append(all, id)
			}
		}
	case ref.Kind == cm.EntityConcept && c != nil:
		all = []cm.ID{ref.ID}
	case ref.Kind == cm.EntityLink && l != nil:
		for _, e := range l.Ends() {
			if !slices.Contains(all, e.Concept) {
				all = append(all, e.Concept)
			}
		}
	case ref.Kind == cm.EntityRegion && region != nil:
		members := m.Inside(region)
		all = slices.DeleteFunc(slices.Clone(r.read().Order), func(id cm.ID) bool { return !members[id] })
	case ref.Kind == cm.EntityMap:
		all = r.read().Order
	default:
		return false, nil
	}
	return true, all
}

// Part gives the map with nothing on it but what the steps reveal, dressed as the
// map is: what a walk may show. Notes, tasks, comments and votes, routes and their
// guide notes are not in it; a region is, if all that is inside it is;
// what of a note learners should read is put into a card.
func Part(m *cm.Map, steps []Step) *cm.Map {
	part := cm.NewMap(m.ID, m.Language)
	part.Title, part.Question, part.Look = m.Title, m.Question, m.Look
	part.KeyPlace = &cm.KeyPlace{Away: true}
	for _, step := range steps {
		for _, id := range step.Concepts {
			c := *m.Concepts[id]
			c.Note, c.NoteCard, c.Task, c.Votes = nil, nil, nil, nil
			part.Concepts[id] = &c
			if k := m.KindOf(&c); k != nil {
				part.Kinds[k.ID] = k
			}
			for tag := range c.Tags {
				if t := m.Tags[tag]; t != nil {
					part.Tags[tag] = t
				}
			}
		}
		for _, id := range step.Links {
			l := *m.Links[id]
			l.Note, l.NoteCard = nil, nil
			part.Links[id] = &l
			if k := m.KindOfLink(&l); k != nil {
				part.Kinds[k.ID] = k
			}
		}
	}
	if part.Concepts[m.Focus] != nil {
		part.Focus = m.Focus
	}
	for _, r := range m.Regions {
		if members := m.Inside(r); len(members) > 0 && allIn(members, part.Concepts) {
			part.Regions[r.ID] = &cm.Region{ID: r.ID, Title: r.Title, Members: members, Colour: r.Colour, Stroke: r.Stroke, Filled: r.Filled}
		}
	}
	return part
}

func allIn(ids map[cm.ID]bool, concepts map[cm.ID]*cm.Concept) bool {
	for id := range ids {
		if concepts[id] == nil {
			return false
		}
	}
	return true
}

func allShown(l *cm.Link, shown map[cm.ID]bool) bool {
	for _, e := range l.Ends() {
		if !shown[e.Concept] {
			return false
		}
	}
	return true
}

// Name gives what to call a stop in a list: its title, else the words of what
// it shows, as they are now or were last seen. Empty where there are none.
func Name(m *cm.Map, s *cm.Stop) string {
	return NameIn(m, s, func(t cm.Text) string { return m.Told(s.Route, t) })
}

// NameIn does as Name, in the words that one is given for the texts of the map.
func NameIn(m *cm.Map, s *cm.Stop, told func(cm.Text) string) string {
	if title := told(s.Title); title != "" {
		return title
	}
	var all []string
	for _, ref := range s.Refs {
		if words := plain(told(wordsAt(m, ref))); words != "" {
			all = append(all, words)
		}
	}
	if len(all) > 3 {
		all = append(all[:2], "…")
	}
	return strings.Join(all, ", ")
}

// Words gives the words of what a stop shows: as they are now, or as they were
// last seen where it is gone.
func Words(m *cm.Map, ref cm.Ref) string { return plain(m.Words(wordsAt(m, ref))) }

func plain(words string) string { return strings.Join(strings.Fields(words), " ") }

func wordsAt(m *cm.Map, ref cm.Ref) cm.Text {
	words := ref.Seen
	if c := m.Concepts[ref.ID]; ref.Kind == cm.EntityConcept && c != nil {
		words = c.Label
	}
	if l := m.Links[ref.ID]; ref.Kind == cm.EntityLink && l != nil {
		words = l.Phrase
	}
	if r := m.Regions[ref.ID]; ref.Kind == cm.EntityRegion && r != nil {
		words = r.Title
	}
	if ref.Kind == cm.EntityMap {
		words = m.Question
	}
	return words
}

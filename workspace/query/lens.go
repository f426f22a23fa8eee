package query

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/core/work"
	"mevrin/draw/scene"
	"mevrin/store"
	"mevrin/workspace"
)

// Figure is a figure as the margin says it.
type Figure struct {
	structure.Measure
	Value string
	Lens  string // what shows it on the paper; empty where nothing would
	Own   string // of the concept selected, where the figure is of concepts
}

// figuresOf works out all figures of the map, and those of one concept.
func (s Reading) figuresOf(concept cm.ID, limit *work.Limit) []Figure {
	st := s.Structure
	tops, size, depth := st.Branches()
	pick := func(of map[cm.ID]int) string {
		best := cm.ID("")
		for _, id := range tops {
			if best == "" || of[id] > of[best] {
				best = id
			}
		}
		if best == "" {
			return s.t("none")
		}
		return fmt.Sprintf("%s (%d)", s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: best}), of[best])
	}
	most := func(of map[cm.ID]float64, digits int) (string, string) {
		best := cm.ID("")
		for _, id := range st.Order {
			if best == "" || of[id] > of[best] {
				best = id
			}
		}
		if best == "" || of[best] == 0 {
			return s.t("none"), ""
		}
		own := ""
		if concept != "" {
			own = strconv.FormatFloat(of[concept], 'f', digits, 64)
		}
		return fmt.Sprintf("%s (%s)", s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: best}), strconv.FormatFloat(of[best], 'f', digits, 64)), own
	}
	degrees := map[cm.ID]float64{}
	for id, n := range st.Degrees() {
		degrees[id] = float64(n)
	}
	groups, modularity := st.Groups(limit)
	counts := st.Counts()
	values := map[string]Figure{
		"concepts": {Value: strconv.Itoa(counts.Concepts)}, "links": {Value: strconv.Itoa(counts.Links)},
		"propositions": {Value: strconv.Itoa(counts.Propositions)},
		"cross":        {Value: strconv.Itoa(counts.CrossLinks), Lens: "cross"},
		"levels":       {Value: strconv.Itoa(counts.Levels), Lens: "levels"},
		"widest":       {Value: pick(size), Lens: "branches"},
		"deepest":      {Value: pick(depth), Lens: "branches"},
		"groups":       {Value: s.t("%d (modularity %.2f)", len(groups), modularity), Lens: "groups"},
	}
	if concept != "" {
		place := st.Places[concept]
		own := values["levels"]
		own.Own = strconv.Itoa(place.Level)
		values["levels"] = own
	}
	value, own := most(degrees, 0)
	values["meet"] = Figure{Value: value, Own: own, Lens: "meet"}
	value, own = most(st.Betweenness(limit), 2)
	values["holding"] = Figure{Value: value, Own: own, Lens: "holding"}
	var all []Figure
	for _, m := range structure.Measures {
		v := values[m.ID]
		v.Measure = m
		all = append(all, v)
	}
	return all
}

// Lens is what a lens shows on the paper.
type Lens struct {
	Title string `json:"title"`
	Says  string `json:"says"`
	// Keep names the elements that stay as they are while the rest fades; nothing
	// fades where it is absent.
	Keep    []string         `json:"keep,omitempty"`
	Hide    bool             `json:"hide,omitempty"`    // the rest is hidden, not faded
	Tints   map[cm.ID]int    `json:"tints,omitempty"`   // a faint colour, from 0, for each concept
	Numbers map[cm.ID]string `json:"numbers,omitempty"` // beside slips
	Most    cm.ID            `json:"most,omitempty"`    // the concept with the greatest number
	Bands   []scene.Band     `json:"bands,omitempty"`
	Choose  []string         `json:"choose,omitempty"` // to be selected
}

// maxSteps is how far neighbours are looked for.
const maxSteps = 3

func (s Reading) lens(what string, chosen []cm.ID, steps int, view scene.View, limit *work.Limit) (*Lens, error) {
	name := func(id cm.ID) string { return s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}) }
	st := s.Structure
	switch what {
	case "levels":
		v := &Lens{Title: s.t("Levels"), Says: s.t("%d levels, counted from the focus concept", st.Depth()), Numbers: map[cm.ID]string{}}
		if st.Depth() == 0 {
			v.Says = s.t("no focus concept is chosen yet, so there are no levels")
		}
		if v.Bands = scene.Bands(s.Seen(view), st.Depth()); v.Bands == nil {
			v.Tints = map[cm.ID]int{}
			for id, p := range st.Places {
				if p.Level > 0 {
					v.Numbers[id], v.Tints[id] = strconv.Itoa(p.Level), p.Level-1
				}
			}
		}
		return v, nil
	case "branches":
		v := &Lens{Title: s.t("Branches"), Tints: map[cm.ID]int{}}
		tops, _, _ := st.Branches()
		for id, p := range st.Places {
			if at := slices.Index(tops, p.Branch); at >= 0 {
				v.Tints[id] = at
			}
		}
		v.Says = s.t("%d branches", len(tops))
		return v, nil
	case "groups":
		groups, modularity := st.Groups(limit)
		v := &Lens{Title: s.t("Groups"), Says: s.t("%s that belong together by their links; modularity %.2f", s.t("%d groups", len(groups)), modularity), Tints: map[cm.ID]int{}}
		for i, g := range groups {
			for _, id := range g {
				v.Tints[id] = i
			}
		}
		return v, nil
	case "cross":
		ids := st.CrossLinks()
		v := &Lens{Title: s.t("Cross-links"), Says: s.t("%d links between branches", len(ids)), Keep: []string{}}
		for _, id := range ids {
			v.keepLink(s.Map.Links[id])
		}
		return v, nil
	case "untidy":
		return s.untidy(view, limit), nil
	case "meet", "holding":
		return s.numbered(what, limit), nil
	case "near":
		if len(chosen) != 1 {
			return nil, cm.Refusef("Select one concept to see its neighbours.")
		}
		steps = min(max(steps, 1), maxSteps)
		near := st.Near(chosen[0], steps)
		v := &Lens{Title: s.t("Neighbours of %s", name(chosen[0])), Says: s.t("%d within %s", len(near)-1, s.t("%d steps", steps)), Keep: []string{}}
		for _, id := range cm.SortedIDs(near) {
			v.Keep = append(v.Keep, "c-"+string(id))
		}
		for _, id := range cm.SortedIDs(s.Map.Links) {
			ends := 0
			for _, e := range s.Map.Links[id].Ends() {
				if _, in := near[e.Concept]; in {
					ends++
				}
			}
			if ends > 1 {
				v.Keep = append(v.Keep, "l-"+string(id))
			}
		}
		return v, nil
	case "way", "way-against":
		if len(chosen) != 2 {
			return nil, cm.Refusef("Select two concepts, one after the other, to see the way from the first to the second.")
		}
		way := st.Way(chosen[0], chosen[1], what == "way-against")
		if way == nil {
			if what == "way" {
				return nil, cm.Refusef("Along the arrows no way leads from “%s” to “%s”. Against them there may be one.", name(chosen[0]), name(chosen[1]))
			}
			return nil, cm.Refusef("Nothing joins “%s” and “%s”.", name(chosen[0]), name(chosen[1]))
		}
		v := &Lens{Title: s.t("From %s to %s", name(chosen[0]), name(chosen[1])), Says: s.wayWords(chosen[0], way), Keep: []string{"c-" + string(chosen[0])}}
		for _, p := range way {
			v.Keep = append(v.Keep, "l-"+string(p.Strand.Link), "c-"+string(p.Subject), "c-"+string(p.Object))
		}
		return v, nil
	}
	return nil, cm.Refusef("There is no such view of the map.")
}

// untidy shows what is hard to read in the drawing.
func (s Reading) untidy(view scene.View, limit *work.Limit) *Lens {
	u := scene.UntidyOf(s.Seen(view), limit)
	v := &Lens{Title: s.t("Untidy spots"), Keep: []string{}}
	for _, p := range u.Slips {
		v.Keep = append(v.Keep, "c-"+string(p[0]), "c-"+string(p[1]))
	}
	for _, p := range slices.Concat(u.Words, u.Through) {
		v.Keep = append(v.Keep, "l-"+string(p[0]), "c-"+string(p[1]))
	}
	for _, p := range slices.Concat(u.Phrases, u.Across, u.Crossings) {
		v.Keep = append(v.Keep, "l-"+string(p[0]), "l-"+string(p[1]))
	}
	v.Says = s.t("%s; %s; %s; words and slips take %.0f %% of the room", s.t("%d crossings", u.Crossed),
		s.t("%d overlaps", len(u.Slips)+len(u.Words)+len(u.Phrases)), s.t("%d lines through others", len(u.Through)+len(u.Across)), 100*u.Used)
	return v
}

func (v *Lens) keepLink(l *cm.Link) {
	v.Keep = append(v.Keep, "l-"+string(l.ID))
	for _, e := range l.Ends() {
		v.Keep = append(v.Keep, "c-"+string(e.Concept))
	}
}

// wayWords reads a way as one sentence.
func (s Reading) wayWords(at cm.ID, way []structure.Proposition) string {
	words := []string{s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: at})}
	for _, p := range way {
		verb := s.Map.Words(s.Map.Links[p.Strand.Link].Phrase)
		if verb == "" {
			verb = "…"
		}
		next := p.Object
		if p.Object == at {
			next, verb = p.Subject, "← "+verb
		}
		at = next
		words = append(words, verb, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: at}))
	}
	return strings.Join(words, " ")
}

// numbered shows a figure of each concept beside its slip.
func (s Reading) numbered(what string, limit *work.Limit) *Lens {
	v := &Lens{Title: s.t("Links that meet"), Numbers: map[cm.ID]string{}}
	of := map[cm.ID]float64{}
	if what == "meet" {
		for id, n := range s.Structure.Degrees() {
			of[id] = float64(n)
			v.Numbers[id] = strconv.Itoa(n)
		}
	} else {
		v.Title = s.t("Holding the map together")
		of = s.Structure.Betweenness(limit)
		for id, b := range of {
			v.Numbers[id] = strconv.FormatFloat(b, 'f', 2, 64)
		}
	}
	for _, id := range s.Structure.Order {
		if v.Most == "" || of[id] > of[v.Most] {
			v.Most = id
		}
	}
	if v.Most != "" {
		v.Says = s.t("most of all: %s", s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: v.Most}))
	}
	return v
}

// maxNamed is how many letters of a name stand at a slip.
const maxNamed = 16

// Who shows by whom each concept was put on the map, as the log has it. Names are those of accounts, by how the log
// knows them; me is how it knows whoever looks.
func (s Reading) Who(deeds []store.Deeds, names map[string]string, me string) *Lens {
	v := &Lens{Title: s.t("Who put it there"), Tints: map[cm.ID]int{}, Numbers: map[cm.ID]string{}}
	called := func(author string) string {
		switch {
		case author == me:
			return s.t("you")
		case names[author] != "":
			return names[author]
		}
		return s.t("a visitor")
	}
	count := map[string]int{}
	by := map[cm.ID]string{}
	for _, d := range deeds {
		for _, key := range d.Made { // what came back by an undo is theirs who made it first
			if key.Kind == cm.EntityConcept && s.Map.Concepts[key.ID] != nil && by[key.ID] == "" {
				by[key.ID] = called(d.Author)
				count[by[key.ID]]++
			}
		}
	}
	all := slices.Sorted(maps.Keys(count))
	slices.SortStableFunc(all, func(a, b string) int { return count[b] - count[a] })
	said := make([]string, len(all))
	for i, name := range all {
		said[i] = s.t("%s %d", name, count[name])
	}
	first := map[string]int{}
	for _, name := range all {
		first[firstName(name)]++
	}
	for id, name := range by {
		v.Tints[id], v.Numbers[id] = slices.Index(all, name), cm.Shortened(name, maxNamed)
		if short := firstName(name); first[short] == 1 && !slices.Contains([]string{s.t("you"), s.t("a visitor")}, name) {
			v.Numbers[id] = cm.Shortened(short, maxNamed)
		}
	}
	v.Says = strings.Join(said[:min(len(said), 6)], " · ")
	return v
}

func firstName(name string) string {
	first, _, _ := strings.Cut(name, " ")
	return first
}

// LensAsked is what a lens should show.
type LensAsked struct {
	What   string
	Chosen []string // elements
	Steps  int
	// Of a filter: one that is kept, all of a kind or with a tag, or that have
	// something; else conditions, as JSON.
	Filter, Kind, Tag cm.ID
	Has, Conditions   string
}

// Lens works out what a lens shows.
func (s Reading) Lens(ctx context.Context, view scene.View, asked LensAsked) (v *Lens, err error) {
	if asked.What == "filter" {
		return s.filterLens(asked)
	}
	var chosen []cm.ID
	for _, e := range asked.Chosen {
		if id := cm.ID(strings.TrimPrefix(e, "c-")); strings.HasPrefix(e, "c-") && s.Map.Concepts[id] != nil {
			chosen = append(chosen, id)
		}
	}
	err = workspace.Working(ctx, func(limit *work.Limit) error {
		v, err = s.lens(asked.What, chosen, asked.Steps, view, limit)
		return err
	})
	return v, err
}

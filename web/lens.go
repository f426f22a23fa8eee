package web

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/core/work"
	"mevrin/draw/scene"
)

// figureView is a figure as the margin says it.
type figureView struct {
	structure.Measure
	Value string
	Lens  string // what shows it on the paper; empty where nothing would
	Own   string // of the concept selected, where the figure is of concepts
}

// figuresOf works out all figures of the map, and those of one concept.
func (s reading) figuresOf(concept cm.ID, limit *work.Limit) []figureView {
	st := s.structure
	tops, size, depth := st.Branches()
	pick := func(of map[cm.ID]int) string {
		best := cm.ID("")
		for _, id := range tops {
			if best == "" || of[id] > of[best] {
				best = id
			}
		}
		if best == "" {
			return "none"
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
			return "none", ""
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
	cross := len(st.CrossLinks())
	values := map[string]figureView{
		"concepts": {Value: strconv.Itoa(len(s.m.Concepts))}, "links": {Value: strconv.Itoa(len(s.m.Links))},
		"propositions": {Value: strconv.Itoa(len(st.Propositions()))},
		"cross":        {Value: strconv.Itoa(cross), Lens: "cross"},
		"levels":       {Value: strconv.Itoa(st.Depth()), Lens: "levels"},
		"widest":       {Value: pick(size), Lens: "branches"},
		"deepest":      {Value: pick(depth), Lens: "branches"},
		"groups":       {Value: fmt.Sprintf("%d (modularity %.2f)", len(groups), modularity), Lens: "groups"},
	}
	if concept != "" {
		place := st.Places[concept]
		own := values["levels"]
		own.Own = strconv.Itoa(place.Level)
		values["levels"] = own
	}
	value, own := most(degrees, 0)
	values["meet"] = figureView{Value: value, Own: own, Lens: "meet"}
	value, own = most(st.Betweenness(limit), 2)
	values["holding"] = figureView{Value: value, Own: own, Lens: "holding"}
	var all []figureView
	for _, m := range structure.Measures {
		v := values[m.ID]
		v.Measure = m
		all = append(all, v)
	}
	return all
}

// lensView is what a lens shows on the paper.
type lensView struct {
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
	Next    int              `json:"next,omitempty"`   // the number of the next one, where there are several to go through
}

// maxSteps is how far neighbours are looked for.
const maxSteps = 3

func (s reading) lens(what string, chosen []cm.ID, steps int, view scene.View, limit *work.Limit) (*lensView, error) {
	name := func(id cm.ID) string { return s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}) }
	st := s.structure
	switch what {
	case "levels":
		v := &lensView{Title: "Levels", Says: fmt.Sprintf("%d levels, counted from the focus concept", st.Depth()), Numbers: map[cm.ID]string{}}
		if st.Depth() == 0 {
			v.Says = "no focus concept is chosen yet, so there are no levels"
		}
		if v.Bands = scene.Bands(s.seen(view), st.Depth()); v.Bands == nil {
			v.Tints = map[cm.ID]int{}
			for id, p := range st.Places {
				if p.Level > 0 {
					v.Numbers[id], v.Tints[id] = strconv.Itoa(p.Level), p.Level-1
				}
			}
		}
		return v, nil
	case "branches":
		v := &lensView{Title: "Branches", Tints: map[cm.ID]int{}}
		tops, _, _ := st.Branches()
		for id, p := range st.Places {
			if at := slices.Index(tops, p.Branch); at >= 0 {
				v.Tints[id] = at
			}
		}
		v.Says = counted(len(tops), "branch", "branches")
		return v, nil
	case "groups":
		groups, modularity := st.Groups(limit)
		v := &lensView{Title: "Groups", Says: fmt.Sprintf("%s that belong together by their links; modularity %.2f", counted(len(groups), "group", "groups"), modularity), Tints: map[cm.ID]int{}}
		for i, g := range groups {
			for _, id := range g {
				v.Tints[id] = i
			}
		}
		return v, nil
	case "cross":
		ids := st.CrossLinks()
		v := &lensView{Title: "Cross-links", Says: counted(len(ids), "link between branches", "links between branches"), Keep: []string{}}
		for _, id := range ids {
			v.keepLink(s.m.Links[id])
		}
		return v, nil
	case "untidy":
		return s.untidy(view, limit), nil
	case "pair":
		return s.pair(steps, limit)
	case "meet", "holding":
		return s.numbered(what, limit), nil
	case "near":
		if len(chosen) != 1 {
			return nil, &cm.Refusal{Words: "Select one concept to see its neighbours."}
		}
		steps = min(max(steps, 1), maxSteps)
		near := st.Near(chosen[0], steps)
		v := &lensView{Title: "Neighbours of " + name(chosen[0]), Says: fmt.Sprintf("%d within %s", len(near)-1, counted(steps, "step", "steps")), Keep: []string{}}
		for _, id := range cm.SortedIDs(near) {
			v.Keep = append(v.Keep, "c-"+string(id))
		}
		for _, id := range cm.SortedIDs(s.m.Links) {
			ends := 0
			for _, e := range s.m.Links[id].Ends() {
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
			return nil, &cm.Refusal{Words: "Select two concepts, one after the other, to see the way from the first to the second."}
		}
		way := st.Way(chosen[0], chosen[1], what == "way-against")
		if way == nil {
			if what == "way" {
				return nil, &cm.Refusal{Words: fmt.Sprintf("Along the arrows no way leads from “%s” to “%s”. Against them there may be one.", name(chosen[0]), name(chosen[1]))}
			}
			return nil, &cm.Refusal{Words: fmt.Sprintf("Nothing joins “%s” and “%s”.", name(chosen[0]), name(chosen[1]))}
		}
		v := &lensView{Title: "From " + name(chosen[0]) + " to " + name(chosen[1]), Says: s.wayWords(chosen[0], way), Keep: []string{"c-" + string(chosen[0])}}
		for _, p := range way {
			v.Keep = append(v.Keep, "l-"+string(p.Strand.Link), "c-"+string(p.Subject), "c-"+string(p.Object))
		}
		return v, nil
	}
	return nil, &cm.Refusal{Words: "There is no such view of the map."}
}

// untidy shows what is hard to read in the drawing.
func (s reading) untidy(view scene.View, limit *work.Limit) *lensView {
	u := scene.UntidyOf(s.seen(view), limit)
	v := &lensView{Title: "Untidy spots", Keep: []string{}}
	for _, p := range u.Slips {
		v.Keep = append(v.Keep, "c-"+string(p[0]), "c-"+string(p[1]))
	}
	for _, p := range slices.Concat(u.Words, u.Through) {
		v.Keep = append(v.Keep, "l-"+string(p[0]), "c-"+string(p[1]))
	}
	for _, p := range u.Crossings {
		v.Keep = append(v.Keep, "l-"+string(p[0]), "l-"+string(p[1]))
	}
	v.Says = fmt.Sprintf("%s; %s; %s; words and slips take %.0f %% of the room", counted(u.Crossed, "crossing", "crossings"),
		counted(len(u.Slips)+len(u.Words), "overlap", "overlaps"), counted(len(u.Through), "line through a slip", "lines through slips"), 100*u.Used)
	return v
}

// pair shows one pair of concepts of different branches that nothing joins yet.
func (s reading) pair(at int, limit *work.Limit) (*lensView, error) {
	pairs := s.structure.Pairs(limit)
	if len(pairs) == 0 {
		return nil, &cm.Refusal{Words: "There are no two branches whose concepts could be joined."}
	}
	at = max(at, 0) % len(pairs)
	p := pairs[at]
	name := func(id cm.ID) string { return s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}) }
	return &lensView{
		Title: fmt.Sprintf("“%s” and “%s”", name(p[0]), name(p[1])), Says: fmt.Sprintf("does one say something about the other? Ctrl+L links them (pair %d of %d)", at+1, len(pairs)),
		Keep: []string{"c-" + string(p[0]), "c-" + string(p[1])}, Choose: []string{"c-" + string(p[0]), "c-" + string(p[1])}, Next: at + 1,
	}, nil
}

func (v *lensView) keepLink(l *cm.Link) {
	v.Keep = append(v.Keep, "l-"+string(l.ID))
	for _, e := range l.Ends() {
		v.Keep = append(v.Keep, "c-"+string(e.Concept))
	}
}

func counted(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return strconv.Itoa(n) + " " + many
}

// wayWords reads a way as one sentence.
func (s reading) wayWords(at cm.ID, way []structure.Proposition) string {
	words := []string{s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: at})}
	for _, p := range way {
		verb := s.m.Words(s.m.Links[p.Strand.Link].Phrase)
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
func (s reading) numbered(what string, limit *work.Limit) *lensView {
	v := &lensView{Title: "Links that meet", Numbers: map[cm.ID]string{}}
	of := map[cm.ID]float64{}
	if what == "meet" {
		for id, n := range s.structure.Degrees() {
			of[id] = float64(n)
			v.Numbers[id] = strconv.Itoa(n)
		}
	} else {
		v.Title = "Holding the map together"
		of = s.structure.Betweenness(limit)
		for id, b := range of {
			v.Numbers[id] = strconv.FormatFloat(b, 'f', 2, 64)
		}
	}
	for _, id := range s.structure.Order {
		if v.Most == "" || of[id] > of[v.Most] {
			v.Most = id
		}
	}
	if v.Most != "" {
		v.Says = "most of all: " + s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: v.Most})
	}
	return v
}

// getLens answers with what a lens shows.
func (s *server) getLens(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	steps, _ := strconv.Atoi(g.Query("steps"))
	v, err := now.lensFor(g.Request.Context(), view, lensAsked{
		What: g.Query("what"), Chosen: strings.Split(g.Query("chosen"), ","), Steps: steps,
		Filter: cm.ID(g.Query("filter")), Kind: cm.ID(g.Query("kind")), Tag: cm.ID(g.Query("tag")), Has: g.Query("has"), Conditions: g.Query("asked"),
	})
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, v)
}

// lensAsked is what a lens should show.
type lensAsked struct {
	What   string
	Chosen []string // elements
	Steps  int
	// Of a filter: one that is kept, all of a kind or with a tag, or that have
	// something; else conditions, as JSON.
	Filter, Kind, Tag cm.ID
	Has, Conditions   string
}

// lensFor works out what a lens shows.
func (s reading) lensFor(ctx context.Context, view scene.View, asked lensAsked) (v *lensView, err error) {
	if asked.What == "filter" {
		return s.filterLens(asked)
	}
	var chosen []cm.ID
	for _, e := range asked.Chosen {
		if id := cm.ID(strings.TrimPrefix(e, "c-")); strings.HasPrefix(e, "c-") && s.m.Concepts[id] != nil {
			chosen = append(chosen, id)
		}
	}
	err = working(ctx, func(limit *work.Limit) error {
		v, err = s.lens(asked.What, chosen, asked.Steps, view, limit)
		return err
	})
	return v, err
}

package conceptmap

import (
	"maps"
	"slices"
)

// NameMap gives the map its title in one language.
type NameMap struct {
	Lang  Lang   `json:"lang,omitempty"`
	Title string `json:"title"`
}

func (op *NameMap) apply(d *editing) error {
	title, err := Clean(op.Title, MaxTitle, "The title of a map")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.m.Title = d.m.Title.With(lang, title)
	d.putHeader()
	return nil
}

// Ask sets the focus question that the map answers; empty words remove it.
type Ask struct {
	Lang     Lang   `json:"lang,omitempty"`
	Question string `json:"question"`
}

func (op *Ask) apply(d *editing) error {
	question, err := Clean(op.Question, MaxQuestion, "The focus question")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.m.Question = d.m.Question.With(lang, question)
	d.putHeader()
	return nil
}

// SetOpening says which branches are tucked away when somebody opens the map
// for the first time; none lets it open whole.
type SetOpening struct {
	Tucked []ID `json:"tucked"`
}

func (op *SetOpening) apply(d *editing) error {
	next := map[ID]bool{}
	for _, id := range op.Tucked {
		if _, err := d.concept(id); err != nil {
			return err
		}
		next[id] = true
	}
	d.setTucked(next)
	return nil
}

// SetRule says whether a rule of package check speaks on this map.
type SetRule struct {
	Rule string `json:"rule"`
	On   bool   `json:"on"`
}

// MaxRulesOff bounds how many rules a map can switch off.
const MaxRulesOff = 200

func (op *SetRule) apply(d *editing) error { return setRule(d, op.Rule, op.On) }

func setRule(d *editing, rule string, on bool) error {
	if !ID(rule).Valid() {
		return Refusef("There is no rule of that name.")
	}
	next := maps.Clone(d.m.RulesOff)
	switch {
	case on:
		delete(next, rule)
	case len(next) >= MaxRulesOff:
		return Refusef("At most %d rules can be switched off.", MaxRulesOff)
	case next == nil:
		next = map[string]bool{rule: true}
	default:
		next[rule] = true
	}
	if len(next) == 0 {
		next = nil
	}
	d.m.RulesOff = next
	d.putHeader()
	return nil
}

// AddRoute begins a route without stops.
type AddRoute struct {
	ID    ID     `json:"id"`
	Lang  Lang   `json:"lang,omitempty"`
	Title string `json:"title,omitempty"`
}

func (op *AddRoute) apply(d *editing) error {
	if err := d.free(op.ID); err != nil {
		return err
	}
	title, err := Clean(op.Title, MaxTitle, "The title of a route")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.putRoute(&Route{ID: op.ID, Title: Text(nil).With(lang, title)})
	return nil
}

// NameRoute gives a route its title in one language.
type NameRoute struct {
	Route ID     `json:"route"`
	Lang  Lang   `json:"lang,omitempty"`
	Title string `json:"title"`
}

func (op *NameRoute) apply(d *editing) error {
	r := d.m.Routes[op.Route]
	if r == nil {
		return Refusef("That route is gone already.")
	}
	title, err := Clean(op.Title, MaxTitle, "The title of a route")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.putRoute(&Route{ID: r.ID, Title: r.Title.With(lang, title)})
	return nil
}

// RemoveRoute takes a route away with its stops.
type RemoveRoute struct {
	Route ID `json:"route"`
}

func (op *RemoveRoute) apply(d *editing) error {
	if d.m.Routes[op.Route] == nil {
		return Refusef("That route is gone already.")
	}
	for _, s := range d.m.StopsOf(op.Route) {
		delete(d.m.Stops, s.ID)
		d.touch(EntityStop, s.ID)
	}
	delete(d.m.Routes, op.Route)
	d.touch(EntityRoute, op.Route)
	return nil
}

// StopsOf gives the stops of a route in their order.
func (m *Map) StopsOf(route ID) []*Stop {
	var all []*Stop
	for _, id := range SortedIDs(m.Stops) {
		if s := m.Stops[id]; s.Route == route {
			all = append(all, s)
		}
	}
	slices.SortStableFunc(all, func(a, b *Stop) int {
		switch {
		case a.Rank < b.Rank:
			return -1
		case a.Rank > b.Rank:
			return 1
		}
		return 0
	})
	return all
}

// AddStop adds a stop to a route behind another, or at its front.
type AddStop struct {
	ID    ID    `json:"id"`
	Route ID    `json:"route"`
	After ID    `json:"after,omitempty"`
	Refs  []Key `json:"refs,omitempty"`
}

// MaxRefs bounds what one stop can show.
const MaxRefs = 500

// Sound tells what is wrong with a stop as a whole. What it shows may be gone.
func (s *Stop) Sound() error {
	for _, ref := range s.Refs {
		if !ref.ID.Valid() || ref.Kind != EntityConcept && ref.Kind != EntityLink {
			return Refusef("A stop shows concepts and links.")
		}
	}
	return nil
}

func (op *AddStop) apply(d *editing) error {
	if err := d.free(op.ID); err != nil {
		return err
	}
	if d.m.Routes[op.Route] == nil {
		return Refusef("That route is gone already.")
	}
	refs, err := d.refs(op.Refs, nil)
	if err != nil {
		return err
	}
	s := &Stop{ID: op.ID, Route: op.Route, Refs: refs}
	return d.rankStop(s, op.After)
}

// refs makes references to what a stop shows. What it has shown so far may be
// gone from the map; everything else must be there.
func (d *editing) refs(keys []Key, had []Ref) ([]Ref, error) {
	if len(keys) > MaxRefs {
		return nil, Refusef("A stop can show at most %d things.", MaxRefs)
	}
	var refs []Ref
	for _, key := range keys {
		same := func(r Ref) bool { return r.Kind == key.Kind && r.ID == key.ID }
		if slices.ContainsFunc(refs, same) {
			continue
		}
		if i := slices.IndexFunc(had, same); i >= 0 {
			refs = append(refs, had[i])
			continue
		}
		words, there := d.m.WordsAt(key)
		if !there || key.Kind != EntityConcept && key.Kind != EntityLink {
			return nil, Refusef("What this stop should show is no longer on the map.")
		}
		refs = append(refs, Ref{Kind: key.Kind, ID: key.ID, Seen: words})
	}
	return refs, nil
}

// ShowAtStop says anew what a stop shows: concepts and links, or nothing.
type ShowAtStop struct {
	Stop ID    `json:"stop"`
	Refs []Key `json:"refs"`
}

func (op *ShowAtStop) apply(d *editing) error {
	s := d.m.Stops[op.Stop]
	if s == nil {
		return Refusef("That stop is gone already.")
	}
	refs, err := d.refs(op.Refs, s.Refs)
	if err != nil {
		return err
	}
	next := *s
	next.Refs = refs
	d.putStop(&next)
	return nil
}

// WriteStop writes one text of a stop in one language: its title, the card
// that the learner reads, or the guide notes.
type WriteStop struct {
	Stop  ID     `json:"stop"`
	Part  string `json:"part"` // title, card or guideNotes
	Lang  Lang   `json:"lang,omitempty"`
	Words string `json:"words"`
}

func (op *WriteStop) apply(d *editing) error {
	s := d.m.Stops[op.Stop]
	if s == nil {
		return Refusef("That stop is gone already.")
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	next := *s
	part, words := &next.Title, ""
	switch op.Part {
	case "title":
		words, err = Clean(op.Words, MaxTitle, "The title of a stop")
	case "card":
		part = &next.Card
		words, err = cleanNote(op.Words, "The card of a stop")
	case "guideNotes":
		part = &next.GuideNotes
		words, err = cleanNote(op.Words, "The guide notes of a stop")
	default:
		err = Refusef("A stop has a title, a card and guide notes.")
	}
	if err != nil {
		return err
	}
	*part = part.With(lang, words)
	d.putStop(&next)
	return nil
}

// MoveStop puts a stop behind another of its route, or at its front.
type MoveStop struct {
	Stop  ID `json:"stop"`
	After ID `json:"after,omitempty"`
}

func (op *MoveStop) apply(d *editing) error {
	s := d.m.Stops[op.Stop]
	if s == nil {
		return Refusef("That stop is gone already.")
	}
	next := *s
	return d.rankStop(&next, op.After)
}

// RemoveStop takes a stop out of its route.
type RemoveStop struct {
	Stop ID `json:"stop"`
}

func (op *RemoveStop) apply(d *editing) error {
	if d.m.Stops[op.Stop] == nil {
		return Refusef("That stop is gone already.")
	}
	delete(d.m.Stops, op.Stop)
	d.touch(EntityStop, op.Stop)
	return nil
}

// rankStop puts a stop into its route behind another and stores it.
func (d *editing) rankStop(s *Stop, after ID) error {
	others := slices.DeleteFunc(d.m.StopsOf(s.Route), func(o *Stop) bool { return o.ID == s.ID })
	at := 0
	if after != "" {
		i := slices.IndexFunc(others, func(o *Stop) bool { return o.ID == after })
		if i < 0 {
			return Refusef("The stop before it is gone from this route.")
		}
		at = i + 1
	}
	low, high := "", ""
	if at > 0 {
		low = others[at-1].Rank
	}
	if at < len(others) {
		high = others[at].Rank
	}
	if high == "" || low < high {
		s.Rank = KeyBetween(low, high)
		d.putStop(s)
		return nil
	}
	// Two authors can leave equal ranks behind; give all of them anew.
	rank := ""
	for _, o := range slices.Insert(others, at, s) {
		next := *o
		rank = KeyBetween(rank, "")
		next.Rank = rank
		d.putStop(&next)
	}
	return nil
}

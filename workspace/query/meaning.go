package query

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/core/likeness"
	"mevrin/draw/icon"
)

// ofMeaning is what the margin offers for what carries meaning beyond words:
// kinds, tags, regions, filters, icons, amounts and durations.
type ofMeaning struct {
	KindAsked *kindView   // the one whose look and meaning are asked for
	Kinds     []kindView  // of concepts
	LinkKinds []kindView  // of links
	KindID    cm.ID       // of the first concept or link selected
	Begins    []beginning // keys to begin with
	Tags      []tagView
	Regions   []regionView
	Filters   []filterView
	Icons     []iconView // of the first concept selected
	Table     string     // of the concept selected, as JSON
	Amount    string
	Lasts     string
	Sum       string     // what the durations of its branch come to
	SumOf     []partView // what it is made of
	Ask       filterForm
	Tray      []sourceView // sources attached to nothing yet
	Cites     int          // works that the map cites
	Look      cm.Look
	Waiting   int // suggestions that nobody decided on
	OwnLooks  []ownLookView
	Themes    []Choice
	Papers    []Choice
	Meanings  []Choice      // what colours can stand for
	LevelHues []levelView   // where they stand for levels
	Colours   cm.OwnColours // of the paper and what is on it, as they are now
	Paint     cm.Paint      // of the first concept selected
	Painted   bool          // some of what is selected looks otherwise than its kind
	KeyAway   bool
	// What adds a kind or a tag, with a look that is free.
	NewKind, NewLinkKind, NewTag string
}

// kindView is a kind as the margin shows it.
type kindView struct {
	*cm.Kind
	Name, Meaning string
	Count         int // of its concepts or links
	Others        []kindName
	Map           cm.ID
	Opened        bool // its look and meaning are seen
}

type kindName struct {
	ID   cm.ID
	Name string
}

type tagView struct {
	ID     cm.ID
	Name   string
	Colour cm.Colour
	Count  int
	On     string // on those selected: "true", "false", or "mixed"
}

type regionView struct {
	*cm.Region
	Title  string
	Count  int
	Holds  bool // some of what is selected
	Branch bool // the branch of the concept selected
	Tucked bool

	NoteWords string
	Comments  int // on it, of threads that are not settled
}

type filterView struct {
	ID    cm.ID
	Name  string
	Says  string
	Count int
	JSON  string
}

type iconView struct {
	Name    cm.Icon
	Says    string
	Without []cm.Icon // the others of that concept
}

// levelView is the colour of a level. Shared lists other levels of that colour.
type levelView struct {
	Level  int
	Colour cm.Colour
	Shared string
}

type partView struct {
	ID    cm.ID
	Words string
	Lasts string
}

// beginning is a key to begin with.
type beginning struct {
	kinds.Set
	There bool // the map has some of it
}

// filterForm is what a filter can ask for on this map.
type filterForm struct {
	Branches []kindName
	Levels   []int
}

func (s Reading) describeMeaning(v *Margin, concepts, links []cm.ID) {
	s.describeKinds(v)
	s.describeNew(v)
	s.describeLook(v, concepts)
	v.Cites = len(s.Structure.Citations())
	v.Tray = sourceViews(s.Map.Tray, cm.Key{Kind: cm.EntityMap, ID: s.Map.ID})
	switch {
	case len(concepts) > 0:
		first := s.Map.Concepts[concepts[0]]
		v.KindID, v.Amount, v.Lasts = first.Kind, first.Amount.Words(), first.Lasts.Words()
		for i, name := range first.Icons {
			v.Icons = append(v.Icons, iconView{name, s.iconSays(name), slices.Delete(slices.Clone(first.Icons), i, i+1)})
		}
	case len(links) > 0:
		v.KindID = s.Map.Links[links[0]].Kind
	}
	if len(concepts) == 1 {
		if t := s.Map.Concepts[concepts[0]].Table; t != nil {
			raw, _ := json.Marshal(t) // a table can always be written
			v.Table = string(raw)
		}
		sum, parts := s.Structure.Lasts(concepts[0])
		if len(parts) > 1 || len(parts) == 1 && parts[0] != concepts[0] {
			v.Sum = sum.Words()
			for _, id := range parts {
				v.SumOf = append(v.SumOf, partView{id, s.Map.Words(s.Map.Concepts[id].Label), s.Map.Concepts[id].EffectiveDuration().Words()})
			}
		}
	}
	s.describeTags(v, concepts)
	s.describeRegions(v, concepts)
	for _, f := range s.Map.FilterList() {
		raw, _ := json.Marshal(f) // a filter can always be written
		v.Filters = append(v.Filters, filterView{f.ID, s.Map.Words(f.Name), s.filterWords(f), len(s.Structure.Matches(f)), string(raw)})
	}
	if f := s.Structure.Places[s.Map.Focus]; f != nil {
		for _, id := range f.Children {
			v.Ask.Branches = append(v.Ask.Branches, kindName{id, s.Map.Words(s.Map.Concepts[id].Label)})
		}
	}
	for level := 1; level <= s.Structure.Depth(); level++ {
		v.Ask.Levels = append(v.Ask.Levels, level)
	}
}

// describeNew gives what makes another kind or tag of the name that is typed.
func (s Reading) describeNew(v *Margin) {
	colour, outline, _ := s.Map.FreeLook(false)
	hue, _, stroke := s.Map.FreeLook(true)
	v.NewKind = written(map[string]any{"do": "add-kind", "id": "@k", "name": "@value", "colour": colour, "outline": outline})
	v.NewLinkKind = written(map[string]any{"do": "add-kind", "id": "@k", "name": "@value", "links": true, "colour": hue, "stroke": stroke})
	v.NewTag = written(map[string]any{"do": "add-tag", "id": "@t", "name": "@value", "colour": s.Map.FreeColour(), "reuse": true},
		map[string]any{"do": "assign-tag", "concepts": "@chosen", "tag": "@t", "on": true})
}

// written gives operations as a control carries them.
func written(operations ...map[string]any) string {
	raw, _ := json.Marshal(operations) // words, numbers and truths can always be written
	return string(raw)
}

func (s Reading) describeKinds(v *Margin) {
	count := map[cm.ID]int{}
	for _, c := range s.Map.Concepts {
		count[c.Kind]++
	}
	for _, l := range s.Map.Links {
		count[l.Kind]++
	}
	for _, k := range s.Map.Key() {
		view := kindView{k, s.Map.Words(k.Name), s.Map.Words(k.Meaning), count[k.ID], nil, s.Map.ID, v.asked.shows("kind-" + string(k.ID))}
		for _, o := range s.Map.Key() {
			if o.Links == k.Links && o.ID != k.ID {
				view.Others = append(view.Others, kindName{o.ID, s.Map.Words(o.Name)})
			}
		}
		if k.Links {
			v.LinkKinds = append(v.LinkKinds, view)
		} else {
			v.Kinds = append(v.Kinds, view)
		}
	}
	for _, view := range slices.Concat(v.Kinds, v.LinkKinds) {
		if view.ID == v.asked.Kind {
			v.KindAsked = &view
		}
	}
	there := kinds.Of(s.Map)
	for _, set := range kinds.Shipped {
		b := beginning{Set: set, There: slices.ContainsFunc(there, func(o kinds.Set) bool { return o.ID == set.ID })}
		v.Begins = append(v.Begins, b)
	}
	v.KeyAway = s.Map.KeyPlace != nil && s.Map.KeyPlace.Away
}

func (s Reading) describeTags(v *Margin, concepts []cm.ID) {
	count := map[cm.ID]int{}
	for _, c := range s.Map.Concepts {
		for id := range c.Tags {
			count[id]++
		}
	}
	for _, t := range s.Map.TagList() {
		n := 0
		for _, id := range concepts {
			if s.Map.Concepts[id].Tags[t.ID] {
				n++
			}
		}
		on := "mixed"
		if n == 0 {
			on = "false"
		} else if n == len(concepts) {
			on = "true"
		}
		v.Tags = append(v.Tags, tagView{t.ID, s.Map.Words(t.Name), t.Colour, count[t.ID], on})
	}
}

func (s Reading) describeRegions(v *Margin, concepts []cm.ID) {
	for _, id := range cm.SortedIDs(s.Map.Regions) {
		r := s.Map.Regions[id]
		inside := s.Map.Inside(r)
		view := regionView{Region: r, Title: s.Map.Words(r.Title), NoteWords: s.Map.Words(r.Note), Count: len(inside)}
		view.Holds = slices.ContainsFunc(concepts, func(c cm.ID) bool { return inside[c] })
		view.Branch = len(concepts) == 1 && r.Branches[concepts[0]]
		v.Regions = append(v.Regions, view)
	}
}

// IconGroup is what is offered of one sort of icons.
type IconGroup struct {
	Title string
	Icons []iconChoice
}

type iconChoice struct {
	Name  cm.Icon
	Words string
	Says  string // what it means, or its name
}

// iconSays gives what an icon means, or its name.
func (s Reading) iconSays(i cm.Icon) string {
	if n, is := i.Step(); is {
		return s.t("step %d", n)
	}
	if means := i.Means(); means != "" {
		return s.t(means)
	}
	return string(i)
}

// mostSteps is how many numbers of steps are offered among the icons.
const mostSteps = 20

// IconGroups gives the icons on offer by their groups, the numbers of steps first: all,
// or those of which a word, or one of the group's title, begins as is sought.
func (s Reading) IconGroups(sought string) []IconGroup {
	var groups []IconGroup
	offer := func(title string, choice iconChoice) {
		if !likeness.Begins(choice.Words+" "+title, sought) {
			return
		}
		if n := len(groups); n == 0 || groups[n-1].Title != title {
			groups = append(groups, IconGroup{Title: title})
		}
		last := &groups[len(groups)-1]
		last.Icons = append(last.Icons, choice)
	}
	for n := 1; n <= mostSteps; n++ {
		offer("numbers of steps", iconChoice{cm.StepIcon(n), strconv.Itoa(n) + " number step", s.iconSays(cm.StepIcon(n))})
	}
	for _, i := range icon.All {
		offer(i.Group, iconChoice{i.Name, i.Words, s.iconSays(i.Name)})
	}
	return groups
}

// BeginKey gives the operations that begin a key with a set of kinds, as a page sends
// them. The page makes the ids of the kinds.
func (s Reading) BeginKey(set string) ([]byte, error) {
	i := slices.IndexFunc(kinds.Shipped, func(one kinds.Set) bool { return one.ID == set })
	if i < 0 {
		return nil, cm.Refusef("There is no such set of kinds.")
	}
	n := 0
	return edit.MarshalOperations(kinds.Shipped[i].Operations(s.Map.Language, func() cm.ID { n++; return cm.ID(fmt.Sprintf("@k%d", n)) }))
}

// StepsOf writes one operation as a control carries it: its name, then members and
// their values in turn. What begins with @ the page fills in (carried.js).
func StepsOf(do string, members ...any) (string, error) {
	op := map[string]any{"do": do}
	for i := 0; i+1 < len(members); i += 2 {
		op[fmt.Sprint(members[i])] = members[i+1]
	}
	raw, err := json.Marshal([]any{op})
	return string(raw), err
}

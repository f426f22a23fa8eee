package query

import (
	"slices"
	"strconv"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/markdown"
	"mevrin/workspace"
)

// Talk is what was said of one thing.
type Talk struct {
	Element string // of the thing; that of a map is m-ID
	On      cm.Key
	Words   string // of the thing
	Threads []threadView
	Count   int // comments of threads that are not settled
	// Votes on a concept; Mine is "for", "against" or empty.
	Votes         bool
	Agree, Differ int
	// Those of visitors, which are not counted among them.
	VisitorsAgree, VisitorsDiffer int
	Mine                          string
	// Mentions is the map where people can be mentioned by name; empty for whoever has no account.
	Mentions cm.ID
	Named    bool // whoever asks has an account, by which they are named
}

type threadView struct {
	commentView
	Answers []commentView
	Settled bool
	Asks    bool // for help
	Settles bool // the person asking can settle it
}

type commentView struct {
	ID          cm.ID
	Name, Words string
	At          time.Time
	Own         bool // of the person asking
	Visitor     bool // of somebody who has a link
	Takes       bool // who can take it back, or away
}

// talkedView is a thread as all threads of a map are listed.
type talkedView struct {
	ID          cm.ID
	Element     string // what it is about; empty where that is gone, or is the map
	About       string
	Verb        bool
	Visitor     bool
	Name, Words string
	Count       int
	Settled     bool
	Asks        bool
}

// said is all that was said of a map, as one person sees it.
type said struct {
	Reading
	who     workspace.Person
	self    cm.ID
	threads []cm.Thread
	count   map[cm.Key]int // as Map.Talk counts
}

func (s Reading) said(who workspace.Person) *said {
	return &said{s, who, who.Speaker(s.Map.ID), s.Map.Threads(), s.Map.Discussion()}
}

func (s *said) comment(c *cm.Comment) commentView {
	at, _ := time.Parse(cm.MomentForm, c.At) // it was written so
	own := c.By == s.self
	return commentView{c.ID, c.Name, c.Words, at, own && c.Words != "", cm.Visitor(c.By), (own || s.who.Alters()) && c.Words != ""}
}

// of gives what was said of a thing.
func (s *said) of(on cm.Key) Talk {
	v := Talk{Element: workspace.Element(on), On: on, Named: s.who.Account != nil}
	if v.Named {
		v.Mentions = s.Map.ID
	}
	about := on
	if on.Kind == cm.EntityMap {
		about.ID, v.Words = "", s.t("the map")
	} else {
		v.Words = s.nameOf(on)
	}
	v.Count = s.count[about]
	for _, t := range s.threads {
		if t.On.Kind != about.Kind || t.On.ID != about.ID {
			continue
		}
		one := threadView{commentView: s.comment(t.Comment), Settled: t.Settled, Asks: t.Asks, Settles: s.who.Alters() || t.By == s.self}
		for _, a := range t.Answers {
			one.Answers = append(one.Answers, s.comment(a))
		}
		v.Threads = append(v.Threads, one)
	}
	// What is settled comes after what is not.
	slices.SortStableFunc(v.Threads, func(a, b threadView) int {
		switch {
		case a.Settled == b.Settled:
			return 0
		case b.Settled:
			return -1
		}
		return 1
	})
	if c := s.Map.Concepts[on.ID]; on.Kind == cm.EntityConcept && c != nil {
		v.Votes = true
		v.Agree, v.Differ = c.Tally(false)
		v.VisitorsAgree, v.VisitorsDiffer = c.Tally(true)
		if agrees, voted := c.Votes[s.self]; voted {
			v.Mine = map[bool]string{true: "for", false: "against"}[agrees]
		}
	}
	return v
}

// nameOf says what a thing is called.
func (s Reading) nameOf(key cm.Key) string {
	if r := s.Map.Regions[key.ID]; key.Kind == cm.EntityRegion && r != nil {
		return strings.Join(strings.Fields(s.Map.Words(r.Title)), " ")
	}
	return s.wordsOf(key)
}

// listed lists all threads: what is not settled first, the newest first.
func (s *said) listed() []talkedView {
	var all []talkedView
	for _, settled := range []bool{false, true} {
		for _, t := range slices.Backward(s.threads) {
			if t.Settled != settled {
				continue
			}
			one := talkedView{ID: t.ID, About: s.Map.Words(t.On.Seen), Verb: t.On.Kind == cm.EntityLink, Visitor: cm.Visitor(t.By), Name: t.Name, Words: t.Words, Count: 1 + len(t.Answers), Settled: settled, Asks: t.Asks}
			key := cm.Key{Kind: t.On.Kind, ID: t.On.ID}
			if there := s.Map.Concepts[key.ID] != nil || s.Map.Links[key.ID] != nil || s.Map.Regions[key.ID] != nil; there {
				one.Element, one.About = workspace.Element(key), s.nameOf(key)
			}
			if t.On.Kind == cm.EntityMap {
				one.About = s.t("the map")
			}
			all = append(all, one)
		}
	}
	// Whoever asks for help waits for it.
	slices.SortStableFunc(all, func(a, b talkedView) int {
		asks := func(t talkedView) int {
			if t.Asks && !t.Settled {
				return 0
			}
			return 1
		}
		return asks(a) - asks(b)
	})
	return all
}

// ofTalk is what the margin offers of talk and tasks.
type ofTalk struct {
	Talk      Talk // of what is selected
	MapTalk   Talk // of the map as a whole
	Discussed []talkedView
	Unheard   int // threads that are not settled
	AnyTalk   bool
	Remark    string // on the concept selected
	// NoteOn is whose note the margin shows; NoteCard how that lies open.
	NoteOn    cm.Key
	NoteCard  cm.NoteCard
	Task      *cm.Task // of the concept selected
	Tasks     []taskView
	OpenTask  int
	Assignees []cm.Assignee
}

// taskView is a task as all tasks of a map are listed.
type taskView struct {
	*cm.Task
	Concept cm.ID
	Words   string // of the concept
}

func (s Reading) describeTalk(v *Margin, who workspace.Person) {
	s.describeTasks(v)
	said := s.said(who)
	for i, r := range v.Regions {
		v.Regions[i].Comments = said.count[cm.Key{Kind: cm.EntityRegion, ID: r.ID}]
	}
	v.MapTalk = said.of(cm.Key{Kind: cm.EntityMap, ID: s.Map.ID})
	v.Discussed, v.AnyTalk = said.listed(), s.Map.Discussed()
	for _, t := range v.Discussed {
		if !t.Settled {
			v.Unheard++
		}
	}
	card := (*cm.NoteCard)(nil)
	switch {
	case v.Concept != nil:
		v.NoteOn, card = cm.Key{Kind: cm.EntityConcept, ID: v.Concept.ID}, v.Concept.NoteCard
		v.Remark, v.Task = s.Map.Words(v.Concept.Remark), v.Concept.Task
	case v.Link != nil:
		v.NoteOn, card = cm.Key{Kind: cm.EntityLink, ID: v.Link.ID}, v.Link.NoteCard
	default:
		return
	}
	if card != nil {
		v.NoteCard = *card
	}
	v.Talk = said.of(v.NoteOn)
}

func (s Reading) describeTasks(v *Margin) {
	for _, c := range s.Map.TaskList() {
		v.Tasks = append(v.Tasks, taskView{c.Task, c.ID, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: c.ID})})
		if !c.Task.Done {
			v.OpenTask++
		}
	}
	v.Assignees = s.Map.Assignees()
}

// thingAsked gives the thing on the map that a request names by its element.
func (s Reading) thingAsked(named string) (cm.Key, bool) {
	kind, id, _ := strings.Cut(named, "-")
	key := cm.Key{ID: cm.ID(id)}
	there := false
	switch kind {
	case "c":
		key.Kind, there = cm.EntityConcept, s.Map.Concepts[key.ID] != nil
	case "l":
		key.Kind, there = cm.EntityLink, s.Map.Links[key.ID] != nil
	case "r":
		key.Kind, there = cm.EntityRegion, s.Map.Regions[key.ID] != nil
	case "m":
		key.Kind, there = cm.EntityMap, s.Map.ID == key.ID
	}
	return key, there
}

// Talk gives what was said of a thing, named by its element; else of the map.
func (s Reading) Talk(on string, who workspace.Person) Talk {
	key, there := s.thingAsked(on)
	if !there {
		key = cm.Key{Kind: cm.EntityMap, ID: s.Map.ID}
	}
	return s.said(who).of(key)
}

// NoteCard is a note as it lies open on the paper.
type NoteCard struct {
	Element string
	On      cm.Key
	cm.NoteCard
	About string
	Verb  bool
	Words string
}

// NoteCard gives the note of a thing, named by its element, as it lies open on the
// paper; there is false where there is none.
func (s Reading) NoteCard(on string) (v NoteCard, there bool) {
	key, there := s.thingAsked(on)
	var note cm.Text
	var card *cm.NoteCard
	switch c, l, r := s.Map.Concepts[key.ID], s.Map.Links[key.ID], s.Map.Regions[key.ID]; {
	case !there:
	case key.Kind == cm.EntityConcept:
		note, card = c.Note, c.NoteCard
	case key.Kind == cm.EntityLink:
		note, card = l.Note, l.NoteCard
	case key.Kind == cm.EntityRegion:
		note, card = r.Note, r.NoteCard
	}
	if note.Empty() {
		return v, false
	}
	v = NoteCard{Element: workspace.Element(key), On: key, About: s.nameOf(key), Verb: key.Kind == cm.EntityLink, Words: s.Map.Words(note)}
	if card != nil {
		v.NoteCard = *card
	}
	return v, true
}

// CardsOf gives the cards of a route in small, as they lie beside what they speak of.
func (s Reading) CardsOf(view scene.View, route cm.ID) string {
	m := s.Map
	var asked []scene.CardAsked
	said := guide.Said(m, s.Structure, route, func(t cm.Text) string { return m.Told(route, t) })
	for i, step := range guide.Growth(m, route) {
		stop := m.Stops[step.Stop]
		words := m.Told(route, stop.Card)
		if guide.FollowsMap(stop) {
			words = said[stop.ID]
		}
		asked = append(asked, scene.CardAsked{Stop: stop.ID, Number: strconv.Itoa(i + 1), Title: strings.Join(strings.Fields(m.Told(route, stop.Title)), " "),
			Words: markdown.Plain(words), Shows: step.Shows})
	}
	return svg.Cards(scene.Cards(s.Seen(view), asked))
}

package web

import (
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/format/markdown"
)

// Talk is what people say of a map: comments in threads, and votes on concepts. It
// is shown in the margin, and to those who work with the plain hand in a panel of
// its own.

// talkView is what was said of one thing.
type talkView struct {
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
}

type threadView struct {
	commentView
	Answers []commentView
	Settled bool
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
}

// said is all that was said of a map, as one person sees it.
type said struct {
	reading
	who     Person
	self    cm.ID
	threads []cm.Thread
	count   map[cm.Key]int // as Map.Talk counts
}

func (s reading) said(who Person) *said {
	return &said{s, who, who.speaker(s.m.ID), s.m.Threads(), s.m.Talk()}
}

func (s *said) comment(c *cm.Comment) commentView {
	at, _ := time.Parse(cm.MomentForm, c.At) // it was written so
	own := c.By == s.self
	return commentView{c.ID, c.Name, c.Words, at, own && c.Words != "", cm.Visitor(c.By), (own || !s.who.Gentle) && c.Words != ""}
}

// of gives what was said of a thing.
func (s *said) of(on cm.Key) talkView {
	v := talkView{Element: element(on), On: on}
	about := on
	if on.Kind == cm.EntityMap {
		about.ID, v.Words = "", "the map"
	} else {
		v.Words = s.nameOf(on)
	}
	v.Count = s.count[about]
	for _, t := range s.threads {
		if t.On.Kind != about.Kind || t.On.ID != about.ID {
			continue
		}
		one := threadView{commentView: s.comment(t.Comment), Settled: t.Settled, Settles: !s.who.Gentle || t.By == s.self}
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
	if c := s.m.Concepts[on.ID]; on.Kind == cm.EntityConcept && c != nil {
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
func (s reading) nameOf(key cm.Key) string {
	if r := s.m.Regions[key.ID]; key.Kind == cm.EntityRegion && r != nil {
		return strings.Join(strings.Fields(s.m.Words(r.Title)), " ")
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
			one := talkedView{ID: t.ID, About: s.m.Words(t.On.Seen), Verb: t.On.Kind == cm.EntityLink, Visitor: cm.Visitor(t.By), Name: t.Name, Words: t.Words, Count: 1 + len(t.Answers), Settled: settled}
			key := cm.Key{Kind: t.On.Kind, ID: t.On.ID}
			if there := s.m.Concepts[key.ID] != nil || s.m.Links[key.ID] != nil || s.m.Regions[key.ID] != nil; there {
				one.Element, one.About = element(key), s.nameOf(key)
			}
			if t.On.Kind == cm.EntityMap {
				one.About = "the map"
			}
			all = append(all, one)
		}
	}
	return all
}

// ofTalk is what the margin offers of talk and tasks.
type ofTalk struct {
	Talk    talkView // of what is selected
	MapTalk talkView // of the map as a whole
	Talked  []talkedView
	Unheard int // threads that are not settled
	AnyTalk bool
	Remark  string // on the concept selected
	// NoteOn is whose note the margin shows; NoteCard how that lies open.
	NoteOn   cm.Key
	NoteCard cm.NoteCard
	Task     *cm.Task // of the concept selected
	Tasks    []taskView
	OpenTask int
	Doers    []cm.Doer
}

// taskView is a task as all tasks of a map are listed.
type taskView struct {
	*cm.Task
	Concept cm.ID
	Words   string // of the concept
}

func (s reading) describeTalk(v *marginView, who Person) {
	s.describeTasks(v)
	said := s.said(who)
	for i, r := range v.Regions {
		v.Regions[i].Comments = said.count[cm.Key{Kind: cm.EntityRegion, ID: r.ID}]
	}
	v.MapTalk = said.of(cm.Key{Kind: cm.EntityMap, ID: s.m.ID})
	v.Talked, v.AnyTalk = said.listed(), s.m.Talked()
	for _, t := range v.Talked {
		if !t.Settled {
			v.Unheard++
		}
	}
	card := (*cm.NoteCard)(nil)
	switch {
	case v.Concept != nil:
		v.NoteOn, card = cm.Key{Kind: cm.EntityConcept, ID: v.Concept.ID}, v.Concept.NoteCard
		v.Remark, v.Task = s.m.Words(v.Concept.Remark), v.Concept.Task
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

func (s reading) describeTasks(v *marginView) {
	for _, c := range s.m.TaskList() {
		v.Tasks = append(v.Tasks, taskView{c.Task, c.ID, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: c.ID})})
		if !c.Task.Done {
			v.OpenTask++
		}
	}
	v.Doers = s.m.Doers()
}

// thingAsked gives the thing on the map that a request names by its element.
func (s reading) thingAsked(named string) (cm.Key, bool) {
	kind, id, _ := strings.Cut(named, "-")
	key := cm.Key{ID: cm.ID(id)}
	there := false
	switch kind {
	case "c":
		key.Kind, there = cm.EntityConcept, s.m.Concepts[key.ID] != nil
	case "l":
		key.Kind, there = cm.EntityLink, s.m.Links[key.ID] != nil
	case "r":
		key.Kind, there = cm.EntityRegion, s.m.Regions[key.ID] != nil
	case "m":
		key.Kind, there = cm.EntityMap, s.m.ID == key.ID
	}
	return key, there
}

// talk is what was said of a thing, in a panel of its own.
func (s *server) talk(g *gin.Context) {
	who, _ := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	g.HTML(http.StatusOK, "talk-panel", now.talkOf(g.Query("on"), who))
}

// talkOf gives what was said of a thing, named by its element; else of the map.
func (s reading) talkOf(on string, who Person) talkView {
	key, there := s.thingAsked(on)
	if !there {
		key = cm.Key{Kind: cm.EntityMap, ID: s.m.ID}
	}
	return s.said(who).of(key)
}

// noteCardView is a note as it lies open on the paper.
type noteCardView struct {
	Element string
	On      cm.Key
	cm.NoteCard
	About string
	Verb  bool
	Words string
}

// noteCard is a note as it lies open on the paper.
func (s *server) noteCard(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, there := now.noteCardOf(g.Query("on"))
	if !there {
		s.fail(g, http.StatusNotFound, "There is no note on it any more.", nil)
		return
	}
	g.HTML(http.StatusOK, "note-card", v)
}

// noteCardOf gives the note of a thing, named by its element, as it lies open on the
// paper; there is false where there is none.
func (s reading) noteCardOf(on string) (v noteCardView, there bool) {
	key, there := s.thingAsked(on)
	var note cm.Text
	var card *cm.NoteCard
	switch c, l, r := s.m.Concepts[key.ID], s.m.Links[key.ID], s.m.Regions[key.ID]; {
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
	v = noteCardView{Element: element(key), On: key, About: s.nameOf(key), Verb: key.Kind == cm.EntityLink, Words: s.m.Words(note)}
	if card != nil {
		v.NoteCard = *card
	}
	return v, true
}

// cards are the cards of a route, small, beside what they speak of.
func (s *server) cards(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	route := cm.ID(g.Query("route"))
	if now.m.Routes[route] == nil {
		s.fail(g, http.StatusNotFound, "This route is no longer there.", nil)
		return
	}
	g.Data(http.StatusOK, "image/svg+xml", []byte(cardsOf(now.m, now.seen(view), route)))
}

func cardsOf(m *cm.Map, sc *scene.Scene, route cm.ID) string {
	var asked []scene.CardAsked
	for i, step := range guide.Growth(m, route) {
		stop := m.Stops[step.Stop]
		asked = append(asked, scene.CardAsked{Stop: stop.ID, Number: strconv.Itoa(i + 1), Title: strings.Join(strings.Fields(m.Words(stop.Title)), " "),
			Words: markdown.Plain(m.Words(stop.Card)), Shows: step.Shows})
	}
	return svg.Cards(scene.Cards(sc, asked))
}

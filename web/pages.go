package web

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/store"
)

type libraryEntry struct {
	store.Summary
	Name, Asks string
}

// library lists the maps.
func (s *server) library(g *gin.Context) {
	if _, _, ok := s.allow(g, MayMake); !ok {
		return
	}
	all, err := s.Store.List(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	entries := make([]libraryEntry, len(all))
	for i, m := range all {
		entries[i] = libraryEntry{m, m.Title.For(m.Language), m.Question.For(m.Language)}
	}
	g.HTML(http.StatusOK, "library.html", gin.H{"Maps": entries})
}

// makeMap makes a map: with one concept in the middle, or empty.
func (s *server) makeMap(g *gin.Context) {
	who, _, ok := s.allow(g, MayMake)
	if !ok {
		return
	}
	question := g.PostForm("question")
	id := cm.ID(uuid.Must(uuid.NewV7()).String())
	ops := []cm.Operation{}
	if strings.TrimSpace(question) != "" {
		ops = append(ops, &cm.Ask{Question: question})
	}
	if g.PostForm("begin") != "empty" {
		first := cm.ID("c" + uuid.Must(uuid.NewV7()).String()[:23])
		ops = append(ops, &cm.AddConcept{ID: first}, &cm.SetFocus{Concept: first})
	}
	if err := makeMapOf(g, s, who, id, ops); err != nil {
		s.failWith(g, err)
		return
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
}

// makeMapOf checks the operations before the map is made, so that words that
// are refused leave no empty map behind.
func makeMapOf(g *gin.Context, s *server, who Person, id cm.ID, ops []cm.Operation) error {
	ctx := g.Request.Context()
	out, err := cm.Apply(cm.NewMap(id, "en"), ops, nil)
	if err != nil {
		return err
	}
	if _, err := s.Store.Create(ctx, id, "en"); err != nil {
		return err
	}
	if len(ops) == 0 {
		return nil
	}
	raw, err := cm.MarshalOperations(ops)
	if err != nil {
		return err
	}
	return s.Store.Append(ctx, &store.Entry{Revision: 1, ID: "begin", Author: who.ID, Window: "begin", Operations: raw, Changes: out.Changes}, out.Map)
}

// mapPage is the page on which a map is made.
func (s *server) mapPage(g *gin.Context) {
	who, id, ok := s.allow(g, MayEdit)
	if !ok {
		return
	}
	d := s.desks.get(id)
	now, err := d.look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	var flags Answer
	d.mu.Lock()
	d.flags(&flags, who)
	d.mu.Unlock()
	links, slips := now.paper()
	// The page holds the map as it is now; a copy kept for the back button
	// would show an old one.
	g.Header("Cache-Control", "no-store")
	g.HTML(http.StatusOK, "map.html", gin.H{
		"ID": id, "Lang": now.m.Language, "Head": now.head(), "Revision": now.revision, "Focus": now.m.Focus,
		"Undo": flags.Undo, "Redo": flags.Redo, "Links": links, "Slips": slips,
		"Margin": now.marginOf(nil),
	})
}

// margin is the page's margin for what is selected.
func (s *server) margin(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	var chosen []string
	if list := g.Query("chosen"); list != "" {
		chosen = strings.Split(list, ",")
	}
	g.HTML(http.StatusOK, "margin.html", now.marginOf(chosen))
}

// lookAt gives the present state of the map asked for, to one who may look at
// it, for an answer that must not be kept; nil where it has answered itself.
func (s *server) lookAt(g *gin.Context) *state {
	_, id, ok := s.allow(g, MayLook)
	if !ok {
		return nil
	}
	now, err := s.desks.get(id).look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return nil
	}
	g.Header("Cache-Control", "no-store")
	return now
}

// sentence is a proposition in the two voices.
type sentence struct {
	Key                   string // names the proposition among all of the map
	Link, Subject, Object cm.ID
	Noun1, Verb, Noun2    string
	Open                  bool
}

type finding struct {
	Title, Why string
	Places     []findingPlace
}

type findingPlace struct{ Element, Words string }

type marginView struct {
	Kind      string // concept, link, several, or nothing
	Chosen    string // the elements that it speaks of
	Count     int
	Concept   *cm.Concept
	Words     string
	Level     int
	Branch    string
	IsFocus   bool
	Loose     bool
	Link      *cm.Link
	Sentences []sentence
	More      int

	Concepts, Links, CrossLinks, LooseIdeas int
	Findings                                []finding
}

// mostSentences is how many sentences of one concept the margin lists.
const mostSentences = 12

// marginOf gathers what the margin says about the chosen elements (c-… and
// l-…) and about the whole map.
func (s *state) marginOf(chosen []string) marginView {
	v := marginView{Kind: "nothing", Chosen: strings.Join(chosen, ","), Concepts: len(s.m.Concepts), Links: len(s.m.Links)}
	var concepts, links []cm.ID
	for _, element := range chosen {
		kind, id, _ := strings.Cut(element, "-")
		if kind == "c" && s.m.Concepts[cm.ID(id)] != nil {
			concepts = append(concepts, cm.ID(id))
		} else if kind == "l" && s.m.Links[cm.ID(id)] != nil {
			links = append(links, cm.ID(id))
		}
	}
	switch v.Count = len(concepts) + len(links); {
	case v.Count > 1:
		v.Kind = "several"
	case len(concepts) == 1:
		s.describeConcept(&v, concepts[0])
	case len(links) == 1:
		v.Kind, v.Link = "link", s.m.Links[links[0]]
		v.Words = s.m.Words(v.Link.Phrase)
		s.addSentences(&v, func(p sentence) bool { return p.Link == links[0] })
	}
	for _, l := range s.scene.Links {
		for _, leg := range l.Legs {
			if leg.Cross && !leg.From {
				v.CrossLinks++
			}
		}
	}
	v.LooseIdeas = len(s.structure.Loose())
	for _, f := range check.Find(s.m, s.structure) {
		v.Findings = append(v.Findings, s.describeFinding(f))
	}
	return v
}

func (s *state) describeConcept(v *marginView, id cm.ID) {
	place := s.structure.Places[id]
	v.Kind, v.Concept = "concept", s.m.Concepts[id]
	v.Words, v.Level, v.IsFocus, v.Loose = s.m.Words(v.Concept.Label), place.Level, s.m.Focus == id, place.Loose
	if place.Level > 1 && place.Branch != id {
		v.Branch = s.m.Words(s.m.Concepts[place.Branch].Label)
	}
	s.addSentences(v, func(p sentence) bool { return p.Subject == id || p.Object == id })
}

func (s *state) addSentences(v *marginView, wanted func(sentence) bool) {
	for _, p := range s.structure.Propositions() {
		said := s.sentenceOf(p)
		if !wanted(said) {
			continue
		}
		if len(v.Sentences) == mostSentences {
			v.More++
			continue
		}
		v.Sentences = append(v.Sentences, said)
	}
}

func (s *state) sentenceOf(p structure.Proposition) sentence {
	l := s.m.Links[p.Strand.Link]
	key := strings.Join([]string{string(l.ID), string(p.Strand.From), string(p.Strand.To)}, "/")
	if p.Against {
		key += "/back"
	}
	return sentence{
		Key: key, Link: l.ID, Subject: p.Subject, Object: p.Object, Verb: s.m.Words(l.Phrase),
		Open:  p.Open,
		Noun1: s.m.Words(s.m.Concepts[p.Subject].Label), Noun2: s.m.Words(s.m.Concepts[p.Object].Label),
	}
}

func (s *state) describeFinding(f check.Finding) finding {
	out := finding{Title: f.Rule.Title, Why: f.Rule.Why}
	for _, key := range f.Where {
		place := findingPlace{Element: "c-" + string(key.ID)}
		if key.Kind == cm.KindLink {
			place.Element = "l-" + string(key.ID)
			place.Words = openLinkWords(s.scene.Links[key.ID])
		} else {
			place.Words = s.m.Words(s.m.Concepts[key.ID].Label)
		}
		out.Places = append(out.Places, place)
	}
	if len(out.Places) > 1 {
		out.Title = fmt.Sprintf("%s (%d)", out.Title, len(out.Places))
	}
	return out
}

func openLinkWords(l *scene.Link) string {
	return strings.Replace(l.Says, "(no words yet)", "…", 1)
}

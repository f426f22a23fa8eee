package web

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/core/phrases"
	"mevrin/core/structure"
	"mevrin/core/work"
	"mevrin/draw/scene"
	"mevrin/format/markdown"
)

// mapPage is the page on which a map is made.
func (s *server) mapPage(g *gin.Context) {
	who, id := asker(g)
	d := s.sessions.get(id)
	now, view, err := d.lookAs(g.Request.Context(), who)
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer now.turn(g)()
	var flags Answer
	d.flags(&flags, who)
	margin := now.marginOf(nil, wanted{})
	now.describeView(&margin, view)
	now.describeTalk(&margin, who)
	// The page holds the map as it is now; a copy kept for the back button
	// would show an old one.
	g.Header("Cache-Control", "no-store")
	plain := who.Gentle || now.m.Hand == cm.HandPlain
	base := "/maps/" + string(id)
	if who.Gentle {
		base = "/hand/" + g.Param("token")
	} else if asked, ok := g.GetQuery("hand"); ok {
		plain = asked == string(cm.HandPlain)
	}
	g.HTML(http.StatusOK, "map.html", gin.H{
		"Base": base, "Plain": plain, "Bearer": who.Gentle,
		"ID": id, "Lang": now.m.Language, "Head": now.head(view), "Paper": now.paper(view, base), "Revision": now.revision, "Focus": now.m.Focus,
		"Undo": flags.Undo, "Redo": flags.Redo, "Films": strings.Join(s.Films, " "), "Margin": margin,
	})
}

// margin is the page's margin for what is selected.
func (s *server) margin(g *gin.Context) {
	who, _ := asker(g)
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	var chosen []string
	if list := g.Query("chosen"); list != "" {
		chosen = strings.Split(list, ",")
	}
	want := wanted{g.Query("phase"), cm.ID(g.Query("route")), cm.ID(g.Query("stop"))}
	v := now.marginOf(chosen, want)
	now.describeView(&v, view)
	var err error
	if v.HandLinks, err = s.handLinksOf(g, now.m); err != nil {
		s.failWith(g, err)
		return
	}
	now.describeTalk(&v, who)
	if err = s.ownLooks(g, &v, who.ID); err != nil {
		s.failWith(g, err)
		return
	}
	if v.Guide.Route != "" {
		if v.Guide.Links, err = s.linksTo(g, now.m.ID, v.Guide.Route); err != nil {
			s.failWith(g, err)
			return
		}
	}
	if v.Phase == "check" && g.Query("figures") != "" {
		own := cm.ID("")
		if v.Concept != nil {
			own = v.Concept.ID
		}
		err := working(g.Request.Context(), func(limit *work.Limit) error {
			if len(now.m.Concepts) > structure.MaxMeasured {
				return &cm.Refusal{Words: fmt.Sprintf("Figures are worked out for at most %d concepts.", structure.MaxMeasured)}
			}
			v.Figures = now.figuresOf(own, limit)
			return nil
		})
		var refusal *cm.Refusal
		if errors.As(err, &refusal) {
			v.NoFigures = refusal.Words
		} else if err != nil {
			v.NoFigures = "Others are computing something large just now. Please open this again in a moment."
		}
	}
	if v.Phase == "connect" {
		if v.Bank, err = s.bankFor(g.Request.Context(), who, now.m); err != nil {
			s.failWith(g, err)
			return
		}
		v.Here, v.OfKey = now.phrasesHere(), kinds.Phrases(now.m)
	}
	g.HTML(http.StatusOK, "margin.html", v)
}

// lookAt gives the present state of the map asked for, to one who may look at
// it, for an answer that must not be kept; nil where it has answered itself.
func (s *server) lookAt(g *gin.Context) *state {
	_, id := asker(g)
	now, err := s.sessions.get(id).look(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return nil
	}
	g.Header("Cache-Control", "no-store")
	return now
}

// lookAtAs does as lookAt and gives, too, how the person asking sees the map.
func (s *server) lookAtAs(g *gin.Context) (*state, scene.View) {
	who, id := asker(g)
	now, view, err := s.sessions.get(id).lookAs(g.Request.Context(), who)
	if err != nil {
		s.failWith(g, err)
		return nil, scene.View{}
	}
	g.Header("Cache-Control", "no-store")
	return now, view
}

// sentence is a proposition in the two voices.
type sentence struct {
	Key                   string // names the proposition among all of the map
	Link, Subject, Object cm.ID
	Noun1, Verb, Noun2    string
	Open, Cross           bool
	// FromEnd and ToEnd are the ends at subject and object.
	FromEnd, ToEnd cm.ID
}

type marginView struct {
	Kind      string // concept, link, several, or nothing
	Chosen    string // the elements that it speaks of
	Count     int
	Concept   *cm.Concept
	Words     string
	Level     int
	Parent    string // what the concept hangs from
	Branch    string // where that is neither itself nor the parent
	IsFocus   bool
	Loose     bool
	Link      *cm.Link
	Ends      []endView
	Sentences []sentence
	More      int

	Note string
	// NoteHTML is a note as it is read, where that differs from what was typed.
	NoteHTML    template.HTML
	MapNote     string
	MapNoteHTML template.HTML
	Title       string // of the map
	Name        string

	Concepts, Links, CrossLinks, LooseIdeas int

	ofThing
	ofMeaning
	ofView
	ofOrder
	ofTalk

	MapID     cm.ID
	HandLinks handLinks
	Phase     string
	Revision  int // of the map that it tells of
	Found     int // places at which something was noticed
	Check     checkView
	Guide     guideView
	Figures   []figureView // where they are asked for
	NoFigures string       // why there are none
	Bank      []phrases.Offer
	Here      []string // phrases of this map, the most used first
	OfKey     []string // phrases that go with the kinds of the map
}

// wanted is what the margin should show besides what is selected.
type wanted struct {
	phase       string
	route, stop cm.ID
}

// maxSentences is how many sentences of one concept the margin lists.
const maxSentences = 12

// marginOf gathers what the margin says about the chosen elements (c-… and
// l-…) and about the whole map.
func (s *state) marginOf(chosen []string, want wanted) marginView {
	v := marginView{Kind: "nothing", Chosen: strings.Join(chosen, ","), Concepts: len(s.m.Concepts), Links: len(s.m.Links),
		MapID: s.m.ID, Title: s.m.Words(s.m.Title), Name: s.m.Name(), Phase: want.phase, Revision: s.revision}
	if v.Phase == "" {
		v.Phase = "gather"
	}
	var concepts, links []cm.ID
	for _, element := range chosen {
		kind, id, _ := strings.Cut(element, "-")
		if kind == "c" && s.m.Concepts[cm.ID(id)] != nil {
			concepts = append(concepts, cm.ID(id))
		} else if kind == "l" && s.m.Links[cm.ID(id)] != nil {
			links = append(links, cm.ID(id))
		}
	}
	v.MapNote = s.m.Words(s.m.Note)
	v.MapNoteHTML = read(v.MapNote)
	s.describeThings(&v, concepts, links)
	s.describeOrder(&v, concepts)
	switch v.Count = len(concepts) + len(links); {
	case v.Count > 1:
		v.Kind = "several"
	case len(concepts) == 1:
		s.describeConcept(&v, concepts[0])
	case len(links) == 1:
		v.Kind, v.Link = "link", s.m.Links[links[0]]
		v.Words, v.Note = s.m.Words(v.Link.Phrase), s.m.Words(v.Link.Note)
		v.Ends = s.endsOf(v.Link)
		s.addSentences(&v, func(p sentence) bool { return p.Link == links[0] })
	}
	v.NoteHTML = read(v.Note)
	v.CrossLinks = len(s.structure.CrossLinks())
	v.LooseIdeas = len(s.structure.Loose())
	v.Check = s.checkOf()
	for _, f := range v.Check.Findings {
		v.Found += len(f.Places)
	}
	if v.Phase == "guide" {
		v.Guide = s.guideOf(want.route, want.stop)
	}
	return v
}

func (s *state) describeConcept(v *marginView, id cm.ID) {
	place := s.structure.Places[id]
	v.Kind, v.Concept = "concept", s.m.Concepts[id]
	v.Note = s.m.Words(v.Concept.Note)
	v.Words, v.Level, v.IsFocus, v.Loose = s.m.Words(v.Concept.Label), place.Level, s.m.Focus == id, place.Loose
	if place.Parent != "" {
		v.Parent = s.m.Words(s.m.Concepts[place.Parent].Label)
	}
	if place.Level > 2 && place.Branch != id && place.Branch != place.Parent {
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
		if len(v.Sentences) == maxSentences {
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
	from, to := p.Strand.From, p.Strand.To
	if p.Against {
		from, to = to, from
	}
	return sentence{
		Cross: p.Cross, FromEnd: from, ToEnd: to,
		Key: key, Link: l.ID, Subject: p.Subject, Object: p.Object, Verb: s.m.Words(l.Phrase),
		Open:  p.Open,
		Noun1: s.m.Words(s.m.Concepts[p.Subject].Label), Noun2: s.m.Words(s.m.Concepts[p.Object].Label),
	}
}

// read gives a note as it is read; nothing where it is plain words.
func read(note string) template.HTML {
	if !strings.ContainsAny(note, "*_#`[|$>") && !strings.Contains(note, "://") && !strings.Contains(note, "- ") && !strings.Contains(note, "1. ") {
		return ""
	}
	return template.HTML(markdown.HTML(note)) // safe by that package's promise
}

// noteTools are what the small editor of notes offers.
var noteTools = []choiceView{
	{"bold", "B", "Bold: **words**"}, {"italic", "I", "Italic: *words*"}, {"heading", "H", "Heading: # words"}, {"list", "•", "List: - words"},
	{"link", "↗", "Link: [words](address)"}, {"table", "⊞", "Table"}, {"formula", "√", "Formula: $f = v/lambda$"},
}

package web

import (
	"context"
	"errors"
	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/core/phrases"
	"mevrin/core/structure"
	"mevrin/core/work"
	"mevrin/draw/scene"
	"mevrin/store"
	"strings"
)

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

	Note    string
	MapNote string
	Title   string // of the map
	Name    string

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

// marginAsked is what the margin should show: of what is selected, of a phase, of a
// route and a stop of it, and whether figures are worked out.
type marginAsked struct {
	Chosen      []string // elements
	Phase       string
	Route, Stop cm.ID
	Figures     bool
}

// beginMargin gives the margin of a page that has just been opened.
func (s reading) beginMargin(who Person, view scene.View) marginView {
	v := s.marginOf(marginAsked{})
	s.describeView(&v, view)
	s.describeTalk(&v, who)
	return v
}

// margin gives the margin as somebody sees it.
func (s reading) margin(ctx context.Context, w *Workspace, who Person, view scene.View, asked marginAsked) (v marginView, err error) {
	v = s.marginOf(asked)
	s.describeView(&v, view)
	s.describeTalk(&v, who)
	if v.HandLinks, err = handLinksOf(ctx, w, s.m); err != nil {
		return v, err
	}
	if v.OwnLooks, err = ownLooks(ctx, w, who.ID); err != nil {
		return v, err
	}
	if v.Guide.Route != "" {
		if v.Guide.Links, err = linksFor(ctx, w, s.m.ID, store.AllowsWalk, v.Guide.Route); err != nil {
			return v, err
		}
	}
	if v.Phase == "check" && asked.Figures {
		v.Figures, v.NoFigures = s.figuresFor(ctx, v.Concept)
	}
	if v.Phase == "connect" {
		if v.Bank, err = w.bankFor(ctx, who, s.m); err != nil {
			return v, err
		}
		v.Here, v.OfKey = s.phrasesHere(), kinds.Phrases(s.m)
	}
	return v, nil
}

// figuresFor works out all figures, or says why there are none.
func (s reading) figuresFor(ctx context.Context, concept *cm.Concept) (all []figureView, none string) {
	own := cm.ID("")
	if concept != nil {
		own = concept.ID
	}
	err := working(ctx, func(limit *work.Limit) error {
		if len(s.m.Concepts) > structure.MaxMeasured {
			return cm.Refusef("Figures are worked out for at most %d concepts.", structure.MaxMeasured)
		}
		all = s.figuresOf(own, limit)
		return nil
	})
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		none = refusal.Words
	} else if err != nil {
		none = "Others are computing something large just now. Please open this again in a moment."
	}
	return all, none
}

// maxSentences is how many sentences of one concept the margin lists.
const maxSentences = 12

// marginOf gathers what the margin says about the chosen elements (c-… and
// l-…) and about the whole map.
func (s reading) marginOf(asked marginAsked) marginView {
	v := marginView{Kind: "nothing", Chosen: strings.Join(asked.Chosen, ","), Concepts: len(s.m.Concepts), Links: len(s.m.Links),
		MapID: s.m.ID, Title: s.m.Words(s.m.Title), Name: s.m.Name(), Phase: asked.Phase, Revision: s.revision}
	if v.Phase == "" {
		v.Phase = "gather"
	}
	var concepts, links []cm.ID
	for _, element := range asked.Chosen {
		kind, id, _ := strings.Cut(element, "-")
		if kind == "c" && s.m.Concepts[cm.ID(id)] != nil {
			concepts = append(concepts, cm.ID(id))
		} else if kind == "l" && s.m.Links[cm.ID(id)] != nil {
			links = append(links, cm.ID(id))
		}
	}
	v.MapNote = s.m.Words(s.m.Note)
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
	v.CrossLinks = len(s.structure.CrossLinks())
	v.LooseIdeas = len(s.structure.Loose())
	v.Check = s.checkOf()
	for _, f := range v.Check.Findings {
		v.Found += len(f.Places)
	}
	if v.Phase == "guide" {
		v.Guide = s.guideOf(asked.Route, asked.Stop)
	}
	return v
}

func (s reading) describeConcept(v *marginView, id cm.ID) {
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

func (s reading) addSentences(v *marginView, wanted func(sentence) bool) {
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

func (s reading) sentenceOf(p structure.Proposition) sentence {
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

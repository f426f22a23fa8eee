package query

import (
	"context"
	"errors"
	"slices"
	"strings"

	"mevrin/core/brief"
	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/core/phrases"
	"mevrin/core/structure"
	"mevrin/core/work"
	"mevrin/draw/scene"
	"mevrin/store"
	"mevrin/workspace"
)

// Sentence is a proposition in the two voices.
type Sentence struct {
	Key                   string // names the proposition among all of the map
	Link, Subject, Object cm.ID
	Noun1, Verb, Noun2    string
	Open, Cross           bool
	// FromEnd and ToEnd are the ends at subject and object.
	FromEnd, ToEnd cm.ID
	// Verdict is what was judged of it, empty where nobody did; Stale where it had other words.
	Verdict cm.Verdict
	Stale   bool
}

type Margin struct {
	Kind      string // concept, link, several, or nothing
	Chosen    string // the elements that it speaks of
	Count     int
	Concept   *cm.Concept
	Words     string
	Level     int
	Parent    string // what the concept hangs from
	Branch    string // where that is neither itself nor the parent
	IsFocus   bool
	HasFocus  bool // the map has a focus concept
	Loose     bool
	Link      *cm.Link
	Ends      []endView
	Sentences []Sentence
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

	asked     MarginAsked
	MapID     cm.ID
	HandLinks HandLinks
	Phase     string
	Revision  int // of the map that it tells of
	Found     int // places at which something was noticed; none while the map is being begun
	Check     checkView
	Briefed   bool // it has a brief
	// Understood is what the person asking marked for themselves; nil where nobody asks for it.
	Understood *Understood
	Guide      Guide
	Figures    []Figure // where they are asked for
	NoFigures  string   // why there are none
	Bank       []phrases.Offer
	Here       []string // phrases of this map, the most used first
	OfKey      []string // phrases that go with the kinds of the map
}

// MarginAsked is what the margin should show: of what is selected, of a phase, of a
// route and a stop of it.
type MarginAsked struct {
	Part        string   // the one part that is asked for; empty for the whole margin
	Chosen      []string // elements
	Phase       string
	Route, Stop cm.ID
	Kind        cm.ID // whose look and meaning are asked for
	// Open names the folds that are open, or "*" for all: what lies in others is
	// fetched when they are opened.
	Open []string
}

// shows tells whether a fold is seen with its content.
func (a MarginAsked) shows(fold string) bool {
	return a.Part == fold || slices.Contains(a.Open, fold) || slices.Contains(a.Open, "*")
}

// OpenAtFirst tells whether a fold is open as long as nobody has closed it.
func (v Margin) OpenAtFirst(fold string) bool {
	switch fold {
	case "them-gather", "them-connect", "them-check":
		return true
	case "about-says":
		return v.Phase == "connect"
	case "about-task":
		return v.Task != nil
	case "talk":
		return len(v.Talk.Threads) > 0
	case "key":
		return len(v.Kinds)+len(v.LinkKinds) > 0
	}
	return false
}

// Opened tells whether a fold comes with what lies in it.
func (v Margin) Opened(fold string) bool { return v.OpenAtFirst(fold) || v.asked.shows(fold) }

// BeginMargin gives the margin of a page that has just been opened.
func (s Reading) BeginMargin(who workspace.Person, view scene.View) Margin {
	v := s.marginOf(MarginAsked{})
	s.describeView(&v, view)
	s.describeTalk(&v, who)
	return v
}

// Margin gives the margin as somebody sees it.
func (s Reading) Margin(ctx context.Context, w *workspace.Workspace, who workspace.Person, view scene.View, asked MarginAsked) (v Margin, err error) {
	v = s.marginOf(asked)
	s.describeView(&v, view)
	s.describeTalk(&v, who)
	if asked.shows("hand") {
		if v.HandLinks, err = HandLinksOf(ctx, w, who, s.Map); err != nil {
			return v, err
		}
	}
	if v.Phase == "check" && len(s.Map.Concepts) > 0 {
		marked, err := s.Understood(ctx, w, who, OrderUnclear)
		if err != nil {
			return v, err
		}
		v.Understood = &marked
	}
	if asked.shows("look") {
		if v.OwnLooks, err = ownLooks(ctx, w, who); err != nil {
			return v, err
		}
	}
	if asked.Part == "" {
		if v.Waiting, err = w.Store.For(who.Scope).CountSuggestions(ctx, s.Map.ID); err != nil {
			return v, err
		}
	}
	if v.Guide.Route != "" {
		if v.Guide.Links, err = LinksFor(ctx, w, who, s.Map.ID, store.AllowsWalk, v.Guide.Route); err != nil {
			return v, err
		}
	}
	if asked.shows("figures") {
		v.Figures, v.NoFigures = s.figuresFor(ctx, v.Concept)
	}
	if v.Phase == "connect" {
		if v.Bank, err = w.BankFor(ctx, who, s.Map); err != nil {
			return v, err
		}
		v.Here, v.OfKey = s.phrasesHere(), kinds.Phrases(s.Map)
	}
	return v, nil
}

// figuresFor works out all figures, or says why there are none.
func (s Reading) figuresFor(ctx context.Context, concept *cm.Concept) (all []Figure, none string) {
	own := cm.ID("")
	if concept != nil {
		own = concept.ID
	}
	err := workspace.Working(ctx, func(limit *work.Limit) error {
		if len(s.Map.Concepts) > structure.MaxMeasured {
			return cm.Refusef("Figures are worked out for at most %d concepts.", structure.MaxMeasured)
		}
		all = s.figuresOf(own, limit)
		return nil
	})
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		none = s.t(refusal.Key, refusal.Args...)
	} else if err != nil {
		none = s.t("Others are computing something large just now. Please open this again in a moment.")
	}
	return all, none
}

// maxSentences is how many sentences of one concept the margin lists.
const maxSentences = 12

// marginOf gathers what the margin says about the chosen elements (c-… and
// l-…) and about the whole map.
func (s Reading) marginOf(asked MarginAsked) Margin {
	v := Margin{asked: asked, Kind: "nothing", Chosen: strings.Join(asked.Chosen, ","), Concepts: len(s.Map.Concepts), Links: len(s.Map.Links),
		MapID: s.Map.ID, Title: s.Map.Words(s.Map.Title), Name: s.Map.Name(), Phase: asked.Phase, Revision: s.Revision}
	if v.Phase == "" {
		v.Phase = "gather"
	}
	var concepts, links []cm.ID
	for _, element := range asked.Chosen {
		kind, id, _ := strings.Cut(element, "-")
		if kind == "c" && s.Map.Concepts[cm.ID(id)] != nil {
			concepts = append(concepts, cm.ID(id))
		} else if kind == "l" && s.Map.Links[cm.ID(id)] != nil {
			links = append(links, cm.ID(id))
		}
	}
	v.MapNote = s.Map.Words(s.Map.Note)
	s.describeThings(&v, concepts, links)
	s.describeOrder(&v, concepts)
	switch v.Count = len(concepts) + len(links); {
	case v.Count > 1:
		v.Kind = "several"
	case len(concepts) == 1:
		s.describeConcept(&v, concepts[0])
	case len(links) == 1:
		v.Kind, v.Link = "link", s.Map.Links[links[0]]
		v.Words, v.Note = s.Map.Words(v.Link.Phrase), s.Map.Words(v.Link.Note)
		v.Ends = s.endsOf(v.Link)
		s.addSentences(&v, func(p Sentence) bool { return p.Link == links[0] })
	}
	v.CrossLinks = len(s.Structure.CrossLinks())
	v.LooseIdeas = len(s.Structure.Loose())
	v.Check = s.checkOf()
	v.Briefed = brief.Of(s.Map) != nil
	if v.Phase == "check" || !check.Early(s.Map) {
		for _, f := range v.Check.Findings {
			v.Found += len(f.Places)
		}
	}
	if v.Phase == "guide" {
		v.Guide = s.guideOf(asked.Route, asked.Stop)
		v.Guide.offer(s, v.Concept)
	}
	return v
}

func (s Reading) describeConcept(v *Margin, id cm.ID) {
	place := s.Structure.Places[id]
	v.Kind, v.Concept = "concept", s.Map.Concepts[id]
	v.Note = s.Map.Words(v.Concept.Note)
	v.Words, v.Level, v.IsFocus, v.HasFocus, v.Loose = s.Map.Words(v.Concept.Label), place.Level, s.Map.Focus == id, s.Map.Focus != "", place.Loose
	if place.Parent != "" {
		v.Parent = s.Map.Words(s.Map.Concepts[place.Parent].Label)
	}
	if place.Level > 2 && place.Branch != id && place.Branch != place.Parent {
		v.Branch = s.Map.Words(s.Map.Concepts[place.Branch].Label)
	}
	s.addSentences(v, func(p Sentence) bool { return p.Subject == id || p.Object == id })
}

func (s Reading) addSentences(v *Margin, wanted func(Sentence) bool) {
	for _, p := range s.Structure.Propositions() {
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

func (s Reading) sentenceOf(p structure.Proposition) Sentence {
	l := s.Map.Links[p.Strand.Link]
	from, to := p.Strand.From, p.Strand.To
	if p.Against {
		from, to = to, from
	}
	return Sentence{
		Cross: p.Cross, FromEnd: from, ToEnd: to,
		Key: keyOf(proposed(p)), Link: l.ID, Subject: p.Subject, Object: p.Object, Verb: s.words(l.Phrase),
		Open:  p.Open,
		Noun1: s.words(s.Map.Concepts[p.Subject].Label), Noun2: s.words(s.Map.Concepts[p.Object].Label),
	}
}

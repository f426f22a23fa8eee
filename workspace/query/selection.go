package query

import (
	"slices"
	"strings"

	"golang.org/x/text/language"
	"golang.org/x/text/language/display"

	cm "mevrin/core/conceptmap"
	"mevrin/core/phrases"
	"mevrin/draw/scene"
)

// ofThing is what the margin offers for what is selected, beyond its words.
type ofThing struct {
	Chose   choseView
	Type    *cm.Concept // how the first label selected is set
	Sources []sourceView
	Below   bool // something hangs from the concept
	Line    cm.Line
	ByHand  bool          // the line, or one of several, is led by hand
	Asks    []phrases.Ask // questions that help to break the concept down
	Alike   string        // links that say the same and could share the phrase
	Way     []wayStep     // from the top of its tree to the concept
	Hand    cm.Hand       // with which the map opens
}

// wayStep is a concept on the way down to another one, with the phrase that
// leads to it; both read as one long sentence.
type wayStep struct {
	Link, Concept cm.ID
	Verb, Noun    string
	Against       bool // the phrase leads upwards
}

// wayTo gives the way from the top of a concept's tree down to it.
func (s Reading) wayTo(id cm.ID) []wayStep {
	var way []wayStep
	for at := id; at != ""; at = s.Structure.Places[at].Parent {
		c := s.Map.Concepts[at]
		step := wayStep{Concept: at, Noun: s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: at})}
		if s.Structure.Places[at].Parent != "" {
			l := s.Map.Links[c.Main.Link]
			from, _, _ := s.Map.Between(c.Main.Strand)
			step.Link, step.Verb, step.Against = l.ID, s.Map.Words(l.Phrase), from == at && l.Heads == cm.HeadsOne
		}
		way = append(way, step)
	}
	slices.Reverse(way)
	return way
}

// choseView counts what is selected.
type choseView struct {
	Concepts, Links int
	Between         bool // two concepts that a link joins
	Alike           bool // links that can become one
}

// endView is an end of a link; one that shares its side can be taken off.
type endView struct {
	Side   cm.Side
	End    cm.ID
	Words  string
	Shared bool
}

func (s Reading) endsOf(l *cm.Link) []endView {
	var ends []endView
	for i, e := range l.Ends() {
		side, shared := cm.SideFrom, len(l.From) > 1
		if i >= len(l.From) {
			side, shared = cm.SideTo, len(l.To) > 1
		}
		ends = append(ends, endView{side, e.ID, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: e.Concept}), shared})
	}
	return ends
}

func (s Reading) describeThings(v *Margin, concepts, links []cm.ID) {
	v.Chose.Concepts, v.Chose.Links = len(concepts), len(links)
	v.Type = &cm.Concept{}
	v.Hand = s.Map.Hand
	s.describeMeaning(v, concepts, links)
	if len(concepts) > 0 {
		v.Type = s.Map.Concepts[concepts[0]]
		v.Below = len(s.Structure.Places[concepts[0]].Children) > 0
		v.Sources = sourceViews(v.Type.Sources, cm.Key{Kind: cm.EntityConcept, ID: concepts[0]})
	}
	if len(concepts) == 1 {
		v.Way = s.wayTo(concepts[0])
		v.Asks = phrases.Questions(s.Map.Language, s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: concepts[0]}))
	}
	if len(concepts) == 2 && len(links) == 0 {
		v.Chose.Between = slices.ContainsFunc(cm.SortedIDs(s.Map.Links), func(id cm.ID) bool { return joins(s.Map.Links[id], concepts[0], concepts[1]) })
	}
	for i, id := range links {
		l := s.Map.Links[id]
		if i == 0 {
			v.Line = l.Line
			if len(concepts) == 0 {
				v.Sources = sourceViews(l.Sources, cm.Key{Kind: cm.EntityLink, ID: id})
			}
		}
		v.ByHand = v.ByHand || l.Line != cm.LineAuto || len(l.Bends) > 0 || l.Along != 0 || l.Hub != nil
	}
	if len(links) > 1 && len(concepts) == 0 {
		alike := s.Map.Alike(links[0])
		v.Chose.Alike = !slices.ContainsFunc(links[1:], func(id cm.ID) bool { return !slices.Contains(alike, id) })
	}
	if len(links) == 1 {
		names := make([]string, 0)
		for _, id := range s.Map.Alike(links[0]) {
			names = append(names, string(id))
		}
		v.Alike = strings.Join(names, " ")
	}
}

// joins tells whether a link leads from one concept to the other, either way.
func joins(l *cm.Link, a, b cm.ID) bool {
	at := func(ends []cm.End, id cm.ID) bool {
		return slices.ContainsFunc(ends, func(e cm.End) bool { return e.Concept == id })
	}
	return at(l.From, a) && at(l.To, b) || at(l.From, b) && at(l.To, a)
}

// ofView is what the margin offers for how the map is seen.
type ofView struct {
	Tucked         bool // the branch of the concept selected is tucked away
	AnyTucked      bool
	TuckedAll      scene.Tucked
	OpeningDiffers bool  // the map opens otherwise than it is seen now
	Levels         []int // that it can be shown down to
	Language       cm.Lang
	Languages      []languageView
}

type languageView struct {
	Tag  cm.Lang
	Name string // in the language itself
}

// maxLevels is how many levels the margin lists.
const maxLevels = 9

func (s Reading) describeView(v *Margin, view scene.View) {
	ids := view.Tucked.IDs()
	v.AnyTucked = len(s.Seen(view).Slips) < len(s.Map.Concepts)
	v.TuckedAll = view.Tucked
	v.OpeningDiffers = scene.TuckedOf(cm.SortedIDs(s.Map.Tucked)) != view.Tucked
	if v.Concept != nil {
		v.Tucked = slices.Contains(ids, v.Concept.ID)
	}
	deepest := 0
	for _, p := range s.Structure.Places {
		deepest = max(deepest, p.Level)
	}
	for level := 1; level < deepest && level <= maxLevels; level++ {
		v.Levels = append(v.Levels, level)
	}
	v.Language = s.Map.Language
	v.Languages = languageViews(v.Language)
}

// languageViews lists the languages that are offered, one among them, by their own names.
func languageViews(with cm.Lang) (all []languageView) {
	tags := languages
	if with != "" && !slices.Contains(tags, with) {
		tags = append(slices.Clone(tags), with)
	}
	for _, tag := range tags {
		name := string(tag)
		if parsed, err := language.Parse(name); err == nil {
			if own := display.Self.Name(parsed); own != "" {
				name = own
			}
		}
		all = append(all, languageView{tag, name})
	}
	return all
}

// languages are offered for a map's words; a map may be in any other.
var languages = []cm.Lang{"en", "de", "fr", "es", "it", "pt", "nl", "da", "sv", "nb", "fi", "pl", "cs", "hu", "ro", "el", "tr", "ru", "uk", "ar", "he", "zh", "ja", "ko"}

package conceptmap

import (
	"cmp"
	"slices"
	"unicode/utf8"
)

// Requirement is a line of the map's brief: what the map is to have. Package brief counts it.
type Requirement struct {
	ID   ID     `json:"id"`
	Rank string `json:"rank" mevrin:"form=rank"` // orders the lines (see KeyBetween)
	Demand
}

// BriefHead is what a brief says beside its lines.
type BriefHead struct {
	Title string `json:"title,omitempty"`
	Task  string `json:"task,omitempty"` // what is to be done, in words
	// Before is what learners should know before, with where it can be learnt.
	Before []Known `json:"before,omitempty"`
}

// Known is something that learners should know before.
type Known struct {
	Words   string `json:"words"`
	Address string `json:"address,omitempty"`
}

// Demand says how many of what, where, with what words.
type Demand struct {
	Says   string `json:"says,omitempty"` // in its author's words
	Step   Step   `json:"step,omitempty"`
	Points int    `json:"points,omitempty"` // for meeting it
	// AtLeast and AtMost bound the count; exactly is both alike. Neither means at least one.
	AtLeast *int      `json:"atLeast,omitempty"`
	AtMost  *int      `json:"atMost,omitempty"`
	Of      Countable `json:"of"`
	// What narrows what is counted.
	Kind   string `json:"kind,omitempty"`   // by the name of the kind, or by what it is known as
	Tag    string `json:"tag,omitempty"`    // by the name of the tag
	Region string `json:"region,omitempty"` // by the title of the region
	Level  int    `json:"level,omitempty"`  // on it; of branches: that reach down to it
	Source string `json:"source,omitempty"` // web, picture, sound, video, file or cite
	Where  *Where `json:"where,omitempty"`  // the whole map where absent
	Words  *Words `json:"words,omitempty"`
	// Must are concepts or propositions that have to be there; each is counted once.
	Must []Must `json:"must,omitempty"`
}

// Step is how demanding a line of a brief is.
type Step string

// The steps, from what all should reach. Empty is first.
const (
	StepFirst   Step = "first"
	StepFurther Step = "further"
	StepStretch Step = "stretch"
)

// Steps lists them.
var Steps = []Step{StepFirst, StepFurther, StepStretch}

// Countable is what a line of a brief counts.
type Countable string

// All that can be counted.
const (
	CountConcepts     Countable = "concepts"
	CountLinks        Countable = "links"
	CountPropositions Countable = "propositions"
	CountCrossLinks   Countable = "cross-links"
	CountLevels       Countable = "levels"
	CountBranches     Countable = "branches"
	CountSources      Countable = "sources"
	CountNotes        Countable = "notes"
	CountPictures     Countable = "pictures"
	CountExamples     Countable = "examples" // concepts of a kind that is called so
	CountStops        Countable = "stops"
	CountHeld         Countable = "judged-to-hold" // propositions
	CountRequired     Countable = "required"       // what Must names
)

// Countables lists them.
var Countables = []Countable{CountConcepts, CountLinks, CountPropositions, CountCrossLinks, CountLevels, CountBranches, CountSources, CountNotes, CountPictures, CountExamples, CountStops, CountHeld, CountRequired}

// Where is the part of the map in which a line counts.
type Where struct {
	Branch string `json:"branch,omitempty"` // below a concept, by its label, with it
	// Under counts apart below every concept of a kind, and below each there must be as many.
	Under string `json:"under,omitempty"`
}

// Words are those that what is counted must hold.
type Words struct {
	Contains []string `json:"contains,omitempty"` // one of them, anywhere
	Begins   []string `json:"begins,omitempty"`   // one of them, at the front
	List     string   `json:"list,omitempty"`     // one of a list that ships, at the front
}

// Must is a concept, or a proposition if it has a phrase.
type Must struct {
	Concept string   `json:"concept"`
	Or      []string `json:"or,omitempty"` // other wordings of the concept
	Phrase  string   `json:"phrase,omitempty"`
	To      string   `json:"to,omitempty"` // the object of the proposition
}

// The bounds of briefs: of lines, of the words and wordings of one line, of a text and a name in
// characters, and of any number.
const (
	MaxRequirements = 200
	MaxBriefWords   = 500
	MaxBriefText    = 4000
	MaxBriefName    = 300
	MaxBriefCount   = 100_000
)

// Bounds gives the bounds of a line; most is -1 where there is none.
func (l *Demand) Bounds() (least, most int) {
	most = -1
	if l.AtLeast != nil {
		least = *l.AtLeast
	}
	if l.AtMost != nil {
		most = *l.AtMost
	}
	if l.AtLeast == nil && l.AtMost == nil {
		if least = 1; l.Of == CountRequired {
			least = len(l.Must)
		}
	}
	return least, most
}

// Sound tells what is wrong with a line.
func (l *Demand) Sound() error {
	least, most := l.Bounds()
	switch {
	case !slices.Contains(Countables, l.Of):
		return Refusef("“%s” cannot be counted.", Shortened(string(l.Of), 40))
	case l.Step != "" && !slices.Contains(Steps, l.Step):
		return Refusef("“%s” is no step; steps are first, further, stretch.", Shortened(string(l.Step), 40))
	case least < 0 || most < -1 || most >= 0 && most < least || least > MaxBriefCount || most > MaxBriefCount:
		return Refusef("Its bounds leave no number.")
	case l.Level < 0 || l.Level > MaxBriefCount || l.Points < 0 || l.Points > MaxBriefCount:
		return Refusef("A level or its points are out of range.")
	case (l.Of == CountRequired) != (len(l.Must) > 0):
		return Refusef("What must be there is named in such a line, and there alone.")
	case len(l.Must) > MaxBriefWords:
		return Refusef("It requires more than %d things.", MaxBriefWords)
	case l.Source != "" && !slices.Contains(SourceKinds, SourceKind(l.Source)):
		return Refusef("“%s” is no sort of source.", Shortened(l.Source, 40))
	case l.Where != nil && (l.Where.Branch == "") == (l.Where.Under == ""):
		return Refusef("Where it counts is a branch or a kind, one of them.")
	case utf8.RuneCountInString(l.Says) > MaxBriefText:
		return Refusef("Its words are too long.")
	}
	names := []string{l.Kind, l.Tag, l.Region}
	if l.Where != nil {
		names = append(names, l.Where.Branch, l.Where.Under)
	}
	if w := l.Words; w != nil {
		if len(w.Contains)+len(w.Begins) > MaxBriefWords {
			return Refusef("It has more than %d words.", MaxBriefWords)
		}
		if w.List == "" && len(w.Contains)+len(w.Begins) == 0 {
			return Refusef("It asks for words and names none.")
		}
		names = slices.Concat(names, w.Contains, w.Begins, []string{w.List})
	}
	for _, m := range l.Must {
		if m.Concept == "" || (m.Phrase == "") != (m.To == "") {
			return Refusef("What must be there is a concept, or a whole sentence.")
		}
		if len(m.Or) > MaxBriefWords {
			return Refusef("It has more than %d words.", MaxBriefWords)
		}
		names = append(append(names, m.Concept, m.Phrase, m.To), m.Or...)
	}
	if slices.ContainsFunc(names, func(n string) bool { return utf8.RuneCountInString(n) > MaxBriefName }) {
		return Refusef("Its words are too long.")
	}
	return nil
}

// Sound tells what is wrong with what a brief says beside its lines.
func (h *BriefHead) Sound() error {
	long := func(words string, most int) bool { return utf8.RuneCountInString(words) > most }
	if long(h.Title, MaxBriefName) || long(h.Task, MaxBriefText) || len(h.Before) > MaxRequirements {
		return Refusef("The title or the task of the brief is too long.")
	}
	for _, k := range h.Before {
		if k.Words == "" || long(k.Words, MaxBriefText) || long(k.Address, MaxBriefText) {
			return Refusef("What learners should know before says so in words, and not in too many.")
		}
	}
	return nil
}

// Valid tells whether what a brief says beside its lines is sound.
func (h BriefHead) Valid() bool { return h.Sound() == nil }

// Empty tells that there is nothing.
func (h *BriefHead) Empty() bool { return h.Title == "" && h.Task == "" && len(h.Before) == 0 }

// RequirementsInOrder gives the lines of the map's brief.
func (m *Map) RequirementsInOrder() []*Requirement {
	all := InOrder(m.Requirements)
	slices.SortStableFunc(all, func(a, b *Requirement) int { return cmp.Compare(a.Rank, b.Rank) })
	return all
}

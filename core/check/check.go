// Package check notices what a map still lacks, and offers to mend it. Each
// rule is a value with a name and the reason behind it, so that a teacher can
// see why it is there and switch it off for a map.
package check

import (
	"slices"
	"sync"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/language"
	"mevrin/core/structure"
)

// Rule is one thing to look for.
type Rule struct {
	ID     string // stable, for settings and exports
	About  Group
	Title  string // what is wrong, in plain words
	Why    string // why it matters
	Looks  string // what exactly is counted, for whoever wants to know
	Source string // in the literature
	// Least is the amount from which on the rule speaks, where it counts something; 0 where it
	// does not.
	Least float64
	// Words tells that the rule needs to know the language: of others than those of package
	// language it is silent.
	Words bool
	find  func(*look) []Place
	// apart tells that it takes as long as many others, and is looked for beside them.
	apart bool
}

// Group is what rules are about.
type Group string

// The groups, in the order in which findings are shown.
const (
	AboutWords     Group = "words"
	AboutStructure Group = "structure"
	AboutColours   Group = "colours"
	AboutSources   Group = "sources"
	AboutArgument  Group = "argument"
	AboutProcess   Group = "process"
	AboutLesson    Group = "lesson"
	AboutRoute     Group = "route"
)

// Groups lists the groups with their titles.
var Groups = []struct {
	ID    Group
	Title string
}{
	{AboutWords, "Words"}, {AboutStructure, "Structure"}, {AboutColours, "Colours"}, {AboutSources, "Sources"},
	{AboutArgument, "Argument"}, {AboutProcess, "Process"}, {AboutLesson, "Lesson"}, {AboutRoute, "Routes"},
}

// look is a map as rules look at it.
type look struct {
	m     *cm.Map
	s     *structure.Structure
	t     *language.Tongue // nil where nothing is known of the map's language
	rule  *Rule
	least float64 // from how much on it speaks
	about Surroundings
	// in reading order
	labels []string
	told   []told
	faults map[told]language.Fault
	means  map[string]*language.Meaning
}

// told is a proposition with its words.
type told struct {
	structure.Proposition
	subject, phrase, object string
}

// Surroundings are what a map does not hold itself.
type Surroundings struct {
	// Missing tells that the file of a hash is not kept any more; nil where nobody knows.
	Missing func(hash string) bool
	// Author is how the author wants the rules on all maps.
	Author Settings
}

// newLook looks at a map in the language in which it is written.
func newLook(m *cm.Map, s *structure.Structure, about Surroundings) *look {
	l := &look{m: m, s: s, about: about}
	texts := slices.Clone(l.names())
	for _, p := range l.words() {
		texts = append(texts, p.phrase)
	}
	l.t = language.Guess(string(m.Language), texts)
	return l
}

// words gives the words of propositions, open ones left out.
func (l *look) words() []told {
	if l.told == nil {
		for _, p := range l.s.Propositions() {
			if !p.Open {
				l.told = append(l.told, told{p, l.label(p.Subject), l.m.Words(l.m.Links[p.Strand.Link].Phrase), l.label(p.Object)})
			}
		}
	}
	return l.told
}

// fault judges the phrase of a proposition; the map's language must be known.
func (l *look) fault(p told) language.Fault {
	if l.faults == nil {
		l.faults = map[told]language.Fault{}
	}
	p.Proposition = structure.Proposition{} // the words alone count
	f, known := l.faults[p]
	if !known {
		f = l.t.Fault(p.phrase, p.subject, p.object)
		l.faults[p] = f
	}
	return f
}

// meaning is what a phrase says of the order of its ends, nil where nothing.
func (l *look) meaning(phrase string) *language.Meaning {
	if l.means == nil {
		l.means = map[string]*language.Meaning{}
	}
	m, known := l.means[phrase]
	if !known {
		if found, ok := l.t.Meaning(phrase); ok {
			m = &found
		}
		l.means[phrase] = m
	}
	return m
}

func (l *look) label(id cm.ID) string { return l.m.Words(l.m.Concepts[id].Label) }

// names gives the labels of all concepts, in reading order.
func (l *look) names() []string {
	if l.labels == nil {
		for _, id := range l.s.Order {
			l.labels = append(l.labels, l.label(id))
		}
	}
	return l.labels
}

// grown tells that a map has so many concepts that what is missing on it can be asked for.
func (l *look) grown() bool { return len(l.m.Concepts) >= grownUp }

// grownUp is from how many concepts on cross-links and examples are missed.
const grownUp = 12

// simple makes a rule's search of one that needs the map and its structure alone.
func simple(find func(*cm.Map, *structure.Structure) []Place) func(*look) []Place {
	return func(l *look) []Place { return find(l.m, l.s) }
}

// Finding is what one rule noticed, at one place or several, in reading order.
type Finding struct {
	Rule   *Rule
	Places []Place
}

// Place is where something was noticed: the things concerned, the one to look
// at first before the others. It is without things where the finding is about
// the map as a whole.
type Place struct {
	Keys     []cm.Key
	Remedies []Remedy
}

// Remedy is a way to mend a finding in one step.
type Remedy struct {
	Title string
	// Operations mend it when performed; where there are none, Ask says what
	// the person has to give.
	Operations []edit.Operation
	Ask        Ask
	// From and To are the concepts between which AskSentence wants a phrase;
	// one may be empty, for the person to choose.
	From, To cm.ID
}

// Ask is what a remedy needs from the person.
type Ask string

// What a remedy may ask for.
const (
	AskQuestion Ask = "question" // the focus question
	AskWords    Ask = "words"    // words for the first thing of the place
	AskSentence Ask = "sentence" // a sentence between From and To
	AskSays     Ask = "says"     // a description of what is attached to the first thing
)

// What a map must have before what is missing on it is counted where nobody asked.
const (
	enoughConcepts = 8
	enoughPhrases  = 5
)

// Early tells that a map is only being begun: whoever puts down the first ideas knows
// that they are not linked yet.
func Early(m *cm.Map) bool {
	said := 0
	for _, l := range m.Links {
		if m.Words(l.Phrase) != "" {
			said++
		}
	}
	return len(m.Concepts) < enoughConcepts || said < enoughPhrases
}

// Find applies the rules that the map has not switched off. Those that notice
// nothing are left out.
func Find(m *cm.Map, s *structure.Structure) []Finding { return FindAmong(m, s, Surroundings{}) }

// FindAmong does as Find, and knows of what is around the map.
func FindAmong(m *cm.Map, s *structure.Structure, about Surroundings) []Finding {
	l := newLook(m, s, about)
	dismissed := left(m)
	places := make([][]Place, len(Rules))
	var beside sync.WaitGroup
	for i, rule := range Rules {
		if Off(m, rule) || about.Author.Off[rule.ID] || rule.Words && l.t == nil {
			continue
		}
		l.rule = rule
		l.least = LeastOf(m, about.Author, rule)
		if !rule.apart {
			places[i] = rule.find(l)
			continue
		}
		own := *l // what others gather meanwhile is not shared
		own.told, own.faults, own.means = nil, nil, nil
		beside.Go(func() { places[i] = rule.find(&own) })
	}
	beside.Wait()
	var all []Finding
	for i, rule := range Rules {
		if len(dismissed) > 0 {
			places[i] = slices.DeleteFunc(places[i], func(p Place) bool { return dismissed[signature(rule.ID, p.Keys)] })
		}
		if len(places[i]) > 0 {
			all = append(all, Finding{rule, places[i]})
		}
	}
	return all
}

// LeastOf gives from how much on a rule speaks: what the map says, else its author, else the rule.
func LeastOf(m *cm.Map, author Settings, rule *Rule) float64 {
	if own, set := m.RuleLeast[rule.ID]; set && rule.Least > 0 {
		return own
	}
	if own, set := author.Least[rule.ID]; set && rule.Least > 0 {
		return own
	}
	return rule.Least
}

// Off tells that a map has switched a rule off, under its name or one that it had.
func Off(m *cm.Map, rule *Rule) bool { return OffAs(m, rule) != "" }

// OffAs gives the name under which a map has switched a rule off, empty where it has not.
func OffAs(m *cm.Map, rule *Rule) string {
	for _, name := range []string{rule.ID, former[rule.ID]} {
		if m.RulesOff[name] {
			return name
		}
	}
	return ""
}

// former gives the names that rules had before.
var former = map[string]string{"process-dead-end": "step-dead", "process-no-decision": "choice-single"}

// Silent lists the rules that say nothing on a map, since they would have to know its language.
func Silent(m *cm.Map, s *structure.Structure) []*Rule {
	if newLook(m, s, Surroundings{}).t != nil {
		return nil
	}
	return slices.DeleteFunc(slices.Clone(Rules), func(r *Rule) bool { return !r.Words })
}

func concept(id cm.ID) cm.Key { return cm.Key{Kind: cm.EntityConcept, ID: id} }
func link(id cm.ID) cm.Key    { return cm.Key{Kind: cm.EntityLink, ID: id} }

package check

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/likeness"
	"mevrin/core/structure"
)

// Rules lists the rules in the order in which findings are shown.
var Rules = slices.Concat(generalRules, wordRules, shapeRules, sourceRules, roleRules, routeRules)

var generalRules = []*Rule{
	{
		ID: "no-question", About: AboutStructure, Title: "The map has no focus question",
		Why:   "A map answers a question. Without one it sprawls, and nobody can say what belongs on it.",
		Looks: "No language has a focus question.",
		find:  simple(noQuestion),
	},
	{
		ID: "open-link", About: AboutWords, Title: "A link has no words",
		Why:   "Only the words on a link turn two concepts into a statement that can be true or not.",
		Looks: "Links without a phrase in any language.",
		find:  simple(openLinks),
	},
	{
		ID: "concept-twice", About: AboutWords, Title: "A concept stands there twice",
		Why:   "Each concept should stand once: only then do all its links meet, and new joins between far parts appear.",
		Looks: "Labels that are alike when letter case, spaces, punctuation, accents, leading articles and plural endings (English, German, French, Spanish) are left aside.",
		find:  simple(conceptsTwice),
	},
	{
		ID: "loose-idea", About: AboutStructure, Title: "An idea is not linked yet",
		Why:   "An idea that no link reaches does not take part in what the map says.",
		Looks: "Concepts at which no link ends, unless they are the map's only one.",
		find:  simple(looseIdeas),
	},
	{
		ID: "stated-twice", About: AboutWords, Title: "A sentence is stated twice",
		Why:   "Twice the same sentence counts twice when the map is judged or compared, and crowds the paper.",
		Looks: "Propositions of several links with the same concepts, read in the same direction, and the same phrase but for letter case and spaces.",
		find:  simple(statedTwice),
	},
	{
		ID: "label-sentence", About: AboutWords, Title: "A label is a whole sentence",
		Why:   "A concept is named in a word or a few. A sentence in a box hides propositions that could be linked, and questioned, one by one.",
		Looks: fmt.Sprintf("Labels of more than %d words, or that end like a sentence; where words are written without spaces, of more than %d characters. What is a claim, a reason or another part of an argument is left out.", maxWords, maxUnspaced),
		find:  simple(sentenceLabels),
	},
	{
		ID: "several-roots", About: AboutStructure, Title: "A part of the map hangs apart",
		Why:   "When everything can be reached from the focus concept, one sees how the parts answer the question together.",
		Looks: "Concepts that are below none, but have others below them, apart from the focus concept.",
		find:  simple(severalRoots),
	},
	{
		ID: "picture-untold", About: AboutSources, Title: "A picture is described nowhere",
		Why:   "Whoever cannot see it, or hears the map read aloud, misses what it shows.",
		Looks: "Sources that are pictures without a description.",
		find:  simple(picturesUntold),
	},
	{
		ID: "colour-strays", About: AboutColours, Title: "A colour says something else than the key",
		Why:   "One colour should mean one thing. A slip in the colour of another kind is taken for that kind.",
		Looks: "Concepts whose slip has a colour of its own that the key gives to a kind that is not theirs, while colours stand for kinds.",
		find:  simple(coloursStray),
	},
}

func noQuestion(m *cm.Map, _ *structure.Structure) []Place {
	if !m.Question.Empty() {
		return nil
	}
	return []Place{{Remedies: []Remedy{{Title: "Ask it now", Ask: AskQuestion}}}}
}

func openLinks(_ *cm.Map, s *structure.Structure) []Place {
	var places []Place
	seen := map[cm.ID]bool{}
	for _, p := range s.Propositions() {
		if p.Open && !seen[p.Strand.Link] {
			seen[p.Strand.Link] = true
			places = append(places, Place{[]cm.Key{link(p.Strand.Link)}, []Remedy{{Title: "Give it words", Ask: AskWords}}})
		}
	}
	return places
}

// looseIdeas leaves out a map's only concept: it has nothing to be linked to.
func looseIdeas(m *cm.Map, s *structure.Structure) []Place {
	if len(m.Concepts) < 2 {
		return nil
	}
	var places []Place
	for _, id := range s.Loose() {
		places = append(places, Place{[]cm.Key{concept(id)}, []Remedy{linkRemedy(m, "Link it to …", id, "")}})
	}
	return places
}

// linkRemedy asks for a sentence; a concept without words needs those first,
// since a sentence finds its concepts by their words.
func linkRemedy(m *cm.Map, title string, from, to cm.ID) Remedy {
	for _, id := range []cm.ID{from, to} {
		if id != "" && m.Words(m.Concepts[id].Label) == "" {
			return Remedy{Title: "Give it words", Ask: AskWords}
		}
	}
	return Remedy{Title: title, Ask: AskSentence, From: from, To: to}
}

func conceptsTwice(m *cm.Map, s *structure.Structure) []Place {
	groups := map[string][]cm.ID{}
	var order []string
	for _, id := range s.Order {
		key := likeness.Stem(m.Words(m.Concepts[id].Label), string(m.Language))
		if key == "" {
			continue
		}
		if groups[key] == nil {
			order = append(order, key)
		}
		groups[key] = append(groups[key], id)
	}
	ends := map[cm.ID]int{}
	var places []Place
	for _, key := range order {
		ids := groups[key]
		if len(ids) < 2 {
			continue
		}
		if len(ends) == 0 {
			for _, l := range m.Links {
				for _, e := range l.Ends() {
					ends[e.Concept]++
				}
			}
		}
		places = append(places, twicePlace(m, ids, ends))
	}
	return places
}

// twicePlace offers to merge concepts into the one at which most links end.
func twicePlace(m *cm.Map, ids []cm.ID, ends map[cm.ID]int) Place {
	keep := slices.MaxFunc(ids, func(a, b cm.ID) int {
		focus := func(id cm.ID) int {
			if id == m.Focus {
				return 1
			}
			return 0
		}
		return cmp.Or(focus(a)-focus(b), ends[a]-ends[b], strings.Compare(string(b), string(a)))
	})
	remedy := Remedy{Title: "Merge the two"}
	if len(ids) > 2 {
		remedy.Title = fmt.Sprintf("Merge the %d", len(ids))
	}
	place := Place{Keys: []cm.Key{concept(keep)}}
	for _, id := range ids {
		if id != keep {
			place.Keys = append(place.Keys, concept(id))
			remedy.Operations = append(remedy.Operations, &edit.MergeConcepts{Keep: keep, Gone: id})
		}
	}
	place.Remedies = []Remedy{remedy}
	return place
}

func statedTwice(m *cm.Map, s *structure.Structure) []Place {
	type sentence struct {
		subject, object cm.ID
		phrase          string
	}
	groups := map[sentence][]structure.Proposition{}
	var order []sentence
	for _, p := range s.Propositions() {
		if p.Open {
			continue
		}
		key := sentence{p.Subject, p.Object, likeness.Fold(m.Words(m.Links[p.Strand.Link].Phrase))}
		if groups[key] == nil {
			order = append(order, key)
		}
		groups[key] = append(groups[key], p)
	}
	var places []Place
	for _, key := range order {
		if said := groups[key]; len(said) > 1 && said[0].Strand.Link != said[len(said)-1].Strand.Link {
			places = append(places, statedPlace(m, said))
		}
	}
	return places
}

// statedPlace offers to drop all but one statement: that which holds a concept
// in the hierarchy, if one does.
func statedPlace(m *cm.Map, said []structure.Proposition) Place {
	said = slices.Clone(said)
	slices.SortStableFunc(said, func(a, b structure.Proposition) int {
		rank := func(p structure.Proposition) int {
			if p.Main {
				return 0
			}
			return 1
		}
		return rank(a) - rank(b)
	})
	var place Place
	remedy := Remedy{Title: "Keep one of them"}
	for i, p := range said {
		l := m.Links[p.Strand.Link]
		place.Keys = append(place.Keys, link(l.ID))
		switch {
		case i == 0:
		case l.Heads == cm.HeadsBoth:
			// It says another thing, too: only the person can tell.
			return Place{Keys: place.Keys, Remedies: nil}
		case len(l.From) == 1 && len(l.To) == 1:
			remedy.Operations = append(remedy.Operations, &edit.Remove{Links: []cm.ID{l.ID}})
		case len(l.From) == 1:
			remedy.Operations = append(remedy.Operations, &edit.RemoveEnd{Link: l.ID, End: p.Strand.To})
		case len(l.To) == 1:
			remedy.Operations = append(remedy.Operations, &edit.RemoveEnd{Link: l.ID, End: p.Strand.From})
		default:
			return Place{Keys: place.Keys, Remedies: nil}
		}
	}
	place.Remedies = []Remedy{remedy}
	return place
}

// What a label may have before it counts as a sentence.
const (
	maxWords    = 7
	maxUnspaced = 18
)

func sentenceLabels(m *cm.Map, s *structure.Structure) []Place {
	var places []Place
	for _, id := range s.Order {
		if k := m.KindOf(m.Concepts[id]); k != nil && k.Role.Set() == "argument" {
			continue // claims and reasons are statements
		}
		if isSentence(m.Words(m.Concepts[id].Label)) {
			places = append(places, Place{[]cm.Key{concept(id)}, []Remedy{{Title: "Shorten it", Ask: AskWords}}})
		}
	}
	return places
}

func isSentence(label string) bool {
	words := strings.Fields(label)
	if len(words) == 0 {
		return false
	}
	unspaced := 0
	for _, r := range label {
		if unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai) {
			unspaced++
		}
	}
	last := words[len(words)-1]
	ended := len(words) > 2 && strings.ContainsAny(last[len(last)-1:], ".!?")
	return len(words) > maxWords || unspaced > maxUnspaced || ended || strings.HasSuffix(last, "。")
}

func severalRoots(m *cm.Map, s *structure.Structure) []Place {
	var places []Place
	for _, id := range s.Roots {
		if id == m.Focus || len(s.Places[id].Children) == 0 {
			continue
		}
		place := Place{Keys: []cm.Key{concept(id)}}
		if m.Focus != "" {
			place.Remedies = []Remedy{linkRemedy(m, "Link it from the focus concept", m.Focus, id)}
		} else {
			place.Remedies = []Remedy{{Title: "Make it the focus concept", Operations: []edit.Operation{&edit.SetFocus{Concept: id}}}}
		}
		places = append(places, place)
	}
	if m.Focus == "" && len(places) == 1 {
		return nil // one part cannot hang apart
	}
	return places
}

func picturesUntold(m *cm.Map, s *structure.Structure) []Place {
	var places []Place
	look := func(key cm.Key, sources map[cm.ID]cm.Source) {
		for _, src := range sources {
			if src.Kind() == cm.SourcePicture && src.Says == "" {
				places = append(places, Place{[]cm.Key{key}, []Remedy{{Title: "Describe it", Ask: AskSays}}})
				return
			}
		}
	}
	for _, id := range s.Order {
		look(concept(id), m.Concepts[id].Sources)
	}
	for _, id := range cm.SortedIDs(m.Links) {
		look(link(id), m.Links[id].Sources)
	}
	for _, id := range cm.SortedIDs(m.Stops) {
		look(stopKey(id), m.Stops[id].Sources)
	}
	return places
}

func coloursStray(m *cm.Map, s *structure.Structure) []Place {
	if m.Look.By != cm.ByKind {
		return nil
	}
	of := map[cm.Colour]bool{}
	for _, k := range m.Kinds {
		if !k.Links && k.Colour != "" {
			of[k.Colour] = true
		}
	}
	none := cm.Colour("")
	var places []Place
	for _, id := range s.Order {
		c := m.Concepts[id]
		if c.Paint == nil || c.Paint.Fill == "" || !of[c.Paint.Fill] {
			continue
		}
		if k := m.KindOf(c); k == nil || k.Colour != c.Paint.Fill {
			places = append(places, Place{[]cm.Key{concept(id)}, []Remedy{{Title: "As its kind", Operations: []edit.Operation{&edit.SetPaint{Concepts: []cm.ID{id}, Fill: &none}}}}})
		}
	}
	return places
}

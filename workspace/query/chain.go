package query

import (
	"cmp"
	"strings"
	"unicode"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/workspace"
)

// ChainAsked asks for what one comes to from a concept, or for the way from it to another.
type ChainAsked struct {
	From, To cm.ID
	Along    structure.Along
	Steps    int
}

// MaxChain bounds how many steps a chain goes.
const MaxChain = 9

// Chain is a chain of propositions as a paragraph.
type Chain struct {
	MapID     cm.ID
	Lang      cm.Lang
	Title     string
	From, To  cm.ID
	Along     structure.Along
	Steps     int
	Lengths   []int
	Sentences []Utterance
	More      bool
	Nothing   string // why there is none
}

// Chain reads a chain as one paragraph: what one phrase says of several is one sentence.
func (s Reading) Chain(asked ChainAsked) (Chain, error) {
	name := func(id cm.ID) string { return s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}) }
	v := Chain{MapID: s.Map.ID, Lang: s.Map.Language, From: asked.From, To: asked.To, Along: asked.Along, Steps: min(max(asked.Steps, 1), MaxChain)}
	if v.Along != structure.AlongArrows {
		v.Along = structure.AlongMain
	}
	for n := range MaxChain {
		v.Lengths = append(v.Lengths, n+1)
	}
	if s.Map.Concepts[asked.From] == nil || asked.To != "" && s.Map.Concepts[asked.To] == nil {
		return v, cm.Refusef("That concept is no longer on the map.")
	}
	var all []structure.Proposition
	if asked.To != "" {
		v.Title = s.t("From %s to %s", name(asked.From), name(asked.To))
		all = s.Structure.Way(asked.From, asked.To, false)
		if all == nil {
			all = s.Structure.Way(asked.From, asked.To, true)
		}
		if all == nil {
			v.Nothing = s.t("Nothing joins “%s” and “%s”.", name(asked.From), name(asked.To))
		}
	} else {
		v.Title = s.t("What is said from “%s” on", name(asked.From))
		if all = s.Structure.Chain(asked.From, v.Steps, v.Along); len(all) == 0 {
			v.Nothing = s.t("Nothing is said from here on in this way.")
		}
	}
	for i := 0; i < len(all); i++ {
		if len(v.Sentences) == workspace.MaxSpoken {
			v.More = true
			break
		}
		p := all[i]
		one := s.sentenceOf(p)
		objects, elements := []string{one.Noun2}, strings.Fields(elementsOf(p))
		for asked.To == "" && i+1 < len(all) && all[i+1].Strand.Link == p.Strand.Link && all[i+1].Subject == p.Subject && !p.Against && !all[i+1].Against {
			i++
			objects = append(objects, s.sentenceOf(all[i]).Noun2)
			elements = append(elements, "c-"+string(all[i].Object))
		}
		v.Sentences = append(v.Sentences, Utterance{capital(strings.Join(strings.Fields(cmp.Or(one.Noun1, "…")+" "+one.Verb+" "+s.listed(objects)), " ")) + ".", elements})
	}
	return v, nil
}

// listed says several words as one does: a, b and c.
func (s Reading) listed(words []string) string {
	if len(words) == 1 {
		return words[0]
	}
	last := len(words) - 1
	return strings.Join(words[:last], ", ") + " " + s.and() + " " + words[last]
}

// and is the word that joins, in the language of the map.
func (s Reading) and() string {
	lang, _, _ := strings.Cut(string(s.Map.Language), "-")
	return cmp.Or(map[string]string{"de": "und", "fr": "et", "es": "y", "en": "and", "it": "e", "pt": "e", "nl": "en"}[lang], "&")
}

func capital(words string) string {
	first, n := utf8.DecodeRuneInString(words)
	return string(unicode.ToUpper(first)) + words[n:]
}

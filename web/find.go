package web

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/likeness"
)

// found is a place on the map at which words were found.
type found struct {
	Element string `json:"element"`
	Where   string `json:"where"` // label, phrase or note
}

// find seeks words on the map.
func (s *server) find(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	g.JSON(http.StatusOK, now.find(g.Query("q")))
}

// find seeks words in labels, phrases and notes, in reading order: each thing once,
// where it was found first.
func (s reading) find(words string) []found {
	all := []found{}
	seen := map[string]bool{}
	s.eachText(func(key cm.Key, where, text string) {
		if e := element(key); !seen[e] && likeness.Holds(text, words) {
			seen[e] = true
			all = append(all, found{e, where})
		}
	})
	return all
}

// eachText gives every label, phrase and note of the map in its own language:
// concepts in reading order, then links as their sentences are read.
func (s reading) eachText(give func(key cm.Key, where, words string)) {
	for _, id := range s.structure.Order {
		c, key := s.m.Concepts[id], cm.Key{Kind: cm.EntityConcept, ID: id}
		give(key, "label", s.m.Words(c.Label))
		give(key, "note", s.m.Words(c.Note))
	}
	done := map[cm.ID]bool{}
	for _, p := range s.structure.Propositions() {
		id := p.Strand.Link
		if done[id] {
			continue
		}
		done[id] = true
		l, key := s.m.Links[id], cm.Key{Kind: cm.EntityLink, ID: id}
		give(key, "phrase", s.m.Words(l.Phrase))
		give(key, "note", s.m.Words(l.Note))
	}
}

// replacedView shows what replacing words would do, before it is done.
type replacedView struct {
	Fault, Seek, With string
	Changes           []replacedText
	All               int
	More              bool
}

type replacedText struct {
	Where, Voice string
	Parts        []likeness.Part
	Step         string // the operation that does it
}

// replaced shows what replacing words would do. Nothing is done yet: the
// operations come back by the road of any other edit.
func (s *server) replaced(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	g.HTML(http.StatusOK, "replaced.html", now.replaced(g.PostForm("seek"), g.PostForm("with")))
}

// replaced shows what replacing words would do.
func (s reading) replaced(seek, with string) replacedView {
	v := replacedView{Seek: seek, With: with}
	s.eachText(func(key cm.Key, where, words string) {
		parts := likeness.Parted(words, seek)
		after, fits := likeness.Replaced(words, seek, with, 4*cm.MaxNote)
		if !fits && v.Fault == "" {
			v.Fault = "In “" + short(words) + "” there would be no room for so many words."
			v.Changes = nil
		}
		if after == words || v.Fault != "" {
			return
		}
		if v.All++; len(v.Changes) == maxReplaced {
			v.More = true
			return
		}
		var op edit.Operation
		voice := "noun-words"
		switch where {
		case "label":
			op = &edit.NameConcept{Concept: key.ID, Label: after}
		case "phrase":
			op, voice = &edit.NameLink{Link: key.ID, Phrase: after}, "verb-words"
		default:
			op, voice = &edit.SetNote{On: key, Note: after}, ""
		}
		step, err := edit.MarshalOperations([]edit.Operation{op})
		if err == nil {
			// What cannot be done is said here, before anybody counts on it.
			_, err = edit.Apply(s.m, []edit.Operation{op}, nil)
		}
		if err != nil {
			v.Fault = "In “" + short(words) + "” that cannot be done. " + err.Error()
			v.Changes = nil
			return
		}
		v.Changes = append(v.Changes, replacedText{where, voice, nearby(parts), strings.TrimSuffix(strings.TrimPrefix(string(step), "["), "]")})
	})
	return v
}

// nearby shortens what stands far from what is sought.
func nearby(parts []likeness.Part) []likeness.Part {
	const most = 60
	for i, p := range parts {
		if runes := []rune(p.Words); !p.Sought && len(runes) > 2*most {
			head, tail := string(runes[:most]), string(runes[len(runes)-most:])
			if i == 0 {
				head = ""
			}
			if i == len(parts)-1 {
				tail = ""
			}
			parts[i].Words = head + " … " + tail
		}
	}
	return parts
}

// short gives the beginning of a long text, in one line.
func short(words string) string {
	words = strings.Join(strings.Fields(words), " ")
	if runes := []rune(words); len(runes) > 160 {
		return string(runes[:157]) + "…"
	}
	return words
}

// splitView asks which links of a concept go to the second one.
type splitView struct {
	Words string
	Ends  []splitEnd
}

type splitEnd struct {
	Link, End      cm.ID
	From, Verb, To string
}

// names gives the concepts of one side of a link.
func (s reading) names(ends []cm.End) string {
	all := make([]string, len(ends))
	for i, e := range ends {
		all[i] = s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: e.Concept})
	}
	return strings.Join(all, ", ")
}

func (s *server) split(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	v, err := now.split(cm.ID(g.Query("concept")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.HTML(http.StatusOK, "split.html", v)
}

// split asks which links of a concept go to the second one.
func (s reading) split(concept cm.ID) (v splitView, err error) {
	c := s.m.Concepts[concept]
	if c == nil {
		return v, cm.Refusef("That concept is no longer on the map.")
	}
	v.Words = s.m.Words(c.Label)
	for _, id := range cm.SortedIDs(s.m.Links) {
		l := s.m.Links[id]
		for _, e := range l.Ends() {
			if e.Concept == c.ID {
				v.Ends = append(v.Ends, splitEnd{id, e.ID, s.names(l.From), s.m.Words(l.Phrase), s.names(l.To)})
			}
		}
	}
	return v, nil
}

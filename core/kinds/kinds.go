// Package kinds holds sets of kinds to begin a key with. They are data
// (sets.json), each with the reason why one would sort ideas that way.
package kinds

import (
	_ "embed"
	"encoding/json"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

//go:embed sets.json
var sets []byte

// Set is a key to begin with.
type Set struct {
	ID      string               `json:"id"`
	Title   string               `json:"title"`
	Why     string               `json:"why"`
	Source  string               `json:"source,omitempty"` // in the literature
	Kinds   []Start              `json:"kinds"`
	Links   []Start              `json:"links,omitempty"` // kinds of links
	Phrases map[cm.Lang][]string `json:"phrases,omitempty"`
}

// Start is a kind of a set.
type Start struct {
	Part    string             `json:"part"`
	Names   map[cm.Lang]string `json:"name"`
	Means   map[cm.Lang]string `json:"meaning,omitempty"`
	Colour  cm.Colour          `json:"colour"`
	Outline cm.Outline         `json:"outline,omitempty"`
	Icon    cm.Icon            `json:"icon,omitempty"`
	Stroke  cm.Stroke          `json:"stroke,omitempty"`
}

// in gives what there is for a language, or else for English.
func in[V any](all map[cm.Lang]V, lang cm.Lang) V {
	primary, _, _ := strings.Cut(string(lang), "-")
	if v, ok := all[cm.Lang(primary)]; ok {
		return v
	}
	return all["en"]
}

// Name gives what the kind is called in a language, or else in English.
func (s Start) Name(lang cm.Lang) string { return in(s.Names, lang) }

// Operations give what makes the kinds of a set, with ids that the caller
// supplies, where the key has none of their names yet.
func (s Set) Operations(lang cm.Lang, id func() cm.ID) []edit.Operation {
	var ops []edit.Operation
	add := func(all []Start, links bool) {
		for _, k := range all {
			ops = append(ops, &edit.AddKind{ID: id(), Lang: lang, Name: k.Name(lang), Meaning: in(k.Means, lang), Colour: k.Colour, Outline: k.Outline, Icon: k.Icon,
				Links: links, Stroke: k.Stroke, Role: cm.Role(s.ID + "." + k.Part), Reuse: true})
		}
	}
	add(s.Kinds, false)
	add(s.Links, true)
	return ops
}

// Phrases gives the linking phrases that come with the sets of a map's kinds.
func Phrases(m *cm.Map) []string {
	var all []string
	for _, set := range Of(m) {
		all = append(all, in(set.Phrases, m.Language)...)
	}
	return all
}

// Of gives the sets from which kinds of a map came.
func Of(m *cm.Map) []Set {
	var all []Set
	for _, set := range Shipped {
		if slices.ContainsFunc(m.Key(), func(k *cm.Kind) bool { return k.Role.Set() == set.ID }) {
			all = append(all, set)
		}
	}
	return all
}

// Shipped are the sets, in the order in which they are offered.
var Shipped = func() []Set {
	var all []Set
	if err := json.Unmarshal(sets, &all); err != nil {
		panic("kinds: " + err.Error())
	}
	return all
}()

package demo

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/standin/shelf"
)

// meaning gives the main map its kinds, tags, regions, amounts and filters.
func (m *maker) meaning() {
	m.set("science", bellKinds)
	m.do(&edit.RemoveKind{Kind: m.kind("science", "unit")}, &edit.RemoveKind{Kind: m.kind("science", "whole")})
	m.do(&edit.AssignKind{Links: bellCauses, Kind: m.kind("science", "cause")})
	m.do(
		&edit.AddTag{ID: "to-hear", Name: "can be heard", Colour: "plum"},
		&edit.AssignTag{Concepts: []cm.ID{"hum", "prime", "tierce", "pitch", "loudness"}, Tag: "to-hear", On: true},
		&edit.AddTag{ID: "at-works", Name: "seen at the works", Colour: "clay"},
		&edit.AssignTag{Concepts: []cm.ID{"clapper", "bronze", "bow", "size", "nodes"}, Tag: "at-works", On: true},
	)
	m.do(&edit.AddRegion{ID: "in-ear", Title: "Inside the ear", Concepts: []cm.ID{"drum", "bones", "cochlea", "hairs"}, Colour: "rose", Filled: true})
	m.do(&edit.AddRegion{ID: "in-metal", Title: "The tones of the metal", Concepts: []cm.ID{"partials", "hum", "prime", "tierce"}, Colour: "sea"})
	for _, a := range [][2]string{{"speed", "343 m/s"}, {"drum", "0.1 mm"}} {
		m.do(&edit.SetAmount{Concept: cm.ID(a[0]), Amount: a[1]})
	}
	m.do(&edit.SetIcons{Concepts: []cm.ID{"sound"}, Icons: []cm.Icon{"bell-ring"}}, &edit.SetIcons{Concepts: []cm.ID{"ear"}, Icons: []cm.Icon{"ear"}}, &edit.SetIcons{Concepts: []cm.ID{"brain"}, Icons: []cm.Icon{"brain"}}, &edit.SetIcons{Concepts: []cm.ID{"air"}, Icons: []cm.Icon{"wind"}})
	m.do(&edit.SaveFilter{ID: "only-heard", Name: "what can be heard", Match: cm.MatchAny, Conditions: []cm.Condition{{About: cm.AboutTag, Value: "to-hear"}, {About: cm.AboutBranch, Value: "ear"}}})
	for _, at := range bellStuff {
		m.shelf(at[0], at[1], at[2] == "on the slip")
	}
	m.do(
		&edit.AttachSource{On: on("speed"), ID: "table", Source: cm.Source{Cite: &cm.Citation{Author: "The Hollin works", Year: "2024", Title: "Speeds of sound, measured along our yard", Place: "Notebook 12, p. 4"}}},
		&edit.AttachSource{On: on("bronze"), ID: "alloys", Source: cm.Source{URL: "https://hollin.example/alloys", Title: "Alloys of the Hollin works"}},
		&edit.SetTable{Concept: "bronze", Table: &cm.Table{Head: true, Rows: [][]string{{"metal", "parts"}, {"copper", "4"}, {"tin", "1"}}}},
	)
	sea := cm.Colour("sea")
	m.do(&edit.SetNoteCard{On: on("hum"), Colour: &sea}, &edit.SetRemark{Concept: "brain", Remark: "where sound becomes hearing"})
	m.do(&edit.SetNote{On: cm.Key{Kind: cm.EntityLink, ID: bellLinkSaying("sets")}, Note: "Of two bells of one shape the larger one is the deeper: twice as wide, *half* the frequency."})
	m.do(&edit.SetNote{On: cm.Key{Kind: cm.EntityRegion, ID: "in-ear"}, Note: "All of this lies behind a bone as hard as any in the body."})
	m.do(&edit.SetNote{On: cm.Key{Kind: cm.EntityMap, ID: "bell-sound"}, Note: "For the open day of the Hollin bell works."})
}

func on(concept cm.ID) cm.Key { return cm.Key{Kind: cm.EntityConcept, ID: concept} }

// bellStuff is what is attached from the shelf, and to what.
var bellStuff = [][3]string{
	{"nodes", "nodes", "on the slip"}, {"bell", "bell", "on the slip"}, {"ear", "ear", ""}, {"wave", "wave", ""}, {"bow", "bell-parts", ""},
	{"sound", "tone-bell", ""}, {"hum", "tone-hum", ""}, {"prime", "tone-prime", ""}, {"tierce", "tone-tierce", ""}, {"loudness", "tone-loud", ""}, {"loudness", "tone-soft", ""},
}

// shelf attaches something of the shelf to a concept.
func (m *maker) shelf(concept, name string, onSlip bool) {
	item, raw, ok := shelf.Local{}.Content(name)
	if !ok {
		panic("demo: nothing on the shelf is called " + name)
	}
	sum := sha256.Sum256(raw)
	f := &cm.File{Hash: hex.EncodeToString(sum[:]), Type: map[string]string{"picture": "image/svg+xml", "sound": "audio/wav"}[item.Kind], Size: int64(len(raw))}
	src := cm.Source{File: f, Title: item.Title, Says: item.Says, Licence: item.Licence}
	if item.Kind == "picture" {
		var err error
		if f.W, f.H, err = shelf.Extent(raw); err != nil {
			panic("demo: " + err.Error())
		}
		if onSlip {
			src.Wide = 72
		}
	}
	m.Files = append(m.Files, File{item.File, raw})
	m.do(&edit.AttachSource{On: on(cm.ID(concept)), ID: cm.ID("s-" + name), Source: src})
}

// kind names the kind of a set.
func (m *maker) kind(set, part string) cm.ID { return cm.ID(set + "-" + part) }

// kindColour is the colour of a kind of a set.
func kindColour(set, part string) cm.Colour {
	for _, s := range kinds.Shipped {
		for _, k := range s.Kinds {
			if s.ID == set && k.Part == part {
				return k.Colour
			}
		}
	}
	return ""
}

// set begins the key with a set and gives its kinds to concepts.
func (m *maker) set(id string, of map[string][]cm.ID) {
	for _, set := range kinds.Shipped {
		if set.ID != id {
			continue
		}
		n := 0
		parts := append(append([]kinds.Start{}, set.Kinds...), set.Links...)
		m.do(set.Operations("en", func() cm.ID { n++; return m.kind(id, parts[n-1].Part) })...)
		for _, part := range parts {
			if concepts := of[part.Part]; len(concepts) > 0 {
				m.do(&edit.AssignKind{Concepts: concepts, Kind: m.kind(id, part.Part)})
			}
		}
		return
	}
	panic(fmt.Sprintf("demo: no set %q", id))
}

var bellKinds = map[string][]cm.ID{
	"object":   {"clapper", "rope", "ringer", "pad", "bell", "bow", "waist", "crown", "louvres", "ear", "drum", "bones", "cochlea", "hairs", "brain"},
	"material": {"iron", "bronze", "copper", "tin", "air", "dense", "thin"},
	"process":  {"strike", "vibration", "damping", "wave", "signals", "partials", "hum", "prime", "tierce"},
	"property": {"pitch", "loudness", "nodes"},
	"quantity": {"energy", "size", "frequency", "amplitude", "speed", "distance"},
}

// bellLinkSaying names the first link with a phrase.
func bellLinkSaying(phrase string) cm.ID {
	return linkID(slices.IndexFunc(bellLinks, func(l link) bool { return l.phrase == phrase }) + 1)
}

// bellCauses are the links that say what makes what happen.
var bellCauses = func() (all []cm.ID) {
	causes := []string{"decides on", "sets", "lessens", "deepens", "lowers", "pushes", "dulls the higher"}
	for i, l := range bellLinks {
		if slices.Contains(causes, l.phrase) {
			all = append(all, linkID(i+1))
		}
	}
	return all
}()

package demo

import (
	"fmt"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// concept is an idea with its place: the top centre of its slip.
type concept struct {
	id, label string
	x, y      float64
}

// link is a proposition, or several that share a phrase.
type link struct {
	from   []string
	phrase string
	to     []string
}

func one(id string) []string { return []string{id} }

// bell is the main map: from the blow to the ear.
func bell() Map {
	m := maker{Map: Map{ID: "bell-sound"}}
	m.do(
		&edit.NameMap{Title: "The sound of a bell"},
		&edit.Ask{Question: "How does a bell make a sound that we can hear?"},
	)
	m.concepts(bellConcepts)
	m.do(&edit.SetFocus{Concept: "sound"})
	for _, l := range bellLinks {
		m.link(l)
	}
	for _, n := range bellNotes {
		m.do(&edit.SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: cm.ID(n[0])}, Note: n[1]})
	}
	m.meaning()
	m.bellRoutes()
	m.judged(bellLinks)
	return m.Map
}

var bellLinks = []link{
	// The five branches.
	{one("sound"), "comes from", one("bell")},
	{one("sound"), "begins with", one("strike")},
	{one("sound"), "is made by", one("vibration")},
	{one("sound"), "travels through", one("air")},
	{one("sound"), "is heard by", one("ear")},
	// The strike.
	{one("strike"), "is given by", one("clapper")},
	{one("strike"), "passes on", one("energy")},
	{one("strike"), "is softened by", one("pad")},
	{one("clapper"), "is made of", one("iron")},
	{one("clapper"), "is swung by", one("rope")},
	{one("rope"), "is pulled by", one("ringer")},
	// The bell.
	{one("bell"), "is cast from", one("bronze")},
	{one("bronze"), "is a mixture of", []string{"copper", "tin"}},
	{one("bell"), "joins", []string{"bow", "waist", "crown"}},
	{one("bell"), "is known by the", one("size")},
	// Vibration.
	{one("vibration"), "is measured by", []string{"frequency", "amplitude"}},
	{one("vibration"), "is made up of", one("partials")},
	{one("partials"), "such as", []string{"hum", "prime", "tierce"}},
	{one("vibration"), "dies away by", one("damping")},
	{one("vibration"), "leaves at rest", one("nodes")},
	// The air.
	{one("air"), "carries", one("wave")},
	{one("wave"), "is a row of", []string{"dense", "thin"}},
	{one("wave"), "spreads at", one("speed")},
	{one("wave"), "weakens with", one("distance")},
	{one("wave"), "leaves the tower by", one("louvres")},
	// The ear.
	{one("ear"), "begins at", one("drum")},
	{one("drum"), "moves", one("bones")},
	{one("bones"), "shake the liquid in", one("cochlea")},
	{one("cochlea"), "holds", one("hairs")},
	{one("hairs"), "send", one("signals")},
	{one("signals"), "reach", one("brain")},
	{one("brain"), "makes of them", []string{"pitch", "loudness"}},
	// Across the branches.
	{one("clapper"), "hits", one("bow")},
	{one("energy"), "decides on", one("amplitude")},
	{one("pad"), "dulls the higher", one("partials")},
	{one("size"), "sets", one("frequency")},
	{one("tin"), "lessens", one("damping")},
	{one("amplitude"), "deepens", one("dense")},
	{one("frequency"), "is heard as", one("pitch")},
	{one("wave"), "pushes", one("drum")},
	{one("distance"), "lowers", one("loudness")},
	{one("brain"), "guides", one("ringer")},
}

var bellNotes = [][2]string{
	{"bow", "The thick rim of the bell. The clapper meets it here, since the metal can bend most freely."},
	{"bronze", "At the Hollin bell works about four parts of copper go with one part of tin."},
	{"hum", "The lowest tone of a bell. It sounds on longest after the blow."},
	{"nodes", "Lines along which the metal does not move at all. Fine sand laid on a bell gathers there."},
	{"speed", "In air of 20 degrees. In the bronze of a bell sound is some ten times as fast."},
	{"drum", "A thin skin, about a centimetre wide, at the end of the ear canal."},
}

// maker collects entries, one for each gesture.
type maker struct {
	Map
	links int
}

func (m *maker) do(ops ...edit.Operation) { m.Entries = append(m.Entries, ops) }

func (m *maker) concepts(all []concept) {
	var ops []edit.Operation
	for _, c := range all {
		ops = append(ops, &edit.AddConcept{ID: cm.ID(c.id), Label: c.label, At: cm.Point{X: c.x, Y: c.y}})
	}
	m.do(ops...)
}

// linkID names the links of a map in the order in which they are made.
func linkID(n int) cm.ID { return cm.ID(fmt.Sprintf("link%02d", n)) }

func (m *maker) link(l link) {
	m.links++
	ends := func(side string, concepts []string) []cm.End {
		var all []cm.End
		for i, c := range concepts {
			all = append(all, cm.End{ID: cm.ID(fmt.Sprintf("%s%d", side, i+1)), Concept: cm.ID(c)})
		}
		return all
	}
	m.do(&edit.AddLink{ID: linkID(m.links), Phrase: l.phrase, From: ends("f", l.from), To: ends("t", l.to)})
}

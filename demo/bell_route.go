package demo

import (
	"fmt"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// stop is one stop of a route: what it shows, by the ids of concepts or the
// numbers of links (as "link07"), and its card.
type stop struct {
	shows            []string
	title, card, own string // own: guide notes
}

// stopID names a stop by its place on its route, from 0.
func stopID(route string, at int) cm.ID { return cm.ID(fmt.Sprintf("%s-%02d", route, at+1)) }

// route adds a route, one entry for each stop, as by hand.
func (m *maker) route(id, title string, stops []stop) {
	m.do(&edit.AddRoute{ID: cm.ID(id), Title: title})
	var last cm.ID
	for i, s := range stops {
		this := stopID(id, i)
		add := &edit.AddStop{ID: this, Route: cm.ID(id), After: last}
		for _, name := range s.shows {
			kind := cm.EntityConcept
			if len(name) == 6 && name[:4] == "link" {
				kind = cm.EntityLink
			}
			add.Refs = append(add.Refs, cm.Key{Kind: kind, ID: cm.ID(name)})
		}
		ops := []edit.Operation{add, &edit.WriteStop{Stop: this, Part: "title", Words: s.title}, &edit.WriteStop{Stop: this, Part: "card", Words: s.card}}
		if s.own != "" {
			ops = append(ops, &edit.WriteStop{Stop: this, Part: "guideNotes", Words: s.own})
		}
		m.do(ops...)
		last = this
	}
}

// bellRoute follows cause and effect from the rope to the ear and back.
var bellRoute = []stop{
	{[]string{"sound"}, "Listen first",
		"Think of the last bell that you heard. How long did it go on *after* the blow?\n\nOn this walk we follow its sound, one cause after another, until we know how it reached you.",
		"Let the class hear the hand bell once before anybody reads."},
	{[]string{"strike", "clapper"}, "A blow",
		"Everything begins with **the strike**. In the Hollin tower it is given by the clapper, a pear of soft iron as heavy as a child.\n\nSoft iron, because hard iron would chip the bell.", ""},
	{[]string{"rope", "ringer"}, "Somebody pulls",
		"The clapper does not move by itself. It is swung by a rope, and at the other end of the rope stands *the ringer*.", ""},
	{[]string{"bell", "bow"}, "Where it hits",
		"The bell is thickest near its rim. That ring of metal is called **the sound bow**, and it is there that the clapper hits.\n\n- Higher up, the metal is thin and would crack.\n- Lower down, there is no bell left to hit.", "Pass round the drawing of the profile."},
	{[]string{"energy", "amplitude", "vibration"}, "The metal trembles",
		"The strike passes on its energy of motion, and the metal begins to tremble: *vibration*.\n\nThe more energy, the farther the metal swings to and fro. How far it swings is its **amplitude**.", ""},
	{[]string{"partials", "hum", "prime", "tierce"}, "Many tones at once",
		"A bell never sings one tone alone. It trembles in several ways at the same time, and each way gives a tone of its own: the *partial tones*.\n\nThe lowest of them, **the hum**, sounds on longest.",
		"Ask for the hum first: most will have taken it for the whole sound."},
	{[]string{"air", "wave"}, "Out into the air",
		"The trembling metal pushes the air next to it, and that air pushes the next. What travels is not the air but the push: **a sound wave**.", ""},
	{[]string{"dense", "thin"}, "Close up",
		"Seen from very near, a sound wave is a row of places where the air is *dense* and places where it is *thin*.\n\nA larger amplitude of the metal deepens them.", ""},
	{[]string{"ear", "drum"}, "At the eardrum",
		"Some of that row of pushes ends at a thin skin in your ear, about a centimetre wide. The wave pushes it, and it follows.", ""},
	{[]string{"bones", "cochlea", "hairs", "signals", "brain"}, "From push to signal",
		"Three small bones pass the movement on into a coiled tube full of liquid. In it, hair cells bend, and each that bends sends a signal.\n\nThe signals reach *the brain*.", ""},
	{[]string{"frequency", "pitch"}, "High or low",
		"How often the metal trembles in a second is its **frequency**. Your brain makes pitch of it: often is high, seldom is low.", ""},
	{[]string{"loudness", "distance"}, "Loud or soft",
		"How loud the bell seems depends on how far the metal swings, and on how far away you stand.\n\nWalk up to the tower and it grows; nothing at the bell has changed.", ""},
	{[]string{"link42"}, "And back again",
		"Now look at the whole way. The brain that hears the bell *guides the ringer*, who pulls again, a little sooner or a little later.\n\nThe sound of a bell is a circle.", "Leave time for questions here."},
}

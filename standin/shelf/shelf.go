// Package shelf is a small local stand-in for a search for pictures and sounds
// elsewhere: drawings and tones of our own, found by words. It stands behind the
// interface that a real service would have (Searcher), and says what it is.
package shelf

import (
	"embed"
	"encoding/json"
	"encoding/xml"
	"slices"

	"mevrin/core/likeness"
)

// Item is something that can be attached to a map.
type Item struct {
	Name    string  `json:"name"` // stable
	Kind    string  `json:"kind"` // "picture" or "sound"
	Title   string  `json:"title"`
	Says    string  `json:"says"`  // for those who cannot see or hear it
	Words   string  `json:"words"` // by which it is found, besides its title
	Licence string  `json:"licence"`
	Seconds float64 `json:"seconds,omitempty"` // how long a sound is
	File    string  `json:"file"`              // what it is called when kept

	tone *tone
}

// Searcher finds items by words and gives their content.
type Searcher interface {
	// Find gives the items of which a word begins with each of the words sought;
	// all where nothing is sought. An empty licence stands for any.
	Find(sought, licence string) []Item
	// Content gives what an item is; ok is false where there is none of that name.
	Content(name string) (item Item, raw []byte, ok bool)
	// Licences gives the licences under which there is something, in order.
	Licences() []string
}

//go:embed items.json drawings/*.svg
var files embed.FS

// Local is the shelf that is shipped.
type Local struct{}

var items = func() []Item {
	raw, err := files.ReadFile("items.json")
	var all []Item
	if err == nil {
		err = json.Unmarshal(raw, &all)
	}
	if err != nil {
		panic("shelf: " + err.Error()) // part of the program
	}
	for i := range all {
		if t, ok := tones[all[i].Name]; ok {
			all[i].tone, all[i].Seconds = &t, t.seconds
		}
	}
	return all
}()

// Find searches the shelf.
func (Local) Find(sought, licence string) []Item {
	found := []Item{}
	for _, item := range items {
		if (licence == "" || item.Licence == licence) && likeness.Begins(item.Title+" "+item.Words, sought) {
			found = append(found, item)
		}
	}
	return found
}

// Licences gives the licences under which there is something, in order.
func (Local) Licences() []string {
	var all []string
	for _, item := range items {
		all = append(all, item.Licence)
	}
	slices.Sort(all)
	return slices.Compact(all)
}

// Content gives an item with what it is.
func (Local) Content(name string) (Item, []byte, bool) {
	for _, item := range items {
		if item.Name != name {
			continue
		}
		if item.tone != nil {
			return item, item.tone.wav(), true
		}
		raw, err := files.ReadFile("drawings/" + name + ".svg")
		return item, raw, err == nil
	}
	return Item{}, nil, false
}

// Extent gives the size of a drawing of the shelf in pixels.
func Extent(drawing []byte) (w, h int, err error) {
	var svg struct {
		W int `xml:"width,attr"`
		H int `xml:"height,attr"`
	}
	err = xml.Unmarshal(drawing, &svg)
	return svg.W, svg.H, err
}

// Package svg writes a display list as SVG. Each concept and each link is one group
// that can be replaced on its own: the page that a person edits, and whatever
// else shows a map, get them from the same functions.
//
// Colours and type are in one style sheet (Style) that speaks of classes and
// custom properties only, so that a look can be changed without drawing again.
package svg

import (
	_ "embed"
	"fmt"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/scene"
)

// Slip writes the group of one concept.
func Slip(s *scene.Slip) string { return Write(display.Slip(s)) }

// Link writes the group of one link.
func Link(k *scene.Link) string { return Write(display.Link(k)) }

// Regions writes the outlines around concepts, and the picture under them.
func Regions(sc *scene.Scene) string { return Write(display.Regions(sc)...) }

// Cards writes the small cards of a route.
func Cards(all []scene.Card) string { return Write(display.Cards(all)...) }

// Key writes the key on the paper; nothing where there is none.
func Key(k *scene.Key) string {
	if k == nil {
		return ""
	}
	return Write(display.Key(k))
}

// Legend writes a key as a drawing of its own.
func Legend(k *scene.Key) string {
	if k == nil {
		return ""
	}
	return fmt.Sprintf(`<svg class="sheet legend" viewBox="%g %g %g %g" width="%g" height="%g" role="img" aria-label="Key">`, k.Box.X-1, k.Box.Y-1, k.Box.W+2, k.Box.H+2, k.Box.W+2, k.Box.H+2) + Key(k) + `</svg>`
}

// Axis writes the axis of a map drawn along time; nothing where there is none.
func Axis(a *scene.Axis) string {
	if a == nil {
		return ""
	}
	return Write(display.Axis(a))
}

// Group writes all links or all slips in the order of their ids.
func Group[E any](all map[cm.ID]*E, write func(*E) string) string {
	var out strings.Builder
	for _, id := range cm.SortedIDs(all) {
		out.WriteString(write(all[id]))
		out.WriteByte('\n')
	}
	return out.String()
}

// Swatch writes a small slip in the look of a kind, as a drawing of its own.
func Swatch(colour cm.Colour, outline cm.Outline) string {
	box := geometry.Box{W: 44, H: 26}
	if outline == cm.OutlineCapsule { // in proportion to a slip's it has level sides
		box.H = 18
	}
	box.Y = (26 - box.H) / 2
	return sample(display.Sample(&cm.Kind{Colour: colour, Outline: outline}, box))
}

// Stroke writes a short line in the look of a kind of links, as a drawing of its own.
func Stroke(k *cm.Kind) string { return sample(display.SampleLine(k, 0, 13)) }

func sample(item display.Item) string {
	return `<svg class="swatch" viewBox="-2 -2 48 30" width="48" height="30" aria-hidden="true">` + Write(item) + `</svg>`
}

// Icon writes a picture of the set as a drawing of its own; nothing where it has none of
// that name.
func Icon(name cm.Icon) string {
	if n, is := name.Step(); is {
		return `<svg class="icon" viewBox="0 0 24 24" width="20" height="20" aria-hidden="true"><text class="numeral" x="12" y="19" font-size="20" text-anchor="middle" fill="currentColor">` + strconv.Itoa(n) + `</text></svg>`
	}
	shapes := display.Pictogram(name)
	if shapes == nil {
		return ""
	}
	return `<svg class="icon" viewBox="0 0 24 24" width="20" height="20" fill="none" stroke="currentColor" stroke-width="2" stroke-linecap="round" stroke-linejoin="round" aria-hidden="true">` + Write(shapes...) + `</svg>`
}

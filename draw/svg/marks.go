package svg

import (
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/icon"
	"mevrin/draw/scene"
)

// icons writes the small pictures left of a label.
func (w *writer) icons(s *scene.Slip, in scene.Rect) {
	x := scene.Strip + 9.0
	for _, name := range s.Icons {
		w.icon(name, x, in.Y+(in.H-scene.IconSize)/2, scene.IconSize)
		x += scene.IconSize + 4
	}
}

// icon writes a picture of the set; nothing where it has none of that name.
func (w *writer) icon(name cm.Icon, x, y, size float64) {
	if n, is := name.Step(); is {
		w.put(`<text class="aside numeral" font-size="`)
		w.number(size)
		w.put(`" x="`)
		w.number(x + size/2)
		w.put(`" y="`)
		w.number(y + size*0.84)
		w.put(`">`, strconv.Itoa(n), `</text>`)
		return
	}
	i, ok := icon.Named(name)
	if !ok {
		return
	}
	w.put(`<g class="glyph" transform="translate(`)
	w.numbers(x, y)
	w.put(`) scale(`)
	w.put(strconv.FormatFloat(size/24, 'f', 4, 64))
	w.put(`)">`, i.Body, `</g>`)
}

// Icon writes a picture of the set as a drawing of its own.
func Icon(name cm.Icon) string {
	if n, is := name.Step(); is {
		return `<svg class="icon" viewBox="0 0 24 24" width="20" height="20" aria-hidden="true"><text class="numeral" x="12" y="19" font-size="20" text-anchor="middle" fill="currentColor">` + strconv.Itoa(n) + `</text></svg>`
	}
	i, ok := icon.Named(name)
	if !ok {
		return ""
	}
	return `<svg class="icon" viewBox="0 0 24 24" width="20" height="20" fill="none" stroke="currentColor" stroke-width="2" stroke-linecap="round" stroke-linejoin="round" aria-hidden="true">` + i.Body + `</svg>`
}

// signs are what marks look like, within 13 by 13 pixels, y up from the line.
var signs = map[string]string{
	"note":    "M1.5 .5H9L11.5 3V12.5H1.5ZM4 5H9M4 7.5H9M4 10H7",
	"web":     "M6.5 .5A6 6 0 1 1 6.5 12.5A6 6 0 1 1 6.5 .5M.5 6.5H12.5M6.5 .5C3 4 3 9 6.5 12.5C10 9 10 4 6.5 .5",
	"picture": "M.5 1.5H12.5V11.5H.5ZM2 10L5 6.5L7 8.5L9 6L11.5 10M4 3.6V4.6",
	"sound":   "M1 4.5H3.5L7 1.5V11.5L3.5 8.5H1ZM9 4.5Q10.5 6.5 9 8.5M10.8 2.8Q13.6 6.5 10.8 10.2",
	"video":   "M.5 2.5H8.5V10.5H.5ZM8.5 6L12.5 3V10L8.5 7",
	"file":    "M2 .5H8L11 3.5V12.5H2ZM8 .5V3.5H11",
	"cite":    "M1 12.5V1.5Q4 .5 6.5 2.5Q9 .5 12 1.5V11.5Q9 10.5 6.5 12.5Q4 10.5 1 11.5M6.5 2.5V12.5",
	"task":    "M1 1.5H12V12.5H1Z",
	"done":    "M1 1.5H12V12.5H1ZM3.5 7L6 9.5L10 4",
	"comment": "M.5 1.5H12.5V9.5H6L3 12.5V9.5H.5Z",
	"agree":   "M1 6.5H3.5V12H1ZM3.5 7L6.5 1.5Q8.5 1.5 8 4.5H12L11 12H3.5",
	"against": "M1 6.5H3.5V1H1ZM3.5 6L6.5 11.5Q8.5 11.5 8 8.5H12L11 1H3.5",
	"table":   "M.5 1.5H12.5V11.5H.5ZM.5 5H12.5M4.5 1.5V11.5",
}

// marks writes the row of small signs below a label.
func (w *writer) marks(s *scene.Slip, bottom float64) {
	if len(s.Marks) == 0 {
		return
	}
	last := s.Marks[len(s.Marks)-1]
	w.row(s.Marks, scene.Strip+(s.Box.W-scene.Strip-last.X-last.W)/2, bottom-scene.MarksHeight-3)
}

// linkMarks writes the signs behind a phrase, and gives the room that they take.
func (w *writer) linkMarks(k *scene.Link) float64 {
	last := k.Marks[len(k.Marks)-1]
	room := last.X + last.W + scene.LinkMarkGap
	w.row(k.Marks, k.Gap.X+k.Gap.W-room, k.Gap.Y+(k.Gap.H-13)/2)
	return room
}

// row writes signs from a place to the right.
func (w *writer) row(marks []scene.Mark, left, top float64) {
	w.put(`<g class="badges">`)
	for _, k := range marks {
		w.badge(k, left+k.X, top)
	}
	w.put(`</g>`)
}

func (w *writer) badge(k scene.Mark, x, y float64) {
	w.put(`<g class="badge`)
	w.class(k.Colour != "", "colour-"+string(k.Colour))
	w.put(`" data-mark="`, k.Sign)
	if k.Tag != "" {
		w.put(`" data-tag="`, string(k.Tag))
	}
	w.put(`" transform="translate(`)
	w.numbers(x, y)
	w.put(`)"><title>`)
	if k.Hint != "" {
		w.text(k.Hint)
	} else {
		w.text(k.Says)
	}
	w.put(`</title><rect class="touch" x="-3" y="-2" width="`)
	w.number(k.W + 6)
	w.put(`" height="18"/>`)
	left := 0.0
	switch {
	case k.Sign == "tag":
		w.put(`<path class="pennant" d="M0 0H13V13L6.5 9.8L0 13Z"/><text class="aside initial" font-size="9" x="6.5" y="8">`)
		w.text(k.Words)
		w.put(`</text></g>`)
		return
	case signs[k.Sign] != "":
		w.put(`<path class="sign" d="`, signs[k.Sign], `"/>`)
		left = 15
	}
	if k.Words != "" {
		w.said(k.Words, left, 10.5)
	}
	w.put(`</g>`)
}

func (w *writer) said(words string, x, y float64) {
	w.put(`<text class="aside said" font-size="`)
	w.number(scene.MarkType)
	w.put(`" x="`)
	w.number(x)
	w.put(`" y="`)
	w.number(y)
	w.put(`">`)
	w.text(words)
	w.put(`</text>`)
}

// talk writes a small label that hangs at the lower edge of a thing, from its right
// end to the left: how many comments there are, and how many agree with it and do
// not. It is not part of the thing, which keeps its size.
func (w *writer) talk(t scene.Talk, right, bottom float64) {
	if t == (scene.Talk{}) {
		return
	}
	parts := t.Parts()
	wide := 6.0
	for _, p := range parts {
		wide += p.W + 7
	}
	w.put(`<g class="badge talk" data-mark="talk" transform="translate(`)
	w.numbers(right-wide, bottom-3)
	w.put(`)"><title>`)
	w.text(strings.TrimPrefix(t.Says(), ", "))
	w.put(`</title><rect class="ground" width="`)
	w.number(wide)
	w.put(`" height="18" rx="2"/>`)
	x := 6.0
	for _, p := range parts {
		w.put(`<path class="sign" transform="translate(`)
		w.numbers(x, 2.5)
		w.put(`)" d="`, signs[p.Sign], `"/>`)
		w.said(p.Words, x+15, 13)
		x += p.W + 7
	}
	w.put(`</g>`)
}

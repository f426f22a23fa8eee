package svg

import (
	"strings"

	"mevrin/draw/scene"
)

// Cards writes the small cards of a route, each a group that names its stop.
func Cards(all []scene.Card) string {
	w := &writer{}
	for _, c := range all {
		w.card(c)
	}
	return w.String()
}

func (w *writer) card(c scene.Card) {
	w.put(`<g class="small-card" data-stop="`, string(c.Stop), `" role="img" aria-label="Card `)
	w.text(c.Number)
	if c.Title != nil {
		w.put(`, `)
		w.text(strings.Join(lines(c.Title), " "))
	}
	w.put(`"><path class="tether" d="M`)
	w.numbers(c.From.X, c.From.Y)
	w.put(`L`)
	w.numbers(c.To.X, c.To.Y)
	w.put(`"/><g transform="translate(`)
	w.numbers(c.Box.X, c.Box.Y)
	w.put(`)"><path class="leaf" d="`)
	w.trace("M", 0, 0, "H", c.Box.W, "V", c.Box.H-9, "L", c.Box.W-9, c.Box.H, "H", 0, "Z")
	w.put(`"/><path class="leaf-turn" d="`)
	w.trace("M", c.Box.W, c.Box.H-9, "H", c.Box.W-9, "V", c.Box.H)
	w.put(`"/><text class="aside leaf-number" font-size="15" x="`)
	w.number(scene.CardPad)
	w.put(`" y="`)
	w.number(scene.CardPad + 12)
	w.put(`">`)
	w.text(c.Number)
	w.put(`</text>`)
	y := scene.CardPad
	if t := c.Title; t != nil {
		w.block("aside", t, scene.Rect{X: scene.CardPad + scene.CardLead, Y: y, W: t.W, H: t.H})
		y += t.H + 3
	} else {
		y += 15
	}
	if b := c.Words; b != nil {
		w.block("aside", b, scene.Rect{X: scene.CardPad, Y: y, W: b.W, H: b.H})
	}
	w.put(`</g></g>`)
}

package svg

import "mevrin/draw/scene"

// Axis writes the axis of a map drawn along time; nothing where there is none.
func Axis(a *scene.Axis) string {
	if a == nil {
		return ""
	}
	w := &writer{}
	w.put(`<g class="axis"><path d="M`)
	w.numbers(a.X0, a.Y)
	w.put(`H`)
	w.number(a.X1)
	for _, t := range a.Ticks {
		w.put(`M`)
		w.numbers(t.X, a.Y-5)
		w.put(`v10`)
	}
	w.put(`"/>`)
	for _, s := range a.Spans {
		w.put(`<path class="span" d="M`)
		w.numbers(s.X0, s.Y)
		w.put(`H`)
		w.number(s.X1)
		w.put(`"/>`)
	}
	for _, t := range a.Ticks {
		w.put(`<text class="noun" font-size="15" x="`)
		w.number(t.X)
		w.put(`" y="`)
		w.number(a.Y - 12)
		w.put(`">`)
		w.text(t.Words)
		w.put(`</text>`)
	}
	w.put(`</g>`)
	return w.String()
}

package tidy

import (
	"cmp"
	"slices"

	"mevrin/core/layout/route"
	"mevrin/core/work"
)

// places gives where everything stands.
func (w *woven) places() placed {
	if w.g.Was != nil && w.wasBalloon() {
		return w.drawn()
	}
	tries := w.tries()
	drawn := make([]try, len(tries))
	w.g.Stop.Each(len(tries), func(i int, stop *work.Limit) {
		g, own := *w.g, *w
		g.Stop, own.g = stop, &g
		own.begin()
		tries[i](&own, shuffle(i+1)*spreadSeeds)
		if drawn[i].at = own.at; w.g.Was == nil {
			drawn[i].clutter = own.clutter()
		}
	})
	fewer := func(a, b try) int { return cmp.Compare(a.clutter, b.clutter) }
	slices.SortStableFunc(drawn, fewer)
	if n := min(len(drawn)/4, mostLed); n > 1 && drawn[0].clutter > 0 {
		w.g.Stop.Each(n, func(i int, stop *work.Limit) { drawn[i].clutter = w.crossings(drawn[i].at, stop) })
		slices.SortStableFunc(drawn[:n], fewer)
	}
	w.at = drawn[0].at
	if w.g.Was == nil && drawn[0].clutter > 0 {
		w.balloon() // a tree can be drawn without any
	}
	return w.drawn()
}

// try is one way in which a web may be drawn.
type try struct {
	at      []Point
	clutter int
}

// mostLed is of how many drawings lines are led, to choose between them.
const mostLed = 8

// crossings counts where lines cross once they are led around what stands there.
func (w *woven) crossings(at []Point, stop *work.Limit) int {
	g, own := *w.g, *w
	g.Stop, own.g, own.at = stop, &g, at
	d := Drawing{Boxes: make([]Point, len(g.Boxes)), Wires: make([]Line, len(g.Wires))}
	to := own.drawn()
	for b, p := range to.boxes {
		d.Boxes[b] = p
	}
	lead(&g, &d, own.part, to)
	t := taut{g: &g, d: &d, strokes: route.NewIndex(nil).Under(stop)}
	for _, i := range own.part.wires {
		for e := range d.Wires[i].Legs {
			t.add(i, e)
		}
	}
	n := 0
	for _, i := range own.part.wires {
		for e := range d.Wires[i].Legs {
			n += t.crossed(i, e, t.way(i, e))
		}
	}
	return n / 2
}

// manyToForce is from how many vertices on forces draw better than stress, and manyRoomy from
// how many on lines need more room between what stands there.
const manyToForce, manyRoomy = 250, 600

// tries gives the ways in which the graph is drawn: the drawing with the least clutter stands.
func (w *woven) tries() []func(*woven, shuffle) {
	if w.g.Was != nil && len(w.names) > manyToForce {
		return []func(*woven, shuffle){func(w *woven, _ shuffle) { // all is where it was, and only makes room
			w.restore()
			w.clear(true)
		}}
	}
	var terms []term // which take long to find where there are many, and then are not needed
	stress := func(gently bool) func(*woven, shuffle) {
		return func(w *woven, mix shuffle) {
			if gently {
				w.radial()
			}
			w.relax(slices.Clone(terms), mix, gently)
			if w.g.Was == nil {
				w.spread()
				w.growTo(2.4, false)
			} else {
				w.restore()
			}
			w.clear(false)
		}
	}
	if w.g.Was != nil {
		terms = w.terms()
		w.hold(terms)
		return []func(*woven, shuffle){stress(false)}
	}
	var all []func(*woven, shuffle)
	if len(w.names) > manyToForce {
		all = append(all, func(w *woven, mix shuffle) {
			w.force(mix)
			w.spread()
			roomy := 2.8
			if len(w.names) > manyRoomy {
				roomy = 4
			}
			w.growTo(roomy, true)
			w.clear(true)
		})
		all = append(all, all[0])
	}
	many := 0
	switch n := len(w.names) + len(w.part.wires); {
	case n < 150:
		many = 64
	case n < 400:
		many = 24
	case n < 900 || len(all) == 0:
		many = 1
	}
	if many > 0 {
		terms = w.terms()
	}
	for i := range many {
		all = append(all, stress(i%2 == 1))
	}
	return all
}

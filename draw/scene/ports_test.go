package scene_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/draw/scene"
)

// outwards gives the direction across a slip's border at a place on it.
func outwards(s *scene.Slip, at scene.Point) scene.Point {
	var in scene.Point
	for i := range 72 {
		sin, cos := math.Sincos(float64(i) * math.Pi / 36)
		if s.Holds(scene.Point{X: at.X + 2*cos, Y: at.Y + 2*sin}) {
			in.X, in.Y = in.X+cos, in.Y+sin
		}
	}
	long := math.Hypot(in.X, in.Y)
	return scene.Point{X: -in.X / long, Y: -in.Y / long}
}

// tally counts how lines meet slips and run on each other.
type tally struct{ links, legs, flat, sides, bunched, uneven, common int }

func (c *tally) add(sc *scene.Scene) {
	links := cm.SortedIDs(sc.Links)
	c.links += len(links)
	for i, id := range links {
		for _, other := range links[:i] {
			if inCommon(sc.Links[id], sc.Links[other]) > 40 {
				c.common++
			}
		}
	}
	for id, s := range sc.Slips {
		var at [4][]float64 // where lines leave each side
		for _, l := range sc.Links {
			for _, leg := range l.Legs {
				if leg.Concept == id && !l.Gap.Grown(4, 4).Meets(s.Box) {
					side, along := c.leg(s, leg)
					at[side] = append(at[side], along)
				}
			}
		}
		for _, all := range at {
			slices.Sort(all)
			if len(all) < 2 {
				continue
			}
			c.sides++
			least, most := math.Inf(1), 0.0
			for i := 1; i < len(all); i++ {
				least, most = min(least, all[i]-all[i-1]), max(most, all[i]-all[i-1])
			}
			if most-least > 1 {
				c.uneven++
			}
			if least < 5 {
				c.bunched++
			}
		}
	}
}

// leg tells by which side a leg leaves, and where along it.
func (c *tally) leg(s *scene.Slip, leg scene.Leg) (side int, along float64) {
	begin, next := leg.Path.Begin(), leg.Path.At(0.02)
	dir := scene.Point{X: next.X - begin.X, Y: next.Y - begin.Y}
	if leg.Dart != nil {
		begin, dir = leg.Dart.Tip, scene.Point{X: -leg.Dart.Along.X, Y: -leg.Dart.Along.Y}
	}
	out := outwards(s, begin)
	c.legs++
	if sin := (out.X*dir.X + out.Y*dir.Y) / math.Hypot(dir.X, dir.Y); sin < math.Sin(29*math.Pi/180) {
		c.flat++
	}
	switch b := s.Box; {
	case math.Abs(begin.Y-b.Y) < 0.6:
		return 0, begin.X
	case math.Abs(begin.Y-b.Y-b.H) < 0.6:
		return 1, begin.X
	case begin.X < b.Middle().X:
		return 2, begin.Y
	}
	return 3, begin.Y
}

// inCommon gives over what length, in pixels, the lines of two links run on each other.
func inCommon(a, b *scene.Link) float64 {
	const step = 2.0
	sample := func(l *scene.Link) (all []scene.Point) {
		for _, leg := range l.Legs {
			for _, c := range leg.Path {
				n := max(1, int(math.Hypot(c.B.X-c.A.X, c.B.Y-c.A.Y)/step))
				for i := range n {
					all = append(all, c.At(float64(i)/float64(n)))
				}
			}
		}
		return all
	}
	near := map[[2]int][]scene.Point{}
	cell := func(p scene.Point) [2]int { return [2]int{int(math.Floor(p.X / 4)), int(math.Floor(p.Y / 4))} }
	for _, p := range sample(b) {
		near[cell(p)] = append(near[cell(p)], p)
	}
	long := 0.0
	for _, p := range sample(a) {
		hit := false
		for dx := -1; dx <= 1; dx++ {
			for dy := -1; dy <= 1; dy++ {
				c := cell(p)
				for _, q := range near[[2]int{c[0] + dx, c[1] + dy}] {
					hit = hit || math.Hypot(p.X-q.X, p.Y-q.Y) < 2.2
				}
			}
		}
		if hit {
			long += step
		}
	}
	return long
}

// Lines leave slips at even distances, meet them at no less than 30 degrees, and do not run on
// each other for more than 40 px: on maps that grow, and on crowded ones on which things stand
// at random, with all manners of lines and outlines, but where there is hardly room for it.
func TestLinesMeetSlipsEvenlyAndSteeply(t *testing.T) {
	grown := func(kept bool) func(*rapid.T) *cm.Map {
		return func(draw *rapid.T) *cm.Map {
			placer := layout.Placer{Measurer: scene.Measurer{}}
			out, err := edit.Apply(cm.NewMap("m", "en"), []edit.Operation{&edit.AddConcept{ID: "first", Label: "the bell"}, &edit.SetFocus{Concept: "first"}, &edit.KeepTidy{On: kept}}, placer)
			require.NoError(t, err)
			g, m := &grower{}, out.Map
			for range 24 {
				if out, err := edit.Apply(m, g.step(draw, m), placer); err == nil {
					m = out.Map
				}
			}
			return m
		}
	}
	scattered := func(line cm.Line) func(*rapid.T) *cm.Map {
		return func(draw *rapid.T) *cm.Map {
			g := &grower{}
			ops := []edit.Operation{&edit.SetLook{Line: &line}}
			var all []cm.ID
			for i := range 16 {
				id := g.id("c")
				all = append(all, id)
				outline := rapid.SampledFrom(cm.Outlines).Draw(draw, "outline")
				ops = append(ops, &edit.AddConcept{ID: id, Label: g.noun(draw), At: cm.Point{X: float64(i%4)*320 + float64(rapid.IntRange(0, 60).Draw(draw, "x")), Y: float64(i/4)*190 + float64(rapid.IntRange(0, 50).Draw(draw, "y"))}},
					&edit.SetPaint{Concepts: []cm.ID{id}, Outline: &outline})
			}
			for range 18 {
				from, to := rapid.SampledFrom(all).Draw(draw, "from"), rapid.SampledFrom(all).Draw(draw, "to")
				if from != to {
					ops = append(ops, &edit.AddLink{ID: g.id("l"), Phrase: rapid.SampledFrom(verbs).Draw(draw, "verb"), From: []cm.End{{ID: g.id("e"), Concept: from}}, To: []cm.End{{ID: g.id("e"), Concept: to}}})
				}
			}
			out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
			require.NoError(t, err)
			return out.Map
		}
	}
	for name, draw := range map[string]func(*rapid.T) *cm.Map{"kept": grown(true), "free": grown(false), "straight": scattered(cm.LineAuto), "curved": scattered(cm.LineCurved), "stepped": scattered(cm.LineStepped)} {
		t.Run(name, func(t *testing.T) {
			var c tally
			for seed := range 12 {
				c.add(build(rapid.Custom(draw).Example(seed), scene.View{}))
			}
			assert.Less(t, c.flat*30, c.legs, "%+v", c)
			assert.LessOrEqual(t, c.bunched*10, c.sides, "%+v", c)
			assert.LessOrEqual(t, c.uneven*10, c.sides, "%+v", c)
			assert.Less(t, c.common*12, c.links, "%+v", c)
		})
	}
}

package display

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/scene"
)

// VerdictMarks are the teacher's marks, as paths on a square of 24: a tick, half a tick, a cross,
// a query.
var VerdictMarks = map[cm.Verdict]string{
	cm.Holds: "M3 13L9 19L21 5", cm.HoldsInPart: "M4 12L9.5 18L14 13", cm.HoldsNot: "M5 5L19 19M19 5L5 19", cm.NotSure: "M7 8A5 5 0 1 1 14 12.6C12.4 13.4 12 14.2 12 16M12 20L12 20.5",
}

var verdictShapes = func() map[cm.Verdict]Outline {
	all := map[cm.Verdict]Outline{}
	for v, d := range VerdictMarks {
		all[v] = Traced(d)
	}
	return all
}()

// verdict is the mark on a proposition.
func verdict(k *scene.Link, v scene.VerdictAt) *Group {
	at := k.VerdictPlace(v)
	c := classes{"verdict"}
	c.on(v.Stale, "stale")
	g := &Group{Class: c.String(), At: geometry.Point{X: at.X - scene.VerdictSize/2, Y: at.Y - scene.VerdictSize/2}, Scale: scene.VerdictSize / 24, Hint: v.Says()}
	g.add(&Path{Class: "stroke", Path: verdictShapes[v.Verdict]})
	return g
}

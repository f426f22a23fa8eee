package query

import (
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/likeness"
	"mevrin/draw/scene"
	"mevrin/format/outline"
	"mevrin/workspace"
)

// Pasted shows what pasted lines would become, before they do.
type Pasted struct {
	Fault    string
	Lines    []pastedLine
	Under    string
	Long     int // lines that are rather notes
	Shorten  bool
	New, Old int    // concepts that would be made, and that are there
	Tree     string // the operations that put the lines down as an outline
	Flat     string // and as loose ideas; empty where there is no difference
	First    cm.ID
}

type pastedLine struct {
	outline.Line
	Known bool // the map has this concept
}

// belowBy is how far below everything pasted lines are put, in pixels.
const belowBy = 70

func (s Reading) Pasted(text string, under cm.ID, shorten bool) (Pasted, error) {
	var v Pasted
	lines, err := outline.Parse(text, s.Map.Concepts[under] != nil)
	if err != nil {
		return v, err
	}
	for _, l := range lines {
		if l.Long() {
			v.Long++
		}
	}
	if v.Shorten = shorten && v.Long > 0; v.Shorten {
		lines = outline.Shortened(lines)
	}
	o := outline.Options{NewID: workspace.NewThingID, Measure: scene.Measurer{}}
	if c := s.Map.Concepts[under]; c != nil {
		o.Under, v.Under = under, strings.Join(strings.Fields(s.Map.Words(c.Label)), " ")
	}
	if len(s.Map.Concepts) > 0 {
		box := s.Scene.Bounds()
		o.At = cm.Point{X: box.X, Y: box.Y + box.H + belowBy}
	}
	nested := o.Under != ""
	seen := map[string]bool{}
	for _, l := range lines {
		nested = nested || l.Depth > 0
		known := s.Map.Find(l.Label) != nil
		v.Lines = append(v.Lines, pastedLine{l, known})
		if key := likeness.Fold(l.Label); !seen[key] {
			seen[key] = true
			if known {
				v.Old++
			} else {
				v.New++
			}
		}
	}
	write := func(flat bool) (string, error) {
		o.Flat = flat
		ops := outline.Operations(lines, o)
		// What is refused is refused here, before anybody counts on it.
		if _, err := edit.Apply(s.Map, ops, nil); err != nil {
			return "", err
		}
		raw, err := edit.MarshalOperations(ops)
		return string(raw), err
	}
	if v.Flat, err = write(true); err != nil {
		return v, err
	}
	if nested {
		v.Tree, err = write(false)
	}
	return v, err
}

package query

import (
	"context"
	"encoding/json"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/display"
	"mevrin/store"
	"mevrin/workspace"
)

// ownLookView is a look of the author's own, with what puts it on.
type ownLookView struct{ Name, Steps string }

// ownLooks gives the looks that an author keeps.
func ownLooks(ctx context.Context, w *workspace.Workspace, who workspace.Person) ([]ownLookView, error) {
	var views []ownLookView
	all, err := w.Store.For(who.Scope).Kept(ctx, who.ID, store.KeptLook)
	for _, own := range all {
		var l cm.Look
		if json.Unmarshal(own.Body, &l) != nil {
			continue // of a later version
		}
		steps := written(map[string]any{"do": "set-look", "plain": true, "dress": l.Theme, "own": l.Own, "paper": l.Paper, "line": l.Line, "large": l.Large, "by": l.By})
		views = append(views, ownLookView{own.Name, steps})
	}
	return views, err
}

// Choice is one of several choices, with its name and why one would take it.
type Choice struct{ Value, Name, Why string }

var (
	Themes   = []Choice{{"", "Page", "Warm paper, the plain look"}, {"evening", "Evening", "Dark, for dim rooms"}, {"projector", "Projector", "Black on white, heavy lines"}, {"printer", "Printer", "White and quiet, little ink"}, {"young", "Bright", "Clear and bold, for young readers"}, {"board", "Board", "Chalk on a green board"}}
	papers   = []Choice{{"", "plain", ""}, {"lines", "lines", ""}, {"squares", "squares", ""}, {"dots", "dots", ""}, {"picture", "a picture", ""}}
	meanings = []Choice{{"", "their kind", ""}, {"branch", "their branch", ""}, {"level", "their level", ""}, {"tag", "their first tag", ""}}
)

// Tables gives the tables of choices whose names are messages.
func Tables() []any {
	return []any{Themes, papers, meanings, patternNames, hasWords, countNames, stepNames, sourceNames, earnNames, layoutNames, linesAre}
}

func (s Reading) describeLook(v *Margin, concepts []cm.ID) {
	v.Look, v.Themes, v.Papers, v.Meanings = s.Map.Look, Themes, papers, meanings
	v.Colours = cm.OwnColours{Paper: display.Colour(s.Map.Look, "paper"), Slip: display.Colour(s.Map.Look, "slip"), Ink: display.Colour(s.Map.Look, "ink")}
	if s.Map.Look.By == cm.ByLevel {
		v.LevelHues = s.levels()
	}
	for i, id := range concepts {
		if p := s.Map.Concepts[id].Paint; p != nil {
			v.Painted = true
			if i == 0 {
				v.Paint = *p
			}
		}
	}
}

// levels gives the colours of the levels that the map has, as far as they can be chosen.
func (s Reading) levels() []levelView {
	depth := s.Structure.Depth()
	var all []levelView
	for level := 1; level <= min(depth, cm.MaxLevelColours); level++ {
		v := levelView{Level: level, Colour: s.Map.Look.OfLevel(level)}
		for other := 1; other <= depth; other++ {
			if other != level && s.Map.Look.OfLevel(other) == v.Colour {
				v.Shared += ", " + strconv.Itoa(other)
			}
		}
		v.Shared = strings.TrimPrefix(v.Shared, ", ")
		all = append(all, v)
	}
	return all
}

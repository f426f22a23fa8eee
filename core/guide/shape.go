package guide

import (
	"cmp"
	"slices"

	cm "mevrin/core/conceptmap"
)

// Bend is how a way leads from one stop of a list to another: straight on to the one below, in
// lane 0, or around those between, in a lane of its own beside the list. Ways whose stretches of the
// list overlap have different lanes; the shorter lie further in.
type Bend struct {
	From cm.ID `json:"from"`
	To   cm.ID `json:"to"`
	Lane int   `json:"lane"`
}

// maxBends is how many ways can be drawn beside a list.
const maxBends = 1000

// Shape gives how the ways of a route run beside the list of its stops; nil for a route that simply
// goes down its list, and for one with too many ways to be drawn.
func Shape(m *cm.Map, route cm.ID) []Bend {
	stops := m.WalkedStops(route)
	if !branched(stops) {
		return nil
	}
	at := map[cm.ID]int{}
	for i, s := range stops {
		at[s.ID] = i
	}
	bends := []Bend{}
	for _, s := range stops {
		first := len(bends)
		for _, on := range Next(m, s.ID) {
			if bend := (Bend{From: s.ID, To: on.To}); !slices.Contains(bends[first:], bend) {
				bends = append(bends, bend)
			}
		}
	}
	if len(bends) > maxBends {
		return nil
	}
	span := func(b Bend) (from, to int) { return min(at[b.From], at[b.To]), max(at[b.From], at[b.To]) }
	length := func(b Bend) int { from, to := span(b); return to - from }
	byLength := make([]*Bend, len(bends))
	for i := range bends {
		byLength[i] = &bends[i]
	}
	slices.SortStableFunc(byLength, func(a, b *Bend) int { return cmp.Compare(length(*a), length(*b)) })
	taken := [][][2]int{}
	for _, b := range byLength {
		if at[b.To] == at[b.From]+1 {
			continue
		}
		from, to := span(*b)
		for b.Lane = 1; ; b.Lane++ {
			if len(taken) < b.Lane {
				taken = append(taken, nil)
			}
			if !slices.ContainsFunc(taken[b.Lane-1], func(o [2]int) bool { return from <= o[1] && o[0] <= to }) {
				taken[b.Lane-1] = append(taken[b.Lane-1], [2]int{from, to})
				break
			}
		}
	}
	return bends
}

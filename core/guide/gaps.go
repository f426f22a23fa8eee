package guide

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
	"mevrin/core/structure"
)

// Gap is a jump on a route: what a stop shows is linked with nothing that was shown by then.
type Gap struct {
	Stop, Before cm.ID
	// Over are the concepts on the shortest way by links from what was shown to what the stop
	// shows, Links those links; none where no way is short enough.
	Over, Links []cm.ID
}

// longestBridge is how many concepts a gap is bridged over at most.
const longestBridge = 4

// Gaps finds the jumps on a route, with what would bridge them.
func Gaps(m *cm.Map, s *structure.Structure, route cm.ID) (all []Gap) {
	type step struct {
		to, link cm.ID
	}
	var near map[cm.ID][]step
	shown := map[cm.ID]bool{}
	before := cm.ID("")
	stops := m.WalkedStops(route)
	var ways map[cm.ID][]cm.ID
	if branched(stops) {
		ways = WaysTo(m, route)
	}
	reads := reader{m, s}
	for _, stop := range stops {
		if way := ways[stop.ID]; len(way) > 1 { // what was shown depends on how one came there
			clear(shown)
			for _, id := range way[:len(way)-1] {
				for _, c := range reads.of(m.Stops[id]) {
					shown[c] = true
				}
				before = id
			}
		}
		if near == nil {
			near = map[cm.ID][]step{}
			for _, p := range s.Propositions() {
				near[p.Subject] = append(near[p.Subject], step{p.Object, p.Strand.Link})
				near[p.Object] = append(near[p.Object], step{p.Subject, p.Strand.Link})
			}
		}
		here := reads.of(stop)
		joined := len(here) == 0 || len(shown) == 0
		for _, id := range here {
			joined = joined || shown[id]
			for _, o := range near[id] {
				joined = joined || shown[o.to]
			}
		}
		if !joined {
			gap := Gap{Stop: stop.ID, Before: before}
			by := map[cm.ID]step{} // from where, and by which link, each concept was come to
			open := slices.Clone(here)
			for _, id := range here {
				by[id] = step{}
			}
			found := cm.ID("")
			for far := 0; far <= longestBridge && found == ""; far++ {
				var next []cm.ID
				for _, id := range open {
					for _, o := range near[id] {
						if _, met := by[o.to]; met {
							continue
						}
						by[o.to] = step{id, o.link}
						if next = append(next, o.to); shown[o.to] && found == "" {
							found = o.to
						}
					}
				}
				open = next
			}
			for at := found; at != "" && by[at].link != ""; at = by[at].to {
				gap.Links = append(gap.Links, by[at].link)
				if !slices.Contains(here, by[at].to) {
					gap.Over = append(gap.Over, by[at].to)
				}
			}
			all = append(all, gap)
		}
		for _, id := range here {
			shown[id] = true
		}
		before = stop.ID
	}
	return all
}

// of gives the concepts that a stop shows, those of its links among them.
func (r *reader) of(stop *cm.Stop) (all []cm.ID) {
	for _, ref := range stop.Refs {
		_, concepts := r.concepts(ref, stop.Branches)
		for _, id := range concepts {
			if !slices.Contains(all, id) {
				all = append(all, id)
			}
		}
	}
	return all
}

// Sorting is an order in which some concepts become a route.
type Sorting string

// Sortings are those that one can choose from.
var Sortings = []struct {
	ID    Sorting
	Title string
}{
	{"hierarchy", "as the map is read"}, {"time", "by time"}, {"number", "by the number in their words"}, {"alphabet", "by alphabet"}, {"place", "as they stand on the paper"},
}

// Sorted puts concepts into an order; what has no time or number comes last, as the map is read.
// Those on the paper are read in rows from the upper left.
func Sorted(m *cm.Map, s *structure.Structure, concepts []cm.ID, by Sorting) []cm.ID {
	at := map[cm.ID]int{}
	for i, id := range s.Order {
		at[id] = i
	}
	all := slices.DeleteFunc(slices.Clone(concepts), func(id cm.ID) bool { return m.Concepts[id] == nil })
	slices.SortStableFunc(all, func(a, b cm.ID) int { return cmp.Compare(at[a], at[b]) })
	words := func(id cm.ID) string { return likeness.Fold(m.Words(m.Concepts[id].Label)) }
	slices.SortStableFunc(all, func(a, b cm.ID) int {
		x, y := m.Concepts[a], m.Concepts[b]
		switch by {
		case "time":
			p, _, has := x.Span()
			q, _, too := y.Span()
			if has != too {
				return map[bool]int{true: -1, false: 1}[has]
			}
			return cmp.Compare(p, q)
		case "number":
			n, has := number(words(a))
			o, too := number(words(b))
			switch {
			case has && too:
				return cmp.Compare(n, o)
			case has != too:
				return map[bool]int{true: -1, false: 1}[has]
			}
		case "alphabet":
			return strings.Compare(words(a), words(b))
		case "place":
			const row = 60 // what stands less than this lower is in the same row
			if p, q := int(x.At.Y/row), int(y.At.Y/row); p != q {
				return cmp.Compare(p, q)
			}
			return cmp.Compare(x.At.X, y.At.X)
		}
		return 0
	})
	return all
}

// number gives the first number in words.
func number(words string) (float64, bool) {
	start := strings.IndexFunc(words, unicode.IsDigit)
	if start < 0 {
		return 0, false
	}
	end := start
	for end < len(words) && (words[end] >= '0' && words[end] <= '9' || words[end] == '.' && end+1 < len(words) && words[end+1] >= '0' && words[end+1] <= '9') {
		end++
	}
	n, err := strconv.ParseFloat(words[start:end], 64)
	return n, err == nil
}

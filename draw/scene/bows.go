package scene

import (
	"maps"
	"slices"

	cm "mevrin/core/conceptmap"
)

// pairOf gives the two concepts that a link joins, the lesser first; ok is false where it joins others.
func pairOf(l *cm.Link) (pair [2]cm.ID, ok bool) {
	if len(l.From) != 1 || len(l.To) != 1 {
		return pair, false
	}
	pair = [2]cm.ID{l.From[0].Concept, l.To[0].Concept}
	if pair[0] > pair[1] {
		pair[0], pair[1] = pair[1], pair[0]
	}
	return pair, true
}

// bowedAfter gives the bows of all links, from those of the scene before where few came, went or were moved.
func bowedAfter(m *cm.Map, prev *Scene) map[cm.ID]float64 {
	if prev.bows == nil || prev.view.Tucked != "" {
		return bowed(m, nil)
	}
	touched := map[[2]cm.ID]bool{}
	touch := func(l *cm.Link) {
		if pair, ok := pairOf(l); ok {
			touched[pair] = true
		}
	}
	for id, l := range m.Links {
		switch was := prev.alone[id]; {
		case was == nil:
			touch(l)
		case was.source != l && (!slices.Equal(was.source.From, l.From) || !slices.Equal(was.source.To, l.To)):
			touch(l)
			touch(was.source)
		}
	}
	for id, was := range prev.alone {
		if m.Links[id] == nil {
			touch(was.source)
		}
	}
	bows := maps.Clone(prev.bows)
	for id := range bows {
		l := m.Links[id]
		if l == nil {
			delete(bows, id)
		} else if pair, ok := pairOf(l); !ok || touched[pair] {
			delete(bows, id)
		}
	}
	maps.Copy(bows, bowed(m, touched))
	return bows
}

// bowed gives each of several links between the same two concepts a bow of
// its own, in pixels to the left of the way from the lesser id to the greater;
// where only is given, of those pairs alone.
func bowed(m *cm.Map, only map[[2]cm.ID]bool) map[cm.ID]float64 {
	pairs := map[[2]cm.ID][]cm.ID{}
	for id, l := range m.Links {
		if pair, ok := pairOf(l); ok && (only == nil || only[pair]) {
			pairs[pair] = append(pairs[pair], id)
		}
	}
	bows := map[cm.ID]float64{}
	for _, ids := range pairs {
		if len(ids) < 2 {
			continue
		}
		slices.Sort(ids)
		for i, id := range ids {
			bows[id] = (float64(i) - float64(len(ids)-1)/2) * 52
		}
	}
	return bows
}

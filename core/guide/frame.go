package guide

import (
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
)

// Frame is what a room sees of the map.
type Frame struct {
	Stands  map[cm.ID]bool // concepts and links on the paper
	Fresh   []cm.Key       // those that came last
	Means   []cm.Key       // those that are spoken of
	Faded   map[cm.ID]bool // concepts and links
	Number  int            // of the stop, from 1; 0 before the first
	Whole   bool           // all that stands is looked at
	Close   bool           // what is spoken of is looked at from near
	Concept cm.ID          // that is looked at beside the route; empty on it
}

// Frame gives what the room sees.
func (l Lead) Frame(m *cm.Map, s *structure.Structure, route cm.ID) Frame {
	f := Frame{Stands: map[cm.ID]bool{}, Faded: map[cm.ID]bool{}}
	steps := GrowthAlong(m, l.Way)
	stops := m.WalkedStops(route)
	at := len(steps) - 1
	if m.Concepts[m.Focus] != nil {
		f.Stands[m.Focus] = true
	}
	if at < 0 && f.Stands[m.Focus] {
		f.Means = []cm.Key{{Kind: cm.EntityConcept, ID: m.Focus}}
	}
	for i := range at + 1 {
		parts := steps[i].Parts(m)
		if i == at {
			parts = parts[:min(max(l.Part, 1), len(parts))]
			f.Number = 1 + slices.IndexFunc(stops, func(s *cm.Stop) bool { return s.ID == l.Stop })
			f.Means = steps[i].Shows
			if s := m.Stops[l.Stop]; s != nil && len(l.Aside) == 0 {
				f.Whole = steps[i].Whole || s.Distance == cm.DistanceAll
				f.Close = s.Distance == cm.DistanceClose
			}
			if len(parts) > 0 {
				f.Fresh = parts[len(parts)-1]
			}
		}
		for _, part := range parts {
			for _, key := range part {
				f.Stands[key.ID] = true
			}
		}
	}
	for i, id := range l.Aside {
		if m.Concepts[id] == nil {
			continue
		}
		var fresh []cm.Key
		near := s.Near(id, 1)
		for _, other := range s.Order {
			if _, is := near[other]; is || other == id {
				if !f.Stands[other] {
					fresh = append(fresh, cm.Key{Kind: cm.EntityConcept, ID: other})
				}
				f.Stands[other] = true
			}
		}
		f.Stands[id] = true
		if i == len(l.Aside)-1 {
			f.Concept, f.Fresh, f.Means = id, fresh, []cm.Key{{Kind: cm.EntityConcept, ID: id}}
		}
	}
	l.fold(m, s, f)
	if f.Concept != "" || len(l.Tucked) > 0 {
		for _, id := range cm.SortedIDs(m.Links) {
			stands := allShown(m.Links[id], f.Stands)
			if f.Concept != "" && stands && !f.Stands[id] {
				f.Stands[id] = true
				if slices.ContainsFunc(m.Links[id].Ends(), func(e cm.End) bool { return e.Concept == f.Concept }) {
					f.Fresh = append(f.Fresh, cm.Key{Kind: cm.EntityLink, ID: id})
				}
			} else if !stands {
				delete(f.Stands, id)
			}
		}
	}
	if f.Concept == "" && at >= 0 {
		if keeps := Keeps(m, steps[at]); keeps != nil {
			for id := range f.Stands {
				f.Faded[id] = !keeps[id]
			}
		}
	}
	f.Close = f.Close || l.Closer
	l.fade(m, f)
	away := func(k cm.Key) bool { return !f.Stands[k.ID] }
	f.Means, f.Fresh = slices.DeleteFunc(slices.Clone(f.Means), away), slices.DeleteFunc(slices.Clone(f.Fresh), away)
	return f
}

// fold takes what lies in tucked branches off the paper, but what is looked at.
func (l Lead) fold(m *cm.Map, s *structure.Structure, f Frame) {
	for top := range l.Tucked {
		inside := map[cm.ID]bool{top: true}
		for _, id := range s.Order {
			if inside[s.Places[id].Parent] && id != top && id != f.Concept {
				inside[id] = true
				delete(f.Stands, id)
			}
		}
	}
}

// fade finds what is not of the kind or tag that alone is to be seen.
func (l Lead) fade(m *cm.Map, f Frame) {
	if m.Kinds[l.Only] == nil && m.Tags[l.Only] == nil {
		return
	}
	for id := range f.Stands {
		if c := m.Concepts[id]; c != nil {
			k := m.KindOf(c)
			f.Faded[id] = f.Faded[id] || !c.Tags[l.Only] && (k == nil || k.ID != l.Only)
		}
	}
	for id := range f.Stands {
		if k := m.Links[id]; k != nil {
			of := m.KindOfLink(k)
			f.Faded[id] = f.Faded[id] || (of == nil || of.ID != l.Only) && slices.ContainsFunc(k.Ends(), func(e cm.End) bool { return f.Faded[e.Concept] })
		}
	}
}

package scene

import (
	"maps"
	"slices"

	cm "mevrin/core/conceptmap"
)

// port gives each line of the scene its ports, and takes over from the scene before what is
// drawn the same. Alone are the links that are drawn anew by themselves.
func (sc *Scene) port(d *detours, prev *Scene, alone []linkChange) {
	changed := alone
	if len(sc.Slips) <= manySlips || len(prev.Slips) <= manySlips { // links made way for each other
		changed = changesOf(prev.straight, sc.straight)
	}
	same := map[*Link]*Link{} // what is led as before, though drawn anew
	for _, c := range changed {
		if c.is != nil && c.was != nil && c.was.ledAs(c.is) {
			same[c.was] = c.is
		}
	}
	anew, fresh := sc.portsConcerned(d, prev, changed, same)
	o := &obstacles{sc: sc, many: len(anew) > fewPorts}
	moved := map[*Link][]begin{}
	for id := range anew {
		p := sc.legsAt(id, fresh[id], prev.ports[id], same)
		if p == nil {
			continue
		}
		p.place(o)
		sc.ports[id] = p
		for _, q := range p.all {
			if moved[q.link] == nil {
				moved[q.link] = q.link.begins(prev, same)
			}
			moved[q.link][q.leg] = q.at
		}
	}
	sc.drawPorted(prev, changed, same, moved)
}

// drawPorted draws the links with their ports, those that changed and those whose ports did.
func (sc *Scene) drawPorted(prev *Scene, changed []linkChange, same map[*Link]*Link, moved map[*Link][]begin) {
	sc.Links = maps.Clone(prev.Links)
	if sc.Links == nil {
		sc.Links = make(map[cm.ID]*Link, len(sc.straight))
	}
	for _, c := range changed {
		switch {
		case c.is == nil:
			delete(sc.Links, c.id)
			sc.changed.goneLinks = append(sc.changed.goneLinks, c.id)
		case moved[c.is] == nil && same[c.was] == c.is:
			moved[c.is] = prev.Links[c.id].at
		case moved[c.is] == nil:
			moved[c.is] = nil
		}
	}
	for link, at := range moved {
		was := prev.Links[link.ID]
		if was == nil || prev.straight[link.ID] != link || at != nil && !slices.Equal(was.at, at) {
			sc.Links[link.ID] = link.ported(at)
			sc.changed.links = append(sc.changed.links, link.ID)
		}
	}
	slices.Sort(sc.changed.links)
	slices.Sort(sc.changed.goneLinks)
}

func changesOf(before, now map[cm.ID]*Link) (all []linkChange) {
	for id, is := range now {
		if was := before[id]; was != is {
			all = append(all, linkChange{id, was, is})
		}
	}
	for id, was := range before {
		if now[id] == nil {
			all = append(all, linkChange{id: id, was: was})
		}
	}
	return all
}

// ledAs tells whether another drawing of the link is led the same, in all that ports depend on.
func (k *Link) ledAs(o *Link) bool {
	return k.Gap == o.Gap && k.manner == o.manner && slices.EqualFunc(k.ends, o.ends, func(a, b end) bool { return a.End == b.End && a.Slip.ID == b.Slip.ID }) &&
		slices.EqualFunc(k.Legs, o.Legs, func(a, b Leg) bool { return a.Veiled == b.Veiled && slices.Equal(a.whole, b.whole) })
}

// standsAs tells whether another drawing of a slip has the same border.
func (s *Slip) standsAs(o *Slip) bool {
	return s == o || s.Box == o.Box && s.Outline == o.Outline && len(s.Hides) == len(o.Hides)
}

// portsConcerned gives the slips whose ports are sought anew: a leg came or went there, or is
// led otherwise, or something stands where one runs; and the legs that are new, by their slips.
// The ports of others are taken over.
func (sc *Scene) portsConcerned(d *detours, prev *Scene, links []linkChange, same map[*Link]*Link) (anew map[cm.ID]bool, fresh map[cm.ID][]port) {
	anew, fresh = map[cm.ID]bool{}, map[cm.ID][]port{}
	changed := slices.Clone(d.touched)
	note := func(k *Link, is bool) {
		changed = append(changed, rectOf(k.Gap).Grown(phraseClear))
		for i := range k.Legs {
			if slip := k.portSlip(i); slip != nil {
				anew[slip.ID] = true
				if is {
					fresh[slip.ID] = append(fresh[slip.ID], port{link: k, leg: i})
				}
			}
		}
	}
	redrawn := map[cm.ID]bool{} // slips at which links are led as before, though drawn anew
	for _, c := range links {
		if c.was != nil && c.is != nil && same[c.was] == c.is {
			for _, e := range c.is.ends {
				redrawn[e.Slip.ID] = true
			}
			continue
		}
		if c.was != nil {
			note(c.was, false)
		}
		if c.is != nil {
			note(c.is, true)
		}
	}
	sc.ports = make(map[cm.ID]*ports, len(sc.Slips))
	for id, was := range prev.ports {
		switch slip := sc.Slips[id]; {
		case slip == nil || anew[id]:
		case d.all || !was.slip.standsAs(slip) || was.depend(changed):
			anew[id] = true
		case was.slip != slip || redrawn[id]:
			sc.ports[id] = was.with(slip, same)
		default:
			sc.ports[id] = was
		}
	}
	return anew, fresh
}

// with gives the ports as they are, of a slip and links that are drawn anew.
func (p *ports) with(slip *Slip, same map[*Link]*Link) *ports {
	next := &ports{slip: slip, all: slices.Clone(p.all), reach: p.reach}
	for i := range next.all {
		if is := same[next.all[i].link]; is != nil {
			next.all[i].link = is
		}
	}
	return next
}

// begins gives where the legs of a link began in the scene before, or where they begin by
// themselves.
func (k *Link) begins(prev *Scene, same map[*Link]*Link) []begin {
	if was := prev.Links[k.ID]; was != nil && was.at != nil && (prev.straight[k.ID] == k || same[prev.straight[k.ID]] == k) {
		return slices.Clone(was.at)
	}
	at := make([]begin, len(k.Legs))
	for i := range k.Legs {
		at[i].At = k.Legs[i].whole.Begin()
	}
	return at
}

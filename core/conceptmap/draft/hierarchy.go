package draft

import (
	cm "mevrin/core/conceptmap"
)

// Join gives a strand to a concept that has no main strand yet, as the strand
// that first joined it: the concept at the arrow's end comes under the one at
// its start; where it already has a parent, is the focus, or would come under
// itself, the concept at the start comes under the one at the end, against the
// arrow; otherwise the strand is a further link.
func (d *Draft) Join(s cm.Strand) {
	from, to, ok := d.Map.Between(s)
	if !ok || from == to {
		return
	}
	if !d.hang(to, from, s) {
		d.hang(from, to, s)
	}
}

// hang puts a root under a parent by a strand, as its last child.
func (d *Draft) hang(child, parent cm.ID, s cm.Strand) bool {
	c := d.Map.Concepts[child]
	if c == nil || c.Main != nil || child == d.Map.Focus || d.Under(parent, child) {
		return false
	}
	d.SetMain(child, parent, s)
	return true
}

// SetMain writes a main strand and a rank behind all present siblings.
func (d *Draft) SetMain(child, parent cm.ID, s cm.Strand) {
	last := ""
	for _, c := range d.Map.Concepts {
		if c.ID != child && c.Rank() > last && d.Map.Parent(c) == parent {
			last = c.Rank()
		}
	}
	next := *d.Map.Concepts[child]
	next.Main = &cm.Main{Strand: s, Rank: cm.KeyBetween(last, "")}
	d.Put(&next)
}

func (d *Draft) clearMain(id cm.ID) {
	next := *d.Map.Concepts[id]
	next.Main = nil
	d.Put(&next)
}

// Under tells whether a concept is the other one or below it.
func (d *Draft) Under(id, top cm.ID) bool {
	for steps := 0; id != "" && steps <= len(d.Map.Concepts); steps++ {
		if id == top {
			return true
		}
		id = d.Map.Parent(d.Map.Concepts[id])
	}
	return false
}

// Settle mends the hierarchy after a change: a main strand that does not hold
// any more, that belongs to the focus concept, or that closes a circle is
// given up, and its concept takes the best of its other strands: one to a
// parent below the focus concept before others, along its arrow before against
// it, then by ids. A concept that was a root before stays one.
func (d *Draft) MendHierarchy() {
	if !d.shaken() {
		return
	}
	var fallen []cm.ID
	state := make(map[cm.ID]int, len(d.Map.Concepts)) // 0 unseen, 1 on the present way up, 2 known to be sound
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		var way []cm.ID
		at := id
		for at != "" && state[at] == 0 {
			state[at] = 1
			way = append(way, at)
			c := d.Map.Concepts[at]
			if c.Main == nil {
				break
			}
			up := d.Map.Parent(c)
			if up == "" || at == d.Map.Focus || state[up] == 1 {
				d.clearMain(at)
				if at != d.Map.Focus {
					fallen = append(fallen, at)
				}
				break
			}
			at = up
		}
		for _, seen := range way {
			state[seen] = 2
		}
	}
	if len(fallen) == 0 {
		return
	}
	links := cm.SortedIDs(d.Map.Links)
	for _, below := range [2]bool{true, false} {
		for _, against := range [2]bool{false, true} {
			for _, id := range fallen {
				if d.Map.Concepts[id].Main == nil {
					d.rehang(id, links, below, against)
				}
			}
		}
	}
}

// shaken tells whether anything that the hierarchy rests on was touched. Most
// edits only rename or move, and should not pay for looking at the whole map.
func (d *Draft) shaken() bool {
	for key := range d.Touched {
		switch key.Kind {
		case cm.EntityLink:
			return true
		case cm.EntityMap:
			if d.Map.Focus != d.Base.Focus {
				return true
			}
		case cm.EntityConcept:
			is, was := d.Map.Concepts[key.ID], d.Base.Concepts[key.ID]
			if is == nil || was == nil || is.Main != was.Main {
				return true
			}
		}
	}
	return false
}

// rehang gives a concept the first strand, by ids, that leads to a parent
// which is not below the concept itself; only along its arrow or only against
// it, and if asked only to one that stands below the focus concept.
func (d *Draft) rehang(id cm.ID, links []cm.ID, below, against bool) {
	for _, lid := range links {
		l := d.Map.Links[lid]
		own := l.To
		if against {
			own = l.From
		}
		if !cm.HasConcept(own, id) {
			continue
		}
		for _, s := range l.Strands() {
			parent, child, _ := d.Map.Between(s)
			if against {
				parent, child = child, parent
			}
			if child == id && parent != id && !d.Under(parent, id) && (!below || d.Under(parent, d.Map.Focus)) {
				d.SetMain(id, parent, s)
				return
			}
		}
	}
}

// TurnTowards makes a concept the top of the tree it stands in: each main
// strand on its way up is taken over by the concept above.
func (d *Draft) TurnTowards(id cm.ID) {
	var child cm.ID
	var strand *cm.Main
	for at := id; at != ""; {
		c := d.Map.Concepts[at]
		up, was := d.Map.Parent(c), c.Main
		if child == "" {
			if c.Main != nil {
				d.clearMain(at)
			}
		} else {
			next := *c
			next.Main = nil
			d.Put(&next)
			d.SetMain(at, child, strand.Strand)
		}
		child, strand, at = at, was, up
	}
}

package conceptmap

// The hierarchy is a forest: each concept has at most one main strand, which
// leads to its parent, and no concept is above itself. The functions here keep
// that so while operations and undo alter the map.

// join gives a strand to a concept that has no main strand yet, as the strand
// that first joined it: the concept at the arrow's end comes under the one at
// its start; where it already has a parent, is the focus, or would come under
// itself, the concept at the start comes under the one at the end, against the
// arrow; otherwise the strand is a further link.
func (d *draft) join(s Strand) {
	from, to, ok := d.m.Between(s)
	if !ok || from == to {
		return
	}
	if !d.hang(to, from, s) {
		d.hang(from, to, s)
	}
}

// hang puts a root under a parent by a strand, as its last child.
func (d *draft) hang(child, parent ID, s Strand) bool {
	c := d.m.Concepts[child]
	if c == nil || c.Main != nil || child == d.m.Focus || d.under(parent, child) {
		return false
	}
	d.setMain(child, parent, s)
	return true
}

// setMain writes a main strand and a rank behind all present siblings.
func (d *draft) setMain(child, parent ID, s Strand) {
	last := ""
	for _, c := range d.m.Concepts {
		if c.ID != child && c.Rank() > last && d.m.Parent(c) == parent {
			last = c.Rank()
		}
	}
	next := *d.m.Concepts[child]
	next.Main = &Main{s, KeyBetween(last, "")}
	d.putConcept(&next)
}

func (d *draft) clearMain(id ID) {
	next := *d.m.Concepts[id]
	next.Main = nil
	d.putConcept(&next)
}

// under tells whether a concept is the other one or below it.
func (d *draft) under(id, top ID) bool {
	for steps := 0; id != "" && steps <= len(d.m.Concepts); steps++ {
		if id == top {
			return true
		}
		id = d.m.Parent(d.m.Concepts[id])
	}
	return false
}

// settle mends the hierarchy after a change: a main strand that does not hold
// any more, that belongs to the focus concept, or that closes a circle is
// given up, and its concept takes the best of its other strands: one to a
// parent below the focus concept before others, along its arrow before against
// it, then by ids. A concept that was a root before stays one.
func (d *draft) settle() {
	if !d.shaken() {
		return
	}
	var fallen []ID
	state := make(map[ID]int, len(d.m.Concepts)) // 0 unseen, 1 on the present way up, 2 known to be sound
	for _, id := range SortedIDs(d.m.Concepts) {
		var way []ID
		at := id
		for at != "" && state[at] == 0 {
			state[at] = 1
			way = append(way, at)
			c := d.m.Concepts[at]
			if c.Main == nil {
				break
			}
			up := d.m.Parent(c)
			if up == "" || at == d.m.Focus || state[up] == 1 {
				d.clearMain(at)
				if at != d.m.Focus {
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
	links := SortedIDs(d.m.Links)
	for _, below := range [2]bool{true, false} {
		for _, against := range [2]bool{false, true} {
			for _, id := range fallen {
				if d.m.Concepts[id].Main == nil {
					d.rehang(id, links, below, against)
				}
			}
		}
	}
}

// shaken tells whether anything that the hierarchy rests on was touched. Most
// edits only rename or move, and should not pay for looking at the whole map.
func (d *draft) shaken() bool {
	for key := range d.touched {
		switch key.Kind {
		case EntityLink:
			return true
		case EntityMap:
			if d.m.Focus != d.base.Focus {
				return true
			}
		case EntityConcept:
			is, was := d.m.Concepts[key.ID], d.base.Concepts[key.ID]
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
func (d *draft) rehang(id ID, links []ID, below, against bool) {
	for _, lid := range links {
		l := d.m.Links[lid]
		own := l.To
		if against {
			own = l.From
		}
		if !hasConcept(own, id) {
			continue
		}
		for _, s := range l.Strands() {
			parent, child, _ := d.m.Between(s)
			if against {
				parent, child = child, parent
			}
			if child == id && parent != id && !d.under(parent, id) && (!below || d.under(parent, d.m.Focus)) {
				d.setMain(id, parent, s)
				return
			}
		}
	}
}

// turnTowards makes a concept the top of the tree it stands in: each main
// strand on its way up is taken over by the concept above.
func (d *draft) turnTowards(id ID) {
	var child ID
	var strand *Main
	for at := id; at != ""; {
		c := d.m.Concepts[at]
		up, was := d.m.Parent(c), c.Main
		if child == "" {
			if c.Main != nil {
				d.clearMain(at)
			}
		} else {
			next := *c
			next.Main = nil
			d.putConcept(&next)
			d.setMain(at, child, strand.Strand)
		}
		child, strand, at = at, was, up
	}
}

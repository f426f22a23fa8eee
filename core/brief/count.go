package brief

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/language"
	"mevrin/core/likeness"
	"mevrin/core/message"
	"mevrin/core/structure"
)

// Result is how far a map meets one line.
type Result struct {
	Line  Line
	Count int
	Met   bool
	// Points are those of the line where it is met, else 0.
	Points int
	// Meets are the things that were counted, in reading order.
	Meets []cm.Key
	// Missing says what is lacking, in plain words; Lacks are the concepts below which it is.
	Missing []message.Message
	Absent  []cm.Must // of what must be there
	Lacks   []cm.ID
}

// Check counts all lines of a brief on a map.
func (b *Brief) Check(m *cm.Map, s *structure.Structure) []Result {
	c := &counting{m: m, s: s, near: map[cm.ID][]structure.Proposition{}}
	results := make([]Result, len(b.Lines))
	for i, l := range b.Lines {
		results[i] = c.line(l)
	}
	return results
}

// counting is a map of which things are counted.
type counting struct {
	m      *cm.Map
	s      *structure.Structure
	near   map[cm.ID][]structure.Proposition
	judged map[cm.Proposed][]*cm.Judgement
	names  map[string][]cm.ID // concepts by what they are called
}

func (c *counting) line(l Line) Result {
	r := Result{Line: l}
	least, most := l.Bounds()
	fits := func(n int) bool { return n >= least && (most < 0 || n <= most) }
	switch {
	case l.Of == cm.CountRequired:
		r.Count, r.Meets, r.Absent = c.required(l)
		for _, m := range r.Absent {
			if m.Phrase == "" {
				r.Missing = append(r.Missing, message.Of("“%s”", m.Concept))
			} else {
				r.Missing = append(r.Missing, message.Of("“%s %s %s”", m.Concept, m.Phrase, m.To))
			}
		}
		r.Met = fits(r.Count)
	case l.Where != nil && l.Where.Under != "":
		tops := c.ofKind(l.Where.Under)
		r.Met = len(tops) > 0
		if len(tops) == 0 {
			r.Missing = append(r.Missing, message.Of("no concept is of the kind “%s”", l.Where.Under))
		}
		for _, top := range tops {
			met := c.count(l, c.below(top))
			r.Count, r.Meets = r.Count+len(met), append(r.Meets, met...)
			if !fits(len(met)) {
				r.Met, r.Lacks = false, append(r.Lacks, top)
				r.Missing = append(r.Missing, belowIt(c.m.Words(c.m.Concepts[top].Label), len(met), least, most))
			}
		}
	default:
		within := map[cm.ID]bool(nil) // the whole map
		if l.Where != nil {
			top, found := c.named(l.Where.Branch)
			if !found {
				r.Missing = append(r.Missing, message.Of("there is no concept “%s”", l.Where.Branch))
				return r
			}
			within = c.below(top)
		}
		if l.Of == cm.CountLevels {
			r.Count = c.levels(within)
		} else {
			r.Meets = c.count(l, within)
			r.Count = len(r.Meets)
		}
		if r.Met = fits(r.Count); !r.Met {
			r.Missing = append(r.Missing, distance(r.Count, least, most))
		}
	}
	if r.Met {
		r.Points = l.Points
	}
	return r
}

// distance says how far a count is from its bounds.
func distance(n, least, most int) message.Message {
	if n < least {
		return message.Of("%d more", least-n)
	}
	return message.Of("%d too many", n-most)
}

// belowIt says how far the count below a concept is from its bounds.
func belowIt(label string, n, least, most int) message.Message {
	if n < least {
		return message.Of("“%s”: %d more", label, least-n)
	}
	return message.Of("“%s”: %d too many", label, n-most)
}

// levels gives how many levels stand below each other in a part of the map.
func (c *counting) levels(within map[cm.ID]bool) int {
	seen := map[int]bool{}
	for id, p := range c.s.Places {
		if p.Level > 0 && (within == nil || within[id]) {
			seen[p.Level] = true
		}
	}
	return len(seen)
}

// below gives a concept with all that hangs from it.
func (c *counting) below(top cm.ID) map[cm.ID]bool {
	all := map[cm.ID]bool{top: true}
	open := []cm.ID{top}
	for len(open) > 0 {
		at := open[0]
		open = open[1:]
		for _, child := range c.s.Places[at].Children {
			if !all[child] {
				all[child] = true
				open = append(open, child)
			}
		}
	}
	return all
}

// named finds a concept by its label.
func (c *counting) named(label string) (cm.ID, bool) {
	if all := c.called(label); len(all) > 0 {
		return all[0], true
	}
	return "", false
}

// called gives the concepts that a label names, in reading order.
func (c *counting) called(label string) []cm.ID {
	if c.names == nil {
		c.names = map[string][]cm.ID{}
		for _, id := range c.s.Order {
			name := likeness.Stem(c.m.Words(c.m.Concepts[id].Label), string(c.m.Language))
			c.names[name] = append(c.names[name], id)
		}
	}
	return c.names[likeness.Stem(label, string(c.m.Language))]
}

// ofKind gives the concepts of a kind, by its name or by what it is known as (“lesson.aim”).
func (c *counting) ofKind(name string) (ids []cm.ID) {
	for _, id := range c.s.Order {
		if k := c.m.KindOf(c.m.Concepts[id]); k != nil && (likeness.Fold(c.m.Words(k.Name)) == likeness.Fold(name) || string(k.Role) == name) {
			ids = append(ids, id)
		}
	}
	return ids
}

// count gives what a line counts within some concepts; nil is the whole map.
func (c *counting) count(l Line, within map[cm.ID]bool) (keys []cm.Key) {
	in := func(ids ...cm.ID) bool {
		return within == nil || !slices.ContainsFunc(ids, func(id cm.ID) bool { return !within[id] })
	}
	concept := func(id cm.ID) cm.Key { return cm.Key{Kind: cm.EntityConcept, ID: id} }
	switch l.Of {
	case cm.CountConcepts, cm.CountNotes, cm.CountPictures, cm.CountExamples:
		for _, id := range c.s.Order {
			if in(id) && c.fits(l, id) && c.carries(l, c.m.Concepts[id]) {
				keys = append(keys, concept(id))
			}
		}
	case cm.CountSources:
		for _, id := range c.s.Order {
			if !in(id) || !c.fits(l, id) {
				continue
			}
			for _, src := range c.m.Concepts[id].Sources {
				if l.Source == "" || string(src.Kind()) == l.Source {
					keys = append(keys, concept(id)) // once for each source
				}
			}
		}
	case cm.CountLinks, cm.CountCrossLinks:
		cross := map[cm.ID]bool{}
		for _, id := range c.s.CrossLinks() {
			cross[id] = true
		}
		for _, id := range cm.SortedIDs(c.m.Links) {
			link := c.m.Links[id]
			var ends []cm.ID
			for _, e := range link.Ends() {
				ends = append(ends, e.Concept)
			}
			k := c.m.KindOfLink(link)
			if in(ends...) && (l.Of == cm.CountLinks || cross[id]) && (l.Kind == "" || k != nil && likeness.Fold(c.m.Words(k.Name)) == likeness.Fold(l.Kind)) && hold(l.Words, c.m.Words(link.Phrase)) {
				keys = append(keys, cm.Key{Kind: cm.EntityLink, ID: id})
			}
		}
	case cm.CountPropositions, cm.CountHeld:
		if c.judged == nil {
			c.judged = c.m.Judged()
		}
		for _, p := range c.s.Propositions() {
			if p.Open || !in(p.Subject, p.Object) || !hold(l.Words, c.m.Words(c.m.Links[p.Strand.Link].Phrase)) {
				continue
			}
			if l.Of == cm.CountHeld {
				j := cm.Shown(c.judged[cm.Proposed{Strand: p.Strand, Against: p.Against}])
				if j == nil || j.Verdict != cm.Holds || j.Stale(c.m) {
					continue
				}
			}
			keys = append(keys, cm.Key{Kind: cm.EntityLink, ID: p.Strand.Link})
		}
	case cm.CountBranches:
		tops, _, depth := c.s.Branches()
		for _, id := range tops {
			if c.s.Places[id].Level == 2 && in(id) && (l.Level == 0 || depth[id] >= l.Level) {
				keys = append(keys, concept(id))
			}
		}
	case cm.CountStops:
		for _, route := range cm.SortedIDs(c.m.Routes) {
			for _, stop := range c.m.StopsOf(route) {
				keys = append(keys, cm.Key{Kind: cm.EntityStop, ID: stop.ID})
			}
		}
	}
	return keys
}

// fits tells that a concept is of the kind, tag, region, level and words that a line asks for.
func (c *counting) fits(l Line, id cm.ID) bool {
	k := c.m.Concepts[id]
	if l.Kind != "" {
		kind := c.m.KindOf(k)
		if kind == nil || likeness.Fold(c.m.Words(kind.Name)) != likeness.Fold(l.Kind) && string(kind.Role) != l.Kind {
			return false
		}
	}
	if l.Tag != "" && !c.tagged(k, l.Tag) || l.Region != "" && !c.inside(id, l.Region) || l.Level > 0 && c.s.Places[id].Level != l.Level {
		return false
	}
	return hold(l.Words, c.m.Words(k.Label))
}

func (c *counting) tagged(k *cm.Concept, name string) bool {
	for tag := range k.Tags {
		if t := c.m.Tags[tag]; t != nil && likeness.Fold(c.m.Words(t.Name)) == likeness.Fold(name) {
			return true
		}
	}
	return false
}

func (c *counting) inside(id cm.ID, title string) bool {
	for _, r := range c.m.Regions {
		if likeness.Fold(c.m.Words(r.Title)) == likeness.Fold(title) && c.m.Inside(r)[id] {
			return true
		}
	}
	return false
}

// carries tells that a concept has what a line counts besides itself.
func (c *counting) carries(l Line, k *cm.Concept) bool {
	switch l.Of {
	case cm.CountExamples:
		kind := c.m.KindOf(k)
		return kind != nil && IsForExamples(c.m, kind)
	case cm.CountNotes:
		return !k.Note.Empty()
	case cm.CountPictures:
		for _, src := range k.Sources {
			if src.Kind() == cm.SourcePicture {
				return true
			}
		}
		return false
	}
	return l.Source == "" || slices.ContainsFunc(cm.SourceList(k.Sources), func(id cm.ID) bool { src := k.Sources[id]; return string(src.Kind()) == l.Source })
}

// IsForExamples tells that a kind is one for examples, by its name.
func IsForExamples(m *cm.Map, k *cm.Kind) bool {
	return !k.Links && language.ForExamples(m.Words(k.Name))
}

// hold tells that a text has the words that are asked for; nil asks for none.
func hold(w *cm.Words, text string) bool {
	if w == nil {
		return true
	}
	folded := likeness.Fold(text)
	for _, sought := range w.Contains {
		if strings.Contains(" "+folded+" ", " "+likeness.Fold(sought)+" ") {
			return true
		}
	}
	begins := func(sought string) bool { return strings.HasPrefix(folded+" ", likeness.Fold(sought)+" ") }
	if slices.ContainsFunc(w.Begins, begins) {
		return true
	}
	if list := Lists[w.List]; list != nil {
		return slices.ContainsFunc(list.Words, begins)
	}
	return false
}

// required counts which of the things that must be there are.
func (c *counting) required(l Line) (n int, keys []cm.Key, absent []cm.Must) {
	for _, must := range l.Must {
		from := c.wordings(append([]string{must.Concept}, must.Or...))
		if must.Phrase == "" {
			if len(from) > 0 {
				n, keys = n+1, append(keys, cm.Key{Kind: cm.EntityConcept, ID: from[0]})
			} else {
				absent = append(absent, must)
			}
			continue
		}
		to, found := c.wordings([]string{must.To}), false
		for _, p := range c.s.Propositions() {
			if slices.Contains(from, p.Subject) && slices.Contains(to, p.Object) && likeness.Fold(c.m.Words(c.m.Links[p.Strand.Link].Phrase)) == likeness.Fold(must.Phrase) {
				n, keys, found = n+1, append(keys, cm.Key{Kind: cm.EntityLink, ID: p.Strand.Link}), true
				break
			}
		}
		if !found {
			absent = append(absent, must)
		}
	}
	return n, keys, absent
}

// wordings gives the concepts that have one of some labels.
func (c *counting) wordings(labels []string) (ids []cm.ID) {
	for _, label := range labels {
		for _, id := range c.called(label) {
			if !slices.Contains(ids, id) {
				ids = append(ids, id)
			}
		}
	}
	return ids
}

package structure

import (
	"slices"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/likeness"
)

// Matches gives the concepts that a filter asks for. A filter without conditions
// asks for all of them.
func (s *Structure) Matches(f *cm.Filter) map[cm.ID]bool {
	tests := make([]func(*cm.Concept) bool, len(f.Conditions))
	for i, c := range f.Conditions {
		tests[i] = s.test(c)
	}
	found := map[cm.ID]bool{}
	for id, c := range s.m.Concepts {
		met := 0
		for i, test := range tests {
			if test(c) != f.Conditions[i].Not {
				met++
			}
		}
		if met == len(tests) || f.Match == cm.MatchAny && met > 0 {
			found[id] = true
		}
	}
	return found
}

// Within gives the links that stay with some concepts: those with at least one of
// them at either side. They are in the order of ids.
func (s *Structure) Within(concepts map[cm.ID]bool) []cm.ID {
	holds := func(ends []cm.End) bool {
		return slices.ContainsFunc(ends, func(e cm.End) bool { return concepts[e.Concept] })
	}
	var all []cm.ID
	for _, id := range cm.SortedIDs(s.m.Links) {
		if l := s.m.Links[id]; holds(l.From) && holds(l.To) {
			all = append(all, id)
		}
	}
	return all
}

// test gives what one condition asks of a concept.
func (s *Structure) test(cond cm.Condition) func(*cm.Concept) bool {
	id := cm.ID(cond.Value)
	switch cond.About {
	case cm.AboutKind:
		return func(c *cm.Concept) bool {
			k := s.m.KindOf(c)
			return k == nil && id == "" || k != nil && k.ID == id
		}
	case cm.AboutTag:
		return func(c *cm.Concept) bool {
			if id != "" {
				return c.Tags[id] && s.m.Tags[id] != nil
			}
			for t := range c.Tags {
				if s.m.Tags[t] != nil {
					return false
				}
			}
			return true
		}
	case cm.AboutRegion:
		inside := map[cm.ID]bool{}
		for _, r := range s.m.Regions {
			if id == "" || r.ID == id {
				for c := range s.m.Inside(r) {
					inside[c] = true
				}
			}
		}
		return func(c *cm.Concept) bool { return inside[c.ID] != (id == "") }
	case cm.AboutBranch:
		return func(c *cm.Concept) bool {
			at := c.ID
			for at != "" && at != id {
				at = s.Places[at].Parent
			}
			return at == id
		}
	case cm.AboutLevel:
		level, _ := strconv.Atoi(cond.Value)
		return func(c *cm.Concept) bool { return s.Places[c.ID].Level == level }
	case cm.AboutWords:
		sought := likeness.Fold(cond.Value)
		return func(c *cm.Concept) bool {
			return strings.Contains(likeness.Fold(s.m.Words(c.Label)), sought) || strings.Contains(likeness.Fold(s.m.Words(c.Remark)), sought) || strings.Contains(likeness.Fold(s.m.Words(c.Note)), sought)
		}
	case cm.AboutHas:
		if v := cm.Verdict(cond.Value); v.Valid() || cond.Value == "not-judged" {
			judged := s.judgedAs(v)
			return func(c *cm.Concept) bool { return judged[c.ID] }
		}
		talk := s.m.Discussion()
		return func(c *cm.Concept) bool {
			switch cond.Value {
			case "note":
				return !c.Note.Empty()
			case "source":
				return len(c.Sources) > 0
			case "remark":
				return !c.Remark.Empty()
			case "task":
				return c.Task != nil
			case "open-task":
				return c.Task != nil && !c.Task.Done
			case "comment":
				return talk[cm.Key{Kind: cm.EntityConcept, ID: c.ID}] > 0
			case "vote":
				return len(c.Votes) > 0
			}
			return c.EffectiveTime() != "" || c.EffectiveDuration() != nil
		}
	}
	return func(*cm.Concept) bool { return false }
}

// judgedAs gives the concepts of propositions that were judged so, as they read now; of those that
// nobody judged where it is no verdict.
func (s *Structure) judgedAs(v cm.Verdict) map[cm.ID]bool {
	found, judged := map[cm.ID]bool{}, s.m.Judged()
	for _, p := range s.Propositions() {
		if p.Open {
			continue
		}
		is := cm.Verdict("not-judged")
		if j := cm.Shown(judged[cm.Proposed{Strand: p.Strand, Against: p.Against}]); j != nil && !j.Stale(s.m) {
			is = j.Verdict
		}
		if is == v {
			found[p.Subject], found[p.Object] = true, true
		}
	}
	return found
}

// Lasts adds up the durations of a concept and of all that hangs from it; parts
// are the concepts that have one, in reading order.
func (s *Structure) Lasts(id cm.ID) (sum cm.Lasting, parts []cm.ID) {
	inside := map[cm.ID]bool{id: true}
	for _, at := range s.Order { // a concept comes before its children
		if at != id && !inside[s.Places[at].Parent] {
			continue
		}
		inside[at] = true
		if lasts := s.m.Concepts[at].EffectiveDuration(); lasts != nil {
			sum = sum.Add(lasts)
			parts = append(parts, at)
		}
	}
	return sum, parts
}

package check

import (
	cm "mevrin/core/conceptmap"
)

// What kinds know their concepts as says what they still need: a claim evidence,
// a choice two ways out. These rules speak of roles, not of names, so that a kind
// may be called anything; a map without such kinds never hears from them.

var roleRules = []*Rule{
	{
		ID: "claim-bare", About: AboutArgument, Title: "A claim has no evidence",
		Why:   "Whoever does not believe it yet needs something that can be looked up or seen; reasons alone only move the question.",
		Looks: "Concepts of a kind with the role of a claim that no evidence reaches, be it directly or through reasons.",
		find: needs("argument.claim", "Say what shows it", func(r *roles, id cm.ID) bool {
			return r.reaches(id, "argument.evidence", "argument.reason")
		}),
	},
	{
		ID: "evidence-idle", About: AboutArgument, Title: "Evidence supports nothing",
		Why:   "What speaks for nothing and against nothing does not belong to the argument, or its link is missing.",
		Looks: "Concepts with the role of evidence that are linked to no claim, reason, assumption or counter-claim.",
		find: needs("argument.evidence", "Say what it speaks for", func(r *roles, id cm.ID) bool {
			return r.joined(id, "argument.claim", "argument.reason", "argument.assumption", "argument.counter")
		}),
	},
	{
		ID: "counter-open", About: AboutArgument, Title: "Nobody answers a counter-claim",
		Why:   "An objection that is named and left standing is stronger than one that was never named.",
		Looks: "Concepts with the role of a counter-claim that are linked to no reason, evidence or other counter-claim.",
		find: needs("argument.counter", "Answer it", func(r *roles, id cm.ID) bool {
			return r.joined(id, "argument.reason", "argument.evidence", "argument.counter")
		}),
	},
	{
		ID: "assumption-bare", About: AboutArgument, Title: "Nothing supports an assumption",
		Why:   "What is taken for granted carries the argument without being seen. If it is doubted, all that rests on it falls.",
		Looks: "Concepts with the role of an assumption that are linked to no evidence.",
		find: needs("argument.assumption", "Say what supports it", func(r *roles, id cm.ID) bool {
			return r.joined(id, "argument.evidence")
		}),
	},
	{
		ID: "activity-aimless", About: AboutLesson, Title: "An activity serves no aim",
		Why:   "What learners do should lead to something that they can do afterwards; else it costs time that an aim lacks.",
		Looks: "Concepts with the role of an activity that are linked to no aim, be it directly or through other activities.",
		find: needs("lesson.activity", "Say what it is for", func(r *roles, id cm.ID) bool {
			return r.reaches(id, "lesson.aim", "lesson.activity")
		}),
	},
	{
		ID: "aim-unchecked", About: AboutLesson, Title: "Nothing checks an aim",
		Why:   "Whether it was reached can be known only where something shows it.",
		Looks: "Concepts with the role of an aim that no check reaches, be it directly or through activities.",
		find: needs("lesson.aim", "Say how one will know", func(r *roles, id cm.ID) bool {
			return r.reaches(id, "lesson.check", "lesson.activity")
		}),
	},
	{
		ID: "process-no-decision", About: AboutProcess, Title: "A choice has one way out",
		Why:   "Where there is nothing to choose it is a step; where there is, the other way is missing.",
		Looks: "Concepts with the role of a choice from which fewer than two propositions lead on.",
		find:  needs("process.choice", "Say what else may follow", func(r *roles, id cm.ID) bool { return r.out[id] > 1 }),
	},
	{
		ID: "process-dead-end", About: AboutProcess, Title: "A step leads nowhere",
		Why:   "A process goes on until there is a result. Where a step ends it, say what comes of it.",
		Looks: "Concepts with the role of a step or a start from which no proposition leads on.",
		find: func(l *look) []Place {
			open := func(r *roles, id cm.ID) bool { return r.out[id] > 0 }
			return append(needs("process.start", "Say what follows", open)(l), needs("process.step", "Say what follows", open)(l)...)
		},
	},
}

// roles knows which concepts are joined, and as what their kinds know them.
type roles struct {
	of   map[cm.ID]cm.Role
	near map[cm.ID][]cm.ID
	out  map[cm.ID]int // propositions that lead on from a concept
}

// needs makes a rule of what the concepts of a role must have.
func needs(role cm.Role, remedy string, met func(*roles, cm.ID) bool) func(*look) []Place {
	return func(l *look) []Place {
		m, s := l.m, l.s
		var mine []cm.ID
		r := &roles{of: map[cm.ID]cm.Role{}, near: map[cm.ID][]cm.ID{}, out: map[cm.ID]int{}}
		for _, id := range s.Order {
			if k := m.KindOf(m.Concepts[id]); k != nil && k.Role != "" {
				if r.of[id] = k.Role; k.Role == role {
					mine = append(mine, id)
				}
			}
		}
		if len(mine) == 0 {
			return nil
		}
		for _, p := range s.Propositions() {
			r.near[p.Subject] = append(r.near[p.Subject], p.Object)
			r.near[p.Object] = append(r.near[p.Object], p.Subject)
			r.out[p.Subject]++
		}
		var places []Place
		for _, id := range mine {
			if !met(r, id) {
				places = append(places, Place{[]cm.Key{concept(id)}, []Remedy{linkRemedy(m, remedy, id, "")}})
			}
		}
		return places
	}
}

// joined tells whether a concept is linked to one of some roles, either way.
func (r *roles) joined(id cm.ID, some ...cm.Role) bool {
	for _, o := range r.near[id] {
		for _, role := range some {
			if o != id && r.of[o] == role {
				return true
			}
		}
	}
	return false
}

// reaches tells whether one of a role is joined to a concept, directly or through
// others of a second role.
func (r *roles) reaches(id cm.ID, role, through cm.Role) bool {
	seen := map[cm.ID]bool{id: true}
	open := []cm.ID{id}
	for len(open) > 0 {
		at := open[0]
		open = open[1:]
		for _, o := range r.near[at] {
			if seen[o] {
				continue
			}
			seen[o] = true
			switch r.of[o] {
			case role:
				return true
			case through:
				open = append(open, o)
			}
		}
	}
	return false
}

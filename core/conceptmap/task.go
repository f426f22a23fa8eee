package conceptmap

import (
	"cmp"
	"slices"
	"strings"
)

// Task says that something is to be done about a concept, and by whom. It is about
// the making of the map or of what it plans, not part of what the map says.
type Task struct {
	// What is to be done; the concept itself where empty.
	What string `json:"what,omitempty"`
	// Who does it: a name, or several.
	Who string `json:"who,omitempty"`
	// When is a day or a span of days, as CleanWhen writes it.
	When  string  `json:"when,omitempty" mevrin:"form=time"`
	Lasts *Amount `json:"lasts,omitempty" mevrin:"form=duration"` // how long it takes
	Done  bool    `json:"done,omitempty"`
}

// The bounds of tasks, in characters.
const (
	MaxTaskWords = 200
	MaxWho       = 80
)

// Valid tells whether the parts of a task can be read.
func (t *Task) Valid() bool {
	if t == nil {
		return true
	}
	what, err := Clean(t.What, MaxTaskWords, "")
	who, err2 := Clean(t.Who, MaxWho, "")
	when, err3 := CleanWhen(t.When)
	return cmp.Or(err, err2, err3) == nil && what == t.What && who == t.Who && when == t.When && t.Lasts.sound(true)
}

// EffectiveTime gives the time that the concept belongs to: its own, else that of its task.
func (c *Concept) EffectiveTime() string {
	if c.When == "" && c.Task != nil {
		return c.Task.When
	}
	return c.When
}

// Takes gives how long the concept lasts: its own duration, else that of its task.
func (c *Concept) EffectiveDuration() *Amount {
	if c.Lasts == nil && c.Task != nil {
		return c.Task.Lasts
	}
	return c.Lasts
}

// TaskList gives the concepts with a task: what is open before what is done, then
// by their time (what has none last), by whoever does them, and by ids.
func (m *Map) TaskList() []*Concept {
	var all []*Concept
	for _, id := range SortedIDs(m.Concepts) {
		if c := m.Concepts[id]; c.Task != nil {
			all = append(all, c)
		}
	}
	done := func(c *Concept) int {
		if c.Task.Done {
			return 1
		}
		return 0
	}
	slices.SortStableFunc(all, func(a, b *Concept) int {
		from, _, dated := a.Span()
		other, _, also := b.Span()
		if by := done(a) - done(b); by != 0 || dated != also {
			if by == 0 && dated {
				return -1
			}
			return cmp.Or(by, 1)
		}
		return cmp.Or(cmp.Compare(from, other), strings.Compare(a.Task.Who, b.Task.Who))
	})
	return all
}

// Assignee is whoever has tasks, and what is left of them.
type Assignee struct {
	Name  string
	Open  int     // tasks that are not done
	Lasts Lasting // what the durations of those come to
}

// Assignees gives all who have tasks, in the order of the task list.
func (m *Map) Assignees() []Assignee {
	var all []Assignee
	for _, c := range m.TaskList() {
		if c.Task.Who == "" {
			continue
		}
		i := slices.IndexFunc(all, func(d Assignee) bool { return d.Name == c.Task.Who })
		if i < 0 {
			i = len(all)
			all = append(all, Assignee{Name: c.Task.Who})
		}
		if !c.Task.Done {
			all[i].Open++
			all[i].Lasts = all[i].Lasts.Add(c.Task.Lasts)
		}
	}
	return all
}

package history

import (
	"bytes"
	"encoding/json"
	"maps"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/message"
	"slices"
	"strings"
)

// Invert takes back what an entry did, as far as that is still there. It is
// undo for an entry of the log, and redo for an undo.
//
// A field gets its former state back only where it still holds what the entry
// left in it; what somebody has altered since stays, and is named in the
// notices. What the entry took away returns unless what it needs is gone.
// What the entry made is taken away, unless that would take somebody's later
// work with it (an altered field, a link or a stop added since): then nothing
// is undone at all, and the notices say why. Main strands and ranks follow as
// after any operation.
func Invert(m *cm.Map, changes []Change) Outcome {
	u := &undoing{Draft: draft.New(m)}
	for _, c := range changes {
		if c.Made() {
			u.checkLaterWork(c)
		}
	}
	if len(u.kept) == 0 {
		u.restore(changes)
		u.checkDangling()
	}
	if len(u.kept) > 0 {
		return Outcome{Map: m, Notices: []message.Message{message.Of(workedTexts[len(u.kept) > 1], strings.Join(u.kept, ", "))}}
	}
	u.MendHierarchy()
	if len(u.left) > 0 {
		u.Notice("Left as it is, since it was changed by someone else: %s.", strings.Join(u.left, ", "))
	}
	return OutcomeOf(u.Draft)
}

// TakeBack takes back what several entries did, given from the oldest to the
// newest: all that one person did on a map, say. What others have worked on since
// stays, and is named in the notices; all else goes as Invert has it.
func TakeBack(m *cm.Map, entries [][]Change) Outcome {
	now, touched, said := m, map[cm.Key]bool{}, map[string]bool{}
	var notices []message.Message
	for _, changes := range slices.Backward(entries) {
		out := Invert(now, changes)
		for _, c := range out.Changes {
			touched[c.Key] = true
		}
		for _, one := range out.Notices {
			if words := one.String(); !said[words] {
				said[words] = true
				notices = append(notices, one)
			}
		}
		now = out.Map
	}
	all := Outcome{Map: now, Notices: notices}
	for key := range touched {
		if c := Difference(m, now, key); !c.Nothing() {
			all.Changes = append(all.Changes, c)
		}
	}
	slices.SortFunc(all.Changes, func(a, b Change) int { return compareKeys(a.Key, b.Key) })
	return all
}

type undoing struct {
	*draft.Draft
	kept []string // what may not be taken away, in words
	left []string // what was left alone, in words
}

// checkLaterWork looks whether an entity that the entry made still is as the
// entry left it. A main strand that has fallen away is nobody's work.
func (u *undoing) checkLaterWork(c Change) {
	is := fieldsOf(u.Map, c.Key)
	if is == nil {
		return
	}
	later, _ := compare(c.Key, c.After, is)
	for _, name := range later.FieldNames() {
		if now, there := later.After[name]; name == "main" && (!there || sameStrand(now, c.After[name])) || u.arranged(c.Key, name) {
			continue
		}
		u.keep(c.Key)
		return
	}
}

// arranged tells whether a field of an entity is written by the map that puts itself in
// order: nobody's work. Lines that no hand led it leads, others in nobody's way.
func (u *undoing) arranged(key cm.Key, name string) bool {
	if key.Kind != cm.EntityLink {
		return name == "at" && u.Map.KeepTidy && key.Kind == cm.EntityConcept && u.Map.Concepts[key.ID].Hold == cm.HoldNone
	}
	l := u.Map.Links[key.ID]
	return ledByMap(name) && (u.Map.KeepTidy || l != nil && l.LedByItself())
}

// ledByMap tells whether a field of a link is one that says how its line is led.
func ledByMap(name string) bool {
	return name == "hub" || name == "tidied" || strings.HasPrefix(name, "bends/")
}

func sameStrand(a, b json.RawMessage) bool {
	var x, y cm.Strand
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && x == y
}

// restore inverts each change: first what must come back, since other things
// may need it, then the fields, then what must go.
func (u *undoing) restore(changes []Change) {
	for _, c := range changes {
		if c.Gone() {
			u.bringBack(c)
		}
	}
	for _, c := range changes {
		if !c.Gone() && !c.Made() {
			u.restoreFields(c)
		}
	}
	for _, c := range slices.Backward(changes) {
		if c.Made() {
			must(setFields(u.Map, c.Key, nil))
			u.Touch(c.Kind, c.ID)
		}
	}
}

func (u *undoing) bringBack(c Change) {
	if fieldsOf(u.Map, c.Key) != nil || !u.canHold(c.Key, c.Before) {
		u.leave(c.Key, c.Before)
		return
	}
	must(setFields(u.Map, c.Key, maps.Clone(c.Before)))
	u.Touch(c.Kind, c.ID)
}

// canHold tells whether what an entity in this state needs is on the map, and the
// whole is sound.
func (u *undoing) canHold(key cm.Key, state Fields) bool {
	d := cm.Describe(key.Kind)
	entity := d.New()
	must(Decode(d, key.ID, state, entity))
	for _, need := range d.Needs(entity) {
		if !u.Map.Has(need) {
			return false
		}
	}
	own, is := entity.(interface{ Sound() error })
	return !is || own.Sound() == nil
}

func (u *undoing) restoreFields(c Change) {
	is := fieldsOf(u.Map, c.Key)
	if is == nil {
		u.leave(c.Key, c.After)
		return
	}
	next := maps.Clone(is)
	for _, name := range c.FieldNames() {
		now, there := is[name]
		left, had := c.After[name]
		if there != had || !bytes.Equal(now, left) {
			if name != "main" && !u.arranged(c.Key, name) {
				u.leave(c.Key, is)
			}
			continue
		}
		if was, ok := c.Before[name]; ok {
			next[name] = was
		} else {
			delete(next, name)
		}
	}
	// The ends of a link and the focus hold together with other entities: where
	// the whole would not be sound any more, they stay as they are.
	if !u.canHold(c.Key, next) {
		u.leave(c.Key, is)
		for _, name := range c.FieldNames() {
			head, _, _ := strings.Cut(name, "/")
			if f := cm.Describe(c.Kind).Member(head); f != nil && (f.Apart == cm.ByEnd || f.Needs != "") {
				delete(next, name)
				if now, there := is[name]; there {
					next[name] = now
				}
			}
		}
	}
	must(setFields(u.Map, c.Key, next))
	u.Touch(c.Kind, c.ID)
}

// checkDangling finds what needs something that the undo would take away: it is
// somebody's later work.
func (u *undoing) checkDangling() {
	for _, d := range cm.Entities {
		for _, id := range d.IDs(u.Map) {
			for _, need := range d.Needs(d.Get(u.Map, id)) {
				if !u.Map.Has(need) {
					u.keep(need)
				}
			}
		}
	}
}

func (u *undoing) keep(key cm.Key) { u.kept = addWords(u.kept, u.describe(key, fieldsOf(u.Base, key))) }

func (u *undoing) leave(key cm.Key, state Fields) {
	u.left = addWords(u.left, u.describe(key, state))
}

func addWords(list []string, words string) []string {
	if slices.Contains(list, words) {
		return list
	}
	return append(list, words)
}

// describe names an entity in plain words, by a state of it.
func (u *undoing) describe(key cm.Key, state Fields) string {
	if key.Kind == cm.EntityMap {
		return "the map’s title, question or focus concept"
	}
	d := cm.Describe(key.Kind)
	entity := d.New()
	if state == nil || Decode(d, key.ID, state, entity) != nil {
		return "a " + string(key.Kind)
	}
	name, _ := d.Name(entity)
	switch words := u.Map.Words(name); {
	case words == "" && key.Kind == cm.EntityConcept:
		return "a concept without words"
	case words == "":
		return "a " + string(key.Kind)
	case key.Kind == cm.EntityConcept:
		return "“" + words + "”"
	default:
		return "the " + string(key.Kind) + " “" + words + "”"
	}
}

// workedTexts say that one thing, or several, are left since they were worked on.
var workedTexts = map[bool]string{
	false: "Nothing was undone: %s has been worked on since by someone else.",
	true:  "Nothing was undone: %s have been worked on since by someone else.",
}

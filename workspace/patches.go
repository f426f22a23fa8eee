package workspace

import (
	"crypto/sha256"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
	"mevrin/draw/scene"
)

// patch is what one entry did to the drawing, and to whose work.
type patch struct {
	revision       int
	author, window string
	written        []history.Written
	difference     // in the drawing of the whole map
	entry          cm.ID
	asked          [sha256.Size]byte // of the gesture
	answer         *Answer           // nil where it is too old to be kept
	weight         int64             // in bytes, without its answer
	answered       int64             // what the answer takes, in bytes
}

// difference is what differs between two drawings.
type difference struct {
	slips, links         []cm.ID
	goneSlips, goneLinks []cm.ID
}

func differenceOf(before, after *scene.Scene) (d difference) {
	d.slips, d.links, d.goneSlips, d.goneLinks = scene.Diff(before, after)
	return d
}

// weightOf gives what a patch takes in memory that wrote so much, in bytes, but for its answer.
func weightOf(written []history.Written) int64 {
	weight := int64(1 << 10)
	for _, w := range written {
		weight += w.Size()
	}
	return weight
}

// remember makes a state the present one, keeps the patch that led to it for
// windows that missed it, and tells all viewers.
func (d *Session) remember(next *State, p patch, changes []history.Change, step history.Step, who Person, seen int) {
	p.written = history.WrittenBy(changes)
	d.books.Lock()
	d.history.Add(step)
	var overtook []overtook
	for _, earlier := range d.recent {
		if earlier.revision > seen && (earlier.window != p.window || earlier.author != p.author) {
			for _, key := range history.Overtaken(changes, earlier.written) {
				overtook = append(overtook, overtaken(earlier, next, key))
			}
		}
	}
	p.weight, p.answered = weightOf(p.written), p.answer.size()
	d.recent = append(d.recent, p)
	d.trim()
	d.present.Store(next)
	d.books.Unlock()
	d.Flags(p.answer, who)
	d.hub.Tell(d.id, Notice{Author: p.author, Window: p.window, Event: Event{Revision: p.revision}, overtook: overtook})
}

// trim lets go of old patches, and of answers that can be drawn again.
func (d *Session) trim() {
	total, answers := int64(0), int64(0)
	first := len(d.recent)
	for i := len(d.recent) - 1; i >= 0; i-- {
		p := &d.recent[i]
		if answers += p.answered; answers > maxAnswers && first < len(d.recent) {
			p.answer = nil
		}
		if total += p.weight; len(d.recent)-i > maxRecent || total > maxRemembered && first < len(d.recent) {
			break
		}
		first = i
	}
	if first > 0 {
		d.recent = slices.Clone(d.recent[first:])
	}
}

// size is what the drawing of an answer takes, in bytes.
func (a *Answer) size() int64 {
	n := len(a.Head.Axis) + len(a.Head.Regions) + len(a.Head.Key)
	for _, all := range []map[cm.ID]string{a.Slips, a.Links} {
		for id, drawn := range all {
			n += len(id) + len(drawn)
		}
	}
	return int64(n)
}

func overtaken(earlier patch, now *State, key cm.Key) overtook {
	words := ""
	if c := now.Map.Concepts[key.ID]; c != nil {
		words = now.Map.Words(c.Label)
	} else if l := now.Map.Links[key.ID]; l != nil {
		words = now.Map.Words(l.Phrase)
	}
	if words == "" {
		words = "something"
	} else {
		words = "“" + words + "”"
	}
	return overtook{earlier.author, earlier.window, Overtaken{words, key.ID}}
}

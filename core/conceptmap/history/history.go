package history

import (
	cm "mevrin/core/conceptmap"
)

// Step is what undo needs to know of an entry of the log.
type Step struct {
	Entry  cm.ID
	Author string
	Undoes cm.ID // the entry that this one takes back, or empty
	// Idle tells that the entry changed nothing, like a name given again: by
	// hand it is no step of undo, since undoing it would show nothing.
	Idle bool
}

// History knows, for each author, which entries can be undone and redone. It
// is built by adding the steps of a log in their order; the zero value is
// ready to use.
//
// An entry by hand goes on its author's undo stack and empties their redo
// stack. An entry that undoes the top of the one moves it to the other: an
// undo is itself an entry, redo is the undo of an undo, and so on for ever.
// Authors do not meet here: nobody undoes another's entry.
type History struct {
	authors map[string]*stacks
	steps   int
}

type stacks struct{ undo, redo []cm.ID }

// Add takes note of the next entry of the log.
func (h *History) Add(s Step) {
	if h.authors == nil {
		h.authors = map[string]*stacks{}
	}
	st := h.authors[s.Author]
	if st == nil {
		st = &stacks{}
		h.authors[s.Author] = st
	}
	h.steps++
	switch {
	case s.Undoes == "" && s.Idle:
	case s.Undoes == "":
		st.undo, st.redo = append(st.undo, s.Entry), nil
	case last(st.undo) == s.Undoes:
		st.undo, st.redo = st.undo[:len(st.undo)-1], append(st.redo, s.Entry)
	case last(st.redo) == s.Undoes:
		st.redo, st.undo = st.redo[:len(st.redo)-1], append(st.undo, s.Entry)
	}
}

// Standing gives the entries of a log, made by hand, that were not undone, or were redone, in their order.
func Standing(log []Step) (ids []cm.ID) {
	of, stands := map[cm.ID]cm.ID{}, map[cm.ID]bool{} // of tells which entry by hand each is about
	for _, s := range log {
		if s.Undoes == "" {
			of[s.Entry], stands[s.Entry] = s.Entry, true
			continue
		}
		about := of[s.Undoes]
		of[s.Entry], stands[about] = about, !stands[about]
	}
	for _, s := range log {
		if s.Undoes == "" && stands[s.Entry] {
			ids = append(ids, s.Entry)
		}
	}
	return ids
}

// Steps counts the entries that were added.
func (h *History) Steps() int { return h.steps }

// Undoable gives the entry that the author's next undo takes back, or "".
func (h *History) Undoable(author string) cm.ID { return last(h.of(author).undo) }

// Redoable gives the undo that the author's next redo takes back, or "".
func (h *History) Redoable(author string) cm.ID { return last(h.of(author).redo) }

func (h *History) of(author string) stacks {
	if st := h.authors[author]; st != nil {
		return *st
	}
	return stacks{}
}

func last(ids []cm.ID) cm.ID {
	if len(ids) == 0 {
		return ""
	}
	return ids[len(ids)-1]
}

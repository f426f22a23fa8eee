package conceptmap

import (
	"maps"
	"slices"
	"strconv"
)

// redirect leads every end that a link has at one concept to another. An end
// that is there already absorbs the second; a link that only joined the two,
// or that now says what another link says, is dropped.
func (d *editing) redirect(id, old, heir ID) {
	l := d.m.Links[id]
	if !hasConcept(l.From, old) && !hasConcept(l.To, old) {
		return
	}
	before := *l
	next := *l
	next.From = d.redirectEnds(id, l.From, old, heir)
	next.To = d.redirectEnds(id, l.To, old, heir)
	d.putLink(&next)
	if hasConcept(next.From, heir) && hasConcept(next.To, heir) && !(hasConcept(before.From, old) && hasConcept(before.To, old)) {
		d.dropSelf(&next, heir)
		return
	}
	if twin := d.twin(&next); twin != nil {
		d.absorb(&next, twin)
	}
}

func (d *editing) redirectEnds(link ID, ends []End, old, heir ID) []End {
	var out []End
	kept := slices.IndexFunc(ends, func(e End) bool { return e.Concept == heir })
	for _, e := range ends {
		if e.Concept == old {
			if kept >= 0 {
				d.recordMove(Moved{Kind: EntityLink, OldLink: link, Old: e.ID, NewLink: link, New: ends[kept].ID})
				d.remapMains(link, link, map[ID]ID{e.ID: ends[kept].ID})
				continue
			}
			e.Concept = heir
		}
		out = append(out, e)
	}
	return out
}

// dropSelf takes off the ends by which a link joins a concept to itself after
// a merge, and the link where nothing else is left on a side.
func (d *editing) dropSelf(l *Link, heir ID) {
	other := func(e End) bool { return e.Concept == heir }
	next := *l
	if len(l.To) > 1 {
		next.To = slices.DeleteFunc(slices.Clone(l.To), other)
	} else if len(l.From) > 1 {
		next.From = slices.DeleteFunc(slices.Clone(l.From), other)
	} else {
		d.dropLink(l.ID)
		d.notice("The link that joined the two concepts is gone, since they are one now.")
		return
	}
	d.putLink(&next)
	d.notice("A phrase that joined the two concepts no longer leads from one to the other, since they are one now.")
}

// twin finds another link with the same words, heads and concepts.
func (d *editing) twin(l *Link) *Link {
	for _, id := range SortedIDs(d.m.Links) {
		o := d.m.Links[id]
		if id != l.ID && o.Heads == l.Heads && !l.Phrase.Empty() && maps.Equal(o.Phrase, l.Phrase) &&
			sameConcepts(o.From, l.From) && sameConcepts(o.To, l.To) {
			return o
		}
	}
	return nil
}

func sameConcepts(a, b []End) bool {
	return len(a) == len(b) && !slices.ContainsFunc(a, func(e End) bool { return !hasConcept(b, e.Concept) })
}

// absorb drops a link in favour of its twin, which inherits its note, main
// strands and stops.
func (d *editing) absorb(l, twin *Link) {
	heirs := map[ID]ID{}
	for _, pair := range [][2][]End{{l.From, twin.From}, {l.To, twin.To}} {
		for _, e := range pair[0] {
			i := slices.IndexFunc(pair[1], func(h End) bool { return h.Concept == e.Concept })
			heirs[e.ID] = pair[1][i].ID
			d.recordMove(Moved{Kind: EntityLink, OldLink: l.ID, Old: e.ID, NewLink: twin.ID, New: pair[1][i].ID})
		}
	}
	d.remapMains(l.ID, twin.ID, heirs)
	next := *twin
	for lang, words := range l.Note {
		if next.Note[lang] == "" {
			next.Note = next.Note.With(lang, words)
		}
	}
	d.putLink(&next)
	d.redirectRefs(Key{EntityLink, l.ID}, twin.ID)
	d.dropLink(l.ID)
	d.notice("A sentence that stood there twice stands there once now: “" + d.m.Words(twin.Phrase) + "”.")
}

// remapMains lets main strands through a link follow its ends to their heirs.
func (d *editing) remapMains(oldLink, newLink ID, heirs map[ID]ID) {
	heir := func(end ID) ID {
		if h, ok := heirs[end]; ok {
			return h
		}
		return end
	}
	for _, id := range SortedIDs(d.m.Concepts) {
		c := d.m.Concepts[id]
		if c.Main == nil || c.Main.Link != oldLink {
			continue
		}
		s := Strand{Link: newLink, From: heir(c.Main.From), To: heir(c.Main.To)}
		if s != c.Main.Strand {
			next := *c
			next.Main = &Main{s, c.Main.Rank}
			d.putConcept(&next)
		}
	}
}

// redirectRefs lets stops show, and comments be about, the heir of a thing. A stop
// that shows both shows the heir once.
func (d *editing) redirectRefs(old Key, heir ID) {
	d.changeRefs(old, func(ref *Ref, beside []*Ref) bool {
		for _, other := range beside {
			if other.Kind == old.Kind && other.ID == heir {
				ref.ID = "" // one too many
			}
		}
		if ref.ID != "" {
			ref.ID = heir
		}
		return true
	})
	for _, id := range SortedIDs(d.m.Stops) {
		if s := d.m.Stops[id]; slices.ContainsFunc(s.Refs, func(r Ref) bool { return r.ID == "" }) {
			s.Refs = slices.DeleteFunc(s.Refs, func(r Ref) bool { return r.ID == "" })
		}
	}
}

// MergeLinks makes one link of two that say the same from the same concepts, or
// to the same ones: the other ends share the phrase. Ends that were on both are
// one; a phrase, a note and main strands of the one that goes pass on.
type MergeLinks struct {
	Keep ID `json:"keep"`
	Gone ID `json:"gone"`
}

func (op *MergeLinks) apply(d *editing) error {
	keep, err := d.link(op.Keep)
	if err != nil {
		return err
	}
	gone, err := d.link(op.Gone)
	if err != nil {
		return err
	}
	if op.Keep == op.Gone {
		return Refusef("A link cannot be joined with itself.")
	}
	if why := d.m.apart(keep, gone); why != "" {
		return Refusef("%s", why)
	}
	sides := [2]struct{ had, got *[]End }{{&keep.From, &gone.From}, {&keep.To, &gone.To}}
	heirs := map[ID]ID{}
	for _, side := range sides {
		for _, e := range *side.got {
			if i := slices.IndexFunc(*side.had, func(h End) bool { return h.Concept == e.Concept }); i >= 0 {
				heirs[e.ID] = (*side.had)[i].ID
				continue
			}
			own := e
			for n := 2; findEnd(keep.From, own.ID) >= 0 || findEnd(keep.To, own.ID) >= 0; n++ {
				own.ID = numbered(e.ID, n)
			}
			heirs[e.ID] = own.ID
			*side.had = append(*side.had, own)
		}
	}
	keep.From, keep.To = sortEnds(keep.From), sortEnds(keep.To)
	for lang, words := range gone.Phrase {
		if keep.Phrase[lang] == "" {
			keep.Phrase = keep.Phrase.With(lang, words)
		}
	}
	if err := d.sound(keep); err != nil {
		return err
	}
	if err := d.joinNotes(&keep.Note, gone.Note); err != nil {
		return err
	}
	for _, id := range SortedIDs(gone.Sources) {
		own := id
		for n := 2; hasSource(keep.Sources, own); n++ {
			own = numbered(id, n)
		}
		s := gone.Sources[id]
		if len(keep.Sources) < MaxSources {
			keep.Sources = withSource(keep.Sources, own, &s)
		}
	}
	d.putLink(keep)
	for _, e := range gone.Ends() {
		d.recordMove(Moved{Kind: EntityLink, OldLink: gone.ID, Old: e.ID, NewLink: keep.ID, New: heirs[e.ID]})
	}
	d.remapMains(gone.ID, keep.ID, heirs)
	d.redirectRefs(Key{EntityLink, gone.ID}, keep.ID)
	d.dropLink(gone.ID)
	return nil
}

// numbered gives an id like another that ends in a number.
func numbered(id ID, n int) ID {
	tail := "_" + strconv.Itoa(n)
	return id[:min(len(id), 40-len(tail))] + ID(tail)
}

// apart says in plain words why two links cannot become one, "" where they can.
func (m *Map) apart(a, b *Link) string {
	words, others := Fold(m.Words(a.Phrase)), Fold(m.Words(b.Phrase))
	switch {
	case words != others && words != "" && others != "":
		return "The two links say different things. Give them the same words first."
	case a.Heads != b.Heads:
		return "The arrows of the two links differ. Set them alike first."
	case !sameConcepts(a.From, b.From) && !sameConcepts(a.To, b.To):
		return "The two links share neither where they begin nor where they lead."
	}
	return ""
}

// Alike gives the links that MergeLinks can join with one, in the order of
// ids: those with the same words as it, or none.
func (m *Map) Alike(link ID) []ID {
	l := m.Links[link]
	if l == nil || l.Phrase.Empty() {
		return nil
	}
	var all []ID
	for _, id := range SortedIDs(m.Links) {
		if o := m.Links[id]; id != link && Fold(m.Words(o.Phrase)) == Fold(m.Words(l.Phrase)) && m.apart(l, o) == "" {
			all = append(all, id)
		}
	}
	return all
}

// joinNotes puts a second note below a first.
func (d *editing) joinNotes(kept *Text, other Text) error {
	for _, l := range slices.SortedFunc(maps.Keys(other), compareLangs) {
		words, had := other[l], (*kept)[l]
		if words == had {
			continue
		}
		if had != "" {
			words = had + "\n\n" + words
		}
		note, err := Clean(words, MaxNote, "The note of what is joined")
		if err != nil {
			return err
		}
		*kept = kept.With(l, note)
	}
	return nil
}

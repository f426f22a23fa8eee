package edit

import (
	"maps"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"slices"
)

// redirect leads every end that a link has at one concept to another. An end
// that is there already absorbs the second; a link that only joined the two,
// or that now says what another link says, is dropped.
func (d *editing) redirect(id, old, heir cm.ID) {
	l := d.Map.Links[id]
	if !cm.HasConcept(l.From, old) && !cm.HasConcept(l.To, old) {
		return
	}
	before := *l
	next := *l
	next.From = d.redirectEnds(id, l.From, old, heir)
	next.To = d.redirectEnds(id, l.To, old, heir)
	d.Put(&next)
	if cm.HasConcept(next.From, heir) && cm.HasConcept(next.To, heir) && !(cm.HasConcept(before.From, old) && cm.HasConcept(before.To, old)) {
		d.dropSelf(&next, heir)
		return
	}
	if twin := d.twin(&next); twin != nil {
		d.absorb(&next, twin)
	}
}

func (d *editing) redirectEnds(link cm.ID, ends []cm.End, old, heir cm.ID) []cm.End {
	var out []cm.End
	kept := slices.IndexFunc(ends, func(e cm.End) bool { return e.Concept == heir })
	for _, e := range ends {
		if e.Concept == old {
			if kept >= 0 {
				d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: link, Old: e.ID, NewLink: link, New: ends[kept].ID})
				d.remapMains(link, link, map[cm.ID]cm.ID{e.ID: ends[kept].ID})
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
func (d *editing) dropSelf(l *cm.Link, heir cm.ID) {
	other := func(e cm.End) bool { return e.Concept == heir }
	next := *l
	if len(l.To) > 1 {
		next.To = slices.DeleteFunc(slices.Clone(l.To), other)
	} else if len(l.From) > 1 {
		next.From = slices.DeleteFunc(slices.Clone(l.From), other)
	} else {
		d.DropLink(l.ID)
		d.Notice("The link that joined the two concepts is gone, since they are one now.")
		return
	}
	d.Put(&next)
	d.Notice("A phrase that joined the two concepts no longer leads from one to the other, since they are one now.")
}

// twin finds another link with the same words, heads and concepts.
func (d *editing) twin(l *cm.Link) *cm.Link {
	for _, id := range cm.SortedIDs(d.Map.Links) {
		o := d.Map.Links[id]
		if id != l.ID && o.Heads == l.Heads && !l.Phrase.Empty() && maps.Equal(o.Phrase, l.Phrase) &&
			cm.SameConcepts(o.From, l.From) && cm.SameConcepts(o.To, l.To) {
			return o
		}
	}
	return nil
}

// absorb drops a link in favour of its twin, which inherits its note, main
// strands and stops.
func (d *editing) absorb(l, twin *cm.Link) {
	heirs := map[cm.ID]cm.ID{}
	for _, pair := range [][2][]cm.End{{l.From, twin.From}, {l.To, twin.To}} {
		for _, e := range pair[0] {
			i := slices.IndexFunc(pair[1], func(h cm.End) bool { return h.Concept == e.Concept })
			heirs[e.ID] = pair[1][i].ID
			d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: l.ID, Old: e.ID, NewLink: twin.ID, New: pair[1][i].ID})
		}
	}
	d.remapMains(l.ID, twin.ID, heirs)
	next := *twin
	for lang, words := range l.Note {
		if next.Note[lang] == "" {
			next.Note = next.Note.With(lang, words)
		}
	}
	d.Put(&next)
	d.redirectRefs(cm.Key{Kind: cm.EntityLink, ID: l.ID}, twin.ID)
	d.DropLink(l.ID)
	d.Notice("A sentence that stood there twice stands there once now: “%s”.", d.Map.Words(twin.Phrase))
}

// remapMains lets main strands through a link follow its ends to their heirs.
func (d *editing) remapMains(oldLink, newLink cm.ID, heirs map[cm.ID]cm.ID) {
	heir := func(end cm.ID) cm.ID {
		if h, ok := heirs[end]; ok {
			return h
		}
		return end
	}
	for _, id := range cm.SortedIDs(d.Map.Concepts) {
		c := d.Map.Concepts[id]
		if c.Main == nil || c.Main.Link != oldLink {
			continue
		}
		s := cm.Strand{Link: newLink, From: heir(c.Main.From), To: heir(c.Main.To)}
		if s != c.Main.Strand {
			next := *c
			next.Main = &cm.Main{Strand: s, Rank: c.Main.Rank}
			d.Put(&next)
		}
	}
}

// redirectRefs lets stops show, and comments and dismissals be about, the heir of a thing. What
// names both names the heir once.
func (d *editing) redirectRefs(old cm.Key, heir cm.ID) {
	d.ChangeRefs(old, func(ref *cm.Ref, beside []*cm.Ref) bool {
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
}

// MergeLinks makes one link of two that say the same from the same concepts, or
// to the same ones: the other ends share the phrase. Ends that were on both are
// one; a phrase, a note and main strands of the one that goes pass on.
type MergeLinks struct {
	Keep cm.ID `json:"keep"`
	Gone cm.ID `json:"gone"`
}

func (op *MergeLinks) apply(d *editing) error {
	keep, err := d.Link(op.Keep)
	if err != nil {
		return err
	}
	gone, err := d.Link(op.Gone)
	if err != nil {
		return err
	}
	if op.Keep == op.Gone {
		return cm.Refusef("A link cannot be joined with itself.")
	}
	if err := d.Map.WhyApart(keep, gone); err != nil {
		return err
	}
	sides := [2]struct{ had, got *[]cm.End }{{&keep.From, &gone.From}, {&keep.To, &gone.To}}
	heirs := map[cm.ID]cm.ID{}
	for _, side := range sides {
		for _, e := range *side.got {
			if i := slices.IndexFunc(*side.had, func(h cm.End) bool { return h.Concept == e.Concept }); i >= 0 {
				heirs[e.ID] = (*side.had)[i].ID
				continue
			}
			own := e
			for n := 2; cm.FindEnd(keep.From, own.ID) >= 0 || cm.FindEnd(keep.To, own.ID) >= 0; n++ {
				own.ID = cm.Numbered(e.ID, n)
			}
			heirs[e.ID] = own.ID
			*side.had = append(*side.had, own)
		}
	}
	keep.From, keep.To = cm.SortEnds(keep.From), cm.SortEnds(keep.To)
	for lang, words := range gone.Phrase {
		if keep.Phrase[lang] == "" {
			keep.Phrase = keep.Phrase.With(lang, words)
		}
	}
	if err := d.CheckLink(keep); err != nil {
		return err
	}
	if err := d.joinNotes(&keep.Note, gone.Note); err != nil {
		return err
	}
	for _, id := range cm.SortedIDs(gone.Sources) {
		own := id
		for n := 2; cm.HasSource(keep.Sources, own); n++ {
			own = cm.Numbered(id, n)
		}
		s := gone.Sources[id]
		if len(keep.Sources) < cm.MaxSources {
			keep.Sources = withSource(keep.Sources, own, &s)
		}
	}
	d.Put(keep)
	for _, e := range gone.Ends() {
		d.RecordMove(draft.Moved{Kind: cm.EntityLink, OldLink: gone.ID, Old: e.ID, NewLink: keep.ID, New: heirs[e.ID]})
	}
	d.remapMains(gone.ID, keep.ID, heirs)
	d.redirectRefs(cm.Key{Kind: cm.EntityLink, ID: gone.ID}, keep.ID)
	d.DropLink(gone.ID)
	return nil
}

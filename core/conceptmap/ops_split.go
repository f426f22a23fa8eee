package conceptmap

import "slices"

// SplitEnd gives one end of a phrase a link of its own, with the same words in
// all languages, heads and note. The map says the same as before: what hangs by
// that end follows it.
type SplitEnd struct {
	Link ID `json:"link"`
	End  ID `json:"end"`
	New  ID `json:"new"` // names the new link
}

func (op *SplitEnd) apply(d *draft) error {
	if err := d.free(op.New); err != nil {
		return err
	}
	rest, err := d.link(op.Link)
	if err != nil {
		return err
	}
	own := *rest
	own.ID, own.From, own.To = op.New, slices.Clone(rest.From), slices.Clone(rest.To)
	kept, taken := &rest.To, &own.To
	at := findEnd(rest.To, op.End)
	if at < 0 {
		kept, taken = &rest.From, &own.From
		if at = findEnd(rest.From, op.End); at < 0 {
			return refusef("That end of the link is gone already.")
		}
	}
	if len(*kept) == 1 {
		return refusef("It is the only one on its side: the link is its own already.")
	}
	// Ends are named within their link, so both links may use the same names.
	*taken = []End{(*kept)[at]}
	*kept = slices.Delete(*kept, at, at+1)
	d.putLink(rest)
	d.putLink(&own)
	d.moved = append(d.moved, Moved{Kind: KindLink, OldLink: op.Link, Old: op.End, NewLink: op.New, New: op.End})
	for _, id := range SortedIDs(d.m.Concepts) {
		c := d.m.Concepts[id]
		if c.Main == nil || c.Main.Link != op.Link || (c.Main.From != op.End && c.Main.To != op.End) {
			continue
		}
		next := *c
		next.Main = &Main{Strand{op.New, c.Main.From, c.Main.To}, c.Main.Rank}
		d.putConcept(&next)
	}
	return nil
}

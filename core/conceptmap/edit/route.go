package edit

import (
	cm "mevrin/core/conceptmap"
	"slices"
)

// AddRoute begins a route without stops.
type AddRoute struct {
	ID    cm.ID   `json:"id"`
	Lang  cm.Lang `json:"lang,omitempty"`
	Title string  `json:"title,omitempty"`
}

func (op *AddRoute) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	title, err := cm.Clean(op.Title, cm.MaxTitle, "The title of a route")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.Put(&cm.Route{ID: op.ID, Title: cm.Text(nil).With(lang, title)})
	return nil
}

// NameRoute gives a route its title in one language.
type NameRoute struct {
	Route cm.ID   `json:"route"`
	Lang  cm.Lang `json:"lang,omitempty"`
	Title string  `json:"title"`
}

func (op *NameRoute) apply(d *editing) error {
	r, err := d.route(op.Route)
	if err != nil {
		return err
	}
	title, err := cm.Clean(op.Title, cm.MaxTitle, "The title of a route")
	if err != nil {
		return err
	}
	lang, err := d.toldIn(r.ID, op.Lang)
	if err != nil {
		return err
	}
	next := *r
	next.Title = r.Title.With(lang, title)
	d.Put(&next)
	return nil
}

// RemoveRoute takes a route away with its stops.
type RemoveRoute struct {
	Route cm.ID `json:"route"`
}

func (op *RemoveRoute) apply(d *editing) error {
	if _, err := d.route(op.Route); err != nil {
		return err
	}
	for _, s := range d.Map.StopsOf(op.Route) {
		delete(d.Map.Stops, s.ID)
		d.Touch(cm.EntityStop, s.ID)
	}
	delete(d.Map.Routes, op.Route)
	d.Touch(cm.EntityRoute, op.Route)
	return nil
}

// AddStop adds a stop to a route behind another, or at its front.
type AddStop struct {
	ID    cm.ID    `json:"id"`
	Route cm.ID    `json:"route"`
	After cm.ID    `json:"after,omitempty"`
	Refs  []cm.Key `json:"refs,omitempty"`
}

func (op *AddStop) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	if _, err := d.route(op.Route); err != nil {
		return err
	}
	refs, err := d.refs(op.Refs, nil)
	if err != nil {
		return err
	}
	s := &cm.Stop{ID: op.ID, Route: op.Route, Refs: refs}
	return d.rankStop(s, op.After)
}

// refs makes references to what a stop shows. What it has shown so far may be
// gone from the map; everything else must be there.
func (d *editing) refs(keys []cm.Key, had []cm.Ref) ([]cm.Ref, error) {
	if len(keys) > cm.MaxRefs {
		return nil, cm.Refusef("A stop can show at most %d things.", cm.MaxRefs)
	}
	var refs []cm.Ref
	for _, key := range keys {
		same := func(r cm.Ref) bool { return r.Kind == key.Kind && r.ID == key.ID }
		if slices.ContainsFunc(refs, same) {
			continue
		}
		if i := slices.IndexFunc(had, same); i >= 0 {
			refs = append(refs, had[i])
			continue
		}
		if key == (cm.Key{Kind: cm.EntityMap}) {
			refs = append(refs, cm.Ref{Kind: key.Kind})
			continue
		}
		words, there := d.Map.WordsAt(key)
		if !there || key.Kind != cm.EntityConcept && key.Kind != cm.EntityLink && key.Kind != cm.EntityRegion {
			return nil, cm.Refusef("What this stop should show is no longer on the map.")
		}
		refs = append(refs, cm.Ref{Kind: key.Kind, ID: key.ID, Seen: words})
	}
	return refs, nil
}

// ShowAtStop says anew what a stop shows: concepts and links, or nothing.
type ShowAtStop struct {
	Stop cm.ID    `json:"stop"`
	Refs []cm.Key `json:"refs"`
}

func (op *ShowAtStop) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	refs, err := d.refs(op.Refs, s.Refs)
	if err != nil {
		return err
	}
	next := *s
	next.Refs = refs
	d.Put(&next)
	return nil
}

// MoveStop puts a stop behind another of its route, or at its front.
type MoveStop struct {
	Stop  cm.ID `json:"stop"`
	After cm.ID `json:"after,omitempty"`
}

func (op *MoveStop) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	next := *s
	return d.rankStop(&next, op.After)
}

// RemoveStop takes a stop out of its route.
type RemoveStop struct {
	Stop cm.ID `json:"stop"`
}

func (op *RemoveStop) apply(d *editing) error {
	if _, err := d.stop(op.Stop); err != nil {
		return err
	}
	delete(d.Map.Stops, op.Stop)
	d.Touch(cm.EntityStop, op.Stop)
	return nil
}

// rankStop puts a stop into its route behind another and stores it.
func (d *editing) rankStop(s *cm.Stop, after cm.ID) error {
	others := slices.DeleteFunc(d.Map.StopsOf(s.Route), func(o *cm.Stop) bool { return o.ID == s.ID })
	at := 0
	if after != "" {
		i := slices.IndexFunc(others, func(o *cm.Stop) bool { return o.ID == after })
		if i < 0 {
			return cm.Refusef("The stop before it is gone from this route.")
		}
		at = i + 1
	}
	low, high := "", ""
	if at > 0 {
		low = others[at-1].Rank
	}
	if at < len(others) {
		high = others[at].Rank
	}
	if high == "" || low < high {
		s.Rank = cm.KeyBetween(low, high)
		d.Put(s)
		return nil
	}
	// Two authors can leave equal ranks behind; give all of them anew.
	rank := ""
	for _, o := range slices.Insert(others, at, s) {
		next := *o
		rank = cm.KeyBetween(rank, "")
		next.Rank = rank
		d.Put(&next)
	}
	return nil
}

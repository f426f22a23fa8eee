package query

import (
	"errors"
	"fmt"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/format/cite"
)

// sourceView is a source as the margin shows it.
type sourceView struct {
	ID cm.ID
	cm.Source
	Kind cm.SourceKind
	Name string
	Href string // relative to the map's address
	Size string
	Thing,
	ThingID string // what it is attached to, for its operations
}

func sourceViews(all map[cm.ID]cm.Source, on cm.Key) []sourceView {
	var views []sourceView
	for _, id := range cm.SourceList(all) {
		src := all[id]
		v := sourceView{ID: id, Source: src, Kind: src.Kind(), Name: src.Name(), Thing: string(on.Kind), ThingID: string(on.ID)}
		if src.File != nil {
			v.Href, v.Size = "files/"+src.File.Hash, BytesWords(src.File.Size)
		}
		views = append(views, v)
	}
	return views
}

func BytesWords(n int64) string {
	switch {
	case n >= 1<<20:
		return fmt.Sprintf("%.1f MB", float64(n)/(1<<20))
	case n >= 1<<10:
		return fmt.Sprintf("%d kB", n>>10)
	}
	return fmt.Sprintf("%d bytes", n)
}

// Shows tells whether a walk along a route shows a file.
func (s Reading) Shows(route cm.ID, hash string) bool {
	if s.Map.Routes[route] == nil {
		return false
	}
	for _, stop := range s.Map.WalkedStops(route) {
		for _, src := range stop.Sources {
			if src.File != nil && src.File.Hash == hash {
				return true
			}
		}
	}
	part := s.walked(route, guide.Growth(s.Map, route))
	return slices.ContainsFunc(part.Files(), func(f cm.File) bool { return f.Hash == hash })
}

// ReadCited reads works that were pasted as BibTeX or CSL-JSON.
func ReadCited(text string) ([]cm.Citation, error) {
	all, err := cite.Read(text)
	switch {
	case errors.Is(err, cite.ErrNone):
		err = cm.Refusef("There is no cited work in that. Paste BibTeX entries, or CSL-JSON as reference managers export it.")
	case errors.Is(err, cite.ErrTooMany):
		err = cm.Refusef("That is too much at once: at most %d works.", cite.MaxWorks)
	case errors.Is(err, cite.ErrBroken):
		err = cm.Refusef("That cannot be read to its end: is a bracket missing? Nothing was attached.")
	}
	return all, err
}

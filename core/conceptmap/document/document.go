package document

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
)

// DocumentVersion is the version of the map document that Write writes. Read
// refuses newer ones: what it does not understand it might lose.
const DocumentVersion = 1

// head is what stands in a document before the lists of entities.
type head struct {
	Version int   `json:"mevrin"`
	ID      cm.ID `json:"id"`
	cm.Header
}

// Write gives the map as a document: what it says of itself, then a list for each
// sort of entity, in the order of ids, so that equal maps are equal byte for byte.
func Write(m *cm.Map) ([]byte, error) {
	var out bytes.Buffer
	to := json.NewEncoder(&out)
	to.SetEscapeHTML(false)
	to.SetIndent("", "  ")
	if err := to.Encode(head{DocumentVersion, m.ID, m.Header}); err != nil {
		return nil, fmt.Errorf("writing map %s: %w", m.ID, err)
	}
	out.Truncate(out.Len() - len("\n}\n"))
	to.SetIndent("  ", "  ")
	for _, d := range cm.Entities {
		if d.List == "" || d.Len(m) == 0 && !d.Always {
			continue
		}
		list := make([]any, 0, d.Len(m))
		for _, id := range d.IDs(m) {
			list = append(list, d.Get(m, id))
		}
		fmt.Fprintf(&out, ",\n  %q: ", d.List)
		if err := to.Encode(list); err != nil {
			return nil, fmt.Errorf("writing map %s: %w", m.ID, err)
		}
		out.Truncate(out.Len() - len("\n"))
	}
	out.WriteString("\n}\n")
	return out.Bytes(), nil
}

// Read reads a document, from wherever it comes. Its texts are cleaned and its
// hierarchy is settled as after any operation; whatever else is not sound
// refuses the document as a whole, with words that say where.
func Read(raw []byte) (*cm.Map, error) {
	var version struct {
		Version *int `json:"mevrin"`
	}
	if err := json.Unmarshal(raw, &version); err != nil {
		return nil, errors.Join(cm.Refusef("This file cannot be read as a map: it is not whole, or no JSON."), err)
	}
	switch {
	case version.Version == nil:
		return nil, cm.Refusef("This file is JSON, but no map of Mevrin.")
	case *version.Version > DocumentVersion:
		return nil, cm.Refusef("This map was written by a newer version of Mevrin (document version %d; this one reads up to %d). Nothing was changed.", *version.Version, DocumentVersion)
	case *version.Version < 1:
		return nil, cm.Refusef("This file names a document version that never was.")
	}
	if err := strict(raw); err != nil {
		return nil, err
	}
	var members map[string]json.RawMessage
	from := json.NewDecoder(bytes.NewReader(raw))
	if err := from.Decode(&members); err != nil {
		return nil, unsound(err)
	}
	if _, err := from.Token(); err != io.EOF {
		return nil, cm.Refusef("This file goes on after the end of the map.")
	}
	return build(members)
}

func unsound(err error) error {
	words := "it holds something that this version does not know"
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		words = fmt.Sprintf("“%s” does not hold what belongs there", kind.Field)
	}
	return errors.Join(cm.Refusef("This file is no sound map: %s.", words), err)
}

// build makes a map of the members of a document.
func build(members map[string]json.RawMessage) (*cm.Map, error) {
	lists := map[*cm.Description][]json.RawMessage{}
	for _, d := range cm.Entities {
		var list []json.RawMessage
		if raw, there := members[d.List]; there && d.List != "" {
			if err := json.Unmarshal(raw, &list); err != nil {
				return nil, errors.Join(cm.Refusef("This file is no sound map: “%s” does not hold what belongs there.", d.List), err)
			}
			delete(members, d.List)
		}
		if len(list) > d.Max {
			return nil, cm.Refusef("This map is too large: at most %d %s fit.", d.Max, d.List)
		}
		lists[d] = list
	}
	rest, err := json.Marshal(members)
	if err != nil {
		return nil, unsound(err)
	}
	var top head
	if err := cm.DecodeStrictly(rest, &top); err != nil {
		return nil, unsound(err)
	}
	if !top.ID.Valid() {
		return nil, cm.Refusef("The map in this file has no proper id.")
	}
	if !top.Language.Valid() {
		return nil, cm.Refusef("The map in this file does not say in which language it is.")
	}
	r := reader{Draft: draft.New(cm.NewMap(top.ID, top.Language))}
	for _, d := range cm.Entities {
		for _, raw := range lists[d] {
			r.entity(d, raw)
		}
	}
	r.Map.Header = top.Header
	r.fail(Check(cm.Describe(cm.EntityMap), "", &r.Map.Header))
	r.references()
	if r.err != nil {
		return nil, r.err
	}
	if err := r.Fits(); err != nil {
		return nil, err
	}
	r.MendHierarchy()
	return r.Map, nil
}

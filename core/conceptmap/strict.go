package conceptmap

import (
	"bytes"
	"encoding/json"
	"strings"
)

// memberNames are the names of members in a document, by their lower case.
var memberNames = func() map[string]string {
	all := map[string]string{}
	for name := range strings.FieldsSeq("mevrin id language title question focus rulesOff concepts links routes stops " +
		"label note at x y main link from to rank phrase heads concept route card guideNotes refs kind seen " +
		"tucked size bold italic align width sources url kinds name meaning colour outline hand line bends along hub tidied hold pattern when freely keepTidy tags icons icon amount value unit lasts links stroke role regions filters title members branches filled match conditions about not hide keyPlace folded away file hash type w h cite author year place says licence wide table head rows look dress paper large by paint words fill border tray") {
		all[strings.ToLower(name)] = name
	}
	return all
}()

// byID are the members whose own members are ids, which may be anything.
var byID = map[string]bool{"rulesOff": true, "tucked": true, "sources": true, "bends": true, "tags": true, "members": true, "branches": true}

// strict refuses what encoding/json lets pass in a document and what would be
// lost in silence: a member named twice, one that differs from a known name
// only in case, and null, which says neither that something is there nor that
// it is not. The document must be well-formed JSON.
func strict(raw []byte) error {
	from := json.NewDecoder(bytes.NewReader(raw))
	type level struct {
		object bool
		names  map[string]bool
		named  bool // a name has been read, its value follows
		name   string
		ids    bool // its members are ids
	}
	var open []level
	for {
		token, err := from.Token()
		if err != nil {
			return nil // the end; what follows it is refused elsewhere
		}
		var here *level
		if len(open) > 0 {
			here = &open[len(open)-1]
		}
		if name, ok := token.(string); ok && here != nil && here.object && !here.named {
			if here.names[name] {
				return refusef("This file names “%.40s” twice in one place.", name)
			}
			if known, same := memberNames[strings.ToLower(name)]; same && known != name && !here.ids {
				return refusef("This file speaks of “%.40s”, which this version does not know.", name)
			}
			here.names[name], here.named, here.name = true, true, name
			continue
		}
		if here != nil {
			here.named = false
		}
		switch token {
		case nil:
			return refusef("Something in this file is null, which says nothing.")
		case json.Delim('{'):
			open = append(open, level{object: true, names: map[string]bool{}, ids: here != nil && here.object && byID[here.name]})
		case json.Delim('['):
			open = append(open, level{})
		case json.Delim('}'), json.Delim(']'):
			open = open[:len(open)-1]
		}
		if len(open) == 0 {
			return nil
		}
	}
}

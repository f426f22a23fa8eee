package document

import (
	"bytes"
	"encoding/json"
	cm "mevrin/core/conceptmap"
	"reflect"
	"strings"
)

// memberNames are the names of members in a document, by their lower case, and byID
// those whose own members are ids, which may be anything: both as the types say.
var memberNames, byID = func() (names map[string]string, ids map[string]bool) {
	names, ids = map[string]string{}, map[string]bool{}
	seen := map[reflect.Type]bool{}
	var look func(t reflect.Type)
	look = func(t reflect.Type) {
		switch t.Kind() {
		case reflect.Pointer, reflect.Slice, reflect.Map:
			look(t.Elem())
			return
		case reflect.Struct:
		default:
			return
		}
		if seen[t] {
			return
		}
		seen[t] = true
		for f := range t.Fields() {
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if name == "" && !f.Anonymous {
				name = f.Name
			}
			if name != "" && name != "-" {
				names[strings.ToLower(name)] = name
				if f.Type.Kind() == reflect.Map {
					ids[name] = true
				}
			}
			look(f.Type)
		}
	}
	look(reflect.TypeFor[head]())
	for _, d := range cm.Entities {
		look(d.Type)
		if d.List != "" {
			names[strings.ToLower(d.List)] = d.List
		}
	}
	return names, ids
}()

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
				return cm.Refusef("This file names “%.40s” twice in one place.", name)
			}
			if known, same := memberNames[strings.ToLower(name)]; same && known != name && !here.ids {
				return cm.Refusef("This file speaks of “%.40s”, which this version does not know.", name)
			}
			here.names[name], here.named, here.name = true, true, name
			continue
		}
		if here != nil {
			here.named = false
		}
		switch token {
		case nil:
			return cm.Refusef("Something in this file is null, which says nothing.")
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

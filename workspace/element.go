package workspace

import (
	"strings"

	cm "mevrin/core/conceptmap"
)

// Element names a thing as its group in a drawing does.
func Element(key cm.Key) string {
	switch key.Kind {
	case cm.EntityLink:
		return "l-" + string(key.ID)
	case cm.EntityRegion:
		return "r-" + string(key.ID)
	case cm.EntityMap:
		return "m-" + string(key.ID)
	}
	return "c-" + string(key.ID)
}

// KeyOf reads a name that Element gave; known is false where it is none of a concept, a
// link or a region.
func KeyOf(element string) (key cm.Key, known bool) {
	kind, id, _ := strings.Cut(element, "-")
	key.ID = cm.ID(id)
	key.Kind, known = map[string]cm.Entity{"c": cm.EntityConcept, "l": cm.EntityLink, "r": cm.EntityRegion}[kind]
	return key, known
}

package workspace

import cm "mevrin/core/conceptmap"

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

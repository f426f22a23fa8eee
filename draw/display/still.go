package display

import (
	"slices"
	"strings"
)

// hands are the classes of what is there for whoever works on a map, and on no drawing that leaves it.
var hands = []string{"fold-sign", "fold-touch"}

// Still gives items without what only hands are for: signs that fold, and what makes them easy to hit.
func Still(items []Item) []Item {
	all := make([]Item, 0, len(items))
	for _, item := range items {
		if slices.ContainsFunc(hands, func(name string) bool { return hasClass(item, name) }) {
			continue
		}
		if g, is := item.(*Group); is {
			still := *g
			still.Items = Still(g.Items)
			item = &still
		}
		all = append(all, item)
	}
	return all
}

func hasClass(item Item, name string) bool {
	for class := range strings.FieldsSeq(item.class()) {
		if class == name {
			return true
		}
	}
	return false
}

package query

import (
	"strings"

	"mevrin/store"
)

// Indented gives folders, each below the one in which it is, as a list from which one is chosen.
func Indented(all []store.Folder) (list []Choice) {
	var below func(parent string, depth int)
	below = func(parent string, depth int) {
		for _, f := range all {
			if f.Parent == parent && depth <= store.MaxFolderDepth {
				list = append(list, Choice{Value: f.ID, Name: strings.Repeat("\u2003", depth) + f.Name})
				below(f.ID, depth+1)
			}
		}
	}
	below("", 0)
	return list
}

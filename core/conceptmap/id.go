package conceptmap

import (
	"maps"
	"regexp"
	"slices"
	"strconv"
)

// ID names a thing within one map, for good. Ids are made by whoever makes the
// thing, usually the page: up to 40 letters, digits, hyphens and underscores.
type ID string

// IDPattern is the form of an id.
var IDPattern = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$`)

// Valid tells whether the id has the form of an id.
func (id ID) Valid() bool { return IDPattern.MatchString(string(id)) }

// SortedIDs gives the keys of a collection in the order of ids.
func SortedIDs[V any](all map[ID]V) []ID {
	return slices.Sorted(maps.Keys(all))
}

// InOrder gives the things of a collection in the order of their ids.
func InOrder[V any](all map[ID]V) []V {
	list := make([]V, 0, len(all))
	for _, id := range SortedIDs(all) {
		list = append(list, all[id])
	}
	return list
}

// Numbered gives an id like another that ends in a number.
func Numbered(id ID, n int) ID {
	tail := "_" + strconv.Itoa(n)
	return id[:min(len(id), 40-len(tail))] + ID(tail)
}

// WithMember gives a set with or without one member; an empty set is nil.
func WithMember(set map[ID]bool, id ID, on bool) map[ID]bool {
	next := maps.Clone(set)
	if !on {
		delete(next, id)
		if len(next) == 0 {
			return nil
		}
		return next
	}
	if next == nil {
		next = map[ID]bool{}
	}
	next[id] = true
	return next
}

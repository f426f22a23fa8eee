package edit

import (
	"maps"
	"reflect"
	"slices"
)

// Forms gives, by its name, the struct that each kind of operation travels as: the name
// in "do", and beside it all that the operation holds.
func Forms() (names []string, forms map[string]reflect.Type) {
	forms = map[string]reflect.Type{}
	for name, w := range wiresByName {
		forms[name] = w.form
	}
	return slices.Sorted(maps.Keys(forms)), forms
}

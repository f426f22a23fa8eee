// Package icon holds the small pictures that stand on slips and in the key: an
// open set of line drawings (Lucide, ISC licence), each on 24 by 24 pixels.
package icon

import (
	_ "embed"
	"encoding/json"

	cm "mevrin/core/conceptmap"
)

//go:embed icons.json
var file []byte

// Grid is how wide and high a picture is, in its own pixels.
const Grid = 24.0

// Icon is one picture.
type Icon struct {
	Name  cm.Icon `json:"name"`
	Group string  `json:"group"`
	Words string  `json:"words"` // by which it is found
	Body  string  `json:"body"`  // SVG shapes without colours
}

// All are the pictures, group by group.
var All = func() []Icon {
	var all []Icon
	if err := json.Unmarshal(file, &all); err != nil {
		panic("icon: " + err.Error())
	}
	return all
}()

var byName = func() map[cm.Icon]Icon {
	all := map[cm.Icon]Icon{}
	for _, i := range All {
		all[i.Name] = i
	}
	return all
}()

// Named gives a picture; ok is false where the set has none of that name.
func Named(name cm.Icon) (i Icon, ok bool) {
	i, ok = byName[name]
	return i, ok
}

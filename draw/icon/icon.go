// Package icon holds the small pictures that stand on slips and in the key: an
// open set of line drawings (Lucide, ISC licence), each on 24 by 24 pixels.
package icon

import (
	_ "embed"
	"encoding/json"
	"fmt"

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
	return append(degrees(), all...)
}()

// degrees draws the scales: priority as one to three chevrons, progress as a disc that fills
// clockwise.
func degrees() []Icon {
	const chevron = `<path d="m5 %[1]d 7-6 7 6"/>`
	sector := func(quarters int) string {
		body := `<circle cx="12" cy="12" r="9"/>`
		for r := 1; r <= 7; r += 2 { // as thick arcs, so that it is filled
			if quarters == 4 {
				body += fmt.Sprintf(`<circle cx="12" cy="12" r="%d"/>`, r)
				continue
			}
			end := [...]string{"", "%[2]d 12", "12 %[2]d", "%[3]d 12"}[quarters]
			large := 0
			if quarters == 3 {
				large = 1
			}
			body += fmt.Sprintf(`<path d="M12 %[1]d A%[4]d %[4]d 0 %[5]d 1 `+end+`"/>`, 12-r, 12+r, 12-r, r, large)
		}
		return body
	}
	draw := map[cm.Icon]string{
		"priority-high":   fmt.Sprintf(chevron+`<path d="m5 %[2]d 7-6 7 6"/><path d="m5 %[3]d 7-6 7 6"/>`, 9, 15, 21),
		"priority-middle": fmt.Sprintf(chevron+`<path d="m5 %[2]d 7-6 7 6"/>`, 15, 21),
		"priority-low":    fmt.Sprintf(chevron, 21),
		"progress-none":   `<circle cx="12" cy="12" r="9"/>`, "progress-quarter": sector(1), "progress-half": sector(2), "progress-most": sector(3), "progress-done": sector(4),
	}
	var all []Icon
	for _, s := range cm.Scales {
		for _, d := range s.Degrees {
			all = append(all, Icon{Name: d.Icon, Group: s.Name, Words: d.Means + " " + s.Name, Body: draw[d.Icon]})
		}
	}
	return all
}

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

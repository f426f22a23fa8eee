package svg

import (
	"fmt"
	"html"
	"strings"

	"mevrin/draw/scene"
)

// RouteWay writes the way of a route: a band to lie under slips and links.
func RouteWay(l scene.RouteLine) string {
	var d strings.Builder
	for _, way := range l.Ways {
		for i, p := range way {
			d.WriteString(map[bool]string{true: "M", false: "L"}[i == 0])
			fmt.Fprintf(&d, "%.1f %.1f", p.X, p.Y)
		}
	}
	if d.Len() == 0 {
		return ""
	}
	return `<path class="route-way" d="` + d.String() + `"/>`
}

// RouteNumbers writes the numerals beside what the stops of a route show.
func RouteNumbers(l scene.RouteLine) string {
	var out strings.Builder
	for _, n := range l.Numbers {
		fmt.Fprintf(&out, `<text class="stop-number" x="%.1f" y="%.1f">%s</text>`, n.Box.X, n.Box.Y+n.Box.H-3, html.EscapeString(n.Words))
	}
	return out.String()
}

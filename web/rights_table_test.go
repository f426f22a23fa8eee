package web

import (
	"fmt"
	"strings"

	"mevrin/core/people"
)

// RightsTable gives, as a table in Markdown, what each address needs and who may ask for it: bearers of
// links, people by what they are here, and people by their right on the map.
func RightsTable() string {
	var b strings.Builder
	b.WriteString("| address | needs | anybody | bearer of a link | learner, author | owner of this Mevrin |")
	for _, r := range people.Rights {
		fmt.Fprintf(&b, " right: %s |", r.ID)
	}
	b.WriteString("\n|" + strings.Repeat(" --- |", 6+len(people.Rights)) + "\n")
	mark := func(is bool) string {
		if is {
			return " ● |"
		}
		return " |"
	}
	for _, a := range Addresses() {
		byLink := strings.Contains(a.Path, ":token") || strings.Contains(a.Path, ":code")
		ofMap := strings.HasPrefix(a.Path, "/maps/:map")
		fmt.Fprintf(&b, "| `%s %s` | %s |", a.Method, a.Path, a.Needs)
		b.WriteString(mark(a.Needs == CanOpen) + mark(byLink))
		rest := a.Needs != CanOpen && !byLink
		b.WriteString(mark(rest && !ofMap && roleCan[people.RoleLearner][a.Needs] && roleCan[people.RoleAuthor][a.Needs]))
		b.WriteString(mark(rest && !ofMap && roleCan[people.RoleOwner][a.Needs]))
		for _, r := range people.Rights {
			b.WriteString(mark(rest && ofMap && rightCan[r.ID][a.Needs]))
		}
		b.WriteString("\n")
	}
	return b.String()
}

// RoleMay tells whether people of a role may do something apart from any map, RightMay whether a right on a
// map lets them.
func RoleMay(role people.Role, needs Capability) bool { return roleCan[role][needs] }

func RightMay(right people.Right, needs Capability) bool { return rightCan[right][needs] }

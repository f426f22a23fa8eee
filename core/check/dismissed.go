package check

import (
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
)

// signature names a place of a rule, whatever the order of its things.
func signature(rule string, keys []cm.Key) string {
	parts := make([]string, len(keys))
	for i, k := range keys {
		parts[i] = string(k.Kind) + ":" + string(k.ID)
	}
	slices.Sort(parts)
	return rule + " " + strings.Join(parts, " ")
}

// left gives the signatures of findings that were left as they are.
func left(m *cm.Map) map[string]bool {
	if len(m.Dismissals) == 0 {
		return nil
	}
	all := map[string]bool{}
	for _, d := range m.Dismissals {
		if !d.Holds(m) {
			continue
		}
		var keys []cm.Key
		for _, ref := range d.Refs {
			keys = append(keys, cm.Key{Kind: ref.Kind, ID: ref.ID})
		}
		all[signature(d.Rule, keys)] = true
	}
	return all
}

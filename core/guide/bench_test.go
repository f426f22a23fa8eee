package guide_test

import (
	"fmt"
	"testing"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/guide"
	"mevrin/core/structure"
)

// BenchmarkFrame300 is one step of a room through sixty stops over 300 concepts.
func BenchmarkFrame300(b *testing.B) {
	ops := append(maptest.Large(300), &edit.AddRoute{ID: "long"})
	after := cm.ID("")
	for i := range 60 {
		id := cm.ID(fmt.Sprint("long", i))
		ops = append(ops, &edit.AddStop{ID: id, Route: "long", After: after, Refs: []cm.Key{{Kind: cm.EntityConcept, ID: cm.ID(fmt.Sprintf("c%05d", 4*i))}, {Kind: cm.EntityConcept, ID: cm.ID(fmt.Sprintf("c%05d", 4*i+1))}}})
		after = id
	}
	out, err := edit.Apply(cm.NewMap("m", "en"), ops, nil)
	if err != nil {
		b.Fatal(err)
	}
	m, s := out.Map, structure.Of(out.Map)
	var lead guide.Lead
	for range 40 {
		lead, _ = lead.Do(m, "long", guide.Command{Deed: guide.DeedNext})
	}
	for b.Loop() {
		next, _ := lead.Do(m, "long", guide.Command{Deed: guide.DeedNext})
		next.Frame(m, s, "long")
	}
}

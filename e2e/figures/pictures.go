package main

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/png"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/e2e/drive"
	"mevrin/store"
)

// How many pictures stand on one map, on how many concepts.
const (
	manyPictures = 200
	pictured     = 300
)

// illustrate makes a map with many pictures, each another file of some size.
func illustrate(t drive.T, s *store.Store) {
	ctx := context.Background()
	must := func(err error) {
		if err != nil {
			t.Fatalf("%v", err)
		}
	}
	if _, err := s.All().Create(ctx, "pictures", "en"); err != nil {
		t.Fatalf("%v", err)
	}
	ops := maptest.Large(pictured)
	for i := range manyPictures {
		img := image.NewNRGBA(image.Rect(0, 0, 900, 600))
		for y := range 600 {
			for x := range 900 {
				img.SetNRGBA(x, y, color.NRGBA{uint8(x*y/97 + i), uint8(x + i*7), uint8(y ^ x), 255})
			}
		}
		var raw bytes.Buffer
		must(png.Encode(&raw, img))
		kept, err := s.All().KeepFile(ctx, "pictures", "author", fmt.Sprintf("p%d.png", i), &raw, func(f *cm.File, _ string) error {
			f.Type, f.W, f.H = "image/png", 900, 600
			return nil
		})
		must(err)
		file := kept.File
		ops = append(ops, &edit.AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: cm.ID(fmt.Sprintf("c%05d", i))}, ID: "s", Source: cm.Source{File: &file, Says: "a pattern", Wide: 120}})
	}
	out, err := edit.Apply(cm.NewMap("pictures", "en"), ops, nil)
	must(err)
	must(s.All().Append(ctx, &store.Entry{Revision: 1, ID: "begin", Author: "author", Changes: out.Changes}, out.Map))
}

// pictures measures a map with many of them: until all are seen, and gestures.
func pictures(t drive.T, b *drive.Browser, base string) {
	p := b.Page(t, 1280, 800)
	seen := func() (used, all float64) {
		p.Goto(base + "/maps/pictures")
		p.Wait(`performance.getEntriesByName("ready").length`)
		drive.Eval[bool](p, `Promise.all([...document.querySelectorAll("#slips image")].map(i => { const o = new Image(); o.src = i.getAttribute("href"); return o.decode() })).then(() => { window.allSeen = performance.now(); return true })`)
		return drive.Eval[float64](p, `performance.getEntriesByName("ready")[0].startTime`), drive.Eval[float64](p, "window.allSeen")
	}
	used, all := seen()
	fmt.Printf("%d pictures on %d concepts: until it can be used %.0f ms, until all are seen %.0f ms", manyPictures, pictured, used, all)
	used, all = seen()
	fmt.Printf("; again %.0f / %.0f ms\n", used, all)
	gestures(t, b, base, "pictures", pictured, scales)
}

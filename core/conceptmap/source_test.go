package conceptmap_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
)

var (
	onRim  = cm.Key{Kind: cm.EntityConcept, ID: "rim"}
	onBell = cm.Key{Kind: cm.EntityConcept, ID: "crown"}
	onTray = cm.Key{Kind: cm.EntityMap, ID: "m"}
	aHash  = strings.Repeat("0a", 32)
)

func aPicture(wide float64) cm.Source {
	return cm.Source{File: &cm.File{Hash: aHash, Type: "image/png", Size: 10, W: 300, H: 200}, Title: "rim.png", Wide: wide}
}

// What is attached keeps its order, is of the sort that it has, and is mended
// where it was pasted carelessly.
func TestSourcesAreAttachedAndMended(t *testing.T) {
	m := apply(t, tower(t),
		&edit.AttachSource{On: onRim, ID: "a", Source: cm.Source{URL: " <https://https://hollin.example/a> "}},
		&edit.AttachSource{On: onRim, ID: "b", Source: cm.Source{URL: "www.hollin.example"}},
		&edit.AttachSource{On: onRim, ID: "c", Source: aPicture(120)},
		&edit.AttachSource{On: onRim, ID: "d", Source: cm.Source{File: &cm.File{Hash: aHash, Type: "audio/wav"}}},
		&edit.AttachSource{On: onRim, ID: "e", Source: cm.Source{Cite: &cm.Citation{Author: "Hollin", Year: "1902", Title: " On bells ", Place: "Works"}}},
		&edit.AttachSource{On: cm.Key{Kind: cm.EntityLink, ID: "c-hits"}, ID: "f", Source: cm.Source{File: &cm.File{Hash: strings.Repeat("0b", 32), Type: "application/pdf"}, Title: "a report"}},
	)
	all := m.Concepts["rim"].Sources
	assert.Equal(t, []cm.ID{"a", "b", "c", "d", "e"}, cm.SourceList(all))
	assert.Equal(t, "https://hollin.example/a", all["a"].URL)
	assert.Equal(t, "https://www.hollin.example", all["b"].URL)
	for id, kind := range map[cm.ID]cm.SourceKind{"a": cm.SourceWeb, "c": cm.SourcePicture, "d": cm.SourceSound, "e": cm.SourceCite} {
		assert.Equal(t, kind, all[id].Kind(), id)
	}
	assert.Equal(t, "Hollin 1902: On bells. Works", all["e"].Name())
	assert.Equal(t, "rim.png", all["c"].Name())
	assert.Equal(t, cm.SourceFile, m.Links["c-hits"].Sources["f"].Kind())
	id, picture, ok := m.Concepts["rim"].Picture()
	require.True(t, ok)
	assert.Equal(t, cm.ID("c"), id)
	assert.Equal(t, 120.0, picture.Wide)
	assert.Len(t, m.Files(), 2, "one content is one file")

	says, wide := "a green rim", 9.0
	m = apply(t, m, &edit.SetSource{On: onRim, ID: "c", Says: &says, Wide: &wide})
	assert.Equal(t, float64(cm.MinPicture), m.Concepts["rim"].Sources["c"].Wide, "no picture is too small to be seen")
	assert.Equal(t, []cm.ID{"a", "b", "c", "d", "e"}, cm.SourceList(m.Concepts["rim"].Sources), "it stays where it was")

	// A merge brings all that is not there.
	m = apply(t, m, &edit.AttachSource{On: onBell, ID: "a", Source: cm.Source{URL: "https://hollin.example/other"}}, &edit.AttachSource{On: onBell, ID: "z", Source: aPicture(0)})
	merged := apply(t, m, &edit.MergeConcepts{Keep: "crown", Gone: "rim"})
	assert.Len(t, merged.Concepts["crown"].Sources, 5, "the same picture is not doubled")
	assert.Equal(t, "https://hollin.example/other", merged.Concepts["crown"].Sources["a"].URL)

	gone := apply(t, m, &edit.DetachSource{On: onBell, ID: "a"}, &edit.DetachSource{On: onBell, ID: "z"})
	assert.Nil(t, gone.Concepts["crown"].Sources)
}

func TestSourcesThatCannotBeAreRefused(t *testing.T) {
	m := apply(t, tower(t), &edit.AttachSource{On: onRim, ID: "a", Source: cm.Source{URL: "https://hollin.example/a"}})
	long := strings.Repeat("x", cm.MaxSourceSays+1)
	for name, op := range map[string]edit.Operation{
		"nothing":          &edit.AttachSource{On: onRim, ID: "s"},
		"two things":       &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{URL: "https://hollin.example", Cite: &cm.Citation{Title: "x"}, File: &cm.File{Hash: aHash, Type: "image/png"}}},
		"no hash":          &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{File: &cm.File{Hash: "../../etc", Type: "image/png"}}},
		"no type":          &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{File: &cm.File{Hash: aHash, Type: "image/<svg>"}}},
		"too large":        &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{File: &cm.File{Hash: aHash, Type: "image/png", Size: cm.MaxFile + 1}}},
		"a sound on slips": &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{File: &cm.File{Hash: aHash, Type: "audio/wav"}, Wide: 100}},
		"no title":         &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{Cite: &cm.Citation{Author: "Hollin"}}},
		"twice":            &edit.AttachSource{On: onRim, ID: "s", Source: cm.Source{URL: "https://hollin.example/a"}},
		"one name":         &edit.AttachSource{On: onRim, ID: "a", Source: cm.Source{URL: "https://hollin.example/b"}},
		"no name":          &edit.AttachSource{On: onRim, ID: "a b", Source: cm.Source{URL: "https://hollin.example/b"}},
		"nowhere":          &edit.AttachSource{On: cm.Key{Kind: cm.EntityRoute, ID: "r"}, ID: "s", Source: cm.Source{URL: "https://hollin.example/b"}},
		"said too long":    &edit.SetSource{On: onRim, ID: "a", Says: &long},
		"not there":        &edit.SetSource{On: onRim, ID: "x"},
		"gone":             &edit.PlaceSource{From: onTray, ID: "a", To: onRim},
		"rows uneven":      &edit.SetTable{Concept: "rim", Table: &cm.Table{Rows: [][]string{{"a", "b"}, {"c"}}}},
		"no rows":          &edit.SetTable{Concept: "rim", Table: &cm.Table{}},
		"no colour":        &edit.SetPaint{Concepts: []cm.ID{"rim"}, Fill: new(cm.Colour("beige"))},
		"no look":          &edit.SetLook{Theme: new(cm.Theme("velvet"))},
	} {
		out, err := edit.Apply(m, []edit.Operation{op}, nil)
		var refusal *cm.Refusal
		require.ErrorAs(t, err, &refusal, name)
		assert.NotEmpty(t, refusal.Error())
		assert.Nil(t, out.Map)
	}
}

// From the tray to a concept, and on to a link; a picture stands on slips alone.
func TestSourcesAreMoved(t *testing.T) {
	m := apply(t, tower(t),
		&edit.AttachSource{On: onTray, ID: "p", Source: aPicture(0)}, &edit.AttachSource{On: onRim, ID: "p", Source: cm.Source{URL: "https://hollin.example"}},
		&edit.PlaceSource{From: onTray, ID: "p", To: onRim})
	assert.Nil(t, m.Tray)
	assert.Equal(t, []cm.ID{"p", "p_2"}, cm.SourceList(m.Concepts["rim"].Sources), "the name was taken")
	wide := 100.0
	m = apply(t, m, &edit.SetSource{On: onRim, ID: "p_2", Wide: &wide}, &edit.PlaceSource{From: onRim, ID: "p_2", To: cm.Key{Kind: cm.EntityLink, ID: "c-hits"}})
	assert.Equal(t, 0.0, m.Links["c-hits"].Sources["p_2"].Wide)
	assert.Len(t, m.Concepts["rim"].Sources, 1)
}

// A slip's own colours lie over its kind's, each for itself, until all are taken
// back; the look of the map likewise.
func TestPaintAndLooks(t *testing.T) {
	plum, clay, none, oval := cm.Colour("plum"), cm.Colour("clay"), cm.Colour(""), cm.OutlineOval
	m := apply(t, tower(t), &edit.AddKind{ID: "k", Name: "part", Outline: cm.OutlineCapsule}, &edit.AssignKind{Concepts: []cm.ID{"rim"}, Kind: "k"},
		&edit.SetPaint{Concepts: []cm.ID{"rim", "crown"}, Fill: &plum, Words: &clay})
	assert.Equal(t, cm.OutlineCapsule, m.OutlineOf(m.Concepts["rim"]))
	m = apply(t, m, &edit.SetPaint{Concepts: []cm.ID{"rim"}, Outline: &oval, Words: &none})
	assert.Equal(t, &cm.Paint{Fill: plum, Outline: &oval}, m.Concepts["rim"].Paint)
	assert.Equal(t, cm.OutlineOval, m.OutlineOf(m.Concepts["rim"]))
	assert.Equal(t, clay, m.Concepts["crown"].Paint.Words)
	m = apply(t, m, &edit.SetPaint{Concepts: []cm.ID{"rim", "crown"}, Clear: true})
	assert.Nil(t, m.Concepts["rim"].Paint)
	assert.Equal(t, cm.OutlineCapsule, m.OutlineOf(m.Concepts["rim"]), "as its kind again")

	evening, dots, by, large := cm.ThemeEvening, cm.Paper("dots"), cm.ByLevel, true
	m = apply(t, m, &edit.SetLook{Theme: &evening, Paper: &dots, By: &by, Large: &large})
	assert.Equal(t, cm.Look{Theme: evening, Paper: dots, By: by, Large: true}, m.Look)
	out, err := edit.Apply(m, []edit.Operation{&edit.SetLook{Plain: true}}, nil)
	require.NoError(t, err)
	assert.Equal(t, cm.Look{}, out.Map.Look)
	assert.Equal(t, m.Look, history.Invert(out.Map, out.Changes).Map.Look, "and back in one step")
}

func TestAPictureLiesUnderTheMap(t *testing.T) {
	plan := cm.Backdrop{File: cm.File{Hash: strings.Repeat("0c", 32), Type: "image/png", Size: 900, W: 400, H: 100}, At: cm.Point{X: -50, Y: 20}, Wide: 800}
	picture, lines, board := cm.PaperPicture, cm.Paper("lines"), cm.ThemeBoard
	m := apply(t, tower(t), &edit.SetLook{Paper: &picture, Picture: &plan, Theme: &board})
	assert.Equal(t, 200.0, m.Look.Picture.Height())
	assert.Equal(t, []cm.File{plan.File}, m.Files(), "it goes where the map goes")
	assert.Equal(t, cm.Look{Theme: board}, m.Look.Portable(), "but not to other maps")
	m = apply(t, m, &edit.SetFocus{Concept: "rim"})
	raw, err := document.Write(m)
	require.NoError(t, err)
	again, err := document.Read(raw)
	require.NoError(t, err)
	assert.Equal(t, m.Look, again.Look)
	assert.Equal(t, cm.Look{Theme: board, Paper: lines}, apply(t, m, &edit.SetLook{Paper: &lines}).Look, "a print takes its place")

	for name, spoil := range map[string]func(*cm.Backdrop){
		"no picture":    func(b *cm.Backdrop) { b.File.Type = "text/html" },
		"no extent":     func(b *cm.Backdrop) { b.File.H = 0 },
		"out of reach":  func(b *cm.Backdrop) { b.At.X = 1e9 },
		"nowhere":       func(b *cm.Backdrop) { b.At.Y = math.NaN() },
		"endless":       func(b *cm.Backdrop) { b.Wide = math.Inf(1) },
		"a long ribbon": func(b *cm.Backdrop) { b.File.W, b.File.H = 1, 100_000 },
		"a made-up file": func(b *cm.Backdrop) {
			b.File.Hash = "../../" + b.File.Hash[6:]
		},
	} {
		bad := plan
		spoil(&bad)
		_, err := edit.Apply(m, []edit.Operation{&edit.SetLook{Paper: &picture, Picture: &bad}}, nil)
		assert.Error(t, err, name)
	}
	_, err = edit.Apply(tower(t), []edit.Operation{&edit.SetLook{Paper: &picture}}, nil)
	assert.Error(t, err, "a picture must be there to be laid")
}

// What lies at an address is told by its ending, whatever comes after that.
func TestAddressesLeadToKinds(t *testing.T) {
	for address, want := range map[string]cm.SourceKind{
		"https://hollin.example/tower.JPG?wide=400":  cm.SourcePicture,
		"https://hollin.example/ring.mp4":            cm.SourceVideo,
		"https://hollin.example/hum.ogg#t=3":         cm.SourceSound,
		"https://hollin.example/report.pdf":          cm.SourceFile,
		"https://hollin.example/":                    cm.SourceWeb,
		"https://hollin.example/see?picture=one.jpg": cm.SourceWeb,
	} {
		assert.Equal(t, want, cm.Source{URL: address}.LeadsTo(), address)
	}
}

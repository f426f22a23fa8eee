package svg

import (
	"encoding/base64"

	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/face"
	"mevrin/draw/scene"
)

// frame is the paper around a drawing that leaves the page, in pixels.
const frame = 32

// Document writes a whole drawing as a file that needs nothing else: its look
// and the fonts of its words are in it, no script, and no address but those of
// the open standards. Title and question describe it to those who cannot see
// it. Pictures gives those on slips, by the hashes of their files; what it does not
// have, or all where it is nil, leaves an empty frame.
func Document(sc *scene.Scene, title, question string, pictures func(hash string) (mediaType string, raw []byte, ok bool)) string {
	box := sc.Bounds().Grown(frame, frame)
	colour := func(name string) string { return display.Colour(sc.Look, name) }
	items := display.Still(display.List(sc))
	w := &writer{picture: func(hash string) string {
		if pictures != nil {
			if kind, raw, ok := pictures(hash); ok {
				return "data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(raw)
			}
		}
		return ""
	}}
	w.put(`<?xml version="1.0" encoding="UTF-8"?>`, "\n", `<svg xmlns="http://www.w3.org/2000/svg" role="img"`)
	w.number("width", box.W)
	w.number("height", box.H)
	w.viewBox(box)
	w.put(">\n<title>")
	w.text(title)
	w.put("</title>\n<desc>")
	w.text(question)
	w.put("</desc>\n<style>\n", face.EmbeddedCSS(wordsOf(items)), display.Resolved(display.Style()+display.OwnRules(sc.Look), sc.Look), "</style>\n<g class=\"look-", display.ThemeName(sc.Look.Theme), "\">\n")
	w.items(display.Paper(box, sc.Look, colour))
	w.items(items)
	w.put("</g>\n</svg>\n")
	return w.String()
}

func (w *writer) viewBox(box geometry.Box) {
	w.put(` viewBox="`, display.Number(box.X), " ", display.Number(box.Y), " ", display.Number(box.W), " ", display.Number(box.H), `"`)
}

// wordsOf gives all words of a list by the voices in which they are set.
func wordsOf(items []display.Item) map[face.Voice][]string {
	all := map[face.Voice][]string{}
	var walk func([]display.Item)
	walk = func(items []display.Item) {
		for _, item := range items {
			switch i := item.(type) {
			case *display.Group:
				walk(i.Items)
			case *display.Text:
				for _, l := range i.Lines {
					all[i.Voice] = append(all[i.Voice], l.Words)
				}
			}
		}
	}
	walk(items)
	return all
}

// Small writes a drawing for a place where its words could not be read:
// outlines and lines only, bars for words. It carries its colours itself.
func Small(sc *scene.Scene) string {
	box := sc.Bounds().Grown(frame, frame)
	// Much smaller paper would magnify a few slips beyond their size.
	if grow := 560 - box.W; grow > 0 {
		box = box.Grown(grow/2, 0)
	}
	if grow := 350 - box.H; grow > 0 {
		box = box.Grown(0, grow/2)
	}
	w := &writer{picture: beside}
	w.put(`<svg xmlns="http://www.w3.org/2000/svg"`)
	w.viewBox(box)
	w.put(">\n")
	// Lines keep about a pixel at the size at which it is seen.
	w.items(display.Small(sc, max(1.5, box.W/340), func(name string) string { return display.Colour(sc.Look, name) }))
	w.put("\n</svg>\n")
	return w.String()
}

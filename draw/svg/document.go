package svg

import (
	"encoding/base64"
	"math"
	"regexp"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
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
	w := &writer{}
	box := sc.Bounds().Grown(frame, frame)
	w.put(`<?xml version="1.0" encoding="UTF-8"?>`, "\n", `<svg xmlns="http://www.w3.org/2000/svg" role="img" width="`)
	w.number(box.W)
	w.put(`" height="`)
	w.number(box.H)
	w.put(`" viewBox="`)
	w.numbers(box.X, box.Y, box.W, box.H)
	w.put("\">\n<title>")
	w.text(title)
	w.put("</title>\n<desc>")
	w.text(question)
	w.put("</desc>\n<style>\n", face.EmbeddedCSS(wordsOf(sc)), resolved(Style()+ownRules(sc.Look), sc.Look), "</style>\n<g class=\"look-", dressName(sc.Look.Dress), "\">\n")
	w.paper(box, sc.Look)
	w.put(Regions(sc), Axis(sc.Axis), "<g>\n", Group(sc.Links, Link), "</g>\n<g>\n", Group(sc.Slips, Slip), "</g>\n", Key(sc.Key), "</g>\n</svg>\n")
	return pictureAt.ReplaceAllStringFunc(w.String(), func(image string) string {
		if pictures != nil {
			if kind, raw, ok := pictures(pictureAt.FindStringSubmatch(image)[1]); ok {
				return `<image class="picture" href="data:` + kind + `;base64,` + base64.StdEncoding.EncodeToString(raw) + `"`
			}
		}
		return `<image class="picture"`
	})
}

// pictureAt finds where a drawing names the file of a picture.
var pictureAt = regexp.MustCompile(`<image class="picture" href="files/([0-9a-f]{64})/small"( data-source="[^"]*")?`)

// paper writes the sheet under a drawing, with what is printed on it.
func (w *writer) paper(box scene.Rect, l cm.Look) {
	look := func(name string) string { return lookOf(l, name) }
	w.put(`<rect x="`)
	w.number(box.X)
	w.put(`" y="`)
	w.number(box.Y)
	w.put(`" width="`)
	w.number(box.W)
	w.put(`" height="`)
	w.number(box.H)
	w.put(`" fill="`, look("paper"), `"/>`, "\n")
	if l.Paper == "" || l.Paper == cm.PaperPicture {
		return
	}
	w.put(`<path class="printed" fill="none" stroke="`, look("ink-faint"), `" stroke-opacity="0.55" stroke-width="`)
	step := scene.PaperStep
	if l.Paper == "dots" {
		w.put(`2.4" stroke-linecap="round" stroke-dasharray="0 `)
		w.number(step)
	} else {
		w.put(`1`)
	}
	w.put(`" d="`)
	x0, y0 := math.Floor(box.X/step)*step, math.Floor(box.Y/step)*step
	for y := y0 + step; y < box.Y+box.H; y += step {
		w.put(`M`)
		w.numbers(x0+step, y)
		w.put(`H`)
		w.number(box.X + box.W)
	}
	for x := x0 + step; x < box.X+box.W && l.Paper == "squares"; x += step {
		w.put(`M`)
		w.numbers(x, y0+step)
		w.put(`V`)
		w.number(box.Y + box.H)
	}
	w.put(`"/>`, "\n")
}

// backdrop writes the picture that lies under the slips.
func (w *writer) backdrop(p *cm.Backdrop) {
	if p == nil {
		return
	}
	w.put(`<image class="picture" href="files/`, p.File.Hash, `/small" pointer-events="none" opacity="`)
	w.number(cm.BackdropOpacity)
	w.put(`" x="`)
	w.number(p.At.X)
	w.put(`" y="`)
	w.number(p.At.Y)
	w.put(`" width="`)
	w.number(p.Wide)
	w.put(`" height="`)
	w.number(p.Height())
	w.put(`"/>`)
}

func wordsOf(sc *scene.Scene) map[face.Voice][]string {
	words := map[face.Voice][]string{}
	if sc.Axis != nil {
		for _, t := range sc.Axis.Ticks {
			words[face.Noun] = append(words[face.Noun], t.Words)
		}
	}
	noun := func(said ...string) { words[face.Noun] = append(words[face.Noun], said...) }
	for _, r := range sc.Regions {
		noun(lines(r.Words)...)
	}
	if sc.Key != nil {
		words[face.NounBold] = append(words[face.NounBold], "Key")
		noun("0123456789")
		for _, r := range sc.Key.Rows {
			noun(r.Words, strings.ToUpper(r.Words))
		}
	}
	for _, s := range sc.Slips {
		for _, k := range s.Marks {
			noun(k.Words)
		}
		for _, i := range s.Icons {
			if n, is := i.Step(); is {
				noun(strconv.Itoa(n))
			}
		}
		words[s.Words.Voice] = append(words[s.Words.Voice], lines(s.Words)...)
		if r := s.Remark; r != nil {
			words[r.Voice] = append(words[r.Voice], lines(r)...)
		}
	}
	for _, l := range sc.Links {
		for _, k := range l.Marks {
			noun(k.Words)
		}
		if l.Words != nil {
			words[face.Verb] = append(words[face.Verb], lines(l.Words)...)
		}
	}
	return words
}

// Small writes a drawing for a place where its words could not be read:
// outlines and lines only, bars for words. It carries its colours itself.
func Small(sc *scene.Scene) string {
	look := func(name string) string { return lookOf(sc.Look, name) }
	w := &writer{}
	box := sc.Bounds().Grown(frame, frame)
	// Much smaller paper would magnify a few slips beyond their size.
	if grow := 560 - box.W; grow > 0 {
		box = box.Grown(grow/2, 0)
	}
	if grow := 350 - box.H; grow > 0 {
		box = box.Grown(0, grow/2)
	}
	w.put(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="`)
	w.numbers(box.X, box.Y, box.W, box.H)
	w.put("\">\n")
	w.put(`<g fill="none" stroke="`, look("ink-soft"), `" stroke-width="`)
	// Lines keep about a pixel at the size at which it is seen.
	stroke := max(1.5, box.W/340)
	w.number(stroke)
	w.put(`">`)
	for _, id := range cm.SortedIDs(sc.Links) {
		w.put(`<path d="`)
		for _, leg := range sc.Links[id].Legs {
			w.path(leg.Path)
		}
		w.put(`"/>`)
	}
	w.put("</g>\n", `<g stroke="`, look("ink"), `" stroke-linejoin="round" stroke-width="`)
	w.number(stroke)
	w.put(`">`)
	for _, id := range cm.SortedIDs(sc.Slips) {
		s := sc.Slips[id]
		w.put(`<g transform="translate(`)
		w.numbers(s.Box.X, s.Box.Y)
		strip, fill := "strip", "slip"
		if s.Focus {
			strip = "ink"
		}
		if s.Colour != "" {
			strip, fill = string(s.Colour), string(s.Colour)+"-wash"
		}
		body, edge := outlines(s)
		w.put(`)"><path fill="`, look(fill), `" d="`)
		w.trace(body...)
		w.put(`"/><path stroke="`, look(strip), `" fill="`, look(strip), `" d="`)
		w.trace(edge...)
		w.put(`"/>`)
		w.bars(s.Words, s.Box, look("ink-faint"))
		w.put(`</g>`)
	}
	w.put("</g>\n</svg>\n")
	return w.String()
}

// bars writes a bar for each line of words.
func (w *writer) bars(b *scene.Block, box scene.Rect, colour string) {
	for i, line := range b.Lines {
		middle := (box.H-b.H)/2 + (float64(i)+0.5)*b.LineHeight
		left := (box.W + scene.Strip*2 - line.Px) / 2
		w.put(`<path stroke="`, colour, `" stroke-width="`)
		w.number(b.Size * 0.42)
		w.put(`" d="M`)
		w.numbers(left, middle)
		w.put(`h`)
		w.number(line.Px)
		w.put(`"/>`)
	}
}

package display

import (
	"encoding/xml"
	"strconv"
	"strings"
	"sync"

	cm "mevrin/core/conceptmap"
	"mevrin/core/geometry"
	"mevrin/draw/face"
	"mevrin/draw/icon"
	"mevrin/draw/scene"
)

// pictogram is a picture of the set, or the number of a step; nothing where the set has
// none of that name.
func pictogram(name cm.Icon, x, y, size float64) []Item {
	if n, is := name.Step(); is {
		return []Item{words("aside numeral", face.Noun, size, x+size/2, y+size*0.84, strconv.Itoa(n))}
	}
	shapes := Pictogram(name)
	if shapes == nil {
		return nil
	}
	return []Item{&Group{Class: "glyph", At: geometry.Point{X: x, Y: y}, Scale: size / icon.Grid, Items: shapes}}
}

var pictograms sync.Map // of []Item, by cm.Icon

// Pictogram gives the shapes of a picture of the set, on icon.Grid by icon.Grid pixels;
// nil where there is none of that name.
func Pictogram(name cm.Icon) []Item {
	if known, is := pictograms.Load(name); is {
		return known.([]Item)
	}
	i, ok := icon.Named(name)
	if !ok {
		return nil
	}
	shapes := readShapes(i.Body)
	pictograms.Store(name, shapes)
	return shapes
}

// readShapes reads the shapes of SVG that pictures of the set are made of.
func readShapes(markup string) (all []Item) {
	from := xml.NewDecoder(strings.NewReader(markup))
	for {
		token, err := from.Token()
		if err != nil {
			return all
		}
		e, is := token.(xml.StartElement)
		if !is {
			continue
		}
		of := map[string]string{}
		for _, a := range e.Attr {
			of[a.Name.Local] = a.Value
		}
		number := func(name string) float64 { v, _ := strconv.ParseFloat(of[name], 64); return v }
		var o Outline
		switch e.Name.Local {
		case "path":
			o = Traced(of["d"])
		case "line":
			o = straight(number("x1"), number("y1"), number("x2"), number("y2"))
		case "circle":
			all = append(all, &Circle{"", geometry.Point{X: number("cx"), Y: number("cy")}, number("r")})
			continue
		case "ellipse":
			cx, cy, rx, ry := number("cx"), number("cy"), number("rx"), number("ry")
			o.move(cx-rx, cy)
			o.arc(rx, ry, 0, false, true, cx+rx, cy)
			o.arc(rx, ry, 0, false, true, cx-rx, cy)
			o.close()
		case "rect":
			all = append(all, &Rect{Box: geometry.Box{X: number("x"), Y: number("y"), W: number("width"), H: number("height")}, Round: max(number("rx"), number("ry"))})
			continue
		}
		all = append(all, &Path{Path: o})
	}
}

// signs are what marks look like, within 13 by 13 pixels.
var signs = func() map[string]Outline {
	all := map[string]Outline{}
	for name, d := range map[string]string{
		"note":    "M1.5 .5H9L11.5 3V12.5H1.5ZM4 5H9M4 7.5H9M4 10H7",
		"web":     "M6.5 .5A6 6 0 1 1 6.5 12.5A6 6 0 1 1 6.5 .5M.5 6.5H12.5M6.5 .5C3 4 3 9 6.5 12.5C10 9 10 4 6.5 .5",
		"picture": "M.5 1.5H12.5V11.5H.5ZM2 10L5 6.5L7 8.5L9 6L11.5 10M4 3.6V4.6",
		"sound":   "M1 4.5H3.5L7 1.5V11.5L3.5 8.5H1ZM9 4.5Q10.5 6.5 9 8.5M10.8 2.8Q13.6 6.5 10.8 10.2",
		"video":   "M.5 2.5H8.5V10.5H.5ZM8.5 6L12.5 3V10L8.5 7",
		"file":    "M2 .5H8L11 3.5V12.5H2ZM8 .5V3.5H11",
		"cite":    "M1 12.5V1.5Q4 .5 6.5 2.5Q9 .5 12 1.5V11.5Q9 10.5 6.5 12.5Q4 10.5 1 11.5M6.5 2.5V12.5",
		"task":    "M1 1.5H12V12.5H1Z",
		"done":    "M1 1.5H12V12.5H1ZM3.5 7L6 9.5L10 4",
		"hand":    "M3 12.5L1.2 7.6Q1 6.6 2 6.6L3.4 8.4V2.4Q4.2 1.2 5 2.4V6V1.2Q5.8 0 6.6 1.2V6V1.8Q7.4 .8 8.2 1.8V6.4V3.2Q9 2.2 9.8 3.2V8.6L8.6 12.5Z",
		"comment": "M.5 1.5H12.5V9.5H6L3 12.5V9.5H.5Z",
		"agree":   "M1 6.5H3.5V12H1ZM3.5 7L6.5 1.5Q8.5 1.5 8 4.5H12L11 12H3.5",
		"against": "M1 6.5H3.5V1H1ZM3.5 6L6.5 11.5Q8.5 11.5 8 8.5H12L11 1H3.5",
		"table":   "M.5 1.5H12.5V11.5H.5ZM.5 5H12.5M4.5 1.5V11.5",
	} {
		all[name] = Traced(d)
	}
	return all
}()

// pennant is the shape of a tag.
var pennant = polygon(0, 0, 13, 0, 13, 13, 6.5, 9.8, 0, 13)

// tagged is a tag by its colour and its letter.
func tagged(letter string) []Item {
	return []Item{&Path{Class: "pennant", Path: pennant}, words("aside initial", face.Noun, 9, 6.5, 8, letter)}
}

// badges is a row of small signs from a place to the right.
func badges(marks []scene.Mark, left, top float64) *Group {
	g := &Group{Class: "badges"}
	for _, k := range marks {
		g.add(badge(k, left+k.X, top))
	}
	return g
}

func badge(k scene.Mark, x, y float64) *Group {
	c := classes{"badge"}
	c.on(k.Colour != "", "colour-"+string(k.Colour))
	g := &Group{Class: c.String(), Facts: []Fact{{"mark", k.Sign}}, At: geometry.Point{X: x, Y: y}, Hint: k.Hint}
	if k.Tag != "" {
		g.fact("tag", string(k.Tag))
	}
	if g.Hint == "" {
		g.Hint = k.Says
	}
	g.add(&Rect{Class: "touch", Box: geometry.Box{X: -3, Y: -2, W: k.W + 6, H: 18}})
	left := 0.0
	switch {
	case k.Sign == "tag":
		g.add(tagged(k.Words)...)
		return g
	case signs[k.Sign] != nil:
		g.add(&Path{Class: "sign", Path: signs[k.Sign]})
		left = 15
	}
	if k.Words != "" {
		g.add(words("aside said", face.Noun, scene.MarkType, left, 10.5, k.Words))
	}
	return g
}

// talk is a small label that hangs at the lower edge of a thing, from its right end to
// the left: how many comments there are, and how many agree with it and do not. It is
// not part of the thing, which keeps its size.
func talk(t scene.Discussion, right, bottom float64) []Item {
	if t == (scene.Discussion{}) {
		return nil
	}
	parts := t.Parts()
	wide := 6.0
	for _, p := range parts {
		wide += p.W + 7
	}
	g := &Group{Class: "badge talk", Facts: []Fact{{"mark", "talk"}}, At: geometry.Point{X: right - wide, Y: bottom - 3}, Hint: strings.TrimPrefix(t.Says(), ", ")}
	g.add(&Rect{Class: "ground", Box: geometry.Box{W: wide, H: 18}, Round: 2})
	x := 6.0
	for _, p := range parts {
		g.add(&Path{Class: "sign", Path: signs[p.Sign], At: geometry.Point{X: x, Y: 2.5}}, words("aside said", face.Noun, scene.MarkType, x+15, 13, p.Words))
		x += p.W + 7
	}
	return []Item{g}
}

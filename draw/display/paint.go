package display

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
)

// Paint is how a primitive is painted. A colour that is empty or "none" paints nothing.
type Paint struct {
	Fill, Stroke               string  // six hexadecimal digits behind a hash
	FillOpacity, StrokeOpacity float64 // 0 stands for 1 here; what is not seen has no colour
	StrokeWidth                float64
	Dash                       []float64
	LineCap, LineJoin          string // as in SVG
	EvenOdd                    bool   // how an outline is filled that crosses itself
	// Of words.
	Anchor        string // start, middle or end
	Bold, Italic  bool
	LetterSpacing float64 // in parts of the size
}

// Sheet is a style sheet of classes, read once, by which primitives are painted: as much
// of CSS (Selectors Level 4, Cascading Level 4) as drawings use.
type Sheet struct {
	rules []rule
	// known are the properties that were worked out before, by the way down to what has them.
	known sync.Map // of inherited, by string
	many  atomic.Int32
}

// maxKnown bounds the ways of which the properties are remembered: drawings have some hundreds.
const maxKnown = 20_000

type rule struct {
	ways       [][]compound // each a way down to what is painted
	properties map[string]string
	order      int
}

// compound is what one element must be: of classes, none of others, one of alternatives.
type compound struct {
	tag    string
	has    []string
	not    []string
	anyOf  [][]string
	rtl    bool
	weight int
}

var (
	comment  = regexp.MustCompile(`(?s)/\*.*?\*/`)
	ruleForm = regexp.MustCompile(`([^{}]+)\{([^{}]*)\}`)
)

// ReadSheet reads a style sheet in which all custom properties have been resolved. Rules
// for anything but drawings are passed over.
func ReadSheet(css string) *Sheet {
	s := &Sheet{}
	for i, m := range ruleForm.FindAllStringSubmatch(comment.ReplaceAllString(css, ""), -1) {
		r := rule{order: i, properties: map[string]string{}}
		for declaration := range strings.SplitSeq(m[2], ";") {
			if name, value, ok := strings.Cut(declaration, ":"); ok {
				r.properties[strings.TrimSpace(name)] = strings.TrimSpace(value)
			}
		}
		for _, selector := range splitTop(m[1], ',') {
			if way := readWay(selector); way != nil {
				r.ways = append(r.ways, way)
			}
		}
		if r.ways != nil {
			s.rules = append(s.rules, r)
		}
	}
	return s
}

// splitTop splits at a sign that stands in no brackets.
func splitTop(text string, at rune) (parts []string) {
	depth, from := 0, 0
	for i, r := range text {
		switch {
		case r == '(' || r == '[':
			depth++
		case r == ')' || r == ']':
			depth--
		case r == at && depth == 0:
			parts = append(parts, text[from:i])
			from = i + 1
		}
	}
	return append(parts, text[from:])
}

func readWay(selector string) (way []compound) {
	for _, part := range splitTop(strings.TrimSpace(selector), ' ') {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		c, ok := readCompound(part)
		if !ok {
			return nil
		}
		way = append(way, c)
	}
	return way
}

var simple = regexp.MustCompile(`^(?:\.([\w-]+)|:is\(([^()]*(?:\([^()]*\)[^()]*)*)\)|:not\(([^()]*)\)|\[direction="rtl"\]|([a-z]+))`)

func readCompound(text string) (c compound, ok bool) {
	for text != "" {
		m := simple.FindStringSubmatch(text)
		switch {
		case m == nil:
			return c, false
		case m[1] != "":
			c.has = append(c.has, m[1])
			c.weight += 10
		case m[2] != "":
			var options []string
			heaviest := 0
			for _, option := range splitTop(m[2], ',') {
				options = append(options, strings.TrimSpace(option))
				inner, fine := readCompound(strings.TrimSpace(option))
				if !fine {
					return c, false
				}
				heaviest = max(heaviest, inner.weight)
			}
			c.anyOf = append(c.anyOf, options)
			c.weight += heaviest
		case m[3] != "":
			c.not = append(c.not, strings.TrimPrefix(m[3], "."))
			c.weight += 10
		case m[4] != "":
			c.tag = m[4]
			c.weight++
		default:
			c.rtl = true
			c.weight += 10
		}
		text = text[len(m[0]):]
	}
	return c, true
}

// element is what selectors look at.
type element struct {
	tag     string
	classes []string
	rtl     bool
}

func (c *compound) fits(e element) bool {
	if c.tag != "" && c.tag != e.tag || c.rtl && !e.rtl {
		return false
	}
	for _, name := range c.has {
		if !slices.Contains(e.classes, name) {
			return false
		}
	}
	for _, name := range c.not {
		if slices.Contains(e.classes, name) {
			return false
		}
	}
	for _, options := range c.anyOf {
		if !slices.ContainsFunc(options, func(option string) bool {
			inner, _ := readCompound(option) // it could be read before
			return inner.fits(e)
		}) {
			return false
		}
	}
	return true
}

// leads tells whether a way leads down through elements to the last of them.
func leads(way []compound, path []element) bool {
	last := len(way) - 1
	if !way[last].fits(path[len(path)-1]) {
		return false
	}
	at := len(path) - 2
	for i := last - 1; i >= 0; i-- {
		for at >= 0 && !way[i].fits(path[at]) {
			at--
		}
		if at < 0 {
			return false
		}
		at--
	}
	return true
}

// Painted is a primitive with its paint and its place on the paper.
type Painted struct {
	Item
	Paint
	DX, DY, Scale float64 // by which its own coordinates are moved and scaled
}

// Resolve gives all primitives in the order of painting, each with its paint and place;
// what is not seen is left out.
func (s *Sheet) Resolve(items []Item) []Painted {
	var all []Painted
	s.walk(items, "", nil, inherited{}, nil, placed{scale: 1}, &all)
	return all
}

// inherited are properties that pass on to what is inside.
type inherited map[string]string

// own are the properties that do not pass on.
var own = map[string]bool{"vector-effect": true}

// placed is by how much what is inside a group is moved and scaled.
type placed struct{ dx, dy, scale float64 }

func (s *Sheet) walk(items []Item, name string, path []element, from inherited, given *Paint, at placed, all *[]Painted) {
	for _, item := range items {
		e := element{classes: strings.Fields(item.class())}
		switch i := item.(type) {
		case *Group:
			e.tag = "g"
		case *Path:
			e.tag = "path"
		case *Rect:
			e.tag = "rect"
		case *Circle:
			e.tag = "circle"
		case *Image:
			e.tag = "image"
		case *Text:
			e.tag, e.rtl = "text", i.RightToLeft
		}
		way := append(slices.Clip(path), e)
		as := name + ">" + e.tag + " " + item.class()
		if e.rtl {
			as += " rtl"
		}
		var computed inherited
		if was, is := s.known.Load(as); is {
			computed = was.(inherited)
		} else if computed = s.compute(way, from); s.many.Add(1) < maxKnown {
			s.known.Store(as, computed)
		}
		if g, is := item.(*Group); is {
			inner := placed{at.dx + at.scale*g.At.X, at.dy + at.scale*g.At.Y, at.scale}
			if g.Scale != 0 {
				inner.scale *= g.Scale
			}
			to := given
			if g.Paint != nil {
				to = g.Paint
			}
			s.walk(g.Items, as, way, computed, to, inner, all)
			continue
		}
		if computed["visibility"] == "hidden" {
			continue
		}
		paint := paintOf(computed)
		if explicit := explicitPaint(item); explicit != nil {
			paint = *explicit
		} else if given != nil && item.class() == "" {
			paint = *given
		}
		*all = append(*all, Painted{item, paint, at.dx, at.dy, at.scale})
	}
}

func explicitPaint(item Item) *Paint {
	switch i := item.(type) {
	case *Path:
		return i.Paint
	case *Rect:
		return i.Paint
	}
	return nil
}

// compute gives the properties of the last of some elements: the heavier rule counts, of
// equal ones the later.
func (s *Sheet) compute(path []element, from inherited) inherited {
	type hit struct {
		weight, order int
		properties    map[string]string
	}
	var hits []hit
	for _, r := range s.rules {
		heaviest := -1
		for _, way := range r.ways {
			if leads(way, path) {
				weight := 0
				for _, c := range way {
					weight += c.weight
				}
				heaviest = max(heaviest, weight)
			}
		}
		if heaviest >= 0 {
			hits = append(hits, hit{heaviest, r.order, r.properties})
		}
	}
	slices.SortFunc(hits, func(a, b hit) int {
		if a.weight != b.weight {
			return a.weight - b.weight
		}
		return a.order - b.order
	})
	computed := inherited{}
	for name, value := range from {
		if !own[name] {
			computed[name] = value
		}
	}
	for _, h := range hits {
		for name, value := range h.properties {
			computed[name] = value
		}
	}
	return computed
}

func paintOf(p inherited) Paint {
	number := func(name string, otherwise float64) float64 {
		if v, err := strconv.ParseFloat(strings.TrimSuffix(p[name], "em"), 64); err == nil {
			return v
		}
		return otherwise
	}
	colour := func(name, opacity, otherwise string) string {
		c, has := p[name]
		if !has {
			c = otherwise
		}
		if c == "none" || c == "transparent" || number(opacity, 1) == 0 {
			return ""
		}
		return c
	}
	paint := Paint{
		Fill: colour("fill", "fill-opacity", "#000000"), Stroke: colour("stroke", "stroke-opacity", "none"),
		FillOpacity: number("fill-opacity", 1), StrokeOpacity: number("stroke-opacity", 1), StrokeWidth: number("stroke-width", 1),
		LineCap: p["stroke-linecap"], LineJoin: p["stroke-linejoin"], EvenOdd: p["fill-rule"] == "evenodd",
		Anchor: p["text-anchor"], Bold: p["font-weight"] == "700", Italic: p["font-style"] == "italic", LetterSpacing: number("letter-spacing", 0),
	}
	for _, part := range strings.Fields(p["stroke-dasharray"]) {
		if v, err := strconv.ParseFloat(part, 64); err == nil {
			paint.Dash = append(paint.Dash, v)
		}
	}
	return paint
}

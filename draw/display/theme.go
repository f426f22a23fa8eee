package display

import (
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	cm "mevrin/core/conceptmap"
	"mevrin/core/shade"
)

var (
	property = regexp.MustCompile(`--([a-z-]+): ([^;]+);`)
	use      = regexp.MustCompile(`var\(--([a-z-]+)\)`)
)

// ThemeName gives a dress as a word in names of classes.
func ThemeName(d cm.Theme) string {
	if d == cm.ThemePlain {
		return "plain"
	}
	return string(d)
}

// colours are those of each dress, by their names.
var colours = func() map[cm.Theme]map[string]string {
	all := map[cm.Theme]map[string]string{}
	read := func(d cm.Theme, css string) {
		all[d] = map[string]string{}
		for _, m := range property.FindAllStringSubmatch(css, -1) {
			all[d][m[1]] = m[2]
		}
	}
	read(cm.ThemePlain, paperCSS)
	for _, d := range cm.Themes[1:] {
		_, own, found := strings.Cut(looksCSS, ".look-"+string(d)+" {\n")
		if !found {
			panic("display: no look is called " + string(d))
		}
		own, _, _ = strings.Cut(own, "}")
		read(d, own)
	}
	return all
}()

// colourOf gives a colour of a look.
func colourOf(l cm.Look, name string) string {
	all := colours[l.Theme]
	if l.Own != nil {
		all = shades(*l.Own, l.Paper == cm.PaperPicture)
	}
	if c := all[name]; c != "" {
		return c
	}
	panic("display: the look has no " + strconv.Quote(name))
}

// Colour gives a colour of a look by its name ("paper", "ink", "sky-wash" …), as
// six hexadecimal digits behind a hash.
func Colour(l cm.Look, name string) string { return colourOf(l, name) }

// valued is a rule that gives custom properties their values.
var valued = regexp.MustCompile(`(?m)^[^\n{}]+\{\n(?:  --[^\n]+\n)+\}\n`)

// Resolved puts the values of custom properties where they are used: many
// programs that show pictures know no such properties.
func Resolved(css string, l cm.Look) string {
	return use.ReplaceAllStringFunc(valued.ReplaceAllString(css, ""), func(v string) string { return colourOf(l, use.FindStringSubmatch(v)[1]) })
}

// owned are colours of dresses of one's own that were worked out, maxOwned at most.
var owned = struct {
	sync.Mutex
	known map[ownKey]map[string]string
}{known: map[ownKey]map[string]string{}}

const maxOwned = 200

type ownKey struct {
	cm.OwnColours
	picture bool
}

// shades works out all colours of a dress of one's own: each moved as far as it must
// be to be read on what it may stand on.
func shades(o cm.OwnColours, picture bool) map[string]string {
	owned.Lock()
	defer owned.Unlock()
	if known := owned.known[ownKey{o, picture}]; known != nil {
		return known
	}
	if len(owned.known) >= maxOwned {
		clear(owned.known)
	}
	base := colours[cm.ThemePlain]
	if dark(o) {
		base = colours[cm.ThemeEvening]
	}
	grounds := o.Grounds(false)
	readable := func(c string, ratio float64, on ...string) string {
		if moved, ok := shade.Readable(c, ratio, on...); ok {
			return moved
		}
		return o.Ink // which can be read on all of them
	}
	// A wash is a ground, too: so faint that ink can be read on it.
	wash := func(c string, part float64) string {
		for ; part < 1; part += 0.02 {
			if w := shade.Mix(c, o.Slip, part); shade.Contrast(o.Ink, w) >= cm.ReadableAt {
				return w
			}
		}
		return o.Slip
	}
	all := map[string]string{
		"paper": o.Paper, "slip": o.Slip, "ink": o.Ink, "ink-faint": shade.Mix(o.Ink, o.Paper, 0.65), "strip": shade.Mix(o.Ink, o.Paper, 0.5),
		"ink-soft": readable(shade.Mix(o.Ink, o.Paper, 0.28), cm.ReadableAt, grounds...),
		"accent":   readable(base["accent"], 3, grounds...), "accent-wash": wash(base["accent"], 0.7),
		"madder": readable(base["madder"], cm.ReadableAt, grounds...), "moss": readable(base["moss"], cm.ReadableAt, grounds...),
	}
	if picture {
		all["ink-soft"] = readable(all["ink-soft"], 3, o.Grounds(true)...)
	}
	for _, c := range cm.Colours {
		all[string(c)], all[string(c)+"-wash"] = base[string(c)], wash(base[string(c)], 0.8)
		grounds = append(grounds, all[string(c)+"-wash"])
	}
	for _, c := range cm.Colours {
		all[string(c)+"-deep"] = readable(base[string(c)+"-deep"], cm.ReadableAt, grounds...)
	}
	owned.known[ownKey{o, picture}] = all
	return all
}

// dark tells whether a paper is one on which light colours stand out.
func dark(o cm.OwnColours) bool { return shade.Luminance(o.Paper) < 0.18 }

// Own gives the style sheet of a look's own colours; nothing where it has none.
func Own(l cm.Look) string {
	if l.Own == nil {
		return ""
	}
	all := shades(*l.Own, l.Paper == cm.PaperPicture)
	var out strings.Builder
	out.WriteString(".look-own {\n")
	for _, name := range slices.Sorted(maps.Keys(all)) {
		out.WriteString("  --" + name + ": " + all[name] + ";\n")
	}
	out.WriteString("}\n")
	return out.String() + OwnRules(l)
}

// OwnRules are what is drawn otherwise in a dress of one's own than by colour.
func OwnRules(l cm.Look) string {
	if l.Own == nil || !dark(*l.Own) {
		return ""
	}
	return ".look-own .mat { fill: #fffdf6; }\n"
}

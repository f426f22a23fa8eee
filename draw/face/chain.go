// Package face holds the fonts that ship with Mevrin and measures words with
// them, so that what is drawn here has the size that a browser gives it.
//
// The chain of fonts is stated once, in files/faces.json (written by `make
// assets` from the published fonts). From it come both the style sheet that
// the page loads (CSS) and the choice of a face for each character made here:
// a character takes the first family of its voice that has it, and within a
// family the last listed face whose range and whose own table of characters
// hold it, which is how browsers choose. What no face has is counted, and its
// width is a guess; the drawing then makes the words fit their box.
package face

import (
	"bytes"
	"embed"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io/fs"
	"strconv"
	"strings"
	"sync"

	"github.com/go-text/typesetting/font"
)

//go:embed files
var files embed.FS

// Files gives the font files, as the page loads them.
func Files() fs.FS {
	sub, err := fs.Sub(files, "files")
	must(err)
	return sub
}

// Voice is one of the ways in which words are set on a map.
type Voice int

// The voices: concepts in an upright sans, linking phrases in a serif italic.
// Concepts can be stressed in three ways, which stay the same voice to the eye.
const (
	Noun Voice = iota
	Verb
	NounBold
	NounItalic
	NounBoldItalic
)

// NounAs gives the voice of a concept that is set bold, or italic, or both.
func NounAs(bold, italic bool) Voice {
	switch {
	case bold && italic:
		return NounBoldItalic
	case bold:
		return NounBold
	case italic:
		return NounItalic
	}
	return Noun
}

var others = []string{"Noto Sans", "Noto Sans Arabic", "Open Sans", "Noto Sans Symbols", "Noto Sans SC"}

// Families lists the font families of each voice in the order in which they
// are tried.
var Families = map[Voice][]string{}

// cutOf is the weight and style in which a voice is set, where a family has it.
var cutOf = map[Voice]struct {
	weight int
	style  string
}{
	Noun: {400, "normal"}, Verb: {400, "italic"}, NounBold: {700, "normal"}, NounItalic: {400, "italic"}, NounBoldItalic: {700, "italic"},
}

func init() {
	for v := range cutOf {
		first := "Atkinson Hyperlegible"
		if v == Verb {
			first = "Source Serif 4"
		}
		Families[v] = append([]string{first}, others...)
	}
}

// Stack gives the families of a voice as a CSS font-family value.
func Stack(v Voice) string {
	quoted := make([]string, 0, 5)
	for _, f := range Families[v] {
		quoted = append(quoted, strconv.Quote(f))
	}
	return strings.Join(append(quoted, "sans-serif"), ", ")
}

// cut is one file: a slice of the characters of a family in one style.
type cut struct {
	Family string `json:"family"`
	Weight int    `json:"weight"`
	Style  string `json:"style"`
	File   string `json:"file"`
	Range  string `json:"range"`

	runes [][2]rune
	once  sync.Once
	font  *font.Font
}

// load parses the file on its first use: most maps need two of a hundred.
func (c *cut) load() *font.Font {
	c.once.Do(func() {
		raw, err := files.ReadFile("files/" + c.File)
		must(err)
		face, err := font.ParseTTF(bytes.NewReader(raw))
		if err != nil {
			panic(fmt.Sprintf("face: %s: %v", c.File, err))
		}
		c.font = face.Font
	})
	return c.font
}

func (c *cut) mayHave(r rune) bool {
	for _, span := range c.runes {
		if r >= span[0] && r <= span[1] {
			return true
		}
	}
	return false
}

// chain reads faces.json once. Its content is part of the program.
var chain = sync.OnceValue(func() []*cut {
	raw, err := files.ReadFile("files/faces.json")
	must(err)
	var cuts []*cut
	must(json.Unmarshal(raw, &cuts))
	for _, c := range cuts {
		for span := range strings.SplitSeq(c.Range, ",") {
			low, high, two := strings.Cut(strings.TrimPrefix(strings.TrimSpace(span), "U+"), "-")
			if !two {
				high = low
			}
			from, err := strconv.ParseUint(low, 16, 32)
			must(err)
			to, err := strconv.ParseUint(high, 16, 32)
			must(err)
			c.runes = append(c.runes, [2]rune{rune(from), rune(to)})
		}
	}
	return cuts
})

// ofVoice lists the cuts in the order in which a character of a voice tries
// them.
var ofVoice = sync.OnceValue(func() map[Voice][]*cut {
	lists := map[Voice][]*cut{}
	for voice, families := range Families {
		for _, family := range families {
			var own, plain []*cut
			for _, c := range chain() {
				if c.Family != family {
					continue
				}
				if want := cutOf[voice]; c.Weight == want.weight && c.Style == want.style {
					own = append([]*cut{c}, own...)
				}
				if c.Weight == 400 && c.Style == "normal" {
					plain = append([]*cut{c}, plain...)
				}
			}
			// A family without the cut lends its plain one, as it does in a browser.
			if own == nil {
				own = plain
			}
			lists[voice] = append(lists[voice], own...)
		}
	}
	return lists
})

// CSS gives the style sheet that declares the fonts; files are looked for
// below the given address.
func CSS(base string) string {
	var out strings.Builder
	for _, c := range chain() {
		out.WriteString(c.rule(base + c.File))
	}
	return out.String()
}

func (c *cut) rule(address string) string {
	return fmt.Sprintf("@font-face{font-family:%q;font-style:%s;font-weight:%d;font-display:block;src:url(%s) format(\"woff\");unicode-range:%s}\n",
		c.Family, c.Style, c.Weight, address, c.Range)
}

// EmbeddedCSS gives a style sheet with the fonts of some words in it, so that a
// file that holds it needs no other. Only the slices of the fonts that the
// words need are there.
func EmbeddedCSS(words map[Voice][]string) string {
	needed := map[*cut]bool{}
	for voice, all := range words {
		seen := map[rune]bool{}
		for _, line := range all {
			for _, r := range line {
				if seen[r] {
					continue
				}
				seen[r] = true
				if c := pick(voice, r); c != nil {
					needed[c] = true
				}
			}
		}
	}
	var out strings.Builder
	for _, c := range chain() {
		if !needed[c] {
			continue
		}
		raw, err := files.ReadFile("files/" + c.File)
		must(err)
		out.WriteString(c.rule("data:font/woff;base64," + base64.StdEncoding.EncodeToString(raw)))
	}
	return out.String()
}

func must(err error) {
	if err != nil {
		panic("face: " + err.Error())
	}
}

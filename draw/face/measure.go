package face

import (
	"strings"
	"sync"
	"sync/atomic"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/segmenter"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
)

// shapeSize is the size at which words are shaped; widths are scaled from it,
// so that no rounding of small sizes adds up.
const shapeSize = 1024

// missingWidth is the guessed width of a character that no font here has, in
// parts of the font size: that of most pictographs.
const missingWidth = 1.3

// Width is how wide words are when set in one line.
type Width struct {
	Px      float64
	Missing int // characters that no font here has, their widths guessed
}

// shaper shapes words. Neither it nor its faces may be shared, so each of those who
// measure at the same time has one of its own; the fonts behind the faces are shared.
type shaper struct {
	shaping.HarfbuzzShaper
	faces map[*cut]*font.Face
}

var shapers = sync.Pool{New: func() any { return &shaper{faces: map[*cut]*font.Face{}} }}

func (s *shaper) face(c *cut) *font.Face {
	if s.faces[c] == nil {
		s.faces[c] = font.NewFace(c.load())
	}
	return s.faces[c]
}

// widths remembers what was measured, at shapeSize, for all to read at once.
type widths struct {
	known sync.Map // of Width, by wording
	count atomic.Int64
}

type wording struct {
	voice Voice
	words string
}

// maxKnown bounds the memory of widths; it begins anew when full.
const maxKnown = 20_000

var measured = func() *atomic.Pointer[widths] {
	var p atomic.Pointer[widths]
	p.Store(&widths{})
	return &p
}()

// Measure gives the width of words in a voice at a font size in pixels. Any number of
// goroutines can measure at the same time.
func Measure(v Voice, size float64, words string) Width {
	if words == "" {
		return Width{}
	}
	memory, key := measured.Load(), wording{v, words}
	found, ok := memory.known.Load(key)
	if !ok {
		s := shapers.Get().(*shaper)
		found = s.shape(v, words)
		shapers.Put(s)
		if memory.known.Store(key, found); memory.count.Add(1) >= maxKnown {
			measured.CompareAndSwap(memory, &widths{})
		}
	}
	w := found.(Width)
	w.Px *= size / shapeSize
	return w
}

// Glyph is one sign of a font where it stands: X and Y are pixels from the beginning of
// the baseline, y down.
type Glyph struct {
	ID   font.GID
	X, Y float64
	// Says are the characters for which it stands; empty for a further glyph of the same ones.
	Says string
	// Wide is by how much it moves on what follows, Aside how far it stands from its own place, as marks
	// do from their letters; in pixels.
	Wide, Aside float64
}

// Run is glyphs of one font.
type Run struct {
	Font   *font.Font
	Glyphs []Glyph
}

// Glyphs gives the glyphs of words in a voice at a font size in pixels, in the order of
// their places from the left of each run. What no font has takes its guessed room and no glyph.
func Glyphs(v Voice, size float64, words string) []Run {
	s := shapers.Get().(*shaper)
	defer shapers.Put(s)
	var runs []Run
	at, scale := 0.0, size/shapeSize
	runes := []rune(words)
	s.eachRun(v, words, func(c *cut, out shaping.Output) {
		run := Run{Font: c.load()}
		widest := map[int]int{} // of the glyphs of the same characters, by where these begin
		for i, g := range out.Glyphs {
			if at, known := widest[g.TextIndex()]; !known || g.Advance > out.Glyphs[at].Advance {
				widest[g.TextIndex()] = i
			}
		}
		for i, g := range out.Glyphs {
			says := ""
			if first := g.TextIndex(); widest[first] == i && first+g.RunesCount() <= len(runes) {
				says = string(runes[first : first+g.RunesCount()])
			}
			run.Glyphs = append(run.Glyphs, Glyph{g.GlyphID, (at + float64(g.XOffset)/64) * scale, -float64(g.YOffset) / 64 * scale, says, float64(g.Advance) / 64 * scale, float64(g.XOffset) / 64 * scale})
			at += float64(g.Advance) / 64
		}
		runs = append(runs, run)
	}, func(characters int) { at += float64(characters) * missingWidth * shapeSize })
	return runs
}

// shape adds up the runs of equal face and script.
func (s *shaper) shape(v Voice, words string) (w Width) {
	s.eachRun(v, words, func(_ *cut, out shaping.Output) { w.Px += float64(out.Advance) / 64 }, func(characters int) {
		w.Missing += characters
		w.Px += float64(characters) * missingWidth * shapeSize
	})
	return w
}

// eachRun shapes runs of equal face and script, and tells of characters that no font has.
func (s *shaper) eachRun(v Voice, words string, shaped func(*cut, shaping.Output), missing func(characters int)) {
	runes := []rune(words)
	var at int
	var cutNow *cut
	var script language.Script
	flush := func(end int) {
		if end == at {
			return
		}
		if cutNow == nil {
			missing(end - at)
			return
		}
		direction := di.DirectionLTR
		if RightToLeft(script) {
			direction = di.DirectionRTL
		}
		shaped(cutNow, s.Shape(shaping.Input{
			Text: runes, RunStart: at, RunEnd: end, Direction: direction, Face: s.face(cutNow),
			Size: fixed.I(shapeSize), Script: script, Language: language.NewLanguage("en"),
		}))
	}
	for i, r := range runes {
		nextCut, nextScript := pick(v, r), language.LookupScript(r)
		if i > 0 && joins(r) && (cutNow == nil || cutNow.has(r)) {
			continue // a mark stays with its base
		}
		if nextScript == language.Common || nextScript == language.Inherited {
			nextScript = script
			if i == 0 {
				nextScript = language.Latin
			}
		}
		if i > 0 && (nextCut != cutNow || nextScript != script) {
			flush(i)
			at = i
		}
		cutNow, script = nextCut, nextScript
	}
	flush(len(runes))
}

func (c *cut) has(r rune) bool {
	_, ok := c.load().NominalGlyph(r)
	return ok
}

// joins tells whether a character only ever goes with the one before it.
func joins(r rune) bool {
	return unicode.Is(unicode.Mn, r) || unicode.Is(unicode.Me, r) || r == '\u200d' || r == '\ufe0f'
}

func pick(v Voice, r rune) *cut {
	for _, c := range ofVoice()[v] {
		if c.mayHave(r) && c.has(r) {
			return c
		}
	}
	return nil
}

// RightToLeft tells whether a script is written from right to left.
func RightToLeft(s language.Script) bool {
	switch s {
	case language.Arabic, language.Hebrew, language.Syriac, language.Thaana, language.Nko:
		return true
	}
	return false
}

// StartsRightToLeft tells whether the first letter of words belongs to such a
// script.
func StartsRightToLeft(words string) bool {
	for _, r := range words {
		if s := language.LookupScript(r); s != language.Common && s != language.Inherited {
			return RightToLeft(s)
		}
	}
	return false
}

// Line is one line of wrapped words.
type Line struct {
	Words string
	Width
}

// Wrap breaks words into lines at most wide pixels wide, at the places that
// Unicode Standard Annex 14 allows; a word that is wider than a line is broken
// between characters (Annex 29). Line feeds are kept. Lines carry no spaces at
// their ends. Words without a visible character give no lines.
func Wrap(v Voice, size, wide float64, words string) []Line {
	var lines []Line
	for paragraph := range strings.SplitSeq(words, "\n") {
		lines = append(lines, wrapParagraph(v, size, wide, strings.TrimSpace(paragraph))...)
	}
	for len(lines) > 0 && lines[len(lines)-1].Words == "" {
		lines = lines[:len(lines)-1]
	}
	return lines
}

func wrapParagraph(v Voice, size, wide float64, words string) []Line {
	if whole := Measure(v, size, words); whole.Px <= wide || words == "" {
		return []Line{{words, whole}}
	}
	var lines []Line
	current := ""
	end := func() {
		if line := strings.TrimSpace(current); line != "" {
			lines = append(lines, Line{line, Measure(v, size, line)})
		}
		current = ""
	}
	fits := func(s string) bool { return Measure(v, size, strings.TrimSpace(s)).Px <= wide }
	for _, piece := range pieces(words) {
		if fits(current + piece) {
			current += piece
			continue
		}
		end()
		if fits(piece) {
			current = piece
			continue
		}
		for _, g := range graphemes(piece) {
			if current != "" && !fits(current+g) {
				end()
			}
			current += g
		}
	}
	end()
	return lines
}

func pieces(words string) []string {
	var seg segmenter.Segmenter
	seg.Init([]rune(words))
	var all []string
	for it := seg.LineIterator(); it.Next(); {
		all = append(all, string(it.Line().Text))
	}
	return all
}

func graphemes(words string) []string {
	var seg segmenter.Segmenter
	seg.Init([]rune(words))
	var all []string
	for it := seg.GraphemeIterator(); it.Next(); {
		all = append(all, string(it.Grapheme().Text))
	}
	return all
}

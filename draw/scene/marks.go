package scene

import (
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
)

// Mark is a small sign below a label: that there is more, and of what sort.
type Mark struct {
	Sign  string  // "note", a kind of source, "tag", or "words"
	Words string  // in it: a count, the first letter of a tag, an amount
	Says  string  // for those who hear it
	Hint  string  // for those who point at it; as Says where empty
	X, W  float64 // from the left edge of the slip
	Tag   cm.ID   // of a tag
	// Colour is a tag's.
	Colour cm.Colour
}

// IconSize is the width and height of an icon on a slip, MarksHeight the height of
// the row of marks below a label.
const (
	IconSize    = 18.0
	MarksHeight = 17.0
	iconGap     = 4.0
	markGap     = 6.0
	signWidth   = 13.0
	markType    = 11.5
)

// MarkType is the size of the words in marks.
const MarkType = markType

// meanings gathers what stands on slips besides labels, for the whole of a map.
type meanings struct {
	m    *cm.Map
	lang cm.Lang
	tags []*cm.Tag // in their order
}

func newMeanings(m *cm.Map, lang cm.Lang) *meanings { return &meanings{m, lang, m.TagList()} }

func (g *meanings) words(t cm.Text) string { return t.For(g.lang, g.m.Language) }

// mostHint is how many characters of a note are shown to those who point at it.
const mostHint = 240

func shortened(words string) string { return shortenedTo(words, mostHint) }

func shortenedTo(words string, most int) string {
	if all := []rune(words); len(all) > most {
		return string(all[:most]) + "…"
	}
	return words
}

// sourceMarks gives a mark for each sort of source, but for a picture that stands
// on the slip itself.
func sourceMarks(c *cm.Concept) []Mark {
	if len(c.Sources) == 0 {
		return nil
	}
	count, hint := map[cm.SourceKind]int{}, map[cm.SourceKind]string{}
	shown, _, _ := c.Picture()
	for _, id := range cm.SourceList(c.Sources) {
		if s := c.Sources[id]; id != shown {
			kind := s.Kind()
			count[kind]++
			if hint[kind] != "" {
				hint[kind] += "\n"
			}
			hint[kind] += s.Name()
		}
	}
	var all []Mark
	for _, kind := range cm.SourceKinds {
		n := count[kind]
		if n == 0 {
			continue
		}
		mark := Mark{Sign: string(kind), Says: sourceWords[kind][0], Hint: shortened(hint[kind])}
		if n > 1 {
			mark.Words, mark.Says = strconv.Itoa(n), strconv.Itoa(n)+" "+sourceWords[kind][1]
		}
		all = append(all, mark)
	}
	return all
}

var sourceWords = map[cm.SourceKind][2]string{
	cm.SourcePicture: {"a picture", "pictures"}, cm.SourceSound: {"a sound", "sounds"}, cm.SourceVideo: {"a film", "films"},
	cm.SourceFile: {"a file", "files"}, cm.SourceCite: {"a citation", "citations"}, cm.SourceWeb: {"a web address", "web addresses"},
}

// tagsOf gives the tags of a concept in their order.
func (g *meanings) tagsOf(c *cm.Concept) []*cm.Tag {
	if len(c.Tags) == 0 {
		return nil
	}
	var tags []*cm.Tag
	for _, t := range g.tags {
		if c.Tags[t.ID] {
			tags = append(tags, t)
		}
	}
	return tags
}

// extras are what stands on a slip besides its label.
type extras struct {
	icons   []cm.Icon
	marks   []Mark
	picture *Picture
	grid    *Grid
}

// of gathers the icons and marks of a concept. Marks keep one order: note,
// sources, time and amounts, tags.
func (g *meanings) of(c *cm.Concept) (e extras) {
	if k := g.m.KindOf(c); k != nil && k.Icon != "" {
		e.icons = append(e.icons, k.Icon)
	}
	for _, i := range c.Icons {
		if !slices.Contains(e.icons, i) {
			e.icons = append(e.icons, i)
		}
	}
	e.picture, e.grid = pictureOf(c), gridOf(c.Table)
	if !c.Note.Empty() {
		e.marks = append(e.marks, Mark{Sign: "note", Says: "a note", Hint: shortened(g.words(c.Note))})
	}
	e.marks = append(e.marks, sourceMarks(c)...)
	for _, words := range []string{c.When, c.Amount.Words(), c.Lasts.Words()} {
		if words != "" {
			e.marks = append(e.marks, Mark{Sign: "words", Words: words, Says: words})
		}
	}
	for _, t := range g.tagsOf(c) {
		name := t.Name.For(g.lang, g.m.Language)
		first, _ := utf8.DecodeRuneInString(name)
		e.marks = append(e.marks, Mark{Sign: "tag", Words: strings.ToUpper(string(first)), Says: "tagged " + name, Tag: t.ID, Colour: t.Colour})
	}
	return e
}

// spread sets the marks in a row and gives its width.
func (e *extras) spread() float64 {
	x := 0.0
	for i := range e.marks {
		k := &e.marks[i]
		if i > 0 {
			x += markGap
		}
		k.X, k.W = x, 0
		if k.Sign != "words" {
			k.W = signWidth
		}
		if k.Words != "" && k.Sign != "tag" {
			k.W += face.Measure(face.Noun, markType, k.Words).Px + 2
		}
		x += k.W
	}
	return x
}

func (e *extras) iconsWidth() float64 { return iconsWidth(len(e.icons)) }

// IconsWidth gives the room that the icons take to the left of the label.
func (s *Slip) IconsWidth() float64 { return iconsWidth(len(s.Icons)) }

func iconsWidth(n int) float64 {
	if n == 0 {
		return 0
	}
	return float64(n)*(IconSize+iconGap) + 2
}

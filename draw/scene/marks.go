package scene

import (
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
	"mevrin/markdown"
)

// Mark is a small sign below a label: that there is more, and of what sort.
type Mark struct {
	Sign  string  // "note", a kind of source, "tag", or "words"
	Words string  // in it: a count, the first letter of a tag, an amount
	Says  string  // for those who hear it
	Hint  string  // for those who point at it; as Says where empty
	X, W  float64 // from the left edge of the slip
	Tag   cm.ID   // of a tag
	// Colour is a tag's, or a note's own.
	Colour cm.Colour
}

// Talk counts what people said of a thing, apart from what the map says: comments
// of threads that are not settled, and votes.
type Discussion struct {
	Comments, For, Against int
	// VisitorsFor and VisitorsAgainst are votes of those who have a link and no more.
	VisitorsFor, VisitorsAgainst int
	// Hands is how many ask for help there.
	Hands int
}

// IconSize is the width and height of an icon on a slip, MarksHeight the height of
// the row of marks below a label.
const (
	IconSize    = 18.0
	MarksHeight = 17.0
	// LinkMarkGap is the room between a phrase and its marks, and behind them;
	// RemarkGap that above a remark.
	LinkMarkGap = 6.0
	RemarkGap   = 7.0
	iconGap     = 4.0
	markGap     = 6.0
	signWidth   = 13.0
	markType    = 11.5
)

// MarkType is the size of the words in marks.
const MarkType = markType

// meanings gathers what stands on slips besides labels, for the whole of a map.
type meanings struct {
	m           *cm.Map
	lang        cm.Lang
	tags        []*cm.Tag      // in their order
	talk, hands map[cm.Key]int // comments and hands, which have no part in how large things are
}

func newMeanings(m *cm.Map, lang cm.Lang) *meanings {
	return &meanings{m: m, lang: lang, tags: m.TagList()}
}

// discussion counts what was said of a thing.
func (g *meanings) discussion(key cm.Key) Discussion {
	if len(g.talk) == 0 && len(g.hands) == 0 {
		return Discussion{}
	}
	return Discussion{Comments: g.talk[key], Hands: g.hands[key]}
}

// talkOf counts what was said of a concept.
func (g *meanings) talkOf(c *cm.Concept) Discussion {
	t := g.discussion(cm.Key{Kind: cm.EntityConcept, ID: c.ID})
	t.For, t.Against = c.Tally(false)
	t.VisitorsFor, t.VisitorsAgainst = c.Tally(true)
	return t
}

func (g *meanings) words(t cm.Text) string { return t.For(g.lang, g.m.Language) }

// maxHint is how many characters of a note are shown to those who point at it.
const maxHint = 240

func shortened(words string) string { return shortenedTo(words, maxHint) }

func shortenedTo(words string, most int) string {
	if all := []rune(words); len(all) > most {
		return string(all[:most]) + "…"
	}
	return words
}

// sourceMarks gives a mark for each sort of source, but for the one that is shown
// itself, if any.
func sourceMarks(sources map[cm.ID]cm.Source, shown cm.ID) []Mark {
	if len(sources) == 0 {
		return nil
	}
	count, hint := map[cm.SourceKind]int{}, map[cm.SourceKind]string{}
	for _, id := range cm.SourceList(sources) {
		if s := sources[id]; id != shown {
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
		mark := Mark{Sign: string(kind), Says: t(sourceTexts[kind], n), Hint: shortened(hint[kind])}
		if n > 1 {
			mark.Words = strconv.Itoa(n)
		}
		all = append(all, mark)
	}
	return all
}

// sourceTexts say how many sources of a kind there are.
var sourceTexts = map[cm.SourceKind]string{
	cm.SourcePicture: "%d pictures", cm.SourceSound: "%d sounds", cm.SourceVideo: "%d films", cm.SourceFile: "%d files", cm.SourceCite: "%d citations", cm.SourceWeb: "%d web addresses",
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
	remark  *Block
	grid    *Grid
}

// noteMark gives the mark of a note.
func noteMark(note string, card *cm.NoteCard) Mark {
	mark := Mark{Sign: "note", Says: t("a note"), Hint: shortened(markdown.Plain(note))}
	if card != nil {
		mark.Colour = card.Colour
	}
	return mark
}

// maxTaskMark is how many characters of a task are shown in its mark.
const maxTaskMark = 24

func taskMark(task *cm.Task) Mark {
	mark := Mark{Sign: "task", Says: t("a task")}
	if task.Done {
		mark.Sign, mark.Says = "done", t("a task that is done")
	}
	var parts []string
	for _, words := range []string{task.Who, task.When} {
		if words != "" {
			parts = append(parts, words)
		}
	}
	mark.Words = shortenedTo(strings.Join(parts, ", "), maxTaskMark)
	for _, words := range []string{task.What, task.Who, task.When, task.Lasts.Words()} {
		if words != "" {
			mark.Says += ", " + words
		}
	}
	return mark
}

// linkMarks gives the marks of a link, which stand behind its phrase.
func (g *meanings) linkMarks(l *cm.Link) []Mark {
	var all []Mark
	if !l.Note.Empty() {
		all = append(all, noteMark(g.words(l.Note), l.NoteCard))
	}
	return append(all, sourceMarks(l.Sources, "")...)
}

// of gathers the icons and marks of a concept. Marks keep one order: note,
// sources, task, time and amounts, tags.
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
	if remark := g.words(c.Remark); remark != "" {
		e.remark = block(remark, remarkSet(g.m.Look.Large))
	}
	if !c.Note.Empty() {
		e.marks = append(e.marks, noteMark(g.words(c.Note), c.NoteCard))
	}
	shown, _, _ := c.Picture()
	e.marks = append(e.marks, sourceMarks(c.Sources, shown)...)
	if c.Task != nil {
		e.marks = append(e.marks, taskMark(c.Task))
	}
	for _, words := range []string{c.When, c.Amount.Words(), c.Lasts.Words()} {
		if words != "" {
			e.marks = append(e.marks, Mark{Sign: "words", Words: words, Says: words})
		}
	}
	for _, tag := range g.tagsOf(c) {
		name := tag.Name.For(g.lang, g.m.Language)
		first, _ := utf8.DecodeRuneInString(name)
		e.marks = append(e.marks, Mark{Sign: "tag", Words: strings.ToUpper(string(first)), Says: t("tagged %s", name), Tag: tag.ID, Colour: tag.Colour})
	}
	return e
}

// spread sets the marks in a row and gives its width.
func (e *extras) spread() float64 { return spread(e.marks) }

func spread(marks []Mark) float64 {
	x := 0.0
	for i := range marks {
		k := &marks[i]
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

// Parts gives the talk as marks: comments, who agrees, who does not.
func (t Discussion) Parts() []Mark {
	var all []Mark
	for _, p := range []struct {
		sign        string
		n, visitors int
	}{{"hand", t.Hands, 0}, {"comment", t.Comments - t.Hands, 0}, {"agree", t.For, t.VisitorsFor}, {"against", t.Against, t.VisitorsAgainst}} {
		if p.n+p.visitors > 0 {
			words := strconv.Itoa(p.n)
			if p.visitors > 0 {
				words += " + " + strconv.Itoa(p.visitors)
			}
			all = append(all, Mark{Sign: p.sign, Words: words, W: signWidth + face.Measure(face.Noun, markType, words).Px + 2})
		}
	}
	return all
}

// Says gives the talk as it is heard after the words of the thing: each part with
// a comma before it.
func (k Discussion) Says() string {
	words := ""
	for i, n := range [...]int{k.Hands, k.Comments - k.Hands, k.For, k.Against, k.VisitorsFor, k.VisitorsAgainst} {
		if n > 0 {
			words += ", " + t(talkTexts[i], n)
		}
	}
	return words
}

// talkTexts say how many comments and votes there are, in the order of Talk.Says.
var talkTexts = [...]string{"%d ask for help", "%d comments", "%d agree", "%d disagree", "%d visitors agree", "%d visitors disagree"}

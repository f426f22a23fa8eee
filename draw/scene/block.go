package scene

import (
	"math"
	"sync"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
)

// setting says how words of one use are set. Settings are compared as values.
type setting struct {
	voice            face.Voice
	size, lineHeight float64
	wide             float64 // lines are wrapped at this width
	padX, padY       float64
	least            float64 // the least width of the box
	empty            float64 // the width of the box without words
	fixed            bool    // the width was given: lines are not made even
	align            cm.Align
}

// Strip is the width of the colour at a slip's left edge, Cut the size of its
// cut corner, FoldedHeight that of the fold below which a branch is tucked away.
const (
	Strip        = 5.0
	Cut          = 11.0
	FoldedHeight = 20.0
)

// slack is added to the width of words in a slip, since other browsers than
// the one measured against set words a little wider.
const slack = 4

var (
	nounSetting   = setting{voice: face.Noun, size: 15, lineHeight: 19, wide: 166, padX: 13, padY: 9, least: 64, empty: 120}
	focusSetting  = setting{voice: face.Noun, size: 19, lineHeight: 24, wide: 240, padX: 18, padY: 13, least: 90, empty: 170}
	remarkSetting = setting{voice: face.NounItalic, size: 12.5, lineHeight: 15, wide: 166}
	verbSetting   = setting{voice: face.Verb, size: 14.5, lineHeight: 17, wide: 132, padX: 5, padY: 1}
)

// openGap is the room that a link without words keeps for them.
var openGap = Rect{W: 46, H: 20}

type blockKey struct {
	words string
	use   setting
}

// blocks remembers wrapped words: the same label is asked for again with every
// edit of its map.
var blocks = struct {
	sync.Mutex
	known map[blockKey]*Block
}{known: map[blockKey]*Block{}}

const maxBlocks = 30_000

// block wraps words. Where several lines are needed they are made about
// equally long: the narrowest width that needs no more lines than the full one.
func block(words string, use setting) *Block {
	key := blockKey{words, use}
	blocks.Lock()
	b := blocks.known[key]
	blocks.Unlock()
	if b != nil {
		return b
	}
	lines := face.Wrap(use.voice, use.size, use.wide, words)
	if n := len(lines); n > 1 && !use.fixed {
		low, high := use.wide/float64(n), use.wide
		for high-low > 3 {
			if mid := (low + high) / 2; len(face.Wrap(use.voice, use.size, mid, words)) <= n {
				high = mid
			} else {
				low = mid
			}
		}
		// A word must not be broken only to make lines even.
		if even := face.Wrap(use.voice, use.size, high, words); len(even) <= n && !breaksWords(words, even, lines) {
			lines = even
		}
	}
	b = &Block{Words: words, Lines: lines, Size: use.size, LineHeight: use.lineHeight, H: float64(len(lines)) * use.lineHeight,
		RightToLeft: face.StartsRightToLeft(words), Voice: use.voice, Align: use.align, Inset: use.padX}
	for _, l := range lines {
		b.W = math.Max(b.W, l.Px)
	}
	blocks.Lock()
	if len(blocks.known) >= maxBlocks {
		clear(blocks.known)
	}
	blocks.known[key] = b
	blocks.Unlock()
	return b
}

// breaksWords tells whether the even lines are narrower than the widest word.
func breaksWords(words string, even, lines []face.Line) bool {
	count := func(ls []face.Line) int {
		n := 0
		for _, l := range ls {
			n += len([]rune(l.Words))
		}
		return n
	}
	// A break at a space swallows it, a break inside a word does not.
	return count(even) > count(lines)
}

// larger is by how much each step of size enlarges a label, from MinSize on.
var larger = [...]float64{0.76, 0.88, 1, 1.2, 1.45, 1.75, 2.15}

// settingOf gives how the label of a concept is set.
func settingOf(c *cm.Concept, focus, large bool) setting {
	use := nounSetting
	if focus {
		use = focusSetting
	}
	use.voice, use.align = face.NounAs(c.Bold, c.Italic), c.Align
	size := c.Size
	if large {
		size++
	}
	if by := larger[max(cm.MinSize, min(cm.MaxSize, size))-cm.MinSize]; by != 1 {
		use.size = math.Round(use.size*by*2) / 2
		use.lineHeight = math.Round(use.lineHeight * by)
		use.wide *= by
	}
	if c.Width > 0 {
		use.wide, use.fixed = c.Width, true
	}
	return use
}

// slipBox gives the words and the box of a concept's slip, whose top centre is
// at its place; folded, it has a fold at its lower edge. Its marks get their
// places.
func slipBox(c *cm.Concept, label string, focus, folded bool, outline cm.Outline, large bool, more *extras) (*Block, Rect) {
	use := settingOf(c, focus, large)
	b := block(label, use)
	w, h := b.W, b.H
	if len(b.Lines) == 0 {
		w, h = use.empty-2*use.padX, use.lineHeight
	}
	if use.fixed {
		w = math.Max(w, use.wide)
	}
	w = math.Max(w+more.iconsWidth(), more.spread())
	w = math.Max(math.Ceil(w+2*use.padX+Strip+slack), use.least)
	h = math.Max(h, min(float64(len(more.icons)), 1)*IconSize) + 2*use.padY
	if len(more.marks) > 0 {
		h += MarksHeight
	}
	if p := more.picture; p != nil {
		w, h = math.Max(w, p.W+2*use.padX+Strip), h+p.H+PictureGap
	}
	if r := more.remark; r != nil {
		w, h = math.Max(w, math.Ceil(r.W+2*use.padX+Strip+slack)), h+r.H+RemarkGap
	}
	if g := more.grid; g != nil {
		w, h = math.Max(w, g.W+2*use.padX+Strip), h+g.H+GridGap
	}
	dw, dh := room(outline, w, h)
	w, h = w+dw, h+dh
	if folded {
		w = math.Max(w, 90)
		h += FoldedHeight
	}
	// An even width keeps both edges on whole pixels around the centre.
	w = 2 * math.Ceil(w/2)
	return b, Rect{X: c.At.X - w/2, Y: c.At.Y, W: w, H: h}
}

// phraseBox gives the room of a phrase with the marks behind it, with its upper
// left corner at the origin. The marks get their places.
func phraseBox(words string, large bool, marks []Mark) Rect {
	box := openGap
	if words != "" {
		b := block(words, verbsSet(large))
		box = Rect{W: b.W + 2*verbSetting.padX, H: b.H + 2*verbSetting.padY}
	}
	if len(marks) > 0 {
		box.W, box.H = box.W+spread(marks)+LinkMarkGap, math.Max(box.H, MarksHeight)
	}
	return box
}

// remarkSet gives how remarks are set.
func remarkSet(large bool) setting {
	use := remarkSetting
	if large {
		use.size, use.lineHeight, use.wide = 15, 18, 199
	}
	return use
}

// verbsSet gives how phrases are set.
func verbsSet(large bool) setting {
	use := verbSetting
	if large {
		use.size, use.lineHeight, use.wide = 17.5, 20, 158
	}
	return use
}

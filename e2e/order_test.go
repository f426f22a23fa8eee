package e2e_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// sentences is a map of some size as somebody types it, sentence by sentence.
var sentences = [][3]string{
	{"the tower clock", "is driven by", "a weight"}, {"the tower clock", "is held back by", "the escapement"}, {"the tower clock", "shows the time on", "four dials"}, {"the tower clock", "strikes", "the hour bell"},
	{"a weight", "hangs from", "a drum"}, {"a drum", "turns", "the going train"}, {"the going train", "drives", "the escapement"}, {"the escapement", "is released by", "the pendulum"},
	{"the pendulum", "has a period set by", "its length"}, {"its length", "grows with", "warmth"}, {"warmth", "slows", "the tower clock"}, {"the hour bell", "is struck by", "a hammer"},
	{"a hammer", "is lifted by", "the striking train"}, {"the striking train", "is let off by", "the going train"}, {"the going train", "turns", "four dials"}, {"four dials", "face", "the market"},
	{"four dials", "face", "the school"}, {"four dials", "face", "the bell works"}, {"the bell works", "casts", "the hour bell"}, {"the hour bell", "is made of", "bronze"},
	{"bronze", "is a mixture of", "copper"}, {"bronze", "is a mixture of", "tin"}, {"a weight", "is made of", "iron"}, {"the pendulum", "ends in", "a bob"},
	{"a bob", "is made of", "iron"}, {"the school", "begins with", "the hour bell"}, {"the striking train", "counts by", "a notched wheel"}, {"a notched wheel", "has", "twelve notches"},
	{"the market", "opens at", "the sixth hour"}, {"the sixth hour", "is rung on", "the hour bell"},
}

// covered lists what lies on what, as it is drawn: slips on slips or on phrases, phrases
// on phrases.
const covered = `(() => {
	const boxes = [...document.querySelectorAll("#slips > .slip .body, #links > .link .gap")].map(el => ({ of: el.closest("[id]").id, r: el.getBoundingClientRect() }));
	const meet = (a, b) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1;
	return boxes.flatMap((a, i) => boxes.slice(i + 1).filter(b => meet(a.r, b.r)).map(b => a.of + " " + b.of));
})()`

// say types a sentence into the bar.
func say(p *drive.Page, s [3]string) {
	if drive.Eval[string](p, `document.activeElement.id`) == "say-phrase" {
		p.Keys(drive.Left) // from the phrase of the next sentence back to its beginning
	} else {
		p.Press("#say-from")
	}
	for i, words := range s {
		p.Insert(words)
		p.Keys([]string{drive.Tab, drive.Tab, drive.Enter}[i])
	}
	p.Settled()
}

// Thirty sentences, one after the other: after each the map can be read, kept in order or
// not, and what was just said is in sight.
func TestAMapCanBeReadSentenceBySentence(t *testing.T) {
	t.Parallel()
	for _, order := range []string{"levels", "free"} {
		t.Run(order, func(t *testing.T) {
			t.Parallel()
			app := drive.Start(t, binary, "serve", t.TempDir())
			p := browser.Page(t, 1280, 800)
			begin(p, app.URL, "How does a tower clock keep time?", "empty", "", order)
			all := sentences
			if order != "free" {
				all = all[:18] // the pattern does the rest as it did these
			}
			for i, s := range all {
				say(p, s)
				require.Empty(t, drive.Eval[[]string](p, covered), "after sentence %d, %v", i, s)
				if i > 0 && order != "free" {
					assert.True(t, drive.Eval[bool](p, `(() => { const r = document.getElementById("c-" + seen.concept(`+quoted(s[2])+`).id).getBoundingClientRect(), d = document.getElementById("desk").getBoundingClientRect(); return r.left >= d.left && r.right <= d.right && r.top >= d.top && r.bottom <= d.bottom })()`), "sentence %d is in sight: %v", i, s)
				}
			}
			phrases := map[[2]string]bool{}
			for _, s := range all {
				phrases[[2]string{s[0], s[1]}] = true
			}
			assert.Len(t, says(p), len(phrases), "what shares a phrase is one link")
			sameAfterReload(t, p)
			assert.Empty(t, p.Faults())
		})
	}
}

// What a hand puts somewhere stays there on a map that is kept in order, and takes along
// what hangs from it; let go, it is in order again. Among its siblings it takes their
// order; so does what keys move. Switched off, all stays.
func TestAHandAmongWhatIsKeptInOrder(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	begin(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n    rings with: a hum\n  has: the crown\n  has: the waist", "levels")
	p.Wait(`seen.slips() === 5`)
	p.Settled()
	row := func() []string {
		return drive.Eval[[]string](p, `["the rim", "the crown", "the waist"].map(w => seen.concept(w)).sort((a, b) => a.box.x - b.box.x).map(c => c.words)`)
	}
	level := func(words string) float64 { return boxOf(p, words)[1] }
	require.Equal(t, []string{"the rim", "the crown", "the waist"}, row())
	require.InDelta(t, level("the rim"), level("the waist"), 0.5)

	// Arrows go along the hierarchy: to siblings, the first child, the parent.
	p.Press(p.Slip("the rim"))
	for _, to := range [][2]string{{drive.Right, "the crown"}, {drive.Right, "the waist"}, {drive.Up, "the bell"}, {drive.Down, "the rim"}, {drive.Down, "a hum"}, {drive.Up, "the rim"}} {
		p.Keys(to[0])
		assert.Equal(t, to[1], drive.Eval[string](p, `seen.at(seen.chosen()).words`))
	}

	// By keys, and past a sibling by the pointer.
	p.Ctrl(drive.Right)
	p.Settled()
	assert.Equal(t, []string{"the crown", "the rim", "the waist"}, row())
	x, y := p.Middle(p.Slip("the rim"))
	wx, _ := p.Middle(p.Slip("the waist"))
	var lands []float64
	p.Drag(x, y, wx+70, y+6, func() {
		p.Wait(`document.querySelector(".landing rect")`)
		lands = drive.Eval[[]float64](p, `["x", "y"].map(n => Number(document.querySelector(".landing rect").getAttribute(n)))`)
	})
	p.Settled()
	assert.InDeltaSlice(t, lands, boxOf(p, "the rim")[:2], 1, "where it was shown to land")
	assert.Equal(t, []string{"the crown", "the waist", "the rim"}, row())
	assert.InDelta(t, level("the crown"), level("the rim"), 0.5, "it stands in its row again")
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll("#slips > .held").length`))

	// Put in order by their author, siblings keep that order until they may change places again.
	const keeps = `.margin [data-do="op"][data-steps*="keep-order"]`
	p.Press(p.Slip("the bell"))
	p.Press(`[data-phase="connect"]`)
	p.Wait(`seen.told() && document.querySelector('` + keeps + `')?.ariaPressed === "true"`)
	p.Press(keeps)
	p.Settled()
	p.Wait(`seen.told() && document.querySelector('` + keeps + `')?.ariaPressed === "false"`)
	p.Press(keeps)
	p.Settled()
	p.Wait(`seen.told() && document.querySelector('` + keeps + `')?.ariaPressed === "true"`)
	p.Press(`[data-phase="gather"]`)

	// Somewhere else it stays, with what hangs from it.
	x, y = p.Middle(p.Slip("the rim"))
	p.Drag(x, y, x+40, y+220)
	p.Settled()
	put := boxOf(p, "the rim")
	assert.True(t, drive.Eval[bool](p, `document.querySelector('`+p.Slip("the rim")+`').classList.contains("held")`))
	assert.Greater(t, level("a hum"), put[1]+put[3])
	assert.Greater(t, level("the crown"), level("the bell")+50, "what shares its phrase stays below the parent")
	assert.InDelta(t, level("the crown"), level("the waist"), 0.5)
	p.Press(p.Slip("the bell"))
	p.Keys(drive.Tab, "hangs in", drive.Enter, "the tower of the old school", drive.Enter)
	p.Settled()
	assert.Equal(t, put, boxOf(p, "the rim"), "the rest flows around it")
	assert.Empty(t, drive.Eval[[]string](p, covered))
	p.Press(p.Slip("the rim"))
	p.Press(`[data-phase="connect"]`)
	p.Wait(`seen.told() && document.querySelector('.margin [data-do="let-stand"]')`)
	p.Press(`.margin [data-do="let-stand"]`)
	p.Settled()
	assert.InDelta(t, level("the crown"), level("the rim"), 0.5)

	// Off: what stands stays, and what comes makes room for itself.
	stood := places(p)
	p.Press(`#kept`)
	p.Settled()
	assert.Equal(t, "false", drive.Eval[string](p, `document.getElementById("kept").getAttribute("aria-pressed")`))
	assert.Equal(t, stood, places(p))
	for i := range 4 {
		say(p, [3]string{"the bell", "has", fmt.Sprint("a part of it, number ", i)})
		assert.Empty(t, drive.Eval[[]string](p, covered))
	}
	p.Press(`#kept`)
	p.Settled()
	assert.InDelta(t, level("the crown"), level("a part of it, number 3"), 0.5, "in order again")
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// tapper taps controls that one can see, read and hit, and counts.
type tapper struct {
	t    *testing.T
	p    *drive.Page
	taps int
}

// control taps a control: at least 48 px either way, with a name.
func (k *tapper) control(selector string) {
	k.t.Helper()
	k.p.Wait(`document.querySelector(` + quoted(selector) + `)?.checkVisibility()`)
	size := drive.Eval[[]float64](k.p, `(r => [r.width, r.height])(document.querySelector(`+quoted(selector)+`).getBoundingClientRect())`)
	assert.GreaterOrEqual(k.t, size[0], 48.0, selector)
	assert.GreaterOrEqual(k.t, size[1], 48.0, selector)
	name := drive.Eval[string](k.p, `(e => e.getAttribute("aria-label") || e.innerText)(document.querySelector(`+quoted(selector)+`))`)
	assert.NotEmpty(k.t, strings.TrimSpace(name), selector)
	k.p.Tap(selector)
	k.taps++
}

func (k *tapper) concept(words string) {
	k.p.Tap(k.p.Slip(words))
	k.taps++
}

// Six linked concepts by fingers alone: every control in sight, with words, at
// least 48 px, at most three taps for each, and no gesture but the tap.
func TestSixLinkedConceptsByTouch(t *testing.T) {
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1024, 768)
	p.Tablet(1024, 768)
	p.Goto(app.URL + emptyMap(t, app))
	k := &tapper{t: t, p: p}
	say := func(field, words string) {
		p.Wait(`document.activeElement.matches(".` + field + `")`)
		p.Keys(words, drive.Enter) // the keyboard on the screen
	}
	most := 0
	each := func(do func()) {
		k.taps = 0
		do()
		p.Settled()
		most = max(most, k.taps)
	}
	each(func() {
		k.control(`.zoom [data-do="add"]`)
		say("noun-field", "the bell")
	})
	for _, c := range [][3]string{
		{"the bell", "has", "the rim"}, {"the bell", "hangs in", "the tower"}, {"the rim", "is struck by", "the clapper"},
		{"the tower", "has", "a window"}, {"the clapper", "is made of", "iron"},
	} {
		each(func() {
			k.concept(c[0])
			k.control(`.margin [data-do="child"]`)
			say("verb-field", c[1])
			say("noun-field", c[2])
		})
	}
	assert.LessOrEqual(t, most, 3)
	each(func() {
		k.concept("a window")
		k.control(`.margin [data-do="link-to"]`)
		k.concept("the clapper")
		say("verb-field", "lets one see")
	})
	assert.LessOrEqual(t, k.taps, 3)
	assert.ElementsMatch(t, []string{"the bell has the rim", "the bell hangs in the tower", "the rim is struck by the clapper", "the tower has a window",
		"the clapper is made of iron", "a window lets one see the clapper"}, says(p))
	noOverlap(t, p)

	// What a held key does has a switch: several, a frame, branches.
	p.Tap(`.zoom [data-do="fit"]`)
	k.control(`.zoom [data-name="several"]`)
	k.concept("iron")
	k.concept("a window")
	p.Wait(`mevrin.chosen.list.length >= 2`)
	k.control(`.zoom [data-name="several"]`)
	k.control(`.margin [data-do="tuck"], .margin [data-do="link-in-row"]`)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys(drive.Escape)
	p.Settled()

	// The knot offers its four sides to a finger; a long press the menu.
	k.concept("the rim")
	p.Wait(`mevrin.hand.knot.at === mevrin.chosen.only`)
	p.TapAt(p.Middle(".pull-knot .reach"))
	p.Wait(`document.querySelectorAll(".aim-place").length === 4`)
	p.TapAt(p.Middle(`.aim-place[data-side="right"] .aim-slip`))
	say("verb-field", "shakes")
	say("noun-field", "the air")
	p.Settled()
	assert.Contains(t, says(p), "the rim shakes the air")
	x, y := p.Middle(p.Slip("the air"))
	p.Touch("touchStart", drive.Finger{X: x, Y: y})
	p.Wait(`!document.getElementById("menu").hidden`)
	p.Touch("touchEnd")
	assert.Greater(t, drive.Eval[int](p, `document.querySelectorAll("#menu [role=menuitem] svg.icon").length`), 8)
	assert.Contains(t, drive.Eval[string](p, `document.getElementById("menu").innerText`), "Split in two")
	p.Tap(`#menu [data-do="tuck"]`)
	p.Wait(`document.getElementById("menu").hidden`)

	// A branch is tucked away and brought back by its fold; a line takes two
	// fingers' work: select it, then drag it.
	k.concept("the rim")
	k.control(`.margin [data-do="tuck"]`)
	p.Wait(`[...mevrin.model.slips.values()].some(s => s.hides.length === 3)`)
	p.Tap(p.Slip("the rim") + " .tuck")
	p.Wait(`![...mevrin.model.slips.values()].some(s => s.hides.length)`)
	p.Tap(phraseOf(p, "hangs in"))
	p.Wait(`document.querySelectorAll(".end-grip").length === 2`)
	gx, gy := p.Middle(".new-grip .dot")
	// Away from the line, not along it.
	ends := drive.Eval[[]float64](p, `[...document.querySelectorAll(".end-grip .dot")].map(e => e.getBoundingClientRect()).flatMap(r => [r.x, r.y])`)
	long := math.Hypot(ends[2]-ends[0], ends[3]-ends[1])
	p.Touch("touchStart", drive.Finger{X: gx, Y: gy})
	for i := 1; i <= 5; i++ {
		p.Touch("touchMove", drive.Finger{X: gx + float64(i)*10*(ends[3]-ends[1])/long, Y: gy - float64(i)*10*(ends[2]-ends[0])/long})
	}
	p.Touch("touchEnd")
	p.Settled()
	bends, _ := ledBy(p, "hangs in")
	assert.Len(t, bends, 1)
	assert.Empty(t, p.Faults())
}

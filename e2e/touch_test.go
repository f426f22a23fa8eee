package e2e_test

import (
	"math"
	"slices"
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
	t.Parallel()
	inSoak(t)
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1024, 768)
	p.Motion()
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
	p.Wait(`seen.marked().length >= 2`)
	k.control(`.zoom [data-name="several"]`)
	k.control(`.margin [data-do="tuck"], .margin [data-do="link-in-row"]`)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys(drive.Escape)
	p.Settled()

	// The knot offers its four sides to a finger; a long press the menu.
	k.concept("the rim")
	p.Wait(`seen.knot(seen.chosen())`)
	p.TapAt(p.Middle(".pull-handle .reach"))
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
	p.Wait(`seen.concepts().some(s => s.hides.length === 3)`)
	p.Tap(p.Slip("the rim") + " .tuck")
	p.Wait(`!seen.concepts().some(s => s.hides.length)`)
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

// What is done to links, ends and the view has a control to tap, too; a loose
// idea is carried from the column by a finger.
func TestLinksAndViewsByTouch(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1024, 768)
	p.Tablet(1024, 768)
	p.Goto(app.URL + emptyMap(t, app))
	post(t, app.URL+drive.Eval[string](p, `document.body.dataset.base`), "begin", `[{"do":"add-concept","id":"bell","label":"the bell","at":{"x":0,"y":0}},{"do":"set-focus","concept":"bell"},
		{"do":"add-concept","id":"rim","label":"the rim","at":{"x":-160,"y":160}},{"do":"add-concept","id":"crown","label":"the crown","at":{"x":120,"y":160}},{"do":"add-concept","id":"rope","label":"the rope","at":{"x":300,"y":20}},
		{"do":"add-link","id":"has","phrase":"has","from":[{"id":"f","concept":"bell"}],"to":[{"id":"t","concept":"rim"},{"id":"u","concept":"crown"}]}]`)
	p.Wait(`seen.slips() === 4`)
	p.Tap(`.zoom [data-do="fit"]`)
	k := &tapper{t: t, p: p}
	has := func(sentence string) {
		p.Until(sentence, func() bool { p.Settled(); return slices.Contains(says(p), sentence) })
	}

	p.Tap(`[id="l-has"] .gap`)
	k.control(`.margin [data-do="own-link"][aria-label*="the crown"]`)
	has("the bell has the crown")
	p.Tap(`[id="l-has"] .gap`)
	k.control(`.margin [data-do="join-alike"]`)
	has("the bell has the rim, the crown")
	p.Tap(`[id="l-has"] .gap`)
	k.control(`.margin [data-do="take-off"][aria-label*="the crown"]`)
	has("the bell has the rim")
	k.control(`.margin [data-do="reverse"]`)
	has("the rim has the bell")
	k.control(`.margin [data-do="reverse"]`)
	k.control(`.margin [data-do="heads-both"]`)
	p.Wait(`seen.at("l-has").heads === "both"`)
	k.control(`.margin [data-do="lead-end"][aria-label*="the rim"]`)
	p.Wait(`!document.getElementById("picking").hidden`)
	p.Tap(`[id="c-crown"]`)
	has("the bell has the crown")
	k.control(`.margin [data-do="insert"]`)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the yoke", drive.Enter)
	// A phrase of the bank, tapped while one would be typed.
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is fo")
	p.Wait(`!document.getElementById("phrases").hidden && document.querySelector("#phrases:not([aria-busy]) li")`)
	offer := drive.Eval[string](p, `document.querySelector("#phrases li").firstElementChild.textContent`)
	p.Tap(`#phrases li`)
	p.Until("the phrase offered", func() bool {
		p.Settled()
		return slices.ContainsFunc(says(p), func(s string) bool { return strings.Contains(s, "the yoke "+offer+" the crown") })
	})

	// Views.
	p.Tap(`[id="c-bell"]`)
	scale := drive.Eval[float64](p, `seen.scale()`)
	k.control(`.zoom [data-do="fit-chosen"]`)
	p.Wait(`seen.scale() > ` + mustJSON(scale))
	k.control(`.zoom [data-do="fit"]`)
	k.control(`.zoom [data-do="paper-alone"]`)
	p.Wait(`!document.getElementById("margin").checkVisibility()`)
	k.control(`#alone`)
	p.Wait(`document.getElementById("margin").checkVisibility()`)

	// A loose idea onto a concept.
	k.control(`#column-switch`)
	p.Wait(`document.querySelector('#loose [data-element="c-rope"]')`)
	k.control(`.zoom [data-do="fit"]`)
	drive.Eval[bool](p, `document.querySelector('#loose [data-element="c-rope"]').scrollIntoView({ block: "center" }), true`)
	x, y := p.Middle(`#loose [data-element="c-rope"]`)
	bx, by := p.Middle(`[id="c-bell"]`)
	p.Touch("touchStart", drive.Finger{X: x, Y: y})
	for i := 1; i <= 10; i++ {
		p.Touch("touchMove", drive.Finger{X: x + (bx-x)*float64(i)/10, Y: y + (by-y)*math.Pow(float64(i)/10, 3)})
	}
	p.Touch("touchEnd")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is rung by", drive.Enter)
	has("the bell is rung by the rope")
	assert.Empty(t, p.Faults())
}

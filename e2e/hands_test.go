package e2e_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// boxOf gives the box of a concept on the paper: x, y, width, height.
func boxOf(p *drive.Page, words string) []float64 {
	return drive.Eval[[]float64](p, `(b => [b.x, b.y, b.w, b.h])(seen.concept(`+quoted(words)+`).box)`)
}

// open opens a part of the margin that is folded.
func open(p *drive.Page, fold string) {
	p.Wait(`document.querySelector('.margin [data-fold="` + fold + `"]')`)
	if !drive.Eval[bool](p, `document.querySelector('.margin [data-fold="`+fold+`"]').open`) {
		p.Press(`.margin [data-fold="` + fold + `"] > summary`)
	}
	p.Wait(`(d => d.open && (!d.querySelector(":scope > .fold-body") || d.querySelector(":scope > .fold-body > :not([data-waits])")) && seen.told())(document.querySelector('.margin [data-fold="` + fold + `"]'))`)
}

// more opens all folds about what is selected.
func more(p *drive.Page) {
	p.Wait(`seen.told() && document.querySelector('.margin .this [data-fold="about-note"]')`)
	for _, fold := range drive.Eval[[]string](p, `[...document.querySelectorAll('.margin .this > [data-fold^="about-"], .margin .this > [data-fold="talk"]')].map(d => d.dataset.fold)`) {
		open(p, fold)
	}
}

// The side of a new concept is chosen and seen before it is made: by keys, by
// the knot under the pointer; and nothing is covered.
func TestTheSideIsChosen(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  has: the crown")
	p.Wait(`seen.slips() === 3`)
	p.Press(p.Slip("the bell"))
	bell := boxOf(p, "the bell")
	p.Ctrl(".")
	p.Wait(`document.querySelectorAll(".aim-place").length === 4`)
	p.Keys(drive.Left)
	p.Wait(`document.querySelector(".aim-place.chosen").dataset.side === "left"`)
	seen := drive.Eval[[]float64](p, `(b => [b.x + b.width / 2, b.y])(document.querySelector(".aim-place.chosen .aim-slip").getBBox())`)
	p.Keys(drive.Enter)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".aim-place").length`))
	p.Keys("hangs in", drive.Enter, "the tower", drive.Enter)
	p.Settled()
	tower := boxOf(p, "the tower")
	assert.InDelta(t, seen[0], tower[0]+tower[2]/2, 1, "it stands where it was seen")
	assert.InDelta(t, seen[1], tower[1], 1)
	assert.Less(t, tower[0]+tower[2], bell[0])

	p.Press(p.Slip("the bell"))
	p.Ctrl(".")
	p.Keys(drive.Escape)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".aim-place").length`))
	assert.Len(t, labels(p), 4)
	// The knot stands on the side that the pointer is nearest to.
	x, y := p.Middle(p.Slip("the bell"))
	p.Hover(x, y-14)
	p.Wait(`seen.knot("c-" + seen.concept("the bell").id) === "above"`)
	kx, ky := p.Middle(".pull-handle .dot")
	p.Hover(kx, ky-2)
	p.Wait(`document.querySelector(".aim-place.chosen")?.dataset.side === "above"`)
	p.Click(kx, ky-2)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is cast from", drive.Enter, "bronze", drive.Enter)
	p.Settled()
	bronze := boxOf(p, "bronze")
	assert.Less(t, bronze[1]+bronze[3], bell[1])
	noOverlap(t, p)
	assert.Empty(t, p.Faults())
}

// What is dragged snaps to its neighbours, with a line that shows to which; not
// while Control is held, and not where that was switched off; a branch goes
// along where that was chosen.
func TestSnappingAndBranchesByDefault(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n    is of: bronze\n  has: the crown")
	p.Wait(`seen.slips() === 4`)
	middle := func(words string) float64 { b := boxOf(p, words); return b[0] + b[2]/2 }
	to := func(m chromedp.Modifier, words string, off float64) {
		x, y := p.Middle(p.Slip(words))
		k := drive.Eval[float64](p, `seen.scale()`)
		p.DragWith(m, x, y, x+(middle("the bell")-middle(words)+off)*k, y+160)
		p.Settled()
	}
	x, y := p.Middle(p.Slip("the crown"))
	bx, _ := p.Middle(p.Slip("the bell"))
	guide := 0.0
	p.Drag(x, y, bx+4, y+150, func() {
		p.Wait(`document.querySelector(".guide-line")`)
		guide = drive.Eval[float64](p, `Number(/^M(-?[\d.]+) [^H]*V/.exec([...document.querySelectorAll(".guide-line")].map(l => l.getAttribute("d")).find(d => d.includes("V")))[1])`)
	})
	p.Settled()
	crown := boxOf(p, "the crown")
	assert.LessOrEqual(t, min(math.Abs(crown[0]-guide), math.Abs(crown[0]+crown[2]/2-guide), math.Abs(crown[0]+crown[2]-guide)), 0.6, "an edge or its middle lies on the line")
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".guide-line").length`))
	to(kb.ModifierCtrl, "the crown", 4)
	assert.InDelta(t, 4, math.Abs(middle("the bell")-middle("the crown")), 1)

	p.Keys(drive.Escape)
	marginSays(p, "Nothing selected")
	open(p, "settings")
	p.Press(`.margin [data-name="snap"]`)
	p.Wait(`document.querySelector('.margin [data-name="snap"]').getAttribute("aria-pressed") === "false"`)
	to(0, "the crown", -3)
	assert.InDelta(t, 3, math.Abs(middle("the bell")-middle("the crown")), 1)
	p.Press(`.zoom [data-name="branch"]`)
	rim, bronze := boxOf(p, "the rim"), boxOf(p, "bronze")
	x, y = p.Middle(p.Slip("the rim"))
	p.Drag(x, y, x+30, y-90)
	p.Settled()
	assert.InDelta(t, boxOf(p, "the rim")[1]-rim[1], boxOf(p, "bronze")[1]-bronze[1], 0.5)
	assert.NotEqual(t, rim, boxOf(p, "the rim"))
	p.Reload()
	p.Wait(`!!window.mevrin`)
	open(p, "settings")
	p.Wait(`document.querySelector('.margin [data-name="branch"]').hasAttribute("aria-pressed")`)
	assert.Equal(t, []string{"true", "false"}, drive.Eval[[]string](p, `["branch", "snap"].map(name => document.querySelector('.margin [data-name="' + name + '"]').getAttribute("aria-pressed"))`), "switches stay as they were put")
	assert.Empty(t, p.Faults())
}

// Labels are set by keys, by the margin and by a side of the slip, several at
// once; words still fit their boxes; the language of the words is the map's.
func TestLabelsAreSet(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the sound bow\n  has: the crown")
	p.Wait(`seen.slips() === 3`)
	bow := "the sound bow"
	size := func(words string) string {
		return drive.Eval[string](p, `(t => t.getAttribute("font-size") + " " + getComputedStyle(t).fontWeight + " " + getComputedStyle(t).fontStyle + " " + getComputedStyle(t).textAnchor)(document.querySelector('`+p.Slip(words)+` .noun'))`)
	}
	plain := boxOf(p, bow)
	p.Press(p.Slip(bow))
	p.Ctrl(">")
	p.Ctrl("b")
	p.Settled()
	assert.Equal(t, "18 700 normal middle", size(bow))
	assert.Greater(t, boxOf(p, bow)[2], plain[2])
	p.CtrlClick(p.Middle(p.Slip("the crown")))
	p.Wait(`document.querySelector('.margin [data-do="type-italic"]') && document.querySelector('.margin-body').dataset.chosenKind === "several"`)
	p.Press(`.margin [data-do="type-italic"]`)
	p.Press(`.margin [data-align="left"]`)
	p.Settled()
	assert.Equal(t, []string{"18 700 italic start", "15 400 italic start"}, []string{size(bow), size("the crown")})

	// A side dragged inwards makes it narrow, both sides alike; twice pressed it
	// is as wide as suits the words.
	p.Keys(drive.Escape)
	p.Press(p.Slip(bow))
	p.Wait(`document.querySelectorAll(".sides .side").length === 2`)
	before := boxOf(p, bow)
	x, y := p.Middle(`.side[data-side="right"]`)
	p.Drag(x, y, x-40, y, func() { p.Wait(`document.querySelector(".width-frame")`) })
	p.Settled()
	narrow := boxOf(p, bow)
	assert.InDelta(t, before[2]-80, narrow[2], 3)
	assert.InDelta(t, before[0]+before[2]/2, narrow[0]+narrow[2]/2, 0.5)
	assert.Greater(t, narrow[3], before[3], "it grows downwards instead")
	fits := `[...document.querySelectorAll("#slips .slip")].every(s => { const b = s.querySelector(".body").getBoundingClientRect(); return [...s.querySelectorAll("tspan, text")].every(t => { const r = t.getBoundingClientRect(); return r.left >= b.left - 1 && r.right <= b.right + 1 && r.top >= b.top - 1 && r.bottom <= b.bottom + 1 }) })`
	assert.True(t, drive.Eval[bool](p, fits))
	sameAfterReload(t, p)

	// The editor is of the size and weight of what will stand there.
	p.Press(p.Slip(bow))
	p.Keys(drive.F2)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	assert.Equal(t, []string{"18px", "700", "italic", "start", "true", "en"}, drive.Eval[[]string](p, `(f => { const s = getComputedStyle(f); return [s.fontSize, s.fontWeight, s.fontStyle, s.textAlign === "left" ? "start" : s.textAlign, String(f.spellcheck), f.lang] })(document.activeElement)`))
	p.Keys(drive.Escape)
	more(p)
	p.Press(`.margin [data-do="type-plain"]`)
	p.Settled()
	assert.Equal(t, plain[2:], boxOf(p, bow)[2:])

	p.Keys(drive.Escape)
	open(p, "settings")
	drive.Eval[bool](p, `(s => { s.value = "de"; s.dispatchEvent(new Event("change", { bubbles: true })); return true })(document.getElementById("language"))`)
	p.Settled()
	assert.Equal(t, []string{"the bell", "the crown", bow}, labels(p))
	assert.Equal(t, "de", drive.Eval[string](p, `document.documentElement.lang`))
	assert.Empty(t, p.Faults())
}

// A concept that is two is split, in a dialog that says what goes where; links
// that say the same are joined; between two selected concepts one key turns,
// arrows, puts between, doubles; several are linked in a row.
func TestSplittingAndJoining(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  rings in: the tower\n    has: a clock")
	p.Wait(`seen.slips() === 4`)
	p.Press(p.Slip("the tower"))
	open(p, "this-more")
	p.Press(`.margin [data-do="split"]`)
	p.Wait(`document.querySelector("#split[open] #split-words") === document.activeElement`)
	p.Keys(drive.Enter)
	p.Wait(`!document.getElementById("split-fault").hidden`)
	p.Keys("the church")
	drive.Eval[bool](p, `[...document.querySelectorAll("#split label.tick")].find(l => l.innerText.includes("the tower has a clock")).click(), true`)
	p.Press(`#split [type="submit"]`)
	p.Wait(`seen.slips() === 5`)
	p.Settled()
	assert.ElementsMatch(t, []string{"the bell has the rim", "the bell rings in the tower", "the church has a clock"}, says(p))
	noOverlap(t, p)
	p.Ctrl("z")
	p.Settled()
	assert.ElementsMatch(t, []string{"the bell has the rim", "the bell rings in the tower", "the tower has a clock"}, says(p))

	// Two concepts, in their order, and what is between them.
	p.Press(p.Slip("the bell"))
	p.CtrlClick(p.Middle(p.Slip("the rim")))
	p.CtrlShift(drive.Right)
	p.Settled()
	assert.Equal(t, "both", drive.Eval[string](p, `seen.links().find(l => l.words === "has" && l.heads !== "one").heads`))
	p.CtrlShift(drive.Up)
	p.Wait(`seen.links().length === 4`)
	p.Settled()
	assert.Contains(t, says(p), "the rim has the bell")
	p.Ctrl("z")
	p.Settled()
	p.Ctrl("z")
	p.Settled()
	p.Keys(drive.Escape)
	p.Press(p.Slip("the bell"))
	p.CtrlClick(p.Middle(p.Slip("the rim")))
	p.CtrlShift(drive.Left)
	p.Settled()
	assert.Contains(t, says(p), "the rim has the bell")
	p.CtrlShift(drive.Left)
	p.Settled()
	p.CtrlShift(drive.Down)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("an edge", drive.Enter)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is part of", drive.Enter)
	p.Settled()
	assert.Subset(t, says(p), []string{"the bell has an edge", "an edge is part of the rim"})

	// Three in a row; and the same said twice from one concept.
	p.Press(p.Slip("the rim"))
	p.CtrlClick(p.Middle(p.Slip("the tower")))
	p.CtrlClick(p.Middle(p.Slip("a clock")))
	p.Ctrl("k")
	p.Settled()
	assert.Subset(t, says(p), []string{"the rim (no words yet) the tower", "the tower (no words yet) a clock"})
	p.Ctrl("z")
	p.Settled()
	p.Keys("s")
	p.Wait(`document.activeElement.id === "say-from"`)
	post(t, app.URL+drive.Eval[string](p, `document.body.dataset.base`), "another", `[{"do":"add-concept","id":"cap","label":"a cap","at":{"x":0,"y":-300}},{"do":"add-link","id":"again","phrase":"Has","from":[{"id":"f","concept":"`+drive.Eval[string](p, `seen.concept("the bell").id`)+`"}],"to":[{"id":"t","concept":"cap"}]}]`)
	p.Wait(`!!document.getElementById("c-cap")`)
	p.Press(`.zoom [data-do="fit"]`)
	p.Press(phraseOf(p, "Has"))
	p.Wait(`document.querySelector('.margin [data-do="join-alike"]')`)
	p.Press(`.margin [data-do="join-alike"]`)
	p.Settled()
	assert.Contains(t, says(p), "the bell Has an edge, a cap")
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// The knot of a slip reaches over a neighbour that stands close by: a press there is
// meant for the neighbour, one on the knot itself for the knot.
func TestTheKnotGivesWayToANeighbour(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + emptyMap(t, app))
	require.True(t, drive.Eval[bool](p, `seen.elsewhere([{do:"add-concept", id:"rim", label:"the rim", at:{x:0,y:0}}, {do:"add-concept", id:"lip", label:"the lip", at:{x:0,y:52}}])`))
	p.Settled()
	p.Press(`[data-do="fit"]`)
	p.Press(`[id="c-rim"]`)
	p.Wait(`seen.chosen() === "c-rim" && document.querySelector(".pull-handle").getAttribute("visibility") === "visible"`)
	reach := drive.Eval[[]float64](p, `(r => [r.x + r.width / 2, r.bottom - 6])(document.querySelector(".pull-handle .reach").getBoundingClientRect())`)
	require.Equal(t, "reach", drive.Eval[string](p, fmt.Sprintf(`document.elementFromPoint(%f, %f).getAttribute("class")`, reach[0], reach[1])), "the reach lies over the neighbour")
	p.Click(reach[0], reach[1])
	p.Wait(`seen.chosen() === "c-lip"`)
	p.Press(`[id="c-rim"]`)
	p.Wait(`seen.chosen() === "c-rim"`)
	x, y := p.Middle(".pull-handle .dot")
	p.Click(x, y)
	p.Wait(`document.querySelectorAll(".aim-place").length > 0 || document.activeElement.matches(".field")`)
	assert.Empty(t, p.Faults())
}

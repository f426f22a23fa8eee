package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

const inABell = "the bell\n  has: the rim\n    is of: bronze\n      is made of: tin\n  has: the crown\n  hangs in: the tower"

// shown gives the labels in sight, those with a fold with what they hide.
func shown(p *drive.Page) []string {
	return drive.Eval[[]string](p, `seen.concepts().map(s => s.words + (s.hides.length ? " +" + s.hides.length : "")).sort()`)
}

// A branch is tucked away and brought back, by key, by the margin and by its
// fold; it goes along, it can be found, it goes with its concept; each viewer
// sees what they chose, and others what the author set.
func TestBranchesAreTuckedAway(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", inABell)
	p.Wait(`seen.slips() === 6`)
	all := []string{"bronze", "the bell", "the crown", "the rim", "the tower", "tin"}
	pull(p, "tin", "the tower")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("creaks in", drive.Enter)
	p.Settled()

	p.Press(p.Slip("the rim"))
	p.CtrlShift(drive.Up)
	p.Wait(`seen.slips() === 4`)
	assert.Equal(t, []string{"the bell", "the crown", "the rim +2", "the tower"}, shown(p))
	assert.Contains(t, drive.Eval[string](p, `document.querySelector('`+p.Slip("the rim")+` .tuck').textContent`), "+2 ideas")
	// The link from inside ends at the fold, says nothing there, and is heard whole.
	assert.Equal(t, []string{"tin creaks in the tower", "hidden"}, drive.Eval[[]string](p, `(() => { const l = document.querySelector(".link.veiled"); return [l.getAttribute("aria-label"), getComputedStyle(l.querySelector(".verb")).visibility] })()`))
	assert.False(t, drive.Eval[bool](p, `!document.getElementById("undo").disabled && !seen.saved()`))
	revision := drive.Eval[int](p, `Number(document.body.dataset.revision)`)
	sameAfterReload(t, p)
	assert.Equal(t, revision, drive.Eval[int](p, `Number(document.body.dataset.revision)`), "it is no edit")

	// What is hidden goes along, and is where it belongs when it comes back.
	off := func() []float64 {
		return drive.Eval[[]float64](p, `fetch(document.body.dataset.base + "/document").then(r => r.json()).then(m => { const at = w => m.concepts.find(c => Object.values(c.label)[0] === w).at; return [at("tin").x - at("the rim").x, at("tin").y - at("the rim").y] })`)
	}
	before := off()
	x, y := p.Middle(p.Slip("the rim"))
	stood := boxOf(p, "the rim")
	p.Drag(x, y-8, x+60, y+70)
	p.Settled()
	assert.Greater(t, boxOf(p, "the rim")[1], stood[1]+30)
	assert.Equal(t, before, off())
	p.Keys(drive.Escape)
	p.Press(p.Slip("the rim"))
	p.Shift(drive.Down + drive.Down)
	p.Until("nudged together", func() bool { p.Settled(); o := off(); return o[1] == before[1] })
	p.Press(p.Slip("the rim") + " .tuck")
	p.Wait(`seen.slips() === 6`)
	assert.Equal(t, all, shown(p))

	// By level, all back, and by finding what is hidden.
	p.Keys(drive.Escape, "2")
	p.Wait(`seen.slips() === 4`)
	p.Keys("1")
	p.Wait(`seen.slips() === 1`)
	assert.Equal(t, []string{"the bell +5"}, shown(p))
	p.Keys("b")
	p.Wait(`seen.slips() === 6`)
	p.Keys("2")
	p.Wait(`seen.slips() === 4`)
	p.Keys("/")
	p.Keys("tin")
	p.Wait(`seen.at(seen.chosen() ?? "c-")?.words === "tin"`)
	p.Keys(drive.Escape)
	assert.Equal(t, all, shown(p))
	// What is tucked away inside a branch stays so when that comes back.
	p.Press(p.Slip("the rim"))
	p.CtrlShift(drive.Up)
	p.Wait(`seen.slips() === 4`)
	p.Press(p.Slip("the bell"))
	p.CtrlShift(drive.Up)
	p.Wait(`seen.slips() === 1`)
	p.Press(p.Slip("the bell") + " .tuck")
	p.Wait(`seen.slips() === 4`)
	assert.Equal(t, []string{"the bell", "the crown", "the rim +2", "the tower"}, shown(p))
	p.Keys(drive.Escape, "b")
	p.Wait(`seen.slips() === 6`)

	// The margin, and what the map opens with for those who never chose.
	p.Press(p.Slip("bronze"))
	p.Wait(`document.querySelector('.margin-body[data-chosen-kind="concept"] [data-do="tuck"]')`)
	p.Press(`.margin [data-do="tuck"]`)
	p.Wait(`seen.slips() === 5 && document.querySelector('.margin [data-do="set-opening"]')?.dataset.tucked === seen.concept("bronze").id`)
	p.Press(`.margin [data-do="set-opening"]`)
	p.Settled()
	p.Wait(`!document.querySelector('.margin [data-do="set-opening"]')`)
	assert.Equal(t, []string{"true"}, drive.Eval[[]string](p, `fetch(document.body.dataset.base + "/document").then(r => r.json()).then(m => Object.values(m.tucked ?? {}).map(String))`))

	// Something new below it is seen; deleted, it takes what is hidden along.
	p.Press(p.Slip("bronze"))
	p.Keys(drive.Tab)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is made of", drive.Enter, "copper", drive.Enter)
	p.Settled()
	assert.Len(t, shown(p), 7)
	p.Press(p.Slip("the rim"))
	p.CtrlShift(drive.Up)
	p.Wait(`seen.slips() === 4`)
	p.Keys(drive.Delete)
	p.Settled()
	assert.Equal(t, []string{"the bell", "the crown", "the tower"}, shown(p))
	p.Wait(`document.querySelector(".notice:last-child").textContent.includes("3 tucked away")`)
	p.Press(".notice:last-child button")
	p.Settled()
	assert.Equal(t, []string{"the bell", "the crown", "the rim +3", "the tower"}, shown(p))

	// Another window of the same viewer sees it so, too.
	other := browser.Page(t, 1280, 800)
	other.Goto(drive.Eval[string](p, `location.href`))
	assert.Equal(t, shown(p), shown(other))
	p.Keys("b")
	other.Wait(`seen.slips() === 7`)
	assert.Empty(t, append(p.Faults(), other.Faults()...))
}

// ledBy gives how the link with a phrase is led, and where its phrase stands.
func ledBy(p *drive.Page, phrase string) (bends [][]float64, gap []float64) {
	link := `seen.link(` + quoted(phrase) + `)`
	bends = drive.Eval[[][]float64](p, link+`.bends.map(b => [b.x, b.y])`)
	gap = drive.Eval[[]float64](p, `(b => [b.x + b.w / 2, b.y + b.h / 2])(`+link+`.gap)`)
	return bends, gap
}

// phraseOf gives the selector of the words of a link.
func phraseOf(p *drive.Page, phrase string) string {
	return `[id="l-` + drive.Eval[string](p, `seen.link(`+quoted(phrase)+`)?.id ?? ""`) + `"] .gap`
}

// A line is bent in several places, straightened, its phrase moved along it and
// by keys, its manner chosen; an end is led to another concept, off a shared
// phrase, and to a new concept; all of it runs by itself again in one step.
func TestLinesAreLedByHand(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  hangs in: the tower\n  has: the rim\n  has: the crown")
	p.Wait(`seen.slips() === 4`)
	p.Press(p.Slip("the tower"))
	x, y := p.Middle(p.Slip("the tower"))
	p.DragWith(kb.ModifierCtrl, x, y, 200, 560)
	p.Settled()
	p.Press(phraseOf(p, "hangs in"))
	p.Wait(`document.querySelectorAll(".end-grip").length === 2 && document.querySelector(".new-grip")`)
	gx, gy := p.Middle(".new-grip .dot")
	p.Drag(gx, gy, gx-90, gy-20, func() {
		p.Wait(`document.querySelector("#marks .prov-line")?.getAttribute("d").split("L").length === 3`)
	})
	p.Settled()
	bends, _ := ledBy(p, "hangs in")
	assert.Len(t, bends, 1)
	p.Wait(`document.querySelectorAll(".bend-grip").length === 1 && document.querySelectorAll(".new-grip").length === 2`)
	gx, gy = p.Middle(`.new-grip[data-at="1"] .dot`)
	p.Drag(gx, gy, gx+60, gy)
	p.Settled()
	bends, _ = ledBy(p, "hangs in")
	assert.Len(t, bends, 2)
	sameAfterReload(t, p)
	// Dragged back into line, a bend is none any more.
	p.Press(phraseOf(p, "hangs in"))
	p.Wait(`document.querySelectorAll(".bend-grip").length === 2`)
	bx, by := p.Middle(".bend-grip .dot")
	at := drive.Eval[[]float64](p, `(() => { const w = seen.link("hangs in"), a = seen.at("c-" + w.from[0].concept).box, b = w.bends[1], m = seen.inWindow((a.x + a.w / 2 + b.x) / 2, (a.y + a.h / 2 + b.y) / 2);
		return [m.x, m.y] })()`)
	p.Drag(bx, by, at[0], at[1])
	p.Settled()
	bends, _ = ledBy(p, "hangs in")
	assert.Len(t, bends, 1)
	p.Wait(`document.querySelector('.margin [data-do="free-lines"]')`)
	p.Press(`.margin [data-do="free-lines"]`)
	p.Settled()
	bends, middle := ledBy(p, "hangs in")
	assert.Empty(t, bends)

	// The phrase along its line, by the pointer and by keys.
	px, py := p.Middle(phraseOf(p, "hangs in"))
	p.Drag(px, py, px-40, py+60)
	p.Settled()
	_, moved := ledBy(p, "hangs in")
	assert.Greater(t, moved[1], middle[1]+20)
	p.Keys(drive.Escape)
	p.Press(phraseOf(p, "hangs in"))
	p.Shift(drive.Up)
	p.Settled()
	_, back := ledBy(p, "hangs in")
	assert.Less(t, back[1], moved[1])
	p.Shift(drive.Left)
	p.Settled()
	bends, _ = ledBy(p, "hangs in")
	assert.Len(t, bends, 1, "across its run it bows")
	for _, manner := range []string{"curved", "stepped"} {
		p.Wait(`document.querySelector('.margin [data-line="` + manner + `"]')`)
		p.Press(`.margin [data-line="` + manner + `"]`)
		p.Settled()
		assert.Equal(t, manner, drive.Eval[string](p, `seen.at(seen.chosen()).line`))
	}
	p.Ctrl("z")
	p.Settled()
	assert.Equal(t, "curved", drive.Eval[string](p, `seen.at(seen.chosen()).line`))

	// A phrase with several ends stands where it is put; an end is led to another
	// concept, taken off on the paper, led to a new one.
	_, hub := ledBy(p, "has")
	hx, hy := p.Middle(phraseOf(p, "has"))
	p.Drag(hx, hy, hx-20, hy+100)
	p.Settled()
	_, put := ledBy(p, "has")
	assert.InDelta(t, hub[0]-20, put[0], 2)
	assert.InDelta(t, hub[1]+100, put[1], 2)
	grip := func(words string) string {
		return `.end-grip[data-end="` + drive.Eval[string](p, `(() => { const l = seen.at(seen.chosen()); return [...l.from, ...l.to].find(e => seen.at("c-" + e.concept).words === `+quoted(words)+`).id })()`) + `"] .dot`
	}
	p.Wait(`document.querySelectorAll(".end-grip").length === 3`)
	x, y = p.Middle(grip("the crown"))
	tx, ty := p.Middle(p.Slip("the tower"))
	p.Drag(x, y, tx, ty)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim, the tower")
	p.Wait(`document.querySelectorAll(".end-grip").length === 3`)
	x, y = p.Middle(grip("the tower"))
	p.Drag(x, y, 640, 640)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim")
	p.Wait(`document.querySelectorAll(".end-grip").length === 2`)
	x, y = p.Middle(grip("the rim"))
	p.Drag(x, y, 640, 640)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the clapper", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell has the clapper")

	// And without a pointer: the margin asks, arrow keys and Enter answer.
	p.Press(phraseOf(p, "has"))
	p.Wait(`document.querySelector('.margin [data-do="lead-end"][aria-label*="clapper"]')`)
	p.Press(`.margin [data-do="lead-end"][aria-label*="clapper"]`)
	p.Wait(`!document.getElementById("picking").hidden`)
	p.Click(p.Middle(p.Slip("the rim")))
	p.Settled()
	assert.Contains(t, says(p), "the bell has the rim")
	assert.True(t, drive.Eval[bool](p, `document.getElementById("picking").hidden`))
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

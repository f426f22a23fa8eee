package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// places gives where all slips stand, as text.
func places(p *drive.Page) string {
	return drive.Eval[string](p, `seen.concepts().map(s => [s.words, s.box.x, s.box.y].join(" ")).sort().join("; ")`)
}

// overlaps counts the slips that cover another.
const overlaps = `(() => { const all = seen.concepts().map(s => s.box);
	return all.filter((a, i) => all.some((b, j) => j < i && a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h)).length; })()`

// A pattern is seen before it is taken: left, all is as it was; taken, one step
// back leads there; the branch of a concept has a pattern of its own, and takes
// that of what it hangs from again.
func TestAMapIsPutInOrder(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Motion()
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n    rings with: a hum tone\n    rings with: a prime\n  has: the crown\n    hangs in: the yoke\n  is struck by: the clapper")
	p.Wait(`seen.slips() === 7`)
	drive.Eval[bool](p, `seen.elsewhere([{ do: "set-focus", concept: seen.concept("the bell").id }])`)
	p.Settled()
	p.Press(`[data-phase="connect"]`)
	p.Wait(`!!document.querySelector(".pattern")`)
	before := places(p)
	revision := drive.Eval[string](p, `document.body.dataset.revision`)

	// Each pattern in turn is shown; Escape leaves it.
	for _, pattern := range []string{"levels", "levels-up", "levels-right", "levels-left", "sides", "rings", "web", "spine", "time", "rows"} {
		p.Press(`[data-pattern="` + pattern + `"]`)
		p.Wait(`seen.tried() === "` + pattern + `"`)
		assert.Zero(t, drive.Eval[float64](p, overlaps), pattern)
		assert.NotEqual(t, before, places(p), pattern)
		p.Wait(`!document.getElementById("trial").hidden`)
	}
	p.Keys(drive.Escape)
	p.Wait(`seen.tried() === null && document.getElementById("trial").hidden`)
	assert.Equal(t, before, places(p))
	assert.Equal(t, revision, drive.Eval[string](p, `document.body.dataset.revision`), "what is tried out is no edit")

	// Taken by Enter, it is one step, on disk and in other windows.
	p.Press(`[data-pattern="levels"]`)
	p.Wait(`seen.tried() === "levels"`)
	shown := places(p)
	p.Keys(drive.Enter)
	p.Settled()
	assert.Equal(t, shown, places(p))
	p.Wait(`document.querySelector('[data-pattern="levels"]').dataset.ofMap === "true"`)
	y := func(words string) float64 {
		return drive.Eval[float64](p, `seen.concepts().find(s => s.words === "`+words+`").box.y`)
	}
	assert.Equal(t, y("the rim"), y("the crown"))
	assert.Equal(t, y("the rim"), y("the clapper"))
	assert.Greater(t, y("the yoke"), y("the crown"))
	p.Reload()
	p.Wait(`seen.slips() === 7`)
	assert.Equal(t, shown, places(p))
	p.Ctrl("z")
	p.Settled()
	assert.Equal(t, before, places(p))
	p.Ctrl("y")
	p.Settled()
	assert.Equal(t, shown, places(p))

	// A branch in a pattern of its own: its top stays, and nothing covers anything.
	p.Press(p.Slip("the rim"))
	p.Wait(`seen.told() && !!document.querySelector('[data-scope="branch"]')`)
	p.Press(`[data-scope="branch"]`)
	at := y("the rim")
	p.Press(`[data-pattern="levels-right"]`)
	p.Wait(`seen.tried() === "levels-right"`)
	p.Keys(drive.Enter)
	p.Settled()
	assert.Equal(t, at, y("the rim"))
	x := func(words string) float64 {
		return drive.Eval[float64](p, `seen.concepts().find(s => s.words === "`+words+`").box.x`)
	}
	assert.Greater(t, x("a hum tone"), x("the rim")+60)
	assert.Greater(t, x("a prime"), x("the rim")+60)
	assert.Zero(t, drive.Eval[float64](p, overlaps))
	p.Wait(`document.querySelector('[data-pattern="levels-right"]').dataset.ofBranch === "true"`)
	p.Press(`[data-do="tidy-inherit"]`)
	p.Wait(`seen.tried() === ""`)
	p.Press(`[data-do="tidy-take"]`)
	p.Settled()
	assert.Greater(t, y("a hum tone"), y("the rim"))
	require.Empty(t, p.Faults())
}

// Pinned, a concept stays where it is; put in line, slips stand in line; kept
// tidy, a map is in order after each edit, and the slip in hand does not move.
func TestPinsLinesAndKeepingTidy(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  has: the crown\n  is struck by: the clapper")
	p.Wait(`seen.slips() === 4`)
	box := func(words, side string) float64 {
		return drive.Eval[float64](p, `seen.concepts().find(s => s.words === "`+words+`").box.`+side)
	}
	drive.Eval[bool](p, `seen.elsewhere([{ do: "set-focus", concept: seen.concept("the bell").id }])`)
	p.Settled()
	p.Press(`[data-phase="connect"]`)
	p.Press(p.Slip("the crown"))
	open(p, "about-look")
	p.Press(`[data-do="pin"]`)
	p.Settled()
	p.Wait(`document.querySelectorAll(".slip.pinned").length === 1`)
	x, y := box("the crown", "x"), box("the crown", "y")
	p.Press(`[data-pattern="rings"]`)
	p.Wait(`seen.tried() !== null`)
	p.Keys(drive.Enter)
	p.Settled()
	assert.Equal(t, [2]float64{x, y}, [2]float64{box("the crown", "x"), box("the crown", "y")})
	assert.Zero(t, drive.Eval[float64](p, overlaps))

	p.Ctrl("a")
	p.Wait(`seen.told() && !!document.querySelector('[data-way="left"]')`)
	p.Press(`[data-way="left"]`)
	p.Settled()
	assert.Len(t, drive.Eval[[]float64](p, `[...new Set(seen.concepts().map(s => s.box.x))]`), 1)
	p.Press(`[data-way="width"]`)
	p.Settled()
	assert.Len(t, drive.Eval[[]float64](p, `[...new Set(seen.concepts().map(s => s.box.w))]`), 1)

	p.Press(`[data-do="pin"]`) // all of them, then none
	p.Settled()
	p.Wait(`seen.told()`)
	p.Press(`[data-do="pin"]`)
	p.Wait(`!document.querySelector(".slip.pinned")`)

	// Kept tidy: a new concept finds its place, what is renamed stays.
	p.Press(`[data-do="keep-tidy"]`)
	p.Settled()
	p.Wait(`document.querySelector('[data-do="keep-tidy"]').getAttribute("aria-pressed") === "true"`)
	p.Press(p.Slip("the rim"))
	p.Keys(drive.Tab)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("rings with", drive.Enter)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("a hum tone", drive.Enter)
	p.Settled()
	assert.Zero(t, drive.Eval[float64](p, overlaps))
	before := [2]float64{box("a hum tone", "x") + box("a hum tone", "w")/2, box("a hum tone", "y")}
	p.Keys("the hum tone that one hears longest", drive.Enter) // what is selected is renamed
	p.Settled()
	assert.Equal(t, before, [2]float64{box("the hum tone that one hears longest", "x") + box("the hum tone that one hears longest", "w")/2, box("the hum tone that one hears longest", "y")})
	assert.Zero(t, drive.Eval[float64](p, overlaps))
	require.Empty(t, p.Faults())
}

// What a lens shows follows the map and is no edit: levels as bands, branches as
// faint colours, one thing while the rest fades; the figures say what they count.
func TestLenses(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Wait("!!window.mevrin")
	revision := drive.Eval[string](p, `document.body.dataset.revision`)
	see := func(what, shown string) {
		open(p, "see")
		p.Press(`[data-fold="see"] [data-what="` + what + `"]`)
		p.Wait(`document.querySelector("#lens b").innerText.includes("` + shown + `") && !document.getElementById("lens").hidden`)
	}
	see("branches", "Branches")
	assert.Len(t, drive.Eval[[]string](p, `[...new Set([...document.querySelectorAll("#slips > g[data-tint]")].map(s => s.dataset.tint))]`), 5)
	see("cross", "Cross-links")
	p.Wait(`document.body.classList.contains("lensed")`)
	assert.Equal(t, 10.0, drive.Eval[float64](p, `document.querySelectorAll("#links > g.kept").length`))
	assert.Less(t, drive.Eval[float64](p, `+getComputedStyle(document.querySelector("#links > g:not(.kept) .line")).opacity`), 0.5)
	assert.Zero(t, drive.Eval[float64](p, `document.querySelectorAll("#slips > g[data-tint]").length`))
	see("untidy", "Untidy")
	see("levels", "Levels")
	p.Wait(`document.querySelectorAll("#figures text, .band").length > 3`)

	// A level changes: what is shown changes with it.
	p.Press(p.Slip("the bell"))
	p.Wait(`seen.told() && !!document.querySelector('[data-what="near"]')`)
	p.Press(`[data-fold="see"] [data-what="near"][data-steps="1"]`)
	p.Wait(`document.querySelector("#lens b").innerText.includes("Neighbours")`)
	kept := `document.querySelectorAll("#slips > g.kept").length`
	one := drive.Eval[float64](p, kept)
	p.Press(`[data-fold="see"] [data-what="near"][data-steps="2"]`)
	p.Wait(`document.querySelector("#lens span").innerText.includes("2 steps")`)
	assert.Greater(t, drive.Eval[float64](p, kept), one)

	// The way between two, along the arrows; there is none the other way.
	p.Press(`[id="c-strike"]`)
	p.CtrlClick(p.Middle(`[id="c-damping"]`))
	p.Wait(`seen.told() && !!document.querySelector('[data-what="way"]')`)
	p.Press(`[data-fold="see"] [data-what="way-against"]`)
	p.Wait(`document.querySelector("#lens b").innerText.startsWith("From the strike to damping")`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector("#lens span").innerText`), "damping")
	p.Press(`[data-do="lens-close"]`)
	p.Wait(`document.getElementById("lens").hidden && !document.body.classList.contains("lensed")`)
	p.Keys(drive.Escape)

	p.Press(`[data-phase="check"]`)
	open(p, "figures")
	p.Wait(`document.querySelectorAll(".figure-list dd").length === 10`)
	marginSays(p, "Holding the map together")
	assert.Equal(t, "41", drive.Eval[string](p, `document.querySelector(".figure-list dd").innerText.trim()`))
	open(p, "figure-holding")
	marginSays(p, "Freeman")
	p.Press(`.figure-list [data-what="holding"]`)
	p.Wait(`document.querySelectorAll("#figures text.most").length === 1`)
	assert.Equal(t, revision, drive.Eval[string](p, `document.body.dataset.revision`))
	require.Empty(t, p.Faults())
}

// With the grid on, what is dragged stands by its middle and its upper edge on it;
// the setting is the viewer's own, and stays.
func TestTheGridIsSnappedTo(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Wait("!!window.mevrin")
	open(p, "settings")
	p.Press(`.switch[data-name="grid"]`)
	p.Press(`.switch[data-name="snap"]`)
	p.Wait(`document.body.classList.contains("gridded") && getComputedStyle(document.getElementById("desk")).backgroundImage !== "none"`)
	x, y := p.Middle(`[id="c-nodes"]`)
	p.Drag(x, y, x+53, y+31)
	p.Settled()
	assert.Equal(t, []float64{0, 0}, drive.Eval[[]float64](p, `(() => { const b = seen.at("c-nodes").box; return [Math.abs((b.x + b.w / 2) % 24), Math.abs(b.y % 24)] })()`))
	p.Reload()
	p.Wait(`document.body.classList.contains("gridded")`)
	require.Empty(t, p.Faults())
}

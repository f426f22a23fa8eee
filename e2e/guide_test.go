package e2e_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

func quoted(words string) string { return fmt.Sprintf("%q", words) }

// waitForStops waits until the margin lists just these stops.
func waitForStops(p *drive.Page, names ...string) {
	p.Wait(`JSON.stringify([...document.querySelectorAll("#stops .stop")].map(b => b.firstChild.textContent.trim())) === ` + quoted(`["`+strings.Join(names, `","`)+`"]`))
}

// write puts words into a field of the margin, as by hand.
func write(p *drive.Page, field, words string) {
	p.Press(field)
	p.Ctrl("a")
	p.Keys(words)
}

// walkAt gives what stands at a stop: its count, title, and the concepts and
// links on the paper.
func walkAt(p *drive.Page) (count, title string, concepts, links int) {
	p.Wait(`window.walk && walk.view.still`)
	count = drive.Eval[string](p, `document.getElementById("count").textContent`)
	title = drive.Eval[string](p, `document.querySelector(".card:not([hidden]) h2").lastChild.textContent`)
	seen := func(group string) int {
		return drive.Eval[int](p, `[...document.querySelectorAll("#`+group+` > g")].filter(g => g.getBoundingClientRect().width > 0).length`)
	}
	return count, title, seen("slips"), seen("links")
}

// atStop waits until the walk is at a stop, with so much on the paper.
func atStop(t *testing.T, p *drive.Page, want string) {
	t.Helper()
	p.Until(want, func() bool {
		count, title, concepts, links := walkAt(p)
		return fmt.Sprintf("%s: %s, %d concepts, %d links", count, title, concepts, links) == want
	})
}

// inSight tells whether an element is wholly within the paper's window.
func inSight(p *drive.Page, element string) bool {
	return drive.Eval[bool](p, `(() => { const b = document.getElementById("`+element+`").getBoundingClientRect(), d = document.getElementById("desk").getBoundingClientRect();
		return b.left >= d.left && b.right <= d.right && b.top >= d.top && b.bottom <= d.bottom })()`)
}

// A route is made, put in order by drag and by keys, its cards are written,
// and it is walked through a link, on a phone, until the link is closed.
func TestARouteIsMadeAndWalked(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/own-bell")
	p.Press(`[data-do="fit"]`)
	p.Press(`[data-phase="guide"]`)
	marginSays(p, "A route leads learners")

	// Selecting concepts one after another and adding them; a link as well.
	p.Press(`[id="c-claim"]`)
	p.Ctrl(drive.Enter)
	waitForStops(p, "the school should ring its own bell again")
	write(p, "#route-title", "The dispute")
	p.Press(`[id="c-noise"]`)
	p.Press(`[data-do="add-stop"]`)
	waitForStops(p, "the school should ring its own bell again", "neighbours lose their quiet")
	p.Press(`[id="c-soft"]`)
	p.Ctrl(drive.Enter)
	p.Press(`[id="l-link17"] .gap`)
	p.Ctrl(drive.Enter)
	waitForStops(p, "the school should ring its own bell again", "neighbours lose their quiet", "a leather pad softens the blow", "weakens that")
	p.Settled()
	assert.Equal(t, "The dispute", drive.Eval[string](p, `document.getElementById("route-title").value`))
	assert.Equal(t, []string{"1", "2", "3", "4"}, drive.Eval[[]string](p, `[...document.querySelectorAll(".stop-number")].map(n => n.textContent).sort()`))

	// A stop of text only; its card is written and kept while it is written.
	p.Keys(drive.Escape)
	p.Press(`[data-do="add-stop"]`)
	p.Wait(`document.querySelectorAll("#stops > li").length === 5`)
	write(p, "#stop-title", "And you?")
	open(p, "card-marks")
	p.Press("#stop-card")
	p.Keys("What would **you** say?")
	p.Wait(`[...document.querySelectorAll("#stops .stop")].some(b => b.innerText === "And you?")`)
	p.Keys(" Tell us *why*.")
	p.Wait(`document.activeElement.id === "stop-card" && document.activeElement.value === "What would **you** say? Tell us *why*."`)
	p.Press(".guide-notes summary")
	p.Press("#stop-notes")
	p.Keys("Give them time.", drive.Escape)
	p.Settled()

	// Order by drag and by keys; taken out and brought back.
	drive.Eval[bool](p, `(document.getElementById("stops").scrollIntoView(), true)`)
	x0, y0 := p.Middle("#stops > li:nth-child(4) .grip")
	_, y1 := p.Middle("#stops > li:nth-child(2) .grip")
	p.Drag(x0, y0, x0+4, y1-8)
	waitForStops(p, "the school should ring its own bell again", "weakens that", "neighbours lose their quiet", "a leather pad softens the blow", "And you?")
	drive.Eval[bool](p, `(() => { document.querySelector("#stops > li:nth-child(2) .stop").focus(); return true })()`)
	p.Ctrl(drive.Down)
	p.Settled()
	p.Ctrl(drive.Down)
	waitForStops(p, "the school should ring its own bell again", "neighbours lose their quiet", "a leather pad softens the blow", "weakens that", "And you?")
	p.Wait(`document.activeElement.matches(".stop") && document.activeElement.innerText === "weakens that"`)
	p.Keys(drive.Delete)
	p.Wait(`document.querySelectorAll("#stops > li").length === 4`)
	p.Press(".notice button")
	waitForStops(p, "the school should ring its own bell again", "neighbours lose their quiet", "a leather pad softens the blow", "weakens that", "And you?")

	// What is shown at a stop can be more, and less again.
	p.Press("#stops > li:nth-child(2) .stop")
	p.Wait(`document.querySelector(".card-work .shown")?.innerText.includes("neighbours")`)
	p.Press(`[id="c-shift"]`)
	p.Wait(`document.querySelector('[data-do="show-ref"]')`)
	p.Press(`[data-do="show-ref"]`)
	p.Wait(`document.querySelectorAll(".card-work .shown li").length === 2`)
	p.Press(`.shown li:first-child [data-do="hide-ref"]`)
	p.Wait(`document.querySelectorAll(".card-work .shown li").length === 1 && document.querySelector(".card-work .shown").innerText.includes("night workers")`)
	p.Keys(drive.Escape)
	p.Press("#desk")
	p.Ctrl("z")
	p.Wait(`document.querySelectorAll(".card-work .shown li").length === 2`)
	p.Settled()

	// The author looks at the walk and comes back to the same place.
	place := drive.Eval[string](p, `JSON.stringify([seen.place().x, seen.place().y, seen.scale()])`)
	p.Press(`.margin [data-do="look-at-walk"]`)
	p.Wait(`!!window.walk && walk.at === 1`) // at the stop that lies open
	p.Keys(drive.Left)
	atStop(t, p, "1 of 5: the school should ring its own bell again, 1 concepts, 0 links")
	p.Keys(drive.Escape)
	p.Wait(`!!window.mevrin && document.body.classList.contains("ready")`)
	assert.Equal(t, place, drive.Eval[string](p, `JSON.stringify([seen.place().x, seen.place().y, seen.scale()])`))
	marginSays(p, "And you?")

	p.Press(`[data-do="make-link"]`)
	p.Wait(`document.querySelector(".address")?.value.startsWith("http")`)
	address := drive.Eval[string](p, `document.querySelector(".address").value`)

	// A learner's phone: swipes, the list of stops, and the place is kept.
	phone := browser.Page(t, 390, 844)
	phone.Goto(address)
	swipe := func(from, to float64) {
		at := drive.Eval[int](phone, `walk.at`)
		for range 4 { // what cannot be seen at once is looked at in turn
			_, y := phone.Middle("#cards")
			phone.Touch("touchStart", drive.Finger{X: from, Y: y})
			phone.Touch("touchMove", drive.Finger{X: (from + to) / 2, Y: y + 2})
			phone.Touch("touchMove", drive.Finger{X: to, Y: y + 4})
			phone.Touch("touchEnd")
			phone.Wait(`seen.arrived()`)
			if drive.Eval[int](phone, `walk.at`) != at {
				return
			}
		}
	}
	atStop(t, phone, "1 of 5: the school should ring its own bell again, 1 concepts, 0 links")
	phone.TapAt(phone.Middle("#next"))
	atStop(t, phone, "2 of 5: neighbours lose their quiet, night workers sleep at nine, 3 concepts, 2 links")
	assert.True(t, inSight(phone, "c-noise"), "the view glides to what is new")
	swipe(320, 80)
	atStop(t, phone, "3 of 5: a leather pad softens the blow, 4 concepts, 3 links")
	swipe(320, 80)
	atStop(t, phone, "4 of 5: weakens that, 5 concepts, 4 links")
	swipe(80, 320)
	atStop(t, phone, "3 of 5: a leather pad softens the blow, 4 concepts, 3 links")
	// By clicks: the browser's make-believe finger loses its first tap after a swipe.
	phone.Press("#contents-switch")
	phone.Wait(`!document.getElementById("contents").hidden`)
	phone.Press("#contents li:nth-child(5) a")
	atStop(t, phone, "5 of 5: And you?, 5 concepts, 4 links")
	assert.Equal(t, "What would you say? Tell us why.", drive.Eval[string](phone, `document.querySelector(".card:not([hidden]) .prose").innerText.trim()`))
	assert.Equal(t, "you", drive.Eval[string](phone, `document.querySelector(".prose strong").innerText`))
	assert.NotContains(t, drive.Eval[string](phone, `document.documentElement.outerHTML`), "Give them time")
	fits := `document.documentElement.scrollWidth <= innerWidth && document.documentElement.scrollHeight <= innerHeight`
	assert.True(t, drive.Eval[bool](phone, fits), "nothing sticks out of the screen")
	phone.Goto(address)
	atStop(t, phone, "5 of 5: And you?, 5 concepts, 4 links")

	// A learner's desktop: keys, and the paper moved by hand.
	desk := browser.Page(t, 1280, 800)
	desk.Goto(address)
	desk.Keys(drive.Right, drive.Right)
	atStop(t, desk, "3 of 5: a leather pad softens the blow, 4 concepts, 3 links")
	desk.Keys(drive.Left)
	atStop(t, desk, "2 of 5: neighbours lose their quiet, night workers sleep at nine, 3 concepts, 2 links")
	before := drive.Eval[float64](desk, "walk.view.x")
	desk.Drag(300, 300, 400, 340)
	assert.InDelta(t, before+100, drive.Eval[float64](desk, "walk.view.x"), 1)
	desk.Press("#whole")
	desk.Wait(`walk.view.still`)
	assert.True(t, inSight(desk, "c-claim") && inSight(desk, "c-shift"))
	assert.True(t, drive.Eval[bool](desk, fits))

	// What the walk shows goes: the stop stays, with the rest of its words.
	p.Press(`[id="c-soft"]`)
	p.Keys(drive.Delete)
	p.Settled()
	desk.Goto(strings.SplitN(address, "#", 2)[0])
	desk.Press("#next")
	atStop(t, desk, "3 of 5: a leather pad softens the blow, 3 concepts, 2 links")

	p.Press(`[data-do="close-link"]`)
	p.Wait(`!document.querySelector(".address")`)
	desk.Goto(app.URL + "/") // another page, so that the next is loaded anew
	desk.Goto(address)
	assert.Contains(t, drive.Eval[string](desk, `document.body.innerText`), "leads nowhere, or no longer")
	assert.Empty(t, p.Faults())
	assert.Empty(t, phone.Faults())
	assert.Empty(t, desk.Faults("404"))
}

// The map suggests routes, each with its reason; one that is taken is a route like any other.
func TestRoutesThatTheMapSuggests(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/ring-again")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelector('[data-do="proposals"]')`)
	p.Press(`.margin [data-do="proposals"]`)
	p.Wait(`document.querySelectorAll(".proposals > li").length >= 4`)
	said := drive.Eval[string](p, `[...document.querySelectorAll(".proposals > li")].find(l => l.innerText.includes("As an argument")).innerText`)
	assert.Contains(t, said, "Each claim with its reasons")
	assert.Contains(t, said, "The school should ring its own bell again –")
	drive.Eval[bool](p, `([...document.querySelectorAll(".proposals > li")].find(l => l.innerText.includes("As an argument")).querySelector(".main").click(), true)`)
	p.Wait(`document.getElementById("route-title")?.value === "As an argument" && document.querySelectorAll("#stops > li").length === 11`)
	assert.Equal(t, "The school should ring its own bell again", drive.Eval[string](p, `document.querySelector("#stops .stop").innerText`))
	p.Press("#undo")
	p.Settled()
	p.Wait(`!document.getElementById("stops")`)
	p.Press(`[id="c-survey"]`)
	p.Wait(`seen.told()`)
	p.Press(`.margin [data-do="proposals"]`)
	p.Wait(`[...document.querySelectorAll(".proposals h3")].some(h => h.innerText.startsWith("Around this concept"))`)

	// A room can be led claim by claim at once.
	p.Press(`.proposals [href$="/present?by=argument"]`)
	p.Wait(`!!window.guiding?.stage.frame && document.querySelectorAll(".desk-list .desk-stop").length > 3`)
	p.Keys(drive.PageDown)
	p.Wait(`document.querySelector("#card h2")?.lastChild.textContent.trim() === document.querySelector(".desk-list [aria-current] .grow")?.innerText`)
	assert.Empty(t, p.Faults())
}

// A map without a route is presented from the library as it is read, concept by concept.
func TestAMapIsPresentedAtOnce(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	p.Press(`.map-card:has([href="/maps/loudness"]) .map-menu summary`)
	p.Press(`.map-card:has([href="/maps/loudness"]) [href$="/present"]`)
	p.Wait(`!!window.guiding?.stage.frame && document.querySelectorAll(".desk-list .desk-stop").length === 11`)
	shown := `document.querySelectorAll("#slips > g").length`
	assert.Equal(t, 1, drive.Eval[int](p, shown), "the focus concept stands alone")
	p.Keys(drive.PageDown, drive.PageDown)
	p.Wait(shown + ` === 2 && document.querySelector("#card h2").lastChild.textContent.trim() === document.querySelector(".desk-list [aria-current] .grow").innerText`)
	p.Keys(drive.Escape)
	p.Wait(`!!window.mevrin && location.pathname === "/maps/loudness"`)

	// What is planned for a route is kept with it, and its stops add up.
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelectorAll("#stops > li").length === 13`)
	open(p, "plan")
	p.Press("#route-audience")
	p.Ctrl("a")
	p.Keys("age 14", drive.Tab, "10", drive.Tab)
	p.Settled()
	p.Press("#stops > li:nth-child(2) .stop")
	p.Wait(`document.querySelector('[data-change="stop-plan"][data-key="minutes"]')`)
	p.Press(`[data-change="stop-plan"][data-key="minutes"]`)
	p.Ctrl("a")
	p.Keys("12", drive.Tab)
	p.Settled()
	marginSays(p, "The stops take 38 of 10 minutes")
	p.Press("#route-purpose")
	p.Ctrl("a")
	p.Keys("Hear *why* a bell hums", drive.Tab)
	p.Settled()
	p.Reload()
	p.Wait(`document.getElementById("route-audience")?.value === "age 14"`)

	// The walk of a route begins at the stop that lies open.
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelectorAll("#stops > li").length === 13`)
	p.Press("#stops > li:nth-child(4) .stop")
	p.Wait(`document.querySelector(".card-work")`)
	p.Press(`[data-do="look-at-walk"]`)
	p.Wait(`!!window.walk && walk.at === 3`)
	p.Keys(drive.Home)
	p.Wait(`document.querySelector(".card:not([hidden]) .walk-aim em")?.innerText === "why"`)
	p.Keys(drive.End)
	p.Press(".card:not([hidden]) .walk-said summary")
	p.Wait(`document.querySelector(".card:not([hidden]) .walk-said li")?.checkVisibility()`)
	assert.Contains(t, drive.Eval[[]string](p, `[...document.querySelectorAll(".walk-said li")].map(l => l.innerText)`), "the clapper hits the sound bow")

	// Back at the map, what changed since is told and mended.
	p.Keys(drive.Escape)
	p.Wait(`!!window.mevrin && document.querySelector("#stops > li:nth-child(13)")?.classList.contains("open")`)
	open(p, "walked")
	p.Wait(`document.querySelector('[data-fold="walked"]').innerText.includes("Nothing has changed since")`)
	drive.Eval[bool](p, `seen.elsewhere([{ do: "name-concept", concept: "rope", label: "the bell rope" }, { do: "remove", concepts: ["thin"] }])`)
	p.Wait(`document.querySelector('[data-fold="walked"]').innerText.includes("“the rope” is called “the bell rope” now")`)
	p.Press(`[data-fold="walked"] [data-do="op"]`)
	p.Settled()
	p.Wait(`!document.querySelector('[data-fold="walked"]').innerText.includes("“thin air” is gone") || !document.querySelector('[data-fold="walked"] [data-do="op"]')`)
	assert.Empty(t, p.Faults())
}

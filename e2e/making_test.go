package e2e_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A route is made by walking over the map, by dragging, of a whole kind; it is mended where it
// jumps, shortened for now, and drawn over the map.
func TestARouteIsMadeInManyWays(t *testing.T) {
	inSoak(t)
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/own-bell")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelector('.margin [data-do="new-route"]')`)
	p.Press(`.margin [data-do="new-route"]`)
	p.Wait(`document.activeElement.id === "route-title"`)
	p.Keys("For the board", drive.Tab)
	p.Settled()
	stops := func(want ...string) {
		t.Helper()
		waitForStops(p, want...)
	}
	concepts := drive.Eval[[]string](p, `seen.concepts().filter(c => { const r = c.el.getBoundingClientRect(); return r.x > 300 && r.right < 960 && r.y > 80 && r.bottom < 700; }).map(c => c.id)`)
	if !assert.GreaterOrEqual(t, len(concepts), 3) {
		return
	}
	words := func(id string) string { return drive.Eval[string](p, `seen.at(`+quoted("c-"+id)+`).words`) }

	// Each thing that is looked at becomes a stop, once.
	p.Press(`.margin [data-do="record"]`)
	p.Wait(`document.querySelector('.margin [data-do="record"]').getAttribute("aria-pressed") === "true"`)
	for _, id := range []string{concepts[0], concepts[1], concepts[1]} {
		p.Press(`[id="c-` + id + `"] .body`)
		p.Settled()
	}
	stops(words(concepts[0]), words(concepts[1]))
	p.Press(`.margin [data-do="record"]`)
	p.Wait(`document.querySelector('.margin [data-do="record"]').getAttribute("aria-pressed") === "false" && document.querySelector(".route-way") && document.querySelectorAll(".stop-number").length === 2`)

	// A concept dragged onto the list goes where it is let go of, and stays on its place on the paper.
	before := drive.Eval[float64](p, `seen.at(`+quoted("c-"+concepts[2])+`).box.x`)
	x, y := p.Middle(`[id="c-` + concepts[2] + `"] .body`)
	toX, toY := p.Middle(`#stops > li:nth-child(1) .stop`)
	p.Drag(x, y, toX, toY-12)
	stops(words(concepts[2]), words(concepts[0]), words(concepts[1]))
	assert.Equal(t, before, drive.Eval[float64](p, `seen.at(`+quoted("c-"+concepts[2])+`).box.x`))

	// A copy, a stop that is left out, a part, the whole map.
	p.Press(`#stops > li:nth-child(1) .stop`)
	p.Ctrl("d")
	stops(words(concepts[2]), words(concepts[2]), words(concepts[0]), words(concepts[1]))
	p.Wait(`document.querySelector('[data-change="stop-plan"][data-key="skipped"]')`)
	p.Press(`[data-change="stop-plan"][data-key="skipped"]`)
	p.Wait(`document.querySelector("#stops > li.skipped .grip")?.innerText === "–" && document.querySelector("#stops > li:nth-child(3) .grip").innerText === "2"`)
	p.Press("#stop-opens")
	p.Keys("To begin with", drive.Tab)
	p.Wait(`document.querySelector(".stop-opens")?.innerText === "To begin with"`)
	open(p, "add-more")
	p.Press(`.margin [data-do="add-whole"]`)
	p.Settled()
	p.Wait(`document.querySelectorAll("#stops > li").length === 5`)
	p.Press("#undo")
	p.Settled()
	p.Wait(`document.querySelectorAll("#stops > li").length === 4`)

	// One of all of a kind, by alphabet.
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelectorAll("#stops > li").length === 13`)
	p.Press(`.margin [data-do="proposals"]`)
	p.Wait(`document.getElementById("route-from")`)
	drive.Eval[bool](p, `(document.getElementById("route-from").value = [...document.querySelectorAll("#route-from option")].find(o => o.innerText === "material").value, document.getElementById("route-sorting").value = "alphabet", true)`)
	p.Press(`[data-do="route-from"]`)
	p.Wait(`document.querySelector(".proposals h3")?.innerText.startsWith("material")`)
	p.Press(`.proposals [data-do="proposal-take"]`)
	p.Wait(`document.getElementById("route-title")?.value === "material" && !document.getElementById("proposals").open`)
	p.Settled()
	names := drive.Eval[[]string](p, `[...document.querySelectorAll("#stops .stop")].map(b => b.innerText)`)
	assert.IsNonDecreasing(t, names)
	assert.Contains(t, names, "copper")

	// Where it jumps, what lies between is put in by one press.
	jumps := `document.querySelectorAll("#stops .stop-gap").length`
	count := drive.Eval[int](p, jumps)
	if assert.Positive(t, count) {
		p.Press(`#stops .stop-gap [data-do="op"]`)
		p.Wait(jumps + ` < ` + strconv.Itoa(count) + ` && document.querySelectorAll("#stops > li").length === ` + strconv.Itoa(len(names)+1))
	}
	// Cards are filled from the map, in one step that can be undone.
	p.Wait(`[...document.querySelectorAll('.margin [data-do="op"]')].some(b => b.innerText.includes("empty cards"))`)
	drive.Eval[bool](p, `([...document.querySelectorAll('.margin [data-do="op"]')].find(b => b.innerText.includes("empty cards")).click(), true)`)
	p.Settled()
	p.Wait(`![...document.querySelectorAll('.margin [data-do="op"]')].some(b => b.innerText.includes("empty cards"))`)
	// They follow the map until they are made one's own.
	p.Press(`#stops > li:nth-child(1) .stop`)
	p.Wait(`document.querySelector(".card-work")?.innerText.includes("Follows the map: its notes and sentences")`)
	said := drive.Eval[string](p, `document.querySelector(".card-work .card-read").innerText`)
	drive.Eval[bool](p, `([...document.querySelectorAll(".card-work .follows .place")].find(b => b.innerText === "Make it your own").click(), true)`)
	p.Settled()
	p.Wait(`document.querySelector(".card-work").innerText.includes("Follow the map instead")`)
	assert.Equal(t, said, drive.Eval[string](p, `document.querySelector(".card-work .card-read").innerText`))
	// A picture that is let go of on the card is its own, and seen on the walk.
	drive.Eval[bool](p, `(async () => { const c = Object.assign(document.createElement("canvas"), { width: 320, height: 200 }), data = new DataTransfer(); data.items.add(new File([await new Promise(done => c.toBlob(done))], "the push.png", { type: "image/png" })); return document.querySelector(".card-work h3").dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true })) || true })()`)
	p.Wait(`document.querySelector(".card-work .source-item .source")?.innerText.includes("the push.png")`)
	p.Settled()
	picture := `document.querySelector('.card .card-pictures [data-name="the push.png"] img')`
	learner := browser.Page(t, 390, 844)
	learner.Goto(app.URL + drive.Eval[string](p, `document.querySelector('[data-do="look-at-walk"]').getAttribute("href")`))
	learner.Wait(picture + `?.naturalWidth > 0`)
	p.Press(`.margin [data-do="route-line"]`)
	p.Wait(`!document.querySelector(".route-way") && !document.querySelector(".stop-number")`)
	assert.Empty(t, p.Faults())
}

// A rehearsal measures the stops and takes down what is to be mended, without stopping; what was
// found leads to its place and is ticked off.
func TestARouteIsRehearsed(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 680)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelector('.margin [href*="rehearse"]')`)
	p.Press(`.margin [href*="rehearse"]`)
	p.Wait(`!!window.guiding?.stage.frame && !document.getElementById("open-room")`)
	p.Keys(drive.PageDown)
	p.Wait(`document.getElementById("where").innerText.startsWith("1 ")`)
	p.Keys("m")
	p.Wait(`document.activeElement.id === "mend-words"`)
	p.Keys("say what a partial is", drive.Enter)
	p.Wait(`document.querySelector(".desk-mended")?.innerText.includes("say what a partial is")`)
	p.Keys(drive.PageDown)
	p.Wait(`document.getElementById("where").innerText.startsWith("2 ")`)
	p.Wait(`document.getElementById("clock-stop").innerText >= "0:02"`)
	p.Press("#finish")
	p.Wait(`!!window.mevrin && document.querySelectorAll("#stops > li").length === 13`)
	p.Wait(`document.querySelector("#stops > li:nth-child(2) .stop-time")?.innerText.includes("took 0:0")`)
	p.Wait(`document.querySelector("#stops > li:nth-child(1) .stop-mends")?.innerText.trim() === "1"`)
	p.Press(".route-mends .place")
	p.Wait(`document.querySelector("#stops > li:nth-child(1)").classList.contains("open")`)
	p.Press(".route-mends input")
	p.Wait(`!document.querySelector("#stops > li:nth-child(1) .stop-mends") && document.querySelector(".route-mends input").checked`)
	assert.Empty(t, p.Faults())
}

// A route divides where its author offers a choice, and comes together again.
func TestARouteDividesAndMeets(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.getElementById("route-choice")`)
	drive.Eval[bool](p, `(document.getElementById("route-choice").value = "young", document.getElementById("route-choice").dispatchEvent(new Event("change", { bubbles: true })))`)
	waitForStops(p, "Here it hangs", "Who makes it ring?", "Listen!", "It trembles", "Into your ear", "You hear it")
	openStop := func(n string) {
		p.Press(`#stops > li:nth-child(` + n + `) .stop`)
		p.Wait(`document.querySelector("#stops > li:nth-child(` + n + `) .card-work")`)
		open(p, "ways")
	}
	openStop("2")
	for n, words := range []string{"Listen to it", "Feel it tremble"} {
		p.Press(`[data-do="add-choice"]`)
		p.Wait(`document.querySelectorAll(".stop-choice").length === ` + strconv.Itoa(n+1))
		p.Settled()
		choice := `.stop-choice:nth-of-type(` + strconv.Itoa(n+1) + `)`
		p.Press(choice + ` input`)
		p.Keys(words, drive.Tab)
		p.Settled()
		drive.Eval[bool](p, `(s => { s.value = `+quoted("young-0"+strconv.Itoa(n+3))+`; return s.dispatchEvent(new Event("change", { bubbles: true })); })(document.querySelector('`+choice+` select'))`)
		p.Settled()
		p.Wait(`document.querySelectorAll("#stops > li:nth-child(2) .stop-way")[` + strconv.Itoa(n) + `]?.innerText.includes(` + quoted(words) + `)`)
	}
	p.Wait(`[...document.querySelectorAll("#stops > li:nth-child(2) .stop-way")].map(w => w.innerText.replace(/\s+/g, " ").trim()).join("|") === "“Listen to it” to 3 Listen!|“Feel it tremble” to 4 It trembles"`)
	p.Press(`#stops > li:nth-child(2) .stop`)
	p.Wait(`!document.querySelector(".card-work")`)
	openStop("3")
	drive.Eval[bool](p, `(s => { s.value = "young-05"; return s.dispatchEvent(new Event("change", { bubbles: true })); })(document.querySelector('[data-change="stop-then"]'))`)
	p.Settled()
	p.Wait(`document.querySelector("#stops > li:nth-child(3) .stop-way")?.innerText.includes("5 Into your ear")`)
	p.Wait(`document.querySelectorAll("#margin .route-shape .way").length === 6`) // one ends at the last stop

	// A learner chooses, and meets the rest again; what was not on the way is not there.
	w := browser.Page(t, 390, 844)
	w.Goto(app.URL + "/maps/bell-sound/walk/young")
	at := func(n int) { t.Helper(); w.Wait(`walk.at === ` + strconv.Itoa(n) + ` && seen.arrived()`) }
	turn := func(button string) { // until another stop is there: what is not seen at once is looked at in turn
		for was, n := drive.Eval[int](w, `walk.at`), 0; n < 9 && drive.Eval[int](w, `walk.at`) == was; n++ {
			w.Press(button)
			w.Wait(`seen.arrived()`)
		}
	}
	turn("#next")
	at(1)
	w.Press(`.card:not([hidden]) .walk-choices a:nth-child(1)`)
	at(2)
	turn("#next")
	at(4)
	assert.True(t, drive.Eval[bool](w, `!walk.elements.get("c-sound").classList.contains("hid") && walk.elements.get("c-vibration").classList.contains("hid")`))
	w.Reload()
	at(4)
	assert.Equal(t, []int{0, 1, 2, 4}, drive.Eval[[]int](w, `walk.path`), "the way that was taken is kept")
	turn("#back")
	at(2)
	turn("#back")
	w.Press(`.card:not([hidden]) .walk-choices a:nth-child(2)`)
	at(3)
	assert.True(t, drive.Eval[bool](w, `walk.elements.get("c-sound").classList.contains("hid") && !walk.elements.get("c-vibration").classList.contains("hid")`))

	// The answer to a question is uncovered for the room when the guide wishes it.
	p.Goto(app.URL + "/maps/bell-sound/present?by=older&stop=older-02")
	p.Wait(`!!window.guiding?.stage.frame && document.querySelector("#card .card-question") && document.querySelector(".desk-answer")?.innerText.includes("Only louder")`)
	assert.False(t, drive.Eval[bool](p, `!!document.querySelector("#card .card-answer")`))
	p.Keys("a")
	p.Wait(`document.querySelector("#card .card-answer")?.innerText.includes("Only louder")`)
	p.Keys("a")
	p.Wait(`!document.querySelector("#card .card-answer")`)

	// In the room the way that is taken is the guide's to choose.
	p.Goto(app.URL + "/maps/bell-sound/present?by=young&stop=young-02")
	p.Wait(`document.querySelectorAll('.desk-next [data-deed="stop"]').length === 2`)
	p.Press(`.desk-next [data-id="young-04"]`)
	p.Wait(`document.querySelector("#card h2").innerText.includes("It trembles") && !document.getElementById("c-sound")?.classList.contains("meant")`)
	p.Keys(drive.PageUp)
	p.Wait(`document.querySelector("#card h2").innerText.includes("Who makes it ring?") && document.querySelectorAll(".room-choices li").length === 2`)
	assert.Empty(t, append(p.Faults(), w.Faults()...))
}

// Where no scripts run, a walk is read from top to bottom: the map, then each card.
func TestAWalkIsReadWithoutScripts(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 390, 844)
	p.GotoBare(app.URL + "/maps/bell-sound/walk/older")
	seen := func(what string) int {
		return drive.Eval[int](p, `[...document.querySelectorAll(`+quoted(what)+`)].filter(e => e.getBoundingClientRect().height > 0).length`)
	}
	assert.Equal(t, 8, seen(".card"))
	assert.Equal(t, 1, seen("#hand-out svg"))
	assert.Zero(t, seen("header button, .walk-steps, #desk"), "nothing that would do nothing")
	assert.Greater(t, drive.Eval[int](p, `document.documentElement.scrollHeight`), 2000)
	assert.LessOrEqual(t, drive.Eval[int](p, `document.documentElement.scrollWidth`), 390)
}

package e2e_test

import (
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A room is led from the guide desk: two screens follow it along the route and beside it, one of
// them is cut off and comes back to the same stop, a word is corrected, and in the end the map is
// as it was.
func TestARoomIsLedFromTheDesk(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	desk := browser.Page(t, 1280, 680)
	desk.Goto(app.URL + "/maps/bell-sound/present")
	code := drive.Eval[string](desk, `document.body.dataset.code`)
	near, far := browser.Page(t, 1280, 720), browser.Page(t, 1920, 1080)
	near.Goto(app.URL + "/room/" + code)
	far.Goto(app.URL + "/room")
	far.Press("#code")
	far.Keys(code[:3]+" "+code[3:], drive.Enter)
	far.Wait(`!!window.room?.stage.frame`)
	rooms := []*drive.Page{near, far}
	see := func(condition string) {
		t.Helper()
		for _, r := range rooms {
			r.Wait(condition)
		}
		// The rooms are told first: the desk has it soon after.
		desk.Wait(`(window.guiding?.stage.frame?.version ?? Infinity) >= ` + strconv.Itoa(drive.Eval[int](near, `room.stage.frame.version`)))
	}
	shows := func(name string) string {
		return `document.querySelector("#card h2")?.lastChild.textContent.trim() === ` + quoted(name)
	}
	unfold := func(fold string) {
		drive.Eval[bool](desk, `(document.querySelector('#side [data-fold="`+fold+`"]').open = true)`)
	}
	see(`document.querySelectorAll("#slips > g").length === 1 && document.getElementById("c-sound")`)
	desk.Wait(`document.getElementById("rooms").innerText.startsWith("2 ")`)

	desk.Keys(drive.PageDown)
	see(shows("Listen first"))
	desk.Wait(`document.querySelector(".desk-notes").innerText.includes("Let the class hear the hand bell")`)
	desk.Keys(drive.Right)
	desk.Keys(" ")
	see(shows("Somebody pulls"))
	see(`seen.arrived()`)
	for _, r := range rooms {
		assert.Empty(t, drive.Eval[[]string](r, `seen.cutOff()`), "what the stop shows is seen whole")
		assert.NotContains(t, drive.Eval[string](r, `document.documentElement.innerHTML`), "Let the class hear", "notes are for the desk alone")
	}

	// The room asks about the bell: off the route, along a link, and back to the same stop.
	desk.Press(`.desk-any input`)
	desk.Keys("the clapper", drive.Enter)
	see(shows("the clapper") + ` && document.getElementById("c-clapper").classList.contains("meant")`)
	desk.Press(`.desk-near [data-id="bow"]`)
	see(shows("the sound bow"))
	desk.Keys(drive.Backspace)
	see(shows("Somebody pulls") + ` && !document.getElementById("c-bow")`)
	desk.Wait(`document.querySelector(".desk-list [aria-current]").innerText.includes("Somebody pulls")`)

	// What lies over the map comes and goes; the next press takes it away first.
	desk.Press(`[data-deed="sentence"]`)
	see(`document.querySelector(".stage-sentence")?.checkVisibility()`)
	desk.Keys(drive.PageDown)
	see(`document.getElementById("over").hidden && ` + shows("Somebody pulls"))
	desk.Keys(".")
	see(`!document.getElementById("dark").hidden`)
	desk.Keys(".")
	see(`document.getElementById("dark").hidden`)
	before := drive.Eval[float64](near, `room.stage.view.k`)
	desk.Keys("c")
	near.Wait(`room.stage.frame.closer`)
	assert.GreaterOrEqual(t, drive.Eval[float64](near, `room.stage.view.k`), before)
	desk.Keys("c")
	desk.Wait(`!guiding.stage.frame.closer && seen.arrived()`)
	see(`!room.stage.frame.closer && seen.arrived()`)
	desk.Keys("l")
	x, y := desk.Middle(`[id="c-ringer"] .body`)
	desk.Hover(x, y)
	see(`(() => { const s = document.getElementById("spot"), c = document.querySelector('[id="c-ringer"]'); if (s.hidden) return false; const a = s.getBoundingClientRect(), b = c.getBoundingClientRect(); return Math.abs(a.x + a.width / 2 - b.x - b.width / 2) < 8 && Math.abs(a.y + a.height / 2 - b.y - b.height / 2) < 8; })()`)
	desk.Keys("l")
	see(`document.getElementById("spot").hidden`)
	unfold("words")
	desk.Press(`.desk-words [data-deed="tuck"][data-id="rope"]`)
	see(`!document.getElementById("c-ringer")`)
	unfold("words")
	desk.Press(`.desk-words [data-deed="tuck"][data-id="rope"]`)
	see(`document.getElementById("c-ringer")`)

	// A word is corrected without leaving.
	desk.Press(`.desk-words[data-id="rope"] textarea`)
	desk.Ctrl("a")
	desk.Keys("the bell rope")
	desk.Press(`.desk-words[data-id="rope"] .button`)
	see(`document.getElementById("c-rope").textContent.includes("bell rope")`)

	// A screen that lost the connection comes back to where the room is by now.
	drive.Eval[bool](near, `(Object.assign(window, { Gone: WebSocket, WebSocket: function () { setTimeout(() => this.onclose({ code: 1006 })); } }), true)`)
	drive.Eval[bool](near, `(room.line.cut(), true)`)
	desk.Press(`.desk-list [data-id="cause-06"]`)
	far.Wait(shows("Many tones at once"))
	drive.Eval[bool](near, `(Object.assign(window, { WebSocket: Gone }), dispatchEvent(new Event("online")), true)`)
	back := time.Now()
	near.Wait(shows("Many tones at once") + ` && document.getElementById("c-hum")`)
	assert.Less(t, time.Since(back), 2*time.Second)

	// A source is large, and goes again at the next press; all but one kind fades.
	desk.Press(`.desk-stop[data-deed="source"]`)
	see(`document.querySelector("#over audio")?.checkVisibility()`)
	desk.Keys(drive.PageDown)
	see(`document.getElementById("over").hidden && ` + shows("Many tones at once"))
	unfold("only")
	drive.Eval[bool](desk, `(s => { s.value = "to-hear"; return s.dispatchEvent(new Event("change", { bubbles: true })); })(document.querySelector('select[data-deed="only"]'))`)
	see(`document.querySelectorAll("#slips > .faded").length > 5 && !document.getElementById("c-hum").classList.contains("faded")`)
	drive.Eval[bool](desk, `(s => { s.value = ""; return s.dispatchEvent(new Event("change", { bubbles: true })); })(document.querySelector('select[data-deed="only"]'))`)
	see(`!document.querySelector("#slips > .faded")`)

	// One window alone: the room's view fills it, and the strip comes by its key alone.
	desk.Keys(drive.F5)
	desk.Wait(`document.getElementById("desk").clientHeight > 600 && !document.querySelector(".desk-side").checkVisibility() && document.getElementById("strip").hidden`)
	desk.Keys("n")
	desk.Wait(`document.querySelector("#strip .button.main").checkVisibility() && document.getElementById("strip-notes").innerText.includes("Ask for the hum first")`)
	desk.Keys("n", drive.F5)
	desk.Wait(`document.querySelector(".desk-side").checkVisibility()`)

	// A window that is opened anew is at the same stop.
	desk.Reload()
	desk.Wait(shows("Many tones at once"))
	desk.Keys(drive.Escape)
	see(`document.getElementById("told").innerText === "The presentation is over."`)
	desk.Wait(`!!window.mevrin && location.pathname === "/maps/bell-sound"`)
	desk.Wait(`document.querySelector('[id="c-rope"]').textContent.includes("bell rope") && document.querySelectorAll("#slips > g").length > 40`)
	for _, p := range append(rooms, desk) {
		assert.Empty(t, p.Faults())
	}
}

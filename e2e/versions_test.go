package e2e_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A state is found by the slider, by keys, compared, named and brought back; undo on the map takes that back.
func TestAnEarlierStateIsFoundAndBroughtBack(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 680)
	p.Goto(app.URL + "/maps/ring-again")
	slips := drive.Eval[int](p, `seen.slips()`)
	p.Press(`.margin [href$="/versions"]`)
	p.Wait(`document.getElementById("replay") && !document.getElementById("replay").hidden`)
	p.Wait(`document.getElementById("growth-says")?.innerText.replaceAll(/\s+/g, " ").includes("Concepts ` + strconv.Itoa(slips) + `")`)
	p.Press("#replay")
	p.Wait(`document.getElementById("at").value === document.getElementById("at").max && document.querySelectorAll("#drawing .slip").length === ` + strconv.Itoa(slips))
	drive.Eval[bool](p, `(document.getElementById("at").focus(), true)`)
	p.Keys(drive.Home)
	p.Wait(`document.getElementById("growth-says")?.innerText.replaceAll(/\s+/g, " ").includes("Concepts 0")`)
	p.Wait(`new URLSearchParams(location.search).get("at") === "0" && document.getElementById("drawing")?.innerText.includes("The paper was empty")`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".versions-since").innerText`), "added")
	drive.Eval[bool](p, `(document.getElementById("at").focus(), true)`)
	p.Keys(drive.Right, drive.Right)
	p.Wait(`new URLSearchParams(location.search).get("at") === "1" || new URLSearchParams(location.search).get("at") === "2"`)
	p.Wait(`document.querySelector('[name="name"]') && document.readyState === "complete"`)
	p.Press(`.actions [name="name"]`)
	p.Keys("At first", drive.Enter)
	p.Wait(`document.querySelector(".versions-list b")?.innerText === "At first"`)
	few := drive.Eval[int](p, `document.querySelectorAll("#drawing .slip").length`)
	p.Press(`[name="what"][value="restore"]`)
	p.Wait(`!!window.mevrin && seen.slips() === ` + strconv.Itoa(few))
	p.Press("#undo")
	p.Settled()
	p.Wait(`seen.slips() === ` + strconv.Itoa(slips))
	phone := browser.Page(t, 390, 844)
	phone.Goto(app.URL + "/maps/ring-again/versions?at=2")
	assert.LessOrEqual(t, drive.Eval[int](phone, `document.documentElement.scrollWidth`), 390)
	assert.Empty(t, p.Faults())
}

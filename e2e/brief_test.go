package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A brief that is written line by line stands beside the paper, counts while one works, and what a
// line lacks is made from it; another map can have it, too.
func TestABriefIsMetStepByStep(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What hangs in the tower?", "outline", "the bell\n  is cast of: bronze\n  hangs in: the tower")
	p.Wait(`seen.slips() === 3`)
	p.Press(`[data-phase="check"]`)
	p.Wait(`document.querySelector("[data-do=brief]")`)
	p.Press(`[data-do="brief"]`)
	p.Wait(`document.querySelector("#briefs .main")`)
	p.Press("#briefs .main")
	fill := func(field, value string) {
		p.Wait(`document.querySelector('#brief-line-form [name="` + field + `"]')?.checkVisibility()`)
		drive.Eval[bool](p, `(() => { const f = document.querySelector('#brief-line-form [name="`+field+`"]'); f.value = `+quoted(value)+`; f.dispatchEvent(new Event("change", { bubbles: true })); return true; })()`)
	}
	add := func() {
		p.Press("#brief-line-form .main")
		p.Wait(`!document.getElementById("brief-line").open`)
		p.Settled()
	}
	fill("least", "4")
	add()
	p.Wait(`document.querySelector(".brief-line .brief-says")?.innerText === "at least 4 concepts"`)
	assert.Equal(t, "0/1", drive.Eval[string](p, `document.getElementById("brief-count").innerText`))
	p.Press(`[data-do="brief-edit"][data-line=""]`)
	fill("of", "required")
	assert.False(t, drive.Eval[bool](p, `document.querySelector('#brief-line-form [name="kind"]').checkVisibility()`), "only what has an effect is asked for")
	fill("must-concept", "the ringer")
	fill("must-phrase", "rings")
	p.Press("#brief-line-form .main")
	p.Wait(`document.querySelector(".brief-fault").innerText.includes("a concept, or a whole sentence")`) // it stays in the form
	fill("must-to", "the bell")
	add()
	counts := func(want string) {
		p.Wait(`document.getElementById("brief-count")?.innerText === ` + quoted(want))
		p.Settled()
	}
	counts("0/2")
	p.Wait(`document.querySelectorAll(".brief-line").length === 2`)

	// What is missing is made from its line.
	p.Press(".brief-line:first-child summary")
	p.Press(".brief-line .brief-field")
	p.Keys("the rope", drive.Enter)
	p.Wait(`seen.slips() === 4`)
	counts("1/2")
	assert.True(t, drive.Eval[bool](p, `document.querySelector(".brief-line").classList.contains("met")`))
	p.Wait(`!document.querySelector(".brief-line:first-child .brief-field")`)
	p.Press(".brief-line:last-child summary")
	p.Press(`.brief-line:last-child [data-do="brief-make"]`)
	p.Settled()
	assert.Contains(t, says(p), "the ringer rings the bell")
	counts("2/2")
	p.Press("#desk")
	p.Ctrl("z")
	counts("1/2")
	p.Settled()

	// It is kept for another map, and taken off this one.
	p.Press(`[data-do="brief-more"]`)
	p.Wait(`document.getElementById("brief-title")`)
	p.Press("#brief-title")
	p.Keys("Tower", drive.Tab)
	p.Wait(`document.querySelector(".brief-title")?.innerText === "Tower"`)
	p.Press("#brief-name")
	p.Ctrl("a")
	p.Keys("For towers")
	p.Press(`[data-do="brief-keep"]`)
	p.Wait(`document.querySelector(".briefs-own")?.innerText.includes("For towers")`)
	p.Press(`#briefs [data-steps*='"none"']`)
	p.Wait(`document.getElementById("brief").hidden`)
	newMap(p, app.URL, "Another tower?", "concept", "")
	p.Press(`[data-phase="check"]`)
	p.Wait(`document.querySelector("[data-do=brief]")`)
	p.Press(`[data-do="brief"]`)
	p.Wait(`document.querySelector(".briefs-own .button")`)
	p.Press(".briefs-own .button")
	counts("0/2")
	p.Wait(`document.querySelector(".brief-title")?.innerText === "Tower"`)
	assert.Empty(t, p.Faults("422"))
}

// The lesson of the demo has a brief with two lines unmet, on the plain hand, too; on a phone it
// lies shut.
func TestTheBriefOfTheLesson(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	for _, path := range []string{"/maps/loudness", "/maps/loudness?hand=plain"} {
		p.Goto(app.URL + path)
		p.Wait(`document.querySelectorAll(".brief-line").length === 6`)
		assert.Equal(t, "4/6", drive.Eval[string](p, `document.getElementById("brief-count").innerText`))
	}
	assert.GreaterOrEqual(t, drive.Eval[float64](p, `parseFloat(getComputedStyle(document.querySelector(".brief-says")).fontSize)`), 19.0)
	phone := browser.Page(t, 390, 844)
	phone.Tablet(390, 844)
	phone.Goto(app.URL + "/maps/loudness")
	phone.Wait(`document.getElementById("brief-fold")`)
	assert.False(t, drive.Eval[bool](phone, `document.getElementById("brief-fold").open`))
	phone.Tap("#brief-fold > summary")
	phone.Wait(`document.querySelector(".brief-line").checkVisibility()`)
	assert.Empty(t, append(p.Faults(), phone.Faults()...))
}

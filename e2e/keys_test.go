package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// The rest of the key table: levels, siblings, copies, finding, the menu.
func TestTheKeyTable(t *testing.T) {
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-do="fit"]`)
	level := func(id string) int {
		return drive.Eval[int](p, `Number(document.getElementById("c-`+id+`").dataset.level)`)
	}
	outline := func() []string {
		return drive.Eval[[]string](p, `seen.concepts().filter(s => s.under === "air").map(s => s.id).sort()`)
	}

	// One level higher and lower: the phrase goes along, also where it was shared.
	assert.Equal(t, []int{4, 3}, []int{level("distance"), level("wave")})
	p.Press(`[id="c-distance"]`)
	p.Ctrl(drive.Up)
	p.Settled()
	assert.Equal(t, 3, level("distance"))
	assert.Equal(t, []string{"distance", "wave"}, outline())
	assert.Contains(t, says(p), "the air weakens with distance")
	p.Ctrl(drive.Down)
	p.Settled()
	assert.Equal(t, 4, level("distance"))
	p.Press(`[id="c-thin"]`)
	p.Ctrl(drive.Up)
	p.Settled()
	assert.Contains(t, says(p), "the air is a row of thin air")
	assert.Contains(t, says(p), "a sound wave is a row of dense air")
	for range 3 {
		p.Ctrl("z")
		p.Settled()
	}
	assert.Contains(t, says(p), "a sound wave is a row of dense air, thin air")

	// Earlier among its siblings; at the first place the page says why not.
	p.Press(`[id="c-tin"]`)
	p.Ctrl(drive.Left)
	p.Settled()
	p.Ctrl(drive.Left)
	p.Wait(`document.getElementById("notices").innerText.includes("first of its siblings")`)

	// A copy of a part, with the links inside it; and as sentences elsewhere.
	p.Press(`[id="c-clapper"]`)
	x, y := p.Middle(`[id="c-iron"]`)
	p.CtrlClick(x, y)
	p.Ctrl("d")
	p.Settled()
	p.Wait(`seen.marked().length === 2`)
	assert.Equal(t, 2, drive.Eval[int](p, `seen.links().filter(l => l.el.getAttribute("aria-label") === "the clapper is made of soft iron").length`))
	noOverlap(t, p)
	p.Keys(drive.Delete)
	p.Settled()
	drive.Eval[bool](p, `window.clip = new DataTransfer()`+`, true`)
	clip := func(kind string) {
		drive.Eval[bool](p, `document.activeElement.dispatchEvent(new ClipboardEvent("`+kind+`", { clipboardData: clip, bubbles: true, cancelable: true }))`)
	}
	p.Press(`[id="c-clapper"]`)
	p.CtrlClick(x, y)
	clip("copy")
	assert.Equal(t, "the clapper\n\tis made of: soft iron\n\nthe clapper is made of soft iron.", drive.Eval[string](p, `clip.getData("text/plain")`))
	clip("paste")
	p.Settled()
	assert.Equal(t, 43, len(labels(p)))
	drive.Eval[bool](p, `clip.setData("application/x-mevrin-part+json", '{"concepts":[{"id":1}],"links":"x"}'), clip.setData("text/plain", "one idea\n\n  another\n"), true`)
	clip("paste")
	p.Wait(`document.querySelector("#pasted[open] .main")`)
	p.Press(`#pasted [data-do="put-pasted"]`)
	p.Wait(`seen.slips() === 45`)
	p.Settled()
	p.Press("#desk")
	assert.Subset(t, labels(p), []string{"one idea", "another"})
	noOverlap(t, p)
	for range 2 {
		p.Ctrl("z")
		p.Settled()
	}

	// Find: what matches stands out, Enter goes on, Escape stays at the place.
	p.Press(`[data-do="find"]`)
	p.Wait(`document.activeElement.id === "find-words"`)
	p.Keys("air")
	p.Wait(`/of 5/.test(document.getElementById("find-count").textContent)`) // one of them in a note
	first := drive.Eval[string](p, `seen.chosen()`)
	p.Keys(drive.Enter)
	p.Wait(`seen.chosen() !== ` + quoted(first))
	assert.Equal(t, 5, drive.Eval[int](p, `document.querySelectorAll(".found").length`))
	p.Keys(drive.Escape)
	assert.True(t, drive.Eval[bool](p, `document.activeElement === document.getElementById("desk") && !document.querySelector(".seeking") && seen.at(seen.chosen()).words.includes("air")`))

	// The menu of a thing, with its keys, by keyboard.
	p.Press(`[id="c-copper"]`)
	p.Menu()
	p.Wait(`document.activeElement.role === "menuitem"`)
	p.Keys(drive.Down, drive.Down, drive.Down, drive.Down, drive.Enter)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("pure copper", drive.Enter)
	p.Settled()
	assert.Contains(t, labels(p), "pure copper")
	assert.Empty(t, p.Faults("Unprocessable"))
}

package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A card is written as it will look, and kept as CommonMark.
func TestACardIsWrittenAsItWillLook(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 680)
	p.Goto(app.URL + "/maps/bell-sound#stop-cause-04")
	p.Wait(`document.querySelector(".card-read strong")?.innerText === "the sound bow"`)
	kept := `document.getElementById("stop-card").value`
	before := drive.Eval[string](p, kept)
	p.Press(".card-read")
	p.Wait(`document.querySelector("#writing-desk[open] .rich-text strong")?.innerText === "the sound bow"`)
	assert.Equal(t, before, drive.Eval[string](p, kept), "looking at it changes nothing")
	p.Ctrl("a")
	p.Keys("Bold")
	p.Ctrl("a")
	p.Press(`[data-rich="bold"]`)
	p.Wait(`document.querySelector('[data-rich="bold"]').getAttribute("aria-pressed") === "true"`)
	p.Keys(drive.End, drive.Enter, "- ", "one", drive.Enter, "two", drive.Enter, drive.Enter)
	p.Press(`[data-rich="formula"]`)
	p.Keys(drive.End)
	p.Press(`[data-rich="table"]`)
	p.Wait(`document.querySelectorAll("#writing-desk .rich-text th").length === 2`)
	p.Wait(`document.getElementById("stop-card").value.startsWith("**Bold**\n\n* one\n* two\n\n$f = v/lambda$\n\n| ")`)
	p.Ctrl(drive.Enter)
	p.Wait(`!document.getElementById("writing-desk").open`)
	p.Settled()
	p.Wait(`document.querySelector(".card-read strong")?.innerText === "Bold" && document.querySelector(".card-read table") && document.querySelector(".card-read math") && document.querySelectorAll(".card-read li").length === 2`)
	p.Press("#undo")
	p.Wait(kept + ` === ` + quoted(before) + ` || !document.querySelector(".card-read table")`)
	assert.Empty(t, p.Faults())
}

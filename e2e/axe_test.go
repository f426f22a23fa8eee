package e2e_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// No screen has a fault of accessibility that axe finds.
func TestAccessibility(t *testing.T) {
	axe, err := os.ReadFile("../assets/node_modules/axe-core/axe.min.js")
	require.NoError(t, err, "run make modules")
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	check := func(screen string) {
		t.Helper()
		drive.Eval[bool](p, string(axe)+"; true")
		faults := drive.Eval[[]string](p, `axe.run().then(r => r.violations.flatMap(v => v.nodes.map(n => v.id + ": " + n.failureSummary + " " + n.html.slice(0, 160))))`)
		assert.Empty(t, faults, screen)
	}
	p.Goto(app.URL)
	check("library")
	p.Goto(app.URL + "/maps/bell-sound")
	check("paper")
	p.Press("#jots")
	paste(p, "a tower\n  holds: a bell")
	p.Wait(`document.querySelector("#pasted[open] .main")`)
	check("pasted lines")
	p.Press(`[data-do="drop-pasted"]`)
	p.Press(`[id="c-vibration"]`)
	p.Wait(`document.querySelector(".margin .sentences")`)
	check("a concept selected")
	p.Keys(drive.Tab)
	p.Wait(`document.activeElement.matches(".field")`)
	check("typing")
	p.Keys(drive.Escape)
	p.Press(`[id="l-link01"] .gap`)
	p.Wait(`document.querySelector('[data-do="reverse"]')`)
	check("a link selected")
	p.Menu()
	check("menu")
	p.Keys(drive.Escape)
	p.Press(`[data-do="find"]`)
	check("find")
	p.Keys(drive.Escape, drive.Escape, "?")
	p.Wait(`document.querySelector("#keys[open]")`)
	check("keys")
	p.Keys(drive.Escape)
	p.Goto(app.URL + "/maps/own-bell")
	p.Press(`[data-phase="check"]`)
	marginSays(p, "Not looked for on this map")
	check("check")
	p.Press(`[data-phase="connect"]`)
	marginSays(p, "every idea is linked")
	check("connect")
	p.Press("#column-switch")
	p.Wait(`document.querySelectorAll("#outline li").length === 17`)
	check("column")
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-phase="guide"]`)
	p.Wait(`document.querySelectorAll("#stops > li").length === 13`)
	p.Press("#stops .stop")
	p.Wait(`document.querySelector(".card-work")`)
	p.Press(`[data-do="make-link"]`)
	p.Wait(`document.querySelector(".address")`)
	check("guide")
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		p = browser.Page(t, size[0], size[1])
		p.Goto(app.URL + "/maps/bell-sound/walk/cause")
		p.Press("#next")
		check("walk")
		p.Press("#contents-switch")
		check("all stops")
	}
	p.Goto(app.URL)
	p.Press(`[name="begin"][value="outline"]`)
	p.Press(".map-menu summary")
	check("library with a menu")
	p.Press(".map-actions [action$='/discard'] button")
	p.Wait(`document.querySelector(".banner")`)
	check("library with a notice")
	p.Press(`[href="/bin"]`)
	p.Wait(`document.querySelector(".bin-list")`)
	check("bin")
	p.Goto(app.URL + "/nothing")
	check("nothing there")
}

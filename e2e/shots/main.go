// Command shots makes the pictures of docs/screenshots afresh, by driving the
// real application with the demo data.
package main

import (
	"flag"
	"os"
	"path/filepath"

	"mevrin/e2e/drive"
)

func main() {
	binary := flag.String("binary", "bin/mevrin", "the application")
	out := flag.String("out", "docs/screenshots", "where the pictures go")
	flag.Parse()
	t := &drive.Program{}
	defer t.End()
	data, err := os.MkdirTemp("", "mevrin-shots")
	if err != nil {
		t.Fatalf("%v", err)
	}
	t.Cleanup(func() { _ = os.RemoveAll(data) })
	if err := os.MkdirAll(*out, 0o755); err != nil {
		t.Fatalf("%v", err)
	}
	app := drive.Start(t, *binary, "demo", data)
	browser := drive.Open(t)
	take(t, app, browser, func(name string) string { return filepath.Join(*out, name+".png") })
}

// take makes one picture of each main view.
func take(t drive.T, app *drive.App, b *drive.Browser, file func(string) string) {
	p := b.Page(t, 1280, 800)
	p.Goto(app.URL)
	p.Shot(file("library"))

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[id="c-vibration"]`)
	quiet(p)
	p.Shot(file("paper"))

	p.Press("#link-tools, #desk")
	p.Press(`[data-do="fit"]`)
	p.Hover(640, 60)
	quiet(p)
	p.Shot(file("whole-map"))

	p.Press(`[id="l-link39"] .gap`)
	quiet(p)
	p.Shot(file("link"))

	p.Press(`[data-do="find"]`)
	p.Keys("air")
	quiet(p)
	p.Shot(file("find"))
	p.Keys(drive.Escape)

	x, y := p.Middle(`[id="c-wave"]`)
	p.RightClick(x, y)
	p.Wait(`document.activeElement.role === "menuitem"`)
	quiet(p)
	p.Shot(file("menu"))
	p.Keys(drive.Escape)

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-do="zoom-one"]`)
	drive.Eval[bool](p, `(() => { mevrin.view.middle(mevrin.model.slips.get("ringer").box); mevrin.view.apply(); return true })()`)
	p.Press(`[id="c-ringer"]`)
	p.Keys(drive.Tab, "learns", drive.Enter, "the order of a peal")
	quiet(p)
	p.Shot(file("typing"))
	p.Keys(drive.Escape, drive.Escape, "?")
	quiet(p)
	p.Shot(file("keys"))
	p.Keys(drive.Escape)

	p.Press(`[data-do="fit"]`)
	p.Press("#say-from")
	p.Keys("the ringer", drive.Tab, "leads", drive.Tab, "the b")
	quiet(p)
	p.Shot(file("sentence-bar"))

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press("#column-switch")
	p.Wait(`document.querySelectorAll("#outline li").length === 41`)
	p.Press(`[data-do="fit"]`)
	p.Press(`#outline [data-element="c-partials"]`)
	p.Hover(900, 60)
	p.Shot(file("reading-column"))

	p.Goto(app.URL)
	p.Press("#question")
	p.Keys("Should the Hollin school ring its own bell again?", drive.Enter)
	p.Wait("!!window.mevrin && !!document.querySelector('.field')")
	quiet(p)
	p.Shot(file("new-map"))
}

// quiet waits until nothing moves any more and the margin shows what is
// selected.
func quiet(p *drive.Page) {
	p.Wait(`(!window.mevrin || mevrin.view.still) && document.fonts.status === "loaded"`)
	p.Wait(`document.getElementById("margin").hidden || document.querySelector(".margin-body").dataset.chosen === mevrin.marginFor`)
}

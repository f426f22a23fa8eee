// Command shots makes the pictures of docs/screenshots afresh, by driving the
// real application with the demo data.
package main

import (
	"flag"
	"fmt"
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
	take(t, app, browser, *binary, data, func(name string) string { return filepath.Join(*out, name+".png") })
}

// take makes one picture of each main view.
func take(t drive.T, app *drive.App, b *drive.Browser, binary, data string, file func(string) string) {
	p := b.Page(t, 1280, 800)
	shared := drive.Start(t, binary, "demo", data+"-shared", "--people")
	p.Goto(shared.URL)
	p.Press(`.entering-as button[value="author"]`)
	p.Wait(`document.querySelector(".map-card")`)
	p.Press(".new-folder summary")
	p.Press(`.new-folder [name="name"]`)
	p.Keys("Year 8: sound", drive.Enter)
	p.Wait(`document.querySelector(".folder")`)
	drive.Eval[bool](p, `(document.querySelector('[href="/maps/loudness"]').closest(".map-card").querySelector(".choose input").click(), true)`)
	drive.Eval[bool](p, `(document.querySelector('#several-form [name="into"]').selectedIndex = 1, document.querySelector('#several-form [value="file"]').click(), true)`)
	p.Wait(`document.querySelectorAll(".map-card").length === 5`)
	p.Goto(shared.URL)
	p.Wait(`document.querySelector(".map-card") && [...document.querySelectorAll(".map-drawing")].every(i => i.complete)`)
	p.Shot(file("library"))
	p.Goto(shared.URL + "/maps/bell-sound/sharing")
	drive.Eval[bool](p, `(() => { const most = [...document.querySelectorAll("[name=most]")].at(-1); most.value = "30"; most.form.requestSubmit(); return true })()`)
	p.Wait(`document.querySelector("#links ~ .people-list")`)
	p.Shot(file("sharing"))

	p.Goto(app.URL + "/maps/bell-sound/export?format=docx")
	p.Shot(file("export"))

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[id="c-vibration"]`)
	quiet(p)

	p.Press("#link-tools, #desk")
	p.Press(`[data-do="fit"]`)
	p.Hover(640, 60)
	quiet(p)
	p.Shot(file("whole-map"))

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`button[data-phase="gather"]`)
	p.Press("#column-switch")
	p.Wait(`document.querySelectorAll("#outline li").length === 41`)
	p.Press(`[data-do="fit"]`)
	p.Press(`#outline [data-element="c-partials"]`)
	p.Hover(900, 60)
	p.Shot(file("reading-column"))

	drive.Eval[bool](p, `mevrin.tuck.see({ all: true })`)
	p.Settled()

	plain(p, app, file)
	meaning(p, app, file)
	check(p, app, file)
	routes(p, app, file)
	order(p, app, file)
	for _, size := range []struct {
		name          string
		width, height int
	}{{"walk", 1280, 800}, {"walk-phone", 390, 844}} {
		p := b.Page(t, size.width, size.height)
		p.Goto(app.URL + "/maps/bell-sound/walk/cause")
		for range 15 {
			if drive.Eval[int](p, `walk.at`) < 5 {
				p.Press("#next")
				p.Wait(`seen.arrived()`)
			}
		}
		p.Wait(`walk.view.still && walk.at === 5`)
		p.Hover(float64(size.width)-40, 20)
		p.Shot(file(size.name))
	}

	led(b, t, app, file)

	// Fingers come last: what comes after them would be drawn for fingers, too.
	phone := b.Page(t, 390, 844)
	phone.Tablet(390, 844)
	phone.Goto(app.URL + "/maps/own-bell")
	phone.Tap(`.thumb [data-do="say-sheet"]`)
	phone.Wait(`document.activeElement.id === "say-from"`)
	phone.Insert("its frame is sound")
	phone.Tap("#say-done")
	phone.Wait(`document.activeElement.id === "say-phrase"`)
	phone.Insert("is sh")
	phone.Wait(`document.querySelector("#say-list li")`)
	quiet(phone)
	phone.Shot(file("phone"))
}

// led shows a room that is led: the guide desk, and the screen that follows it.
func led(b *drive.Browser, t drive.T, app *drive.App, file func(string) string) {
	desk := b.Page(t, 1280, 800)
	desk.Goto(app.URL + "/maps/bell-sound/present?by=older&stop=older-02")
	room := b.Page(t, 1280, 800)
	room.Goto(app.URL + "/room/" + drive.Eval[string](desk, `document.body.dataset.code`))
	desk.Front()
	desk.Keys(drive.PageDown, drive.PageDown, drive.PageDown, drive.PageDown)
	desk.Wait(`document.querySelector("#card h2")?.innerText.includes("Many tones") && document.getElementById("rooms").innerText.startsWith("1 ") && seen.arrived()`)
	desk.Shot(file("desk"))
	room.Front()
	room.Wait(`document.querySelector("#card h2")?.innerText.includes("Many tones") && seen.arrived()`)
	room.Shot(file("room"))
}

// plain shows the plain hand on a small map with a key.
func plain(p *drive.Page, app *drive.App, file func(string) string) {
	p.Goto(app.URL)
	p.Press("#question")
	p.Keys("What lives in our bell tower?")
	p.Press(`[name="begin"][value="outline"]`)
	p.Press("#lines")
	drive.Eval[bool](p, `(document.getElementById("lines").value = "the bell tower\n  holds: the great bell\n    rings at: noon\n    is: loud\n  is home to: jackdaws\n    build: nests\n  is home to: bats\n    sleep by: day", true)`)
	p.Press(".begin .button.main")
	p.Wait("!!window.mevrin && seen.slips() === 8")
	p.Goto(drive.Eval[string](p, `location.href.split("?")[0] + "?hand=plain"`))
	for words, kind := range map[string]string{"the bell tower": "place", "the great bell": "thing", "jackdaws": "living being", "bats": "living being", "noon": "time", "day": "time", "loud": "how it is"} {
		p.Press(p.Slip(words))
		p.Press(`[data-do="plain-colour"]`)
		p.Wait(`!document.getElementById("plain-key").hidden`)
		p.Press(`.plain-kind[data-name="` + kind + `"]`)
		p.Settled()
	}
	p.Press(`[data-do="fit"]`)
	p.Wait("mevrin.view.still")
	p.Press(p.Slip("jackdaws"))
	p.Wait(`document.getElementById("plain-key").hidden`)
	p.Press(`[data-do="plain-colour"]`)
	p.Wait(`!document.getElementById("plain-key").hidden`)
	p.Wait("mevrin.view.still")
	p.Shot(file("plain-hand"))
}

// meaning shows how a map came to be, and a key being worked on. The maps are left as they were.
func meaning(p *drive.Page, app *drive.App, file func(string) string) {
	p.Goto(app.URL + "/maps/ring-again/versions?at=12")
	p.Wait(`!document.getElementById("replay").hidden`)
	p.Shot(file("versions"))

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-do="fit"]`)
	p.Press(`[id="c-bronze"]`)
	quiet(p)
	drive.Eval[bool](p, `(document.querySelector('[data-fold="key"]').scrollIntoView(), document.querySelector(".key-more").open = true)`)
	p.Hover(600, 60)
	quiet(p)
	p.Shot(file("key"))
}

// order shows a pattern tried out and taken, and a round of checking. The map is left as it was.
func order(p *drive.Page, app *drive.App, file func(string) string) {
	p.Goto(app.URL + "/maps/bell-sound")
	// Regions stay together, and then levels are no even bands.
	drive.Eval[bool](p, `mevrin.send([{ do: "remove-region", region: "in-ear" }, { do: "remove-region", region: "in-metal" }], [])`)
	p.Settled()
	p.Press(`[data-phase="connect"]`)
	p.Wait(`document.querySelector(".pattern")`)
	p.Press(`[data-pattern="sides"]`)
	p.Wait(`mevrin.tidy.on?.pattern === "sides"`)
	p.Press(`[data-pattern="levels"]`)
	p.Wait(`mevrin.tidy.on?.pattern === "levels"`)
	p.Wait("document.getAnimations().every(a => a.playState !== 'running' || a.constructor !== Animation)")
	p.Press(`.zoom [data-do="zoom-in"]`) // words are drawn from 40 % on
	p.Wait(`mevrin.view.still`)
	quiet(p)
	p.Shot(file("tidy"))
	p.Press(`[data-do="tidy-take"]`)
	p.Settled()
	p.Press(`[data-phase="check"]`)
	p.Wait(`document.querySelector('[data-do="round"][data-order="reading"]')`)
	p.Press(`[data-do="round"][data-order="reading"]`)
	for i, verdict := range []string{"1", "1", "2", "1"} {
		p.Wait(fmt.Sprintf(`document.getElementById("round-place").innerText.startsWith("%d ")`, i+1))
		p.Keys(verdict)
	}
	p.Wait(`document.getElementById("round-place").innerText.startsWith("5 ")`)
	p.Settled()
	p.Hover(600, 60)
	quiet(p)
	p.Shot(file("round"))
	p.Keys(drive.Escape)
	for range 4 {
		p.Press("#undo")
		p.Settled()
	}
	for range 2 {
		p.Press("#undo")
		p.Settled()
	}
}

// check shows the phase Check on a map with faults.
func check(p *drive.Page, app *drive.App, file func(string) string) {
	p.Goto(app.URL + "/maps/first-try")
	p.Wait("!!window.mevrin && seen.slips() === 19")
	p.Press(`[data-phase="check"]`)
	p.Press(`[data-do="fit"]`)
	p.Wait(`document.querySelector(".margin-body").dataset.phase === "check"`)
	p.Wait(`document.querySelector(".finding:nth-of-type(3) > summary")`)
	p.Press(".finding:nth-of-type(3) > summary")
	drive.Eval[bool](p, `(document.querySelector("#margin-phase").scrollIntoView(), true)`)
	p.Hover(600, 60)
	quiet(p)
	p.Shot(file("check"))

	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-phase="check"]`)
	p.Wait(`document.querySelector('[data-do="raters"]')`)
	p.Press(`[data-do="raters"]`)
	p.Wait(`document.querySelector(".raters-table")`)
	p.Hover(20, 400)
	p.Shot(file("raters"))
	p.Keys(drive.Escape)

	p.Goto(app.URL + "/maps/loudness")
	p.Press(".brief-line:not(.met) summary")
	p.Press(`[data-do="fit"]`)
	p.Hover(600, 60)
	quiet(p)
	p.Shot(file("brief"))
}

// routes shows the phase Guide with a stop's card open.
func routes(p *drive.Page, app *drive.App, file func(string) string) {
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`.phases [data-phase="guide"]`)
	p.Wait(`document.querySelectorAll("#stops > li").length === 13`)
	p.Press("#stops > li:nth-child(3) .stop")
	p.Wait(`document.querySelector(".card-work")`)
	p.Press(`#margin [data-do="cards"]`)
	p.Wait(`document.querySelectorAll("#cards .small-card").length === 13`)
	drive.Eval[bool](p, `(document.querySelector("#margin-phase").scrollIntoView(), true)`)
	p.Press(`[data-do="fit"]`)
	p.Hover(600, 60)
	quiet(p)
	p.Shot(file("guide"))
}

// quiet waits until nothing moves any more and the margin shows what is
// selected.
func quiet(p *drive.Page) {
	p.Wait(`(!window.mevrin || mevrin.view.still) && document.fonts.status === "loaded"`)
	p.Wait(`document.getElementById("margin").hidden || document.querySelector(".margin-body").dataset.chosen === mevrin.margin.shownFor && !mevrin.margin.pending`)
}

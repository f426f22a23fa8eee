package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// as opens a tab in which one of the made-up people of the demo is signed in.
func as(t *testing.T, app *drive.App, name string, w, h int) *drive.Page {
	t.Helper()
	p := browser.Page(t, w, h)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Wait(`location.pathname === "/sign-in"`)
	drive.Eval[bool](p, `([...document.querySelectorAll(".entering-as button")].find(b => b.innerText.includes(`+quoted(name)+`)).click(), true)`)
	return p
}

// Three people in three browsers: the owner of a map shares it with a colleague, who works on it at the same
// time; a learner looks; and what is taken back ends at once, while they look.
func TestThreePeopleShareAMap(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir(), "--people")
	ines := as(t, app, "Ines", 1280, 800)
	ines.Wait(`!!window.mevrin && location.pathname === "/maps/bell-sound"`)
	jory := as(t, app, "Jory", 1280, 680)
	jory.Wait(`!!window.mevrin && location.pathname === "/maps/bell-sound"`)
	wren := as(t, app, "Wren", 390, 844)
	wren.Wait(`!!window.walk && location.pathname === "/maps/bell-sound/walk/as-read"`)
	assert.Zero(t, drive.Eval[int](wren, `document.querySelectorAll("#sentence-bar, .margin").length`), "who looks alters nothing")
	wren.Goto(app.URL + "/shared")
	assert.Equal(t, 1, drive.Eval[int](wren, `document.querySelectorAll(".map-card").length`))
	assert.Contains(t, drive.Eval[string](wren, `document.querySelector(".map-card").innerText`), "shared by Ines Hallam")
	jory.Wait(`window.mevrin.saved?.state !== "waiting"`)

	// What one writes the other sees.
	drive.Eval[bool](jory, `seen.elsewhere([{ do: "name-concept", concept: "bell", label: "the great bell" }])`)
	ines.Wait(`document.getElementById("c-bell")?.textContent.replaceAll(/\s+/g, " ").includes("the great bell")`)

	// The owner sees at a glance who has access, gives a learner a map to work on, and takes the colleague's away.
	ines.Press(`.margin [href$="/sharing"]`)
	ines.Wait(`document.querySelectorAll(".people-list li").length === 4`)
	drive.Eval[bool](ines, `(() => { const row = [...document.querySelectorAll(".people-list li")].find(li => li.innerText.includes("Wren")); row.querySelector("select").value = "edit"; row.querySelector("form button").click(); return true })()`)
	ines.Wait(`[...document.querySelectorAll(".people-list li")].find(li => li.innerText.includes("Wren"))?.querySelector('option[value="edit"]').defaultSelected === true`)
	wren.Goto(app.URL + "/maps/bell-sound")
	wren.Wait(`!!window.mevrin && location.pathname === "/maps/bell-sound"`)
	drive.Eval[bool](ines, `(() => { const row = [...document.querySelectorAll(".people-list li")].find(li => li.innerText.includes("Jory")); row.querySelector('[name="right"][value=""]').click(); return true })()`)
	jory.Wait(`document.body?.innerText.includes("shared with you no longer")`)
	jory.Goto(app.URL)
	assert.NotContains(t, drive.Eval[string](jory, `document.body.innerText`), "How does a bell make a sound")
	jory.Faults("404")

	// Words are sought on all maps that somebody may see, and on no others.
	for _, p := range []*drive.Page{ines, wren} {
		p.Goto(app.URL + map[bool]string{true: "/shared", false: ""}[p == wren])
		p.Press("#seek-maps")
		p.Keys("lower")
		p.Wait(`document.querySelector(".found-maps")?.innerText.includes("distance lowers loudness")`)
		drive.Eval[bool](p, `(document.getElementById("seek-maps").value = "", document.getElementById("seek-maps").dispatchEvent(new Event("input", { bubbles: true })), true)`)
		p.Wait(`document.querySelector(".map-card") && !document.querySelector(".found-maps")`)
	}
	wren.Press("#seek-maps")
	wren.Keys("quieter") // of a map that is not shared with her
	wren.Wait(`document.querySelector("#maps [role=status]")?.innerText.includes("Nothing holds")`)

	// People are invited on a page of the owner's; whoever has the link makes an account and comes in.
	ines.Goto(app.URL + "/people")
	ines.Press(`[name="mail"]`)
	ines.Keys("fern@hollin.example", drive.Enter)
	ines.Wait(`document.querySelector(".banner .address")`)
	link := drive.Eval[string](ines, `new URL(document.querySelector(".banner .address").value).pathname`)
	fern := browser.Page(t, 390, 844)
	fern.Goto(app.URL + link)
	fern.Keys("Fern Moss", drive.Tab, "password12", drive.Enter)
	fern.Wait(`document.querySelector('[role="alert"]')?.innerText.includes("first that somebody would try")`)
	fern.Press(`[name="password"]`)
	fern.Keys("bronze rope lantern", drive.Enter)
	fern.Wait(`document.querySelector('[href="/account"]')?.innerText.includes("Fern Moss")`)
	assert.LessOrEqual(t, drive.Eval[int](fern, `document.documentElement.scrollWidth`), 390)
	fern.Press(`[href="/account"]`)
	fern.Wait(`document.querySelector('[action="/sign-out"] button')`)
	fern.Press(`[action="/sign-out"] button`)
	fern.Wait(`location.pathname === "/sign-in"`)
	fern.Press(`[name="mail"]`)
	fern.Keys("fern@hollin.example", drive.Tab, "bronze rope lantern", drive.Enter)
	fern.Wait(`document.querySelector('[href="/account"]')`)
	for _, p := range []*drive.Page{ines, wren, fern} {
		assert.Empty(t, p.Faults("422"))
	}
}

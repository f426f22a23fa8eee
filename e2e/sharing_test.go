package e2e_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
	"mevrin/standin/identity"
)

// pressWhere presses a control that says something.
func pressWhere(p *drive.Page, selector, words string) {
	p.Wait(`[...document.querySelectorAll(` + quoted(selector) + `)].some(b => b.innerText.includes(` + quoted(words) + `))`)
	drive.Eval[bool](p, `([...document.querySelectorAll(`+quoted(selector)+`)].find(b => b.innerText.includes(`+quoted(words)+`)).click(), true)`)
}

// A link with a password and a last day lets a guest work on a map beside its owner: they see each other, and who is
// written over is told. What is closed ends at once. Whoever may comment suggests, and the owner takes it. The map stands
// on the page that was named, and on no other. Somebody comes by their school.
func TestAMapIsSharedByLinksAndFrames(t *testing.T) {
	t.Parallel()
	school := &identity.Provider{Client: "mevrin", People: []identity.Person{{Subject: "fern", Name: "Fern Moss", Mail: "fern.moss@hollin.example"}}}
	idp := httptest.NewServer(school.Handler())
	defer idp.Close()
	school.Issuer = idp.URL
	app := drive.Start(t, binary, "demo", t.TempDir(), "--people", "--identity", idp.URL, "--identity-name", "Hollin school")

	fern := browser.Page(t, 390, 844)
	fern.Goto(app.URL)
	pressWhere(fern, ".entering-school a", "Hollin school")
	pressWhere(fern, "button", "Fern Moss")
	fern.Wait(`document.querySelector('[href="/account"]')?.innerText.includes("Fern Moss")`)
	assert.LessOrEqual(t, drive.Eval[int](fern, `document.documentElement.scrollWidth`), 390)

	ines := as(t, app, "Ines", 1280, 800)
	ines.Wait(`!!window.mevrin`)
	link := func(right, password string) string {
		t.Helper()
		ines.Goto(app.URL + "/maps/bell-sound/sharing")
		before := drive.Eval[int](ines, `document.querySelectorAll("#links ~ .people-list li").length`)
		drive.Eval[bool](ines, `(() => { const form = document.querySelector('form[action$="/sharing/links"]'); form.querySelector("[name=for]").value = `+quoted(right)+`;
			form.querySelector("details").open = true; form.querySelector("[name=password]").value = `+quoted(password)+`; form.querySelector("[name=until]").value = `+quoted(time.Now().AddDate(0, 0, 7).Format(time.DateOnly))+`; form.requestSubmit(); return true })()`)
		ines.Wait(fmt.Sprintf(`document.readyState === "complete" && document.querySelectorAll("#links ~ .people-list li").length === %d`, before+1))
		return drive.Eval[string](ines, `new URL([...document.querySelectorAll("#links ~ .people-list li input.address")].at(-1).value).pathname`)
	}
	edit := link("edit", "rope and wheel")
	guest := browser.Page(t, 1280, 680)
	guest.Goto(app.URL + edit)
	guest.Press(`[name="password"]`)
	guest.Keys("wrong one", drive.Enter)
	guest.Wait(`document.querySelector('[role="alert"]')?.innerText.includes("not the password")`)
	guest.Press(`[name="password"]`)
	guest.Keys("rope and wheel", drive.Enter)
	guest.Wait(`!!window.mevrin && location.pathname === "/maps/bell-sound"`)
	ines.Goto(app.URL + "/maps/bell-sound")
	ines.Wait(`!!window.mevrin && document.querySelectorAll("#here .seat").length === 1`)
	guest.Wait(`document.querySelector("#here .seat")?.title.includes("Ines Hallam")`)
	drive.Eval[bool](guest, `(mevrin.choose("c-bell"), true)`)
	ines.Wait(`document.getElementById("c-bell")?.classList.contains("theirs") && !!document.querySelector("#theirs-marks .name-tab")`)
	drive.Eval[bool](ines, `seen.elsewhere ? (mevrin.send([{ do: "name-concept", concept: "air", label: "the air around" }], []), true) : true`)
	ines.Settled()
	guest.Wait(`document.getElementById("c-air")?.textContent.replaceAll(/\s+/g, " ").includes("the air around")`)
	// The guest wrote that before seeing what Ines wrote.
	drive.Eval[bool](guest, `fetch(mevrin.base + "/entries", { method: "POST", headers: { "Content-Type": "application/json" },
		body: JSON.stringify({ id: "conflict", window: "elsewhere", seen: mevrin.road.revision - 1, operations: [{ do: "name-concept", concept: "air", label: "the air outside" }] }) }).then(() => true)`)
	ines.Wait(`document.getElementById("notices")?.innerText.includes("somebody else has changed that too")`)

	// Closed while somebody works: it ends at once.
	ines.Goto(app.URL + "/maps/bell-sound/sharing")
	pressWhere(ines, `#links ~ .people-list form[action$="/close"] button`, "Close it")
	guest.Wait(`document.body?.innerText.includes("shared with you no longer")`)
	ines.Wait(`document.readyState === "complete" && !!document.getElementById("links") && !document.querySelector('#links ~ .people-list form[action$="/close"]')`)

	comment := link("comment", "")
	guest.Goto(app.URL + comment)
	guest.Wait(`document.body?.dataset.hand === "comment"`)
	guest.Press(".plain-suggest")
	guest.Wait(`document.readyState === "complete" && !!document.querySelector("#suggest .main")`)
	guest.Press(`#suggest [name="from"]`)
	guest.Keys("the great bell", drive.Tab, "is older than", drive.Tab, "the school")
	drive.Eval[bool](guest, `(document.querySelector("#suggest .main").click(), true)`)
	guest.Wait(`document.querySelector(".suggested li .was-added")?.innerText.includes("is older than")`)
	assert.Equal(t, 0, drive.Eval[int](guest, `document.querySelectorAll('[action$="/take"]').length`))
	ines.Goto(app.URL + "/maps/bell-sound")
	pressWhere(ines, "header a", "1")
	ines.Wait(`document.readyState === "complete" && document.querySelectorAll("#drawing .added").length > 0`)
	ines.Press(`.suggested [action$="/take"] button`)
	ines.Wait(`document.querySelector(".banner")?.innerText.includes("on the map now")`)
	guest.Goto(app.URL + "/maps/bell-sound")
	guest.Wait(`document.getElementById("links")?.textContent.includes("is older than")`)

	// In a frame on the page that was named, and on no other.
	page := func() *httptest.Server {
		return httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			w.Header().Set("Content-Type", "text/html")
			_, _ = w.Write([]byte(`<!doctype html><link rel="icon" href="data:,"><title>a course</title>` + r.URL.Query().Get("code")))
		}))
	}
	named, other := page(), page()
	defer named.Close()
	defer other.Close()
	ines.Goto(app.URL + "/maps/bell-sound/sharing")
	ines.Press(`[name="origins"]`)
	ines.Keys(named.URL)
	pressWhere(ines, `form[action$="/frames"] button`, "Make the frame")
	ines.Wait(`document.querySelector(".frame-code")`)
	assert.Contains(t, drive.Eval[string](ines, `document.querySelector(".frame-code").value`), "<iframe")
	code := drive.Eval[string](ines, `document.querySelector(".frame-code").value`)
	for _, at := range []*httptest.Server{named, other} {
		p := browser.Page(t, 1000, 700)
		p.Goto(at.URL + "/?code=" + url.QueryEscape(code))
		p.Wait(`document.querySelector("iframe") && document.readyState === "complete"`)
		refused := func() bool { return strings.Contains(strings.Join(p.Faults(), " "), "frame-ancestors") }
		if at == other {
			p.Until("the frame is refused", refused)
			continue
		}
		assert.False(t, refused(), p.Faults())
	}
	for _, p := range []*drive.Page{ines, guest, fern} {
		assert.Empty(t, p.Faults("422", "404", "403"))
	}
}

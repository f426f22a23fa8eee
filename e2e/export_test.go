package e2e_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// From a map to a file of each family, by keys and on a phone: what it is for leads to the format, the
// options that concern it are there, and the file is named after the map.
func TestAMapIsExported(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 680)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(p.Slip("the bell"))
	p.Wait(`document.querySelector('.margin [data-do="export"]')`)
	p.Press(`.margin [data-do="export"]`)
	p.Wait(`document.getElementById("export") && document.querySelector('.export-formats input:checked').value === "pdf"`)
	whats := drive.Eval[[]string](p, `[...document.querySelectorAll('[name="what"] option')].map(o => o.text)`)
	assert.Contains(t, whats, "the branch of “the bell”")
	take := `document.getElementById("take")`
	head := func(from string) string { // how the file begins
		return drive.Eval[string](p, `fetch(`+take+`.href).then(r => r.arrayBuffer()).then(b => new TextDecoder("latin1").decode(b.slice(0, `+from+`)))`)
	}
	assert.Equal(t, "%PDF-1.7", head("8"))
	assert.Equal(t, "The sound of a bell.pdf", drive.Eval[string](p, take+`.download`))
	for _, use := range [][3]string{{"write", "PK", "docx"}, {"show", "PK", "pptx"}, {"data", "{", "json"}, {"print", "%PDF", "pdf"}} {
		drive.Eval[bool](p, `(document.querySelector('[name="use"][value="`+use[0]+`"]').focus(), true)`)
		p.Keys(" ")
		p.Wait(`document.querySelector('[name="use"]:checked')?.value === "` + use[0] + `" && document.querySelector('.export-formats input:checked')?.value === "` + use[2] + `" && ` + take)
		if use[0] == "write" {
			assert.True(t, drive.Eval[bool](p, take+`.download.endsWith(".docx") && !!document.querySelector('[name="argument"]')`))
		}
		assert.Equal(t, use[1], head(strconv.Itoa(len(use[1]))), use[0])
	}
	// What is chosen alone: a picture of one branch is smaller than that of all.
	drive.Eval[bool](p, `(document.querySelector('[name="format"][value="png"]').click(), true)`)
	p.Wait(take + `?.download.endsWith(".png") && document.querySelector('[name="scale"]')`)
	all := drive.Eval[int](p, `fetch(`+take+`.href).then(r => r.arrayBuffer()).then(b => b.byteLength)`)
	drive.Eval[bool](p, `(s => { s.value = [...s.options].find(o => o.text.startsWith("the branch")).value; return s.dispatchEvent(new Event("change", { bubbles: true })); })(document.querySelector('[name="what"]'))`)
	p.Wait(`document.querySelector('[name="what"]').value.startsWith("branch") && ` + take + `.href.includes("what=branch")`)
	assert.Less(t, drive.Eval[int](p, `fetch(`+take+`.href).then(r => r.arrayBuffer()).then(b => b.byteLength)`), all)
	p.Press("#take")
	p.Wait(`document.getElementById("making").innerText.includes("The sound of a bell.png")`)
	p.MayCopy()
	p.Press("#copy-picture")
	p.Wait(`document.getElementById("making").innerText.includes("The picture is copied")`)
	drive.Eval[bool](p, `(addEventListener("paste", async (e) => { const f = e.clipboardData.files[0]; window.pasted = f && f.type === "image/png" ? (await createImageBitmap(f)).width : 0 }), true)`)
	p.Ctrl("v")
	p.Wait(`window.pasted > 300`)
	p.Keys(drive.Escape)
	p.Wait(`!!window.mevrin`)
	assert.Empty(t, p.Faults())

	// A picture that stays current: whoever has its address sees the map as it is by now, until it is closed.
	p.Goto(app.URL + "/maps/bell-sound/export")
	p.Press("#current .button")
	p.Wait(`document.querySelector("#current .address")`)
	address := drive.Eval[string](p, `new URL(document.querySelector("#current .address").value).pathname`)
	shown := func(words string) bool {
		return drive.Eval[bool](p, `fetch(`+quoted(address)+`).then(r => r.text()).then(s => s.includes(`+quoted(words)+`))`)
	}
	assert.False(t, shown("the great bell"))
	q := browser.Page(t, 1280, 800)
	q.Goto(app.URL + "/maps/bell-sound")
	drive.Eval[bool](q, `seen.elsewhere([{ do: "name-concept", concept: "bell", label: "the great bell" }])`)
	assert.True(t, shown("the great bell"))
	p.Press("#current li form button")
	p.Wait(`!document.querySelector("#current .address")`)
	assert.Equal(t, 404, drive.Eval[int](p, `fetch(`+quoted(address)+`).then(r => r.status)`))
	p.Faults("404")

	phone := browser.Page(t, 390, 844)
	phone.Goto(app.URL + "/maps/bell-sound/export?format=md")
	phone.Wait(`document.querySelector(".export-preview pre")?.innerText.startsWith("# The sound of a bell")`)
	assert.LessOrEqual(t, drive.Eval[int](phone, `document.documentElement.scrollWidth`), 390)
}

// A file is looked at before anything is made of it: with choices, with what was not understood, and
// refused in plain words where it is hostile.
func TestAFileIsLookedAtBeforeItIsTaken(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	maps := `document.querySelectorAll(".map-card").length`
	before := drive.Eval[int](p, maps)
	drop := func(files ...[2]string) {
		list := ""
		for _, f := range files {
			list += `d.items.add(new File([` + quoted(f[1]) + `], ` + quoted(f[0]) + `)); `
		}
		drive.Eval[bool](p, `(() => { const d = new DataTransfer(); `+list+` return document.body.dispatchEvent(new DragEvent("drop", { dataTransfer: d, bubbles: true, cancelable: true })) || true })()`)
	}
	drop([2]string{"bells.csv", "who,does,what\nthe clapper,strikes,the bell wall\nthe bell wall,gives off,sound\n,alone,\n"}, [2]string{"evil.opml", `<?xml version="1.0"?><!DOCTYPE o [<!ENTITY a "aaaa">]><opml><body><outline text="&a;"/></body></opml>`})
	p.Wait(`document.querySelectorAll(".import-file").length === 2`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelectorAll(".import-file")[1].innerText`), "declares entities of its own")
	assert.Contains(t, drive.Eval[string](p, `document.querySelectorAll(".import-file")[0].innerText`), "concepts 5 · links 3")
	drive.Eval[bool](p, `(document.querySelector('[name^="head-"]').click(), true)`)
	p.Wait(`document.querySelector(".import-file .facts")?.innerText.includes("concepts 3 · links 2")`)
	assert.NotEmpty(t, drive.Eval[string](p, `document.querySelector(".import-drawing svg")?.outerHTML ?? ""`))
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".import-remarks").textContent`), "line 4")
	other := browser.Page(t, 800, 600)
	other.Goto(app.URL)
	assert.Equal(t, before, drive.Eval[int](other, maps), "nothing is made before it is taken")
	p.Press(`#import .button.main`)
	p.Wait(`!!window.mevrin && seen.slips() === 3`)
	assert.Contains(t, says(p), "the clapper strikes the bell wall")

	// Into this map, by undo out of it again.
	p.Press(`.margin [href$="/import"]`)
	p.Wait(`document.getElementById("files")`)
	drop([2]string{"more.md", "# More\n\n- the bell\n  - *is cast from* bronze\n  - *hangs in* the tower\n"})
	p.Wait(`document.querySelector('[name="as"][value="added"]')`)
	p.Press(`[name="as"][value="added"]`)
	p.Wait(`!!window.mevrin && seen.slips() === 6`)
	assert.Contains(t, says(p), "the bell is cast from bronze")

	// Let go on free paper, it is asked what is to become of it; lines may be phrases.
	onPaper := `(() => { const d = new DataTransfer(); d.items.add(new File(["the rope\n  is pulled by\n    the ringer\n"], "rope.txt")); document.getElementById("desk").dispatchEvent(new DragEvent("drop", { dataTransfer: d, bubbles: true, cancelable: true, clientX: 500, clientY: 560 })); return true })()`
	drive.Eval[bool](p, onPaper)
	p.Wait(`document.querySelector("#dropped[open] h2")?.innerText.includes("rope.txt")`)
	p.Press(`#dropped [data-attach]`)
	p.Wait(`seen.slips() === 7 && !document.querySelector("#dropped[open]")`)
	p.Press("#undo")
	p.Settled()
	p.Wait(`seen.slips() === 6`)
	drive.Eval[bool](p, onPaper)
	p.Wait(`document.querySelector("#dropped[open]")`)
	p.Keys(drive.Enter)
	p.Wait(`document.querySelector(".import-file .facts")?.innerText.includes("concepts 3")`)
	drive.Eval[bool](p, `(() => { const s = document.querySelector('[name^="lines-"]'); s.value = "phrases"; s.dispatchEvent(new Event("change", { bubbles: true })); return true })()`)
	p.Wait(`document.querySelector(".import-file .facts")?.innerText.includes("concepts 2 · links 1")`)
	p.Press(`[name="as"][value="added"]`)
	p.Wait(`!!window.mevrin && seen.slips() === 8`)
	assert.Contains(t, says(p), "the rope is pulled by the ringer")
	p.Press("#undo")
	p.Settled()
	p.Wait(`seen.slips() === 6`)
	p.Press("#undo")
	p.Settled()
	p.Wait(`seen.slips() === 3`)
	assert.Empty(t, p.Faults())
}

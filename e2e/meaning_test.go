package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// seenAlone gives the words of the concepts that a filter leaves as they are.
const seenAlone = `[...document.querySelectorAll("#slips > .slip.kept")].map(el => seen.at("c-" + el.dataset.id).words).sort().join(", ")`

// A key is used on the paper itself: a click on a row shows what is of that kind,
// a row is dragged onto a slip, the key is moved and folded. Filters are put
// together, seen at once, kept under a name, and used again.
func TestTheKeyOnThePaperAndFilters(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  is struck by: the clapper\n    is made of: iron\n  rests on: the tower")
	p.Wait(`seen.slips() === 5`)
	open(p, "key")
	p.Press(`[data-do="begin-key"][data-set="science"]`)
	p.Wait(`document.querySelectorAll("#key-on-paper .key-row").length === 8`)
	p.Settled()
	assert.Equal(t, "object", drive.Eval[string](p, `document.querySelector("#key-on-paper .key-words:not(.bold)").textContent`))

	// A row is carried onto a slip.
	p.Press(`[data-do="fit"]`)
	row := func(name string) (x, y float64) {
		return p.Middle(`[data-kind="` + drive.Eval[string](p, `[...document.querySelectorAll("#key-on-paper .key-row")].find(r => r.querySelector(".key-words").textContent === `+quoted(name)+`).dataset.kind`) + `"].key-row`)
	}
	for _, words := range []string{"the rim", "the clapper"} {
		x, y := row("object")
		tx, ty := p.Middle(p.Slip(words))
		p.Drag(x, y, tx, ty)
		p.Settled()
	}
	x, y := row("material")
	tx, ty := p.Middle(p.Slip("iron"))
	p.Drag(x, y, tx, ty)
	p.Wait(`document.querySelector("#slips .colour-clay")?.getAttribute("aria-label") === "iron, material"`)
	p.Settled()

	// By keys: the second kind of the key is material.
	p.Press(p.Slip("the tower"))
	drive.Eval[bool](p, `(document.getElementById("desk").dispatchEvent(new KeyboardEvent("keydown", { key: "2", code: "Digit2", altKey: true, bubbles: true, cancelable: true })), true)`)
	p.Wait(`document.querySelector('` + p.Slip("the tower") + `').getAttribute("aria-label") === "the tower, material"`)
	p.Settled()
	p.RightClick(p.Middle(p.Slip("the tower")))
	p.Wait(`!document.getElementById("menu").hidden`)
	p.Press(`#menu [data-do="be-of-kind"]:nth-last-child(1)`)
	p.Wait(`document.querySelector('` + p.Slip("the tower") + `').getAttribute("aria-label") === "the tower, unit"`)
	p.Settled()
	p.Keys(drive.Escape)

	// A click on a row shows what is of that kind alone, a second one all.
	x, y = row("object")
	p.Click(x, y)
	p.Wait(seenAlone + ` === "the clapper, the rim"`)
	p.Click(x, y)
	p.Wait(`!document.body.classList.contains("lensed")`)

	// The key is moved by its head, and folded.
	x, y = p.Middle("#key-on-paper .key-head")
	before := drive.Eval[string](p, `document.querySelector(".paper-key").dataset.box`)
	p.Drag(x, y, x-120, y-60)
	p.Wait(`document.querySelector(".paper-key").dataset.box !== ` + quoted(before))
	p.Settled()
	x, y = p.Middle("#key-on-paper .key-head")
	p.Click(x, y)
	p.Wait(`document.querySelector(".paper-key").dataset.folded === "true" && !document.querySelector("#key-on-paper .key-row")`)
	p.Settled()
	p.Ctrl("z")
	p.Wait(`document.querySelectorAll("#key-on-paper .key-row").length === 8`)
	p.Settled()

	// A tag, on two at once.
	p.Press(p.Slip("the rim"))
	x, y = p.Middle(p.Slip("the tower"))
	p.CtrlClick(x, y)
	p.Wait(`document.querySelector("#tag-new") && document.querySelector(".margin-body").dataset.chosenKind === "several"`)
	p.Press("#tag-new")
	p.Keys("old", drive.Enter)
	p.Wait(`document.querySelectorAll('#slips .badge[data-mark="tag"]').length === 2`)
	p.Settled()

	// A filter: what is an object or tagged, but not the clapper by its words.
	p.Keys(drive.Escape)
	open(p, "filters")
	p.Press(`[data-do="filter-edit"]`)
	set := func(field, value string) {
		drive.Eval[bool](p, `(() => { const el = document.querySelector('#filter `+field+`'); el.value = `+value+`; el.dispatchEvent(new Event("input", { bubbles: true })); return true })()`)
	}
	object := `[...document.querySelectorAll("#filter .filter-rows li:first-child .value option")].find(o => o.textContent === "object").value`
	set(".filter-rows li:first-child .value > *", object)
	p.Wait(seenAlone + ` === "the clapper, the rim"`)
	p.Press(`[data-do="filter-row"]`)
	p.Wait(seenAlone + ` === "the rim"`)
	set(".match", `"any"`)
	p.Wait(seenAlone + ` === "the clapper, the rim, the tower"`)
	set(".rest", `"hide"`)
	p.Wait(`getComputedStyle(document.querySelector('` + p.Slip("iron") + `')).visibility === "hidden"`)
	p.Press("#filter .filter-name")
	p.Keys("what stands", drive.Enter)
	p.Wait(`!document.getElementById("filter").open`)
	p.Settled()
	p.Press(`[data-do="lens-close"]`)
	p.Wait(`!document.body.classList.contains("hiding")`)
	open(p, "filters")
	p.Press(`[data-do="lens"][data-query^="filter="]`)
	p.Wait(seenAlone + ` === "the clapper, the rim, the tower"`)
	assert.Contains(t, drive.Eval[string](p, `document.getElementById("lens").innerText`), "what stands")
	p.Press(`[data-do="lens-close"]`)
	sameAfterReload(t, p)
	assert.Equal(t, 9, drive.Eval[int](p, `document.querySelectorAll("#key-on-paper .key-row").length`), "the tag has come to it")
	assert.Empty(t, p.Faults())
}

// An outline around concepts: titled, moved by its tab with all that is inside,
// tucked to one box and moved as that, and brought back.
func TestARegionIsTuckedAwayAndMoved(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "How do we hear?", "outline", "hearing\n  begins at: the ear\n    has: the drum\n    has: the bones\n  needs: a sound")
	p.Wait(`seen.slips() === 5`)
	p.Press(`[data-do="fit"]`)
	p.Press(p.Slip("the ear"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	p.Press(`.margin [data-steps*="add-region"][data-steps*="branches"]`)
	p.Wait(`document.querySelector("#regions .region")?.dataset.inside.split(" ").length === 3`)
	p.Settled()

	// A double click on the tab leads to where its title is written.
	x, y := p.Middle("#regions .tab .cut")
	p.DoubleClick(x-8, y)
	p.Wait(`document.activeElement?.id.startsWith("region-")`)
	p.Keys("Inside the ear", drive.Enter)
	p.Wait(`document.querySelector("#regions .tab text")?.textContent === "Inside the ear"`)
	p.Settled()

	// The tab takes all along.
	at := func(words string) (x, y float64) {
		box := drive.Eval[[]float64](p, `(() => { const b = seen.concept(`+quoted(words)+`).box; return [b.x, b.y] })()`)
		return box[0], box[1]
	}
	x0, y0 := at("the drum")
	sx, sy := at("a sound")
	x, y = p.Middle("#regions .tab .cut")
	p.Drag(x-8, y, x+72, y+40)
	p.Settled()
	k := drive.Eval[float64](p, "seen.scale()")
	x1, y1 := at("the drum")
	assert.InDelta(t, 80/k, x1-x0, 6/k, "the drum went along")
	assert.InDelta(t, 40/k, y1-y0, 6/k)
	nx, ny := at("a sound")
	assert.Equal(t, []float64{sx, sy}, []float64{nx, ny}, "what is outside stayed")

	// Tucked to one box, which is moved.
	p.Keys(drive.Escape)
	x, y = p.Middle("#regions .fold-touch")
	p.Click(x, y)
	p.Wait(`document.querySelector("#slips .gathered") && seen.slips() === 3 && !document.querySelector("#regions .region")`)
	assert.Equal(t, "Inside the ear, 3 tucked away", drive.Eval[string](p, `document.querySelector("#slips .gathered").getAttribute("aria-label")`))
	x, y = p.Middle("#slips .gathered .noun")
	p.Drag(x, y, x-60, y+50)
	p.Settled()
	x, y = p.Middle("#slips .gathered .tuck")
	p.Click(x, y)
	p.Wait(`seen.slips() === 5 && document.querySelector("#regions .region")`)
	x2, y2 := at("the drum")
	assert.InDelta(t, -60/k, x2-x1, 6/k)
	assert.InDelta(t, 50/k, y2-y1, 6/k)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// Pictures pasted, a tone played, marks opened; a hostile drawing does nothing, a
// file that is too large is refused, and nothing is lost.
func TestSourcesAreBroughtAndOpened(t *testing.T) {
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  is struck by: the clapper")
	p.Wait(`seen.slips() === 3`)
	paste := func(name, kind, content string) {
		drive.Eval[bool](p, `(async () => { const data = new DataTransfer(); data.items.add(new File([`+content+`], `+quoted(name)+`, { type: `+quoted(kind)+` }));
			document.getElementById("desk").dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true })); return true })()`)
	}
	picture := `await new Promise(done => { const c = document.createElement("canvas"); c.width = 300; c.height = 200; const g = c.getContext("2d"); g.fillStyle = "#0f8a72"; g.fillRect(0, 0, 300, 200); c.toBlob(done) })`
	p.Press(p.Slip("the rim"))
	paste("rim.png", "image/png", picture)
	p.Wait(`(() => { const i = document.querySelector('` + p.Slip("the rim") + ` image'); return i && i.getAttribute("width") === "160" && i.getAttribute("height") === "107" })()`)
	p.Settled()
	noOverlap(t, p)

	// Its size is set by its corner, in the middle of its slip.
	x, y := p.Middle(".side.reach")
	p.Drag(x, y, x+20, y+14)
	p.Wait(`document.querySelector('` + p.Slip("the rim") + ` image').getAttribute("width") === "200"`)
	p.Settled()
	noOverlap(t, p)
	p.Ctrl("z")
	p.Wait(`document.querySelector('` + p.Slip("the rim") + ` image').getAttribute("width") === "160"`)
	p.Settled()

	// By keys, too: Space opens what is attached.
	drive.Eval[bool](p, `(document.getElementById("desk").focus(), true)`)
	p.Keys(" ")
	p.Wait(`document.querySelector("#viewer[open] img")?.naturalWidth === 300`)
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("viewer").open`)

	// It is described, and opened large; Escape leads back to where one was.
	p.Wait(`document.querySelector('.margin [data-do="open-source"][data-kind="picture"]')`)
	more(p)
	drive.Eval[bool](p, `(document.querySelector('.source-item .key-more').open = true)`)
	write(p, `.source-item textarea`, "a green rim")
	p.Wait(`document.querySelector('` + p.Slip("the rim") + ` image title').textContent === "a green rim"`)
	p.Settled()
	p.Press(`.margin [data-do="open-source"]`)
	p.Wait(`document.querySelector("#viewer[open] img")?.naturalWidth === 300 && document.querySelector("#viewer img").alt === "a green rim"`)
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("viewer").open && seen.chosen() === ` + quoted("c-"+drive.Eval[string](p, `seen.concept("the rim").id`)))

	// An icon, sought by how its word begins; each concept keeps those that it has.
	p.Press(p.Slip("the clapper"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen() && document.querySelector('.margin [data-do="icons"]')`)
	p.Press(`.margin [data-do="icons"]`)
	p.Wait(`document.querySelectorAll("#icons[open] .icon-choice").length > 60`)
	p.Keys("zz")
	p.Wait(`document.getElementById("icon-groups").innerText.includes("No icon has such a word")`)
	p.Keys("\b\bhamm", drive.Enter)
	p.Wait(`(n => n > 0 && n < 5)(document.querySelectorAll("#icons[open] .icon-choice").length)`)
	p.Press(`#icons [data-icon="hammer"]`)
	p.Wait(`!document.getElementById("icons").open && document.querySelector('.margin [aria-label="Take the icon hammer off"]')`)
	p.Settled()

	// A tone from the shelf, played in place by its mark.
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen() && document.querySelector('[data-do="shelf"]')`)
	p.Press(`.margin [data-do="shelf"]`)
	p.Wait(`document.querySelectorAll("#shelf .shelf-item").length > 8`)
	p.Keys("hum")
	p.Wait(`document.querySelectorAll("#shelf .shelf-item").length === 1 && !document.querySelector("#shelf .htmx-request")`)
	p.Press(`#shelf [data-do="shelf-take"]`)
	p.Wait(`document.querySelector('` + p.Slip("the clapper") + ` [data-mark="sound"]')`)
	p.Settled()
	x, y = p.Middle(p.Slip("the clapper") + ` [data-mark="sound"] .touch`)
	p.Click(x, y)
	p.Wait(`document.querySelector("#viewer[open] audio")?.readyState >= 1`)
	assert.InDelta(t, 2.4, drive.Eval[float64](p, `document.querySelector("#viewer audio").duration`), 0.1)
	drive.Eval[bool](p, `document.querySelector("#viewer audio").play().then(() => true)`)
	p.Wait(`document.querySelector("#viewer audio").currentTime > 0.05`)
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("viewer").open`)

	// A file brought before is taken again from the list.
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen() && document.querySelector('.margin [data-do="used-before"]')`)
	p.Press(`.margin [data-do="used-before"]`)
	p.Wait(`[...document.querySelectorAll("#again[open] .place")].some(b => b.innerText.includes("picture, "))`)
	p.Press(`#again [data-kept*='"kind":"picture"']`)
	p.Wait(`!document.getElementById("again").open && document.querySelector('` + p.Slip("the clapper") + ` [data-mark="picture"], ` + p.Slip("the clapper") + ` .picture')`)
	p.Settled()

	// A drawing that wants to run something is a picture and no more.
	paste("evil.svg", "image/svg+xml", `'<svg xmlns="http://www.w3.org/2000/svg" width="50" height="50" onload="parent.ran=1"><script>parent.ran = 1; window.ran = 1</script><rect width="50" height="50"/></svg>'`)
	p.Wait(`document.querySelector('` + p.Slip("the clapper") + ` [data-mark="picture"] title')?.textContent.includes("evil.svg")`)
	p.Settled()
	own := drive.Eval[string](p, `document.querySelector('`+p.Slip("the clapper")+` image').getAttribute("href").replace("/small", "")`)
	assert.False(t, drive.Eval[bool](p, `!!window.ran`))

	// Too large: refused in words, and all stands as it did.
	p.Settled()
	before := drawing(p)
	paste("film.mp4", "video/mp4", `new Uint8Array(26 << 20)`)
	p.Wait(`[...document.querySelectorAll(".notice.fault")].some(n => n.textContent.includes("film.mp4") && n.textContent.includes("25 MB"))`)
	assert.Equal(t, before, drawing(p))

	// An address with its scheme twice is mended; a dead form is refused.
	p.Press("#source")
	p.Keys("https://http://hollin.example/bells", drive.Enter)
	p.Wait(`document.querySelector('.source[data-url="http://hollin.example/bells"]')`)
	p.Settled()
	p.Press("#source")
	p.Keys("javascript:alert(1)", drive.Enter)
	p.Wait(`[...document.querySelectorAll(".notice.fault")].some(n => n.textContent.includes("no web address"))`)
	p.Press(`.source[data-kind="web"]`)
	p.Wait(`document.querySelector("#viewer[open] a")?.href === "http://hollin.example/bells"`)
	p.Keys(drive.Escape)
	sameAfterReload(t, p)

	// The picture that leaves the page has the pictures in it.
	assert.Contains(t, drive.Eval[string](p, `fetch(location.pathname + "/drawing").then(r => r.text())`), `href="data:image/png;base64,`)
	p.Goto(app.URL + own)
	assert.False(t, drive.Eval[bool](p, `!!window.ran`), "opened by itself it runs nothing either")
	assert.Empty(t, p.Faults("422", "sandbox", "Content Security Policy"))
}

// A map with all that carries meaning goes out as a document and comes back the
// same.
func TestADocumentKeepsAllMeaning(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	app := drive.Start(t, binary, "demo", dir)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	raw := drive.Eval[string](p, `fetch("/maps/bell-sound/document").then(r => r.text())`)
	for _, part := range []string{`"kinds"`, `"tags"`, `"regions"`, `"filters"`, `"icons"`, `"amount"`, `"table"`, `"cite"`, `"file"`, `"stroke"`} {
		assert.Contains(t, raw, part)
	}
	file := filepath.Join(dir, "map.json")
	require.NoError(t, os.WriteFile(file, []byte(raw), 0o600))
	again := drive.Eval[string](p, `(async () => { const form = new FormData(); form.append("file", new File([await (await fetch("/maps/bell-sound/document")).text()], "map.json"));
		const answer = await fetch("/upload", { method: "POST", body: form }); const id = answer.url.split("/maps/")[1]; return (await fetch("/maps/" + id + "/document")).text() })()`)
	strip := func(doc string) string {
		return drive.Eval[string](p, `(() => { const d = JSON.parse(`+quoted(doc)+`); delete d.id; return JSON.stringify(d) })()`)
	}
	assert.Equal(t, strip(raw), strip(again))
}

// A small table is made, edited in its place on the paper, and taken off again;
// cells pasted from elsewhere spread over it.
func TestATableIsEditedOnThePaper(t *testing.T) {
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  is cast from: bronze\n  is struck by: the clapper")
	p.Wait(`seen.slips() === 3`)
	p.Press(p.Slip("bronze"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	p.Press(`.margin [data-do="table"]`)
	p.Wait(`document.querySelectorAll("#table[open] .cell").length === 4`)
	p.Keys("metal", drive.Tab, "parts", drive.Tab, "copper", drive.Tab, "4", drive.Enter, "1")
	p.Shift(drive.Tab)
	p.Keys("tin")
	p.Press(`#table [data-do="table-done"]`)
	cells := `[...document.querySelectorAll('` + p.Slip("bronze") + ` .rows-grid text')].map(t => t.textContent).join(" ")`
	p.Wait(cells + ` === "metal parts copper 4 tin 1"`)
	p.Settled()
	noOverlap(t, p)

	// On the paper a double click opens it; a row goes, a column comes by pasting.
	x, y := p.Middle(p.Slip("bronze") + " .rows-grid .touch")
	p.DoubleClick(x, y)
	p.Wait(`document.querySelectorAll("#table[open] .cell").length === 6`)
	p.Press(`#table [data-row="1"][data-column="1"]`)
	drive.Eval[bool](p, `(() => { const d = new DataTransfer(); d.setData("text/plain", "4\tred\n1\tgrey"); document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData: d, bubbles: true, cancelable: true })); return true })()`)
	p.Wait(`document.querySelectorAll("#table .cell").length === 9`)
	p.Press(`#table [data-do="row-off"]`)
	p.Wait(`document.querySelectorAll("#table .cell").length === 6`)
	p.Press(`#table [data-do="table-done"]`)
	p.Wait(cells + ` === "metal parts tin 1 grey"`)
	p.Settled()
	sameAfterReload(t, p)
	p.Press(p.Slip("bronze"))
	more(p)
	p.Wait(`document.querySelector('.margin [data-do="table"]')?.dataset.table`)
	p.Press(`.margin [data-do="table"]`)
	p.Press(`#table [data-do="table-off"]`)
	p.Wait(`!document.querySelector("#slips .rows-grid")`)
	p.Settled()
	p.Ctrl("z")
	p.Wait(cells + ` === "metal parts tin 1 grey"`)
	assert.Empty(t, p.Faults())
}

// Ideas are offered with the reason why, from other maps and the word net; one is
// added when it is asked for, and offered no longer.
func TestIdeasAreOffered(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What rings?", "outline", "the clapper\n  is part of: a bell")
	p.Wait(`seen.slips() === 2`)
	p.Press(p.Slip("the clapper"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	open(p, "ideas")
	list := `[...document.querySelectorAll(".ideas .place")].map(b => b.innerText.replace(/\s+/g, " ").trim())`
	p.Wait(list + `.length > 3`)
	all := drive.Eval[[]string](p, list)
	assert.Contains(t, all, "is made of soft iron said on “The sound of a bell”")
	assert.Contains(t, all, "strikes rim from the small word net that comes with Mevrin")
	p.Wait(`seen.slips() === 2`)
	p.Press(`.ideas [data-steps*="strikes: rim"]`)
	p.Wait(`seen.slips() === 3 && !!seen.link("strikes")`)
	p.Settled()
	p.Wait(list + `.every(words => !words.startsWith("strikes rim"))`)
	noOverlap(t, p)
	assert.Empty(t, p.Faults())
}

// A sketch: a stroke drawn, a second one taken back, and the rest is the picture
// of a concept, with what was said of it.
func TestASketchBecomesAPicture(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim")
	p.Wait(`seen.slips() === 2`)
	p.Press(p.Slip("the rim"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	p.Press(`.margin [data-do="pad"]`)
	p.Wait(`document.querySelector("#pad[open] canvas")`)
	x, y := p.Middle("#pad canvas")
	p.Press(`#pad [data-do="pad-done"]`)
	p.Wait(`[...document.querySelectorAll(".notice")].some(n => n.textContent.includes("nothing on the pad"))`)
	p.Drag(x-100, y, x+100, y)
	p.Drag(x, y-80, x, y+80)
	p.Ctrl("z")
	p.Press("#pad .pad-says")
	p.Keys("a level line")
	p.Press(`#pad [data-do="pad-done"]`)
	p.Wait(`document.querySelector('` + p.Slip("the rim") + ` image title')?.textContent === "a level line"`)
	p.Settled()
	shape := drive.Eval[float64](p, `(i => i.getAttribute("width") / i.getAttribute("height"))(document.querySelector('`+p.Slip("the rim")+` image'))`)
	assert.Greater(t, shape, 6.0, "the upright stroke was taken back")
	assert.Empty(t, p.Faults())
}

// Sources gathered in the tray are placed by dragging; works come in as a list and
// go out again; a passage pasted from a page becomes a note that keeps its address.
func TestSourcesAreGatheredFirst(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim")
	p.Wait(`seen.slips() === 2`)
	open(p, "tray")
	p.Press("#tray-add")
	drive.Eval[bool](p, `(document.getElementById("tray-add").value = "https://hollin.example/rim\nwww.hollin.example/bells", true)`)
	p.Press(`[data-do="tray-add"]`)
	p.Wait(`[...document.querySelectorAll(".tray-item")].map(b => b.dataset.url).join(" ") === "https://hollin.example/rim https://www.hollin.example/bells"`)
	p.Settled()
	drive.Eval[bool](p, `(document.querySelector(".tray-item").scrollIntoView({ block: "center" }), true)`)
	x, y := p.Middle(".tray-item")
	tx, ty := p.Middle(p.Slip("the rim"))
	p.Drag(x, y, tx, ty)
	p.Wait(`document.querySelector('` + p.Slip("the rim") + ` [data-mark="web"]') && document.querySelectorAll(".tray-item").length === 1`)
	p.Settled()

	// Without a selection works go into the tray.
	p.Press(p.Slip("the bell"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	p.Press(`.margin [data-do="cite"]`)
	p.Wait(`document.querySelector("#citing[open] form")`)
	drive.Eval[bool](p, `(document.querySelector("#citing details").open = true, document.querySelector("#citing textarea").value = "@book{a, author={Hollin, Berta}, title={Bells}, year=1902} @book{b, title={Casting}}", true)`)
	p.Press("#citing .button.main")
	p.Wait(`document.querySelector('` + p.Slip("the bell") + ` [data-mark="cite"]')?.textContent.includes("2")`)
	p.Settled()
	assert.Contains(t, drive.Eval[string](p, `fetch(location.pathname + "/citations/bib").then(r => r.text())`), "author = {Berta Hollin}")
	assert.Contains(t, drive.Eval[string](p, `fetch(location.pathname + "/citations/csl").then(r => r.text())`), `"title": "Casting"`)

	// A passage.
	clip(p, "paste", "The rim is thick.\nIt is struck there.\nhttps://hollin.example/page")
	p.Wait(`document.querySelector('#pasted[open] [data-do="paste-note"]')`)
	p.Press(`[data-do="paste-note"]`)
	p.Wait(`document.querySelector(".note-read blockquote")?.textContent.includes("It is struck there.")`)
	p.Settled()
	p.Wait(`document.querySelector('.source[data-url="https://hollin.example/page"]')`)

	// What is short is linked from it, and it is said; what is copied from a page into its
	// note keeps its links, and where one points at the note, it is read without signs.
	p.Press(p.Slip("the bell"))
	clip(p, "paste", "is rung by: the ringer")
	p.Wait(`[...document.querySelectorAll(".notice")].some((n) => n.textContent.includes("is linked below “the bell”"))`)
	p.Settled()
	assert.Contains(t, says(p), "the bell is rung by the ringer")
	p.Press(p.Slip("the ringer"))
	open(p, "about-note")
	p.Press("#note")
	drive.Eval[bool](p, `(() => { const data = new DataTransfer(); data.setData("text/html", '<p>He pulls the <a href="https://hollin.example/rope">rope</a>.</p>'); data.setData("text/plain", "He pulls the rope."); document.getElementById("note").dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true })); return true })()`)
	p.Wait(`document.getElementById("note").value === "He pulls the [rope](<https://hollin.example/rope>)."`)
	p.Wait(`document.querySelector('` + p.Slip("the ringer") + ` [data-mark="note"] title')?.textContent.includes("He pulls the rope.")`)
	assert.Empty(t, p.Faults())
}

// On a walk what is attached is opened in place, and closing leads back to the
// same stop.
func TestAWalkOpensWhatIsAttached(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	drive.Eval[bool](p, `seen.elsewhere([{ do: "add-route", id: "tones", title: "Tones" }, { do: "add-stop", id: "t1", route: "tones", refs: [{ kind: "concept", id: "bell" }] }, { do: "add-stop", id: "t2", route: "tones", after: "t1", refs: [{ kind: "concept", id: "hum" }] }])`)
	p.Settled()
	p.Goto(app.URL + "/maps/bell-sound/walk/tones")
	p.Press(".card:not([hidden]) .card-pictures .source")
	p.Wait(`document.querySelector("#viewer[open] img")?.naturalWidth > 0`)
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("viewer").open`)
	p.Press("#next")
	p.Wait(`document.getElementById("count").textContent === "2 of 2"`)
	// The paper glides: the mark is pressed wherever it is.
	drive.Eval[bool](p, `document.querySelector('[id="c-hum"] [data-mark="sound"] .touch').dispatchEvent(new MouseEvent("click", { bubbles: true }))`)
	p.Wait(`(a => a.checkVisibility() && a.readyState >= 1 && !a.paused)(document.querySelector(".card:not([hidden]) audio"))`)

	// Where its author lets one, one looks around the whole map and comes back to the stop.
	assert.False(t, drive.Eval[bool](p, `!!document.getElementById("around") || !!document.getElementById("c-clapper")`))
	p.Goto(app.URL + "/maps/bell-sound")
	drive.Eval[bool](p, `seen.elsewhere([{ do: "plan-route", route: "tones", around: true }])`)
	p.Goto(app.URL + "/maps/bell-sound/walk/tones")
	p.Wait(`seen.arrived()`)
	clapper := `document.getElementById("c-clapper").getBoundingClientRect().width > 0`
	assert.False(t, drive.Eval[bool](p, clapper))
	p.Keys("w")
	p.Wait(clapper + ` && seen.arrived() && document.getElementById("around").innerText.includes("Back to the stop")`)
	drive.Eval[bool](p, `document.querySelector('[id="c-bow"] [data-mark="picture"] .touch').dispatchEvent(new MouseEvent("click", { bubbles: true }))`)
	p.Wait(`document.querySelector("#viewer[open] img")?.naturalWidth > 0`)
	p.Keys(drive.Escape)
	p.Wait(`!document.getElementById("viewer").open`)
	p.Keys(drive.Escape)
	p.Wait(`!(` + clapper + `) && document.getElementById("count").textContent.startsWith("2 of 2") && location.pathname.endsWith("/tones")`)
	assert.Empty(t, p.Faults())
}

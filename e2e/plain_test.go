package e2e_test

import (
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// aloud stands in for the browser's voice, which a browser without a screen
// lacks: what it is given to say is kept, and each sentence ends at once.
const aloud = `window.spoken = []; window.marked = [];
	Object.defineProperty(window, "speechSynthesis", { value: {
		speak(u) { spoken.push(u.text); marked.push([...document.querySelectorAll(".being-read")].map(e => e.id).join(" ")); if (!window.holding) setTimeout(() => u.onend(), 0); },
		cancel() {},
	} }), true`

// A child makes a map with the plain hand, under a link, by touch; nothing can
// be lost; the teacher finds an ordinary map.
func TestThePlainHand(t *testing.T) {
	app := drive.Start(t, binary, "serve", t.TempDir())
	teacher := browser.Page(t, 1280, 800)
	newMap(teacher, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim")
	teacher.Wait(`seen.slips() === 2`)
	address := drive.Eval[string](teacher, "document.body.dataset.base")
	open(teacher, "hand")
	teacher.Press(`[data-do="hand-link"]`)
	teacher.Wait(`document.querySelector("#hand-links .address")?.value.startsWith(location.origin)`)
	link := drive.Eval[string](teacher, `document.querySelector("#hand-links .address").value`)

	p := browser.Page(t, 1280, 800)
	p.Tablet(1024, 768)
	p.Goto(link)
	assert.NotContains(t, drive.Eval[string](p, `document.documentElement.outerHTML.replace(/data-map="[^"]*"/, "")`), address, "the link's bearer is told of no other address")
	shown := drive.Eval[[]string](p, `[...document.querySelectorAll("button, a, input, select, textarea")].filter(e => e.checkVisibility() && e.getBoundingClientRect().width > 0).map(e => e.innerText.trim())`)
	assert.Equal(t, []string{"See all", "Clear to me?", "Idea", "Line", "Words", "Colour", "Talk", "Read", "Back", "Again"}, shown, "a handful of controls")
	assert.GreaterOrEqual(t, drive.Eval[float64](p, `Math.min(...[...document.querySelectorAll(".plain-tools button")].map(b => Math.min(b.offsetWidth, b.offsetHeight)))`), 80.0)

	// An idea, a line to it, its words, its colour.
	tap := func(words string) { p.Tap(fmt.Sprintf(`.plain-tools button[data-do="%s"]`, words)) }
	tap("add")
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("a clapper", drive.Enter)
	p.Settled()
	tap("plain-link")
	p.Wait(`document.getElementById("picking").innerText.includes("a clapper")`)
	p.Tap(p.Slip("the bell"))
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("hits", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"a clapper hits the bell", "the bell has the rim"}, says(p))
	p.Keys(drive.Escape)
	p.Wait(`!seen.marked().length`)
	tap("plain-words")
	p.Tap(p.Slip("the rim"))
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the lip", drive.Enter)
	// The teacher wrote that: it stays, and the words typed are not lost.
	p.Wait(`document.querySelector(".notice.fault")?.textContent.includes("“the rim” was written by somebody else") && document.activeElement.value === "the lip"`)
	p.Keys(drive.Escape)
	p.Settled()
	p.Press(p.Slip("a clapper"))
	tap("plain-colour")
	p.Wait(`document.querySelectorAll(".plain-kind").length === 7`)
	p.Tap(`.plain-kind[data-name="living being"]`)
	p.Settled()
	p.Wait(`document.querySelector("#slips .slip.colour-leaf[data-outline=capsule]")?.getAttribute("aria-label") === "a clapper, living being"`)

	// Nothing is deleted, neither by keys nor by what is sent; back and again.
	p.Press(p.Slip("the bell"))
	p.Keys(drive.Delete)
	p.Wait(`[...document.querySelectorAll(".notice")].some(n => n.textContent.includes("Nothing is deleted here"))`)
	p.Ctrl("x")
	p.Ctrl("m")
	assert.Len(t, labels(p), 3)
	tap("undo")
	p.Settled()
	p.Wait(`!document.querySelector("#slips .slip.colour-leaf")`)
	tap("redo")
	p.Wait(`document.querySelector("#slips .slip.colour-leaf")`)
	p.Settled()

	// Read aloud: what is selected, then all of it, marked as it is read.
	drive.Eval[bool](p, aloud)
	p.Press(p.Slip("a clapper"))
	tap("read-aloud")
	p.Wait(`spoken.length === 1 && !document.querySelector('[data-do="read-aloud"][aria-pressed="true"]')`)
	assert.Equal(t, []string{"a clapper hits the bell."}, drive.Eval[[]string](p, "spoken"))
	assert.Len(t, strings.Fields(drive.Eval[string](p, "marked[0]")), 3)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".being-read").length`))
	p.Keys(drive.Escape)
	drive.Eval[bool](p, "(window.spoken = [], window.holding = true)")
	tap("read-aloud")
	p.Wait(`document.querySelector('[data-do="read-aloud"]').getAttribute("aria-pressed") === "true"`)
	drive.Eval[bool](p, "(window.holding = false, true)")
	tap("read-aloud") // again: it falls silent
	p.Wait(`!document.querySelector('[data-do="read-aloud"][aria-pressed="true"]') && spoken.length === 1`)
	assert.Empty(t, p.Faults("422"))

	// Two under one link: nobody takes back what the other did.
	second := bearer(t, link)
	require.Equal(t, http.StatusOK, send(t, second, link, "second", `[{"do":"add-concept","id":"x","label":"a rope","at":{"x":0,"y":400}}]`))
	p.Wait(`!!document.getElementById("c-x")`)
	tap("undo")
	p.Wait(`!document.querySelector("#slips .slip.colour-leaf")`)
	assert.Contains(t, labels(p), "a rope")
	for ops, status := range map[string]int{
		`[{"do":"remove","concepts":["x"]}]`: http.StatusUnprocessableEntity, `[{"do":"set-hand","hand":""}]`: http.StatusUnprocessableEntity,
		`[{"do":"name-concept","concept":"x","label":"a long rope"}]`: http.StatusOK,
	} {
		assert.Equal(t, status, send(t, second, link, fmt.Sprintf("g%d", len(ops)), ops), ops)
	}

	// The teacher has it as any other map; then the link is closed.
	teacher.Wait(`!!seen.concept("a long rope")`)
	assert.Equal(t, drawing(p), drawing(teacher))
	teacher.Press(`#hand-links [data-do="close-hand-link"]`)
	teacher.Wait(`!document.querySelector("#hand-links .address")`)
	assert.Equal(t, http.StatusNotFound, send(t, second, link, "late", `[]`))
	open(teacher, "hand")
	teacher.Press(`[data-do="set-hand"]`)
	teacher.Settled()
	teacher.Goto(app.URL + address)
	teacher.Wait(`document.body.classList.contains("plain")`)
	teacher.Press(`a[href$="hand=full"]`)
	teacher.Wait(`window.mevrin && !document.body.classList.contains("plain")`)
	assert.Empty(t, teacher.Faults())
}

// bearer is somebody who opened the page of a link.
func bearer(t *testing.T, base string) *http.Client {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := &http.Client{Jar: jar}
	response, err := client.Get(base)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	return client
}

// send posts operations to the page of a link and gives the status.
func send(t *testing.T, who *http.Client, base, id, ops string) int {
	body := fmt.Sprintf(`{"id":%q,"window":"elsewhere","seen":0,"operations":%s}`, id, ops)
	response, err := who.Post(base+"/entries", "application/json", strings.NewReader(body))
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	return response.StatusCode
}

// A key is made, its kinds named and restyled in one place; the lines meet the
// outlines that they are drawn with.
func TestAKeyIsMadeAndRestyled(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: a rim that is thick\n  hangs in: the tower\n  is of: bronze\n  sounds: a tone\n  is cast in: a pit")
	p.Wait(`seen.slips() === 6`)
	open(p, "key")
	p.Press(`[data-do="begin-key"]`)
	p.Wait(`document.querySelectorAll(".key-list [data-do='give-kind']").length === 6`)
	give := func(words, kind string) {
		p.Press(p.Slip(words))
		p.Wait(fmt.Sprintf(`document.querySelector(".margin-body").dataset.chosen === seen.chosen() && document.querySelector('.key-list [aria-label*="“%s”"]')`, kind))
		open(p, "key")
		p.Press(fmt.Sprintf(`.key-list [aria-label*="“%s”"]`, kind))
		p.Settled()
	}
	for words, kind := range map[string]string{"a rim that is thick": "thing", "the tower": "place", "bronze": "living being", "a tone": "what happens", "a pit": "time", "the bell": "how it is"} {
		give(words, kind)
	}
	p.Wait(`document.querySelectorAll('#slips .slip[class*="colour-"]').length === 6`)
	// Each line's tip or knot lies on the very outline that is drawn.
	far := drive.Eval[[]float64](p, `seen.links().map(l => {
		const slip = seen.at("c-" + l.to[0].concept), body = slip.el.querySelector(".body");
		const [x, y] = l.el.querySelector(".dart").getAttribute("d").slice(1).split(/[ L]/).map(Number);
		let least = 1e9;
		for (let i = 0; i < 2000; i++) { const q = body.getPointAtLength(body.getTotalLength() * i / 2000); least = Math.min(least, Math.hypot(q.x - x, q.y - y)); }
		return least;
	})`)
	assert.Len(t, far, 5)
	for _, d := range far {
		assert.Less(t, d, 1.5)
	}
	noOverlap(t, p)

	// One kind, restyled, taken out, and back.
	kind := drive.Eval[string](p, `[...document.querySelectorAll(".key-item input")].find(i => i.value === "place").dataset.id`)
	open(p, "kind-"+kind)
	p.Press(`[data-fold="kind-` + kind + `"] .hue-rose`)
	p.Wait(`document.querySelector("#slips .slip.colour-rose")?.getAttribute("aria-label") === "the tower, place"`)
	p.Settled()
	p.Press(`[data-fold="kind-` + kind + `"] [data-steps*="remove-kind"]`)
	p.Wait(`!document.querySelector("#slips .slip.colour-rose")`)
	p.Settled()
	p.Ctrl("z")
	p.Wait(`document.querySelector("#slips .slip.colour-rose")`)
	p.Settled()
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// The way to a concept reads as one long sentence, and is read aloud; so is a
// stop of a walk.
func TestReadingAloud(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-do="fit"]`)
	drive.Eval[bool](p, aloud)
	p.Press(p.Slip("the hum tone"))
	p.Wait(`document.querySelector(".margin-body").dataset.chosen === seen.chosen()`)
	more(p)
	p.Press(`[data-do="read-way"]`)
	p.Wait(`spoken.length === 1 && !document.querySelector('[data-do="read-aloud"][aria-pressed="true"]')`)
	assert.Equal(t, "the sound of a bell is made by vibration of the metal is made up of partial tones such as the hum tone", drive.Eval[string](p, "spoken[0]"))
	assert.Len(t, strings.Fields(drive.Eval[string](p, "marked[0]")), 7)

	p.Goto(app.URL + "/maps/bell-sound/walk/cause")
	drive.Eval[bool](p, aloud)
	drive.Eval[bool](p, "(window.holding = true)")
	p.Press("#aloud")
	p.Wait(`document.getElementById("aloud").getAttribute("aria-pressed") === "true"`)
	assert.Equal(t, drive.Eval[string](p, `document.querySelector(".card:not([hidden]) h2").lastChild.textContent`), drive.Eval[string](p, "spoken[0]"))
	p.Press("#next") // another stop is another matter
	p.Wait(`document.getElementById("aloud").getAttribute("aria-pressed") === "false"`)
	drive.Eval[bool](p, "(window.holding = false, window.spoken = [], true)")
	p.Keys("r")
	p.Wait(`spoken.length > 2 && !walk.aloud.reading`)
	links := drive.Eval[[]string](p, `document.querySelector(".card:not([hidden])").dataset.new.split(" ").filter(e => e.startsWith("l-")).map(e => document.getElementById(e).getAttribute("aria-label"))`)
	assert.NotEmpty(t, links)
	assert.Subset(t, drive.Eval[[]string](p, "spoken"), links)
	assert.Empty(t, p.Faults())
}

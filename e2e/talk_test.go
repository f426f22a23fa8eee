package e2e_test

import (
	"fmt"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// comments gives what a panel or margin shows of comments, as they are read.
const comments = `[...document.querySelectorAll(".talk .comment")].map(c => c.querySelector(".comment-by b").textContent + ": " + c.querySelector(".comment-said").textContent).join(" | ")`

// A learner under a link votes and comments; the author answers, hears of it at
// once, settles it, and passes the map on without what was said. Nobody changes the
// words of another, and no words become anything but words.
func TestPeopleTalkAboutAMap(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	author := browser.Page(t, 1280, 800)
	newMap(author, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim")
	author.Wait(`seen.slips() === 2`)
	open(author, "hand")
	author.Press(`[data-do="hand-link"]`)
	author.Wait(`document.querySelector("#hand-links .address")?.value.startsWith(location.origin)`)
	link := drive.Eval[string](author, `document.querySelector("#hand-links .address").value`)
	address := drive.Eval[string](author, "document.body.dataset.base")

	p := browser.Page(t, 1280, 800)
	p.Goto(link)
	p.Press(p.Slip("the rim"))
	p.Press(`.plain-tools [data-do="plain-talk"]`)
	p.Wait(`document.querySelector("#talk .vote")`)
	p.Press(`#talk .vote:first-child`)
	p.Wait(`document.querySelector('#talk .vote[aria-pressed="true"]')?.innerText.includes("1")`)
	p.Press(`#talk .vote:last-child`) // a second thought
	p.Wait(`document.querySelector('#talk .vote[aria-pressed="true"]')?.innerText.startsWith("I do not")`)
	p.Press("#talk .comment-words")
	p.Keys(`Which rim? <img src=x onerror="document.title='hit'">`)
	p.Press("#talk .comment-name")
	p.Keys("Jory")
	p.Press(`#talk .comment-foot [data-do="comment"]`)
	const said = `Jory: Which rim? <img src=x onerror="document.title='hit'">`
	p.Wait(comments + ` === ` + quoted(said))
	p.Settled()

	// The author sees it on the slip, and answers in the margin.
	author.Wait(`document.querySelector('` + author.Slip("the rim") + ` .talk title')?.textContent === "1 comment, 1 visitor disagrees"`)
	x, y := author.Middle(author.Slip("the rim") + " .talk")
	author.Click(x, y)
	author.Wait(`document.querySelector('.this [data-fold="talk"]')?.open && ` + comments + ` === ` + quoted(said))
	assert.Zero(t, drive.Eval[int](author, `document.querySelectorAll(".talk img").length`))
	assert.Zero(t, drive.Eval[int](author, `document.querySelectorAll('.talk .change').length`), "only whoever wrote it can change it")
	drive.Eval[bool](author, `(document.querySelector('.this .answer').open = true)`)
	author.Press(".this .answer textarea")
	author.Keys("The lower one.")
	author.Ctrl("\r")
	author.Wait(comments + `.endsWith(" | You: The lower one.")`)
	author.Settled()
	p.Wait(comments + `.endsWith(" | Somebody: The lower one.")`)

	// Words are changed by whoever wrote them; a draft outlives what comes meanwhile.
	author.Press(".this .comment-new .comment-words")
	author.Keys("half a th")
	p.Press(`#talk .change summary`)
	p.Press(`#talk .change textarea`)
	p.Ctrl("a")
	p.Keys("Which of ")
	require.Equal(t, http.StatusOK, send(t, bearer(t, link), link, "aside", `[{"do":"vote","concept":"`+drive.Eval[string](p, "seen.chosen().slice(2)")+`","for":true}]`))
	p.Wait(`document.querySelector("#talk .vote").innerText.includes("1")`)
	p.Keys("the rims?") // what comes meanwhile takes no words away
	p.Press(`#talk [data-changes]`)
	author.Wait(comments + `.startsWith("Jory: Which of the rims?")`)
	assert.Equal(t, "half a th", drive.Eval[string](author, `document.querySelector(".this .comment-new .comment-words").value`))
	author.Keys("ought")
	assert.Equal(t, "half a thought", drive.Eval[string](author, `document.querySelector(".this .comment-new .comment-words").value`))
	jory := drive.Eval[string](author, `document.querySelector(".this .thread").dataset.comment`)
	own := drive.Eval[string](author, `document.querySelector(".this .answers li").dataset.comment`)
	for ops, status := range map[string]int{
		`[{"do":"change-comment","comment":"` + own + `","words":"The upper one."}]`: http.StatusUnprocessableEntity,
		`[{"do":"change-comment","comment":"` + jory + `"}]`:                         http.StatusUnprocessableEntity, // another bearer of the link
		`[{"do":"settle-comment","comment":"` + jory + `","settled":true}]`:          http.StatusUnprocessableEntity,
		`[{"do":"add-comment","id":"late","answers":"` + jory + `","words":"Aha."}]`: http.StatusOK,
	} {
		assert.Equal(t, status, send(t, bearer(t, link), link, fmt.Sprintf("g%d", len(ops)), ops), ops)
	}
	author.Wait(comments + `.endsWith(" | Somebody: Aha.")`)

	// Settled, it counts no more; the list of all comments leads back to it.
	author.Press(`.this .thread-foot > .place`)
	author.Wait(`document.querySelector('` + author.Slip("the rim") + ` .talk title')?.textContent === "1 visitor agrees, 1 visitor disagrees"`)
	author.Settled()
	author.Press(author.Slip("the bell"))
	open(author, "talked")
	author.Press(`[data-do="show-talk"]`)
	author.Wait(`document.querySelector(".this-words").textContent === "the rim" && document.querySelector(".this .thread.settled")`)

	// The map alone, copies and pictures leave without it.
	get := func(path string) string {
		response, err := http.Get(app.URL + address + path)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return string(raw)
	}
	assert.Contains(t, get("/document"), "Which of the rims?")
	for _, path := range []string{"/document?talk=no", "/drawing", "/small.svg"} {
		whole := get(path)
		assert.NotContains(t, whole, "Which of the rims?", path)
		assert.NotContains(t, whole, "disagree", path)
		assert.NotContains(t, whole, `"votes"`, path)
	}

	// Taken back: first by whoever said it, then all of it by undo.
	p.Press(`#talk .thread.settled summary`)
	p.Press(`#talk [data-do="op"][aria-label="Take my comment back"]`)
	p.Wait(comments + `.startsWith("Jory: taken back")`)
	p.Settled()
	p.Press(`.plain-tools [data-do="undo"]`)
	p.Wait(comments + `.startsWith("Jory: Which of the rims?")`)
	sameAfterReload(t, author)
	assert.Empty(t, append(p.Faults(), author.Faults()...))
}

// cardOf gives where the note of an element lies: its box on the screen.
func cardOf(p *drive.Page, element string) []float64 {
	return drive.Eval[[]float64](p, `(r => [r.x, r.y, r.width, r.height])(document.querySelector('.note-card[data-on="`+element+`"]').getBoundingClientRect())`)
}

// Notes of a concept, a link and a region have their signs, open beside what they
// belong to where they cover nothing, are dragged and moved by keys, and coloured;
// that place is the map's.
func TestNotesLieOnThePaper(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  is struck by: the clapper")
	p.Wait(`seen.slips() === 3`)
	rim := drive.Eval[string](p, `seen.concept("the rim").id`)
	struck := drive.Eval[string](p, `seen.link("is struck by").id`)
	require.True(t, drive.Eval[bool](p, fmt.Sprintf(`seen.elsewhere([
		{do:"set-note", on:{kind:"concept",id:%[1]q}, note:"The **thick** edge, f = $v/lambda$."},
		{do:"set-note", on:{kind:"link",id:%[2]q}, note:"From *inside*."},
		{do:"add-region", id:"edge", title:"the edge", concepts:[%[1]q]}, {do:"set-note", on:{kind:"region",id:"edge"}, note:"What is struck."}])`, rim, struck)))
	p.Settled()
	p.Press(`[data-do="fit"]`)
	p.Wait(`document.querySelectorAll('.badge[data-mark="note"]').length === 3 && seen.still()`)
	for _, element := range []string{"c-" + rim, "l-" + struck, "r-edge"} {
		x, y := p.Middle(`[id="` + element + `"] .badge[data-mark="note"]`)
		p.Click(x, y)
		p.Wait(`document.querySelector('.note-card[data-on="` + element + `"] .prose')`)
		card := cardOf(p, element)
		for _, slip := range drive.Eval[[][]float64](p, `[...document.querySelectorAll("#slips > .slip, .link .gap")].map(e => { const r = e.getBoundingClientRect(); return [r.x, r.y, r.width, r.height] })`) {
			apart := card[0] >= slip[0]+slip[2] || slip[0] >= card[0]+card[2] || card[1] >= slip[1]+slip[3] || slip[1] >= card[1]+card[3]
			assert.True(t, apart, "%s: %v covers %v", element, card, slip)
		}
	}
	assert.Contains(t, drive.Eval[string](p, `document.querySelector('.note-card[data-on="c-`+rim+`"] .prose').innerHTML`), "<math>")

	// Dragged, it stays there: after reloading, for everyone, whatever is moved.
	head := `.note-card[data-on="c-` + rim + `"] .note-grip`
	before := cardOf(p, "c-"+rim)
	p.Drag(before[0]+30, before[1]+18, before[0]-60, before[1]+58)
	p.Settled()
	moved := cardOf(p, "c-"+rim)
	assert.InDeltaSlice(t, []float64{before[0] - 90, before[1] + 40}, moved[:2], 2)
	p.Press(head)
	p.Keys(drive.Right, drive.Right, drive.Down)
	p.Wait(`seen.saved() && document.querySelector('.note-card[data-on="c-` + rim + `"] [aria-label="Let it find a free place by itself"]')`)
	p.Until("the note was moved by keys", func() bool { c := cardOf(p, "c-"+rim); return c[0] > moved[0]+30 && c[1] > moved[1]+14 })
	p.Press(`.note-card[data-on="c-` + rim + `"] .hue-sea`)
	p.Wait(`document.querySelector('.note-card[data-on="c-` + rim + `"]').dataset.colour === "sea" && document.querySelector('#c-` + rim + ` .badge.colour-sea')`)
	p.Settled()
	off := drive.Eval[string](p, `document.querySelector('.note-card[data-on="c-`+rim+`"]').dataset.off`)
	p.Press(head)
	p.Keys(drive.Escape)
	p.Wait(`!document.querySelector('.note-card[data-on="c-` + rim + `"]') && document.activeElement === document.getElementById("desk")`)
	p.Reload()
	p.Press(p.Slip("the rim"))
	p.Keys(" ")
	p.Wait(`document.querySelector('.note-card[data-on="c-` + rim + `"] .prose')`)
	assert.Equal(t, off, drive.Eval[string](p, `document.querySelector('.note-card[data-on="c-`+rim+`"]').dataset.off`))
	at, slip := cardOf(p, "c-"+rim), boxOf(p, "the rim")
	p.Wheel(500, 300, 0, 120, false)
	p.Wait(`seen.still()`)
	after := cardOf(p, "c-"+rim)
	assert.InDelta(t, boxOf(p, "the rim")[1]-slip[1], 0, 1, "the paper was moved, not the slip")
	assert.Less(t, after[1], at[1]-50, "it follows the paper")

	// The margin opens and closes it, too.
	p.Press(`.note-card [data-do="note-close"]`)
	p.Wait(`!document.querySelector(".note-card")`)
	more(p)
	p.Press(`.margin [data-do="note-open"]`)
	p.Wait(`document.querySelector('.note-card[data-on="c-` + rim + `"] .prose')`)

	// By itself again; undone; closed by its own undoing.
	p.Press(`.note-card [aria-label="Let it find a free place by itself"]`)
	p.Wait(`document.querySelector('.note-card[data-on="c-` + rim + `"]').dataset.off === ""`)
	p.Settled()
	p.Ctrl("z")
	p.Wait(`document.querySelector('.note-card[data-on="c-` + rim + `"]').dataset.off === ` + quoted(off))
	require.True(t, drive.Eval[bool](p, fmt.Sprintf(`seen.elsewhere([{do:"set-note", on:{kind:"concept",id:%q}, note:""}])`, rim)))
	p.Wait(`!document.querySelector(".note-card")`)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults("404"))
}

// A task is written in the margin, seen on the slip, ticked off in the list of all,
// shown among others by a filter; a remark is read with its label.
func TestTasksAndRemarks(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  is struck by: the clapper")
	p.Wait(`seen.slips() === 3`)
	task := func(words, what, who, when, lasts string) {
		p.Press(p.Slip(words))
		p.Wait(fmt.Sprintf(`document.querySelector(".this-words")?.textContent === %q`, words))
		more(p)
		open(p, "about-task")
		for _, field := range [][2]string{{"#task-what", what}, {"#task-who", who}, {"#task-when", when}, {"#task-lasts", lasts}} {
			if field[1] != "" {
				p.Press(field[0])
				p.Keys(field[1], drive.Enter)
				p.Settled()
			}
		}
	}
	task("the rim", "measure it", "Mara", "2026-12-01 to 2026-12-04", "2 h")
	p.Keys(drive.Escape)
	task("the clapper", "", "Mara", "", "30 min")
	p.Wait(`document.querySelector('` + p.Slip("the rim") + `').getAttribute("aria-label") === "the rim, a task, measure it, Mara, 2026-12-01/2026-12-04, 2 h"`)
	p.Press("#task-when")
	p.Keys("soon", drive.Enter)
	p.Wait(`document.querySelector(".notice")?.textContent.includes("no time that can be read")`)
	p.Press("#remark")
	p.Keys("of iron <b>", drive.Enter)
	p.Wait(`document.querySelector('` + p.Slip("the clapper") + ` .remark')?.textContent === "of iron <b>"`)
	p.Settled()
	noOverlap(t, p)

	p.Keys(drive.Escape)
	open(p, "tasks")
	rows := `[...document.querySelectorAll(".tasks li")].map(li => li.innerText.replace(/\n+/g, " / ") + (li.classList.contains("done") ? " done" : "")).join(" | ")`
	p.Wait(rows + ` === "measure it on the rim / Mara, 2026-12-01/2026-12-04, 2 h | the clapper / Mara, 30 min"`)
	assert.Equal(t, "Mara 2 to do, 2 h 30 min", drive.Eval[string](p, `document.querySelector(".doers").innerText.replace(/\s+/g, " ")`))
	p.Press(".tasks .tick")
	p.Wait(rows + ` === "the clapper / Mara, 30 min | measure it on the rim / Mara, 2026-12-01/2026-12-04, 2 h done"`)
	p.Settled()
	p.Press(`[data-query="has=open-task"]`)
	p.Wait(seenAlone + ` === "the clapper"`)
	p.Press(`[data-do="lens-close"]`)

	// Numbered as steps in the order in which they were selected.
	p.Press(p.Slip("the clapper"))
	x, y := p.Middle(p.Slip("the rim"))
	p.CtrlClick(x, y)
	p.Wait(`document.querySelector('.margin-body[data-chosen-kind="several"]')`)
	open(p, "number")
	p.Press(`[data-steps*="number-steps"]`)
	p.Wait(`["the clapper, step 1, ", "the rim, step 2, "].every(says => [...document.querySelectorAll("#slips > .slip")].some(s => s.getAttribute("aria-label").startsWith(says)))`)
	assert.Equal(t, "1", drive.Eval[string](p, `document.querySelector('`+p.Slip("the clapper")+` .numeral').textContent`))
	p.Settled()

	// The outline reads the remark, too; sorted by time, what has a date comes first.
	p.Press("#column-switch")
	p.Wait(`document.querySelector("#column")?.innerText.includes("of iron <b>")`)
	p.Ctrl("z")
	p.Wait(`seen.saved()`)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults("422"))
}

// The cards of a route lie beside what they speak of, each where it covers nothing,
// follow what is written, and lead to their stops.
func TestCardsLieBesideConcepts(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`button[data-phase="guide"]`)
	p.Wait(`document.querySelector('#margin [data-do="cards"]')`)
	p.Press(`#margin [data-do="cards"]`)
	p.Wait(`document.querySelectorAll("#cards .small-card").length === document.querySelectorAll("#stops > li").length`)
	covered := drive.Eval[[]string](p, `(() => {
		const box = e => e.getBoundingClientRect(), meets = (a, b) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1;
		const cards = [...document.querySelectorAll("#cards .leaf")], all = [...document.querySelectorAll("#slips > .slip .body, .link .gap")];
		return [...cards.flatMap(c => all.filter(o => meets(box(c), box(o))).map(o => o.parentNode.id)), ...cards.flatMap((c, i) => cards.slice(i + 1).filter(o => meets(box(c), box(o))).map(() => "a card"))];
	})()`)
	assert.Empty(t, covered)

	p.Press(`[data-do="fit"]`)
	p.Wait(`seen.still()`)
	x, y := p.Middle(`#cards .small-card:nth-child(3) .leaf`)
	p.Click(x, y)
	p.Wait(`document.querySelector("#stops > li.open .grip")?.textContent === "3" && document.getElementById("stop-title")`)
	p.Press("#stop-title")
	p.Ctrl("a")
	p.Keys("Hands on the rope", drive.Enter)
	p.Wait(`document.querySelector("#cards .small-card:nth-child(3)")?.getAttribute("aria-label") === "Card 3, Hands on the rope"`)
	p.Settled()
	p.Press(`#margin [data-do="cards"]`)
	p.Wait(`!document.querySelector("#cards .small-card")`)
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// Two raters judge a map under links, neither seeing what the other said; the author finds where
// they disagree, and settles it.
func TestTwoBlindRatersAndTheAuthor(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	author := browser.Page(t, 1280, 800)
	newMap(author, app.URL, "What hangs in the tower?", "outline", "the bell\n  is cast of: bronze\n  hangs in: the tower\n    stands by: the church")
	author.Wait(`seen.slips() === 4`)
	address := drive.Eval[string](author, "document.body.dataset.base")
	author.Press(`[data-phase="check"]`)
	author.Wait(`document.querySelector('[data-do="raters"]')`)
	author.Press(`[data-do="raters"]`)
	author.Wait(`document.getElementById("raters").innerText.includes("Nobody has judged this map yet")`)
	author.Press(`[data-do="judge-link"]`)
	author.Wait(`document.querySelector("#judge-links .address")?.value.startsWith(location.origin + "/judge/")`)
	link := drive.Eval[string](author, `document.querySelector("#judge-links .address").value`)

	stands := func(p *drive.Page, words string) { p.Wait(sentence + ` === ` + quoted(words)) }
	begin := func(p *drive.Page, name string) {
		p.Goto(link)
		p.Press("#called")
		p.Keys(name, drive.Enter)
		stands(p, "the bell is cast of bronze")
	}
	first := browser.Page(t, 1280, 800)
	begin(first, "Mara")
	assert.NotContains(t, drive.Eval[string](first, `document.documentElement.outerHTML`), address, "a rater is told of no other address")
	assert.False(t, drive.Eval[bool](first, `!!document.querySelector(".round-deeds")`), "nothing can be altered")
	first.Keys("r") // nor by keys
	first.Keys("1")
	stands(first, "the bell hangs in the tower")
	first.Press("#round-reason")
	first.Keys("in a frame")
	first.Press(`[data-verdict="in-part"]`)
	stands(first, "the tower stands by the church")
	first.Keys("1")
	first.Wait(`document.querySelector(".round-sum")?.innerText.includes("3 judged")`)

	second := browser.Page(t, 390, 844)
	second.Tablet(390, 844)
	begin(second, "Jory")
	second.Wait(`document.documentElement.scrollWidth <= innerWidth`)
	assert.NotContains(t, drive.Eval[string](second, `document.body.innerText`), "Mara", "they judge blind")
	second.Tap(`[data-verdict="holds"]`)
	stands(second, "the bell hangs in the tower")
	second.Tap(`[data-verdict="does-not-hold"]`)
	stands(second, "the tower stands by the church")
	second.Tap(`[data-verdict="holds"]`)
	second.Wait(`document.querySelector(".round-sum")`)
	second.Tap(`#round-body .button`)
	second.Wait(`document.getElementById("welcome-title")?.innerText === "Welcome back" && document.getElementById("called").value === "Jory"`)
	second.Tap("#begin")
	stands(second, "the bell is cast of bronze")
	second.Tap(`[data-do="round-later"]`)
	stands(second, "the bell hangs in the tower")
	second.Tap(".round-more summary")
	second.Wait(`document.querySelector(".round-more").innerText.includes("Mara: holds in part – in a frame")`) // all are done
	second.Keys(drive.Escape)

	author.Keys(drive.Escape)
	author.Press(`[data-do="raters"]`)
	author.Wait(`document.querySelectorAll(".raters-table tbody tr").length === 3`)
	assert.Equal(t, []string{"the bell hangs in the tower", "the bell is cast of bronze", "the tower stands by the church"}, drive.Eval[[]string](author, `[...document.querySelectorAll(".raters-table tbody th")].map(e => e.innerText.trim())`), "what they disagree on comes first")
	assert.Equal(t, []string{"Mara 3", "Jory 3"}, drive.Eval[[]string](author, `[...document.querySelectorAll(".raters-table thead th")].slice(1, -1).map(e => e.innerText.trim())`))
	figures := drive.Eval[string](author, `document.querySelector(".raters-figures").innerText`)
	assert.Contains(t, figures, "67 %")
	assert.Contains(t, figures, "Cohen’s kappa")
	author.Press(`[data-do="settle-round"]`)
	stands(author, "the bell hangs in the tower")
	assert.Contains(t, drive.Eval[string](author, `document.querySelector(".round-heard").innerText`), "Mara: holds in part – in a frame")
	author.Press("#round-reason")
	author.Keys("the frame is in the tower")
	author.Press(`[data-verdict="holds"]`)
	author.Wait(`document.querySelector(".round-sum")?.innerText.includes("1 settled")`)
	author.Keys(drive.Escape)
	author.Press(`[data-do="raters"]`)
	author.Wait(`document.getElementById("raters").innerText.includes("nothing left on which raters disagree")`)
	assert.Contains(t, drive.Eval[string](author, `document.getElementById("raters").innerText`), "the frame is in the tower")
	author.Keys(drive.Escape)
	assert.Contains(t, says(author), "the bell hangs in the tower, judged to hold", "what was settled stands on the map")

	drive.Eval[bool](author, `(document.getElementById("raters").replaceChildren(), true)`) // what it held before is shown until it is fetched
	author.Press(`[data-do="raters"]`)
	author.Wait(`document.querySelector('[data-do="close-judge-link"]')`)
	author.Press(".raters-links > summary")
	author.Press(`[data-do="close-judge-link"]`)
	author.Wait(`!document.querySelector("#judge-links .address")`)
	second.Goto(link)
	second.Wait(`document.body.innerText.includes("leads nowhere")`)
	for _, p := range []*drive.Page{author, first} {
		assert.Empty(t, p.Faults())
	}
}

// A rubric is chosen, its weights changed, the whole graded; each point leads to what earned it.
func TestAMapIsScored(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/loudness")
	p.Press(`[data-phase="check"]`)
	p.Wait(`document.querySelector('.margin [data-do="score"]')`)
	p.Press(`.margin [data-do="score"]`)
	take := func(title string) {
		p.Wait(`[...document.querySelectorAll("#score [data-do=rubric-take]")].some(b => b.innerText === ` + quoted(title) + `)`)
		drive.Eval[bool](p, `([...document.querySelectorAll("#score [data-do=rubric-take]")].find(b => b.innerText === `+quoted(title)+`).click(), true)`)
	}
	take("By its structure")
	title := func(want string) { p.Wait(`document.getElementById("score-title")?.innerText === ` + quoted(want)) }
	title("By its structure: 36 points") // 11 sentences, 3 levels, a cross-link
	p.Press(`.score-weight[data-what="level"]`)
	p.Ctrl("a")
	p.Keys("2", drive.Tab)
	title("By its structure: 27 points")
	p.Press(`.score-parts > li:nth-child(3) .score-name`)
	p.Wait(`document.querySelector(".score-parts > li:nth-child(3) .place").checkVisibility()`)
	p.Press(`.score-parts > li:nth-child(3) .place`)
	p.Wait(`!document.getElementById("score").open && seen.marked().length === 1`)
	p.Ctrl("z")
	p.Settled()
	p.Press(`.margin [data-do="score"]`)
	title("By its structure: 36 points")
	take("By each sentence")
	title("By each sentence: 0 points")
	p.Press(`#score [data-do="round"]`)
	for _, key := range []string{"2", "0"} { // points by Shift: each goes on to the next sentence
		p.Wait(`!document.getElementById("score").open && document.activeElement.id === "round-sentence"`)
		sentence := drive.Eval[string](p, `document.querySelector(".round-one").dataset.key`)
		p.Shift(key)
		p.Wait(`document.querySelector(".round-one").dataset.key !== ` + quoted(sentence))
	}
	p.Keys("1")
	p.Wait(`document.getElementById("round-place").innerText.startsWith("4 ")`)
	p.Press(`[data-do="round-back"]`)
	p.Wait(`document.querySelector('[data-verdict="holds"]').getAttribute("aria-pressed") === "true"`)
	p.Press(`[data-do="round-back"]`)
	p.Wait(`document.querySelector('[data-worth="0"]').getAttribute("aria-pressed") === "true" && document.querySelector('[data-verdict="does-not-hold"]').getAttribute("aria-pressed") === "true"`)
	p.Keys(drive.Escape)
	p.Press(`.margin [data-do="score"]`)
	title("By each sentence: 5 points")
	take("As a whole")
	title("As a whole: 0 points")
	p.Press(`[name="grade-answer"][value="2"]`)
	title("As a whole: 2 points")
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".score-criterion").innerText`), "2 of 3")
	assert.Empty(t, p.Faults())
}

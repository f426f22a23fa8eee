package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// newMap begins a map by the list of maps, in one of the ways there are.
func newMap(p *drive.Page, url, question, way, lines string) {
	begin(p, url, question, way, lines, "free")
}

// begin begins a map on the page of the library, by a pattern that keeps it in order, or
// free.
func begin(p *drive.Page, url, question, way, lines, order string) {
	p.Goto(url)
	p.Press("#question")
	p.Keys(question)
	p.Press(`[name="begin"][value="` + way + `"]`)
	p.Press(`label:has([name="order"][value="` + order + `"])`)
	if lines != "" {
		p.Press("#lines")
		drive.Eval[bool](p, `(() => { document.getElementById("lines").value = `+quoted(lines)+`; return true })()`)
	}
	p.Press(".begin .button.main")
	p.Wait("!!window.mevrin")
}

// marginSays waits until the margin holds some words.
func marginSays(p *drive.Page, words string) {
	p.Wait(`document.getElementById("margin").innerText.includes(` + quoted(words) + `)`)
}

// pressFinding clicks a place or a remedy below a finding, once it is there.
func pressFinding(p *drive.Page, title, words string) {
	find := `[...([...document.querySelectorAll(".finding")].find(f => f.innerText.includes(` + quoted(title) + `))?.querySelectorAll("button, summary") ?? [])].find(b => b.innerText.includes(` + quoted(words) + `))`
	p.Wait(find + ` && seen.told()`)
	at := drive.Eval[[]float64](p, `(() => { const e = `+find+`; e.scrollIntoView({ block: "nearest" }); const r = e.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] })()`)
	p.Click(at[0], at[1])
}

// Each thing that the rules find is shown on the paper and mended from where it
// is told.
func TestFindingsAreShownAndMended(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "", "outline", "the bell\n  holds: the clapper\n  bronze\nClappers\n  swing on: a rope\nthe tower")
	p.Wait(`seen.slips() === 6`)
	p.Press(`[data-phase="check"]`)
	marginSays(p, "has no focus question")
	p.Wait(`document.getElementById("found").textContent === "5"`)
	p.Until("the number of findings is heard", func() bool { return p.Hears("button", "Check 5 to look at") })

	pressFinding(p, "no focus question", "Ask it now")
	p.Wait(`document.activeElement.matches(".question-field")`)
	p.Keys("What hangs in the tower?", drive.Enter)
	p.Settled()
	p.Wait(`!document.getElementById("margin").innerText.includes("no focus question")`)

	// A click shows the place.
	pressFinding(p, "not linked yet", "the tower")
	assert.Equal(t, "the tower", drive.Eval[string](p, `seen.at(seen.chosen()).words`))
	pressFinding(p, "not linked yet", "Link it to")
	p.Wait(`document.activeElement.id === "say-phrase"`)
	p.Keys("holds", drive.Tab, "the bell", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the tower holds the bell")

	pressFinding(p, "no words", "Give it words")
	p.Wait(`document.activeElement.matches(".field")`)
	p.Keys("is cast from", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell is cast from bronze")

	// Two spellings become one concept, which keeps the links of both; back in
	// one step.
	pressFinding(p, "stands there twice", "the clapper · Clappers")
	assert.Equal(t, 2, drive.Eval[int](p, `seen.marked().length`))
	pressFinding(p, "stands there twice", "Merge the two")
	p.Settled()
	p.Wait(`seen.slips() === 5`)
	assert.Contains(t, says(p), "the clapper swing on a rope")
	p.Press(".notice button")
	p.Settled()
	p.Wait(`seen.slips() === 6`)

	// One is left as it is, with the reason, and looked for again.
	drive.Eval[bool](p, `([...document.querySelectorAll(".finding")].find(f => f.innerText.includes("there twice")).querySelector(".leave").open = true)`)
	p.Press(`.leave[open] .leave-why`)
	p.Keys("two clappers, in truth")
	p.Press(`.leave[open] [data-do="dismiss"]`)
	p.Settled()
	marginSays(p, "Left as they are 1")
	assert.False(t, drive.Eval[bool](p, `[...document.querySelectorAll(".finding")].some(f => f.innerText.includes("there twice"))`))
	p.Press(`[data-fold="left"] > summary`)
	marginSays(p, "two clappers, in truth")
	p.Press(`[data-fold="left"] [data-do="op"]`)
	p.Settled()

	// A rule is switched off for this map, for good, and on again.
	pressFinding(p, "stands there twice", "What is counted")
	pressFinding(p, "stands there twice", "Do not look for this")
	p.Settled()
	marginSays(p, "Not looked for on this map")
	p.Reload()
	marginSays(p, "Not looked for on this map")
	assert.False(t, drive.Eval[bool](p, `[...document.querySelectorAll(".finding")].some(f => f.innerText.includes("there twice"))`))
	p.Press(`.off [data-do="rule"]`)
	p.Settled()
	pressFinding(p, "stands there twice", "Merge the two")
	p.Settled()
	marginSays(p, "The rules find nothing to mend")
	p.Wait(`document.getElementById("found").textContent === ""`)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// Findings that are alike are mended together, in one step; a rule that counts speaks from where
// its map says; a mark on the paper opens what was found there.
func TestAlikeFindingsAndThresholds(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is heard?", "outline", "the bell\n  makes: a sound wave\n  is heard by: the ear\n  stands in: a tower\n  hangs by: a yoke\n  calls: the pupil\n  wakes: the founder\nwaves of sound\n  reach: ears\nthe fuonder\n  hears: the ear")
	p.Wait(`seen.slips() === 10`)
	p.Press(`[data-phase="check"]`)
	marginSays(p, "another spelling")
	p.Wait(`document.querySelectorAll("#found-marks > g").length > 2`)
	pressFinding(p, "another spelling", "Merge the two: all 2")
	p.Wait(`document.querySelector(".alike[open] .button")`)
	p.Press(`.alike[open] .button`)
	p.Settled()
	p.Wait(`seen.slips() === 8`)
	p.Press(".notice button") // in one step back
	p.Settled()
	p.Wait(`seen.slips() === 10`)

	assert.False(t, drive.Eval[bool](p, `document.getElementById("margin").innerText.includes("carries too much")`))
	drive.Eval[bool](p, `(window.mevrin.send([{ do: "set-rule-least", rule: "hub", least: 5 }], []), true)`)
	marginSays(p, "carries too much")
	pressFinding(p, "carries too much", "What is counted")
	p.Wait(`document.querySelector('[data-change="rule-least"][data-rule="hub"]')`)
	drive.Eval[bool](p, `(() => { const f = document.querySelector('[data-change="rule-least"][data-rule="hub"]'); f.value = "9"; f.dispatchEvent(new Event("change", { bubbles: true })); return true })()`)
	p.Wait(`!document.getElementById("margin").innerText.includes("carries too much")`)

	drive.Eval[bool](p, `(document.querySelectorAll(".finding[open] > summary").forEach(s => s.click()), true)`)
	p.Press("#found-marks > g")
	p.Wait(`document.activeElement.matches(".finding[open] .place")`)
	p.Settled()
	assert.Empty(t, p.Faults())
}

// An author says for all maps what is not looked for, and which words mean the same; a file that
// the store lost is missed.
func TestRulesForAllMapsOfAnAuthor(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := drive.Start(t, binary, "demo", data)
	p := browser.Page(t, 1280, 800)
	finds := func(words string) string {
		return `[...document.querySelectorAll(".finding [data-title]")].some(f => f.innerText.includes(` + quoted(words) + `))`
	}
	p.Goto(app.URL + "/maps/first-try")
	p.Press(`[data-phase="check"]`)
	p.Wait(finds("a chain") + ` || document.querySelector(".finding")`)
	title := drive.Eval[string](p, `document.querySelector(".finding [data-title]").innerText`)
	drive.Eval[bool](p, `(() => { const f = document.querySelector(".finding"); f.open = true; f.querySelectorAll("details").forEach(d => { d.open = true; }); return true; })()`)
	p.Press(`.finding [data-do="my-rule"][data-what="off"]`)
	p.Wait(`!` + finds(title) + ` && document.querySelector(".margin").innerText.includes("Not looked for on any map of mine")`)
	p.Press(`.off [data-do="my-rule"]`)
	p.Wait(finds(title))

	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  is struck by: the clapper\n  is struck from inside by: the tongue\n  hangs by: the yoke\n  is cast of: bronze\n  calls: the pupils\n  hangs in: the tower\n  is rung by: the ringer")
	p.Wait(`seen.slips() === 8`)
	p.Press(`[data-phase="check"]`)
	open(p, "synonyms")
	assert.False(t, drive.Eval[bool](p, finds("mean the same")))
	p.Press("#synonyms")
	p.Keys("clapper, tongue", drive.Tab)
	p.Wait(`document.querySelector(".margin").innerText.includes("clapper")`)
	p.Wait(`[...document.querySelectorAll(".finding")].some(f => f.innerText.includes("the clapper · the tongue"))`)

	require.NoError(t, os.RemoveAll(filepath.Join(data, "files")))
	p.Goto(app.URL + "/maps/bell-sound")
	p.Press(`[data-phase="check"]`)
	p.Wait(finds("A file is not there any more"))
}

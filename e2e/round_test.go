package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// sentence is what stands large in a round of checking.
const sentence = `document.getElementById("round-sentence")?.innerText.replace(/\s+/g, " ").trim()`

// A whole round by keys: each sentence judged, one reworded, one turned round, one removed, one
// left for later and then judged; left and taken up again.
func TestARoundOfCheckingByKeys(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 680)
	newMap(p, app.URL, "What hangs in the tower?", "outline", "the bell\n  is cast of: bronze\n  hangs in: the tower\n    stands by: the church\n  is rung by: the ringer\n  owns: the founder")
	p.Wait(`seen.slips() === 6`)
	p.Press(`[data-phase="check"]`)
	marginSays(p, "Go through them one by one")
	p.Press(`[data-do="round"][data-order="reading"]`)
	stands := func(words string) { p.Wait(sentence + ` === ` + quoted(words)) }
	stands("the bell is cast of bronze")
	p.Wait(`document.activeElement.id === "round-sentence"`)
	assert.Equal(t, 3, drive.Eval[int](p, `document.querySelectorAll("#slips > .kept, #links > .kept").length`), "its slips and its line are lit")
	p.Until("the sentence is heard", func() bool { return p.Hears("button", "holds 1") })
	p.Keys("1")
	stands("the bell hangs in the tower")
	p.Keys("2")
	stands("the bell is rung by the ringer")
	p.Keys("l") // later
	stands("the bell owns the founder")
	p.Keys("r")
	stands("the founder owns the bell")
	p.Keys("4")
	stands("the tower stands by the church")
	p.Keys("w")
	p.Wait(`document.activeElement.id === "round-phrase"`)
	p.Keys("belongs to", drive.Enter)
	stands("the tower belongs to the church")
	p.Keys("3")
	p.Wait(`document.querySelector(".round-sum")?.innerText.includes("4 judged")`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".round-sum").innerText`), "4 judged, 1 reworded, 1 turned round, 1 left for later")
	p.Press(`#round-body .button`)
	stands("the bell is rung by the ringer")
	p.Keys(drive.Delete)
	p.Wait(`document.querySelector(".round-sum")?.innerText.includes("1 removed")`)
	p.Keys(drive.Escape)
	p.Wait(`document.getElementById("round").hidden`)
	marginSays(p, "4 of its 4 sentences are judged")
	assert.ElementsMatch(t, []string{"the bell is cast of bronze, judged to hold", "the bell hangs in the tower, judged to hold in part", "the tower belongs to the church, judged not to hold", "the founder owns the bell, judged: not sure"}, says(p))
	assert.Equal(t, 4, drive.Eval[int](p, `[...document.querySelectorAll("#links .verdict")].filter(v => v.checkVisibility()).length`), "each carries its mark")

	// What was judged in other words is asked again, first of all.
	p.Press(p.Slip("bronze"))
	p.Keys(drive.F2)
	p.Ctrl("a")
	p.Keys("tin", drive.Enter)
	p.Settled()
	marginSays(p, "3 of its 4 sentences are judged")
	p.Press(`[data-do="round"][data-order="doubtful"]`)
	stands("the bell is cast of tin")
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".round-was").innerText`), "Before the change you said: holds – “the bell is cast of bronze”")
	p.Press("#round-reason")
	p.Keys("tin alone cracks")
	p.Press(`[data-verdict="does-not-hold"]`)
	p.Until("it is kept", func() bool { return drive.Eval[string](p, sentence) != "the bell is cast of tin" })
	p.Press(`[data-do="round-back"]`)
	stands("the bell is cast of tin")
	assert.Equal(t, "tin alone cracks", drive.Eval[string](p, `document.getElementById("round-reason").value`))
	assert.Equal(t, "true", drive.Eval[string](p, `document.querySelector('[data-verdict="does-not-hold"]').getAttribute("aria-pressed")`))
	p.Press(`[data-do="round-close"]`)
	p.Settled()
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

// Pair by pair, what may belong together: a link by its phrase, never to be asked again, left for
// later; all can be undone.
func TestARoundOfJoiningByKeys(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 680)
	newMap(p, app.URL, "What hangs in the tower?", "outline", "the bell\n  is cast of: bronze\n  hangs in: the tower\n  is rung by: the ringer")
	p.Wait(`seen.slips() === 4`)
	p.Press(`[data-phase="connect"]`)
	p.Wait(`document.querySelector('[data-order="join"]')`)
	p.Press(`[data-order="join"]`)
	stands := func(first, second string) {
		p.Wait(`document.querySelector("[data-first]")?.textContent === ` + quoted(first) + ` && document.querySelector("[data-second]").textContent === ` + quoted(second))
		p.Wait(`document.activeElement.id === "join-phrase"`)
	}
	stands("bronze", "the tower")
	assert.Contains(t, drive.Eval[string](p, `document.querySelector(".round-doubts").innerText`), "both are linked with “the bell”")
	p.Keys(drive.Delete)
	stands("bronze", "the ringer")
	p.Press(`[data-do="round-later"]`)
	stands("the tower", "the ringer")
	p.Keys(drive.Down)
	stands("the ringer", "the tower")
	p.Keys("climbs", drive.Enter)
	p.Wait(`document.querySelector(".round-sum")?.innerText.includes("1 joined, 1 kept apart, 1 left for later")`)
	p.Keys(drive.Escape)
	p.Settled()
	assert.Contains(t, says(p), "the ringer climbs the tower")
	p.Press(`[data-order="join"]`)
	stands("bronze", "the ringer")
	assert.Equal(t, 1, drive.Eval[int](p, `document.querySelector("#round-place").innerText.split(" ").at(-1) * 1`), "what was said is not asked again")
	p.Keys(drive.Escape)
	p.Press("#desk")
	p.Ctrl("z")
	p.Ctrl("z")
	p.Settled()
	p.Press(`[data-order="join"]`)
	stands("bronze", "the tower")
	assert.Empty(t, p.Faults())
}

// What is said from a concept on is one paragraph, read aloud while its sentences are lit; so is the
// way between two.
func TestChainsAreReadAsAParagraph(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound")
	drive.Eval[bool](p, aloud)
	p.Press(`[id="c-strike"]`)
	more(p)
	p.Wait(`document.querySelector('.margin [data-do="chain"]')`)
	p.Press(`.margin [data-do="chain"]`)
	words := `document.querySelector(".chain-words")?.innerText`
	p.Wait(words + ` === "The strike is given by the clapper. The strike passes on energy of motion. The strike is softened by a leather pad. The clapper is made of soft iron. The clapper is swung by the rope."`)
	p.Keys("r")
	p.Wait(`window.spoken?.length === 5 && document.querySelector('[data-do="chain-read"]').getAttribute("aria-pressed") === "false"`)
	drive.Eval[bool](p, `(() => { const s = document.querySelector('[data-chain="along"]'); s.value = "arrows"; s.dispatchEvent(new Event("change", { bubbles: true })); return true; })()`)
	p.Wait(words + `.includes("The clapper hits the sound bow.")`)
	p.Keys(drive.Escape)
	p.Wait(`document.getElementById("chain").hidden && !document.body.classList.contains("lensed")`)
	p.CtrlClick(p.Middle(`[id="c-damping"]`))
	p.Wait(`seen.told() && document.querySelector('[data-what="way"]')`)
	open(p, "see")
	p.Press(`[data-fold="see"] [data-do="chain"]`)
	p.Wait(words + `?.endsWith("damping.") && document.getElementById("chain-title").innerText === "From the strike to damping"`)
	p.Keys(drive.Escape)
	assert.Empty(t, p.Faults())
}

// What is clear and what is not is marked concept by concept, for oneself: it is no edit, can be
// walked again, shown and taken along.
func TestWhatIUnderstand(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What hangs in the tower?", "outline", "the bell\n  is cast of: bronze\n  hangs in: the tower")
	p.Wait(`seen.slips() === 3`)
	revision := `document.body.dataset.revision + mevrin.road.revision`
	before := drive.Eval[string](p, revision)
	p.Press(`[data-phase="check"]`)
	p.Wait(`document.querySelector('[data-order="understand"]')`)
	marginSays(p, "Nobody else sees it")
	p.Press(`.margin [data-order="understand"]`)
	stands := func(words string) { p.Wait(sentence + ` === ` + quoted(words)) }
	stands("the bell")
	p.Keys("1")
	stands("bronze")
	assert.Equal(t, "the bell is cast of bronze", drive.Eval[string](p, `document.querySelector(".understood-says").innerText.trim()`))
	p.Keys("2")
	stands("the tower")
	p.Keys("l")
	p.Wait(`document.querySelector(".round-sum")?.innerText.includes("1 clear, 1 unclear, 1 left for later")`)
	p.Keys(drive.Escape)
	marginSays(p, "1 of 3 concepts are clear to me; not clear: 1")
	assert.Equal(t, before, drive.Eval[string](p, revision), "it is no edit")
	p.Press(`.margin [data-order="unclear"]`)
	stands("bronze")
	assert.Equal(t, "1 of 1", drive.Eval[string](p, `document.getElementById("round-place").innerText`))
	p.Keys(drive.Escape)
	list := drive.Eval[string](p, `fetch(document.querySelector('.margin a[href$="/understood/list"]').href).then(r => r.text())`)
	assert.Contains(t, list, "\nbronze\n  the bell is cast of bronze\n")
	assert.NotContains(t, list, "\nthe bell\n")
	assert.Empty(t, p.Faults())
}

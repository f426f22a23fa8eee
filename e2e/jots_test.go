package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// paste pastes text into what has the keyboard.
func paste(p *drive.Page, text string) {
	drive.Eval[bool](p, `(() => { const clipboardData = new DataTransfer(); clipboardData.setData("text/plain", `+quoted(text)+`);
		document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true })); return true })()`)
}

func jots(p *drive.Page, ideas ...string) {
	for _, idea := range ideas {
		p.Keys(idea, drive.Enter)
	}
}

func jotted(p *drive.Page) []string {
	return drive.Eval[[]string](p, `[...document.querySelectorAll("#jotted li")].map(l => l.innerText)`)
}

// An idea, Enter, the next: loose, then under a concept, without the hand
// leaving the keyboard or the selection slipping; nothing twice; a half-written
// idea outlives a reload.
func TestTheJotList(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What rings?", "empty", "")
	p.Press("#jots")
	jots(p, "the bell", "the rope", "", "the tower")
	assert.Equal(t, []string{"the bell", "the rope", "the tower"}, labels(p), "they stand on the paper at once")
	p.Settled()
	noOverlap(t, p)
	tops := drive.Eval[[]float64](p, `["the bell", "the rope", "the tower"].map(w => seen.concept(w).box.y)`)
	assert.IsIncreasing(t, tops, "in the order typed")
	assert.Equal(t, []string{"the bell", "the rope", "the tower"}, jotted(p))

	// Under the bell.
	p.Press(p.Slip("the bell"))
	p.Wait(`document.querySelector(".feeding")?.innerText.includes("the bell")`)
	p.Press("#jots")
	p.Wait(`document.querySelector(".slip.fed")`)
	jots(p, "hum", "has: a rim", "prime", "has: a crown")
	p.Settled()
	assert.Equal(t, []string{"the bell (no words yet) hum, prime", "the bell has a rim, a crown"}, says(p))
	p.Wait(`document.activeElement.id === "jots" && seen.at(seen.chosen()).words === "the bell"`)
	assert.Equal(t, "fed", drive.Eval[string](p, `[...document.querySelector('`+p.Slip("the bell")+`').classList].find(c => c === "fed")`))
	assert.Contains(t, jotted(p), "the bell → a crown")
	noOverlap(t, p)

	// What is there is linked, not doubled, and pointed at.
	jots(p, "THE  Rope")
	p.Settled()
	p.Wait(`document.querySelector(".slip.pointed")`)
	assert.Contains(t, says(p), "the bell (no words yet) hum, prime, the rope")
	assert.Len(t, labels(p), 7)
	p.Press(`[data-do="let-go"]`)
	p.Wait(`!document.querySelector(".feeding") && document.activeElement.id === "jots"`)
	jots(p, "hum")
	p.Settled()
	p.Wait(`document.getElementById("notices").innerText.includes("“hum” is on the map already.")`)
	assert.Len(t, labels(p), 7)
	p.Wait(`document.getElementById("margin").innerText.includes("1 loose idea waits")`)

	// What is there already is offered; the phrase before it stays.
	p.Keys(drive.Escape)
	p.Press(p.Slip("the bell"))
	p.Press("#jots")
	p.Keys("rings with: the ro")
	p.Wait(`!document.getElementById("phrases").hasAttribute("aria-busy") && document.querySelector("#phrases li")?.textContent.includes("the rope")`)
	p.Keys(drive.Down, drive.Enter)
	assert.Equal(t, "rings with: the rope", drive.Eval[string](p, `document.getElementById("jots").value`))
	p.Keys(drive.Enter)
	p.Settled()
	assert.Len(t, labels(p), 7)
	assert.Contains(t, says(p), "the bell rings with the rope")
	p.Press(`[data-do="let-go"]`)
	p.Wait(`!document.querySelector(".feeding") && document.activeElement.id === "jots"`)

	p.Keys("half an id")
	p.Reload()
	assert.Equal(t, "half an id", drive.Eval[string](p, `document.getElementById("jots").value`))
	p.Press("#jots")
	jots(p, "ea")
	p.Settled()
	assert.Contains(t, labels(p), "half an idea")
	p.Reload()
	assert.Empty(t, drive.Eval[string](p, `document.getElementById("jots").value`))
	assert.Empty(t, p.Faults())
}

// Many lines are shown before they are put down: as an outline or loose, long
// ones as notes; all of it is one step back.
func TestPastedLinesAreShownFirst(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What rings?", "outline", "the bell\n  has: the rim")
	p.Press("#jots")
	const text = "casting\n\t- needs: a mould\n\t\t1. is of: loam\n\t- THE BELL\n\t- the metal is poured slowly from above, so that no air stays behind in the mould\n"
	paste(p, text)
	p.Wait(`document.getElementById("pasted").open`)
	shown := drive.Eval[string](p, `document.getElementById("pasted").innerText`)
	for _, words := range []string{"4 new ideas, 1 on the map already", "needs a mould", "THE BELL is there already", "the metal is poured slowly from … with a note"} {
		assert.Contains(t, shown, words)
	}
	assert.Len(t, labels(p), 2, "nothing has been put down yet")
	p.Press("#shorten")
	p.Wait(`document.getElementById("pasted").innerText.includes("no air stays behind in the mould")`)
	p.Press("#shorten")
	p.Wait(`document.getElementById("pasted").innerText.includes("with a note")`)
	p.Press("#pasted .button.main")
	p.Wait(`seen.slips() === 6`)
	p.Settled()
	assert.Equal(t, []string{"a mould is of loam", "casting (no words yet) the bell, the metal is poured slowly from …", "casting needs a mould", "the bell has the rim"}, says(p))
	noOverlap(t, p)
	p.Press(p.Slip("the metal is poured slowly from …"))
	more(p)
	p.Wait(`document.getElementById("note")?.value.startsWith("the metal is poured slowly from above")`)
	p.Press(".notice button")
	p.Settled()
	assert.Equal(t, []string{"the bell", "the rim"}, labels(p), "one step back")

	// Loose, and under a concept.
	p.Keys(drive.Escape)
	p.Press("#jots")
	paste(p, text)
	p.Wait(`document.querySelector("#pasted[open] .main")`)
	p.Press(`#pasted [data-do="put-pasted"]:not(.main)`)
	p.Wait(`seen.slips() === 6`)
	p.Settled()
	assert.Equal(t, []string{"the bell has the rim"}, says(p))
	assert.Contains(t, labels(p), "needs: a mould")
	noOverlap(t, p)
	// The field stands empty again: undo is for the map there, and for what is typed as soon as something is.
	p.Keys("a word")
	p.Ctrl("z")
	p.Settled()
	assert.Len(t, labels(p), 6)
	p.Ctrl("a")
	p.Keys(drive.Delete, "another word", drive.Enter)
	p.Wait(`seen.slips() === 7 && document.getElementById("jots").value === ""`)
	p.Settled()
	p.Ctrl("z")
	p.Ctrl("z")
	p.Wait(`seen.slips() === 2`)
	p.Settled()
	p.Press(p.Slip("the rim"))
	p.Wait(`document.querySelector(".feeding")`)
	p.Press("#jots")
	paste(p, "is of: bronze\nthick metal")
	p.Wait(`document.getElementById("pasted").innerText.includes("Ideas under the rim") && document.activeElement.matches("#pasted .main")`)
	p.Keys(drive.Enter)
	p.Wait(`seen.slips() === 4`)
	p.Settled()
	assert.Equal(t, []string{"the bell has the rim", "the rim (no words yet) thick metal", "the rim is of bronze"}, says(p))
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

func offered(p *drive.Page) []string {
	p.Wait(`!document.getElementById("phrases").hidden`)
	return drive.Eval[[]string](p, `[...document.querySelectorAll("#phrases li")].map(l => [...l.children].map(s => s.innerText).join(" / "))`)
}

// A link asks for its words at once; phrases of this map, of other maps and of
// the bank are offered while one types, and taken by keys or by a click.
func TestPhrasesAreOffered(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is a bell?", "outline", "the bell\n  is rung by: the founder\n  is rung by: the smith\nthe tower\nthe pad")
	p.Wait(`seen.slips() === 5`)

	// By keys: the two selected, then a few letters, Down, Enter.
	p.Press(p.Slip("the bell"))
	p.CtrlClick(p.Middle(p.Slip("the tower")))
	p.Ctrl("k")
	p.Wait(`document.activeElement.matches(".verb-field")`)
	assert.Equal(t, "is rung by / on this map", offered(p)[0])
	p.Keys("is a m")
	p.Wait(`document.querySelector('#phrases [data-words="is a mixture of"]')`)
	assert.Contains(t, offered(p), "is a mixture of / your other maps")
	p.Ctrl("a")
	p.Keys("is pa")
	p.Wait(`document.querySelectorAll("#phrases li").length === 1 && document.querySelector('#phrases [data-words="is part of"]')`)
	assert.Equal(t, []string{"is part of / Part and whole"}, offered(p))
	p.Keys(drive.Down)
	assert.Equal(t, "phrase-0", drive.Eval[string](p, `document.activeElement.getAttribute("aria-activedescendant")`))
	p.Keys(drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell is part of the tower")
	assert.True(t, drive.Eval[bool](p, `document.getElementById("phrases").hidden`))

	// What is typed in full needs no list; a click takes what is offered.
	p.Keys(drive.F2, "hangs in", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the bell hangs in the tower")
	p.Keys(drive.F2)
	offered(p)
	p.Press("#phrases li:nth-child(1)")
	p.Settled()
	assert.Contains(t, says(p), "the bell is rung by the tower")
	p.Keys(drive.F2, "zzz")
	p.Wait(`document.getElementById("phrases").hidden`)
	p.Keys(drive.Escape)

	// The sentence bar offers them, too.
	p.Press("#say-phrase")
	p.Keys("is softe")
	p.Wait(`document.getElementById("say-list").innerText === "is softened by"`)
	p.Press("#desk")

	// The bank in the margin gives phrases to what is selected.
	p.Keys(drive.Escape)
	p.Press(`button[data-phase="connect"]`)
	p.Wait(`document.querySelector('[data-group="cause"]')`)
	p.Press(`[data-group="cause"] summary`)
	assert.Contains(t, drive.Eval[string](p, `document.querySelector('[data-group="cause"]').innerText`), "It invites the question: how?")
	p.Press(p.Slip("the pad"))
	p.CtrlClick(p.Middle(p.Slip("the bell")))
	marginSays(p, "A click links the first to the second")
	p.Press(`[data-group="cause"] [data-do="use-phrase"][data-words="weakens"]`)
	p.Settled()
	assert.Contains(t, says(p), "the pad weakens the bell")
	marginSays(p, "A click gives a phrase to the link")
	p.Press(`[data-group="cause"] [data-do="use-phrase"][data-words="prevents"]`)
	p.Settled()
	assert.Contains(t, says(p), "the pad prevents the bell")

	// One's own phrases: kept, offered, taken out, and as it was at first.
	p.Press("#own-cause")
	p.Keys("makes ring", drive.Enter)
	p.Wait(`document.querySelector('[data-group="cause"] [data-words="makes ring"]')`)
	assert.Equal(t, "own-cause", drive.Eval[string](p, `document.activeElement.id`))
	p.Press(`[data-group="cause"] [data-do="drop-phrase"][data-words="causes"]`)
	p.Wait(`!document.querySelector('[data-group="cause"] [data-words="causes"]') && document.querySelector('[data-do="reset-phrases"]')`)
	p.Reload()
	p.Press("#say-phrase")
	p.Keys("makes r")
	p.Wait(`document.getElementById("say-list").innerText === "makes ring"`)
	p.Ctrl("a")
	p.Keys(drive.Delete, drive.Escape)
	p.Wait(`document.querySelector('[data-group="cause"] [data-words="makes ring"]') && !document.querySelector('[data-group="cause"] [data-words="causes"]')`)
	p.Press(`[data-group="cause"] summary`)
	p.Press(`[data-do="reset-phrases"]`)
	p.Wait(`document.querySelector('[data-group="cause"] [data-words="causes"]') && !document.querySelector('[data-words="makes ring"]')`)
	p.Press("#own-argument, [data-group='argument'] summary")
	assert.True(t, drive.Eval[bool](p, `document.scrollingElement.scrollTop === 0 && document.documentElement.scrollHeight <= innerHeight`), "the page stays in its window")
	assert.Empty(t, p.Faults())
}

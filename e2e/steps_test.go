package e2e_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A link and its words are one step: taken back at once, and never there when its phrase
// was given up.
func TestALinkAndItsWordsAreOneStep(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	begin(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  has: the crown", "levels")
	p.Wait(`seen.slips() === 3`)
	before := says(p)
	two := func() {
		p.Keys(drive.Escape)
		p.Press(p.Slip("the rim"))
		p.CtrlClick(p.Middle(p.Slip("the crown")))
		p.Ctrl("k")
		p.Wait(`document.activeElement.matches(".verb-field")`)
	}
	two()
	p.Keys("hums less than", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the rim hums less than the crown")
	p.Ctrl("z")
	p.Settled()
	assert.Equal(t, before, says(p), "one step")
	two()
	p.Keys("not this", drive.Escape)
	p.Settled()
	assert.Equal(t, before, says(p))
	assert.Equal(t, 0, drive.Eval[int](p, `document.querySelectorAll("#provisional *").length`))

	// Near a concept that a pointer selected lie the actions that fit it, over nothing.
	p.Press(p.Slip("the crown"))
	p.Wait(`document.getElementById("at-hand").checkVisibility()`)
	assert.Empty(t, drive.Eval[[]string](p, `(h => [...document.querySelectorAll("#slips .body, #links .gap")].map(e => e.getBoundingClientRect()).filter(r => r.left < h.right && h.left < r.right && r.top < h.bottom && h.top < r.bottom).map(String))(document.getElementById("at-hand").getBoundingClientRect())`))
	p.Press(`#at-hand [data-do="more-of-it"]`)
	p.Wait(`!document.getElementById("menu").hidden`)
	p.Keys(drive.Escape)
	p.Press(`#at-hand [data-do="link-to"]`)
	p.Press(p.Slip("the bell"))
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("belongs to", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "the crown belongs to the bell")
	assert.Empty(t, p.Faults())
}

// Words that are too long for a label say so and stay; shortened, the note has all.
func TestWordsThatAreTooLongAreKept(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	begin(p, app.URL, "What is in a bell?", "concept", "", "levels")
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("the bell", drive.Enter, drive.Tab, "has", drive.Enter)
	all := strings.TrimSpace(strings.Repeat("a rim that was turned by hand ", 20))
	p.Insert(all)
	p.Keys(drive.Enter)
	p.Wait(`[...document.querySelectorAll(".notice")].some(n => n.textContent.includes("That is long"))`)
	assert.Equal(t, all, drive.Eval[string](p, `document.activeElement.value`))
	p.Press(`.notice button`)
	p.Settled()
	rim := drive.Eval[string](p, `seen.concepts().map(c => c.words).find(w => w.startsWith("a rim"))`)
	assert.True(t, strings.HasSuffix(rim, "…") && len(rim) > 100, rim)
	p.Press(`[id="c-` + drive.Eval[string](p, `seen.concepts().find(c => c.words.startsWith("a rim")).id`) + `"]`)
	open(p, "about-note")
	assert.Equal(t, all, drive.Eval[string](p, `document.getElementById("note").value`))
	p.Ctrl("z")
	p.Settled()
	assert.Equal(t, []string{"the bell"}, labels(p), "one step")
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// outlined gives the outline of the reading column.
func outlined(p *drive.Page) []string {
	return drive.Eval[[]string](p, `fetch(document.body.dataset.base + "/column").then(r => r.text()).then(html => {
		const t = document.createElement("template"); t.innerHTML = html;
		return [...t.content.querySelectorAll("#outline .row")].map(r => /depth-(\d)/.exec(r.className)[1] + " " + r.textContent.trim().replace(/\s+/g, " ")) })`)
}

// A branch is selected, moved and deleted as one; a concept is put into a link;
// an end of a phrase gets a link of its own.
func TestBranchesAndLinksTakenApart(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n    is of: bronze\n  has: the crown\n  hangs in: the tower")
	p.Wait(`seen.slips() === 5`)
	place := func(words string) float64 {
		return drive.Eval[float64](p, `seen.concept(`+quoted(words)+`).box.y`)
	}
	rim, bronze, crown := place("the rim"), place("bronze"), place("the crown")
	x, y := p.Middle(p.Slip("the rim"))
	p.DragWith(kb.ModifierAlt, x, y, x, y-120)
	p.Settled()
	assert.InDelta(t, rim-120, place("the rim"), 1)
	assert.InDelta(t, bronze-120, place("bronze"), 1, "what is below comes along")
	assert.InDelta(t, crown, place("the crown"), 0)
	p.Ctrl("z")
	p.Settled()
	assert.InDelta(t, bronze, place("bronze"), 0.5, "in one step")

	p.Press(p.Slip("the rim"))
	p.Wait(`document.querySelector('.margin [data-fold="this-more"]')`)
	p.Press(`.margin [data-fold="this-more"] summary`)
	p.Press(`.margin [data-do="branch"]`)
	assert.Equal(t, 2, drive.Eval[int](p, `seen.marked().length`))
	p.Keys(drive.Delete)
	p.Settled()
	assert.Equal(t, []string{"the bell", "the crown", "the tower"}, labels(p))
	p.Press(".notice:last-child button")
	p.Settled()
	assert.Len(t, labels(p), 5)

	// Between two concepts: the phrase leads to the new one, the rest asks.
	link := func(phrase string) string {
		return `[id="l-` + drive.Eval[string](p, `seen.link(`+quoted(phrase)+`).id`) + `"] .gap`
	}
	p.Press(link("hangs in"))
	p.Wait(`document.querySelector('[data-do="insert"]')`)
	p.Press(`[data-do="insert"]`)
	p.Wait(`document.activeElement.matches(".noun-field")`)
	p.Keys("a frame", drive.Enter)
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("stands in", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"1 the bell", "2 has the rim", "3 is of bronze", "2 has the crown", "2 hangs in a frame", "3 stands in the tower"}, outlined(p))

	// An end with a link of its own: the map says the same, in two links.
	before := outlined(p)
	p.Press(link("has"))
	p.Wait(`document.querySelector('[data-do="own-link"]')`)
	p.Press(`[data-do="own-link"][aria-label*="the crown"]`)
	p.Settled()
	assert.Subset(t, says(p), []string{"the bell has the rim", "the bell has the crown"})
	assert.Equal(t, before, outlined(p))
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A whole map by the outline alone, with keys: lines are written, moved among
// siblings and levels, named anew, tucked away and deleted; phrases with them;
// and the paper says the same at every moment.
func TestAMapByTheOutlineAlone(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell")
	p.Wait(`seen.slips() === 1`)
	drive.Eval[bool](p, `seen.elsewhere([{ do: "set-focus", concept: seen.concepts()[0].id }])`)
	p.Press("#column-switch")
	noun := func() {
		p.Wait(`document.activeElement.matches("input.noun-words")`)
	}
	p.Wait(`document.querySelector("#outline .row-noun")`)
	drive.Eval[bool](p, `document.querySelector("#outline .row-noun").focus(), true`)
	// Below the top one the phrase comes first; beside a line it is that line's.
	p.Keys(drive.Enter)
	p.Wait(`document.activeElement.matches("input.verb-words")`)
	p.Keys("has", drive.Enter)
	noun()
	p.Keys("the rim", drive.Enter)
	noun()
	p.Keys("the crown", drive.Enter)
	noun()
	// Tab goes below the line before.
	p.Keys(drive.Tab)
	p.Wait(`document.activeElement.matches("input.verb-words")`)
	p.Keys("hangs in", drive.Enter)
	noun()
	p.Keys("the yoke", drive.Enter)
	noun()
	p.Keys(drive.Escape)
	p.Settled()
	want := []string{"1 the bell", "2 has the rim", "2 has the crown", "3 hangs in the yoke"}
	p.Until("written", func() bool { return assert.ObjectsAreEqual(want, rowsOf(p)) })
	assert.Equal(t, []string{"the bell has the rim, the crown", "the crown hangs in the yoke"}, says(p))
	noOverlap(t, p)

	// Words, phrase, order, level.
	at := func(words string) {
		p.Wait(`[...document.querySelectorAll("#outline .row-noun")].some(r => r.textContent === ` + quoted(words) + `)`)
		drive.Eval[bool](p, `[...document.querySelectorAll("#outline .row-noun")].find(r => r.textContent === `+quoted(words)+`).focus(), true`)
	}
	at("the yoke")
	p.Keys(drive.F2)
	noun()
	p.Keys("the headstock", drive.Tab)
	p.Settled()
	at("the headstock")
	p.Ctrl(drive.Up)
	p.Until("one level higher", func() bool { return rowsOf(p)[3] == "2 hangs in the headstock" })
	assert.Equal(t, "the headstock", drive.Eval[string](p, `document.activeElement.textContent`), "the line keeps the keyboard")
	p.Ctrl(drive.Left)
	p.Until("earlier", func() bool { return rowsOf(p)[2] == "2 hangs in the headstock" })
	p.Keys(drive.Left)
	p.Wait(`document.activeElement.matches(".row-phrase")`)
	p.Keys(drive.Enter)
	p.Wait(`document.activeElement.matches("input.verb-words")`)
	p.Keys("is held by", drive.Enter)
	p.Until("another phrase", func() bool { return rowsOf(p)[2] == "2 is held by the headstock" })
	p.Until("the paper, too", func() bool { return slices.Contains(says(p), "the bell is held by the headstock") })

	// A concept that is there is pointed to, not doubled.
	at("the crown")
	p.Keys(drive.Enter)
	noun()
	p.Keys(drive.Tab)
	p.Wait(`document.activeElement.matches("input.verb-words")`)
	p.Keys("bolts to", drive.Enter)
	noun()
	p.Keys("The  Headstock", drive.Enter)
	p.Wait(`document.querySelector("#outline .pointer")`)
	assert.Equal(t, "bolts to the headstock ↗", drive.Eval[string](p, `document.querySelector("#outline .pointer").innerText.replace(/\s+/g, " ")`))
	p.Keys(drive.Escape)
	p.Press("#outline .pointer")
	p.Wait(`seen.at(seen.chosen())?.words === "the headstock"`)
	assert.Len(t, labels(p), 4)

	// What comes from elsewhere leaves the line that is being written alone.
	at("the crown")
	p.Keys(drive.Enter)
	noun()
	p.Keys("half a wo")
	post(t, app.URL+drive.Eval[string](p, `document.body.dataset.base`), "elsewhere", `[{"do":"name-concept","concept":"`+drive.Eval[string](p, `seen.concept("the rim").id`)+`","label":"the lip"}]`)
	p.Until("the other edit", func() bool { return rowsOf(p)[1] == "2 has the lip" })
	assert.Equal(t, "half a wo", drive.Eval[string](p, `document.activeElement.value`))
	p.Keys(drive.Escape)

	// The column alone, large, and back; who wants to save hears that all is.
	p.Press(`[data-do="column-large"]`)
	p.Wait(`!document.getElementById("desk").checkVisibility() && document.getElementById("column").offsetWidth > 1200`)
	p.Ctrl("s")
	p.Wait(`document.getElementById("notices").innerText.includes("All is saved")`)
	p.Press(`[data-do="column-large"]`)
	p.Wait(`document.getElementById("desk").checkVisibility()`)
	at("the crown")

	// Away and back, deleted and undone.
	at("the bell")
	p.CtrlShift(drive.Up)
	p.Until("tucked away", func() bool { return len(rowsOf(p)) == 1 && rowsOf(p)[0] == "1 the bell +3" })
	at("the bell")
	p.CtrlShift(drive.Up)
	p.Until("back", func() bool { return len(rowsOf(p)) == 4 })
	at("the lip")
	p.Keys(drive.Delete)
	p.Until("deleted", func() bool { return len(rowsOf(p)) == 3 })
	at("the crown")
	p.Ctrl("z")
	p.Until("undone", func() bool { return len(rowsOf(p)) == 4 })
	assert.Empty(t, p.Faults("Unprocessable"))
}

func rowsOf(p *drive.Page) []string {
	return drive.Eval[[]string](p, `[...document.querySelectorAll("#outline > li[data-concept] > .row")].map(r => /depth-(\d)/.exec(r.className)[1] + " " + r.innerText.trim().replace(/\s+/g, " "))`)
}

// Lines are carried by the pointer, with their place shown before; siblings are
// put in order after a look: A to Z, and read off the paper.
func TestLinesAreCarriedAndOrdered(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: waist\n  has: Crown\n  has: rim\n    is of: bronze")
	p.Wait(`seen.slips() === 5`)
	p.Press("#column-switch")
	p.Wait(`document.querySelectorAll("#outline > li").length === 5`)
	row := func(words string) []float64 {
		return drive.Eval[[]float64](p, `(r => [r.x + 60, r.y, r.height])([...document.querySelectorAll("#outline > li")].find(l => l.querySelector(".row-noun").textContent === `+quoted(words)+`).getBoundingClientRect())`)
	}
	from, to := row("Crown"), row("rim")
	p.Drag(from[0], from[1]+8, to[0], to[1]+to[2]/2, func() { p.Wait(`document.querySelector(".put-below")`) })
	p.Until("below the rim", func() bool {
		return assert.ObjectsAreEqual([]string{"1 the bell", "2 has waist", "2 has rim", "3 is of bronze", "3 has Crown"}, rowsOf(p))
	})
	from, to = row("Crown"), row("waist")
	p.Drag(from[0], from[1]+8, to[0], to[1]+3, func() { p.Wait(`document.querySelector(".put-before")`) })
	p.Until("before the waist", func() bool { return rowsOf(p)[1] == "2 has Crown" })
	p.Ctrl("z")
	p.Ctrl("z")
	p.Until("as it was", func() bool { return rowsOf(p)[2] == "2 has Crown" })

	p.Press(p.Slip("the bell"))
	p.Press(`[data-do="order"]`)
	p.Wait(`document.querySelector("#order[open] [data-do='put-order']")`)
	assert.Equal(t, []string{"2 Crown", "3 rim", "1 waist"}, drive.Eval[[]string](p, `[...document.querySelectorAll("#order li")].map(l => l.innerText.replace(/\s+/g, " "))`))
	assert.Equal(t, "2 has waist", rowsOf(p)[1], "nothing is changed by looking")
	p.Press(`#order [data-way="rows"]`)
	p.Wait(`document.querySelector('#order [data-way="rows"]').getAttribute("aria-pressed") === "true"`)
	p.Press(`#order [data-way="words"]`)
	p.Wait(`document.querySelector('#order [data-way="words"]').getAttribute("aria-pressed") === "true"`)
	p.Press(`#order [data-do="put-order"]`)
	p.Until("A to Z", func() bool { return rowsOf(p)[1] == "2 has Crown" && rowsOf(p)[2] == "2 has rim" })
	assert.Empty(t, p.Faults())
}

// Sentences are a table: each part is changed in place, a concept that is there
// is meant by its words, a new one is made; they are sought, narrowed, sorted.
func TestSentencesAreATable(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is in a bell?", "outline", "the bell\n  has: the rim\n  hangs in: the tower\n  a rope")
	p.Wait(`seen.slips() === 4`)
	p.Press("#column-switch")
	table := func() []string {
		return drive.Eval[[]string](p, `[...document.querySelectorAll("#propositions li")].map(l => l.innerText.trim().replace(/\s+/g, " "))`)
	}
	p.Wait(`document.querySelectorAll("#propositions li").length === 3`)
	part := func(row, part string) {
		p.Wait(`[...document.querySelectorAll("#propositions li")].some(l => l.innerText.replace(/\s+/g, " ").trim() === ` + quoted(row) + `)`)
		drive.Eval[bool](p, `[...document.querySelectorAll("#propositions li")].find(l => l.innerText.replace(/\s+/g, " ").trim() === `+quoted(row)+`).querySelector("[data-part=`+part+`]").focus(), true`)
	}
	part("the bell no words yet a rope", "phrase")
	p.Keys(drive.F2)
	p.Wait(`document.activeElement.matches("input.verb-words")`)
	p.Keys("is rung by", drive.Enter)
	p.Until("named", func() bool { return slices.Contains(table(), "the bell is rung by a rope") })
	part("the bell is rung by a rope", "to")
	p.Keys("THE tower", drive.Enter)
	p.Until("led to what is there", func() bool { return slices.Contains(table(), "the bell is rung by the tower") })
	assert.Len(t, labels(p), 4)
	part("the bell hangs in the tower", "from")
	p.Keys(drive.Enter)
	p.Wait(`document.activeElement.matches("input.noun-words")`)
	p.Keys("the yoke", drive.Enter)
	p.Until("led from a new one", func() bool { return slices.Contains(table(), "the yoke hangs in the tower") })
	p.Settled()
	assert.Len(t, labels(p), 5)
	noOverlap(t, p)

	// Down the table by arrows; narrowed and sorted.
	drive.Eval[bool](p, `(s => { s.value = "phrase"; s.dispatchEvent(new Event("change", { bubbles: true })); return true })(document.getElementById("sort-sentences"))`)
	p.Until("by phrase", func() bool {
		return assert.ObjectsAreEqual([]string{"the yoke hangs in the tower", "the bell has the rim", "the bell is rung by the tower"}, table()) ||
			assert.ObjectsAreEqual([]string{"the bell has the rim", "the yoke hangs in the tower", "the bell is rung by the tower"}, table())
	})
	p.Press("#seek-sentences")
	p.Keys("TOWER")
	p.Until("only with the tower", func() bool { return len(table()) == 2 })
	part(table()[0], "phrase")
	p.Keys(drive.Down)
	assert.Equal(t, table()[1], drive.Eval[string](p, `document.activeElement.closest("li").innerText.replace(/\s+/g, " ").trim()`))
	p.Keys(drive.Delete)
	p.Until("deleted", func() bool { return len(table()) == 1 })
	// A row is added at its end; the next begins with the same concept.
	p.Press("#seek-sentences")
	p.Ctrl("a")
	p.Keys(drive.Delete)
	p.Until("no longer narrowed", func() bool { return len(table()) == 2 })
	p.Press(`[data-do="add-sentence"]`)
	p.Keys("the tower", drive.Tab, "keeps dry", drive.Enter, "THE  bell", drive.Enter)
	p.Until("a row more", func() bool { return slices.Contains(table(), "the tower keeps dry the bell") })
	p.Keys("is of", drive.Tab, "stone", drive.Enter)
	p.Until("and another", func() bool { return slices.Contains(table(), "the tower is of stone") })
	assert.Len(t, labels(p), 6)
	p.Keys(drive.Escape)
	p.Wait(`!document.querySelector(".sentence-line") && document.activeElement.matches('[data-do="add-sentence"]')`)
	assert.Empty(t, p.Faults())
}

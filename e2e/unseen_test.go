package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// The whole way from a question to a walk, with keys alone, by what is heard
// and never by what is seen; and again after the process was killed.
func TestTheWholeWayByKeysAndEar(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := drive.Start(t, binary, "serve", data)
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL)
	p.TabTo("textbox", "What should a new map answer?")
	p.Keys("Why does a bell hum?", drive.Enter)
	p.Wait("!!window.mevrin")
	require.Equal(t, drive.Thing{Role: "textbox", Name: "Words of the concept", Focused: true}, p.Focused())
	p.Keys("the hum", drive.Enter, drive.Tab)
	assert.Equal(t, "Phrase from the hum to the new concept", p.Focused().Name)
	p.Keys("is a tone of", drive.Enter)
	assert.Equal(t, "Words of the new concept", p.Focused().Name)
	p.Keys("the bell", drive.Enter)
	heard(p, "the bell linked to the hum with is a tone of")
	p.Settled()
	assert.True(t, p.Hears("heading", "Why does a bell hum?"))
	assert.True(t, p.Hears("image", "the hum is a tone of the bell"))

	// The sentence bar.
	p.Keys(drive.Escape, "s")
	assert.Equal(t, "From", p.Focused().Name)
	p.Ctrl("a")
	p.Keys("the clapper", drive.Tab, "strikes", drive.Tab, "the bell", drive.Enter)
	heard(p, "Said: the clapper strikes the bell")
	p.Settled()

	// The map as text.
	p.TabTo("button", "Reading column", true)
	p.Keys(" ")
	p.Wait(`document.querySelectorAll("#outline li").length === 3`)
	p.TabTo("button", "the clapper strikes the bell")
	p.Keys(" ") // Enter would change its words
	heard(p, "Link: the clapper strikes the bell")

	// Check, and mending what it finds.
	p.TabTo("button", "Check", true)
	p.Keys(" ")
	p.Wait(`document.getElementById("margin").innerText.includes("nothing to mend")`)
	p.TabTo("button", "Gather", true)
	p.Keys(" ")
	p.Wait(`document.querySelector(".margin-body").dataset.phase === "gather"`)
	p.TabTo("textbox", "Jot list")
	p.Keys("Bells", drive.Enter)
	heard(p, "Jotted down: Bells")
	p.Wait(`seen.slips() === 4`)
	p.TabTo("button", "Check", true)
	p.Keys(" ")
	p.Wait(`document.getElementById("margin").innerText.includes("stands there twice")`)
	p.TabTo("button", "Merge the two")
	p.Keys(drive.Enter)
	p.Wait(`seen.slips() === 3`)
	p.Settled()

	// A route through two stops, with a card.
	p.TabTo("button", "Guide", true)
	p.Keys(" ")
	p.Wait(`document.getElementById("margin").innerText.includes("A route leads learners")`)
	p.TabTo("button", "New route")
	p.Keys(drive.Enter)
	p.Wait(`document.activeElement.id === "route-title"`)
	assert.Equal(t, "Its title", p.Focused().Name)
	p.Keys("To the hum", drive.Enter)
	p.Settled()
	assert.Equal(t, "application", p.Focused().Role)
	p.Keys(drive.Escape, drive.Tab)
	heard(p, "Concept: the hum")
	p.Ctrl(drive.Enter)
	heard(p, "Added as a stop: the hum")
	p.Keys(drive.Escape, "/", "the bell", drive.Enter, drive.Escape)
	heard(p, "Concept: the bell")
	drive.Eval[bool](p, `(window.earlier = document.getElementById("margin-phase").innerHTML, true)`)
	p.Ctrl(drive.Enter)
	both := `document.querySelectorAll("#stops > li").length === 2 && document.querySelector(".card-work")`
	p.Wait(both)
	p.Settled()
	// A margin that was asked for earlier and comes late does not close the stop.
	drive.Eval[bool](p, `(document.getElementById("margin-phase").innerHTML = earlier, mevrin.guide.took(), mevrin.freshMargin(), true)`)
	p.Wait(both)
	p.Settled()
	p.Keys(drive.Escape, drive.Escape)
	marginSays(p, "Nothing selected")
	p.TabTo("textbox", "Title of the card")
	p.Keys("What hums")
	p.TabTo("button", "Write the card")
	p.Keys(drive.Enter)
	p.Wait(`document.activeElement.closest("#writing-desk")`)
	assert.Equal(t, "What the learner reads", p.Focused().Name)
	p.Keys("It is ")
	p.Ctrl("b")
	p.Keys("the bell")
	p.Ctrl("b")
	p.Keys(".")
	p.Ctrl(drive.Enter)
	p.Wait(`!document.getElementById("writing-desk").open`)
	p.Settled() // the margin shows what was written, and would take a button away from under the keys
	p.TabTo("button", "Make a link for learners")
	p.Keys(drive.Enter)
	p.Wait(`document.querySelector(".address")?.value.startsWith("http")`)
	p.Settled()
	link := drive.Eval[string](p, `document.querySelector(".address").value.replace(location.origin, "")`)
	what := says(p)
	require.Equal(t, []string{"the clapper strikes the bell", "the hum is a tone of the bell"}, what)

	// The power goes; everything that was called saved is there.
	app.Kill()
	app = drive.Start(t, binary, "serve", data)
	p.Goto(app.URL)
	p.TabTo("link", "Why does a bell hum?")
	p.Keys(drive.Enter)
	p.Wait("!!window.mevrin")
	assert.Equal(t, what, says(p))
	p.TabTo("button", "Guide", true)
	p.Keys(" ")
	marginSays(p, "What hums")

	// A learner walks by keys.
	walker := browser.Page(t, 1280, 800)
	walker.Goto(app.URL + link)
	assert.True(t, walker.Hears("heading", "To the hum"))
	walker.Until("only what stands so far is heard", func() bool { return walker.Hears("image", "the hum") && !walker.Hears("image", "the bell") })
	walker.TabTo("button", "Next")
	walker.Keys(drive.Enter)
	now := walker.Focused()
	assert.Equal(t, []string{"article", "2 What hums"}, []string{now.Role, now.Name})
	walker.Until("the next step is heard", func() bool {
		return walker.Hears("image", "the hum is a tone of the bell") && walker.Hears("StaticText", "2 of 2")
	})
	assert.False(t, walker.Hears("image", "the clapper"))
	walker.TabTo("button", "All stops", true)
	walker.Keys(drive.Enter)
	assert.Equal(t, "2 What hums", walker.Focused().Name)
	walker.Keys(drive.Up, drive.Enter)
	walker.Wait(`document.getElementById("count").textContent === "1 of 2"`)
	assert.Empty(t, walker.Faults())
	assert.Empty(t, p.Faults("WebSocket", "ERR_CONNECTION", "Failed to fetch"))
}

// heard waits until something was announced.
func heard(p *drive.Page, words string) {
	p.Wait(`document.getElementById("announce").textContent === ` + quoted(words))
}

// The same map is made in three ways by keys and ear: on the paper, in the
// outline, in the table of sentences. What has the keyboard always says what it
// is, and what changed is announced.
func TestThreeWaysToAMapByKeysAndEar(t *testing.T) {
	inSoak(t)
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	want := []string{"the bell has the rim, the crown", "the crown hangs in the yoke"}
	begin := func() *drive.Page {
		p := browser.Page(t, 1280, 800)
		newMap(p, app.URL, "What is in a bell?", "concept", "")
		p.Wait(`document.activeElement.matches(".noun-field")`)
		p.Keys("the bell", drive.Enter)
		p.Settled()
		return p
	}
	has := func(p *drive.Page, role, name string) {
		t.Helper()
		p.Until(role+" "+name, func() bool { f := p.Focused(); return f.Role == role && f.Name == name })
	}
	column := func(p *drive.Page) {
		p.Keys(drive.Escape)
		p.TabTo("button", "Reading column", true)
		p.Keys(" ")
		p.Wait(`document.querySelector("#outline .row-noun")`)
	}

	paper := begin()
	paper.Keys(drive.Tab)
	has(paper, "textbox", "Phrase from the bell to the new concept")
	paper.Keys("has", drive.Enter)
	has(paper, "textbox", "Words of the new concept")
	paper.Keys("the rim", drive.Enter)
	heard(paper, "the rim linked to the bell with has")
	paper.Keys(drive.Enter)
	has(paper, "textbox", "Words of the new concept")
	paper.Keys("the crown", drive.Enter)
	heard(paper, "the crown added beside the rim")
	paper.Keys(drive.Tab, "hangs in", drive.Enter, "the yoke", drive.Enter)
	heard(paper, "the yoke linked to the crown with hangs in")

	outline := begin()
	column(outline)
	outline.TabTo("button", "the bell")
	outline.Keys(drive.Enter)
	has(outline, "textbox", "Phrase of the new line")
	outline.Keys("has", drive.Enter)
	has(outline, "textbox", "New concept below the bell")
	outline.Keys("the rim", drive.Enter)
	heard(outline, "the rim linked to the bell with has")
	has(outline, "textbox", "New concept beside the rim")
	outline.Keys("the crown", drive.Enter)
	heard(outline, "the crown added beside the rim")
	has(outline, "textbox", "New concept beside the crown")
	outline.Keys(drive.Tab)
	has(outline, "textbox", "Phrase of the new line")
	outline.Keys("hangs from", drive.Enter)
	has(outline, "textbox", "New concept below the crown")
	outline.Keys("the yoke", drive.Enter)
	heard(outline, "the yoke linked to the crown with hangs from")
	has(outline, "textbox", "New concept beside the yoke")
	outline.Keys(drive.Escape)
	has(outline, "button", "the yoke")
	outline.Keys(drive.Left)
	has(outline, "button", "hangs from")
	outline.Keys(drive.Enter)
	has(outline, "textbox", "Phrase that leads to the yoke")
	outline.Keys("hangs in", drive.Enter)
	heard(outline, "hangs in leads to the yoke now")

	table := begin()
	column(table)
	table.TabTo("button", "Another sentence")
	table.Keys(drive.Enter)
	has(table, "textbox", "The concept that it begins with")
	table.Keys("the bell", drive.Tab)
	has(table, "textbox", "Linking phrase")
	table.Keys("has", drive.Tab)
	has(table, "textbox", "The concept that it ends with")
	table.Keys("the rim", drive.Enter)
	heard(table, "Said: the bell has the rim")
	has(table, "textbox", "Linking phrase")
	table.Keys("has", drive.Enter, "the shoulder", drive.Enter)
	heard(table, "Said: the bell has the shoulder")
	table.TabTo("textbox", "The concept that it begins with", true)
	table.Keys("the crown", drive.Enter, "hangs in", drive.Enter, "the yoke", drive.Enter)
	heard(table, "Said: the crown hangs in the yoke")
	table.Keys(drive.Escape)
	has(table, "button", "Another sentence")
	table.TabTo("button", "the shoulder", true)
	table.Keys(drive.F2)
	has(table, "textbox", "The concept that it ends with")
	table.Keys("the crown", drive.Enter)
	heard(table, "It says now: the bell has the crown")
	table.Wait(`seen.links().every(l => l.to.every(e => seen.at("c-" + e.concept).words !== "the shoulder"))`)

	for name, p := range map[string]*drive.Page{"paper": paper, "outline": outline, "table": table} {
		p.Settled()
		assert.Equal(t, want, says(p), name)
		for _, sentence := range []string{"the bell has the rim, the crown", "the crown hangs in the yoke"} {
			assert.True(t, p.Hears("image", sentence), name)
		}
		assert.Empty(t, p.Faults(), name)
	}
}

package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A whole map by the sentence bar alone, with the keys: concepts are reused,
// phrases shared, what is said twice is refused and not lost.
func TestTheSentenceBar(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + emptyMap(t, app))
	p.Keys("s", "the bell", drive.Tab, "is cast from", drive.Tab, "bell bronze", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"the bell is cast from bell bronze"}, says(p))
	p.Wait(`document.activeElement.id === "say-phrase" && document.getElementById("say-from").value === "the bell"`)
	p.Keys("has", drive.Tab, "a waist; a crown; A  Waist", drive.Enter, "has", drive.Tab, "a sound bow", drive.Enter)
	p.Settled()
	assert.Equal(t, []string{"the bell has a waist, a crown, a sound bow", "the bell is cast from bell bronze"}, says(p))

	// A known concept is offered while it is typed, and used whatever its case.
	p.Press("#say-from")
	p.Ctrl("a")
	p.Keys("BRON")
	p.Wait(`document.querySelector("#say-list:not([hidden]) li")?.textContent === "bell bronze"`)
	p.Keys(drive.Down, drive.Tab, "is mostly", drive.Tab, "copper", drive.Enter)
	p.Settled()
	assert.Contains(t, says(p), "bell bronze is mostly copper")
	assert.Len(t, labels(p), 6)
	noOverlap(t, p)

	// What the map says already is refused with words, and stays in the bar.
	p.Keys("Is  mostly", drive.Tab, "COPPER", drive.Enter)
	p.Wait(`document.getElementById("notices").innerText.includes("The map says that already")`)
	p.Wait(`document.getElementById("say-to").value === "COPPER"`)

	// From the start of the bar, the concept said last is one arrow key away.
	p.Press("#say-from")
	p.Keys(drive.Down)
	p.Wait(`document.getElementById("say-from").value === "COPPER"`)

	// Something missing: the hand is led there.
	p.Press("#say-to")
	p.Ctrl("a")
	p.Keys(drive.Delete, drive.Enter)
	p.Wait(`document.activeElement.id === "say-to"`)
	p.Keys(drive.Escape)
	p.Wait(`document.activeElement === document.getElementById("desk")`)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults("Unprocessable"))
}

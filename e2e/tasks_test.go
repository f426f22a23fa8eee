package e2e_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// A whole task: what somebody has written elsewhere becomes a map. Pasted with
// its indentation, looked at, put down, completed, and undone in one step.
func TestAMapFromAPastedList(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "How is a bell cast?", "empty", "")
	p.Press("#jots")
	long := "The core is built up of brick and loam, turned true with a board, dried over a slow fire for days, and blackened with ash so that the metal does not stick to it."
	paste(p, "1. casting a bell\n   - begins with: the core\n   - needs: the cope\n     * is made of: loam\n   - ends with: the pour\n2. loam\n\n"+long+"\n")
	p.Wait(`document.querySelector("#pasted[open] .main")`)
	preview := drive.Eval[[]string](p, `[...document.querySelectorAll(".pasted-lines li")].map(l => /depth-(\d)/.exec(l.className)[1] + " " + l.innerText.trim())`)
	assert.Equal(t, []string{"1 casting a bell", "2 begins with the core", "2 needs the cope", "3 is made of loam", "2 ends with the pour"}, preview[:5])
	assert.Contains(t, preview[len(preview)-1], "with a note")
	assert.Empty(t, labels(p), "nothing is put down before it was seen")
	p.Press(`#pasted [data-do="put-pasted"]`)
	p.Wait(`seen.slips() === 6`)
	p.Settled()
	noOverlap(t, p)
	assert.Equal(t, []string{"1 casting a bell", "2 begins with the core", "2 needs the cope", "3 is made of loam", "2 ends with the pour"}, outlined(p))
	// The last idea is linked and the question answered, the way one goes on.
	loose := drive.Eval[string](p, `seen.concepts().find(s => s.el.classList.contains("loose")).id`)
	p.Press(p.Slip("the core"))
	p.Wait(`document.querySelector('.margin [data-do="link-to"]')`)
	p.Press(`.margin [data-do="link-to"]`)
	p.Click(p.Middle(`[id="c-` + loose + `"]`))
	p.Wait(`document.activeElement.matches(".verb-field")`)
	p.Keys("is described by", drive.Enter)
	p.Settled()
	assert.Len(t, says(p), 5)
	assert.Zero(t, drive.Eval[int](p, `document.querySelectorAll(".slip.loose").length`))
	sameAfterReload(t, p)
	p.Ctrl("zzz")
	p.Settled()
	assert.Zero(t, drive.Eval[int](p, `seen.slips()`))
	assert.Empty(t, p.Faults())
}

// typed counts key strokes beyond the letters of new words.
type typed struct {
	p              *drive.Page
	letters, extra int
}

func (k *typed) words(words string) { k.p.Keys(words); k.letters += utf8.RuneCountInString(words) }
func (k *typed) press(keys ...string) {
	for _, key := range keys {
		k.p.Keys(key)
		k.extra += utf8.RuneCountInString(key)
	}
}

// A whole task by the sentence bar and the phrase bank alone: no pointer, and
// every phrase chosen from the bank.
func TestAMapBySentenceBarAndPhraseBank(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What is sound?", "empty", "")
	p.Keys("s")
	p.Wait(`document.activeElement.id === "say-from"`)
	k := &typed{p: p}
	say := func(from, begins, phrase string, to ...string) {
		if from != "" {
			p.Wait(`document.activeElement.id === "say-from" || document.activeElement.id === "say-phrase"`)
			if drive.Eval[string](p, `document.activeElement.id`) == "say-phrase" {
				p.Shift(drive.Tab)
				k.extra += 2
			}
			k.words(from)
			k.press(drive.Tab)
		}
		p.Wait(`document.activeElement.id === "say-phrase"`)
		k.words(begins)
		p.Wait(`!document.getElementById("say-list").hasAttribute("aria-busy") && [...document.querySelectorAll("#say-list li")].some(l => l.textContent.includes(` + quoted(phrase) + `))`)
		at := drive.Eval[int](p, `[...document.querySelectorAll("#say-list li")].findIndex(l => l.textContent.includes(`+quoted(phrase)+`))`)
		k.press(strings.Repeat(drive.Down, at+1), drive.Tab)
		assert.Equal(t, phrase, drive.Eval[string](p, `document.getElementById("say-phrase").value`))
		k.words(strings.Join(to, "; "))
		k.press(drive.Enter)
		p.Wait(`document.activeElement.id === "say-phrase" && document.getElementById("say-to").value === ""`)
	}
	say("sound", "is a k", "is a kind of", "vibration")
	say("", "moves", "moves through", "air", "water")
	say("", "is meas", "is measured in", "hertz")
	say("vibration", "leads", "leads to", "a sound wave")
	say("a sound wave", "is foll", "is followed by", "an echo")
	p.Settled()
	assert.ElementsMatch(t, []string{"sound is a kind of vibration", "sound moves through air, water", "sound is measured in hertz", "vibration leads to a sound wave", "a sound wave is followed by an echo"}, says(p))
	noOverlap(t, p)
	sameAfterReload(t, p)
	assert.Empty(t, p.Faults())
	t.Logf("%d strokes beyond %d letters for 6 propositions", k.extra, k.letters)
}

// Twenty propositions on the paper by keys alone take at most six strokes each
// beyond the letters of their new words.
func TestTwentyPropositionsTakeFewStrokes(t *testing.T) {
	t.Parallel()
	inSoak(t)
	app := drive.Start(t, binary, "serve", t.TempDir())
	p := browser.Page(t, 1280, 800)
	newMap(p, app.URL, "What makes a bell sound?", "empty", "")
	p.Wait(`document.activeElement === document.getElementById("desk")`)
	k := &typed{p: p}
	k.press(drive.Tab) // the first concept of empty paper
	p.Wait(`document.activeElement.matches(".noun-field")`)
	k.words("the bell")
	k.press(drive.Tab)
	noun := func(words string, end string) {
		p.Wait(`document.activeElement.matches(".noun-field")`)
		k.words(words)
		k.press(end)
	}
	verb := func(words string) {
		p.Wait(`document.activeElement.matches(".verb-field")`)
		k.words(words)
		k.press(drive.Enter)
	}
	// Down a branch by Tab, along it by Enter, back up by an arrow.
	for i, branch := range [][]string{
		{"has", "the rim", "the waist", "the crown", "the lip"},
		{"is struck by", "the clapper", "the hammer", "the mallet", "the log"},
		{"gives", "the hum", "the prime", "the tierce", "the quint"},
		{"hangs in", "the tower", "the frame", "the yard", "the hall"},
		{"is cast from", "copper", "tin", "iron", "silver"},
	} {
		if i > 0 {
			p.Wait(`document.activeElement === document.getElementById("desk")`)
			before := drive.Eval[string](p, `seen.chosen()`)
			k.press(drive.Escape, drive.Tab, drive.Tab)
			assert.NotEqual(t, before, drive.Eval[string](p, `seen.chosen()`))
		}
		verb(branch[0])
		noun(branch[1], drive.Enter)
		for _, words := range branch[2:] {
			p.Wait(`document.activeElement === document.getElementById("desk")`)
			k.press(drive.Enter)
			noun(words, drive.Enter)
		}
	}
	p.Settled()
	assert.Len(t, labels(p), 21)
	said := 0
	for _, s := range says(p) {
		said += strings.Count(s, ",") + 1
	}
	assert.Equal(t, 20, said)
	assert.LessOrEqual(t, float64(k.extra)/20, 6.0, "strokes for a proposition")
	t.Logf("%d strokes beyond %d letters: %.2f for a proposition", k.extra, k.letters, float64(k.extra)/20)
	noOverlap(t, p)
	assert.Empty(t, p.Faults())
}

package e2e_test

import (
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// outOfReach lists the controls that are shown and cannot be brought into the window
// whole, or under something else; and whether the page is wider than the window.
const outOfReach = `(() => {
	const wide = document.documentElement.scrollWidth, out = wide > innerWidth ? ["the page is " + wide + " wide"] : [];
	const open = [...document.querySelectorAll("dialog[open]")].at(-1) ?? (document.body.dataset.sheet === "tools" ? document.getElementById("tools") : document);
	const room = Math.min(innerHeight, document.documentElement.clientHeight); // what the page is laid out for may be less than what is shown
	for (const el of open.querySelectorAll("button, a[href], input, select, textarea, summary")) {
		if (!el.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true }) || el.disabled || el.closest(".unseen, [inert], svg")) continue;
		const seen = el.matches("input[type=radio], input[type=checkbox]") ? el.closest("label") ?? el : el;
		seen.scrollIntoView({ block: "nearest", inline: "nearest" });
		const r = seen.getBoundingClientRect();
		if (r.width < 2 || r.height < 2) continue;
		const name = seen.id || seen.dataset.do || seen.textContent.trim().slice(0, 30) || seen.outerHTML.slice(0, 60);
		if (r.left < -1 || r.right > innerWidth + 1 || r.height <= room && (r.top < -1 || r.bottom > innerHeight + 1)) { out.push(name + " is cut: " + [r.left, r.top, r.right, r.bottom].map(Math.round)); continue; }
		const at = document.elementFromPoint(r.left + r.width / 2, (Math.max(0, r.top) + Math.min(innerHeight, r.bottom)) / 2);
		if (!at || !(seen.contains(at) || at.contains(seen))) out.push(name + " is under " + (at?.id || at?.className?.baseVal || at?.className || at?.tagName));
	}
	return out;
})()`

// Whatever the window, every control can be reached whole, and no page is wider than it:
// phones, tablets upright, and a laptop's window at 200 and 400 %.
func TestEverythingIsWithinReachOnAnyWindow(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	sizes := [][2]int{{360, 740}, {320, 256}}
	if os.Getenv("MEVRIN_KILLS") != "" { // in the soak
		sizes = append(sizes, [2]int{640, 400}, [2]int{768, 1024})
	}
	for _, size := range sizes {
		p := browser.Page(t, size[0], size[1])
		phone := size[0] <= 760
		if phone {
			p.Tablet(size[0], size[1])
		}
		check := func(screen string) {
			t.Helper()
			assert.Empty(t, drive.Eval[[]string](p, outOfReach), fmt.Sprintf("%s at %d × %d", screen, size[0], size[1]))
		}
		p.Goto(app.URL)
		check("library")
		p.Press(`[name="begin"][value="outline"]`)
		check("library, an outline")
		p.Goto(app.URL + "/bin")
		check("bin")
		p.Goto(app.URL + "/maps/bell-sound/walk/cause")
		p.Press("#next")
		check("walk")
		p.Goto(app.URL + "/maps/bell-sound")
		check("paper")
		if phone {
			p.Press(`.thumb [data-do="tools-sheet"]`)
			check("all tools")
			p.Press(`.thumb [data-do="say-sheet"]`)
			p.Wait(`document.activeElement.id === "say-from"`)
			p.Insert("the bell")
			p.Press("#say-done")
			p.Wait(`document.activeElement.id === "say-phrase"`)
			check("a sentence")
			p.Press(`.thumb [data-do="column-sheet"]`)
		} else {
			p.Press("#column-switch")
		}
		p.Wait(`document.querySelectorAll("#outline li").length > 10`)
		check("outline")
		if phone {
			p.Press(`.thumb [data-do="margin-sheet"]`)
		} else {
			p.Press("#margin-switch")
		}
		p.Settled()
		for _, phase := range []string{"gather", "connect", "check", "guide"} {
			if phone {
				p.Press(`.thumb [data-do="tools-sheet"]`)
				p.Press(`#tools [data-phase="` + phase + `"]`)
			} else {
				p.Press(`.phases [data-phase="` + phase + `"]`)
			}
			p.Settled()
			check("margin, " + phase)
		}
		assert.Empty(t, p.Faults())
	}
}

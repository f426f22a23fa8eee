package e2e_test

import (
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// hindered names the controls of the editor's frame that are seen in part, or that something lies over; cramped
// the fields and the question that are too cramped to be read.
const (
	hindered = `[...document.querySelectorAll(".top :is(a, button), .foot :is(button, input), .plain-tools :is(button, a), #brief-panel summary, .hints button, .overview")].filter(el => el.checkVisibility({ visibilityProperty: true, opacityProperty: true })).flatMap(el => {
		const r = el.getBoundingClientRect(), name = el.id || el.dataset.do || el.className.toString().slice(0, 30);
		if (r.width < 2 || r.height < 2) return [];
		if (r.left < -1 || r.top < -1 || r.right > innerWidth + 1 || r.bottom > innerHeight + 1) return [name + " is cut off"];
		if (el.matches("button:not(#question), a") && el.scrollWidth > el.clientWidth + 1) return [name + " is too narrow for its words"];
		const at = document.elementFromPoint(r.left + r.width / 2, r.top + r.height / 2);
		return at && (el.contains(at) || at.contains(el)) ? [] : [name + " lies under " + (at?.id || at?.className.toString().slice(0, 30))];
	})`
	cramped = `[...document.querySelectorAll("#question, #say input")].filter(el => el.checkVisibility() && el.getBoundingClientRect().width > 2 && el.getBoundingClientRect().width < (el.id === "question" ? 180 : 100)).map(el => el.id + " has " + Math.round(el.getBoundingClientRect().width) + " px")`
)

// The editor's frame fits any window: nothing of it is cut off, or lies under something else; what is to be read or
// typed has the room for it, and the paper more than all the rest, whichever panel is open.
func TestTheEditorFitsAnyWindow(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	sizes := [][2]int{{1280, 680}, {1024, 768}, {820, 1180}, {844, 390}, {390, 844}}
	if os.Getenv("MEVRIN_KILLS") != "" { // the soak looks at more
		sizes = append(sizes, [2]int{1280, 800}, [2]int{768, 1024}, [2]int{932, 430})
	}
	for _, size := range sizes {
		p := browser.Page(t, size[0], size[1])
		paths := []string{"/maps/bell-sound"}
		if size[0] == 820 { // where a brief has to find its place
			paths = append(paths, "/maps/loudness")
		}
		for _, path := range paths {
			p.Goto(app.URL + path)
			p.Wait(`!!window.mevrin && mevrin.view.still`)
			for _, turned := range []string{"", "margin", "column"} { // as it opens; without the margin; with the column
				where := fmt.Sprint(size, path, turned)
				if turned != "" {
					drive.Eval[bool](p, `(mevrin.do(`+quoted(turned)+`), true)`)
					p.Settled()
				}
				assert.Empty(t, drive.Eval[[]string](p, hindered), where)
				assert.Empty(t, drive.Eval[[]string](p, cramped), where)
				assert.LessOrEqual(t, drive.Eval[int](p, `document.documentElement.scrollWidth`), size[0], where)
				free := drive.Eval[float64](p, `(() => {
					const cell = 20, desk = document.getElementById("desk"); let seen = 0, all = 0;
					for (let x = cell / 2; x < innerWidth; x += cell) for (let y = cell / 2; y < innerHeight; y += cell) { all++; if (desk.contains(document.elementFromPoint(x, y))) seen++; }
					return seen / all; })()`)
				assert.Greater(t, free, 0.3, where)
			}
		}
		if size[0] <= 820 {
			p.Goto(app.URL + "/maps/ring-again?hand=plain")
			p.Wait(`!!window.mevrin && mevrin.view.still`)
			assert.Empty(t, drive.Eval[[]string](p, hindered), "%v, the plain hand", size)
		}
		assert.Empty(t, p.Faults())
	}
}

package e2e_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/e2e/drive"
)

// At each stop, on whatever screen, all that it shows is seen whole with words that can be read:
// at once, or one look after the other.
func TestAllThatAStopShowsIsSeenOnAnyScreen(t *testing.T) {
	t.Parallel()
	app := drive.Start(t, binary, "demo", t.TempDir())
	sizes := [][2]int{{390, 844}, {844, 390}, {1280, 680}, {820, 1180}, {1024, 768}, {1920, 1080}}
	if os.Getenv("MEVRIN_KILLS") == "" { // the soak looks at all of them
		sizes = sizes[:3]
	}
	walked := sizes
	if len(sizes) > 3 { // the soak
		walked = append(walked, sizes[0])
	}
	for i, size := range walked {
		p := browser.Page(t, size[0], size[1])
		route, stops := "cause", 13
		if i == len(sizes) {
			route, stops = "older", 8 // which is drawn together
		}
		p.Goto(app.URL + "/maps/bell-sound/walk/" + route)
		p.Wait(`document.body.classList.contains("ready")`)
		for stop := range stops {
			p.Wait(fmt.Sprintf(`walk.at === %d && !walk.laying && seen.arrived()`, stop))
			if stop == 7 && route == "older" {
				break // the map as a whole is seen at once, however small
			}
			// What each look leaves out must be seen whole in another one of the stop.
			wanted := `[...walk.pick(walk.cards[walk.at].dataset.new), ...walk.pick(walk.cards[walk.at].dataset.shows)]`
			left := drive.Eval[[]string](p, `seen.cutOff(`+wanted+`)`)
			looks := drive.Eval[int](p, `walk.views.length`)
			for range looks - 1 {
				p.Keys(drive.Right)
				p.Wait(`seen.arrived()`)
				now := map[string]bool{}
				for _, cut := range drive.Eval[[]string](p, `seen.cutOff(`+wanted+`)`) {
					id, _, _ := strings.Cut(cut, " ")
					now[id] = true
				}
				var still []string
				for _, cut := range left {
					if id, _, _ := strings.Cut(cut, " "); now[id] {
						still = append(still, cut)
					}
				}
				left = still
			}
			assert.Empty(t, left, "%v, stop %d of %d looks", size, stop+1, looks)
			if size[0] >= 1280 {
				assert.LessOrEqual(t, looks, 3, "%v, stop %d", size, stop+1)
			}
			if stop < stops-1 {
				p.Keys(drive.Right)
			}
		}
		assert.Empty(t, p.Faults())
	}
}

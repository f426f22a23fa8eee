package main

import (
	"bytes"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"mevrin/e2e/drive"
)

// rooms is how many room screens follow while the way from key to room is measured.
const rooms = 5

// room measures how long it takes from a key at the guide desk until each room screen shows what it
// brings, and how long a walk of sixty stops over 300 concepts takes to open.
func room(t drive.T, b *drive.Browser, base string) {
	const stops = 60
	ops := []string{`{"do":"add-route","id":"long","title":"A long way"}`}
	after := ""
	for i := range stops {
		ops = append(ops, fmt.Sprintf(`{"do":"add-stop","id":"long%d","route":"long","after":%q,"refs":[{"kind":"concept","id":"c%05d"},{"kind":"concept","id":"c%05d"}]},{"do":"write-stop","stop":"long%d","part":"card","words":"This is *stop* %d, and what it says takes a line or two to read."}`, i, after, 4*i, 4*i+1, i, i))
		after = fmt.Sprintf("long%d", i)
	}
	response, err := http.Post(base+"/maps/map300/entries", "application/json", bytes.NewBufferString(`{"id":"long-route","window":"figures","seen":1,"operations":[`+strings.Join(ops, ",")+`]}`))
	if err != nil || response.StatusCode != http.StatusOK {
		t.Fatalf("the route was not made: %v %v", response, err)
	}
	_ = response.Body.Close()

	p := b.Page(t, 1280, 800)
	var times []float64
	for range 5 {
		p.Goto(base + "/maps/map300/walk/long")
		p.Wait(`performance.getEntriesByName("ready").length`)
		times = append(times, drive.Eval[float64](p, `performance.getEntriesByName("ready")[0].startTime`))
	}
	slices.Sort(times)
	fmt.Printf("a walk of %d stops over 300 concepts opens (aim: 700 ms), median of 5: %.0f ms\n", stops, at(times, 0.5))

	desk := b.Page(t, 1280, 800)
	desk.Goto(base + "/maps/map300/present?by=long")
	code := drive.Eval[string](desk, `document.body.dataset.code`)
	var screens []*drive.Page
	for range rooms {
		r := b.Page(t, 1280, 720)
		r.Goto(base + "/room/" + code)
		drive.Eval[bool](r, `(() => { window.shown = []; const show = room.stage.show.bind(room.stage); room.stage.show = (f) => { show(f); document.getElementById("desk").getBoundingClientRect(); window.shown.push(performance.timeOrigin + performance.now()); }; return true })()`)
		screens = append(screens, r)
	}
	desk.Front()
	drive.Eval[bool](desk, `(() => { window.pressed = []; addEventListener("keydown", () => window.pressed.push(performance.timeOrigin + performance.now()), true); return true })()`)
	for i := range 40 {
		desk.Keys(drive.PageDown)
		for _, r := range screens {
			r.Wait(fmt.Sprintf(`shown.length > %d`, i))
		}
		time.Sleep(400 * time.Millisecond) // whoever guides lets a room look: what glides has come to rest
	}
	pressed := drive.Eval[[]float64](desk, `pressed`)
	times = nil
	for _, r := range screens {
		for i, at := range drive.Eval[[]float64](r, `shown`)[:len(pressed)] {
			times = append(times, at-pressed[i])
		}
	}
	slices.Sort(times)
	fmt.Printf("from key to %d room screens on one machine, 300 concepts: median %.0f ms, p95 %.0f ms (aim: 100 ms)\n", rooms, at(times, 0.5), at(times, 0.95))
}

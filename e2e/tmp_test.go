package e2e_test

import (
	"testing"

	"mevrin/e2e/drive"
)

func TestTmp(t *testing.T) {
	app := drive.Start(t, binary, "demo", t.TempDir())
	p := browser.Page(t, 1280, 800)
	p.Goto(app.URL + "/maps/bell-sound/export")
	p.Wait(`document.querySelector(".export-preview img").naturalWidth > 0`)
	p.Shot("/tmp/a1.png")
	p.Goto(app.URL + "/maps/bell-sound/export?use=data&format=ttl")
	p.Shot("/tmp/a2.png")
	p.Goto(app.URL)
	drive.Eval[bool](p, `(() => { const d = new DataTransfer(); d.items.add(new File(["who,does,what\nthe clapper,strikes,the bell wall\nthe bell wall,gives off,sound\n,alone,\nsound,travels through,air\nair,carries,a wave"], "bells.csv")); return document.body.dispatchEvent(new DragEvent("drop", { dataTransfer: d, bubbles: true, cancelable: true })) || true })()`)
	p.Wait(`document.querySelector(".import-drawing")`)
	p.Shot("/tmp/a3.png")
	q := browser.Page(t, 390, 844)
	q.Goto(app.URL + "/maps/bell-sound/export")
	q.Shot("/tmp/a4.png")
}

package drive

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"sync"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

//go:embed seen.js
var seen string

// Page is one tab in a browser profile of its own.
type Page struct {
	t   T
	ctx context.Context

	mu     sync.Mutex
	faults []string
}

// hear keeps what a healthy page never says: exceptions, errors on the
// console, violations of the content security policy.
func (p *Page) hear(event any) {
	p.mu.Lock()
	defer p.mu.Unlock()
	switch e := event.(type) {
	case *runtime.EventExceptionThrown:
		p.faults = append(p.faults, "exception: "+e.ExceptionDetails.Text+" "+describe(e.ExceptionDetails.Exception))
	case *runtime.EventConsoleAPICalled:
		if e.Type == "error" || e.Type == "warning" {
			p.faults = append(p.faults, fmt.Sprintf("console %s: %s", e.Type, mustJSON(e.Args)))
		}
	case *log.EventEntryAdded:
		if e.Entry.Level == "error" {
			p.faults = append(p.faults, "log: "+e.Entry.Text)
		}
	}
}

func describe(o *runtime.RemoteObject) string {
	if o == nil {
		return ""
	}
	return o.Description
}

func mustJSON(v any) string {
	raw, _ := json.Marshal(v)
	return string(raw)
}

// Faults gives what the page complained about, but for what is expected.
func (p *Page) Faults(but ...string) []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	var all []string
next:
	for _, f := range p.faults {
		for _, b := range but {
			if strings.Contains(f, b) {
				continue next
			}
		}
		all = append(all, f)
	}
	return all
}

func (p *Page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.t.Fatalf("driving the page: %v", err)
	}
}

// arrived tells that the script of a page that has a paper is ready for hands.
const arrived = `document.readyState === "complete" && (!document.getElementById("desk") || !!window.mevrin && !window.mevrin.arrival.waiting.size || !!window.walk || !!window.judging || !!(window.room ?? window.guiding)?.stage.frame)`

// Goto opens an address and waits for the page to be ready for hands.
func (p *Page) Goto(url string) {
	p.t.Helper()
	p.do(chromedp.Navigate(url))
	p.Wait(arrived + ` && document.fonts.status === "loaded"`)
}

// Reload loads the page again.
func (p *Page) Reload() {
	p.t.Helper()
	p.do(chromedp.Reload())
	p.Wait(arrived)
}

// Eval evaluates an expression in a page.
func Eval[V any](p *Page, expression string) V {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[V](expression, chromedp.EvalAwaitPromise))
	// A page that is just being left cannot answer; the next one can.
	for tries := 0; err != nil && strings.Contains(err.Error(), "navigated or closed") && tries < 20; tries++ {
		time.Sleep(15 * time.Millisecond)
		v, err = chromedp.Run(ctx, chromedp.Evaluate[V](expression, chromedp.EvalAwaitPromise))
	}
	if err != nil {
		p.t.Fatalf("evaluating %s: %v", expression, err)
	}
	return v
}

// Wait waits until an expression is true. The page itself looks for it: asking from here
// again and again takes more work than what is waited for.
func (p *Page) Wait(condition string) {
	p.t.Helper()
	until := time.Now().Add(patience)
	for !Eval[bool](p, `new Promise((done, fail) => {
		const end = performance.now() + 1000;
		const look = () => {
			try {
				if (`+condition+`) done(true);
				else if (performance.now() > end) done(false);
				else setTimeout(look, 10);
			} catch (e) { fail(e); }
		};
		look();
	})`) {
		if time.Now().After(until) {
			shown := Eval[string](p, "(document.getElementById(\"margin\")?.innerText ?? \"\") + document.body.innerText.slice(0, 600)")
			p.t.Fatalf("waited in vain for %s\nthe page shows: %s\nfaults: %q", condition, shown, p.Faults())
		}
	}
}

// Until waits until a condition holds that is asked for from outside the page.
func (p *Page) Until(what string, holds func() bool) {
	p.t.Helper()
	until := time.Now().Add(patience)
	for !holds() {
		if time.Now().After(until) {
			p.t.Fatalf("waited in vain: %s", what)
		}
		time.Sleep(15 * time.Millisecond)
	}
}

// Settled waits until everything that was done is answered and saved, and the
// margin shows it.
func (p *Page) Settled() {
	p.t.Helper()
	p.Wait(`seen.saved() && seen.told() && seen.calm() && !window.mevrin?.brief?.pending`)
}

// Keys presses keys: names as in kb, or text to be typed.
func (p *Page) Keys(keys ...string) {
	p.t.Helper()
	for _, k := range keys {
		for _, r := range k {
			p.key(r, 0)
		}
	}
}

// Insert puts text into the field that has the keyboard, at once, as a keyboard on the
// screen does.
func (p *Page) Insert(text string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	if _, err := chromedp.Call(ctx, input.InsertText, input.InsertTextParams{Text: text}); err != nil {
		p.t.Fatalf("typing %q: %v", text, err)
	}
}

// key presses and releases one key as a keyboard does: the character comes of
// the press, and not at all where the page has prevented it.
func (p *Page) key(r rune, m chromedp.Modifier) {
	p.t.Helper()
	var down, up *input.DispatchKeyEventParams
	for _, e := range kb.Encode(r) {
		switch e.Type {
		case kb.KeyChar:
			down.Type, down.Text, down.UnmodifiedText = kb.KeyDown, e.Text, e.UnmodifiedText
		case kb.KeyUp:
			up = e
		default:
			down = e
		}
	}
	if m&kb.ModifierCtrl != 0 {
		down.Type, down.Text, down.UnmodifiedText = kb.KeyRawDown, "", ""
	}
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	for _, e := range []*input.DispatchKeyEventParams{down, up} {
		e.Modifiers |= int64(m)
		if _, err := chromedp.Call(ctx, input.DispatchKeyEvent, *e); err != nil {
			p.t.Fatalf("pressing %q: %v", r, err)
		}
	}
}

// Ctrl presses a key together with Control.
func (p *Page) Ctrl(key string) {
	p.t.Helper()
	for _, r := range key {
		p.key(r, kb.ModifierCtrl)
	}
}

// Shift presses a key together with Shift.
func (p *Page) Shift(key string) {
	p.t.Helper()
	for _, r := range key {
		p.key(r, kb.ModifierShift)
	}
}

// CtrlShift presses a key together with Control and Shift.
func (p *Page) CtrlShift(key string) {
	p.t.Helper()
	for _, r := range key {
		p.key(r, kb.ModifierCtrl|kb.ModifierShift)
	}
}

// The keys used most.
const (
	Enter  = kb.Enter
	Tab    = kb.Tab
	Escape = kb.Escape
	F1     = kb.F1
	Delete = kb.Delete
	F2     = kb.F2
	Left   = kb.ArrowLeft
	Right  = kb.ArrowRight
	Home   = kb.Home
	End    = kb.End
	Up     = kb.ArrowUp
	Down   = kb.ArrowDown

	PageUp    = kb.PageUp
	PageDown  = kb.PageDown
	Backspace = kb.Backspace
	F5        = kb.F5
)

func pressed(p *input.DispatchMouseEventParams) {
	p.Button = input.MouseButtonLeft
	p.Buttons = 1
	p.ClickCount = 1
}

func with(m chromedp.Modifier) chromedp.MouseOption {
	return func(p *input.DispatchMouseEventParams) { p.Modifiers = int64(m) }
}

// Click presses and releases the pointer at a place of the window.
func (p *Page) Click(x, y float64) { p.t.Helper(); p.click(x, y, 0) }

// CtrlClick does so with Control held.
func (p *Page) CtrlClick(x, y float64) { p.t.Helper(); p.click(x, y, kb.ModifierCtrl) }

func (p *Page) click(x, y float64, m chromedp.Modifier) {
	p.t.Helper()
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, x, y), chromedp.MouseEvent(chromedp.MousePressed, x, y, pressed, with(m)), chromedp.MouseEvent(chromedp.MouseReleased, x, y, pressed, with(m)))
}

// between is the time from one click or tap to the next of a double one, as
// the page is told it: however slow the machine is.
const between = 120 * time.Millisecond

// DoubleClick clicks twice.
func (p *Page) DoubleClick(x, y float64) {
	p.t.Helper()
	first := time.Now()
	for _, at := range []time.Time{first, first.Add(between)} {
		then := func(e *input.DispatchMouseEventParams) { e.Timestamp = stamp(at) }
		p.do(chromedp.MouseEvent(chromedp.MouseMoved, x, y, then), chromedp.MouseEvent(chromedp.MousePressed, x, y, pressed, then), chromedp.MouseEvent(chromedp.MouseReleased, x, y, pressed, then))
	}
}

// Hover moves the pointer.
func (p *Page) Hover(x, y float64) {
	p.t.Helper()
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, x, y))
}

// Drag presses at one place and releases at another, with moves in between.
// What is given as during is called before the release.
func (p *Page) Drag(x0, y0, x1, y1 float64, during ...func()) {
	p.t.Helper()
	p.DragWith(0, x0, y0, x1, y1, during...)
}

// DragWith drags with a modifier key held.
func (p *Page) DragWith(m chromedp.Modifier, x0, y0, x1, y1 float64, during ...func()) {
	p.t.Helper()
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, x0, y0), chromedp.MouseEvent(chromedp.MousePressed, x0, y0, pressed, with(m)))
	const steps = 8
	for i := 1; i <= steps; i++ {
		f := float64(i) / steps
		p.do(chromedp.MouseEvent(chromedp.MouseMoved, x0+(x1-x0)*f, y0+(y1-y0)*f, pressed, with(m)))
	}
	for _, f := range during {
		f()
	}
	p.do(chromedp.MouseEvent(chromedp.MouseReleased, x1, y1, pressed, with(m)))
}

// Wheel turns the wheel at a place; with Control it zooms.
func (p *Page) Wheel(x, y, dx, dy float64, ctrl bool) {
	p.t.Helper()
	var m chromedp.Modifier
	if ctrl {
		m = kb.ModifierCtrl
	}
	p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseWheel, x, y, with(m), func(e *input.DispatchMouseEventParams) {
		// A zero would be left out of the message, and one of them is asked for.
		e.DeltaX, e.DeltaY = dx+1e-3, dy+1e-3
	}))
}

// Finger is one touch.
type Finger struct{ X, Y float64 }

// Touch sends one state of the fingers: "touchStart", "touchMove", "touchEnd".
func (p *Page) Touch(kind string, fingers ...Finger) {
	p.t.Helper()
	p.touch(time.Now(), kind, fingers...)
}

func (p *Page) touch(at time.Time, kind string, fingers ...Finger) {
	p.t.Helper()
	points := []*input.TouchPoint{}
	for i, f := range fingers {
		points = append(points, &input.TouchPoint{X: f.X, Y: f.Y, ID: new(float64(i))})
	}
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	if _, err := chromedp.Call(ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: input.DispatchTouchEventType(kind), TouchPoints: points, Timestamp: stamp(at)}); err != nil {
		p.t.Fatalf("touching: %v", err)
	}
}

// Tablet makes the window that of a tablet: fingers, no pointer that hovers.
func (p *Page) Tablet(width, height int) {
	p.t.Helper()
	p.do(chromedp.EmulateViewport(int64(width), int64(height), chromedp.EmulateTouch, chromedp.EmulateMobile))
}

// Tap taps the middle of the element that a CSS selector finds.
func (p *Page) Tap(selector string) {
	p.t.Helper()
	Eval[bool](p, fmt.Sprintf(`(() => { const e = document.querySelector(%q); if (e instanceof HTMLElement && !e.closest("#desk")) e.scrollIntoView({ block: "nearest" }); return true })()`, selector))
	p.TapAt(p.Middle(selector))
}

// TapAt taps with one finger.
func (p *Page) TapAt(x, y float64) {
	p.t.Helper()
	p.Touch("touchStart", Finger{x, y})
	p.Touch("touchEnd")
}

// DoubleTap taps twice with one finger.
func (p *Page) DoubleTap(x, y float64) {
	p.t.Helper()
	first := time.Now()
	for _, at := range []time.Time{first, first.Add(between)} {
		p.touch(at, "touchStart", Finger{x, y})
		p.touch(at, "touchEnd")
	}
}

// Middle gives the middle of the first element that a CSS selector finds.
func (p *Page) Middle(selector string) (x, y float64) {
	p.t.Helper()
	// What glides is not where it will be, and what tells of another thing takes no press.
	p.Wait(fmt.Sprintf(`seen.calm() && !document.querySelector(%q)?.closest("[inert]")`, selector))
	at := Eval[[]float64](p, fmt.Sprintf(`(() => { const r = document.querySelector(%q)?.getBoundingClientRect(); return r ? [r.x + r.width / 2, r.y + r.height / 2] : [] })()`, selector))
	if len(at) != 2 {
		p.t.Fatalf("the page has no %s", selector)
	}
	return at[0], at[1]
}

// Press clicks the middle of the element that a CSS selector finds; what has
// been scrolled away in a list is brought back first, as by a wheel.
func (p *Page) Press(selector string) {
	p.t.Helper()
	// What is about to be replaced by a newer margin would be pressed in vain,
	// and what is not there may come with it.
	p.Wait(fmt.Sprintf(`(e => e && !e.closest("#margin") || !window.mevrin?.margin?.pending)(document.querySelector(%q))`, selector))
	Eval[bool](p, fmt.Sprintf(`(() => { const e = document.querySelector(%q); if (e instanceof HTMLElement && !e.closest("#desk")) e.scrollIntoView({ block: "nearest" }); return true })()`, selector))
	x, y := p.Middle(selector)
	p.Click(x, y)
}

// Slip gives the selector of the concept with these words.
func (p *Page) Slip(words string) string {
	p.t.Helper()
	id := Eval[string](p, fmt.Sprintf(`seen.concept(%q)?.id ?? ""`, words))
	if id == "" {
		p.t.Fatalf("no concept says %q", words)
	}
	return `[id="c-` + id + `"]`
}

// Shot writes a picture of the window.
func (p *Page) Shot(file string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	if err == nil {
		err = os.WriteFile(file, png, 0o644)
	}
	if err != nil {
		p.t.Fatalf("taking a picture: %v", err)
	}
}

// DragPath drags along a path of many points, one for each frame or so.
func (p *Page) DragPath(x0, y0 float64, steps int, at func(i int) (x, y float64)) {
	p.t.Helper()
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, x0, y0), chromedp.MouseEvent(chromedp.MousePressed, x0, y0, pressed))
	x, y := x0, y0
	for i := range steps {
		x, y = at(i)
		p.do(chromedp.MouseEvent(chromedp.MouseMoved, x, y, pressed))
	}
	p.do(chromedp.MouseEvent(chromedp.MouseReleased, x, y, pressed))
}

// Menu presses the menu key.
func (p *Page) Menu() {
	p.t.Helper()
	p.do(chromedp.KeyEvent(kb.F10, chromedp.KeyModifiers(kb.ModifierShift)))
}

// RightClick asks for the menu of what is at a place.
func (p *Page) RightClick(x, y float64) {
	p.t.Helper()
	right := func(e *input.DispatchMouseEventParams) {
		e.Button, e.Buttons, e.ClickCount = input.MouseButtonRight, 2, 1
	}
	p.do(chromedp.MouseEvent(chromedp.MouseMoved, x, y), chromedp.MouseEvent(chromedp.MousePressed, x, y, right), chromedp.MouseEvent(chromedp.MouseReleased, x, y, right))
}

// stamp is a time as the browser is told it: seconds since 1970.
func stamp(at time.Time) input.TimeSinceEpoch {
	return input.TimeSinceEpoch(float64(at.UnixMicro()) / 1e6)
}

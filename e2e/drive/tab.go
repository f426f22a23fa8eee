package drive

import (
	"context"
	"sync"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/storage"
	"github.com/chromedp/chromedp"
)

// tab is a tab in a browser profile of its own. A fresh one costs half a second of work, so
// that one test hands it on to the next, emptied of all that a site can leave behind.
type tab struct {
	ctx    context.Context
	cancel func()

	mu   sync.Mutex
	page *Page // that has it now
}

// Page opens a tab of a size, in which things do not glide unless Motion asks for it.
func (b *Browser) Page(t T, width, height int) *Page {
	t.Helper()
	own := b.take()
	if own == nil {
		own = open(t, b)
	}
	p := &Page{t: t, ctx: own.ctx}
	own.has(p)
	t.Cleanup(func() {
		if own.has(nil); own.emptied() {
			b.mu.Lock()
			b.free = append(b.free, own)
			b.mu.Unlock()
			return
		}
		own.cancel()
	})
	p.do(chromedp.EmulateViewport(int64(width), int64(height)))
	p.motion("reduce")
	return p
}

func (b *Browser) take() *tab {
	b.mu.Lock()
	defer b.mu.Unlock()
	n := len(b.free)
	if n == 0 {
		return nil
	}
	last := b.free[n-1]
	b.free = b.free[:n-1]
	return last
}

func open(t T, b *Browser) *tab {
	t.Helper()
	ctx, cancel := chromedp.NewContext(b.ctx, chromedp.WithNewBrowserContext())
	own := &tab{ctx: ctx, cancel: func() { _ = chromedp.Cancel(ctx); cancel() }}
	// The tab lives as long as the context that first uses it.
	if err := chromedp.Do(ctx); err != nil {
		t.Fatalf("opening a tab: %v", err)
	}
	if err := chromedp.Listen(ctx, own.hear); err != nil {
		t.Fatalf("listening: %v", err)
	}
	if _, err := chromedp.Call(ctx, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: seen}); err != nil {
		t.Fatalf("teaching the page what is seen: %v", err)
	}
	return own
}

func (own *tab) has(p *Page) {
	own.mu.Lock()
	defer own.mu.Unlock()
	own.page = p
}

func (own *tab) hear(event any) {
	own.mu.Lock()
	p := own.page
	own.mu.Unlock()
	if p != nil {
		p.hear(event)
	}
}

// emptied leaves the site and takes away what it kept. It tells whether that went well; a tab
// that asks back, or hangs, is not handed on.
func (own *tab) emptied() bool {
	ctx, cancel := context.WithTimeout(own.ctx, 2*time.Second)
	defer cancel()
	origin, err := chromedp.Run(ctx, chromedp.Evaluate[string]("location.origin", chromedp.EvalAwaitPromise))
	if err != nil || chromedp.Do(ctx, chromedp.Navigate("about:blank")) != nil {
		return false
	}
	if _, err := chromedp.Call(ctx, network.ClearBrowserCookies, cdp.Empty{}); err != nil {
		return false
	}
	if origin != "null" {
		if _, err := chromedp.Call(ctx, storage.ClearDataForOrigin, storage.ClearDataForOriginParams{Origin: origin, StorageTypes: "all"}); err != nil {
			return false
		}
	}
	return true
}

// Front brings the tab to the front: of others no frames are drawn.
func (p *Page) Front() {
	p.t.Helper()
	if _, err := chromedp.Call(p.ctx, page.BringToFront, cdp.Empty{}); err != nil {
		p.t.Fatalf("bringing the tab to the front: %v", err)
	}
}

// Motion lets things glide, as for everybody whose system does not ask for less.
func (p *Page) Motion() { p.t.Helper(); p.motion("no-preference") }

func (p *Page) motion(wish string) {
	p.t.Helper()
	features := []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: wish}}
	if _, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: features}); err != nil {
		p.t.Fatalf("asking for motion or none: %v", err)
	}
}

// MayCopy lets the page write to the clipboard, as whoever was asked by the browser and agreed.
func (p *Page) MayCopy() {
	p.t.Helper()
	own := chromedp.FromContext(p.ctx).BrowserContextID
	may := browser.SetPermissionParams{Permission: &browser.PermissionDescriptor{Name: "clipboard-write"}, Setting: browser.PermissionSettingGranted, BrowserContextID: own}
	if _, err := chromedp.CallBrowser(p.ctx, browser.SetPermission, may); err != nil {
		p.t.Fatalf("allowing the clipboard: %v", err)
	}
}

// GotoBare opens an address in a page whose scripts do not run, until the test ends; what Eval asks is
// answered all the same.
func (p *Page) GotoBare(url string) {
	p.t.Helper()
	p.scripts(false)
	p.t.Cleanup(func() { p.scripts(true) })
	p.do(chromedp.Navigate(url))
}

func (p *Page) scripts(run bool) {
	if _, err := chromedp.Call(p.ctx, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{Value: !run}); err != nil {
		p.t.Fatalf("switching scripts: %v", err)
	}
}

// Package drive starts the real binary and a real browser and works them as a
// person does: with keys, a pointer, fingers. The tests and the makers of
// screenshots share it.
package drive

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"os/exec"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/chromedp/chromedp"
)

// T is what is needed of a test; the makers of screenshots bring their own.
type T interface {
	Helper()
	Fatalf(format string, args ...any)
	Cleanup(func())
	Logf(format string, args ...any)
}

// App is a running Mevrin.
type App struct {
	URL string
	cmd *exec.Cmd
	log *tail
}

type tail struct {
	mu  sync.Mutex
	buf bytes.Buffer
}

func (t *tail) Write(p []byte) (int, error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	return t.buf.Write(p)
}

func (t *tail) String() string {
	t.mu.Lock()
	defer t.mu.Unlock()
	return t.buf.String()
}

// Start runs a binary on a data folder at a free port and waits until it says
// that it is ready.
func Start(t T, binary, command, data string, more ...string) *App {
	t.Helper()
	if command == "demo" && !slices.Contains(more, "--people") { // most tests are about maps, not about whose they are
		more = append(more, "--alone")
	}
	a := &App{log: &tail{}, cmd: exec.Command(binary, append([]string{command, "--addr", "127.0.0.1:0", "--data", data}, more...)...)}
	a.cmd.Stderr = a.log
	out, err := a.cmd.StdoutPipe()
	if err == nil {
		err = a.cmd.Start()
	}
	if err != nil {
		t.Fatalf("starting %s: %v", binary, err)
	}
	t.Cleanup(a.Kill)
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		_ = a.cmd.Wait()
		t.Fatalf("the application did not start: %v\n%s", err, a.log)
	}
	go func() { _, _ = io.Copy(io.Discard, out) }()
	a.URL = line[strings.Index(line, "http://") : len(line)-1]
	return a
}

// Kill ends the process at once, as a power cut would.
func (a *App) Kill() {
	if a.cmd.ProcessState == nil {
		_ = a.cmd.Process.Kill()
		_ = a.cmd.Wait()
	}
}

// Log gives what the application has logged.
func (a *App) Log() string { return a.log.String() }

// PID gives the process's id.
func (a *App) PID() int { return a.cmd.Process.Pid }

// FindBrowser names the browser to use: that of the variable MEVRIN_BROWSER,
// or the first known one on the path.
func FindBrowser() (string, error) {
	if named := os.Getenv("MEVRIN_BROWSER"); named != "" {
		return named, nil
	}
	for _, name := range []string{"chromium-headless-shell", "chromium", "chromium-browser", "google-chrome"} {
		if path, err := exec.LookPath(name); err == nil {
			return path, nil
		}
	}
	return "", fmt.Errorf("no Chromium was found; `make test` installs one, or name yours in MEVRIN_BROWSER")
}

// Browser is a running browser.
type Browser struct {
	ctx  context.Context
	mu   sync.Mutex
	free []*tab // that wait to be used again
}

// Open starts the browser; more options come after its own.
func Open(t T, more ...chromedp.ExecAllocatorOption) *Browser {
	t.Helper()
	path, err := FindBrowser()
	if err != nil {
		t.Fatalf("%v", err)
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath(path), chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-gpu", true), chromedp.Flag("disable-quic", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("no-pings", true),
		chromedp.Flag("host-resolver-rules", "MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost"),
	)
	if os.Geteuid() == 0 {
		options = append(options, chromedp.NoSandbox)
	}
	options = append(options, more...)
	alloc, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, cancel := chromedp.NewContext(alloc)
	if err := chromedp.Do(ctx); err != nil {
		t.Fatalf("starting %s: %v", path, err)
	}
	t.Cleanup(func() {
		_ = chromedp.Cancel(ctx)
		cancel()
		stop()
	})
	return &Browser{ctx: ctx}
}

// patience bounds every wait for a condition; reaching it is a failure.
const patience = 20 * time.Second

// Program is a T for a program of its own: a fatal error ends it.
type Program struct{ cleanups []func() }

// Helper does nothing.
func (p *Program) Helper() {}

// Cleanup notes what End does, the last first.
func (p *Program) Cleanup(f func()) { p.cleanups = append(p.cleanups, f) }

// Logf prints.
func (p *Program) Logf(format string, args ...any) { fmt.Printf(format+"\n", args...) }

// Fatalf says why, cleans up and ends the program.
func (p *Program) Fatalf(format string, args ...any) {
	fmt.Fprintf(os.Stderr, format+"\n", args...)
	p.End()
	os.Exit(1)
}

// End cleans up.
func (p *Program) End() {
	for _, f := range slices.Backward(p.cleanups) {
		f()
	}
	p.cleanups = nil
}

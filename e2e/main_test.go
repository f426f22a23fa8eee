// Package e2e_test drives the real interface of the real binary.
package e2e_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"mevrin/e2e/drive"
)

var (
	binary  string
	browser *drive.Browser
)

// outer is a drive.T for what lasts as long as all tests.
type outer struct{ cleanups []func() }

func (o *outer) Helper()                   {}
func (o *outer) Cleanup(f func())          { o.cleanups = append(o.cleanups, f) }
func (o *outer) Logf(f string, a ...any)   { fmt.Printf(f+"\n", a...) }
func (o *outer) Fatalf(f string, a ...any) { fmt.Fprintf(os.Stderr, f+"\n", a...); os.Exit(1) }

func TestMain(m *testing.M) {
	o := &outer{}
	dir, err := os.MkdirTemp("", "mevrin-e2e")
	if err != nil {
		o.Fatalf("%v", err)
	}
	binary = build(o, dir, "mevrin")
	browser = drive.Open(o)
	code := m.Run()
	for i := len(o.cleanups) - 1; i >= 0; i-- {
		o.cleanups[i]()
	}
	_ = os.RemoveAll(dir)
	os.Exit(code)
}

// build makes the binary that is tested.
func build(t drive.T, dir, name string, args ...string) string {
	path := filepath.Join(dir, name)
	out, err := exec.Command("go", append(append([]string{"build", "-o", path}, args...), "mevrin/cmd/mevrin")...).CombinedOutput()
	if err != nil {
		t.Fatalf("building: %v\n%s", err, out)
	}
	return path
}

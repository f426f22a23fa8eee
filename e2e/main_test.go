// Package e2e_test drives the real interface of the real binary.
package e2e_test

import (
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

func TestMain(m *testing.M) {
	o := &drive.Program{}
	dir, err := os.MkdirTemp("", "mevrin-e2e")
	if err != nil {
		o.Fatalf("%v", err)
	}
	binary = build(o, dir, "mevrin")
	browser = drive.Open(o)
	code := m.Run()
	o.End()
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

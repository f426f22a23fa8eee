package e2e_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/e2e/drive"
)

// TestTheContainer uses the image that MEVRIN_CONTAINER names as docs/running.md says: its owner makes an
// account and a map whose page is too large to wait in memory; a backup is taken out of it while it runs; and what was
// made is there after it was stopped and another was started on the same volume.
func TestTheContainer(t *testing.T) {
	image := os.Getenv("MEVRIN_CONTAINER")
	if image == "" {
		t.Skip("scripts/container.sh builds the image")
	}
	volume := "mevrin-tried-" + strings.ToLower(filepath.Base(t.TempDir()))
	podman := func(args ...string) string {
		t.Helper()
		var said, faults bytes.Buffer
		c := exec.Command("podman", append([]string{"--runtime", "runc", "--cgroup-manager", "cgroupfs"}, args...)...)
		c.Stdout, c.Stderr = &said, &faults
		require.NoError(t, c.Run(), faults.String())
		return said.String()
	}
	t.Cleanup(func() { _ = exec.Command("podman", "volume", "rm", "--force", volume).Run() })
	begin := func(more ...string) (name, port string) {
		run := append([]string{"run", "-d", "--ulimit", "nofile=4096:4096", "--ulimit", "nproc=1024:1024", "--memory", "512m", "-p", "127.0.0.1::8240", "-v", volume + ":/data"}, more...)
		name = strings.TrimSpace(podman(append(run, image, "--host", "maps.hollin.example")...))
		t.Cleanup(func() { _ = exec.Command("podman", "rm", "--force", name).Run() })
		_, port, _ = strings.Cut(strings.TrimSpace(podman("port", name, "8240")), ":")
		return name, port
	}
	name, port := begin()
	p := browser.Page(t, 1280, 800)
	first := regexp.MustCompile(`http://maps\.hollin\.example:8240(/first/\S+)`)
	p.Until("the container says where its owner comes in", func() bool { return first.MatchString(podman("logs", name)) })
	at := "http://127.0.0.1:" + port
	p.Goto(at + first.FindStringSubmatch(podman("logs", name))[1])
	p.Press(`[name="name"]`)
	p.Keys("Ines Hallam", drive.Tab, "ines@hollin.example", drive.Tab, "bronze rope lantern", drive.Enter)
	p.Wait(`document.querySelector('[name="begin"]')`)
	p.Press(`[name="begin"][value="outline"]`)
	p.Press("#lines")
	p.Insert("a bell\n  has a rope\n  has a wheel")
	p.Press(".begin .button.main")
	p.Wait(`!!window.mevrin && location.pathname.startsWith("/maps/")`)
	path := drive.Eval[string](p, `location.pathname`)
	drive.Eval[bool](p, `seen.elsewhere(Array.from({ length: 400 }, (_, i) => ({ do: "add-concept", id: "many" + i, label: "a rope of the tower, number " + i, at: { x: (i % 20) * 300, y: 400 + Math.floor(i / 20) * 80 } })))`)
	p.Reload()
	p.Wait(`window.seen?.concepts().length >= 400`)
	assert.Greater(t, drive.Eval[int](p, `document.documentElement.outerHTML.length`), 256<<10, "the page is larger than what is kept in memory")

	backup := filepath.Join(t.TempDir(), "backup.zip")
	require.NoError(t, os.WriteFile(backup, []byte(podman("exec", name, "/mevrin", "backup", "-", "--data", "/data")), 0o600))
	podman("stop", name)
	assert.Equal(t, "0\n", podman("inspect", name, "--format", "{{.State.ExitCode}}"), "it ends in order")
	folder := filepath.Join(t.TempDir(), "restored")
	out, err := exec.Command(binary, "restore", backup, "--data", folder).CombinedOutput()
	require.NoError(t, err, string(out))
	assert.Contains(t, string(out), "maps 1 · files 0")

	again, port := begin("--read-only", "--tmpfs", "/tmp:mode=1777")
	p.Until("the container answers", func() bool { return strings.Contains(podman("logs", again), "is ready") })
	p.Goto("http://127.0.0.1:" + port + path) // cookies know no ports: she is still signed in
	p.Wait(`window.seen?.concepts().length >= 400`)
	assert.NotContains(t, podman("logs", again), "Nobody has an account")
	assert.Empty(t, p.Faults("ERR_CONNECTION_REFUSED"))
}

package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"mevrin/e2e/drive"
)

// memory measures what the process of a page has for itself, in MB: with an empty page, with
// each map just opened, and after a while of work on it.
func memory(t drive.T, b *drive.Browser, base string) {
	fmt.Println("memory that a page's process has for itself (aim at 1,000: 150 MB): opened / after work, and of that an empty page")
	for _, n := range sizes[1:] {
		before := private()
		p := b.Page(t, 1280, 800)
		p.Goto(base + "/help")
		process, empty := grown(before)
		p.Goto(fmt.Sprintf("%s/maps/map%d", base, n))
		p.Wait(`mevrin.view.still`)
		time.Sleep(3 * time.Second)
		opened := private()[process]
		for i := range 90 {
			p.Wheel(500, 400, float64(80-160*(i/15%2)), 0, false)
			p.Wheel(500, 400, 0, float64(20-40*(i/15%2)), true)
		}
		for i := range 10 {
			drive.Eval[bool](p, fmt.Sprintf(`(() => { mevrin.choose("c-c%05d"); return true })()`, i))
			p.Keys(drive.F2, "hum", drive.Enter)
			p.Settled()
		}
		p.Wait(`mevrin.view.still`)
		time.Sleep(3 * time.Second)
		fmt.Printf("  %5d concepts %5.0f / %.0f MB (empty page %.0f MB)\n", n, opened, private()[process], empty)
	}
}

// private gives what each process that draws pages has for itself, in MB.
func private() map[int]float64 {
	all := map[int]float64{}
	dirs, _ := filepath.Glob("/proc/[0-9]*")
	for _, dir := range dirs {
		if line, _ := os.ReadFile(dir + "/cmdline"); !strings.Contains(string(line), "--type=renderer") {
			continue
		}
		maps, _ := os.ReadFile(dir + "/smaps_rollup")
		pid, _ := strconv.Atoi(filepath.Base(dir))
		for line := range strings.Lines(string(maps)) {
			if what, rest, _ := strings.Cut(line, ":"); strings.HasPrefix(what, "Private_") {
				kb, _ := strconv.ParseFloat(strings.Fields(rest)[0], 64)
				all[pid] += kb / 1024
			}
		}
	}
	return all
}

// grown gives the process that is new, or grew most, and what it has.
func grown(before map[int]float64) (process int, has float64) {
	most := -1.0
	for pid, now := range private() {
		if by := now - before[pid]; by > most {
			most, process, has = by, pid, now
		}
	}
	return process, has
}

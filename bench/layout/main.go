// Command layout judges the patterns on the graphs beside it, against what
// general graph-layout engines made of the same graphs (anchors.json), class by
// class. README.md explains the table.
package main

import (
	"cmp"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/measured"
)

// family is a pattern with the engines that it is judged against.
type family struct {
	pattern string
	engines []string
	clutter bool    // judged by clutter, not by crossings alone
	area    float64 // that may be taken, against the engine with the least
}

var families = []family{
	{"levels", []string{"dot", "dot-ph", "elk-layered"}, false, 1.1},
	{"rings", []string{"twopi", "elk-mrtree", "d3-radial", "d3-tree", "elk-radial"}, true, 1},
	{"sides", []string{"twopi", "elk-mrtree", "d3-radial", "d3-tree", "elk-radial"}, true, 1},
	{"web", []string{"neato", "neato-ph", "sfdp", "sfdp-ph", "cose", "d3-force"}, true, 1.2},
}

// anchor is what an engine made of a graph.
type anchor struct {
	Crossings float64 `json:"crossings"`
	Clutter   float64 `json:"clutter"`
	Area      float64 `json:"area"`
	MS        float64 `json:"ms"`
}

// result is what a pattern made of a graph.
type result struct {
	graph string
	metrics
	ms float64
}

func main() {
	dir := flag.String("dir", "bench/layout", "where graphs and anchors are")
	only := flag.String("only", "", "classes or graphs whose names begin so, with commas")
	most := flag.Int("most", 1200, "larger graphs are left out")
	pattern := flag.String("pattern", "", "one pattern alone")
	steadily := flag.Bool("steady", false, "how far others move when a leaf is added to a map that is kept in order")
	kept := flag.Bool("kept", false, "siblings keep their order")
	others := flag.Bool("others", false, "the other patterns, too, by their properties")
	flag.Parse()
	if err := run(*dir, *only, *most, *pattern, !*kept, *others, *steadily); err != nil {
		fmt.Fprintln(os.Stderr, "layout:", err)
		os.Exit(1)
	}
}

func run(dir, only string, most int, pattern string, freely, others, steadily bool) error {
	graphs, classes, err := load(filepath.Join(dir, "graphs"), only, most)
	if err != nil {
		return err
	}
	raw, err := os.ReadFile(filepath.Join(dir, "anchors.json"))
	if err != nil {
		return err
	}
	var anchors map[string]map[string]anchor
	if err := json.Unmarshal(raw, &anchors); err != nil {
		return err
	}
	if steadily {
		steadiness(pattern, graphs, classes)
		return nil
	}
	for _, f := range families {
		if pattern != "" && f.pattern != pattern {
			continue
		}
		what := "crossings"
		if f.clutter {
			what = "clutter"
		}
		fmt.Printf("\n%s, by %s (medians; bounds in brackets; * where one is not met)\n\n", f.pattern, what)
		fmt.Printf("| class | graphs | %s | least of %s | area / content | aspect | ms | overlaps, hits, phrases on boxes, on phrases, far |\n| --- | --- | --- | --- | --- | --- | --- | --- |\n", what, strings.Join(f.engines, ", "))
		for _, class := range classes {
			row(f, class, graphs[class], freely, anchors)
		}
	}
	if others {
		for _, p := range []string{"levels-up", "levels-right", "levels-left", "sides", "spine", "rows"} {
			bad := metrics{}
			for _, class := range classes {
				for _, g := range graphs[class] {
					m := draw(p, freely, g)
					bad.Overlaps, bad.Hits, bad.OnBox, bad.OnPhrase, bad.Far = bad.Overlaps+m.Overlaps, bad.Hits+m.Hits, bad.OnBox+m.OnBox, bad.OnPhrase+m.OnPhrase, bad.Far+m.Far
				}
			}
			fmt.Printf("\n%s: boxes on boxes %d, lines through boxes %d, phrases on boxes %d, on phrases %d, far from their lines %d\n", p, bad.Overlaps, bad.Hits, bad.OnBox, bad.OnPhrase, bad.Far)
		}
	}
	return nil
}

// steadiness prints how far things move.
func steadiness(only string, graphs map[string][]*measured.File, classes []string) {
	fmt.Printf("| pattern | class | median (12) | 90th percentile (80) | again: median (60) | worst |\n| --- | --- | --- | --- | --- | --- |\n")
	for _, p := range []string{"levels", "levels-right", "sides", "rings", "web", "spine", "rows"} {
		if only != "" && p != only {
			continue
		}
		for _, class := range classes {
			half, nine, again, worst := steady(p, graphs[class])
			fmt.Printf("| %s | %s | %.0f | %.0f | %.0f | %s |\n", p, class, half, nine, again, worst)
		}
	}
}

// load reads the graphs by their classes, in the order of their sizes.
func load(dir, only string, most int) (map[string][]*measured.File, []string, error) {
	names, err := filepath.Glob(filepath.Join(dir, "*.json"))
	if err != nil {
		return nil, nil, err
	}
	graphs := map[string][]*measured.File{}
	size := map[string]int{}
	for _, name := range names {
		raw, err := os.ReadFile(name)
		if err != nil {
			return nil, nil, err
		}
		var class struct {
			Class string `json:"class"`
		}
		if err := json.Unmarshal(raw, &class); err != nil {
			return nil, nil, fmt.Errorf("%s: %w", name, err)
		}
		f, err := measured.Read(raw)
		if err != nil {
			return nil, nil, fmt.Errorf("%s: %w", name, err)
		}
		wanted := only == "" || slices.ContainsFunc(strings.Split(only, ","), func(o string) bool { return strings.HasPrefix(class.Class, o) || strings.HasPrefix(f.Name, o) })
		if len(f.Nodes) > most || !wanted {
			continue
		}
		graphs[class.Class] = append(graphs[class.Class], f)
		size[class.Class] = max(size[class.Class], len(f.Nodes))
	}
	classes := make([]string, 0, len(graphs))
	for class := range graphs {
		classes = append(classes, class)
	}
	slices.SortFunc(classes, func(a, b string) int { return cmp.Or(size[a]-size[b], strings.Compare(a, b)) })
	return graphs, classes, nil
}

// draw puts a graph in order as the application does and judges the drawing; of three times
// the least counts.
func draw(pattern string, freely bool, f *measured.File) result {
	var at measured.Positions
	best := 0.0
	for try := range 3 {
		var err error
		if at, err = f.Arrange(measured.Order{Pattern: cm.Pattern(pattern), Freely: freely}); err != nil {
			fmt.Fprintln(os.Stderr, f.Name+":", err)
			return result{graph: f.Name}
		}
		if try == 0 || at.Time < best {
			best = at.Time
		}
		if best > 500 {
			break
		}
	}
	return result{f.Name, score(f, at), best}
}

func median[E any](all []E, of func(E) float64) float64 {
	values := make([]float64, len(all))
	for i, e := range all {
		values[i] = of(e)
	}
	slices.Sort(values)
	if n := len(values); n%2 == 0 && n > 0 {
		return (values[n/2-1] + values[n/2]) / 2
	}
	return values[len(values)/2]
}

func slimmest(all []result) float64 {
	return slices.MinFunc(all, func(a, b result) int { return cmp.Compare(a.Aspect, b.Aspect) }).Aspect
}

func widest(all []result) float64 {
	return slices.MaxFunc(all, func(a, b result) int { return cmp.Compare(a.Aspect, b.Aspect) }).Aspect
}

// row prints the medians of one class.
func row(f family, class string, graphs []*measured.File, freely bool, anchors map[string]map[string]anchor) {
	var mine []result
	for _, g := range graphs {
		mine = append(mine, draw(f.pattern, freely, g))
	}
	value := func(r result) float64 {
		if f.clutter {
			return float64(r.clutter())
		}
		return float64(r.Crossings)
	}
	least, area, ms := -1.0, 0.0, 0.0
	for _, engine := range f.engines {
		var theirs []anchor
		for _, g := range graphs {
			if a, ok := anchors[g.Name][engine]; ok {
				theirs = append(theirs, a)
			}
		}
		if len(theirs) == 0 {
			continue
		}
		at := median(theirs, func(a anchor) float64 {
			if f.clutter {
				return a.Clutter
			}
			return a.Crossings
		})
		if least < 0 || at < least {
			least, area = at, f.area*median(theirs, func(a anchor) float64 { return a.Area })
		}
		if took := median(theirs, func(a anchor) float64 { return a.MS }) + 20; engine != "dot-ph" && (ms == 0 || took < ms) {
			ms = took
		}
	}
	limit := ms
	if f.clutter {
		limit = 2000
	}
	got, wide, took := median(mine, value), median(mine, func(r result) float64 { return r.Area }), median(mine, func(r result) float64 { return r.ms })
	star := func(met bool) string {
		if met {
			return ""
		}
		return "*"
	}
	var bad metrics
	for _, r := range mine {
		bad.Overlaps, bad.Hits, bad.OnBox, bad.OnPhrase, bad.Far = bad.Overlaps+r.Overlaps, bad.Hits+r.Hits, bad.OnBox+r.OnBox, bad.OnPhrase+r.OnPhrase, bad.Far+r.Far
	}
	met := got <= least
	if f.clutter {
		met = got < least || got == 0
	}
	fmt.Printf("| %s | %d | %.1f%s | %.1f | %.1f%s (%.1f) | %.1f–%.1f | %.0f%s (%.0f) | %d, %d, %d, %d, %d |\n", class, len(graphs), got, star(met), least,
		wide, star(wide <= area), area, slimmest(mine), widest(mine), took, star(took <= limit), limit, bad.Overlaps, bad.Hits, bad.OnBox, bad.OnPhrase, bad.Far)
}

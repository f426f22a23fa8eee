package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/core/layout/tidy"
	"mevrin/draw/scene"
	"mevrin/format/measured"
)

func tidyCommand() *cobra.Command {
	var pattern, positions, out string
	c := &cobra.Command{
		Use: "tidy FILE.json (--out MAP.json | --positions OUT.json)", Short: "Put a map or a measured graph in order, by a pattern",
		Long: "Reads a map document and writes it put in order (--out); or reads a measured graph\n" +
			"(docs/tidy.md) and writes where everything stands (--positions). The time in that\n" +
			"file is that of the layout alone.",
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, files []string) error { return tidyFile(files[0], pattern, positions, out) },
	}
	c.Flags().StringVar(&pattern, "pattern", "levels", "by which pattern: "+tidy.PatternNames())
	c.Flags().StringVar(&positions, "positions", "", "where to write the positions of a measured graph")
	c.Flags().StringVar(&out, "out", "", "where to write the map put in order")
	return c
}

func tidyFile(file, pattern, positions, out string) error {
	if (positions == "") == (out == "") {
		return errors.New("say where to write: --out for a map put in order, or --positions for the places of a measured graph")
	}
	draw, err := tidy.Pattern(pattern)
	if err != nil {
		return err
	}
	raw, err := readBounded(file)
	if err != nil {
		return err
	}
	if out != "" {
		return tidyMap(file, raw, cm.Pattern(pattern), out)
	}
	f, err := measured.Read(raw)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	g, wires := f.Graph()
	begun := time.Now()
	d := draw(g, tidy.Usual, false)
	written, err := json.Marshal(f.Positions(g, wires, d, float64(time.Since(begun).Microseconds())/1000))
	if err != nil {
		return err
	}
	return writeWhole(positions, written)
}

// tidyMap writes a map, or a measured graph as a map, put in order.
func tidyMap(file string, raw []byte, pattern cm.Pattern, out string) error {
	m, err := asMap(file, raw)
	if err != nil {
		return err
	}
	done, err := edit.Apply(m, []edit.Operation{&edit.Tidy{Pattern: pattern}}, layout.Placer{Measurer: scene.Measurer{}})
	if err != nil {
		return err
	}
	written, err := document.Write(done.Map)
	if err != nil {
		return err
	}
	return writeWhole(out, written)
}

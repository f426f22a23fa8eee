package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"time"

	"github.com/spf13/cobra"

	"mevrin/core/layout/tidy"
	"mevrin/format/measured"
)

func tidyCommand() *cobra.Command {
	var pattern, positions string
	c := &cobra.Command{
		Use: "tidy GRAPH.json --positions OUT.json", Short: "Put a measured graph in order, by a pattern",
		Long: "Reads a measured graph (docs/tidy.md), puts it in order, and writes where everything stands.\n" +
			"The time in the file is that of the layout alone.",
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, files []string) error { return tidyFile(files[0], pattern, positions) },
	}
	c.Flags().StringVar(&pattern, "pattern", "levels", "by which pattern: "+tidy.PatternNames())
	c.Flags().StringVar(&positions, "positions", "", "where to write the positions")
	_ = c.MarkFlagRequired("positions")
	return c
}

func tidyFile(file, pattern, positions string) error {
	from, err := os.Open(file)
	if err != nil {
		return err
	}
	defer func() { _ = from.Close() }()
	raw, err := io.ReadAll(io.LimitReader(from, mostFile))
	if err != nil {
		return err
	}
	f, err := measured.Read(raw)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	draw, err := tidy.Pattern(pattern)
	if err != nil {
		return err
	}
	g, wires := f.Graph()
	begun := time.Now()
	d := draw(g, tidy.Usual, false)
	out, err := json.Marshal(f.Positions(g, wires, d, float64(time.Since(begun).Microseconds())/1000))
	if err != nil {
		return err
	}
	return os.WriteFile(positions, out, 0o644)
}

package main

import (
	"encoding/json"
	"errors"
	"fmt"

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
	var how tidying
	c := &cobra.Command{
		Use: "tidy FILE.json (--out MAP.json | --positions OUT.json)", Short: "Put a map or a measured graph in order, by a pattern",
		Long: "Reads a map document and writes it put in order (--out); or reads a measured graph\n" +
			"(docs/tidy.md), makes a map of it, puts that in order as the application does, and\n" +
			"writes where everything stands (--positions). With --again, what the graph has and\n" +
			"those positions have not is added to a map that is kept in order; where all of it\n" +
			"stands there already, it is put in order again. The time in the file is that of\n" +
			"the operation alone.",
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, files []string) error { return how.file(files[0]) },
	}
	c.Flags().StringVar(&how.pattern, "pattern", "levels", "by which pattern: "+tidy.PatternNames())
	c.Flags().StringVar(&how.siblings, "siblings", "free", "whether siblings may change places (free), or keep their order (kept)")
	c.Flags().StringVar(&how.again, "again", "", "positions of the same graph, or of a part of it, written before")
	c.Flags().StringVar(&how.positions, "positions", "", "where to write the positions of a measured graph")
	c.Flags().StringVar(&how.out, "out", "", "where to write the map put in order")
	return c
}

// tidying is what the flags ask for.
type tidying struct{ pattern, siblings, again, positions, out string }

func (t tidying) file(file string) error {
	if (t.positions == "") == (t.out == "") {
		return errors.New("say where to write: --out for a map put in order, or --positions for the places of a measured graph")
	}
	if _, err := tidy.Pattern(t.pattern); err != nil {
		return err
	}
	if t.siblings != "free" && t.siblings != "kept" {
		return fmt.Errorf("siblings are free or kept, not %q", t.siblings)
	}
	raw, err := readBounded(file)
	if err != nil {
		return err
	}
	order := measured.Order{Pattern: cm.Pattern(t.pattern), Freely: t.siblings == "free"}
	if t.out != "" {
		return tidyMap(file, raw, order, t.out)
	}
	f, err := measured.Read(raw)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	if t.again != "" {
		was, err := readBounded(t.again)
		if err != nil {
			return err
		}
		if order.Again, err = measured.ReadPositions(was); err != nil {
			return fmt.Errorf("%s: %w", t.again, err)
		}
	}
	at, err := f.Arrange(order)
	if err != nil {
		return err
	}
	written, err := json.Marshal(at)
	if err != nil {
		return err
	}
	return writeWhole(t.positions, written)
}

// tidyMap writes a map, or a measured graph as a map, put in order.
func tidyMap(file string, raw []byte, order measured.Order, out string) error {
	m, err := asMap(file, raw)
	if err != nil {
		return err
	}
	done, err := edit.Apply(m, []edit.Operation{&edit.Tidy{Pattern: order.Pattern, Freely: order.Freely}}, layout.Placer{Measurer: scene.Measurer{}})
	if err != nil {
		return err
	}
	written, err := document.Write(done.Map)
	if err != nil {
		return err
	}
	return writeWhole(out, written)
}

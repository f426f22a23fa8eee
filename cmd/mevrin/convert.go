package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/draw/scene"
	"mevrin/format/content"
	"mevrin/format/formats"
)

// conversion is what the flags ask for.
type conversion struct {
	as, what string
	options  content.Options
	without  []string
}

func convertCommand() *cobra.Command {
	how := conversion{options: content.Full()}
	c := &cobra.Command{
		Use: "convert IN OUT", Short: "Turn a map into another kind of file, or a file into a map",
		Long: "Reads what the ending of IN names and writes what that of OUT names. An ending that has several uses\n" +
			"takes --as. Nothing is fetched and no browser is needed.\n\nIt writes:\n" + listed(func(f *formats.Format) bool { return f.Write != nil }) + "\nIt reads:\n" + listed(func(f *formats.Format) bool { return f.Read != nil }) +
			"\n--what takes a part: \"branch ID\", \"region ID\", \"stop ID\", \"route ID\" or \"only ID,ID\".",
		Args: cobra.ExactArgs(2),
		RunE: func(c *cobra.Command, args []string) error {
			return how.file(args[0], args[1], func(said string) { fmt.Fprintln(c.ErrOrStderr(), said) })
		},
	}
	f := c.Flags()
	f.StringVar(&how.as, "as", "", "the format, where the ending has several uses")
	f.StringVar(&how.what, "what", "", "which part of the map")
	f.IntVar(&how.options.Scale, "scale", 2, "of a picture, from 1 to 4")
	f.BoolVar(&how.options.Transparent, "transparent", false, "a picture without its paper")
	f.StringVar(&how.options.Sheet, "sheet", "A4", "of a PDF: "+strings.Join(formats.Sheets(), ", "))
	f.StringVar(&how.options.Held, "held", "", "portrait or landscape; by itself where absent")
	f.IntVar(&how.options.Across, "across", 1, "on how many sheets beside each other a PDF lies")
	f.BoolVar(&how.options.List, "list", false, "the outline as a list, not as headings")
	f.BoolVar(&how.options.Numbered, "numbered", false, "the outline with numbers")
	f.BoolVar(&how.options.Argument, "argument", false, "a text document to go on writing, for arguments")
	f.StringSliceVar(&how.without, "without", nil, "leave out: notes, sources, sentences, drawing")
	return c
}

// listed lists formats that fulfil something.
func listed(fits func(*formats.Format) bool) string {
	var b strings.Builder
	for _, f := range formats.All {
		if fits(f) {
			fmt.Fprintf(&b, "  %-10s %-14s %s\n", f.Ending, f.ID, f.Title)
		}
	}
	return b.String()
}

func (h conversion) file(in, out string, tell func(string)) error {
	f := formats.ByName(out, h.as)
	if f == nil {
		return fmt.Errorf("%s: files of this sort cannot be written; mevrin convert --help lists those that can", out)
	}
	read, err := readBounded(in)
	if err != nil {
		return err
	}
	m, err := mapOf(in, read, tell)
	if err != nil {
		return err
	}
	e := content.New(f.Leaving(m, true, false))
	e.Options = h.options.Bounded()
	for _, part := range h.without {
		switch part {
		case "notes":
			e.Options.Notes = false
		case "sources":
			e.Options.Sources = false
		case "sentences":
			e.Options.Sentences = false
		case "drawing":
			e.Options.Drawing = false
		default:
			return fmt.Errorf("--without takes notes, sources, sentences and drawing, not %q", part)
		}
	}
	if info, err := os.Stat(in); err == nil {
		e.State = "as of " + info.ModTime().UTC().Format(time.DateOnly)
	}
	if h.what != "" {
		if err := e.Extent(h.what); err != nil {
			return err
		}
	}
	written, err := f.Write(e)
	if err != nil {
		return err
	}
	return writeWhole(out, written)
}

// mapOf reads a map of any file that can be read, and tells what was not understood.
func mapOf(in string, raw []byte, tell func(string)) (*cm.Map, error) {
	if strings.EqualFold(filepath.Ext(in), ".json") {
		if m, err := asMap(in, raw); err == nil {
			return m, nil
		} else if d, _, other := formats.Read(in, raw); other != nil || d.Map != nil {
			return nil, err
		}
	}
	d, _, err := formats.Read(in, raw)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", in, err)
	}
	for _, r := range d.Remarks {
		tell(fmt.Sprintf("%s:%d: %s", in, r.Line, r.Says))
	}
	m, _, err := d.Build("map", content.Counting(), layout.Placer{Measurer: scene.Measurer{}})
	if err != nil {
		return nil, fmt.Errorf("%s: %w", in, err)
	}
	return m, nil
}

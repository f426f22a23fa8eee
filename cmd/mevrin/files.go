package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/structure"
	"mevrin/format/measured"
)

// errFound ends the program with status 1 and no message: what was found has
// been printed.
var errFound = errors.New("findings")

// maxFile bounds a file that is read, in bytes: more than the largest map.
const maxFile = 64 << 20

func readBounded(file string) ([]byte, error) {
	from, err := os.Open(file)
	if err != nil {
		return nil, err
	}
	defer func() { _ = from.Close() }()
	raw, err := io.ReadAll(io.LimitReader(from, maxFile+1))
	if err != nil {
		return nil, err
	}
	if len(raw) > maxFile {
		return nil, fmt.Errorf("%s: this file is too large for a map", file)
	}
	return raw, nil
}

func readMap(file string) (*cm.Map, error) {
	raw, err := readBounded(file)
	if err != nil {
		return nil, err
	}
	m, err := document.Read(raw)
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		err = refusal // in words, without what a program said of it
	}
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return m, nil
}

// asMap reads a map document, or a measured graph as a map: whichever it is.
func asMap(file string, raw []byte) (*cm.Map, error) {
	var members map[string]json.RawMessage
	if err := json.Unmarshal(raw, &members); err == nil && members["mevrin"] == nil && members["nodes"] != nil {
		f, err := measured.Read(raw)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", file, err)
		}
		return f.Map("graph")
	}
	return readMap(file)
}

func checkCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use: "check FILE…", Short: "Say what is wrong or missing in maps",
		Long: "Applies the rules of the application to map documents and prints what they notice.\n" +
			"Ends with status 0 where nothing is found, 1 where something is, 2 where a file cannot be read.",
		Args: cobra.MinimumNArgs(1),
		RunE: func(c *cobra.Command, files []string) error { return checkFiles(c.OutOrStdout(), files, asJSON) },
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON, for other programs")
	return c
}

// report is what is printed of one file.
type report struct {
	File     string        `json:"file"`
	Name     string        `json:"name"`
	Findings []reportEntry `json:"findings"`
}

type reportEntry struct {
	Rule   string       `json:"rule"`
	Title  string       `json:"title"`
	Why    string       `json:"why"`
	Places [][]reportAt `json:"places"`
}

type reportAt struct {
	Kind  cm.Entity `json:"kind"`
	ID    cm.ID     `json:"id"`
	Words string    `json:"words"`
}

func checkFiles(out io.Writer, files []string, asJSON bool) error {
	reports := []report{}
	found := false
	for _, file := range files {
		m, err := readMap(file)
		if err != nil {
			return err
		}
		r := reportOn(file, m)
		found = found || len(r.Findings) > 0
		reports = append(reports, r)
	}
	if asJSON {
		if err := writeJSON(out, reports); err != nil {
			return err
		}
	} else {
		for _, r := range reports {
			r.print(out)
		}
	}
	if found {
		return errFound
	}
	return nil
}

// wordsAt says a thing in one line.
func wordsAt(m *cm.Map, key cm.Key) string {
	words := ""
	if l := m.Links[key.ID]; key.Kind == cm.EntityLink && l != nil {
		words = m.Says(l)
	} else if text, there := m.WordsAt(key); there {
		words = m.Words(text)
	}
	return strings.Join(strings.Fields(words), " ")
}

func reportOn(file string, m *cm.Map) report {
	r := report{File: file, Name: m.Name(), Findings: []reportEntry{}}
	for _, f := range check.Find(m, structure.Of(m)) {
		entry := reportEntry{Rule: f.Rule.ID, Title: f.Rule.Title, Why: f.Rule.Why}
		for _, place := range f.Places {
			at := []reportAt{}
			for _, key := range place.Keys {
				words := wordsAt(m, key)
				at = append(at, reportAt{key.Kind, key.ID, words})
			}
			entry.Places = append(entry.Places, at)
		}
		r.Findings = append(r.Findings, entry)
	}
	return r
}

func (r report) print(out io.Writer) {
	if len(r.Findings) == 0 {
		_, _ = fmt.Fprintf(out, "%s: nothing to mend\n", r.File)
		return
	}
	_, _ = fmt.Fprintf(out, "%s:\n", r.File)
	for _, f := range r.Findings {
		_, _ = fmt.Fprintf(out, "  %s\n", f.Title)
		for _, place := range f.Places {
			var words []string
			for _, at := range place {
				words = append(words, at.Words)
			}
			if len(words) > 0 {
				_, _ = fmt.Fprintf(out, "    - %s\n", strings.Join(words, " · "))
			}
		}
	}
}

// writeWhole writes a file so that it is there whole or as it was before.
func writeWhole(file string, raw []byte) error {
	draft, err := os.CreateTemp(filepath.Dir(file), ".mevrin-*")
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(draft.Name()) }()
	_, err = draft.Write(raw)
	if err = errors.Join(err, draft.Chmod(0o644), draft.Close()); err != nil {
		return err
	}
	return os.Rename(draft.Name(), file)
}

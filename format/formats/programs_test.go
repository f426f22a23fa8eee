package formats_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/layout"
	"mevrin/demo"
	"mevrin/draw/scene"
	"mevrin/format/content"
	"mevrin/format/formats"
)

// What is written is opened by programs that we did not write, without a complaint, and its text is all
// there. It needs these programs (scripts/programs.sh), and so runs with `make formats` alone.
func TestOtherProgramsOpenWhatIsWritten(t *testing.T) {
	if os.Getenv("MEVRIN_PROGRAMS") == "" {
		t.Skip("make formats runs it")
	}
	dir := t.TempDir()
	do := func(name string, args ...string) string {
		t.Helper()
		c := exec.Command(name, args...)
		c.Dir = dir
		var out, complaints bytes.Buffer
		c.Stdout, c.Stderr = &out, &complaints
		err := c.Run()
		assert.NoError(t, err, "%s %v: %s", name, args, complaints.String())
		return out.String()
	}
	for _, d := range demo.Maps() {
		m, err := d.Build()
		require.NoError(t, err)
		var labels []string
		e := content.New(m)
		for _, r := range e.Outline() {
			labels = append(labels, r.Label)
		}
		plain := func(s string) string { return strings.Join(strings.Fields(s), "") }
		all := func(text, what string) {
			t.Helper()
			for _, label := range labels {
				assert.Contains(t, plain(text), plain(label), "%s of %s", what, m.ID)
			}
		}
		at := func(id string) string {
			f := formats.ByID(id)
			raw, err := f.Write(content.New(m))
			require.NoError(t, err, id)
			name := string(m.ID) + "-" + id + f.Ending
			require.NoError(t, os.WriteFile(filepath.Join(dir, name), raw, 0o600))
			return name
		}
		for _, id := range []string{"docx", "odt", "pptx", "odp", "xlsx"} {
			name := at(id)
			do("unzip", "-tq", name)
			do("soffice", "--headless", "-env:UserInstallation=file://"+dir+"/profile", "--convert-to", "pdf", "--outdir", dir, name)
			text := do("pdftotext", strings.TrimSuffix(name, filepath.Ext(name))+".pdf", "-")
			switch id {
			case "docx", "odt":
				all(text, id)
			case "xlsx": // in a PDF, words that wrap stand among those of the next column
				do("soffice", "--headless", "-env:UserInstallation=file://"+dir+"/profile", "--convert-to", "csv", "--outdir", dir, name)
				raw, err := os.ReadFile(filepath.Join(dir, strings.TrimSuffix(name, ".xlsx")+".csv"))
				require.NoError(t, err)
				all(string(raw), id)
			default: // slides show what the first route shows
				assert.Contains(t, plain(text), plain(e.Line(m.Concepts[e.Structure.Order[0]].Label)), id)
			}
		}
		name := at("pdf")
		do("qpdf", "--check", name)
		assert.Contains(t, do("pdfinfo", name), "Tagged:          yes")
		all(do("pdftotext", name, "-"), "pdf")
		if route := e.Walked(); route != nil {
			name := at("handout")
			do("qpdf", "--check", name)
			text := plain(do("pdftotext", name, "-"))
			for _, s := range e.Stops(route.ID) {
				assert.Contains(t, text, plain(s.Title))
				assert.Contains(t, text, plain(s.Question))
				if s.Answer != "" {
					assert.NotContains(t, text, plain(s.Answer), "answers stay with the guide")
				}
			}
		}
		dot := at("dot")
		all(do("dot", "-Tplain-ext", dot), "dot") // its labels are in quotes
		do("rapper", "-q", "-i", "turtle", "-c", at("ttl"))
		for _, id := range []string{"graphml", "gexf", "opml", "svg"} {
			do("xmllint", "--noout", at(id))
		}
		for _, id := range []string{"graphml", "gexf"} {
			count := do("python3", "-c", `import networkx as n, sys; g = getattr(n, "read_"+sys.argv[2])(sys.argv[1]); print(g.number_of_nodes())`, string(m.ID)+"-"+id+"."+id, id)
			assert.Equal(t, len(m.Concepts), atoi(count), id)
		}
	}
}

// Words of every script that is shipped can be found in a PDF.
func TestWordsOfEveryScriptAreFound(t *testing.T) {
	if os.Getenv("MEVRIN_PROGRAMS") == "" {
		t.Skip("make formats runs it")
	}
	said := []string{"Glocke", "Γλώσσα", "Колокол", "الجرس", "钟声", "λ ≤ ₂"}
	d, _, err := formats.Read("scripts.txt", []byte(strings.Join(said, "\n\tis: ")))
	require.NoError(t, err)
	m, _, err := d.Build("m", content.Counting(), layout.Placer{Measurer: scene.Measurer{}})
	require.NoError(t, err)
	raw, err := formats.ByID("pdf").Write(content.New(m))
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "scripts.pdf")
	require.NoError(t, os.WriteFile(file, raw, 0o600))
	out, err := exec.Command("pdftotext", file, "-").Output()
	require.NoError(t, err)
	for _, words := range said {
		assert.Contains(t, string(out), words)
	}
}

func atoi(s string) (n int) {
	for _, r := range strings.TrimSpace(s) {
		n = n*10 + int(r-'0')
	}
	return n
}

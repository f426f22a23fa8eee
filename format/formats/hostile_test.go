package formats_test

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/demo"
	"mevrin/draw/scene"
	"mevrin/format/content"
	"mevrin/format/formats"
)

// archived packs parts, by their names.
func archived(t testing.TB, parts map[string][]byte) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for name, raw := range parts {
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write(raw)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// utf16 writes words as UTF-16 with a mark.
func utf16(words string) []byte {
	out := []byte{0xFF, 0xFE}
	for _, r := range words {
		out = append(out, byte(r), byte(r>>8))
	}
	return out
}

// Whatever a file holds, it is read or refused in plain words, soon and within bounds.
func TestHostileFilesAreRefused(t *testing.T) {
	deep := strings.Repeat(`<outline text="a">`, 100_000)
	bomb := archived(t, map[string][]byte{"word/document.xml": bytes.Repeat([]byte("<w:p>"), 20<<20)})
	million := strings.Repeat("a line of words\n", 1_000_000)
	for name, raw := range map[string][]byte{
		"deep.opml":         []byte(`<opml><body>` + deep),
		"entity.opml":       []byte(`<!DOCTYPE o [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><opml><body><outline text="&b;"/></body></opml>`),
		"foreign.graphml":   []byte(`<!DOCTYPE g [<!ENTITY x SYSTEM "file:///etc/passwd">]><graphml>&x;</graphml>`),
		"bomb.docx":         bomb,
		"bomb.odt":          archived(t, map[string][]byte{"content.xml": bytes.Repeat([]byte("<p>"), 12<<20)}),
		"out.docx":          archived(t, map[string][]byte{"../../etc/passwd": []byte("x"), "word/document.xml": []byte("<w/>")}),
		"nothing.xlsx":      archived(t, map[string][]byte{"x": []byte("y")}),
		"broken.xlsx":       []byte("PK\x03\x04 no"),
		"million.txt":       []byte(million),
		"million.csv":       []byte(strings.Repeat("a,b,c\n", 1_000_000)),
		"million.md":        []byte(strings.Repeat("- a\n", 1_000_000)),
		"nested.json":       []byte(`{"graph":{"nodes":` + strings.Repeat("[", 100_000)),
		"context.jsonld":    []byte(`{"@context":"https://elsewhere.example/c.jsonld","@id":"a"}`),
		"nested.ttl":        []byte("@prefix a: <urn:a> .\na:b a:c " + strings.Repeat("[ a:d ", 100_000)),
		"open.dot":          []byte("digraph { a -> b [label=\"" + strings.Repeat("x", 1<<20)),
		"subgraphs.dot":     []byte("digraph {" + strings.Repeat("subgraph x {", 100_000)),
		"huge.graphml":      []byte(`<graphml><graph>` + strings.Repeat(`<node id="a"/>`, 200_000) + `</graph></graphml>`),
		"number.gexf":       []byte(`<gexf><graph><nodes><node id="a" label="x"><viz:position x="1e999" y="NaN"/></node></nodes></graph></gexf>`),
		"lines.mmd":         []byte("flowchart TD\n" + strings.Repeat("a["+strings.Repeat("(", 200)+"] --> b\n", 2000)),
		"nul.txt":           []byte("a\x00b\n\tc\x00"),
		"empty.opml":        nil,
		"unknown.exe":       []byte("MZ"),
		"quote.csv":         []byte(`"a` + strings.Repeat(`""`, 1000)),
		"wide.csv":          []byte(strings.Repeat("a,", 200_000)),
		"self.graphml":      []byte(`<graphml><graph><node id="a"/><edge source="a" target="a"/><edge source="a" target="gone"/></graph></graphml>`),
		"alias.md":          []byte(strings.Repeat("#", 1000) + " a\n" + strings.Repeat(" ", 100_000) + "- b"),
		"statements.jsonld": []byte(`{"@context":{"a":"urn:a:"},"@graph":[` + strings.Repeat(`{"@id":"a:x","a:p":{"@id":"a:y"}},`, 20_000) + `{"@id":"a:z"}]}`),
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		begun := time.Now()
		d, _, err := formats.Read(name, raw)
		took := time.Since(begun)
		runtime.ReadMemStats(&after)
		assert.Less(t, (after.TotalAlloc-before.TotalAlloc)>>20, uint64(700), "%s: what is taken in all", name)
		assert.Less(t, took, 20*time.Second, name) // a second by itself; others compute beside it
		var refusal *cm.Refusal
		if err != nil {
			assert.ErrorAs(t, err, &refusal, name)
			continue
		}
		_, _, err = d.Build("m", content.Counting(), layout.Placer{Measurer: scene.Measurer{}})
		if err != nil {
			assert.ErrorAs(t, err, &refusal, name)
		}
	}
}

// Every format of XML is refused where its elements lie too deep in each other, or where it is cut off.
func TestXMLIsReadWithinBounds(t *testing.T) {
	nested := func(before, each string) string { return before + strings.Repeat(each, 300) }
	document := nested(`<w:document xmlns:w="w"><w:body>`, "<w:p>")
	text := nested(`<o xmlns:text="t">`, "<text:p>")
	for name, words := range map[string]string{"a.opml": nested("<opml>", `<outline text="a">`), "a.graphml": nested("<graphml>", "<graph>"), "a.gexf": nested("<gexf>", "<nodes>"), "a.docx": document, "a.odt": text} {
		read := func(words string) error {
			raw := []byte(words)
			switch name {
			case "a.docx":
				raw = archived(t, map[string][]byte{"word/document.xml": raw})
			case "a.odt":
				raw = archived(t, map[string][]byte{"content.xml": raw})
			}
			_, _, err := formats.Read(name, raw)
			return err
		}
		var refusal *cm.Refusal
		assert.ErrorContains(t, read(words), "nested too deeply", name)
		cut := read(words[:strings.Index(words, ">")+20])
		require.ErrorAs(t, cut, &refusal, name)
		assert.Contains(t, cut.Error(), "broken", name)
	}
}

// Files in other encodings are read as what they say.
func TestEncodings(t *testing.T) {
	for name, raw := range map[string][]byte{
		"utf16.txt": utf16("die Glocke\n\ttönt: der Ton\n"), "latin.txt": []byte("die Glocke\n\tt\xf6nt: der Ton\n"), "marked.txt": []byte("\ufeffdie Glocke\n\ttönt: der Ton\n"),
		"semicolon.csv": []byte("die Glocke;tönt;der Ton\n"), "latin.csv": []byte("die Glocke,t\xf6nt,der Ton\n"),
	} {
		d, _, err := formats.Read(name, raw)
		require.NoError(t, err, name)
		assert.Equal(t, []string{"sentence die Glocke tönt der Ton"}, said(taken(t, d), []formats.Part{formats.PartCross})[2:], name)
	}
}

func FuzzRead(f *testing.F) {
	m, err := demo.Maps()[2].Build()
	require.NoError(f, err)
	for _, format := range formats.All {
		if format.Read != nil {
			raw, err := format.Write(content.New(m))
			require.NoError(f, err)
			f.Add("x"+format.Ending, raw[:min(len(raw), 6000)])
		}
	}
	f.Fuzz(func(t *testing.T, name string, raw []byte) {
		d, _, err := formats.Read(name, raw)
		var refusal *cm.Refusal
		if err != nil && !errors.As(err, &refusal) {
			t.Fatalf("%T: %v", err, err)
		}
		if err == nil && len(d.Concepts) < 200 {
			_, _, err = d.Build("m", content.Counting(), layout.Placer{Measurer: scene.Measurer{}})
			if err != nil && !errors.As(err, &refusal) {
				t.Fatalf("%T: %v", err, err)
			}
		}
	})
}

// large is a map of so many concepts, in a tree with further links.
func large(b *testing.B, concepts int) *cm.Map {
	var rows strings.Builder
	for i := 1; i < concepts; i++ {
		fmt.Fprintf(&rows, "the part %d,belongs to,the part %d\n", i, i/4)
		if i%3 == 0 {
			fmt.Fprintf(&rows, "the part %d,touches,the part %d\n", i, i/2)
		}
	}
	d, _, err := formats.Read("large.csv", []byte(rows.String()))
	require.NoError(b, err)
	m, _, err := d.Build("m", content.Counting(), layout.Placer{Measurer: scene.Measurer{}})
	require.NoError(b, err)
	return m
}

func BenchmarkWrite300(b *testing.B) {
	m := large(b, 300)
	for _, id := range []string{"pdf", "png", "docx", "pptx", "xlsx"} {
		b.Run(id, func(b *testing.B) {
			f := formats.ByID(id)
			e := content.New(m)
			e.Options.Scale = 1
			for b.Loop() {
				_, err := f.Write(e)
				require.NoError(b, err)
			}
		})
	}
}

func BenchmarkRead1000(b *testing.B) {
	for b.Loop() {
		large(b, 1000)
	}
}

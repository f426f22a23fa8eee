package formats_test

import (
	"errors"
	"fmt"
	"os"
	"slices"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/demo"
	"mevrin/format/content"
	"mevrin/format/formats"
)

// said is what a map says, as far as some parts go: its sentences, or the tree of its concepts.
func said(e *content.Export, parts []formats.Part) []string {
	var all []string
	has := func(p formats.Part) bool { return slices.Contains(parts, p) }
	for _, r := range e.Outline() {
		line := "concept " + r.Label
		if has(formats.PartNotes) && r.Note != "" {
			line += " note " + strings.Join(strings.Fields(r.Note), " ")
		}
		if has(formats.PartKinds) {
			line += " kind " + e.Kind(r.Concept)
		}
		if has(formats.PartPlaces) {
			line += fmt.Sprint(" at ", r.Concept.At)
		}
		if has(formats.PartOrder) {
			if p := e.Map.Concepts[e.Structure.Places[r.Concept.ID].Parent]; p != nil {
				line += " below " + e.Line(p.Label) + " by " + r.Phrase
			}
		}
		all = append(all, line)
	}
	if has(formats.PartCross) {
		for _, s := range e.Sentences() {
			all = append(all, "sentence "+s.From+" "+s.Phrase+" "+s.To)
		}
	}
	sort.Strings(all)
	return slices.Compact(all)
}

// taken makes a map of what was read.
func taken(t require.TestingT, d *content.Draft) *content.Export {
	if d.Map != nil {
		return content.New(d.Map)
	}
	n := 0
	out, err := edit.Apply(cm.NewMap("again", "en"), d.Operations(func(kind string) cm.ID { n++; return cm.ID(fmt.Sprintf("%s%d", kind, n)) }, true), nil)
	require.NoError(t, err)
	return content.New(out.Map)
}

// simple gives each concept of a map words of its own, on one line, and takes away what no simple format
// can say: links between more than one concept on both sides, and a second link of the same words.
func simple(m *cm.Map) *cm.Map {
	m = m.Clone()
	for i, id := range cm.SortedIDs(m.Concepts) {
		c := *m.Concepts[id]
		c.Label = cm.Text{m.Language: fmt.Sprintf("%s %d", strings.NewReplacer(":", "", "…", "").Replace(strings.Join(strings.Fields(m.Words(c.Label)), " ")), i)}
		c.Label = cm.Text{m.Language: strings.TrimSpace(m.Words(c.Label))}
		m.Concepts[id] = &c
	}
	return m
}

// What a format carries comes back equal from what was written in it, whatever the map.
func TestWhatAFormatCarriesComesBack(t *testing.T) {
	for _, f := range formats.All {
		if f.Read == nil || len(f.Back) == 0 {
			continue
		}
		t.Run(f.ID, func(t *testing.T) {
			maps := rapid.Custom(func(t *rapid.T) *cm.Map { return maptest.Map(t, 40) })
			for n := range 12 {
				m := simple(maps.Example(n))
				if len(m.Concepts) == 0 {
					continue
				}
				e := content.New(m)
				raw, err := f.Write(e)
				require.NoError(t, err)
				d, err := f.Read(raw)
				require.NoError(t, err, "%d: %.400s", n, raw)
				want, is := said(e, f.Back), said(taken(t, d), f.Back)
				if !assert.Equal(t, want, is, "map %d", n) {
					t.Logf("%.3000s", raw)
					return
				}
			}
		})
	}
}

// Each format can be written of each demo map, and says what it does not carry.
func TestEachFormatIsWrittenOfEachDemoMap(t *testing.T) {
	for _, d := range demo.Maps() {
		m, err := d.Build()
		require.NoError(t, err)
		for _, f := range formats.All {
			if f.Use == formats.UseTeach {
				continue // the pages are of another house, whose test writes them
			}
			e := content.New(m)
			e.Options.Scale = 1
			raw, err := f.Write(e)
			var refusal *cm.Refusal
			if errors.As(err, &refusal) {
				continue // nothing of that sort is on it
			}
			require.NoError(t, err, f.ID)
			assert.NotEmpty(t, raw, f.ID)
			assert.Len(t, append(f.Loses(), f.Holds...), len(formats.Parts))
		}
	}
}

// docs/formats.md says what there is; MEVRIN_WRITE=1 writes its table anew.
func TestTheTableOfFormats(t *testing.T) {
	const file = "../../docs/formats.md"
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	before, rest, found := strings.Cut(string(raw), "<!-- table -->\n")
	require.True(t, found)
	_, after, found := strings.Cut(rest, "<!-- end -->\n")
	require.True(t, found)
	want := before + "<!-- table -->\n" + formats.Table() + "<!-- end -->\n" + after
	if os.Getenv("MEVRIN_WRITE") != "" {
		require.NoError(t, os.WriteFile(file, []byte(want), 0o644))
		return
	}
	assert.Equal(t, want, string(raw))
}

// Words of a map may be those by which other formats in JSON are known.
func TestAMapIsKnownWhateverItsWordsAre(t *testing.T) {
	for _, words := range []string{"graph", "graphs", "@context", "@graph", "@id"} {
		m := cm.NewMap("m", "en")
		m.Title = m.Title.With("en", words)
		raw, err := formats.ByID("json").Write(content.New(m))
		require.NoError(t, err)
		d, f, err := formats.Read("a.json", raw)
		require.NoError(t, err, words)
		assert.Equal(t, "json", f.ID)
		assert.Equal(t, words, d.Map.Name())
	}
}

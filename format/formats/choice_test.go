package formats_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
	"pgregory.net/rapid"

	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/format/tables"
)

// told gives what a draft says, a line for each sentence and note.
func told(d *content.Draft) string {
	var b strings.Builder
	labels := map[string]string{}
	for _, c := range d.Concepts {
		labels[c.Key] = c.Label
		if c.Note != "" {
			fmt.Fprintf(&b, "%s! %s\n", c.Label, strings.ReplaceAll(c.Note, "\n\n", " / "))
		}
	}
	for _, l := range d.Links {
		fmt.Fprintf(&b, "%s -%s- %s\n", labels[l.From], l.Phrase, labels[l.To])
	}
	return b.String()
}

func chosen(t *testing.T, name, raw string, by content.Choice) string {
	d, _, err := formats.Read(name, []byte(raw))
	require.NoError(t, err)
	d, err = d.Chosen(by)
	require.NoError(t, err)
	return told(d)
}

// Whoever brings a file says which of its lines are phrases or notes, and what of a graph is which.
func TestWhatBecomesLabelPhraseAndNoteIsChosen(t *testing.T) {
	lines := "bell\n  is made of\n    bronze\n      80 % copper\n  rings when: struck\n    by the clapper\n  hangs in the tower\n"
	assert.Equal(t, "bell -is made of- bronze\nbronze -- 80 % copper\nbell -rings when: struck- by the clapper\nbell -- hangs in the tower\n",
		chosen(t, "a.txt", lines, content.Choice{Lines: content.LinesPhrases}))
	assert.Equal(t, "bell! hangs in the tower\nbronze! 80 % copper\nstruck! by the clapper\nbell -- is made of\nis made of -- bronze\nbell -rings when- struck\n",
		chosen(t, "a.txt", lines, content.Choice{Lines: content.LinesNotes}))
	opml := `<opml><body><outline text="bell"><outline text="hums in"><outline text="the tower" _note="of stone"/></outline></outline></body></opml>`
	assert.Equal(t, "the tower! of stone\nbell -hums in- the tower\n", chosen(t, "a.opml", opml, content.Choice{Lines: content.LinesPhrases}))
	assert.Equal(t, "bell -hums in- the tower\n", chosen(t, "a.opml", opml, content.Choice{Lines: content.LinesPhrases, NoNotes: true}))

	graphml := `<graphml><key id="d0" attr.name="Name of part"/><key id="d1" attr.name="Remark"/><key id="d2" attr.name="Does"/><graph edgedefault="directed">
		<node id="n1"><data key="d0">bell</data><data key="d1">cast in Hollin</data></node><node id="n2"><data key="d0">tower</data></node>
		<edge source="n1" target="n2"><data key="d2">hums in</data></edge></graph></graphml>`
	assert.Equal(t, "n1 -- n2\n", chosen(t, "a.graphml", graphml, content.Choice{}))
	assert.Equal(t, "bell! cast in Hollin\nbell -hums in- tower\n", chosen(t, "a.graphml", graphml, content.Choice{Label: "name of part", Note: "remark", Phrase: "does"}))
	d, _, err := formats.Read("a.graphml", []byte(graphml))
	require.NoError(t, err)
	concepts, links := d.Attributes()
	assert.Equal(t, [][]string{{"name of part", "remark"}, {"does"}}, [][]string{concepts, links})
	assert.Equal(t, "bell! cast\nbell -hums- tower\n", chosen(t, "a.json", `{"graph":{"nodes":{"a":{"metadata":{"part":"bell","about":"cast"}},"b":{"metadata":{"part":"tower"}}},"edges":[{"source":"a","target":"b","metadata":{"does":"hums"}}]}}`, content.Choice{Label: "part", Note: "about", Phrase: "does"}))
	assert.Equal(t, "bell! cast\nbell -hums- tower\n", chosen(t, "a.dot", `digraph { a [part=bell, about=cast]; b [part=tower]; a -> b [does=hums] }`, content.Choice{Label: "part", Note: "about", Phrase: "does"}))
}

// An outline whose steps are concepts and phrases by turns says the same as one with the phrases before
// their concepts, however it branches.
func TestPhrasesOnLinesOfTheirOwnSayTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var turns, before strings.Builder
		n := 0
		var grow func(depth int)
		grow = func(depth int) {
			n++
			label := fmt.Sprintf("part%d", n)
			fmt.Fprintf(&turns, "%s%s\n", strings.Repeat(" ", 2*depth), label)
			fmt.Fprintf(&before, "%s\n", label)
			for range rapid.IntRange(0, 3-min(3, depth)).Draw(t, "phrases") {
				phrase := rapid.SampledFrom([]string{"holds", "moves", "is struck by"}).Draw(t, "phrase")
				fmt.Fprintf(&turns, "%s%s\n", strings.Repeat(" ", 2*depth+1), phrase)
				for range rapid.IntRange(1, 2).Draw(t, "ends") {
					fmt.Fprintf(&before, "%s%s: ", strings.Repeat(" ", depth+1), phrase)
					grow(depth + 1)
				}
			}
		}
		grow(0)
		read := func(raw string, by content.Choice) string {
			d, _, err := formats.Read("a.txt", []byte(raw))
			if err == nil {
				d, err = d.Chosen(by)
			}
			if err != nil {
				t.Fatal(err)
			}
			return told(d)
		}
		if a, b := read(turns.String(), content.Choice{Lines: content.LinesPhrases}), read(before.String(), content.Choice{}); a != b {
			t.Fatalf("%s\nis read as\n%s\nand\n%s\nas\n%s", turns.String(), a, before.String(), b)
		}
	})
}

// Any sheet of a workbook can be read.
func TestASheetIsChosen(t *testing.T) {
	book := excelize.NewFile()
	_, err := book.NewSheet("Second")
	require.NoError(t, err)
	require.NoError(t, book.SetSheetRow("Sheet1", "A1", &[]string{"notes on bells"}))
	require.NoError(t, book.SetSheetRow("Second", "A1", &[]string{"bell", "hums in", "tower"}))
	var raw bytes.Buffer
	require.NoError(t, book.Write(&raw))
	f := formats.ByName("a.xlsx", "")
	sheets, err := f.Sheets(raw.Bytes())
	require.NoError(t, err)
	assert.Equal(t, []string{"Sheet1", "Second"}, sheets)
	for sheet, first := range []string{"notes on bells", "bell"} {
		rows, err := f.Rows(raw.Bytes(), sheet)
		require.NoError(t, err)
		assert.Equal(t, first, rows[0][0])
	}
	rows, err := f.Rows(raw.Bytes(), 1)
	require.NoError(t, err)
	d, err := tables.Read(rows, tables.Guess(rows))
	require.NoError(t, err)
	assert.Equal(t, "bell -hums in- tower\n", told(d))
	_, err = f.Sheets([]byte("no workbook"))
	assert.Error(t, err)
}

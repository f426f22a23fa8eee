// Package tables writes maps as tables, CSV (RFC 4180) and workbooks (XLSX), and reads propositions from
// them.
package tables

import (
	"bytes"
	"encoding/csv"
	"errors"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/ratings"
	"mevrin/format/safe"
)

// The heads of the columns.
var (
	sentenceHead = []string{"from", "phrase", "to", "cross-link", "arrowheads", "from id", "to id", "link id"}
	conceptHead  = []string{"concept", "level", "below", "phrase", "kind", "tags", "note", "time", "amount", "unit", "sources", "id"}
	sourceHead   = []string{"of", "source", "address", "kind", "licence", "description"}
)

// Propositions gives the table of propositions, with its head; loose ideas stand in a row of their own.
func Propositions(e *content.Export) [][]string {
	rows := [][]string{sentenceHead}
	for _, s := range e.Sentences() {
		cross := ""
		if s.Cross {
			cross = "yes"
		}
		rows = append(rows, []string{s.From, s.Phrase, s.To, cross, string(e.Map.Links[s.Strand.Link].Heads), string(s.Subject), string(s.Object), string(s.Strand.Link)})
	}
	for _, id := range e.Structure.Order {
		if e.Structure.Places[id].Loose {
			rows = append(rows, []string{e.Line(e.Map.Concepts[id].Label), "", "", "", "", string(id), "", ""})
		}
	}
	return rows
}

// Concepts gives the table of concepts, with its head.
func Concepts(e *content.Export) [][]string {
	rows := [][]string{conceptHead}
	for _, r := range e.Outline() {
		c := r.Concept
		parent := ""
		if p := e.Map.Concepts[e.Structure.Places[c.ID].Parent]; p != nil {
			parent = e.Line(p.Label)
		}
		amount, unit := "", ""
		if c.Amount != nil {
			amount, unit = strconv.FormatFloat(c.Amount.Value, 'f', -1, 64), c.Amount.Unit
		}
		note := ""
		if e.Options.Notes {
			note = r.Note
		}
		rows = append(rows, []string{r.Label, strconv.Itoa(e.Structure.Places[c.ID].Level), parent, r.Phrase, e.Kind(c), strings.Join(e.Tags(c), "; "), note, c.When, amount, unit, strconv.Itoa(len(c.Sources)), string(c.ID)})
	}
	return rows
}

// Sources gives the table of sources, with its head.
func Sources(e *content.Export) [][]string {
	rows := [][]string{sourceHead}
	for _, s := range e.Sources() {
		rows = append(rows, []string{s.On, s.Name(), s.URL, string(s.Kind()), s.Licence, s.Says})
	}
	return rows
}

// WriteCSV gives a table as CSV with a mark that it is UTF-8, by which spreadsheets know; no cell is
// taken for a formula.
func WriteCSV(rows [][]string) []byte {
	var b bytes.Buffer
	b.WriteString("\ufeff")
	w := csv.NewWriter(&b)
	for _, row := range rows {
		out := make([]string, len(row))
		for i, cell := range row {
			out[i] = ratings.Harmless(cell)
		}
		_ = w.Write(out) // to memory
	}
	w.Flush()
	return b.Bytes()
}

// WriteXLSX gives a workbook with a sheet for concepts, one for propositions and one for sources.
func WriteXLSX(e *content.Export) ([]byte, error) {
	book := excelize.NewFile()
	defer book.Close()
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return nil, err
	}
	wrapped, err := book.NewStyle(&excelize.Style{Alignment: &excelize.Alignment{WrapText: true, Vertical: "top"}})
	if err != nil {
		return nil, err
	}
	first := true
	for _, sheet := range []struct {
		name string
		rows [][]string
	}{{"Propositions", Propositions(e)}, {"Concepts", Concepts(e)}, {"Sources", Sources(e)}} {
		if first {
			err = book.SetSheetName("Sheet1", sheet.name)
		} else {
			_, err = book.NewSheet(sheet.name)
		}
		first = false
		if err != nil {
			return nil, err
		}
		out, err := book.NewStreamWriter(sheet.name)
		if err != nil {
			return nil, err
		}
		for j := range sheet.rows[0] {
			if err := out.SetColWidth(j+1, j+1, widthOf(sheet.rows, j)); err != nil {
				return nil, err
			}
		}
		for i, row := range sheet.rows {
			cells := make([]any, len(row))
			for j, cell := range row {
				value := any(limited(cell))
				if n, err := strconv.ParseFloat(cell, 64); err == nil && i > 0 && (sheet.rows[0][j] == "level" || sheet.rows[0][j] == "amount" || sheet.rows[0][j] == "sources") {
					value = n
				}
				cells[j] = excelize.Cell{StyleID: wrapped, Value: value}
				if i == 0 {
					cells[j] = excelize.Cell{StyleID: bold, Value: value}
				}
			}
			at, _ := excelize.CoordinatesToCellName(1, i+1) // within the bounds of a map
			if err := out.SetRow(at, cells); err != nil {
				return nil, err
			}
		}
		if err := out.Flush(); err != nil {
			return nil, err
		}
	}
	_ = book.SetDocProps(&excelize.DocProperties{Title: e.Title(), Description: e.Said(), Creator: "Mevrin"}) // of no weight
	var b bytes.Buffer
	err = book.Write(&b)
	return b.Bytes(), err
}

// widthOf is how wide a column is, in letters: as its longest words, within bounds.
func widthOf(rows [][]string, column int) float64 {
	longest := 0
	for _, row := range rows {
		longest = max(longest, utf8.RuneCountInString(row[column]))
	}
	return float64(max(10, min(60, longest+2)))
}

// limited keeps to what one cell can hold.
func limited(words string) string {
	return cm.Shortened(words, 32_000)
}

// Columns say which columns of a table hold what, from 0; -1 for none.
type Columns struct {
	From, Phrase, To int
	Head             bool // the first row names the columns
}

// maxRows bounds the rows of a table.
const maxRows = content.MaxLinks + 1

// CSVRows reads the rows of a table in CSV: parted by commas, semicolons or tabs, whichever its first
// rows have. It has no sheets to choose from.
func CSVRows(raw []byte, _ int) ([][]string, error) {
	text := safe.Text(raw)
	r := csv.NewReader(strings.NewReader(text))
	r.Comma = parted(text)
	r.FieldsPerRecord, r.LazyQuotes, r.ReuseRecord = -1, true, false
	var rows [][]string
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, cm.Refusef("This table is broken: a quotation mark does not end.")
		}
		if len(rows) > maxRows {
			return nil, cm.Refusef("That is too much at once: at most %d links can be read from one file.", content.MaxLinks)
		}
		rows = append(rows, row[:min(len(row), 60)])
	}
}

func parted(text string) rune {
	head := text[:min(len(text), 4000)]
	best, most := ',', 0
	for _, sign := range []rune{',', ';', '\t'} {
		if n := strings.Count(head, string(sign)); n > most {
			best, most = sign, n
		}
	}
	return best
}

// opened opens a workbook, and gives the names of its sheets.
func opened(raw []byte) (book *excelize.File, sheets []string, err error) {
	if _, err := safe.Open(raw); err != nil {
		return nil, nil, err
	}
	book, err = excelize.OpenReader(bytes.NewReader(raw), excelize.Options{UnzipSizeLimit: safe.MaxAll, UnzipXMLSizeLimit: safe.MaxPart, RawCellValue: true})
	if err != nil {
		return nil, nil, cm.Refusef("This workbook is broken, or is larger than can be read.")
	}
	if sheets = book.GetSheetList(); len(sheets) == 0 {
		_ = book.Close() // only read
		return nil, nil, cm.Refusef("There is no sheet in this workbook.")
	}
	return book, sheets, nil
}

// XLSXSheets gives the names of the sheets of a workbook.
func XLSXSheets(raw []byte) ([]string, error) {
	book, sheets, err := opened(raw)
	if err != nil {
		return nil, err
	}
	return sheets, book.Close()
}

// XLSXRows reads the rows of a sheet of a workbook, counted from 0; of the first where there is none of
// that number.
func XLSXRows(raw []byte, sheet int) ([][]string, error) {
	book, sheets, err := opened(raw)
	if err != nil {
		return nil, err
	}
	defer book.Close()
	if sheet < 0 || sheet >= len(sheets) {
		sheet = 0
	}
	in, err := book.Rows(sheets[sheet])
	if err != nil {
		return nil, cm.Refusef("This workbook is broken, or is larger than can be read.")
	}
	defer in.Close()
	var rows [][]string
	for in.Next() {
		row, err := in.Columns()
		if err != nil {
			return nil, cm.Refusef("This workbook is broken, or is larger than can be read.")
		}
		if len(rows) > maxRows {
			return nil, cm.Refusef("That is too much at once: at most %d links can be read from one file.", content.MaxLinks)
		}
		rows = append(rows, row[:min(len(row), 60)])
	}
	return rows, nil
}

// headWords are what columns are called that hold one thing or the other.
var headWords = map[string][]string{
	"from":   {"from", "source", "subject", "concept", "concept 1", "concept1", "von", "de", "desde"},
	"phrase": {"phrase", "linking phrase", "label", "relation", "predicate", "verb", "link", "edge", "type", "relationship"},
	"to":     {"to", "target", "object", "concept 2", "concept2", "nach", "à", "a"},
}

// Guess gives which columns hold what: by the names in the first row, else the first three; with two
// columns there are no phrases.
func Guess(rows [][]string) Columns {
	c := Columns{0, 1, 2, false}
	if len(rows) == 0 {
		return c
	}
	find := func(what string) int {
		for _, name := range headWords[what] {
			for i, cell := range rows[0] {
				if strings.EqualFold(strings.TrimSpace(cell), name) {
					return i
				}
			}
		}
		return -1
	}
	if from, to := find("from"), find("to"); from >= 0 && to >= 0 && from != to {
		return Columns{from, find("phrase"), to, true}
	}
	if widest := slices.MaxFunc(rows, func(a, b []string) int { return len(a) - len(b) }); len(widest) == 2 {
		return Columns{0, -1, 1, false}
	}
	return c
}

// Read makes propositions of rows: the same words are the same concept.
func Read(rows [][]string, c Columns) (*content.Draft, error) {
	d := &content.Draft{}
	keys := map[string]bool{}
	cell := func(row []string, at int) string {
		if at < 0 || at >= len(row) {
			return ""
		}
		words := strings.Join(strings.Fields(row[at]), " ")
		if len(words) > 1 && words[0] == '\'' && strings.ContainsRune("=+-@", rune(words[1])) {
			words = words[1:] // as WriteCSV wrote it
		}
		return words
	}
	add := func(words string) error {
		if keys[words] {
			return nil
		}
		keys[words] = true
		return d.Add(content.Concept{Key: words, Label: words})
	}
	for i, row := range rows {
		if i == 0 && c.Head {
			continue
		}
		from, to := cell(row, c.From), cell(row, c.To)
		switch {
		case from == "" && to == "":
			if len(strings.Join(row, "")) > 0 {
				d.Tell(i+1, "A row without a concept in these columns.")
			}
			continue
		case from == "" || to == "":
			d.Tell(i+1, "A row with one concept: it is read as a loose idea.")
			if err := add(from + to); err != nil {
				return nil, err
			}
			continue
		}
		if err := add(from); err != nil {
			return nil, err
		}
		if err := add(to); err != nil {
			return nil, err
		}
		if err := d.Join(content.Link{From: from, Phrase: cell(row, c.Phrase), To: to}); err != nil {
			return nil, err
		}
	}
	if len(d.Concepts) == 0 {
		return nil, cm.Refusef("There is nothing in this file that could be a concept.")
	}
	return d, nil
}

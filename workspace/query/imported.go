package query

import (
	"strconv"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/tables"
	"mevrin/workspace"
)

// Importing is the page on which files are looked at before anything is made of them.
type Importing struct {
	Files []Imported
	Into  cm.ID
	Title string // of the map to which they may be added
	Fault string
	Ends  []string // of files that can be read
}

// Imported is one file that waits.
type Imported struct {
	ID, Name, Format string
	Concepts, Links  int
	Notes            int
	Remarks          []content.Remark
	More             int      // remarks that are not shown
	Drawing          string   // as markup
	Fault            string   // why it cannot be read
	Sheets           []Choice // of a workbook, where there are several
	Head             []Choice // the columns of a table; nil for what is none
	Columns          tables.Columns
	// What is said of concepts and links of a graph, of which somebody may choose.
	OfConcepts, OfLinks []string
	Lines               []Choice // how an outline may be read; nil for what is none
	Wish                workspace.Wish
}

// shownRemarks bounds the remarks that are shown.
const shownRemarks = 12

var linesAre = []Choice{
	{string(content.LinesConcepts), "each line is a concept", ""},
	{string(content.LinesPhrases), "each second step is a phrase", ""},
	{string(content.LinesNotes), "the last of each branch is a note", ""},
}

// ImportedOf says what was found in a file that waits.
func ImportedOf(one *workspace.Import, look workspace.Look, wish workspace.Wish) Imported {
	v := Imported{ID: one.ID, Name: one.Name, Columns: look.Wished, Wish: wish, Head: columnsOf(look.Rows)}
	if len(look.Sheets) > 1 {
		for i, name := range look.Sheets {
			v.Sheets = append(v.Sheets, Choice{strconv.Itoa(i), cm.Shortened(name, 40), ""})
		}
	}
	if look.Format != nil {
		v.Format = look.Format.Title
	}
	d := look.Draft
	switch {
	case d == nil:
	case d.Map != nil:
		v.Concepts, v.Links = len(d.Map.Concepts), len(d.Map.Links)
	default:
		v.Concepts, v.Links = len(d.Concepts), len(d.Links)
		for _, c := range d.Concepts {
			if c.Note != "" {
				v.Notes++
			}
		}
		v.OfConcepts, v.OfLinks = d.Attributes()
		if len(d.Lines) > 0 {
			v.Lines = linesAre
		}
		v.Remarks = d.Remarks[:min(len(d.Remarks), shownRemarks)]
		v.More = len(d.Remarks) - len(v.Remarks)
	}
	return v
}

// columnsOf says which columns a table has.
func columnsOf(rows [][]string) (head []Choice) {
	wide := 0
	for _, row := range rows {
		wide = max(wide, len(row))
	}
	for i := range min(wide, 30) {
		name := ""
		if i < len(rows[0]) {
			name = cm.Shortened(rows[0][i], 40)
		}
		head = append(head, Choice{strconv.Itoa(i), name, ""})
	}
	return head
}

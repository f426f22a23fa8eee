package query

import (
	"strconv"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/format/tables"
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
	More             int    // remarks that are not shown
	Drawing          string // as markup
	Fault            string // why it cannot be read
	Table            bool
	Head             []Choice // the columns of a table
	Columns          tables.Columns
	NoNotes, Whole   bool // the file is a whole map of ours
	Sample           [][]string
}

// shownRemarks bounds the remarks that are shown.
const shownRemarks = 12

// Count says how much was found in a file.
func (v *Imported) Count(d *content.Draft, f *formats.Format) {
	if f != nil {
		v.Format = f.Title
	}
	if d.Map != nil {
		v.Whole, v.Concepts, v.Links = true, len(d.Map.Concepts), len(d.Map.Links)
		return
	}
	v.Concepts, v.Links = len(d.Concepts), len(d.Links)
	for _, c := range d.Concepts {
		if c.Note != "" {
			v.Notes++
		}
	}
	v.Remarks = d.Remarks[:min(len(d.Remarks), shownRemarks)]
	v.More = len(d.Remarks) - len(v.Remarks)
}

// Tabled says which columns a table has.
func (v *Imported) Tabled(rows [][]string, columns tables.Columns) {
	v.Table, v.Columns = true, columns
	wide := 0
	for _, row := range rows {
		wide = max(wide, len(row))
	}
	for i := range min(wide, 30) {
		name := ""
		if len(rows) > 0 && i < len(rows[0]) {
			name = cm.Shortened(rows[0][i], 40)
		}
		v.Head = append(v.Head, Choice{strconv.Itoa(i), name, ""})
	}
}

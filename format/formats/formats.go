// Package formats knows all open formats in which maps leave and come: what each is for, what it carries,
// and who writes and reads it.
package formats

import (
	"encoding/json"
	"slices"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/format/calendar"
	"mevrin/format/cite"
	"mevrin/format/content"
	"mevrin/format/graphs"
	"mevrin/format/linked"
	"mevrin/format/outlines"
	"mevrin/format/safe"
	"mevrin/format/tables"
)

// Use is what somebody wants with an export.
type Use string

// The uses.
const (
	UsePrint Use = "print" // to print it or look at it
	UseWrite Use = "write" // to put it into a document
	UseShow  Use = "show"  // to show it as slides
	UseTeach Use = "teach" // to put it on a course page
	UseData  Use = "data"  // to work on the data
)

// Uses lists them with what they are called.
var Uses = []struct {
	ID    Use
	Title string
}{{UsePrint, "print it or look at it"}, {UseWrite, "put it into a document"}, {UseShow, "show it as slides"}, {UseTeach, "put it on a course page"}, {UseData, "work on the data"}}

// Part is something of a map that a format may carry.
type Part string

// The parts.
const (
	PartConcepts Part = "concepts"
	PartPhrases  Part = "linking phrases"
	PartCross    Part = "further links"
	PartOrder    Part = "the hierarchy"
	PartNotes    Part = "notes"
	PartKinds    Part = "kinds and tags"
	PartPlaces   Part = "places on the paper"
	PartLooks    Part = "the look"
	PartSources  Part = "sources"
	PartFiles    Part = "pictures and files"
	PartRoutes   Part = "routes"
	PartTalk     Part = "comments and judgements"
)

// Parts lists them.
var Parts = []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartKinds, PartPlaces, PartLooks, PartSources, PartFiles, PartRoutes, PartTalk}

// Format is one format.
type Format struct {
	ID     string // by which addresses and the command line name it
	Ending string // of files, with its dot
	Type   string // media type
	Title  string
	Hint   string // when to take it
	Use    Use
	Holds  []Part // what it carries; all else is lost
	// Wants names the options that concern it.
	Wants []string
	Write func(e *content.Export) ([]byte, error)
	// Needs refuses a map that lacks what the format is made of; nil where every map will do.
	Needs func(e *content.Export) error
	// Read reads a file; nil where the format is only written.
	Read func(raw []byte) (*content.Draft, error)
	// Shown names the format in text that shows what is in one that people cannot read as it is.
	Shown string
	// Rows gives the rows of a format that is a table, of its sheet of that number, of which somebody may say
	// what each column holds; nil for others.
	Rows func(raw []byte, sheet int) ([][]string, error)
	// Sheets names the sheets of a format that has several; nil for others.
	Sheets func(raw []byte) ([]string, error)
	// Back are the parts that come back when what was written is read.
	Back []Part
}

// Loses gives what a format does not carry.
func (f *Format) Loses() (all []Part) {
	for _, p := range Parts {
		if !slices.Contains(f.Holds, p) {
			all = append(all, p)
		}
	}
	return all
}

// Leaving gives a map as it leaves in a format: without what people said of it, unless talk is wished and
// the format holds it. The marks of what was judged come along where they are wished and the format draws
// them.
func (f *Format) Leaving(m *cm.Map, talk, judged bool) *cm.Map {
	if talk && slices.Contains(f.Holds, PartTalk) {
		return m
	}
	quiet := m.WithoutDiscussion()
	if judged && slices.Contains(f.Wants, "judged") {
		quiet.Judgements = m.Judgements
	}
	return quiet
}

// Usual are the options before somebody chooses: all there is, but of what is printed the drawing alone.
func (f *Format) Usual() content.Options {
	o := content.Full()
	if f.Use == UsePrint {
		o.Notes, o.Sources, o.Sentences = false, false, false
	}
	return o
}

// IsText tells whether a file can be read by people as it is.
func (f *Format) IsText() bool {
	return strings.HasPrefix(f.Type, "text/") || strings.HasSuffix(f.Type, "json") || strings.HasSuffix(f.Type, "xml") || f.ID == "bib" || f.ID == "ris"
}

// ReadableAs gives the format in which people can read what a file would hold: itself, or one that says
// the same; nil where there is none.
func (f *Format) ReadableAs() *Format {
	if f.IsText() {
		return f
	}
	return ByID(f.Shown)
}

// bytesOf lets a writer that cannot fail be one of a format.
func bytesOf(write func(e *content.Export) []byte) func(e *content.Export) ([]byte, error) {
	return func(e *content.Export) ([]byte, error) { return write(e), nil }
}

var (
	outlineParts = []Part{PartConcepts, PartPhrases, PartOrder}
	graphParts   = []Part{PartConcepts, PartPhrases, PartCross, PartNotes, PartKinds, PartPlaces}
	graphBack    = []Part{PartConcepts, PartPhrases, PartCross, PartNotes}
)

// All lists the formats, as they are offered.
var All = slices.Concat(pictures, documents, slides, pages, data)

var data = []*Format{
	{ID: "json", Ending: ".json", Type: "application/json", Use: UseData, Title: "A map of Mevrin (JSON)", Hint: "The whole map as it is, to keep or to open elsewhere. Nothing is lost but files.",
		Holds: []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartKinds, PartPlaces, PartLooks, PartSources, PartRoutes, PartTalk},
		Back:  []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartKinds, PartPlaces, PartLooks, PartSources, PartRoutes, PartTalk},
		Wants: []string{"talk"}, Write: func(e *content.Export) ([]byte, error) { return document.Write(e.Map) },
		Read: func(raw []byte) (*content.Draft, error) {
			m, err := document.Read(raw)
			if err != nil {
				return nil, err
			}
			return &content.Draft{Map: m}, nil
		}},
	{ID: "opml", Ending: ".opml", Type: "text/x-opml", Use: UseData, Title: "Outline (OPML)", Hint: "For outline programs.", Holds: append(slices.Clone(outlineParts), PartNotes), Back: append(slices.Clone(outlineParts), PartNotes), Wants: []string{"notes"}, Write: bytesOf(outlines.WriteOPML), Read: outlines.ReadOPML},
	{ID: "md", Ending: ".md", Type: "text/markdown; charset=utf-8", Use: UseWrite, Title: "Text with marks (Markdown)", Hint: "For notes, wikis and sites that are written in Markdown.", Holds: append(slices.Clone(outlineParts), PartCross, PartNotes, PartSources), Back: append(slices.Clone(outlineParts), PartNotes), Wants: []string{"notes", "sentences", "sources", "numbered", "list"}, Write: bytesOf(outlines.WriteMarkdown), Read: outlines.ReadMarkdown},
	{ID: "md-outline", Ending: ".md", Type: "text/markdown; charset=utf-8", Use: UseData, Title: "Outline with marks (Markdown list)", Hint: "A nested list, to paste into notes.", Holds: outlineParts, Back: outlineParts, Write: bytesOf(outlines.WriteMarkdownOutline), Read: outlines.ReadMarkdown},
	{ID: "txt", Ending: ".txt", Type: "text/plain; charset=utf-8", Use: UseData, Title: "Plain text", Hint: "An indented outline that every program opens.", Holds: outlineParts, Back: outlineParts, Wants: []string{"numbered"}, Write: bytesOf(outlines.WriteText), Read: outlines.ReadText},
	{ID: "csv", Ending: ".csv", Type: "text/csv; charset=utf-8", Use: UseData, Title: "Table of propositions (CSV)", Hint: "From, phrase, to: for statistics and spreadsheets.", Holds: []Part{PartConcepts, PartPhrases, PartCross}, Back: []Part{PartConcepts, PartPhrases, PartCross}, Write: func(e *content.Export) ([]byte, error) { return tables.WriteCSV(tables.Propositions(e)), nil },
		Rows: tables.CSVRows, Read: tabled(tables.CSVRows)},
	{ID: "csv-concepts", Ending: ".csv", Type: "text/csv; charset=utf-8", Use: UseData, Title: "Table of concepts (CSV)", Hint: "A line for each concept, with its level, kind, tags and note.", Holds: []Part{PartConcepts, PartPhrases, PartOrder, PartNotes, PartKinds}, Wants: []string{"notes"}, Write: func(e *content.Export) ([]byte, error) { return tables.WriteCSV(tables.Concepts(e)), nil }},
	{ID: "xlsx", Ending: ".xlsx", Type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", Use: UseData, Title: "Workbook (XLSX)", Hint: "Sheets for propositions, concepts and sources.", Holds: []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartKinds, PartSources}, Back: []Part{PartConcepts, PartPhrases, PartCross}, Wants: []string{"notes"}, Write: tables.WriteXLSX, Shown: "csv",
		Rows: tables.XLSXRows, Sheets: tables.XLSXSheets, Read: tabled(tables.XLSXRows)},
	{ID: "graphml", Ending: ".graphml", Type: "application/graphml+xml", Use: UseData, Title: "Graph (GraphML)", Hint: "For programs that draw and measure graphs.", Holds: graphParts, Back: append(slices.Clone(graphBack), PartKinds, PartPlaces), Wants: []string{"notes"}, Write: bytesOf(graphs.WriteGraphML), Read: graphs.ReadGraphML},
	{ID: "gexf", Ending: ".gexf", Type: "application/gexf+xml", Use: UseData, Title: "Graph (GEXF)", Hint: "For programs that explore large networks.", Holds: graphParts, Back: append(slices.Clone(graphBack), PartKinds, PartPlaces), Wants: []string{"notes"}, Write: bytesOf(graphs.WriteGEXF), Read: graphs.ReadGEXF},
	{ID: "dot", Ending: ".dot", Type: "text/vnd.graphviz", Use: UseData, Title: "Graph (DOT)", Hint: "For programs that lay out graphs from text.", Holds: graphBack, Back: graphBack, Wants: []string{"notes"}, Write: bytesOf(graphs.WriteDOT), Read: graphs.ReadDOT},
	{ID: "jgf", Ending: ".json", Type: "application/vnd.jgf+json", Use: UseData, Title: "Graph (JSON Graph Format)", Hint: "For programs and sites that draw graphs.", Holds: graphParts, Back: append(slices.Clone(graphBack), PartKinds, PartPlaces), Wants: []string{"notes"}, Write: graphs.WriteJGF, Read: graphs.ReadJGF},
	{ID: "mmd", Ending: ".mmd", Type: "text/plain; charset=utf-8", Use: UseData, Title: "Flowchart (Mermaid text)", Hint: "For documents that draw from text.", Holds: []Part{PartConcepts, PartPhrases, PartCross}, Back: []Part{PartConcepts, PartPhrases, PartCross}, Write: bytesOf(graphs.WriteMermaid), Read: graphs.ReadMermaid},
	{ID: "ttl", Ending: ".ttl", Type: "text/turtle; charset=utf-8", Use: UseData, Title: "Linked data (Turtle)", Hint: "Concepts of SKOS and statements with addresses of their own.", Holds: []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartKinds, PartSources}, Back: append(slices.Clone(graphBack), PartKinds), Wants: []string{"notes"}, Write: bytesOf(linked.WriteTurtle), Read: linked.ReadTurtle},
	{ID: "jsonld", Ending: ".jsonld", Type: "application/ld+json", Use: UseData, Title: "Linked data (JSON-LD)", Hint: "The same as JSON.", Holds: []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartKinds, PartSources}, Back: append(slices.Clone(graphBack), PartKinds), Wants: []string{"notes"}, Write: linked.WriteJSONLD, Read: linked.ReadJSONLD},
	{ID: "bib", Ending: ".bib", Type: "application/x-bibtex", Use: UseData, Title: "Sources (BibTeX)", Hint: "The cited works, for reference managers.", Holds: []Part{PartSources}, Write: cited(func(all []cm.Citation) ([]byte, error) { return []byte(cite.WriteBibTeX(all)), nil })},
	{ID: "csl", Ending: ".json", Type: "application/vnd.citationstyles.csl+json", Use: UseData, Title: "Sources (CSL-JSON)", Hint: "The same, for newer reference managers.", Holds: []Part{PartSources}, Write: cited(cite.WriteCSL)},
	{ID: "ris", Ending: ".ris", Type: "application/x-research-info-systems", Use: UseData, Title: "Sources (RIS)", Hint: "The same, for libraries.", Holds: []Part{PartSources}, Write: cited(func(all []cm.Citation) ([]byte, error) { return []byte(cite.WriteRIS(all)), nil })},
	{ID: "ics", Ending: ".ics", Type: "text/calendar; charset=utf-8", Use: UseData, Title: "Tasks and days (iCalendar)", Hint: "For calendars: what has a day, and what is to be done.", Wants: []string{"notes"}, Write: func(e *content.Export) ([]byte, error) {
		if !calendar.Has(e.Map) {
			return nil, cm.Refusef("Nothing on this map has a day or a task yet.")
		}
		return calendar.Write(e, time.Now()), nil
	}},
}

// tabled reads tables by what the heads of their columns say.
func tabled(read func(raw []byte, sheet int) ([][]string, error)) func(raw []byte) (*content.Draft, error) {
	return func(raw []byte) (*content.Draft, error) {
		rows, err := read(raw, 0)
		if err != nil {
			return nil, err
		}
		return tables.Read(rows, tables.Guess(rows))
	}
}

// cited lets a writer of works be one of a format; without any there is nothing to write.
func cited(write func([]cm.Citation) ([]byte, error)) func(e *content.Export) ([]byte, error) {
	return func(e *content.Export) ([]byte, error) {
		all := works(e)
		if len(all) == 0 {
			return nil, cm.Refusef("Nothing is cited on this map yet, and it has no web pages.")
		}
		return write(all)
	}
}

// works are the cited works of a map, and its web pages as works.
func works(e *content.Export) (all []cm.Citation) {
	for _, s := range e.Sources() {
		switch {
		case s.Cite != nil:
			all = append(all, *s.Cite)
		case s.URL != "":
			all = append(all, cm.Citation{Title: s.Name(), Place: s.URL})
		}
	}
	return all
}

// ByID gives a format; nil where there is none of that name.
func ByID(id string) *Format {
	if i := slices.IndexFunc(All, func(f *Format) bool { return f.ID == id }); i >= 0 {
		return All[i]
	}
	return nil
}

// aliases are other endings of files, with those by which formats know them.
var aliases = [][2]string{{".jpeg", ".jpg"}, {".markdown", ".md"}, {".text", ".txt"}, {".xml", ".graphml"}, {".gv", ".dot"}, {".htm", ".html"}, {".mermaid", ".mmd"}, {".tsv", ".csv"}}

// ByName gives the format of a file by its name, or by another name of it where its ending has several
// uses; nil for one that is not known.
func ByName(name, as string) *Format {
	if as != "" {
		return ByID(as)
	}
	name = strings.ToLower(name)
	for _, alias := range aliases {
		if rest, is := strings.CutSuffix(name, alias[0]); is {
			name = rest + alias[1]
		}
	}
	for _, f := range All {
		if strings.HasSuffix(name, f.Ending) {
			return f
		}
	}
	return nil
}

// Read reads a file by its name; by what is in it where its ending has several uses. It refuses, in plain
// words, what cannot be read.
func Read(name string, raw []byte) (*content.Draft, *Format, error) {
	f := ByName(name, "")
	switch {
	case strings.HasSuffix(strings.ToLower(name), ".json"):
		f = ByID(jsonFormat(raw))
	case strings.HasSuffix(strings.ToLower(name), ".xml"):
		f = ByID(xmlFormat(raw))
	}
	if f == nil || f.Read == nil {
		return nil, nil, cm.Refusef("Files of this sort cannot be read. These can: %s.", strings.Join(Readable(), ", "))
	}
	d, err := f.Read(raw)
	if err != nil {
		return nil, f, err
	}
	return d, f, nil
}

// Readable lists the endings of files that can be read.
func Readable() (all []string) {
	for _, f := range All {
		if f.Read != nil && !slices.Contains(all, f.Ending) {
			all = append(all, f.Ending)
		}
	}
	return all
}

// Endings lists the endings of files that can be read, under all their names.
func Endings() []string {
	all := Readable()
	for _, alias := range aliases {
		if slices.Contains(all, alias[1]) {
			all = append(all, alias[0])
		}
	}
	return all
}

// jsonFormat tells the formats in JSON apart by the names in their outermost object; words of a map may be
// any of them.
func jsonFormat(raw []byte) string {
	var top map[string]json.RawMessage
	if err := json.Unmarshal([]byte(safe.Text(raw)), &top); err != nil { // a list, or broken
		head := string(raw[:min(len(raw), 4096)])
		switch {
		case strings.Contains(head, `"@context"`) || strings.Contains(head, `"@id"`):
			return "jsonld"
		case strings.Contains(head, `"graph"`) || strings.Contains(head, `"graphs"`):
			return "jgf"
		}
		return "json"
	}
	has := func(name string) bool { return top[name] != nil }
	switch {
	case has("@context") || has("@graph") || has("@id"):
		return "jsonld"
	case has("graph") || has("graphs"):
		return "jgf"
	}
	return "json"
}

func xmlFormat(raw []byte) string {
	head := string(raw[:min(len(raw), 4096)])
	switch {
	case strings.Contains(head, "<gexf"):
		return "gexf"
	case strings.Contains(head, "<opml"):
		return "opml"
	}
	return "graphml"
}

// Texts are the texts of all formats, as pages say them.
func Texts() (all []string) {
	for _, f := range All {
		all = append(all, f.Title, f.Hint)
	}
	for _, u := range Uses {
		all = append(all, u.Title)
	}
	for _, p := range Parts {
		all = append(all, string(p))
	}
	return all
}

// Table gives, as a table in Markdown, which formats there are and what each carries: ● written and read
// back, ○ written alone.
func Table() string {
	var b strings.Builder
	b.WriteString("| format | ending | name | read |")
	for _, p := range Parts {
		b.WriteString(" " + string(p) + " |")
	}
	b.WriteString("\n|" + strings.Repeat(" --- |", 4+len(Parts)) + "\n")
	for _, f := range All {
		reads := ""
		if f.Read != nil {
			reads = "yes"
		}
		b.WriteString("| " + f.Title + " | `" + f.Ending + "` | `" + f.ID + "` | " + reads + " |")
		for _, p := range Parts {
			sign := ""
			switch {
			case slices.Contains(f.Back, p):
				sign = "●"
			case slices.Contains(f.Holds, p):
				sign = "○"
			}
			b.WriteString(" " + sign + " |")
		}
		b.WriteString("\n")
	}
	return b.String()
}

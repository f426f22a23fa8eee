package outlines

import (
	"bytes"
	"cmp"
	"encoding/xml"
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/outline"
	"mevrin/format/safe"
)

// WriteOPML gives a map as OPML 2.0 (opml.org/spec2): text is the concept, phrase and against say how it
// hangs from the one above, _note is its note.
func WriteOPML(e *content.Export) []byte {
	var b bytes.Buffer
	b.WriteString(xml.Header)
	b.WriteString("<opml version=\"2.0\">\n<head>")
	element(&b, "title", e.Title())
	if said := e.Said(); said != "" {
		fmt.Fprintf(&b, "<!-- %s -->", strings.ReplaceAll(said, "--", "- -"))
	}
	b.WriteString("</head>\n<body>\n")
	depth := -1
	for _, r := range e.Outline() {
		for ; depth >= r.Depth; depth-- {
			b.WriteString("</outline>\n")
		}
		depth = r.Depth
		b.WriteString("<outline")
		attribute(&b, "text", r.Label)
		if r.Phrase != "" {
			attribute(&b, "phrase", r.Phrase)
		}
		if r.Against {
			attribute(&b, "against", "true")
		}
		if e.Options.Notes && r.Note != "" {
			attribute(&b, "_note", r.Note)
		}
		b.WriteString(">")
	}
	for ; depth >= 0; depth-- {
		b.WriteString("</outline>\n")
	}
	b.WriteString("</body>\n</opml>\n")
	return b.Bytes()
}

func element(b *bytes.Buffer, name, words string) {
	fmt.Fprintf(b, "<%s>", name)
	_ = xml.EscapeText(b, []byte(words)) // to memory
	fmt.Fprintf(b, "</%s>", name)
}

func attribute(b *bytes.Buffer, name, words string) {
	fmt.Fprintf(b, " %s=\"", name)
	_ = xml.EscapeText(b, []byte(words)) // to memory
	b.WriteByte('"')
}

// ReadOPML reads OPML of any version.
func ReadOPML(raw []byte) (*content.Draft, error) {
	var lines []outline.Line
	var remarks content.Draft
	title, depth, inTitle, known := "", 0, false, false
	err := safe.XML(raw, func(t xml.Token, line int) error {
		switch t := t.(type) {
		case xml.StartElement:
			switch t.Name.Local {
			case "opml":
				known = true
			case "title":
				inTitle = true
			case "outline":
				if len(lines) >= content.MaxConcepts {
					return content.TooMany()
				}
				l := entry(t, depth)
				depth++
				if l.Label == "" {
					remarks.Tell(line, "An entry without words.")
					l.Label = "…"
				}
				lines = append(lines, l)
			}
		case xml.EndElement:
			inTitle = false
			if t.Name.Local == "outline" {
				depth--
			}
		case xml.CharData:
			if inTitle && len(title) < cm.MaxNote {
				title += string(t)
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	if !known {
		return nil, cm.Refusef("This is no OPML file.")
	}
	d, err := content.FromLines(lines)
	if err != nil {
		return nil, err
	}
	d.Title, d.Remarks = strings.TrimSpace(title), remarks.Remarks
	return d, nil
}

// entry reads an entry of an outline.
func entry(t xml.StartElement, depth int) outline.Line {
	a := safe.Attributes(t)
	words := func(s string) string { return strings.Join(strings.Fields(s), " ") }
	l := outline.Line{Depth: depth, Label: cmp.Or(words(a["text"]), words(a["title"])), Phrase: words(a["phrase"]), Note: a["_note"]}
	if a["against"] == "true" {
		l.Phrase = "← " + l.Phrase
	}
	return l
}

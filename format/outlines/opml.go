package outlines

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
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
	dec, err := safe.XML(raw)
	if err != nil {
		return nil, err
	}
	var lines []outline.Line
	var remarks content.Draft
	title, depth, inTitle, known := "", 0, false, false
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, safe.Broken(err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			switch t.Name.Local {
			case "opml":
				known = true
			case "title":
				inTitle = true
			case "outline":
				l := outline.Line{Depth: depth}
				against := false
				for _, a := range t.Attr {
					switch a.Name.Local {
					case "text", "title":
						if l.Label == "" || a.Name.Local == "text" {
							l.Label = strings.Join(strings.Fields(a.Value), " ")
						}
					case "phrase":
						l.Phrase = strings.Join(strings.Fields(a.Value), " ")
					case "against":
						against = a.Value == "true"
					case "_note":
						l.Note = a.Value
					}
				}
				if against {
					l.Phrase = "← " + l.Phrase
				}
				if depth++; depth > safe.MaxDepth {
					return nil, cm.Refusef("This file is nested too deeply to be a map.")
				}
				if l.Label == "" {
					line, _ := dec.InputPos()
					remarks.Tell(line, "An entry without words.")
					l.Label = "…"
				}
				if len(lines) >= content.MaxConcepts {
					return nil, cm.Refusef("That is too much at once: at most %d concepts can be read from one file.", content.MaxConcepts)
				}
				lines = append(lines, l)
			}
		case xml.EndElement:
			inTitle = false
			if t.Name.Local == "outline" {
				depth--
			}
		case xml.CharData:
			if inTitle {
				title += string(t)
			}
		}
	}
	if !known {
		return nil, cm.Refusef("This is no OPML file.")
	}
	d, err := draft(lines)
	if err != nil {
		return nil, err
	}
	d.Title, d.Remarks = strings.TrimSpace(title), remarks.Remarks
	return d, nil
}

package office

import (
	"encoding/xml"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/format/content"
	"mevrin/format/outline"
	"mevrin/format/safe"
)

// found is a paragraph of a document that was read.
type found struct {
	words   string
	title   bool
	heading int // from 1; 0 for none
	item    int // how deep in lists, from 1
	verb    string
}

// outlined makes a draft of paragraphs: headings and items become concepts, one below the other;
// other paragraphs notes of the concept above them.
func outlined(all []found) (*content.Draft, error) {
	var lines []outline.Line
	title := ""
	heading := 0
	ended := false // what follows are sentences and sources that were worked out
	for _, p := range all {
		words := strings.Join(strings.Fields(p.words), " ")
		if p.heading == 1 {
			ended = content.WorkedOut(words)
		}
		switch {
		case ended || words == "":
			continue
		case p.title && title == "":
			title = words
			continue
		case p.heading == 0 && p.item == 0:
			if n := len(lines) - 1; n >= 0 && len(lines[n].Note) < cm.MaxNote {
				lines[n].Note = strings.TrimSpace(lines[n].Note + "\n\n" + words)
			}
			continue
		}
		l := outline.Line{Depth: p.heading - 1, Label: words}
		if p.heading > 0 {
			heading = p.heading
		} else {
			l.Depth = heading + p.item - 1
		}
		if p.verb != "" && strings.HasPrefix(words, p.verb) {
			l.Phrase, l.Label = p.verb, strings.TrimSpace(strings.TrimPrefix(words, p.verb))
		} else if l.Depth > 0 && len(lines) > 0 {
			l.Phrase, l.Label = edit.SplitPhrase(words)
		}
		if l.Label == "" {
			l.Phrase, l.Label = "", words
		}
		if len(lines) == outline.MaxLines {
			return nil, cm.Refusef("That is too much at once: at most 2000 lines can be read.")
		}
		lines = append(lines, l)
	}
	if len(lines) == 0 {
		return nil, cm.Refusef("There are no headings and no lists in this document that could become concepts.")
	}
	d, err := content.FromLines(lines)
	if err == nil {
		d.Title = title
	}
	return d, err
}

var headingName = regexp.MustCompile(`(?i)^(?:heading|überschrift|titre|título|titolo|kop|berschrift)[ _]?(?:20_)?(\d)`)

// part gives a part of a text document; it refuses a file that has none.
func part(a *safe.Archive, name string) ([]byte, error) {
	body, err := a.Part(name)
	if err == nil && body == nil {
		err = cm.Refusef("This is no text document.")
	}
	return body, err
}

// passage is the paragraphs of a document that is read, and the one that the reader is within.
type passage struct {
	all  []found
	now  *found
	verb bool // the words are those of a linking phrase
}

// say takes up words.
func (p *passage) say(words string) {
	if p.now == nil || len(p.now.words) >= cm.MaxNote {
		return
	}
	if p.verb && strings.TrimSpace(p.now.words) == p.now.verb {
		p.now.verb = strings.TrimSpace(p.now.verb + words)
	}
	p.now.words += words
}

// end ends a paragraph, and keeps it unless it stands in a table.
func (p *passage) end(inTable bool) error {
	if p.now != nil && !inTable {
		p.all = append(p.all, *p.now)
	}
	p.now = nil
	if len(p.all) > 4*content.MaxConcepts {
		return content.TooMany()
	}
	return nil
}

// ReadDOCX reads the headings and lists of a text document.
func ReadDOCX(raw []byte) (*content.Draft, error) {
	a, err := safe.Open(raw)
	if err != nil {
		return nil, err
	}
	body, err := part(a, "word/document.xml")
	if err != nil {
		return nil, err
	}
	styles, err := a.Part("word/styles.xml")
	if err != nil {
		return nil, err
	}
	r := wordReading{}
	r.levels, r.titles = styleLevels(styles)
	err = safe.XML(body, func(t xml.Token, _ int) error {
		switch t := t.(type) {
		case xml.StartElement:
			r.begins(t)
		case xml.CharData:
			if r.inText {
				r.say(string(t))
			}
		case xml.EndElement:
			return r.ends(t.Name.Local)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return outlined(r.all)
}

// wordReading is a DOCX that is read (ECMA-376, part 1, 17).
type wordReading struct {
	passage
	levels        map[string]int  // of headings, by their styles
	titles        map[string]bool // styles of titles
	inText, inRun bool
	tables        int
}

func (r *wordReading) begins(t xml.StartElement) {
	if name := t.Name.Local; name == "tbl" {
		r.tables++
	} else if name == "p" {
		r.now = &found{}
	}
	if r.now == nil {
		return
	}
	switch t.Name.Local {
	case "pStyle":
		style := value(t)
		r.now.heading, r.now.title = r.levels[style], r.titles[style]
	case "outlineLvl":
		if n, err := strconv.Atoi(value(t)); err == nil && n >= 0 && n < 9 && r.now.heading == 0 {
			r.now.heading = n + 1
		}
	case "numPr":
		r.now.item = max(r.now.item, 1)
	case "ilvl":
		if n, err := strconv.Atoi(value(t)); err == nil && n >= 0 && n < 20 {
			r.now.item = n + 1
		}
	case "r":
		r.inRun, r.verb = true, false
	case "rStyle":
		r.verb = r.inRun && value(t) == "LinkingPhrase"
	case "t":
		r.inText = true
	case "tab", "br":
		r.now.words += " "
	}
}

func (r *wordReading) ends(element string) error {
	switch element {
	case "tbl":
		r.tables--
	case "t":
		r.inText = false
	case "r":
		r.inRun = false
	case "p":
		return r.end(r.tables > 0)
	}
	return nil
}

// value gives the val of an element.
func value(t xml.StartElement) string { return safe.Attributes(t)["val"] }

// styleLevels gives which styles are headings, and of which level; and which are titles. Of styles that
// are broken it gives what stands before.
func styleLevels(styles []byte) (levels map[string]int, titles map[string]bool) {
	levels, titles = map[string]int{}, map[string]bool{"Title": true}
	for n := 1; n <= 9; n++ {
		levels[fmt.Sprintf("Heading%d", n)] = n
	}
	id := ""
	_ = safe.XML(styles, func(t xml.Token, _ int) error {
		start, is := t.(xml.StartElement)
		if !is {
			return nil
		}
		switch start.Name.Local {
		case "style":
			id = safe.Attributes(start)["styleId"]
		case "name":
			if m := headingName.FindStringSubmatch(value(start)); m != nil {
				levels[id] = int(m[1][0] - '0')
			}
			titles[id] = titles[id] || strings.EqualFold(value(start), "title")
		case "outlineLvl":
			if n, err := strconv.Atoi(value(start)); err == nil && n >= 0 && n < 9 && levels[id] == 0 {
				levels[id] = n + 1
			}
		}
		return nil
	})
	return levels, titles
}

// ReadODT reads the headings and lists of a text document.
func ReadODT(raw []byte) (*content.Draft, error) {
	a, err := safe.Open(raw)
	if err != nil {
		return nil, err
	}
	body, err := part(a, "content.xml")
	if err != nil {
		return nil, err
	}
	var p passage
	lists, tables, verbs := 0, 0, 0
	err = safe.XML(body, func(t xml.Token, _ int) error {
		switch t := t.(type) {
		case xml.StartElement:
			a := safe.Attributes(t)
			switch t.Name.Local {
			case "list":
				lists++
			case "table":
				tables++
			case "h":
				n, _ := strconv.Atoi(a["outline-level"])
				p.now = &found{heading: max(1, min(9, n))}
			case "p":
				p.now = &found{item: lists, title: a["style-name"] == "Title"}
			case "span":
				if verbs > 0 || a["style-name"] == "Linking_20_Phrase" {
					verbs++
				}
			case "s", "tab", "line-break":
				if p.now != nil {
					p.now.words += " "
				}
			}
		case xml.CharData:
			p.verb = verbs > 0
			p.say(string(t))
		case xml.EndElement:
			switch t.Name.Local {
			case "list":
				lists--
			case "table":
				tables--
			case "span":
				verbs = max(0, verbs-1)
			case "h", "p":
				return p.end(tables > 0)
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return outlined(p.all)
}

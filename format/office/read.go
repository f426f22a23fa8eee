package office

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
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
	d := &content.Draft{}
	var above []string
	heading := 0
	last := -1
	ended := false // what follows are sentences and sources that were worked out
	for _, p := range all {
		words := strings.Join(strings.Fields(p.words), " ")
		if p.heading == 1 {
			ended = words == "Sentences" || words == "Sources"
		}
		switch {
		case ended:
			continue
		case words == "":
			continue
		case p.title && d.Title == "":
			d.Title = words
			continue
		case p.heading == 0 && p.item == 0:
			if last >= 0 && len(d.Concepts[last].Note) < cm.MaxNote {
				d.Concepts[last].Note = strings.TrimSpace(d.Concepts[last].Note + "\n\n" + words)
			}
			continue
		}
		depth := p.heading - 1
		if p.heading > 0 {
			heading = p.heading
		} else {
			depth = heading + p.item - 1
		}
		depth = min(depth, len(above))
		phrase, label := "", words
		if p.verb != "" && strings.HasPrefix(words, p.verb) {
			phrase, label = p.verb, strings.TrimSpace(strings.TrimPrefix(words, p.verb))
		} else if depth > 0 {
			phrase, label = edit.SplitPhrase(words)
		}
		if label == "" {
			phrase, label = "", words
		}
		key := fmt.Sprint(len(d.Concepts))
		if err := d.Add(content.Concept{Key: key, Label: label}); err != nil {
			return nil, err
		}
		last = len(d.Concepts) - 1
		if depth > 0 {
			l := content.Link{From: above[depth-1], Phrase: phrase, To: key}
			if rest, against := strings.CutPrefix(phrase, "← "); against {
				l = content.Link{From: key, Phrase: rest, To: above[depth-1]}
			}
			if err := d.Join(l); err != nil {
				return nil, err
			}
		}
		above = append(above[:depth], key)
		if len(d.Concepts) > outline.MaxLines {
			return nil, cm.Refusef("That is too much at once: at most 2000 lines can be read.")
		}
	}
	if len(d.Concepts) == 0 {
		return nil, cm.Refusef("There are no headings and no lists in this document that could become concepts.")
	}
	return d, nil
}

var headingName = regexp.MustCompile(`(?i)^(?:heading|überschrift|titre|título|titolo|kop|berschrift)[ _]?(?:20_)?(\d)`)

// ReadDOCX reads the headings and lists of a text document.
func ReadDOCX(raw []byte) (*content.Draft, error) {
	a, err := safe.Open(raw)
	if err != nil {
		return nil, err
	}
	body, err := a.Part("word/document.xml")
	if err != nil {
		return nil, err
	}
	if body == nil {
		return nil, cm.Refusef("This is no text document.")
	}
	styles, err := a.Part("word/styles.xml")
	if err != nil {
		return nil, err
	}
	levels, titles := styleLevels(styles)
	dec, err := safe.XML(body)
	if err != nil {
		return nil, err
	}
	var all []found
	var now found
	depth, inText, inRun, runVerb, table := 0, false, false, false, 0
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			return outlined(all)
		}
		if err != nil {
			return nil, safe.Broken(err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if depth++; depth > safe.MaxDepth {
				return nil, cm.Refusef("This file is nested too deeply to be a map.")
			}
			switch t.Name.Local {
			case "tbl":
				table++
			case "p":
				now = found{}
			case "pStyle":
				style := value(t)
				now.heading, now.title = levels[style], titles[style]
			case "outlineLvl":
				if n, err := strconv.Atoi(value(t)); err == nil && n >= 0 && n < 9 && now.heading == 0 {
					now.heading = n + 1
				}
			case "numPr":
				now.item = max(now.item, 1)
			case "ilvl":
				if n, err := strconv.Atoi(value(t)); err == nil && n >= 0 && n < 20 {
					now.item = n + 1
				}
			case "r":
				inRun, runVerb = true, false
			case "rStyle":
				runVerb = inRun && value(t) == "LinkingPhrase"
			case "t":
				inText = true
			case "tab", "br":
				now.words += " "
			}
		case xml.CharData:
			if inText && len(now.words) < cm.MaxNote {
				if runVerb && strings.TrimSpace(now.words) == now.verb {
					now.verb = strings.TrimSpace(now.verb + string(t))
				}
				now.words += string(t)
			}
		case xml.EndElement:
			depth--
			switch t.Name.Local {
			case "tbl":
				table--
			case "t":
				inText = false
			case "r":
				inRun = false
			case "p":
				if table == 0 {
					all = append(all, now)
				}
			}
			if len(all) > 4*content.MaxConcepts {
				return nil, cm.Refusef("That is too much at once: at most %d concepts can be read from one file.", content.MaxConcepts)
			}
		}
	}
}

// value gives the val of an element.
func value(t xml.StartElement) string {
	for _, a := range t.Attr {
		if a.Name.Local == "val" {
			return a.Value
		}
	}
	return ""
}

// styleLevels gives which styles are headings, and of which level; and which are titles.
func styleLevels(styles []byte) (levels map[string]int, titles map[string]bool) {
	levels, titles = map[string]int{}, map[string]bool{}
	for n := 1; n <= 9; n++ {
		levels[fmt.Sprintf("Heading%d", n)] = n
	}
	titles["Title"] = true
	if styles == nil {
		return levels, titles
	}
	dec, err := safe.XML(styles)
	if err != nil {
		return levels, titles
	}
	id := ""
	for {
		token, err := dec.Token()
		if err != nil {
			return levels, titles
		}
		if t, is := token.(xml.StartElement); is {
			switch t.Name.Local {
			case "style":
				id = ""
				for _, a := range t.Attr {
					if a.Name.Local == "styleId" {
						id = a.Value
					}
				}
			case "name":
				if m := headingName.FindStringSubmatch(value(t)); m != nil {
					levels[id] = int(m[1][0] - '0')
				}
				titles[id] = titles[id] || strings.EqualFold(value(t), "title")
			case "outlineLvl":
				if n, err := strconv.Atoi(value(t)); err == nil && n >= 0 && n < 9 && levels[id] == 0 {
					levels[id] = n + 1
				}
			}
		}
	}
}

// ReadODT reads the headings and lists of a text document.
func ReadODT(raw []byte) (*content.Draft, error) {
	a, err := safe.Open(raw)
	if err != nil {
		return nil, err
	}
	body, err := a.Part("content.xml")
	if err != nil {
		return nil, err
	}
	if body == nil {
		return nil, cm.Refusef("This is no text document.")
	}
	dec, err := safe.XML(body)
	if err != nil {
		return nil, err
	}
	var all []found
	var now *found
	depth, list, table, verb := 0, 0, 0, 0
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			return outlined(all)
		}
		if err != nil {
			return nil, safe.Broken(err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if depth++; depth > safe.MaxDepth {
				return nil, cm.Refusef("This file is nested too deeply to be a map.")
			}
			a := map[string]string{}
			for _, one := range t.Attr {
				a[one.Name.Local] = one.Value
			}
			switch t.Name.Local {
			case "list":
				list++
			case "table":
				table++
			case "h":
				n, _ := strconv.Atoi(a["outline-level"])
				now = &found{heading: max(1, min(9, n))}
			case "p":
				now = &found{item: list, title: a["style-name"] == "Title"}
			case "span":
				if verb > 0 || a["style-name"] == "Linking_20_Phrase" {
					verb++
				}
			case "s", "tab", "line-break":
				if now != nil {
					now.words += " "
				}
			}
		case xml.CharData:
			if now != nil && len(now.words) < cm.MaxNote {
				if verb > 0 && strings.TrimSpace(now.words) == now.verb {
					now.verb = strings.TrimSpace(now.verb + string(t))
				}
				now.words += string(t)
			}
		case xml.EndElement:
			depth--
			switch t.Name.Local {
			case "list":
				list--
			case "table":
				table--
			case "span":
				verb = max(0, verb-1)
			case "h", "p":
				if now != nil && table == 0 {
					all = append(all, *now)
				}
				now = nil
			}
			if len(all) > 4*content.MaxConcepts {
				return nil, cm.Refusef("That is too much at once: at most %d concepts can be read from one file.", content.MaxConcepts)
			}
		}
	}
}

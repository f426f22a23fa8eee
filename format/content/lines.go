package content

import (
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/outline"
)

// Against marks the phrase of a line whose link leads to what it stands below.
const Against = "← "

// ReadLines says what the lines of an outline are.
type ReadLines string

// The ways in which lines are read.
const (
	LinesConcepts ReadLines = ""        // each is a concept
	LinesPhrases  ReadLines = "phrases" // each second step down is a linking phrase
	LinesNotes    ReadLines = "notes"   // one with nothing below it is a note of what it stands below
)

// FromLines gives the concepts and links of lines; the same words are the same concept. It refuses lines
// among which there is none.
func FromLines(lines []outline.Line) (*Draft, error) {
	d := &Draft{Lines: lines}
	keys := map[string]string{}
	var above []string
	for _, l := range outline.Shortened(lines) {
		key := keys[l.Label]
		if key == "" || l.Note != "" {
			key = fmt.Sprint(len(d.Concepts))
			keys[l.Label] = key
			if err := d.Add(Concept{Key: key, Label: l.Label, Note: l.Note}); err != nil {
				return nil, err
			}
		}
		depth := min(l.Depth, len(above))
		if depth > 0 {
			link := Link{From: above[depth-1], Phrase: l.Phrase, To: key}
			if rest, is := strings.CutPrefix(l.Phrase, strings.TrimSpace(Against)); is {
				link = Link{From: key, Phrase: strings.TrimSpace(rest), To: above[depth-1]}
			}
			if link.From != link.To {
				if err := d.Join(link); err != nil {
					return nil, err
				}
			}
		}
		above = append(above[:depth], key)
	}
	if len(d.Concepts) == 0 {
		return nil, cm.Refusef("There is nothing in this file that could be a concept.")
	}
	return d, nil
}

// withPhrases gives lines of which each second step down was a linking phrase: it stands before what is
// below it. One with nothing below it is a concept after all.
func withPhrases(lines []outline.Line) (all []outline.Line) {
	type step struct {
		depth  int // of the line as it is written
		phrase string
	}
	var above []step
	for i, l := range lines {
		for len(above) > 0 && above[len(above)-1].depth >= l.Depth {
			above = above[:len(above)-1]
		}
		before := step{depth: -1}
		if len(above) > 0 {
			before = above[len(above)-1]
		}
		leads := i+1 < len(lines) && lines[i+1].Depth > l.Depth
		if len(above) > 0 && before.phrase == "" && leads {
			words := l.Label
			if l.Phrase != "" {
				words = l.Phrase + ": " + l.Label
			}
			above = append(above, step{l.Depth, words})
			continue
		}
		for _, s := range above {
			if s.phrase != "" {
				l.Depth--
			}
		}
		if before.phrase != "" {
			if l.Phrase != "" { // it was part of the words
				l.Label = l.Phrase + ": " + l.Label
			}
			l.Phrase = before.phrase
		}
		above = append(above, step{depth: lines[i].Depth})
		all = append(all, l)
	}
	return all
}

// withNotes gives lines of which those with nothing below them became notes of what they stood below.
func withNotes(lines []outline.Line) (all []outline.Line) {
	var above []int // places in all, of the lines above the one at hand
	for i, l := range lines {
		depth := min(l.Depth, len(above))
		above = above[:depth]
		if depth == 0 || i+1 < len(lines) && lines[i+1].Depth > l.Depth {
			above = append(above, len(all))
			all = append(all, l)
			continue
		}
		words := l.Label
		if l.Phrase != "" {
			words = l.Phrase + ": " + words
		}
		of := &all[above[depth-1]]
		of.Note = strings.TrimSpace(of.Note + "\n\n" + words)
		if l.Note != "" {
			of.Note += "\n\n" + l.Note
		}
		above = append(above, above[depth-1])
	}
	return all
}

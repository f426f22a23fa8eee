package outlines

import (
	"regexp"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/format/content"
	"mevrin/format/outline"
	"mevrin/format/safe"
)

var (
	heading = regexp.MustCompile(`^(#{1,6})\s+(.*?)\s*#*\s*$`)
	item    = regexp.MustCompile(`^([ \t]*)(?:[-*+]|\d{1,9}[.)])\s+(.*)$`)
	emph    = regexp.MustCompile(`^\*([^*]+)\*\s+(.*)$`)
	linked  = regexp.MustCompile(`\[([^\]]*)\]\(<?([^)>]*)>?\)`)
	escaped = regexp.MustCompile(`\\([!-/:-@\[-` + "`" + `{-~])`)
)

// ReadMarkdown reads a document in Markdown: headings and list items become concepts, one below the
// other as they are in the document; paragraphs become notes of the concept above them. Words in
// emphasis, or before a colon, at the beginning of an item are its phrase.
func ReadMarkdown(raw []byte) (*content.Draft, error) {
	r := markdownReader{}
	for i, text := range strings.Split(strings.ReplaceAll(safe.Text(raw), "\r\n", "\n"), "\n") {
		if err := r.line(i+1, text); err != nil {
			return nil, err
		}
	}
	lines := r.lines
	d, err := content.FromLines(lines)
	if err != nil {
		return nil, err
	}
	d.Title, d.Remarks = r.title, r.remarks.Remarks
	return d, nil
}

type markdownReader struct {
	lines   []outline.Line
	title   string
	titled  bool // the document has a title, even if one without words
	heading int  // the depth of the last heading
	indents []int
	fenced  bool
	remarks content.Draft
	ended   bool // what follows are sentences and sources that were worked out
}

func (r *markdownReader) line(n int, text string) error {
	trimmed := strings.TrimSpace(text)
	if strings.HasPrefix(trimmed, "```") {
		r.fenced = !r.fenced
		return nil
	}
	m := heading.FindStringSubmatch(text)
	switch {
	case r.fenced:
		r.note(trimmed)
	case m != nil:
		words := plainWords(m[2])
		r.indents = nil
		switch level := len(m[1]); {
		case level == 1 && !r.titled && len(r.lines) == 0:
			r.title, r.titled = words, true
		case level == 2 && content.WorkedOut(words):
			r.ended = true
		default:
			r.ended = false
			r.heading = level - 1
			if !r.titled {
				r.heading = level
			}
			return r.add(n, r.heading-1, m[2])
		}
	case r.ended || trimmed == "" || trimmed == "---":
	case item.MatchString(text):
		m := item.FindStringSubmatch(text)
		indent := len(strings.ReplaceAll(m[1], "\t", "    "))
		for len(r.indents) > 0 && r.indents[len(r.indents)-1] >= indent {
			r.indents = r.indents[:len(r.indents)-1]
		}
		depth := r.heading + len(r.indents)
		r.indents = append(r.indents, indent)
		return r.add(n, depth, m[2])
	default:
		r.note(trimmed)
	}
	return nil
}

func (r *markdownReader) add(n, depth int, words string) error {
	if len(r.lines) >= outline.MaxLines {
		return cm.Refusef("That is too much at once: at most 2000 lines can be read.")
	}
	depth = max(0, depth)
	l := outline.Line{Depth: depth, Label: plainWords(words)}
	if depth > 0 {
		if m := emph.FindStringSubmatch(words); m != nil {
			l.Phrase, l.Label = plainWords(m[1]), plainWords(m[2])
		} else {
			l.Phrase, l.Label = edit.SplitPhrase(l.Label)
		}
	}
	if l.Label == "" {
		r.remarks.Tell(n, "A heading or an item without words.")
		return nil
	}
	r.lines = append(r.lines, l)
	return nil
}

func (r *markdownReader) note(words string) {
	if len(r.lines) == 0 {
		return
	}
	last := &r.lines[len(r.lines)-1]
	if len(last.Note)+len(words) < cm.MaxNote {
		last.Note = strings.TrimSpace(last.Note + "\n" + words)
	}
}

// plainWords takes the marks off words.
func plainWords(words string) string {
	words = linked.ReplaceAllString(words, "$1")
	words = strings.ReplaceAll(words, "**", "")
	const kept = "\x00"
	words = escaped.ReplaceAllString(words, kept+"$1")
	var b strings.Builder
	runes := []rune(words)
	for i := 0; i < len(runes); i++ {
		if runes[i] == 0 {
			i++
			if i < len(runes) {
				b.WriteRune(runes[i])
			}
			continue
		}
		if runes[i] != '*' && runes[i] != '`' {
			b.WriteRune(runes[i])
		}
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

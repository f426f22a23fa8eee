// Package outlines writes and reads maps as outlines: indented text, Markdown (CommonMark) and OPML 2.
// An outline holds each concept once, below what it hangs from; further links are not in it, but in the
// sentences of a Markdown document. A concept of which the sentence begins has an arrow before the
// phrase ("← moves: the ear").
package outlines

import (
	"fmt"
	"strings"

	"mevrin/format/content"
	"mevrin/format/outline"
	"mevrin/format/safe"
)

// line is a concept with the phrase that leads to it.
func line(r content.Row) string {
	phrase := r.Phrase
	if phrase == "" {
		return r.Label
	}
	if r.Against {
		phrase = content.Against + phrase
	}
	return phrase + ": " + r.Label
}

// WriteText gives a map as indented text, a tab for each step down.
func WriteText(e *content.Export) []byte {
	var b strings.Builder
	for _, r := range e.Outline() {
		number := ""
		if e.Options.Numbered {
			number = r.Number + " "
		}
		fmt.Fprintf(&b, "%s%s%s\n", strings.Repeat("\t", r.Depth), number, line(r))
	}
	return []byte(b.String())
}

// WriteMarkdownOutline gives a map as a nested list.
func WriteMarkdownOutline(e *content.Export) []byte {
	var b strings.Builder
	for _, r := range e.Outline() {
		fmt.Fprintf(&b, "%s- %s\n", strings.Repeat("  ", r.Depth), escape(line(r)))
	}
	return []byte(b.String())
}

// WriteMarkdown gives a map as a document: headings or a list, notes, sentences, sources.
func WriteMarkdown(e *content.Export) []byte {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n", escape(e.Title()))
	if q := e.Question(); q != "" && q != e.Title() {
		fmt.Fprintf(&b, "*%s*\n\n", escape(q))
	}
	for _, r := range e.Outline() {
		number := ""
		if e.Options.Numbered {
			number = r.Number + " "
		}
		if e.Options.List || r.Depth > 4 {
			fmt.Fprintf(&b, "%s- %s%s\n", strings.Repeat("  ", r.Depth), number, voiced(r))
			if e.Options.Notes && r.Note != "" {
				fmt.Fprintf(&b, "\n%s\n\n", indent(r.Note, strings.Repeat("  ", r.Depth+1)))
			}
			continue
		}
		fmt.Fprintf(&b, "%s %s%s\n\n", strings.Repeat("#", r.Depth+2), number, voiced(r))
		if e.Options.Notes && r.Note != "" {
			fmt.Fprintf(&b, "%s\n\n", r.Note)
		}
	}
	if e.Options.Sentences {
		fmt.Fprintf(&b, "\n## %s\n\n", e.Says("Sentences"))
		for _, s := range e.Sentences() {
			if !s.Open {
				fmt.Fprintf(&b, "- %s *%s* %s\n", escape(s.From), escape(s.Phrase), escape(s.To))
			}
		}
	}
	if sources := e.Sources(); e.Options.Sources && len(sources) > 0 {
		fmt.Fprintf(&b, "\n## %s\n\n", e.Says("Sources"))
		for _, s := range sources {
			if s.URL != "" {
				fmt.Fprintf(&b, "- %s: [%s](<%s>)\n", escape(s.On), escape(s.Name()), s.URL)
			} else {
				fmt.Fprintf(&b, "- %s: %s\n", escape(s.On), escape(s.Name()))
			}
		}
	}
	if said := e.Said(); said != "" {
		fmt.Fprintf(&b, "\n---\n\n%s\n", escape(said))
	}
	return []byte(b.String())
}

// voiced is a concept with its phrase in the voice in which verbs are set.
func voiced(r content.Row) string {
	if r.Phrase == "" {
		return escape(r.Label)
	}
	if r.Against {
		return "*" + content.Against + escape(r.Phrase) + "* " + escape(r.Label)
	}
	return "*" + escape(r.Phrase) + "* " + escape(r.Label)
}

func indent(text, by string) string { return by + strings.ReplaceAll(text, "\n", "\n"+by) }

var signs = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", `\<`, "`", "\\`", "#", `\#`, "$", `\$`)

// escape writes words so that Markdown leaves them as they are.
func escape(words string) string { return signs.Replace(words) }

// ReadText reads indented text.
func ReadText(raw []byte) (*content.Draft, error) {
	lines, err := outline.Parse(safe.Text(raw), false)
	if err != nil {
		return nil, err
	}
	return content.FromLines(lines)
}

package content

import (
	"slices"

	"mevrin/core/message"
)

// The headings of what is worked out of a map in documents.
var workedOut = []message.Message{message.Of("Sentences"), message.Of("Sources"), message.Of("Notes")}

// Says gives a text of the catalogue in the language in which the map is read.
func (e *Export) Says(key string, args ...any) string {
	return message.For(string(e.Language())).Sprintf(key, args...)
}

// WorkedOut tells whether words are the heading, in any language, of what a document has worked out of a
// map: whoever reads it passes over what follows.
func WorkedOut(words string) bool {
	return slices.ContainsFunc(message.Languages(), func(lang string) bool {
		say := message.For(lang)
		return slices.ContainsFunc(workedOut[:2], func(m message.Message) bool { return m.In(say) == words })
	})
}

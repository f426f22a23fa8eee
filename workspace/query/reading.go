package query

import (
	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"mevrin/workspace"
)

// Reading is a state of a map as people read it: what pages, the column, the margin and
// lenses say of it. It asks nobody and changes nothing.
type Reading struct {
	*workspace.State
	// Say writes messages in the reader's language; English where it is nil.
	Say *message.Printer
	// Rules are how whoever reads wants the rules of Check on all maps.
	Rules check.Settings
	// Lang is the language in which the map is read; empty for its own.
	Lang cm.Lang
}

// words gives a text of the map as it is read.
func (s Reading) words(t cm.Text) string {
	if s.Lang == "" {
		return s.Map.Words(t)
	}
	return t.For(s.Lang, s.Map.Language)
}

// t writes a message in the reader's language.
func (s Reading) t(key string, args ...any) string {
	if s.Say == nil {
		return message.English().Sprintf(key, args...)
	}
	return s.Say.Sprintf(key, args...)
}

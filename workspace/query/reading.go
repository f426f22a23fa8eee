package query

import (
	"mevrin/core/message"
	"mevrin/workspace"
)

// Reading is a state of a map as people read it: what pages, the column, the margin and
// lenses say of it. It asks nobody and changes nothing.
type Reading struct {
	*workspace.State
	// Say writes messages in the reader's language; English where it is nil.
	Say *message.Printer
}

// t writes a message in the reader's language.
func (s Reading) t(key string, args ...any) string {
	if s.Say == nil {
		return message.English().Sprintf(key, args...)
	}
	return s.Say.Sprintf(key, args...)
}

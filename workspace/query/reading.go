package query

import (
	"mevrin/core/check"
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
}

// t writes a message in the reader's language.
func (s Reading) t(key string, args ...any) string {
	if s.Say == nil {
		return message.English().Sprintf(key, args...)
	}
	return s.Say.Sprintf(key, args...)
}

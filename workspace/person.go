package workspace

import (
	"crypto/sha256"

	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"mevrin/core/people"
	"mevrin/store"
)

// Person is who is asking.
type Person struct {
	// ID is how the log records an author. It is sent to nobody: others know the
	// person by the name that speaker gives.
	ID string
	// AdditiveOnly tells that they may do nothing that takes anything off a map: whoever
	// has a link, and no more.
	AdditiveOnly bool
	// JudgesOnly tells that they may say what they think of propositions, and do nothing else.
	JudgesOnly bool
	// Say writes messages in their language; English where it is nil.
	Say *message.Printer
	// Scope is what they may reach in the folder.
	Scope store.Scope
	// Account is theirs, and SignIn how they are signed in; nil and empty for whoever has none.
	Account *people.Person
	SignIn  string
}

// Says gives the printer of their language.
func (p Person) Says() *message.Printer {
	if p.Say == nil {
		return message.English()
	}
	return p.Say
}

// hears gives messages in their language.
func (p Person) hears(all []message.Message) []string {
	var said []string
	for _, m := range all {
		said = append(said, m.In(p.Says()))
	}
	return said
}

// Speaker names the person in comments and votes on a map. It is the same each
// time, other on each map, and tells nobody by what they are known to the log. A
// bearer of a link is named so that they cannot be taken for the map's own people.
func (p Person) Speaker(mapID cm.ID) cm.ID { return SpeakerOf(mapID, p.ID, p.AdditiveOnly) }

func SpeakerOf(mapID cm.ID, person string, visitor bool) cm.ID {
	sum := sha256.Sum256([]byte("speaker\x00" + string(mapID) + "\x00" + person))
	return cm.SpeakerID(sum[:8], visitor)
}

// HandPrefix is how those who work under links are named in the log, JudgePrefix those who judge.
const (
	HandPrefix  = "hand:"
	JudgePrefix = "judge:"
)

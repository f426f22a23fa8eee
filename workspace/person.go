package workspace

import (
	"crypto/sha256"
	"time"

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
	// JudgesOnly tells that they may say what they think of propositions, and do nothing else; CommentsOnly that
	// they may comment, vote and judge, and suggest what else they would alter.
	JudgesOnly, CommentsOnly bool
	// Bearer tells that all that is known of them is that they have a link; Nobody that it is not known who they
	// are at all, so that nothing is kept of them.
	Bearer, Nobody bool
	// Until is when their link ends by itself; zero where it does not.
	Until time.Time
	// Say writes messages in their language; English where it is nil.
	Say *message.Printer
	// Scope is what they may reach in the folder.
	Scope store.Scope
	// Account is theirs, and SignIn how they are signed in; nil and empty for whoever has none.
	Account *people.Person
	SignIn  string
}

// Alters tells whether they may alter a map in any way: take things off it, too, and settle what others say.
func (p Person) Alters() bool { return !p.AdditiveOnly && !p.CommentsOnly && !p.JudgesOnly }

// Keeps tells whether there is a place where something is kept for them, for all their maps.
func (p Person) Keeps() bool { return p.Scope.All || p.Scope.Person != "" }

// Name is what they are called, for those who have an account.
func (p Person) Name() string {
	if p.Account == nil {
		return ""
	}
	return p.Account.Name
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
func (p Person) Speaker(mapID cm.ID) cm.ID { return SpeakerOf(mapID, p.ID, p.AdditiveOnly || p.Bearer) }

func SpeakerOf(mapID cm.ID, person string, visitor bool) cm.ID {
	sum := sha256.Sum256([]byte("speaker\x00" + string(mapID) + "\x00" + person))
	return cm.SpeakerID(sum[:8], visitor)
}

// HandPrefix is how those who work with the simple tools under links are named in the log, JudgePrefix those
// who judge, LinkPrefix those who came to the map as a whole.
const (
	HandPrefix  = "hand:"
	JudgePrefix = "judge:"
	LinkPrefix  = "link:"
)

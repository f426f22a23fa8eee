package conceptmap

import (
	"encoding/hex"
	"mevrin/core/likeness"
	"regexp"
	"slices"
	"strings"
)

// Comment is what a person says about something on the map, or about the map. It
// is kept apart from what the map itself says, and outlives what it is about.
type Comment struct {
	ID ID `json:"id"`
	// On is what a thread is about: a concept, a link, a region, or the map, which has
	// no id here. Its answers have none of their own.
	On Ref `json:"on,omitzero"`
	// Answers names the comment that this one answers: the first of its thread.
	// Empty for one that begins a thread.
	Answers ID `json:"answers,omitempty" mevrin:"needs=comment"`
	// By names whoever wrote it, in a way that tells nobody else who that is; Name
	// is what they call themselves.
	By    ID     `json:"by"`
	Name  string `json:"called,omitempty" mevrin:"limit=speaker"`
	At    string `json:"at" mevrin:"form=moment"`                // when it was written, in MomentForm
	Words string `json:"words,omitempty" mevrin:"limit=comment"` // plain; empty where they were taken back
	// Settled says of a thread that nothing is left to say.
	Settled bool `json:"settled,omitempty"`
	// Asks says of a thread that whoever began it asks for help there: a hand is raised until it is settled.
	Asks bool `json:"asks,omitempty"`
}

// SpeakerID names whoever speaks on a map by a hash of who they are. A visitor is
// somebody who has a link and no more.
func SpeakerID(hash []byte, visitor bool) ID {
	if visitor {
		return ID("v" + hex.EncodeToString(hash))
	}
	return ID("p" + hex.EncodeToString(hash))
}

// Visitor tells whether the id of somebody who speaks is that of a visitor.
func Visitor(speaker ID) bool { return strings.HasPrefix(string(speaker), "v") }

// MomentForm is how the time of a comment is written, as a layout of package time:
// as in RFC 3339, in UTC, to the millisecond, so that a quick answer comes after
// what it answers.
const MomentForm = "2006-01-02T15:04:05.000Z"

// MomentPattern is the form of MomentForm.
var MomentPattern = regexp.MustCompile(`^(\d{4}-\d{2}-\d{2})T([01]\d|2[0-3]):[0-5]\d:[0-5]\d\.\d{3}Z$`)

// SoundMoment tells whether a time is written in MomentForm.
func SoundMoment(at string) bool {
	parts := MomentPattern.FindStringSubmatch(at)
	if parts == nil {
		return false
	}
	_, _, day := moment(parts[1])
	return day
}

// The bounds of comments: on one map, and in characters.
const (
	MaxComments     = 20_000
	MaxCommentWords = 4000
	MaxName         = 60
)

// SpeaksHere tells whether one of the people to whom the map belongs goes by a
// name, however it is spelt.
func (m *Map) SpeaksHere(name string) bool {
	for _, c := range m.Comments {
		if !Visitor(c.By) && name != "" && likeness.Fold(c.Name) == likeness.Fold(name) {
			return true
		}
	}
	return false
}

// NameOf gives what somebody who spoke on the map calls themselves; empty where
// they never said.
func (m *Map) NameOf(speaker ID) string {
	for _, c := range InOrder(m.Comments) {
		if c.By == speaker && c.Name != "" {
			return c.Name
		}
	}
	return ""
}

// JudgedBy tells whether somebody judged under a name.
func (m *Map) JudgedBy(speaker ID) bool {
	for _, j := range m.Judgements {
		if j.By == speaker && j.Name != "" {
			return true
		}
	}
	return false
}

// MaxVotes bounds the votes on one concept.
const MaxVotes = 5000

// Tally counts how many agree with a concept, and how many do not: of visitors, or of
// the map's own people.
func (c *Concept) Tally(visitors bool) (agree, disagree int) {
	for voter, agrees := range c.Votes {
		switch {
		case Visitor(voter) != visitors:
		case agrees:
			agree++
		default:
			disagree++
		}
	}
	return agree, disagree
}

// Thread is a comment with its answers, in the order in which they were written.
type Thread struct {
	*Comment
	Answers []*Comment
}

// Threads gives all threads, the oldest first.
func (m *Map) Threads() []Thread {
	all := InOrder(m.Comments)
	slices.SortStableFunc(all, func(a, b *Comment) int { return strings.Compare(a.At, b.At) })
	var threads []Thread
	at := map[ID]int{}
	for _, c := range all {
		if c.Answers == "" {
			at[c.ID] = len(threads)
			threads = append(threads, Thread{Comment: c})
		}
	}
	for _, c := range all {
		if first, is := at[c.Answers]; is {
			threads[first].Answers = append(threads[first].Answers, c)
		}
	}
	return threads
}

// Discussion counts the comments of threads that are not settled, by what they are about.
func (m *Map) Discussion() map[Key]int {
	count := map[Key]int{}
	for _, c := range m.Comments {
		first := c
		if f := m.Comments[c.Answers]; f != nil {
			first = f
		}
		if !first.Settled && c.Words != "" {
			count[Key{first.On.Kind, first.On.ID}]++
		}
	}
	return count
}

// Hands counts the hands that are raised, by what they are about.
func (m *Map) Hands() map[Key]int {
	count := map[Key]int{}
	for _, c := range m.Comments {
		if c.Asks && !c.Settled {
			count[Key{c.On.Kind, c.On.ID}]++
		}
	}
	return count
}

// Discussed tells whether anybody commented on something, or voted.
func (m *Map) Discussed() bool {
	if len(m.Comments)+len(m.Judgements)+len(m.Dismissals)+len(m.Grades) > 0 {
		return true
	}
	for _, c := range m.Concepts {
		if len(c.Votes) > 0 {
			return true
		}
	}
	return false
}

// WithoutDiscussion gives the map without what people said about it: comments, votes and
// judgements.
func (m *Map) WithoutDiscussion() *Map {
	next := m.Clone()
	next.Comments, next.Judgements, next.Dismissals, next.Grades = map[ID]*Comment{}, map[ID]*Judgement{}, map[ID]*Dismissal{}, map[ID]*Grade{}
	for id, c := range m.Concepts {
		if c.Votes != nil {
			quiet := *c
			quiet.Votes = nil
			next.Concepts[id] = &quiet
		}
	}
	return next
}

// Sound tells what is wrong with a comment as a whole: it begins a thread about
// something, or answers one.
func (c *Comment) Sound() error {
	about := c.On.Kind == EntityMap && c.On.ID == "" || c.On.ID.Valid() && (c.On.Kind == EntityConcept || c.On.Kind == EntityLink || c.On.Kind == EntityRegion)
	if c.Answers != "" {
		about = c.On.Kind == "" && c.On.ID == "" && c.On.Seen.Empty()
	}
	if !about || c.Answers == c.ID || (c.Settled || c.Asks) && c.Answers != "" {
		return Refusef("A comment is about something on the map, or answers another.")
	}
	return nil
}

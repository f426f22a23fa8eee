package conceptmap

import (
	"encoding/hex"
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

var momentForm = regexp.MustCompile(`^(\d{4}-\d{2}-\d{2})T([01]\d|2[0-3]):[0-5]\d:[0-5]\d\.\d{3}Z$`)

func soundMoment(at string) bool {
	parts := momentForm.FindStringSubmatch(at)
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

// Speaker is whoever speaks for themselves. It is told by whoever performs an
// operation, never by the operation itself, so that nobody speaks for another.
type Speaker struct {
	ID     ID     // the same person's is always the same
	At     string // in MomentForm
	Gentle bool   // may take back their own words, and no one else's
}

// spoken is part of an operation by which somebody speaks for themselves.
type spoken struct{ speaker Speaker }

func (s *spoken) sign(who Speaker) { s.speaker = who }

// Sign says who speaks. Operations by which somebody speaks are refused without.
func Sign(ops []Operation, who Speaker) {
	for _, op := range ops {
		if own, ok := op.(interface{ sign(Speaker) }); ok {
			own.sign(who)
		}
	}
}

var errUnsigned = Refusef("It is not known who says that. Please reload the page.")

// AddComment says something about a thing on the map, or answers a comment.
type AddComment struct {
	spoken
	ID      ID     `json:"id"`
	On      Key    `json:"on,omitzero"`       // of one that begins a thread
	Answers ID     `json:"answers,omitempty"` // of one that does not
	Name    string `json:"name,omitempty"`
	Words   string `json:"words"`
}

func (op *AddComment) apply(d *editing) error {
	if err := d.free(op.ID); err != nil {
		return err
	}
	if !op.speaker.ID.Valid() || !soundMoment(op.speaker.At) {
		return errUnsigned
	}
	if len(d.m.Comments) >= MaxComments {
		return Refusef("A map can have at most %d comments.", MaxComments)
	}
	name, err := Clean(strings.Join(strings.Fields(op.Name), " "), MaxName, "The name")
	if err != nil {
		return err
	}
	if op.speaker.Gentle && d.m.speaksHere(name) {
		return Refusef("“%s” is what somebody is called who this map belongs to. Please choose another name.", name)
	}
	c := &Comment{ID: op.ID, By: op.speaker.ID, Name: name, At: op.speaker.At}
	if c.Words, err = commentWords(op.Words); err != nil {
		return err
	}
	if op.Answers == "" {
		if c.On, err = d.refTo(op.On); err != nil {
			return err
		}
	} else {
		first, err := d.comment(op.Answers)
		if err != nil {
			return err
		}
		if first.Answers != "" {
			if first, err = d.comment(first.Answers); err != nil {
				return err
			}
		}
		c.Answers = first.ID
		if first.Settled { // it is not, as it turns out
			first.Settled = false
			d.putComment(first)
		}
	}
	d.putComment(c)
	return nil
}

// speaksHere tells whether one of the people to whom the map belongs goes by a
// name, however it is spelt.
func (m *Map) speaksHere(name string) bool {
	for _, c := range m.Comments {
		if !Visitor(c.By) && name != "" && Fold(c.Name) == Fold(name) {
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

func commentWords(words string) (string, error) {
	words, err := Clean(words, MaxCommentWords, "A comment")
	if err == nil && words == "" {
		err = Refusef("A comment needs words.")
	}
	return words, err
}

// comment gives a copy that may be altered and put.
func (d *editing) comment(id ID) (*Comment, error) {
	c := d.m.Comments[id]
	if c == nil {
		return nil, Refusef("That comment is gone.")
	}
	next := *c
	return &next, nil
}

// refTo gives a reference to something that is on the map.
func (d *editing) refTo(key Key) (Ref, error) {
	if key.Kind == EntityMap && key.ID == d.m.ID {
		return Ref{Kind: EntityMap}, nil // a copy of the map has another id
	}
	words, there := d.m.WordsAt(key)
	if !there || key.Kind != EntityConcept && key.Kind != EntityLink && key.Kind != EntityRegion {
		return Ref{}, Refusef("That is no longer on the map.")
	}
	return Ref{Kind: key.Kind, ID: key.ID, Seen: words}, nil
}

// ChangeComment alters the words of a comment, or takes it back where they are
// empty. Whoever wrote it can; a map's author can take any comment away, but
// never change what somebody said. A comment that was answered leaves its place.
type ChangeComment struct {
	spoken
	Comment ID     `json:"comment"`
	Words   string `json:"words,omitempty"`
}

func (op *ChangeComment) apply(d *editing) error {
	c, err := d.comment(op.Comment)
	if err != nil {
		return err
	}
	own := c.By == op.speaker.ID
	switch {
	case !op.speaker.ID.Valid():
		return errUnsigned
	case strings.TrimSpace(op.Words) != "":
		if !own {
			return Refusef("Only whoever wrote a comment can change its words.")
		}
		if c.Words, err = commentWords(op.Words); err != nil {
			return err
		}
	case !own && op.speaker.Gentle:
		return Refusef("Only whoever wrote a comment can take it back.")
	case d.answered(c.ID):
		c.Words = ""
	default:
		d.dropComment(c.ID)
		return nil
	}
	d.putComment(c)
	return nil
}

func (d *editing) answered(id ID) bool {
	for _, c := range d.m.Comments {
		if c.Answers == id {
			return true
		}
	}
	return false
}

// dropComment takes a comment away, and the empty place of the first of its
// thread where that was the last answer to it.
func (d *editing) dropComment(id ID) {
	first := d.m.Comments[id].Answers
	delete(d.m.Comments, id)
	d.touch(EntityComment, id)
	if f := d.m.Comments[first]; f != nil && f.Words == "" && !d.answered(first) {
		d.dropComment(first)
	}
}

// SettleComment says of a thread that nothing is left to say, or that there is.
type SettleComment struct {
	spoken
	Comment ID   `json:"comment"`
	Settled bool `json:"settled"`
}

func (op *SettleComment) apply(d *editing) error {
	c, err := d.comment(op.Comment)
	if err != nil {
		return err
	}
	switch {
	case !op.speaker.ID.Valid():
		return errUnsigned
	case c.Answers != "":
		return Refusef("A thread is settled by its first comment.")
	case op.speaker.Gentle && c.By != op.speaker.ID:
		return Refusef("Only whoever began a thread, or the author of the map, can settle it.")
	}
	c.Settled = op.Settled
	d.putComment(c)
	return nil
}

// Vote says that whoever speaks agrees with a concept, or does not; nil takes
// that back. Everyone has one vote on each.
type Vote struct {
	spoken
	Concept ID    `json:"concept"`
	For     *bool `json:"for"`
}

// MaxVotes bounds the votes on one concept.
const MaxVotes = 5000

func (op *Vote) apply(d *editing) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	by := op.speaker.ID
	if !by.Valid() {
		return errUnsigned
	}
	next := map[ID]bool{}
	for voter, agrees := range c.Votes {
		next[voter] = agrees
	}
	if delete(next, by); op.For != nil {
		next[by] = *op.For
	}
	if len(next) > MaxVotes {
		return Refusef("A concept can have at most %d votes.", MaxVotes)
	}
	if c.Votes = next; len(next) == 0 {
		c.Votes = nil
	}
	d.putConcept(c)
	return nil
}

// joinVotes gives the votes on a concept that was two: each person's on the one
// that stays, else on the other.
func joinVotes(keep, gone map[ID]bool) map[ID]bool {
	if len(gone) == 0 {
		return keep
	}
	all := map[ID]bool{}
	for _, votes := range []map[ID]bool{gone, keep} {
		for voter, agrees := range votes {
			all[voter] = agrees
		}
	}
	return all
}

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

// Talk counts the comments of threads that are not settled, by what they are about.
func (m *Map) Talk() map[Key]int {
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

// Talked tells whether anybody commented on something, or voted.
func (m *Map) Talked() bool {
	if len(m.Comments) > 0 {
		return true
	}
	for _, c := range m.Concepts {
		if len(c.Votes) > 0 {
			return true
		}
	}
	return false
}

// WithoutTalk gives the map without what people said about it: comments and votes.
func (m *Map) WithoutTalk() *Map {
	next := m.Clone()
	next.Comments = map[ID]*Comment{}
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
	if !about || c.Answers == c.ID || c.Settled && c.Answers != "" {
		return Refusef("A comment is about something on the map, or answers another.")
	}
	return nil
}

package conceptmap

import "slices"

// reader puts the parts of a document on a map and keeps the first fault.
type reader struct {
	*draft
	err error
}

func (r *reader) fail(err error) {
	if r.err == nil {
		r.err = err
	}
}

func (r *reader) id(id ID, what string) {
	if err := r.free(id); err != nil {
		r.fail(refusef("Two things on this map have the id “%.40s”, or it is no id: %s.", id, what))
	}
}

func (r *reader) text(t Text, most int, what string) Text {
	var clean Text
	for lang, words := range t {
		if !lang.Valid() {
			r.fail(refusef("%s is given in “%.40s”, which is no language.", what, lang))
			return nil
		}
		words, err := Clean(words, most, what)
		if err != nil {
			r.fail(err)
			return nil
		}
		clean = clean.With(lang, words)
	}
	return clean
}

func (r *reader) kind(k *Kind) {
	if k == nil {
		r.fail(refusef("A kind in this file is empty."))
		return
	}
	r.id(k.ID, "a kind")
	k.Name = r.text(k.Name, MaxKindName, "The name of a kind")
	k.Meaning = r.text(k.Meaning, MaxNote, "The meaning of a kind")
	if !k.looksSound() || !ValidRank(k.Rank) {
		r.fail(refusef("The kind “%.40s” looks in a way that this version does not know.", k.ID))
	}
	if r.err == nil {
		r.putKind(k)
	}
}

// set reads a set of ids, each of which is there or not named.
func (r *reader) set(ids map[ID]bool, most int, what string, of ID) {
	for id, in := range ids {
		if !in || !id.Valid() {
			r.fail(refusef("“%.40s” %s, “%.40s”, that can be none.", of, what, id))
		}
	}
	if len(ids) > most {
		r.fail(refusef("“%.40s” %s too often: at most %d times.", of, what, most))
	}
}

func (r *reader) tag(t *Tag) {
	if t == nil {
		r.fail(refusef("A tag in this file is empty."))
		return
	}
	r.id(t.ID, "a tag")
	t.Name = r.text(t.Name, MaxKindName, "The name of a tag")
	if !t.Colour.valid() || !ValidRank(t.Rank) {
		r.fail(refusef("The tag “%.40s” looks in a way that this version does not know.", t.ID))
	}
	if r.err == nil {
		r.putTag(t)
	}
}

func (r *reader) region(g *Region) {
	if g == nil {
		r.fail(refusef("A region in this file is empty."))
		return
	}
	r.id(g.ID, "a region")
	g.Title = r.text(g.Title, MaxTitle, "The title of a region")
	g.Note = r.text(g.Note, MaxNote, "The note of a region")
	if !g.looksSound() {
		r.fail(refusef("The region “%.40s” looks in a way that this version does not know.", g.ID))
	}
	r.set(g.Members, MaxConcepts, "holds a concept", g.ID)
	r.set(g.Branches, MaxConcepts, "holds a branch", g.ID)
	if r.err == nil {
		r.putRegion(g)
	}
}

func (r *reader) filter(f *Filter) {
	if f == nil {
		r.fail(refusef("A filter in this file is empty."))
		return
	}
	r.id(f.ID, "a filter")
	f.Name = r.text(f.Name, MaxKindName, "The name of a filter")
	if err := f.Sound(); err != nil || !ValidRank(f.Rank) {
		r.fail(refusef("The filter “%.40s” asks for something that this version does not know.", f.ID))
	}
	if r.err == nil {
		r.putFilter(f)
	}
}

func (r *reader) concept(c *Concept) {
	if c == nil {
		r.fail(refusef("A concept in this file is empty."))
		return
	}
	r.id(c.ID, "a concept")
	c.Label = r.text(c.Label, MaxLabel, "The label of a concept")
	c.Note = r.text(c.Note, MaxNote, "The note of a concept")
	at, err := place(c.At)
	if err != nil {
		r.fail(err)
	}
	c.At = at
	if c.Main != nil && !ValidRank(c.Main.Rank) {
		r.fail(refusef("The concept “%.40s” has no proper rank among its siblings.", c.ID))
	}
	if c.Kind != "" && !c.Kind.Valid() {
		r.fail(refusef("The concept “%.40s” is of something that can be no kind.", c.ID))
	}
	if !c.setSoundly() {
		r.fail(refusef("The label of the concept “%.40s” is set in a way that this version does not know.", c.ID))
	}
	if !c.Pattern.valid() || !c.Hold.valid() {
		r.fail(refusef("The concept “%.40s” is put in order in a way that this version does not know.", c.ID))
	}
	if when, err := CleanWhen(c.When); err != nil || when != c.When {
		r.fail(refusef("The concept “%.40s” belongs to a time that this version cannot read.", c.ID))
	}
	if !c.Amount.sound(false) || !c.Lasts.sound(true) {
		r.fail(refusef("The concept “%.40s” has an amount or a duration that cannot be read.", c.ID))
	}
	r.set(c.Tags, MaxTags, "carries a tag", c.ID)
	if len(c.Icons) > MaxIcons || slices.ContainsFunc(c.Icons, func(i Icon) bool { return i == "" || !i.valid() }) {
		r.fail(refusef("The concept “%.40s” has an icon that can be none, or more than %d.", c.ID, MaxIcons))
	}
	r.sources(c.Sources, "concept", c.ID)
	if !c.Paint.sound() {
		r.fail(refusef("The concept “%.40s” has a colour or an outline that this version does not know.", c.ID))
	}
	c.Remark = r.text(c.Remark, MaxRemark, "The remark on a concept")
	if !c.NoteCard.sound() {
		r.fail(refusef("The note of the concept “%.40s” looks or lies in a way that this version does not know.", c.ID))
	}
	if !c.Task.sound() {
		r.fail(refusef("The task of the concept “%.40s” cannot be read.", c.ID))
	}
	for voter := range c.Votes {
		if !voter.Valid() || len(c.Votes) > MaxVotes {
			r.fail(refusef("The votes on the concept “%.40s” cannot be read, or are more than %d.", c.ID, MaxVotes))
			break
		}
	}
	if !c.Table.sound() {
		r.fail(refusef("The table of the concept “%.40s” cannot be read.", c.ID))
	}
	if r.err == nil {
		r.putConcept(c)
	}
}

func (r *reader) sources(all map[ID]Source, what string, id ID) {
	for own, source := range all {
		if !own.Valid() || !source.sound() {
			r.fail(refusef("The %s “%.40s” has a source that is no web address, file or citation.", what, id))
		}
	}
	if len(all) > MaxSources {
		r.fail(refusef("A %s can have at most %d sources.", what, MaxSources))
	}
}

func (r *reader) link(l *Link) {
	if l == nil {
		r.fail(refusef("A link in this file is empty."))
		return
	}
	r.id(l.ID, "a link")
	l.Phrase = r.text(l.Phrase, MaxPhrase, "A linking phrase")
	l.Note = r.text(l.Note, MaxNote, "The note of a link")
	if !l.NoteCard.sound() {
		r.fail(refusef("The note of the link “%.40s” looks or lies in a way that this version does not know.", l.ID))
	}
	if l.Kind != "" && !l.Kind.Valid() {
		r.fail(refusef("The link “%.40s” is of something that can be no kind.", l.ID))
	}
	l.From, l.To = sortEnds(l.From), sortEnds(l.To)
	r.sources(l.Sources, "link", l.ID)
	if err := r.sound(l); err != nil {
		r.fail(refusef("The link “%.40s” is not sound. %s", l.ID, err))
	}
	if err := l.ledSoundly(); err != nil {
		r.fail(refusef("The line of the link “%.40s” is not sound. %s", l.ID, err))
	}
	if r.err == nil {
		r.putLink(l)
	}
}

func (r *reader) route(t *Route) {
	if t == nil {
		r.fail(refusef("A route in this file is empty."))
		return
	}
	r.id(t.ID, "a route")
	t.Title = r.text(t.Title, MaxTitle, "The title of a route")
	if r.err == nil {
		r.putRoute(t)
	}
}

// stop reads a stop. What it shows may be gone: stops outlive that.
func (r *reader) stop(s *Stop) {
	if s == nil {
		r.fail(refusef("A stop in this file is empty."))
		return
	}
	r.id(s.ID, "a stop")
	s.Title = r.text(s.Title, MaxTitle, "The title of a stop")
	s.Card = r.text(s.Card, MaxNote, "The card of a stop")
	s.GuideNotes = r.text(s.GuideNotes, MaxNote, "The guide notes of a stop")
	if len(s.Refs) > MaxRefs {
		r.fail(refusef("A stop can show at most %d things.", MaxRefs))
	}
	for i, ref := range s.Refs {
		if !ref.ID.Valid() || (ref.Kind != EntityConcept && ref.Kind != EntityLink) {
			r.fail(refusef("The stop “%.40s” shows something that cannot be on a map.", s.ID))
		}
		s.Refs[i].Seen = r.text(ref.Seen, MaxLabel, "The words last seen at a stop")
	}
	if !ValidRank(s.Rank) || r.m.Routes[s.Route] == nil {
		r.fail(refusef("The stop “%.40s” stands on no route.", s.ID))
	}
	if r.err == nil {
		r.putStop(s)
	}
}

// comments reads what people said. What it is about may be gone, but an answer
// needs the comment that it answers.
func (r *reader) comments(all []*Comment) {
	for _, c := range all {
		if c == nil {
			r.fail(refusef("A comment in this file is empty."))
			return
		}
		r.id(c.ID, "a comment")
		about := c.On.Kind == EntityMap && c.On.ID == "" || c.On.ID.Valid() && (c.On.Kind == EntityConcept || c.On.Kind == EntityLink || c.On.Kind == EntityRegion)
		if c.Answers != "" {
			about = c.On.Kind == "" && c.On.ID == "" && c.On.Seen.Empty()
		}
		if !c.sound() || !about {
			r.fail(refusef("The comment “%.40s” cannot be read.", c.ID))
		}
		c.On.Seen = r.text(c.On.Seen, MaxLabel, "The words that a comment is about")
		if r.err != nil {
			return
		}
		r.putComment(c)
	}
	for _, c := range all {
		if first := r.m.Comments[c.Answers]; c.Answers != "" && (first == nil || first.Answers != "") {
			r.fail(refusef("The comment “%.40s” answers none that is in this file.", c.ID))
		}
	}
}

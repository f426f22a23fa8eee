package conceptmap

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
)

// DocumentVersion is the version of the map document that Write writes. Read
// refuses newer ones: what it does not understand it might lose.
const DocumentVersion = 1

// What one document may hold.
const (
	MostConcepts = 20_000
	MostLinks    = 60_000
	MostStops    = 20_000
)

// document is the form of a map in JSON: lists in the order of their ids, so
// that equal maps are equal byte for byte.
type document struct {
	Version  int  `json:"mevrin"`
	ID       ID   `json:"id"`
	Language Lang `json:"language"`
	Title    Text `json:"title,omitempty"`
	Question Text `json:"question,omitempty"`
	Focus    ID   `json:"focus,omitempty"`

	RulesOff map[string]bool `json:"rulesOff,omitempty"`
	Tucked   map[ID]bool     `json:"tucked,omitempty"`
	Hand     Hand            `json:"hand,omitempty"`
	Pattern  Pattern         `json:"pattern,omitempty"`
	Freely   bool            `json:"freely,omitempty"`
	KeepTidy bool            `json:"keepTidy,omitempty"`

	Kinds    []*Kind    `json:"kinds,omitempty"`
	Concepts []*Concept `json:"concepts"`
	Links    []*Link    `json:"links"`
	Routes   []*Route   `json:"routes"`
	Stops    []*Stop    `json:"stops"`
}

// Write gives the map as a document.
func Write(m *Map) ([]byte, error) {
	doc := document{
		Version: DocumentVersion, ID: m.ID, Language: m.Language, Title: m.Title,
		Question: m.Question, Focus: m.Focus, RulesOff: m.RulesOff, Tucked: m.Tucked,
		Hand: m.Hand, Pattern: m.Pattern, Freely: m.Freely, KeepTidy: m.KeepTidy, Kinds: inOrder(m.Kinds), Concepts: inOrder(m.Concepts), Links: inOrder(m.Links),
		Routes: inOrder(m.Routes), Stops: inOrder(m.Stops),
	}
	var out bytes.Buffer
	to := json.NewEncoder(&out)
	to.SetEscapeHTML(false)
	to.SetIndent("", "  ")
	if err := to.Encode(doc); err != nil {
		return nil, fmt.Errorf("writing map %s: %w", m.ID, err)
	}
	return out.Bytes(), nil
}

func inOrder[V any](all map[ID]V) []V {
	list := make([]V, 0, len(all))
	for _, id := range SortedIDs(all) {
		list = append(list, all[id])
	}
	return list
}

// Read reads a document, from wherever it comes. Its texts are cleaned and its
// hierarchy is settled as after any operation; whatever else is not sound
// refuses the document as a whole, with words that say where.
func Read(raw []byte) (*Map, error) {
	var version struct {
		Version *int `json:"mevrin"`
	}
	if err := json.Unmarshal(raw, &version); err != nil {
		return nil, errors.Join(refusef("This file cannot be read as a map: it is not whole, or no JSON."), err)
	}
	switch {
	case version.Version == nil:
		return nil, refusef("This file is JSON, but no map of Mevrin.")
	case *version.Version > DocumentVersion:
		return nil, refusef("This map was written by a newer version of Mevrin (document version %d; this one reads up to %d). Nothing was changed.", *version.Version, DocumentVersion)
	case *version.Version < 1:
		return nil, refusef("This file names a document version that never was.")
	}
	if err := strict(raw); err != nil {
		return nil, err
	}
	var doc document
	from := json.NewDecoder(bytes.NewReader(raw))
	from.DisallowUnknownFields()
	if err := from.Decode(&doc); err != nil {
		return nil, errors.Join(refusef("This file is no sound map: %s.", plainJSONError(err)), err)
	}
	if _, err := from.Token(); err != io.EOF {
		return nil, refusef("This file goes on after the end of the map.")
	}
	return doc.build()
}

func plainJSONError(err error) string {
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return fmt.Sprintf("“%s” does not hold what belongs there", kind.Field)
	}
	return "it holds something that this version does not know"
}

func (doc *document) build() (*Map, error) {
	if !doc.ID.Valid() {
		return nil, refusef("The map in this file has no proper id.")
	}
	if !doc.Language.Valid() {
		return nil, refusef("The map in this file does not say in which language it is.")
	}
	if len(doc.Concepts) > MostConcepts || len(doc.Links) > MostLinks || len(doc.Stops) > MostStops || len(doc.Routes) > MostStops || len(doc.Kinds) > MostKinds {
		return nil, refusef("This map is too large: at most %d concepts and %d links fit.", MostConcepts, MostLinks)
	}
	d := newDraft(NewMap(doc.ID, doc.Language), nil)
	read := reader{draft: d}
	d.m.Title = read.text(doc.Title, MostTitle, "The title of the map")
	d.m.Question = read.text(doc.Question, MostQuestion, "The focus question")
	for _, k := range doc.Kinds {
		read.kind(k)
	}
	for _, c := range doc.Concepts {
		read.concept(c)
	}
	for _, l := range doc.Links {
		read.link(l)
	}
	for _, r := range doc.Routes {
		read.route(r)
	}
	for _, s := range doc.Stops {
		read.stop(s)
	}
	if d.m.Focus = doc.Focus; doc.Focus != "" && d.m.Concepts[doc.Focus] == nil {
		read.fail(refusef("The focus concept of this map is not on it."))
	}
	for rule, off := range doc.RulesOff {
		if !off || setRule(d, rule, false) != nil {
			read.fail(refusef("This file switches off a rule, “%.40s”, that can be none.", rule))
		}
	}
	for id, tucked := range doc.Tucked {
		if !tucked || !id.Valid() {
			read.fail(refusef("This file tucks away “%.40s”, which can be no branch.", id))
		}
	}
	d.m.Tucked = doc.Tucked
	if d.m.Hand = doc.Hand; !doc.Hand.valid() {
		read.fail(refusef("This file asks for a hand that this version does not have."))
	}
	if d.m.Pattern, d.m.Freely, d.m.KeepTidy = doc.Pattern, doc.Freely, doc.KeepTidy; !doc.Pattern.valid() {
		read.fail(refusef("This map is put in order by a pattern that this version does not know."))
	}
	if read.err != nil {
		return nil, read.err
	}
	d.settle()
	return d.m, nil
}

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
	k.Name = r.text(k.Name, MostKindName, "The name of a kind")
	k.Meaning = r.text(k.Meaning, MostNote, "The meaning of a kind")
	if !k.looksSound() || !ValidRank(k.Rank) {
		r.fail(refusef("The kind “%.40s” looks in a way that this version does not know.", k.ID))
	}
	if r.err == nil {
		r.putKind(k)
	}
}

func (r *reader) concept(c *Concept) {
	if c == nil {
		r.fail(refusef("A concept in this file is empty."))
		return
	}
	r.id(c.ID, "a concept")
	c.Label = r.text(c.Label, MostLabel, "The label of a concept")
	c.Note = r.text(c.Note, MostNote, "The note of a concept")
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
	for id, source := range c.Sources {
		if clean, err := cleanAddress(source.URL); err != nil || clean != source.URL || !id.Valid() {
			r.fail(refusef("The concept “%.40s” has a source that is no web address.", c.ID))
		}
	}
	if len(c.Sources) > MostSources {
		r.fail(refusef("A concept can have at most %d sources.", MostSources))
	}
	if r.err == nil {
		r.putConcept(c)
	}
}

func (r *reader) link(l *Link) {
	if l == nil {
		r.fail(refusef("A link in this file is empty."))
		return
	}
	r.id(l.ID, "a link")
	l.Phrase = r.text(l.Phrase, MostPhrase, "A linking phrase")
	l.Note = r.text(l.Note, MostNote, "The note of a link")
	l.From, l.To = sortEnds(l.From), sortEnds(l.To)
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
	t.Title = r.text(t.Title, MostTitle, "The title of a route")
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
	s.Title = r.text(s.Title, MostTitle, "The title of a stop")
	s.Card = r.text(s.Card, MostNote, "The card of a stop")
	s.GuideNotes = r.text(s.GuideNotes, MostNote, "The guide notes of a stop")
	if len(s.Refs) > MostRefs {
		r.fail(refusef("A stop can show at most %d things.", MostRefs))
	}
	for i, ref := range s.Refs {
		if !ref.ID.Valid() || (ref.Kind != EntityConcept && ref.Kind != EntityLink) {
			r.fail(refusef("The stop “%.40s” shows something that cannot be on a map.", s.ID))
		}
		s.Refs[i].Seen = r.text(ref.Seen, MostLabel, "The words last seen at a stop")
	}
	if !ValidRank(s.Rank) || r.m.Routes[s.Route] == nil {
		r.fail(refusef("The stop “%.40s” stands on no route.", s.ID))
	}
	if r.err == nil {
		r.putStop(s)
	}
}

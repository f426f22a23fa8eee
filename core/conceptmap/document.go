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
	Look     *Look           `json:"look,omitempty"`
	Tray     map[ID]Source   `json:"tray,omitempty"`
	Note     Text            `json:"note,omitempty"`
	KeyPlace *KeyPlace       `json:"keyPlace,omitempty"`

	Kinds    []*Kind    `json:"kinds,omitempty"`
	Tags     []*Tag     `json:"tags,omitempty"`
	Concepts []*Concept `json:"concepts"`
	Links    []*Link    `json:"links"`
	Regions  []*Region  `json:"regions,omitempty"`
	Filters  []*Filter  `json:"filters,omitempty"`
	Routes   []*Route   `json:"routes"`
	Stops    []*Stop    `json:"stops"`
	Comments []*Comment `json:"comments,omitempty"`
}

// Write gives the map as a document.
func Write(m *Map) ([]byte, error) {
	doc := document{
		Version: DocumentVersion, ID: m.ID, Language: m.Language, Title: m.Title,
		Question: m.Question, Focus: m.Focus, RulesOff: m.RulesOff, Tucked: m.Tucked,
		Hand: m.Hand, Pattern: m.Pattern, Freely: m.Freely, KeepTidy: m.KeepTidy, Note: m.Note, KeyPlace: m.KeyPlace, Look: dressed(m.Look), Tray: m.Tray,
		Kinds: inOrder(m.Kinds), Tags: inOrder(m.Tags), Regions: inOrder(m.Regions), Filters: inOrder(m.Filters), Concepts: inOrder(m.Concepts), Links: inOrder(m.Links),
		Routes: inOrder(m.Routes), Stops: inOrder(m.Stops), Comments: inOrder(m.Comments),
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
	if len(doc.Concepts) > MaxConcepts || len(doc.Links) > MaxLinks || len(doc.Stops) > MaxStops || len(doc.Routes) > MaxStops || len(doc.Kinds) > MaxKinds ||
		len(doc.Tags) > MaxTags || len(doc.Regions) > MaxRegions || len(doc.Filters) > MaxFilters || len(doc.Comments) > MaxComments {
		return nil, refusef("This map is too large: at most %d concepts and %d links fit.", MaxConcepts, MaxLinks)
	}
	d := newDraft(NewMap(doc.ID, doc.Language), nil)
	read := reader{draft: d}
	d.m.Title = read.text(doc.Title, MaxTitle, "The title of the map")
	d.m.Question = read.text(doc.Question, MaxQuestion, "The focus question")
	for _, k := range doc.Kinds {
		read.kind(k)
	}
	for _, t := range doc.Tags {
		read.tag(t)
	}
	for _, c := range doc.Concepts {
		read.concept(c)
	}
	for _, l := range doc.Links {
		read.link(l)
	}
	for _, r := range doc.Regions {
		read.region(r)
	}
	for _, f := range doc.Filters {
		read.filter(f)
	}
	for _, r := range doc.Routes {
		read.route(r)
	}
	for _, s := range doc.Stops {
		read.stop(s)
	}
	read.comments(doc.Comments)
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
	if d.m.Look = undressed(doc.Look); !d.m.Look.sound() {
		read.fail(refusef("This map has a look that this version does not know."))
	}
	read.sources(doc.Tray, "map", d.m.ID)
	d.m.Tray = doc.Tray
	d.m.Note = read.text(doc.Note, MaxNote, "The note on the map")
	if d.m.KeyPlace = doc.KeyPlace; doc.KeyPlace != nil && doc.KeyPlace.At != nil {
		at, err := place(*doc.KeyPlace.At)
		if err != nil {
			read.fail(err)
		}
		d.m.KeyPlace.At = &at
	}
	if read.err != nil {
		return nil, read.err
	}
	if err := d.fits(); err != nil {
		return nil, err
	}
	d.settle()
	return d.m, nil
}

package conceptmap

import (
	"maps"
	"net/url"
	"regexp"
	"slices"
	"strings"
)

// Source is something attached to a concept or a link: a web address, a file that
// is kept beside the maps, or a citation. Which it is follows from what it has.
type Source struct {
	URL   string `json:"url,omitempty"`
	Title string `json:"title,omitempty"` // what it is called; a file's name at first
	File  *File  `json:"file,omitempty"`
	// Cite is a citation of a printed or other work.
	Cite *Citation `json:"cite,omitempty"`
	// Says describes a picture for those who cannot see it, and a sound for those
	// who cannot hear it.
	Says string `json:"says,omitempty"`
	// Licence says under what terms others may use it, in words or as an
	// abbreviation.
	Licence string `json:"licence,omitempty"`
	// Wide is how wide a picture stands on its slip, in pixels; 0 where it does not.
	Wide float64 `json:"wide,omitempty"`
	// Rank orders the sources of one thing (see KeyBetween).
	Rank string `json:"rank,omitempty"`
}

// File is a file as it is kept: by the hash of what is in it.
type File struct {
	Hash string `json:"hash"` // SHA-256, in 64 small hexadecimal digits
	// Type is what it was found to be, as a media type ("image/png").
	Type string `json:"type"`
	Size int64  `json:"size"` // in bytes
	// W and H are the extent of a picture in pixels, upright.
	W int `json:"w,omitempty"`
	H int `json:"h,omitempty"`
}

func (f File) sound() bool {
	return hashForm.MatchString(f.Hash) && typeForm.MatchString(f.Type) && f.Size >= 0 && f.Size <= MostFile && f.W >= 0 && f.H >= 0 && f.W <= 100_000 && f.H <= 100_000
}

// Citation is a work that is cited.
type Citation struct {
	Author string `json:"author,omitempty"`
	Year   string `json:"year,omitempty"`
	Title  string `json:"title"`
	Place  string `json:"place,omitempty"` // journal, publisher, pages: where it is found
}

// SourceKind is what sort of thing a source is.
type SourceKind string

// The kinds of sources.
const (
	SourceWeb     SourceKind = "web"
	SourcePicture SourceKind = "picture"
	SourceSound   SourceKind = "sound"
	SourceVideo   SourceKind = "video"
	SourceFile    SourceKind = "file"
	SourceCite    SourceKind = "cite"
)

// SourceKinds are all kinds, in the order in which they are counted.
var SourceKinds = []SourceKind{SourcePicture, SourceSound, SourceVideo, SourceFile, SourceCite, SourceWeb}

// Kind tells what sort of thing the source is.
func (s Source) Kind() SourceKind {
	switch {
	case s.File != nil && strings.HasPrefix(s.File.Type, "image/"):
		return SourcePicture
	case s.File != nil && strings.HasPrefix(s.File.Type, "audio/"):
		return SourceSound
	case s.File != nil && strings.HasPrefix(s.File.Type, "video/"):
		return SourceVideo
	case s.File != nil:
		return SourceFile
	case s.Cite != nil:
		return SourceCite
	}
	return SourceWeb
}

// Name gives what the source is called, else what identifies it.
func (s Source) Name() string {
	switch {
	case s.Title != "":
		return s.Title
	case s.Cite != nil:
		return s.Cite.Words()
	case s.URL != "":
		return s.URL
	}
	return string(s.Kind())
}

// Words gives the citation as it is read: "Toulmin 1958: The Uses of Argument.
// Cambridge".
func (c Citation) Words() string {
	lead := strings.TrimSpace(c.Author + " " + c.Year)
	if lead != "" {
		lead += ": "
	}
	words := lead + c.Title
	if c.Place != "" {
		words += ". " + c.Place
	}
	return words
}

// The bounds of sources.
const (
	MostSources    = 100  // of one concept or link
	MostAddress    = 2000 // characters of an address
	MostSourceName = 200
	MostSourceSays = 1000
	MostFile       = 64 << 20 // bytes of a file
	LeastPicture   = 24       // pixels across on a slip
	MostPicture    = 600
)

var (
	hashForm = regexp.MustCompile(`^[0-9a-f]{64}$`)
	typeForm = regexp.MustCompile(`^[a-z]+/[a-z0-9][a-z0-9.+-]{0,80}$`)
)

// sound tells whether a source is one that can be kept.
func (s Source) sound() bool {
	has := 0
	for _, there := range []bool{s.URL != "" && s.File == nil && s.Cite == nil, s.File != nil, s.Cite != nil} {
		if there {
			has++
		}
	}
	if has != 1 || s.Wide != 0 && (s.Wide < LeastPicture || s.Wide > MostPicture || s.Kind() != SourcePicture) || s.Rank != "" && !ValidRank(s.Rank) {
		return false
	}
	if s.URL != "" {
		if clean, err := cleanAddress(s.URL); err != nil || clean != s.URL {
			return false
		}
	}
	if s.File != nil && !s.File.sound() {
		return false
	}
	fits := func(words string, most int) bool {
		clean, err := Clean(words, most, "")
		return err == nil && clean == words
	}
	if c := s.Cite; c != nil && (c.Title == "" || !fits(c.Author, MostSourceSays) || !fits(c.Year, MostSourceSays) || !fits(c.Title, MostSourceSays) || !fits(c.Place, MostSourceSays)) {
		return false
	}
	return fits(s.Title, MostSourceName) && fits(s.Says, MostSourceSays) && fits(s.Licence, MostSourceName)
}

// doubled is a scheme that was pasted in front of another.
var doubled = regexp.MustCompile(`(?i)^(?:https?:/*)+(https?://)`)

// cleanAddress gives a web address as it is stored: http or https, with a host,
// without spaces around it and without a name or password in it. A scheme that
// stands there twice is mended, one that is missing before a host is added.
func cleanAddress(address string) (string, error) {
	address = strings.Trim(strings.TrimSpace(address), "<>\"'")
	address = doubled.ReplaceAllString(address, "$1")
	if bareHost.MatchString(address) {
		address = "https://" + address
	}
	if len(address) > MostAddress {
		return "", refusef("That web address is too long: at most %d characters fit.", MostAddress)
	}
	at, err := url.Parse(address)
	if err != nil || at.Scheme != "http" && at.Scheme != "https" || at.Hostname() == "" || at.User != nil || strings.ContainsAny(address, " \t\n\"<>") {
		return "", refusef("That is no web address. One begins with http:// or https://.")
	}
	return address, nil
}

var bareHost = regexp.MustCompile(`^(?i:www\.)[a-z0-9.-]+\.[a-z]{2,}(?:[/?#].*)?$`)

// sourcesOf gives the sources of a concept, a link or the tray, and a way to write
// them.
func (d *draft) sourcesOf(on Key) (map[ID]Source, func(map[ID]Source), error) {
	switch on.Kind {
	case EntityConcept:
		c, err := d.concept(on.ID)
		if err != nil {
			return nil, nil, err
		}
		return c.Sources, func(all map[ID]Source) { c.Sources = all; d.putConcept(c) }, nil
	case EntityLink:
		l, err := d.link(on.ID)
		if err != nil {
			return nil, nil, err
		}
		return l.Sources, func(all map[ID]Source) { l.Sources = all; d.putLink(l) }, nil
	case EntityMap:
		return d.m.Tray, func(all map[ID]Source) { d.m.Tray = all; d.putHeader() }, nil
	}
	return nil, nil, refusef("Sources belong to concepts, links, or the tray of the map.")
}

// AttachSource attaches a source to a concept or a link, after those that it has.
type AttachSource struct {
	On Key `json:"on"`
	ID ID  `json:"id"`
	Source
}

func (op *AttachSource) apply(d *draft) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	if !op.ID.Valid() {
		return refusef("The new source came without a proper name of its own. Please reload the page.")
	}
	next, err := cleanSource(op.Source)
	if err != nil {
		return err
	}
	last := ""
	for _, s := range all {
		if s.URL == next.URL && s.URL != "" {
			return refusef("That address is attached to it already.")
		}
		last = max(last, s.Rank)
	}
	next.Rank = KeyBetween(last, "")
	if _, taken := all[op.ID]; taken || len(all) >= MostSources {
		return refusef("At most %d sources can be attached to one thing, each with a name of its own.", MostSources)
	}
	put(withSource(all, op.ID, &next))
	return d.grown(op.On, next.Wide > 0)
}

// grown makes room around a concept whose slip has become larger.
func (d *draft) grown(on Key, larger bool) error {
	if !larger || on.Kind != EntityConcept {
		return nil
	}
	return d.clear([]ID{on.ID})
}

// cleanSource gives a source as it is stored, or says what is wrong with it.
func cleanSource(s Source) (Source, error) {
	if s.URL != "" {
		address, err := cleanAddress(s.URL)
		if err != nil {
			return s, err
		}
		s.URL = address
	}
	texts := []struct {
		field *string
		most  int
		what  string
	}{{&s.Title, MostSourceName, "The name of a source"}, {&s.Says, MostSourceSays, "The description of a source"}, {&s.Licence, MostSourceName, "A licence"}}
	if s.Cite != nil {
		cite := *s.Cite
		s.Cite = &cite
		for _, field := range []*string{&cite.Author, &cite.Year, &cite.Title, &cite.Place} {
			texts = append(texts, struct {
				field *string
				most  int
				what  string
			}{field, MostSourceSays, "A citation"})
		}
	}
	for _, t := range texts {
		clean, err := Clean(*t.field, t.most, t.what)
		if err != nil {
			return s, err
		}
		*t.field = clean
	}
	if s.Cite != nil && s.Cite.Title == "" {
		return s, refusef("A citation needs at least the title of the work.")
	}
	if s.Rank = ""; !s.sound() {
		return s, refusef("That is no source that can be attached: a web address, a file or a citation.")
	}
	return s, nil
}

// withSource gives sources with one more, changed, or (nil) less; none are nil.
func withSource(all map[ID]Source, id ID, s *Source) map[ID]Source {
	next := maps.Clone(all)
	if next == nil {
		next = map[ID]Source{}
	}
	if s == nil {
		delete(next, id)
	} else {
		next[id] = *s
	}
	if len(next) == 0 {
		return nil
	}
	return next
}

// SetSource changes what is said of a source: what is nil stays as it is.
type SetSource struct {
	On      Key      `json:"on"`
	ID      ID       `json:"id"`
	Title   *string  `json:"title,omitempty"`
	Says    *string  `json:"says,omitempty"`
	Licence *string  `json:"licence,omitempty"`
	Wide    *float64 `json:"wide,omitempty"`
}

func (op *SetSource) apply(d *draft) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	was, there := all[op.ID]
	if !there {
		return refusef("That source is gone already.")
	}
	rank := was.Rank
	set(&was.Title, op.Title)
	set(&was.Says, op.Says)
	set(&was.Licence, op.Licence)
	if op.Wide != nil {
		if was.Wide = *op.Wide; was.Wide != 0 {
			was.Wide = min(max(was.Wide, LeastPicture), MostPicture)
		}
	}
	next, err := cleanSource(was)
	if err != nil {
		return err
	}
	next.Rank = rank
	put(withSource(all, op.ID, &next))
	return d.grown(op.On, op.Wide != nil && next.Wide > 0)
}

// DetachSource takes a source off a concept or a link.
type DetachSource struct {
	On Key `json:"on"`
	ID ID  `json:"id"`
}

func (op *DetachSource) apply(d *draft) error {
	all, put, err := d.sourcesOf(op.On)
	if err != nil {
		return err
	}
	if _, there := all[op.ID]; !there {
		return refusef("That source is gone already.")
	}
	put(withSource(all, op.ID, nil))
	return nil
}

// attach adds a source of another concept, where it says nothing that is there.
// The concept must be a copy.
func (c *Concept) attach(id ID, s Source) error {
	for _, o := range c.Sources {
		if o.URL != "" && o.URL == s.URL || o.File != nil && s.File != nil && o.File.Hash == s.File.Hash {
			return nil
		}
	}
	if _, taken := c.Sources[id]; taken || len(c.Sources) >= MostSources {
		return refusef("At most %d sources can be attached to one thing, each with a name of its own.", MostSources)
	}
	c.Sources = withSource(c.Sources, id, &s)
	return nil
}

// SourceList gives the ids of sources in their order.
func SourceList(all map[ID]Source) []ID {
	ids := SortedIDs(all)
	slices.SortStableFunc(ids, func(a, b ID) int { return strings.Compare(all[a].Rank, all[b].Rank) })
	return ids
}

// Picture gives the first picture that stands on the concept's slip.
func (c *Concept) Picture() (ID, Source, bool) {
	for _, id := range SourceList(c.Sources) {
		if s := c.Sources[id]; s.Wide > 0 && s.Kind() == SourcePicture && s.File.W > 0 && s.File.H > 0 {
			return id, s, true
		}
	}
	return "", Source{}, false
}

// Files gives the files that a map refers to.
func (m *Map) Files() []File {
	all := map[string]File{}
	add := func(sources map[ID]Source) {
		for _, s := range sources {
			if s.File != nil {
				all[s.File.Hash] = *s.File
			}
		}
	}
	for _, c := range m.Concepts {
		add(c.Sources)
	}
	for _, l := range m.Links {
		add(l.Sources)
	}
	add(m.Tray)
	if p := m.Look.Picture; p != nil {
		all[p.File.Hash] = p.File
	}
	var files []File
	for _, hash := range slices.Sorted(maps.Keys(all)) {
		files = append(files, all[hash])
	}
	return files
}

func hasSource(all map[ID]Source, id ID) bool {
	_, there := all[id]
	return there
}

// PlaceSource takes a source out of the tray and attaches it to a concept or a
// link; or moves it from one of them to another.
type PlaceSource struct {
	From Key `json:"from"`
	ID   ID  `json:"id"`
	To   Key `json:"to"`
}

func (op *PlaceSource) apply(d *draft) error {
	all, put, err := d.sourcesOf(op.From)
	if err != nil {
		return err
	}
	src, there := all[op.ID]
	if !there {
		return refusef("That source is gone already.")
	}
	if op.From == op.To {
		return nil
	}
	put(withSource(all, op.ID, nil))
	src.Rank = ""
	if src.Kind() != SourcePicture || op.To.Kind != EntityConcept {
		src.Wide = 0
	}
	taken, _, err := d.sourcesOf(op.To)
	if err != nil {
		return err
	}
	own := op.ID
	for n := 2; hasSource(taken, own); n++ {
		own = numbered(op.ID, n)
	}
	return (&AttachSource{On: op.To, ID: own, Source: src}).apply(d)
}

package conceptmap

import (
	"maps"
	"net/url"
	"path"
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
	Rank string `json:"rank,omitempty" mevrin:"form=rank"`
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

// Valid tells whether a file can be kept.
func (f File) Valid() bool {
	return HashPattern.MatchString(f.Hash) && MediaTypePattern.MatchString(f.Type) && f.Size >= 0 && f.Size <= MaxFile && f.W >= 0 && f.H >= 0 && f.W <= MaxPixels && f.H <= MaxPixels
}

// MaxPixels bounds the extent of a picture, in pixels either way.
const MaxPixels = 100_000

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

// leadTo are endings of addresses, by what lies there.
var leadTo = map[string]SourceKind{
	".png": SourcePicture, ".jpg": SourcePicture, ".jpeg": SourcePicture, ".gif": SourcePicture, ".webp": SourcePicture, ".svg": SourcePicture, ".avif": SourcePicture,
	".mp4": SourceVideo, ".webm": SourceVideo, ".mov": SourceVideo, ".m4v": SourceVideo, ".ogv": SourceVideo,
	".mp3": SourceSound, ".ogg": SourceSound, ".oga": SourceSound, ".wav": SourceSound, ".m4a": SourceSound, ".flac": SourceSound,
	".pdf": SourceFile,
}

// LeadsTo tells what sort of thing lies at a web address, as far as its ending says so;
// of other sources it is their kind.
func (s Source) LeadsTo() SourceKind {
	kind := s.Kind()
	if kind != SourceWeb {
		return kind
	}
	at, err := url.Parse(s.URL)
	if err != nil {
		return kind
	}
	if to, known := leadTo[strings.ToLower(path.Ext(at.Path))]; known {
		return to
	}
	return kind
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
	MaxSources    = 100  // of one concept or link
	MaxAddress    = 2000 // characters of an address
	MaxSourceName = 200
	MaxSourceSays = 1000
	MaxFile       = 64 << 20 // bytes of a file
	MinPicture    = 24       // pixels across on a slip
	MaxPicture    = 600
)

var (
	HashPattern      = regexp.MustCompile(`^[0-9a-f]{64}$`)
	MediaTypePattern = regexp.MustCompile(`^[a-z]+/[a-z0-9][a-z0-9.+-]{0,80}$`)
)

// Valid tells whether a source is one that can be kept.
func (s Source) Valid() bool {
	has := 0
	for _, there := range []bool{s.URL != "" && s.File == nil && s.Cite == nil, s.File != nil, s.Cite != nil} {
		if there {
			has++
		}
	}
	if has != 1 || s.Wide != 0 && (s.Wide < MinPicture || s.Wide > MaxPicture || s.Kind() != SourcePicture) || s.Rank != "" && !ValidRank(s.Rank) {
		return false
	}
	if s.URL != "" {
		if clean, err := CleanAddress(s.URL); err != nil || clean != s.URL {
			return false
		}
	}
	if s.File != nil && !s.File.Valid() {
		return false
	}
	fits := func(words string, most int) bool {
		clean, err := Clean(words, most, "")
		return err == nil && clean == words
	}
	if c := s.Cite; c != nil && (c.Title == "" || !fits(c.Author, MaxSourceSays) || !fits(c.Year, MaxSourceSays) || !fits(c.Title, MaxSourceSays) || !fits(c.Place, MaxSourceSays)) {
		return false
	}
	return fits(s.Title, MaxSourceName) && fits(s.Says, MaxSourceSays) && fits(s.Licence, MaxSourceName)
}

// doubled is a scheme that was pasted in front of another.
var doubled = regexp.MustCompile(`(?i)^(?:https?:/*)+(https?://)`)

// CleanAddress gives a web address as it is stored: http or https, with a host,
// without spaces around it and without a name or password in it. A scheme that
// stands there twice is mended, one that is missing before a host is added.
func CleanAddress(address string) (string, error) {
	address = strings.Trim(strings.TrimSpace(address), "<>\"'")
	address = doubled.ReplaceAllString(address, "$1")
	if bareHost.MatchString(address) {
		address = "https://" + address
	}
	if len(address) > MaxAddress {
		return "", Refusef("That web address is too long: at most %d characters fit.", MaxAddress)
	}
	at, err := url.Parse(address)
	if err != nil || at.Scheme != "http" && at.Scheme != "https" || at.Hostname() == "" || at.User != nil || strings.ContainsAny(address, " \t\n\"<>") {
		return "", Refusef("That is no web address. One begins with http:// or https://.")
	}
	return address, nil
}

var bareHost = regexp.MustCompile(`^(?i:www\.)[a-z0-9.-]+\.[a-z]{2,}(?:[/?#].*)?$`)

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
	for _, s := range m.Stops {
		add(s.Sources)
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

// HasSource tells whether sources hold one of an id.
func HasSource(all map[ID]Source, id ID) bool {
	_, there := all[id]
	return there
}

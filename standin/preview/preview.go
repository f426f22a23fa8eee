// Package preview is a small local stand-in for a service that fetches the title
// and kind of a web page. No request leaves the machine: it guesses both from the
// address, and says so. It stands behind the interface that a real service would
// have (Previewer).
package preview

import (
	"net/url"
	"path"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Page is what is known of a web page.
type Page struct {
	Title string `json:"title"`
	Kind  string `json:"kind"` // "page", "picture", "sound", "film" or "document"
	Says  string `json:"says"` // how that is known
}

// Previewer tells of the page at an address.
type Previewer interface{ Preview(address string) Page }

// Local guesses from addresses.
type Local struct{}

var kinds = map[string]string{
	".pdf": "document", ".doc": "document", ".docx": "document", ".odt": "document", ".ppt": "document", ".pptx": "document",
	".png": "picture", ".jpg": "picture", ".jpeg": "picture", ".gif": "picture", ".svg": "picture", ".webp": "picture",
	".mp3": "sound", ".wav": "sound", ".ogg": "sound", ".mp4": "film", ".webm": "film", ".mov": "film",
}

// Preview makes a title of the last part of the address that says something, and
// of its host.
func (Local) Preview(address string) Page {
	page := Page{Kind: "page", Says: "guessed from the address; the page itself was not asked"}
	at, err := url.Parse(strings.TrimSpace(address))
	if err != nil || at.Hostname() == "" {
		return page
	}
	host := strings.TrimPrefix(at.Hostname(), "www.")
	last := path.Base(at.Path)
	if kind := kinds[strings.ToLower(path.Ext(last))]; kind != "" {
		page.Kind = kind
	}
	words := strings.TrimSuffix(last, path.Ext(last))
	words = strings.Join(strings.FieldsFunc(words, func(r rune) bool { return strings.ContainsRune("-_+ .", r) || unicode.IsControl(r) }), " ")
	if page.Title = host; strings.ContainsFunc(words, unicode.IsLetter) && words != "index" && utf8.ValidString(words) {
		first, size := utf8.DecodeRuneInString(words)
		page.Title = string(unicode.ToUpper(first)) + words[size:] + " – " + host
	}
	if all := []rune(page.Title); len(all) > 200 {
		page.Title = string(all[:200])
	}
	return page
}

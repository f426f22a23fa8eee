// Package message holds every text that a person reads in the interface: refusals,
// findings, pages, what scripts say. A text is known by its key, which is how it reads in
// English. The catalogue (catalogue.json, made by `make assets`) lists all keys, and for
// those that count something their plural forms; a language is one more file beside it.
//
// Numbers, plural forms and the choice among languages are those of golang.org/x/text
// (Unicode CLDR).
package message

import (
	"embed"
	"encoding/json"
	"fmt"
	"path"
	"strings"
	"sync"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/message/catalog"
)

//go:embed *.json
var files embed.FS

// Text is one text of the catalogue: how it reads where it is the same for any number,
// or by plural category ("one", "other" …) of the first number in it.
type Text struct {
	Reads string            `json:"reads,omitempty"`
	Forms map[string]string `json:"forms,omitempty"`
}

// Word is a part of a message that is itself a text of the catalogue.
type Word string

var (
	once      sync.Once
	languages []language.Tag
	built     *catalog.Builder
	texts     = map[language.Tag]map[string]Text{}
)

func load() {
	built = catalog.NewBuilder(catalog.Fallback(language.English))
	entries, err := files.ReadDir(".")
	must(err)
	languages = []language.Tag{language.English}
	for _, e := range entries {
		name := strings.TrimSuffix(path.Base(e.Name()), ".json")
		tag := language.English
		if name != "catalogue" {
			tag = language.MustParse(name)
			languages = append(languages, tag)
		}
		raw, err := files.ReadFile(e.Name())
		must(err)
		all := map[string]Text{}
		must(json.Unmarshal(raw, &all))
		texts[tag] = all
		for key, text := range all {
			if text.Forms == nil {
				if text.Reads != "" {
					must(built.SetString(tag, key, text.Reads))
				}
				continue
			}
			var cases []any
			for _, category := range []string{"zero", "one", "two", "few", "many", "other"} {
				if form, has := text.Forms[category]; has {
					cases = append(cases, category, form)
				}
			}
			must(built.Set(tag, key, plural.Selectf(1, "%d", cases...)))
		}
	}
}

// Printer writes messages in one language.
type Printer struct {
	tag language.Tag
	to  *message.Printer
}

// For gives a printer for a reader who understands some languages, given as BCP 47 tags
// by preference ("de-CH", "en"); English where the catalogue has none of them.
func For(preferred ...string) *Printer {
	once.Do(load)
	var want []language.Tag
	for _, p := range preferred {
		if tag, err := language.Parse(p); err == nil {
			want = append(want, tag)
		}
	}
	_, i, _ := language.NewMatcher(languages).Match(want...)
	tag := languages[i]
	return &Printer{tag, message.NewPrinter(tag, message.Catalog(built))}
}

// English writes as keys read.
func English() *Printer { return For("en") }

// Language gives the tag of the printer's language.
func (p *Printer) Language() string { return p.tag.String() }

// Sprintf writes a message: a key with what stands in its places, as in package fmt.
// Arguments of type Word are written in the language, too.
func (p *Printer) Sprintf(key string, args ...any) string {
	args = append([]any(nil), args...)
	for i, a := range args {
		switch a := a.(type) {
		case Word:
			args[i] = p.Sprintf(string(a))
		case interface{ In(*Printer) string }:
			args[i] = a.In(p)
		}
	}
	if len(args) == 0 {
		return p.text(key)
	}
	return p.to.Sprintf(message.Key(key, key), args...)
}

// text gives a text without places, which may hold signs of percent.
func (p *Printer) text(key string) string {
	if text, has := texts[p.tag][key]; has && text.Reads != "" {
		return text.Reads
	}
	return key
}

// Texts gives the catalogue of the printer's language, for scripts: the texts that read
// otherwise than their keys.
func (p *Printer) Texts() map[string]Text {
	other := map[string]Text{}
	for key, text := range texts[p.tag] {
		if text.Forms != nil || text.Reads != "" && text.Reads != key {
			other[key] = text
		}
	}
	return other
}

// Known tells whether the catalogue has a key.
func Known(key string) bool {
	once.Do(load)
	_, has := texts[language.English][key]
	return has
}

func must(err error) {
	if err != nil {
		panic(fmt.Sprint("message: ", err))
	}
}

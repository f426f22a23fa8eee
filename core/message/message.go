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
	"errors"
	"fmt"
	"path"
	"regexp"
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
					must(built.SetString(tag, key, places(text.Reads)))
				}
				continue
			}
			var cases []any
			for _, category := range []string{"zero", "one", "two", "few", "many", "other"} {
				if form, has := text.Forms[category]; has {
					cases = append(cases, category, places(form))
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

// Languages gives the tags of all languages of the catalogue, English first.
func Languages() []string {
	once.Do(load)
	all := make([]string, len(languages))
	for i, tag := range languages {
		all[i] = tag.String()
	}
	return all
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
		case error: // a refusal, or what has no other words
			args[i] = a.Error()
			if own, is := a.(interface{ In(*Printer) string }); is {
				args[i] = own.In(p)
			}
		case interface{ In(*Printer) string }:
			args[i] = a.In(p)
		}
	}
	if len(args) == 0 {
		return p.text(key)
	}
	return p.to.Sprintf(message.Key(key, places(key)), args...)
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

// Counts tells whether a message reads otherwise for one than for many.
func (p *Printer) Counts(key string) bool { return texts[p.tag][key].Forms != nil }

// places gives a pattern with the places of pages ({1}) as package fmt has them.
func places(pattern string) string { return place.ReplaceAllString(pattern, "%[$1]v") }

var place = regexp.MustCompile(`\{(\d+)\}`)

// Message is a message that is kept until it is known who reads it: its key, and what
// stands in its places. As JSON it is a list of the two.
type Message struct {
	Key  string
	Args []any
}

// Of gives a message.
func Of(key string, args ...any) Message { return Message{key, args} }

// String gives the words in English.
func (m Message) String() string { return m.In(English()) }

// In gives the words in a language.
func (m Message) In(p *Printer) string { return p.Sprintf(m.Key, m.Args...) }

// MarshalJSON writes the message as a list.
func (m Message) MarshalJSON() ([]byte, error) {
	return json.Marshal(append([]any{m.Key}, m.Args...))
}

// UnmarshalJSON reads a list, or words as they were kept before.
func (m *Message) UnmarshalJSON(raw []byte) error {
	var words string
	if json.Unmarshal(raw, &words) == nil {
		*m = Message{Key: "%s", Args: []any{words}}
		return nil
	}
	var list []any
	if err := json.Unmarshal(raw, &list); err != nil {
		return err
	}
	key, is := append(list, nil)[0].(string)
	if !is {
		return errors.New("a message begins with its key")
	}
	*m = Message{Key: key, Args: list[1:]}
	return nil
}

func must(err error) {
	if err != nil {
		panic(fmt.Sprint("message: ", err))
	}
}

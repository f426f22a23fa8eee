// Package cite reads and writes lists of cited works: BibTeX, and CSL-JSON (the
// data of the Citation Style Language, version 1.0.2). Of each work it keeps who
// wrote it, when, its title, and where it is found.
package cite

import (
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	cm "mevrin/core/conceptmap"
)

// Errors that reading may meet.
var (
	ErrNone    = errors.New("cite: no work in it")
	ErrTooMany = errors.New("cite: too many works")
	ErrBroken  = errors.New("cite: cannot be read")
)

// MaxWorks bounds what is read at once.
const MaxWorks = 500

// Read reads works from either format, told apart by how they begin.
func Read(text string) ([]cm.Citation, error) {
	text = strings.TrimSpace(strings.TrimPrefix(text, "\ufeff"))
	var all []cm.Citation
	var err error
	if strings.HasPrefix(text, "[") || strings.HasPrefix(text, "{") {
		all, err = readCSL([]byte(text))
	} else {
		all, err = readBibTeX(text)
	}
	switch {
	case err != nil:
		return nil, err
	case len(all) == 0:
		return nil, ErrNone
	case len(all) > MaxWorks:
		return nil, ErrTooMany
	}
	return all, nil
}

// work is one in CSL-JSON, as far as it is read and written here.
type work struct {
	ID        string `json:"id"`
	Type      string `json:"type"`
	Title     string `json:"title,omitempty"`
	Author    []name `json:"author,omitempty"`
	Issued    *date  `json:"issued,omitempty"`
	Container string `json:"container-title,omitempty"`
	Publisher string `json:"publisher,omitempty"`
	Volume    any    `json:"volume,omitempty"`
	Page      string `json:"page,omitempty"`
}

type name struct {
	Family  string `json:"family,omitempty"`
	Given   string `json:"given,omitempty"`
	Literal string `json:"literal,omitempty"`
}

type date struct {
	Parts   [][]any `json:"date-parts,omitempty"`
	Literal string  `json:"literal,omitempty"`
}

func readCSL(raw []byte) ([]cm.Citation, error) {
	var works []work
	if raw[0] == '{' {
		var one work
		if err := json.Unmarshal(raw, &one); err != nil {
			return nil, fmt.Errorf("%w: %w", ErrBroken, err)
		}
		works = []work{one}
	} else if err := json.Unmarshal(raw, &works); err != nil {
		return nil, fmt.Errorf("%w: %w", ErrBroken, err)
	}
	var all []cm.Citation
	for _, w := range works {
		var names []string
		for _, n := range w.Author {
			names = append(names, strings.TrimSpace(n.Given+" "+n.Family+n.Literal))
		}
		c := cm.Citation{Author: strings.Join(names, ", "), Title: w.Title}
		if w.Issued != nil {
			c.Year = w.Issued.Literal
			if len(w.Issued.Parts) > 0 && len(w.Issued.Parts[0]) > 0 {
				c.Year = fmt.Sprint(w.Issued.Parts[0][0])
			}
		}
		volume := ""
		if w.Volume != nil {
			volume = fmt.Sprint(w.Volume)
		}
		c.Place = joined(strings.TrimSpace(w.Container+" "+volume), w.Publisher, pages(w.Page))
		if c = clean(c); c.Title != "" {
			all = append(all, c)
		}
	}
	return all, nil
}

func pages(p string) string {
	if p == "" {
		return ""
	}
	return "pp. " + strings.ReplaceAll(p, "--", "–")
}

func joined(parts ...string) string {
	var all []string
	for _, p := range parts {
		if p != "" {
			all = append(all, p)
		}
	}
	return strings.Join(all, ", ")
}

// clean brings a citation into the form in which maps keep them.
func clean(c cm.Citation) cm.Citation {
	for _, field := range []*string{&c.Author, &c.Year, &c.Title, &c.Place} {
		short := []rune(*field)
		words, err := cm.Clean(string(short[:min(len(short), cm.MaxSourceSays)]), cm.MaxSourceSays, "")
		if err != nil {
			words = ""
		}
		*field = strings.Join(strings.Fields(words), " ")
	}
	return c
}

var entry = regexp.MustCompile(`@\s*([A-Za-z]+)\s*[{(]`)

// readBibTeX reads entries; comments, strings and preambles are passed over.
func readBibTeX(text string) ([]cm.Citation, error) {
	var all []cm.Citation
	for len(all) <= MaxWorks {
		at := entry.FindStringSubmatchIndex(text)
		if at == nil {
			break
		}
		kind := strings.ToLower(text[at[2]:at[3]])
		body, rest, ok := balanced(text[at[1]:])
		if !ok {
			return nil, fmt.Errorf("%w: a bracket is not closed", ErrBroken)
		}
		text = rest
		if kind == "comment" || kind == "string" || kind == "preamble" {
			continue
		}
		f := fields(body)
		authors := strings.Split(or(f["author"], f["editor"]), " and ")
		for i, a := range authors {
			if family, given, turned := strings.Cut(a, ","); turned {
				authors[i] = strings.TrimSpace(given) + " " + strings.TrimSpace(family)
			}
		}
		year := f["year"]
		if year == "" && len(f["date"]) >= 4 {
			year = f["date"][:4]
		}
		c := cm.Citation{Author: strings.Join(authors, ", "), Year: year, Title: f["title"],
			Place: joined(strings.TrimSpace(or(f["journal"], or(f["journaltitle"], f["booktitle"]))+" "+f["volume"]), or(f["publisher"], or(f["school"], f["institution"])), pages(f["pages"]))}
		if c = clean(c); c.Title != "" {
			all = append(all, c)
		}
	}
	return all, nil
}

func or(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// balanced gives what stands before the bracket that closes, and the rest.
func balanced(text string) (inside, rest string, ok bool) {
	depth := 1
	for i := 0; i < len(text); i++ {
		switch text[i] {
		case '\\':
			i++
		case '{', '(':
			if text[i] == '{' || depth > 1 {
				depth++
			}
		case '}', ')':
			if text[i] == '}' || depth > 1 {
				depth--
			} else {
				depth = 0
			}
			if depth == 0 {
				return text[:i], text[i+1:], true
			}
		}
	}
	return "", "", false
}

var field = regexp.MustCompile(`^[\s,]*([A-Za-z][A-Za-z0-9_-]*)\s*=\s*`)

// fields reads the fields of one entry, without TeX's signs.
func fields(body string) map[string]string {
	all := map[string]string{}
	if _, after, found := strings.Cut(body, ","); found {
		body = after // the key comes first
	}
	for len(all) < 60 {
		m := field.FindStringSubmatch(body)
		if m == nil {
			return all
		}
		body = body[len(m[0]):]
		var value string
		switch {
		case strings.HasPrefix(body, "{"):
			inside, rest, ok := balanced(body[1:])
			if !ok {
				return all
			}
			value, body = inside, rest
		case strings.HasPrefix(body, `"`):
			end := strings.IndexByte(body[1:], '"') + 1
			if end == 0 {
				return all
			}
			value, body = body[1:end], body[end+1:]
		default:
			value, _, _ = strings.Cut(body, ",")
			body = strings.TrimPrefix(body, value)
		}
		all[strings.ToLower(m[1])] = plain(value)
	}
	return all
}

var accents = strings.NewReplacer(`\"a`, "ä", `\"o`, "ö", `\"u`, "ü", `\"A`, "Ä", `\"O`, "Ö", `\"U`, "Ü", `\ss`, "ß", `\'e`, "é", "\\`e", "è", `\'a`, "á", `\'o`, "ó", `\~n`, "ñ", `\c c`, "ç", `\&`, "&", `\%`, "%", `\_`, "_", "---", "—", "--", "–", "~", " ")

// plain takes TeX's signs out of words; accents in braces come first.
func plain(words string) string {
	words = regexp.MustCompile(`\{\\(["'`+"`"+`~])\{?([A-Za-z])\}?\}`).ReplaceAllString(words, `\$1$2`)
	words = accents.Replace(words)
	return strings.NewReplacer("{", "", "}", "", `\`, "").Replace(words)
}

// WriteCSL writes works as CSL-JSON.
func WriteCSL(all []cm.Citation) ([]byte, error) {
	works := make([]work, len(all))
	for i, c := range all {
		works[i] = work{ID: "work" + strconv.Itoa(i+1), Type: "document", Title: c.Title, Container: c.Place}
		if c.Author != "" {
			works[i].Author = []name{{Literal: c.Author}}
		}
		if n, err := strconv.Atoi(c.Year); err == nil {
			works[i].Issued = &date{Parts: [][]any{{n}}}
		} else if c.Year != "" {
			works[i].Issued = &date{Literal: c.Year}
		}
	}
	return json.MarshalIndent(works, "", "  ")
}

var special = strings.NewReplacer(`\`, "", "{", "", "}", "", "%", `\%`, "&", `\&`, "_", `\_`)

// WriteBibTeX writes works as BibTeX.
func WriteBibTeX(all []cm.Citation) string {
	var out strings.Builder
	for i, c := range all {
		fmt.Fprintf(&out, "@misc{work%d,\n", i+1)
		for _, f := range [][2]string{{"author", c.Author}, {"year", c.Year}, {"title", c.Title}, {"journal", c.Place}} {
			if f[1] != "" {
				fmt.Fprintf(&out, "  %s = {%s},\n", f[0], special.Replace(f[1]))
			}
		}
		out.WriteString("}\n\n")
	}
	return out.String()
}

// WriteRIS writes works in the RIS format of reference managers.
func WriteRIS(all []cm.Citation) string {
	var out strings.Builder
	for i, c := range all {
		fmt.Fprintf(&out, "TY  - GEN\r\nID  - work%d\r\n", i+1)
		for _, f := range [][2]string{{"AU", c.Author}, {"PY", c.Year}, {"TI", c.Title}, {"T2", c.Place}} {
			if words := strings.Join(strings.Fields(f[1]), " "); words != "" {
				fmt.Fprintf(&out, "%s  - %s\r\n", f[0], words)
			}
		}
		out.WriteString("ER  - \r\n\r\n")
	}
	return out.String()
}

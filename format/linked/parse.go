package linked

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"strconv"
	"strings"

	"github.com/piprate/json-gold/ld"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/safe"
)

// maxJSONLD bounds a file of JSON-LD, in bytes: what is worked out of it takes some twenty times as much.
const maxJSONLD = 6 << 20

// maxTriples bounds the statements of one file.
const maxTriples = 200_000

// ReadTurtle reads Turtle (and N-Triples, which is part of it). Collections are passed over.
func ReadTurtle(raw []byte) (*content.Draft, error) {
	p := &parser{text: safe.Text(raw), line: 1, prefix: map[string]string{}}
	if err := p.document(); err != nil {
		return nil, err
	}
	return draft(p.all)
}

// ReadJSONLD reads JSON-LD; a context that lies elsewhere is not fetched, and refused.
func ReadJSONLD(raw []byte) (*content.Draft, error) {
	if len(raw) > maxJSONLD {
		return nil, cm.Refusef("This file is too large to be read: linked data in JSON may have %d MB. Turtle takes less.", maxJSONLD>>20)
	}
	var doc any
	if err := json.Unmarshal([]byte(safe.Text(raw)), &doc); err != nil {
		return nil, cm.Refusef("This is no JSON: it is broken.")
	}
	if deep(doc) > safe.MaxDepth {
		return nil, cm.Refusef("This file is nested too deeply to be a map.")
	}
	options := ld.NewJsonLdOptions("urn:file:")
	options.DocumentLoader = noLoader{}
	set, err := ld.NewJsonLdProcessor().ToRDF(doc, options)
	if errors.Is(err, errElsewhere) || err != nil && strings.Contains(err.Error(), errElsewhere.Error()) {
		return nil, cm.Refusef("This file needs a context that lies elsewhere. Nothing is fetched from there; put the context into the file.")
	}
	data, is := set.(*ld.RDFDataset)
	if err != nil || !is {
		return nil, cm.Refusef("This JSON is no linked data that can be read.")
	}
	var all []Triple
	for _, quad := range data.Graphs["@default"] {
		if len(all) > maxTriples {
			return nil, cm.Refusef("That is too much at once: at most %d statements can be read from one file.", maxTriples)
		}
		all = append(all, Triple{termOf(quad.Subject), termOf(quad.Predicate), termOf(quad.Object)})
	}
	return draft(all)
}

func termOf(n ld.Node) Term {
	l, is := n.(*ld.Literal)
	if plain, value := n.(ld.Literal); value {
		l, is = &plain, true
	}
	if is {
		return Term{Literal: l.Value, Lang: l.Language, IsString: true}
	}
	return Term{IRI: n.GetValue()}
}

func deep(v any) int {
	most := 0
	switch v := v.(type) {
	case map[string]any:
		for _, inner := range v {
			most = max(most, deep(inner))
		}
	case []any:
		for _, inner := range v {
			most = max(most, deep(inner))
		}
	}
	return most + 1
}

var errElsewhere = errors.New("nothing is fetched")

// noLoader fetches nothing.
type noLoader struct{}

func (noLoader) LoadDocument(string) (*ld.RemoteDocument, error) { return nil, errElsewhere }

// parser reads Turtle (w3.org/TR/turtle).
type parser struct {
	text   string
	at     int
	line   int
	base   string
	prefix map[string]string
	all    []Triple
	blank  int
	depth  int
}

func (p *parser) fault(says string) error {
	return cm.Refusef("This Turtle file is broken in line %d: %s", p.line, says)
}

// space passes over blanks and comments.
func (p *parser) space() {
	for p.at < len(p.text) {
		switch c := p.text[p.at]; {
		case c == '\n':
			p.line++
			p.at++
		case c == ' ' || c == '\t' || c == '\r':
			p.at++
		case c == '#':
			for p.at < len(p.text) && p.text[p.at] != '\n' {
				p.at++
			}
		default:
			return
		}
	}
}

func (p *parser) sign(s string) bool {
	p.space()
	if strings.HasPrefix(p.text[p.at:], s) {
		p.at += len(s)
		return true
	}
	return false
}

func (p *parser) word(w string) bool {
	p.space()
	end := p.at + len(w)
	if end < len(p.text) && strings.EqualFold(p.text[p.at:end], w) && (p.text[end] == ' ' || p.text[end] == '\t' || p.text[end] == '<') {
		p.at = end
		return true
	}
	return false
}

func (p *parser) document() error {
	for {
		p.space()
		if p.at >= len(p.text) {
			return nil
		}
		atSign := strings.HasPrefix(p.text[p.at:], "@")
		switch {
		case p.sign("@prefix") || p.word("PREFIX"):
			p.space()
			name, _, found := strings.Cut(p.text[p.at:min(len(p.text), p.at+200)], ":")
			if !found {
				return p.fault("a prefix without a name.")
			}
			p.at += len(name) + 1
			p.space()
			address, err := p.address()
			if err != nil {
				return err
			}
			p.prefix[strings.TrimSpace(name)] = address
			if atSign && !p.sign(".") {
				return p.fault("a full stop is missing.")
			}
		case p.sign("@base") || p.word("BASE"):
			p.space()
			address, err := p.address()
			if err != nil {
				return err
			}
			p.base = address
			if atSign && !p.sign(".") {
				return p.fault("a full stop is missing.")
			}
		default:
			subject, err := p.term()
			if err != nil {
				return err
			}
			p.space()
			if p.at < len(p.text) && p.text[p.at] != '.' {
				if err := p.predicates(subject); err != nil {
					return err
				}
			}
			if !p.sign(".") {
				return p.fault("a full stop is missing.")
			}
		}
	}
}

func (p *parser) predicates(subject Term) error {
	for {
		p.space()
		if p.at < len(p.text) && (p.text[p.at] == '.' || p.text[p.at] == ']') {
			return nil
		}
		predicate := iri(rdf + "type")
		if !p.word("a") {
			var err error
			if predicate, err = p.term(); err != nil {
				return err
			}
		}
		for {
			object, err := p.term()
			if err != nil {
				return err
			}
			if len(p.all) >= maxTriples {
				return cm.Refusef("That is too much at once: at most %d statements can be read from one file.", maxTriples)
			}
			p.all = append(p.all, Triple{subject, predicate, object})
			if !p.sign(",") {
				break
			}
		}
		more := false
		for p.sign(";") {
			more = true
		}
		if !more {
			return nil
		}
	}
}

func (p *parser) address() (string, error) {
	if p.at >= len(p.text) || p.text[p.at] != '<' {
		return "", p.fault("an address in angle brackets is missing.")
	}
	end := strings.IndexByte(p.text[p.at:], '>')
	if end < 0 {
		return "", p.fault("an address does not end.")
	}
	address := unescaped(p.text[p.at+1 : p.at+end])
	p.at += end + 1
	if p.base != "" && !strings.Contains(address, ":") {
		if base, err := url.Parse(p.base); err == nil {
			if full, err := base.Parse(address); err == nil {
				address = full.String()
			}
		}
	}
	return address, nil
}

func (p *parser) term() (Term, error) {
	p.space()
	if p.at >= len(p.text) {
		return Term{}, p.fault("it ends too early.")
	}
	switch c := p.text[p.at]; {
	case c == '<':
		address, err := p.address()
		return iri(address), err
	case c == '"' || c == '\'':
		return p.literal()
	case c == '[':
		p.at++
		if p.depth++; p.depth > safe.MaxDepth {
			return Term{}, cm.Refusef("This file is nested too deeply to be a map.")
		}
		defer func() { p.depth-- }()
		p.blank++
		node := iri(fmt.Sprintf("_:b%d", p.blank))
		if p.sign("]") {
			return node, nil
		}
		if err := p.predicates(node); err != nil {
			return node, err
		}
		if !p.sign("]") {
			return node, p.fault("a bracket does not end.")
		}
		return node, nil
	case c == '(':
		p.at++
		if p.depth++; p.depth > safe.MaxDepth {
			return Term{}, cm.Refusef("This file is nested too deeply to be a map.")
		}
		defer func() { p.depth-- }()
		for !p.sign(")") {
			if _, err := p.term(); err != nil {
				return Term{}, err
			}
		}
		p.blank++
		return iri(fmt.Sprintf("_:b%d", p.blank)), nil
	}
	from := p.at
	for p.at < len(p.text) && !strings.ContainsRune(" \t\r\n;,[]()\"'<>#", rune(p.text[p.at])) {
		if p.text[p.at] == '\\' {
			p.at++
		}
		p.at++
	}
	p.at = min(p.at, len(p.text))
	name := p.text[from:p.at]
	if strings.HasSuffix(name, ".") {
		name = strings.TrimSuffix(name, ".")
		p.at--
	}
	if name == "" {
		return Term{}, p.fault("something is missing.")
	}
	if strings.HasPrefix(name, "_:") {
		return iri(name), nil
	}
	if _, err := strconv.ParseFloat(name, 64); err == nil || name == "true" || name == "false" {
		return Term{Literal: name, IsString: true}, nil
	}
	prefix, local, found := strings.Cut(name, ":")
	full, known := p.prefix[prefix]
	if !found || !known {
		return Term{}, p.fault("“" + cm.Shortened(name, 40) + "” is not known.")
	}
	return iri(full + strings.ReplaceAll(local, "\\", "")), nil
}

func (p *parser) literal() (Term, error) {
	quote := p.text[p.at : p.at+1]
	if strings.HasPrefix(p.text[p.at:], strings.Repeat(quote, 3)) {
		quote = strings.Repeat(quote, 3)
	}
	p.at += len(quote)
	from := p.at
	for p.at < len(p.text) && !strings.HasPrefix(p.text[p.at:], quote) {
		if p.text[p.at] == '\\' {
			p.at++
		} else if p.text[p.at] == '\n' {
			if len(quote) == 1 {
				return Term{}, p.fault("a quotation mark does not end.")
			}
			p.line++
		}
		p.at++
	}
	if p.at >= len(p.text) {
		return Term{}, p.fault("a quotation mark does not end.")
	}
	t := Term{Literal: unescaped(p.text[from:p.at]), IsString: true}
	p.at += len(quote)
	if p.at < len(p.text) && p.text[p.at] == '@' {
		from := p.at + 1
		p.at++
		for p.at < len(p.text) && (p.text[p.at] == '-' || p.text[p.at] >= '0' && p.text[p.at] <= '9' || p.text[p.at] >= 'A' && p.text[p.at] <= 'Z' || p.text[p.at] >= 'a' && p.text[p.at] <= 'z') {
			p.at++
		}
		t.Lang = p.text[from:p.at]
	} else if strings.HasPrefix(p.text[p.at:], "^^") {
		p.at += 2
		kind, err := p.term()
		if err != nil {
			return t, err
		}
		t.Type = kind.IRI
	}
	return t, nil
}

// unescaped reads the signs that stand for others.
func unescaped(s string) string {
	if !strings.ContainsRune(s, '\\') {
		return s
	}
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] != '\\' || i+1 == len(s) {
			b.WriteByte(s[i])
			continue
		}
		i++
		long := map[byte]int{'u': 4, 'U': 8}[s[i]]
		switch {
		case long > 0 && i+long < len(s):
			if n, err := strconv.ParseUint(s[i+1:i+1+long], 16, 32); err == nil {
				b.WriteRune(rune(n))
			}
			i += long
		case s[i] == 'n':
			b.WriteByte('\n')
		case s[i] == 't':
			b.WriteByte('\t')
		case s[i] == 'r':
			b.WriteByte('\r')
		default:
			b.WriteByte(s[i])
		}
	}
	return b.String()
}

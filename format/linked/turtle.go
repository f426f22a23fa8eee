// Package linked writes and reads maps as linked data: RDF 1.1 in Turtle and in JSON-LD 1.1. Concepts are
// those of SKOS, propositions statements with addresses of their own (rdf:Statement), whose predicates
// are properties that carry the phrase as their label; what hangs from what is told by skos:broader.
package linked

import (
	"encoding/json"
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
)

// The vocabularies.
const (
	rdf     = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
	rdfs    = "http://www.w3.org/2000/01/rdf-schema#"
	skos    = "http://www.w3.org/2004/02/skos/core#"
	dcterms = "http://purl.org/dc/terms/"
	prov    = "http://www.w3.org/ns/prov#"
	xsd     = "http://www.w3.org/2001/XMLSchema#"
)

// Term is an address, a literal or a blank node ("_:" and a name).
type Term struct {
	IRI      string
	Literal  string
	Lang     string
	Type     string // of a literal; empty for a plain one
	IsString bool   // it is a literal
}

// Triple is one statement.
type Triple struct{ S, P, O Term }

func iri(address string) Term { return Term{IRI: address} }

// base is where the things of a map have their addresses.
func base(e *content.Export) string {
	if e.Address != "" {
		return e.Address + "#"
	}
	return "urn:mevrin:" + string(e.Map.ID) + ":"
}

// triples says all that there is to say of a map.
func triples(e *content.Export) (all []Triple) {
	at := base(e)
	lang := string(e.Language())
	text := func(words string) Term { return Term{Literal: words, Lang: lang, IsString: true} }
	say := func(s, p string, o Term) { all = append(all, Triple{iri(s), iri(p), o}) }
	whole := at + "map"
	say(whole, rdf+"type", iri(skos+"ConceptScheme"))
	say(whole, dcterms+"title", text(e.Title()))
	if q := e.Question(); q != "" {
		say(whole, dcterms+"description", text(q))
	}
	if e.State != "" {
		say(whole, prov+"generatedAtTime", Term{Literal: e.State, IsString: true})
	}
	for _, id := range e.Structure.Order {
		c := e.Map.Concepts[id]
		self := at + string(id)
		say(self, rdf+"type", iri(skos+"Concept"))
		say(self, skos+"inScheme", iri(whole))
		if label := e.Words(c.Label); label != "" {
			say(self, skos+"prefLabel", text(label))
		}
		if note := e.Words(c.Note); note != "" && e.Options.Notes {
			say(self, skos+"note", text(note))
		}
		if kind := e.Kind(c); kind != "" {
			say(self, dcterms+"type", text(kind))
		}
		for _, tag := range e.Tags(c) {
			say(self, dcterms+"subject", text(tag))
		}
		if parent := e.Structure.Places[id].Parent; parent != "" {
			say(self, skos+"broader", iri(at+string(parent)))
		} else {
			say(self, skos+"topConceptOf", iri(whole))
		}
		for _, source := range cm.SourceList(c.Sources) {
			if url := c.Sources[source].URL; url != "" {
				say(self, rdfs+"seeAlso", iri(url))
			}
		}
	}
	phrases := map[string]string{}
	for _, s := range e.Sentences() {
		self := at + fmt.Sprintf("%s-%s-%s", s.Strand.Link, s.Strand.From, s.Strand.To)
		if s.Against {
			self += "-against"
		}
		property := phrases[s.Phrase]
		if property == "" {
			property = at + fmt.Sprintf("phrase-%d", len(phrases)+1)
			phrases[s.Phrase] = property
			say(property, rdf+"type", iri(rdf+"Property"))
			if s.Phrase != "" {
				say(property, rdfs+"label", text(s.Phrase))
			}
		}
		from, to := at+string(s.Subject), at+string(s.Object)
		say(from, property, iri(to))
		say(self, rdf+"type", iri(rdf+"Statement"))
		say(self, rdf+"subject", iri(from))
		say(self, rdf+"predicate", iri(property))
		say(self, rdf+"object", iri(to))
		say(self, prov+"wasDerivedFrom", iri(whole))
	}
	return all
}

var prefixes = [][2]string{{"dcterms", dcterms}, {"prov", prov}, {"rdf", rdf}, {"rdfs", rdfs}, {"skos", skos}}

// WriteTurtle gives a map in Turtle.
func WriteTurtle(e *content.Export) []byte {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n", strings.ReplaceAll(e.Said(), "\n", " "))
	for _, p := range prefixes {
		fmt.Fprintf(&b, "@prefix %s: <%s> .\n", p[0], p[1])
	}
	all := triples(e)
	for i, t := range all {
		switch {
		case i > 0 && all[i-1].S == t.S:
			b.WriteString(" ;\n    ")
		case i > 0:
			fmt.Fprintf(&b, " .\n\n%s ", turtle(t.S))
		default:
			fmt.Fprintf(&b, "\n%s ", turtle(t.S))
		}
		fmt.Fprintf(&b, "%s %s", turtle(t.P), turtle(t.O))
	}
	if len(all) > 0 {
		b.WriteString(" .\n")
	}
	return []byte(b.String())
}

var literal = strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\r", `\r`, "\t", `\t`)

// turtle writes a term.
func turtle(t Term) string {
	switch {
	case t.IsString && t.Lang != "":
		return `"` + literal.Replace(t.Literal) + `"@` + t.Lang
	case t.IsString:
		return `"` + literal.Replace(t.Literal) + `"`
	}
	for _, p := range prefixes {
		if name, is := strings.CutPrefix(t.IRI, p[1]); is && name != "" && strings.Trim(name, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ") == "" {
			return p[0] + ":" + name
		}
	}
	var b strings.Builder
	b.WriteByte('<')
	for _, r := range t.IRI {
		if r <= ' ' || strings.ContainsRune("<>\"{}|^`\\", r) {
			fmt.Fprintf(&b, `\u%04X`, r)
			continue
		}
		b.WriteRune(r)
	}
	b.WriteByte('>')
	return b.String()
}

// WriteJSONLD gives a map in JSON-LD, with the context in it.
func WriteJSONLD(e *content.Export) ([]byte, error) {
	context := map[string]any{}
	for _, p := range prefixes {
		context[p[0]] = p[1]
	}
	short := func(address string) string {
		for _, p := range prefixes {
			if name, is := strings.CutPrefix(address, p[1]); is {
				return p[0] + ":" + name
			}
		}
		return address
	}
	nodes := map[string]map[string]any{}
	var order []string
	for _, t := range triples(e) {
		n := nodes[t.S.IRI]
		if n == nil {
			n = map[string]any{"@id": t.S.IRI}
			nodes[t.S.IRI] = n
			order = append(order, t.S.IRI)
		}
		name := short(t.P.IRI)
		var value any = map[string]string{"@id": t.O.IRI}
		if t.O.IsString {
			value = t.O.Literal
			if t.O.Lang != "" {
				value = map[string]string{"@value": t.O.Literal, "@language": t.O.Lang}
			}
		}
		if t.P.IRI == rdf+"type" {
			name, value = "@type", short(t.O.IRI)
		}
		switch had := n[name].(type) {
		case nil:
			n[name] = value
		case []any:
			n[name] = append(had, value)
		default:
			n[name] = []any{had, value}
		}
	}
	graph := make([]any, len(order))
	for i, id := range order {
		graph[i] = nodes[id]
	}
	return json.MarshalIndent(map[string]any{"@context": context, "@graph": graph}, "", " ")
}

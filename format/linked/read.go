package linked

import (
	"sort"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
)

// draft makes a map of statements: SKOS concepts and what has a label; statements, or properties that
// carry one, between them.
func draft(all []Triple) (*content.Draft, error) {
	d := &content.Draft{}
	labels, notes, kinds, tags, see := map[string]string{}, map[string]string{}, map[string]string{}, map[string][]string{}, map[string]string{}
	concepts, schemes, properties, statements := map[string]bool{}, map[string]bool{}, map[string]bool{}, map[string][3]string{}
	var order []string
	concept := func(id string) {
		if !concepts[id] {
			concepts[id] = true
			order = append(order, id)
		}
	}
	for _, t := range all {
		id := t.S.IRI
		switch t.P.IRI {
		case rdf + "type":
			switch t.O.IRI {
			case skos + "Concept":
				concept(id)
			case skos + "ConceptScheme":
				schemes[id] = true
			case rdf + "Property", "http://www.w3.org/2002/07/owl#ObjectProperty":
				properties[id] = true
			case rdf + "Statement":
				statements[id] = [3]string{}
			}
		case skos + "prefLabel", rdfs + "label", "http://xmlns.com/foaf/0.1/name", "http://schema.org/name":
			if labels[id] == "" {
				labels[id] = t.O.Literal
			}
		case skos + "note", skos + "definition", skos + "scopeNote", rdfs + "comment":
			notes[id] = strings.TrimSpace(notes[id] + "\n\n" + t.O.Literal)
		case dcterms + "title":
			if d.Title == "" {
				d.Title = t.O.Literal
				d.Language = t.O.Lang
			}
		case dcterms + "description":
			if d.Question == "" {
				d.Question = t.O.Literal
			}
		case dcterms + "type":
			kinds[id] = t.O.Literal
		case dcterms + "subject":
			tags[id] = append(tags[id], t.O.Literal)
		case rdfs + "seeAlso":
			see[id] = t.O.IRI
		}
	}
	for _, t := range all {
		if s, is := statements[t.S.IRI]; is {
			switch t.P.IRI {
			case rdf + "subject":
				s[0] = t.O.IRI
			case rdf + "predicate":
				s[1] = t.O.IRI
			case rdf + "object":
				s[2] = t.O.IRI
			}
			statements[t.S.IRI] = s
		}
	}
	type edge struct{ from, phrase, to string }
	known := map[edge]bool{}
	var links []edge
	link := func(from, property, to string) {
		concept(from)
		concept(to)
		one := edge{from, words(property, labels), to}
		if !known[one] {
			known[one] = true
			links = append(links, one)
		}
	}
	names := make([]string, 0, len(statements))
	for id := range statements {
		names = append(names, id)
	}
	sort.Strings(names)
	for _, id := range names {
		if s := statements[id]; s[0] != "" && s[2] != "" {
			link(s[0], s[1], s[2])
		}
	}
	plain := len(statements) == 0
	told := map[string]bool{skos + "inScheme": true, skos + "topConceptOf": true, skos + "hasTopConcept": true, rdf + "type": true, rdfs + "seeAlso": true, prov + "wasDerivedFrom": true, rdfs + "domain": true, rdfs + "range": true}
	for _, t := range all {
		_, stated := statements[t.S.IRI]
		if t.O.IsString || told[t.P.IRI] || stated || schemes[t.S.IRI] || schemes[t.O.IRI] || properties[t.S.IRI] {
			continue
		}
		broader := t.P.IRI == skos+"broader" || t.P.IRI == skos+"narrower" || t.P.IRI == skos+"related"
		if properties[t.P.IRI] && plain || plain && !broader || broader && plain {
			link(t.S.IRI, t.P.IRI, t.O.IRI)
		}
	}
	for _, t := range all { // what has a label alone
		_, stated := statements[t.S.IRI]
		if id := t.S.IRI; plain && labels[id] != "" && !properties[id] && !schemes[id] && !stated {
			concept(id)
		}
	}
	for _, id := range order {
		label := labels[id]
		if label == "" {
			label = words(id, labels)
		}
		if err := d.Add(content.Concept{Key: id, Label: label, Note: notes[id], Kind: kinds[id], Tags: tags[id], Address: see[id]}); err != nil {
			return nil, err
		}
	}
	for _, l := range links {
		if err := d.Join(content.Link{From: l.from, Phrase: l.phrase, To: l.to}); err != nil {
			return nil, err
		}
	}
	if len(d.Concepts) == 0 {
		return nil, cm.Refusef("There is nothing in this file that could be a concept.")
	}
	return d, nil
}

// words gives what a property is called: its label, else the last part of its address with its words
// apart.
func words(address string, labels map[string]string) string {
	if label := labels[address]; label != "" {
		return strings.Join(strings.Fields(label), " ")
	}
	if i := strings.LastIndexAny(address, "#/:"); i >= 0 && i+1 < len(address) {
		address = address[i+1:]
	}
	if strings.HasPrefix(address, "phrase-") {
		return ""
	}
	var b strings.Builder
	for i, r := range address {
		if r >= 'A' && r <= 'Z' && i > 0 {
			b.WriteByte(' ')
		}
		if r == '_' || r == '-' {
			r = ' '
		}
		b.WriteRune(r)
	}
	return strings.ToLower(strings.Join(strings.Fields(b.String()), " "))
}

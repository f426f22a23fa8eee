// Package quiz writes the questions of a route for programs in which learners answer and teachers mark.
package quiz

import (
	"archive/zip"
	"bytes"
	"cmp"
	"encoding/xml"
	"fmt"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/markdown"
)

const (
	qti  = "http://www.imsglobal.org/xsd/imsqtiasi_v3p0"
	head = `<?xml version="1.0" encoding="UTF-8"?>` + "\n"
)

// Needs refuses a map on whose route nothing is asked.
func Needs(e *content.Export) error {
	if len(asked(e)) == 0 {
		return cm.Refusef("No stop of a route on this map asks a question yet.")
	}
	return nil
}

// asked gives the stops that ask something.
func asked(e *content.Export) (all []content.Stop) {
	route := e.Walked()
	if route == nil {
		return nil
	}
	for _, s := range e.Stops(route.ID) {
		if s.Question != "" {
			all = append(all, s)
		}
	}
	return all
}

// WriteQTI gives the questions of a route as a package of QTI 3.0 (1EdTech, 2022): a test whose items are
// answered in words. What the stop expects as the answer is seen by whoever scores, and by nobody else.
func WriteQTI(e *content.Export) ([]byte, error) {
	if err := Needs(e); err != nil {
		return nil, err
	}
	stops, title := asked(e), escaped(cmp.Or(e.Line(e.Walked().Title), e.Title()))
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	add := func(name, body string) error {
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)})
		if err == nil {
			_, err = w.Write([]byte(head + body))
		}
		return err
	}
	var refs, resources, depends strings.Builder
	lang := escaped(string(e.Language()))
	for i, s := range stops {
		name := fmt.Sprintf("question-%d", i+1)
		fmt.Fprintf(&refs, `<qti-assessment-item-ref identifier="%s" href="%s.xml"/>`, name, name)
		fmt.Fprintf(&resources, `<resource identifier="%s" type="imsqti_item_xmlv3p0" href="%s.xml"><file href="%s.xml"/></resource>`, name, name, name)
		fmt.Fprintf(&depends, `<dependency identifierref="%s"/>`, name)
		if err := add(name+".xml", item(name, lang, s)); err != nil {
			return nil, err
		}
	}
	test := `<qti-assessment-test xmlns="` + qti + `" identifier="test" title="` + title + `" xml:lang="` + lang + `"><qti-test-part identifier="part" navigation-mode="nonlinear" submission-mode="individual"><qti-assessment-section identifier="section" title="` + title + `" visible="true">` + refs.String() + `</qti-assessment-section></qti-test-part></qti-assessment-test>`
	manifest := `<manifest xmlns="http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1" identifier="manifest"><metadata><schema>QTI Package</schema><schemaversion>3.0.0</schemaversion></metadata><organizations/><resources><resource identifier="test" type="imsqti_test_xmlv3p0" href="test.xml"><file href="test.xml"/>` + depends.String() + `</resource>` + resources.String() + `</resources></manifest>`
	if err := add("test.xml", test); err != nil {
		return nil, err
	}
	if err := add("imsmanifest.xml", manifest); err != nil {
		return nil, err
	}
	err := z.Close()
	return out.Bytes(), err
}

// item is one question, with room for an answer of some lines.
func item(name, lang string, s content.Stop) string {
	rubric := ""
	if s.Answer != "" {
		rubric = `<qti-rubric-block use="scoring" view="scorer tutor"><qti-content-body>` + paragraphs(s.Answer) + `</qti-content-body></qti-rubric-block>`
	}
	return `<qti-assessment-item xmlns="` + qti + `" identifier="` + name + `" title="` + escaped(cmp.Or(s.Title, cm.Shortened(markdown.Plain(s.Question), 60))) + `" adaptive="false" time-dependent="false" xml:lang="` + lang + `">` +
		`<qti-response-declaration identifier="RESPONSE" cardinality="single" base-type="string"/>` +
		`<qti-outcome-declaration identifier="SCORE" cardinality="single" base-type="float" external-scored="human" normal-maximum="1"/>` +
		`<qti-item-body>` + rubric + `<qti-extended-text-interaction response-identifier="RESPONSE" expected-lines="4"><qti-prompt>` + paragraphs(s.Question) + `</qti-prompt></qti-extended-text-interaction></qti-item-body></qti-assessment-item>`
}

// paragraphs sets words that are CommonMark as paragraphs, without their marks.
func paragraphs(words string) string {
	var b strings.Builder
	for p := range strings.SplitSeq(markdown.Plain(words), "\n") {
		if p = strings.TrimSpace(p); p != "" {
			b.WriteString("<p>" + escaped(p) + "</p>")
		}
	}
	return b.String()
}

func escaped(words string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(words)) // to memory
	return b.String()
}

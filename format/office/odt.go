package office

import (
	"cmp"
	"fmt"
	"strings"

	"mevrin/format/content"
)

// odfNames are the names of OpenDocument.
const odfNames = ` xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:meta="urn:oasis:names:tc:opendocument:xmlns:meta:1.0" xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" xmlns:presentation="urn:oasis:names:tc:opendocument:xmlns:presentation:1.0" office:version="1.3"`

// odt is a text document as it is written.
type odt struct {
	body     strings.Builder
	pictures []*picture
	depth    int // of the list that is open
	ordered  bool
	tables   int
	as       string // the style of all paragraphs, on slides; empty for those of a document
}

// WriteODT gives a map as a text document.
func WriteODT(e *content.Export) ([]byte, error) {
	all, err := paragraphs(e)
	if err != nil {
		return nil, err
	}
	d := &odt{}
	for _, p := range all {
		d.para(p)
	}
	d.list(0, false)
	a := newArchive()
	a.stored("mimetype", "application/vnd.oasis.opendocument.text")
	a.add("content.xml", xmlHead+`<office:document-content`+odfNames+`><office:automatic-styles><style:style style:name="strong" style:family="text"><style:text-properties fo:font-weight="bold"/></style:style><style:style style:name="emph" style:family="text"><style:text-properties fo:font-style="italic"/></style:style><style:style style:name="both" style:family="text"><style:text-properties fo:font-weight="bold" fo:font-style="italic"/></style:style></office:automatic-styles><office:body><office:text>`+d.body.String()+`</office:text></office:body></office:document-content>`)
	a.add("styles.xml", xmlHead+`<office:document-styles`+odfNames+`><office:styles>`+odfStyles(string(e.Language()))+`</office:styles><office:automatic-styles><style:page-layout style:name="page"><style:page-layout-properties fo:page-width="21cm" fo:page-height="29.7cm" fo:margin-top="2.2cm" fo:margin-bottom="2.2cm" fo:margin-left="2.2cm" fo:margin-right="2.2cm"/></style:page-layout></office:automatic-styles><office:master-styles><style:master-page style:name="Standard" style:page-layout-name="page"/></office:master-styles></office:document-styles>`)
	a.add("meta.xml", odfMeta(e))
	manifest(a, "application/vnd.oasis.opendocument.text", d.pictures)
	return a.done()
}

func odfMeta(e *content.Export) string {
	return xmlHead + `<office:document-meta` + odfNames + `><office:meta><dc:title>` + esc(e.Title()) + `</dc:title><dc:description>` + esc(e.Said()) + `</dc:description><dc:language>` + esc(string(e.Language())) + `</dc:language><meta:generator>Mevrin</meta:generator></office:meta></office:document-meta>`
}

// manifest adds pictures and the list of all parts.
func manifest(a *archive, kind string, pictures []*picture) {
	var b strings.Builder
	put(&b, `%s<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="%s"/>`, xmlHead, kind)
	for _, part := range []string{"content.xml", "styles.xml", "meta.xml"} {
		put(&b, `<manifest:file-entry manifest:full-path="%s" manifest:media-type="text/xml"/>`, part)
	}
	for i, p := range pictures {
		name := fmt.Sprintf("Pictures/%d.png", i+1)
		a.write(name, p.raw, 0)
		put(&b, `<manifest:file-entry manifest:full-path="%s" manifest:media-type="image/png"/>`, name)
	}
	b.WriteString("</manifest:manifest>")
	a.add("META-INF/manifest.xml", b.String())
}

// list opens or closes lists until one of a depth is open.
func (d *odt) list(depth int, ordered bool) {
	if d.depth > 0 && depth > 0 && ordered != d.ordered {
		d.list(0, false)
	}
	for ; d.depth > depth; d.depth-- {
		d.body.WriteString("</text:list-item></text:list>")
	}
	for d.depth < depth {
		name := "Bullets"
		if ordered {
			name = "Numbers"
		}
		put(&d.body, `<text:list text:style-name="%s"><text:list-item>`, name)
		d.depth++
		d.ordered = ordered
	}
}

func (d *odt) para(p para) {
	if p.kind != kindItem {
		d.list(0, false)
	}
	switch p.kind {
	case kindItem:
		if d.depth >= p.level && d.ordered == p.ordered {
			d.list(p.level, p.ordered)
			d.body.WriteString("</text:list-item><text:list-item>")
		} else {
			d.list(p.level, p.ordered)
		}
		put(&d.body, `<text:p text:style-name="%s">`, cmp.Or(d.as, "List_20_Contents"))
		d.runs(p.spans)
		d.body.WriteString("</text:p>")
	case kindHeading:
		put(&d.body, `<text:h text:style-name="Heading_20_%d" text:outline-level="%d">`, p.level, p.level)
		d.runs(p.spans)
		d.body.WriteString("</text:h>")
	case kindTable:
		d.table(p)
	case kindPicture:
		d.picture(p.picture)
	default:
		style := map[kind]string{kindTitle: "Title", kindSubtitle: "Subtitle", kindFoot: "Origin"}[p.kind]
		if style == "" {
			style = "Text_20_body"
		}
		put(&d.body, `<text:p text:style-name="%s">`, cmp.Or(d.as, style))
		d.runs(p.spans)
		d.body.WriteString("</text:p>")
	}
}

func (d *odt) runs(all []span) {
	for _, s := range all {
		style := ""
		switch {
		case s.verb:
			style = "Linking_20_Phrase"
		case s.strong && s.emph:
			style = "both"
		case s.strong:
			style = "strong"
		case s.emph:
			style = "emph"
		}
		if s.link != "" {
			put(&d.body, `<text:a xlink:type="simple" xlink:href="%s">`, esc(s.link))
		}
		if style != "" {
			put(&d.body, `<text:span text:style-name="%s">`, style)
		}
		d.body.WriteString(odfWords(s.words))
		if style != "" {
			d.body.WriteString("</text:span>")
		}
		if s.link != "" {
			d.body.WriteString("</text:a>")
		}
	}
}

// odfWords writes words whose spaces and lines are kept.
func odfWords(words string) string {
	var b strings.Builder
	for i, line := range strings.Split(words, "\n") {
		if i > 0 {
			b.WriteString("<text:line-break/>")
		}
		line = esc(line)
		if rest := strings.TrimLeft(line, " "); rest != line && rest == "" {
			put(&b, `<text:s text:c="%d"/>`, len(line))
			continue
		}
		b.WriteString(strings.ReplaceAll(line, "  ", ` <text:s/>`))
	}
	return b.String()
}

func (d *odt) table(p para) {
	wide := 0
	for _, row := range p.rows {
		wide = max(wide, len(row))
	}
	if wide == 0 {
		return
	}
	d.tables++
	put(&d.body, `<table:table table:name="Table%d"><table:table-column table:number-columns-repeated="%d"/>`, d.tables, wide)
	for i, row := range p.rows {
		if i == 0 && p.head {
			d.body.WriteString("<table:table-header-rows>")
		}
		d.body.WriteString("<table:table-row>")
		for j := range wide {
			style := "Table_20_Contents"
			if i == 0 && p.head {
				style = "Table_20_Heading"
			}
			put(&d.body, `<table:table-cell office:value-type="string"><text:p text:style-name="%s">`, style)
			if j < len(row) {
				d.runs(row[j])
			}
			d.body.WriteString("</text:p></table:table-cell>")
		}
		d.body.WriteString("</table:table-row>")
		if i == 0 && p.head {
			d.body.WriteString("</table:table-header-rows>")
		}
	}
	d.body.WriteString("</table:table>")
}

func (d *odt) picture(p *picture) {
	d.pictures = append(d.pictures, p)
	w, h := float64(p.w)/96*2.54, float64(p.h)/96*2.54
	k := min(1, 16.6/w, 23/h)
	put(&d.body, `<text:p text:style-name="Picture"><draw:frame draw:name="map%d" text:anchor-type="as-char" svg:width="%.2fcm" svg:height="%.2fcm"><draw:image xlink:href="Pictures/%d.png" xlink:type="simple" xlink:show="embed" xlink:actuate="onLoad"/><svg:desc>%s</svg:desc></draw:frame></text:p>`, len(d.pictures), w*k, h*k, len(d.pictures), esc(p.alt))
}

// odfStyles are the styles of a text document, by the names that templates know.
func odfStyles(lang string) string {
	var b strings.Builder
	language, country, _ := strings.Cut(lang, "-")
	if country == "" {
		country = "none"
	}
	put(&b, `<style:default-style style:family="paragraph"><style:paragraph-properties fo:line-height="130%%"/><style:text-properties fo:font-family="'Atkinson Hyperlegible'" fo:font-size="11pt" fo:language="%s" fo:country="%s"/></style:default-style>`, esc(language), esc(country))
	style := func(name, parent, paragraph, text string) {
		put(&b, `<style:style style:name="%s" style:display-name="%s" style:family="paragraph"`, name, strings.ReplaceAll(name, "_20_", " "))
		if parent != "" {
			put(&b, ` style:parent-style-name="%s"`, parent)
		}
		put(&b, `><style:paragraph-properties %s/><style:text-properties %s/></style:style>`, paragraph, text)
	}
	style("Standard", "", "", "")
	style("Text_20_body", "Standard", `fo:margin-bottom="0.22cm"`, "")
	style("Title", "Standard", `fo:margin-bottom="0.2cm"`, `fo:font-weight="bold" fo:font-size="24pt"`)
	style("Subtitle", "Standard", `fo:margin-bottom="0.3cm"`, `fo:font-style="italic" fo:font-size="14pt"`)
	style("Heading", "Standard", `fo:keep-with-next="always" fo:margin-top="0.4cm" fo:margin-bottom="0.14cm"`, `fo:font-weight="bold"`)
	for i, size := range []string{"17", "14", "12.5", "11.5", "11", "11"} {
		put(&b, `<style:style style:name="Heading_20_%d" style:display-name="Heading %d" style:family="paragraph" style:parent-style-name="Heading" style:default-outline-level="%d"><style:text-properties fo:font-size="%spt"/></style:style>`, i+1, i+1, i+1, size)
	}
	style("List_20_Contents", "Standard", `fo:margin-bottom="0.1cm"`, "")
	style("Table_20_Contents", "Standard", "", "")
	style("Table_20_Heading", "Table_20_Contents", "", `fo:font-weight="bold"`)
	style("Picture", "Standard", `fo:text-align="center" fo:margin-bottom="0.3cm"`, "")
	style("Origin", "Standard", `fo:margin-top="0.6cm"`, `fo:font-size="8.5pt" fo:color="#5a6a87"`)
	b.WriteString(`<style:style style:name="Linking_20_Phrase" style:display-name="Linking Phrase" style:family="text"><style:text-properties fo:font-family="'Source Serif 4'" fo:font-style="italic"/></style:style>`)
	for _, list := range []string{"Bullets", "Numbers"} {
		put(&b, `<text:list-style style:name="%s">`, list)
		for level := 1; level <= 9; level++ {
			inner := fmt.Sprintf(`<style:list-level-properties text:list-level-position-and-space-mode="label-alignment"><style:list-level-label-alignment text:label-followed-by="listtab" fo:text-indent="-0.6cm" fo:margin-left="%.1fcm"/></style:list-level-properties>`, 0.6*float64(level))
			if list == "Bullets" {
				put(&b, `<text:list-level-style-bullet text:level="%d" text:bullet-char="•">%s</text:list-level-style-bullet>`, level, inner)
			} else {
				put(&b, `<text:list-level-style-number text:level="%d" style:num-format="1" style:num-suffix="." text:display-levels="%d">%s</text:list-level-style-number>`, level, level, inner)
			}
		}
		b.WriteString("</text:list-style>")
	}
	return b.String()
}

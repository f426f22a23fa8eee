package office

import (
	"fmt"
	"strings"

	"mevrin/format/content"
)

const xmlHead = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>` + "\n"

// The names of the parts' relations and kinds.
const (
	relOffice = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
	relPack   = "http://schemas.openxmlformats.org/package/2006/relationships"
	nsWord    = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
	nsDraw    = "http://schemas.openxmlformats.org/drawingml/2006/main"
)

// docx is a text document as it is written.
type docx struct {
	body  strings.Builder
	rels  strings.Builder
	links map[string]string // ids of relations, by their addresses
	a     *archive
	n     int // pictures
}

// WriteDOCX gives a map as a text document.
func WriteDOCX(e *content.Export) ([]byte, error) {
	all, err := paragraphs(e)
	if err != nil {
		return nil, err
	}
	d := &docx{links: map[string]string{}, a: newArchive()}
	for _, p := range all {
		d.para(p)
	}
	lang := string(e.Language())
	d.a.add("[Content_Types].xml", xmlHead+`<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Default Extension="png" ContentType="image/png"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/><Override PartName="/word/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.styles+xml"/><Override PartName="/word/numbering.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.numbering+xml"/><Override PartName="/docProps/core.xml" ContentType="application/vnd.openxmlformats-package.core-properties+xml"/></Types>`)
	d.a.add("_rels/.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="r1" Type="`+relOffice+`/officeDocument" Target="word/document.xml"/><Relationship Id="r2" Type="http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties" Target="docProps/core.xml"/></Relationships>`)
	d.a.add("docProps/core.xml", coreProperties(e))
	d.a.add("word/document.xml", xmlHead+`<w:document xmlns:w="`+nsWord+`" xmlns:r="`+relOffice+`" xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" xmlns:a="`+nsDraw+`" xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture"><w:body>`+d.body.String()+`<w:sectPr><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:top="1247" w:right="1247" w:bottom="1247" w:left="1247" w:header="709" w:footer="709" w:gutter="0"/></w:sectPr></w:body></w:document>`)
	d.a.add("word/_rels/document.xml.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="styles" Type="`+relOffice+`/styles" Target="styles.xml"/><Relationship Id="numbering" Type="`+relOffice+`/numbering" Target="numbering.xml"/>`+d.rels.String()+`</Relationships>`)
	d.a.add("word/styles.xml", wordStyles(lang))
	d.a.add("word/numbering.xml", wordNumbering())
	return d.a.done()
}

func coreProperties(e *content.Export) string {
	return xmlHead + `<cp:coreProperties xmlns:cp="http://schemas.openxmlformats.org/package/2006/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>` + esc(e.Title()) + `</dc:title><dc:creator>Mevrin</dc:creator><dc:description>` + esc(e.Said()) + `</dc:description><dc:language>` + esc(string(e.Language())) + `</dc:language></cp:coreProperties>`
}

func (d *docx) para(p para) {
	style, more := "", ""
	switch p.kind {
	case kindTitle:
		style = "Title"
	case kindSubtitle:
		style = "Subtitle"
	case kindHeading:
		style = fmt.Sprintf("Heading%d", p.level)
	case kindItem:
		style = "ListBullet"
		list := 1
		if p.ordered {
			style, list = "ListNumber", 2
		}
		more = fmt.Sprintf(`<w:numPr><w:ilvl w:val="%d"/><w:numId w:val="%d"/></w:numPr>`, min(p.level, 9)-1, list)
	case kindFoot:
		style = "Origin"
	case kindTable:
		d.table(p)
		return
	case kindPicture:
		d.picture(p.picture)
		return
	}
	d.body.WriteString("<w:p><w:pPr>")
	if style != "" {
		put(&d.body, `<w:pStyle w:val="%s"/>`, style)
	}
	d.body.WriteString(more + "</w:pPr>")
	d.runs(p.spans)
	d.body.WriteString("</w:p>")
}

func (d *docx) runs(all []span) {
	for _, s := range all {
		if s.words == "" {
			continue
		}
		if s.link != "" {
			put(&d.body, `<w:hyperlink r:id="%s">`, d.link(s.link))
		}
		d.body.WriteString("<w:r><w:rPr>")
		switch {
		case s.link != "":
			d.body.WriteString(`<w:rStyle w:val="Hyperlink"/>`)
		case s.verb:
			d.body.WriteString(`<w:rStyle w:val="LinkingPhrase"/>`)
		}
		if s.strong {
			d.body.WriteString("<w:b/>")
		}
		if s.emph {
			d.body.WriteString("<w:i/>")
		}
		d.body.WriteString("</w:rPr>")
		for i, line := range strings.Split(s.words, "\n") {
			if i > 0 {
				d.body.WriteString("<w:br/>")
			}
			put(&d.body, `<w:t xml:space="preserve">%s</w:t>`, esc(line))
		}
		d.body.WriteString("</w:r>")
		if s.link != "" {
			d.body.WriteString("</w:hyperlink>")
		}
	}
}

func (d *docx) link(address string) string {
	if d.links[address] == "" {
		d.links[address] = fmt.Sprintf("link%d", len(d.links)+1)
		put(&d.rels, `<Relationship Id="%s" Type="%s/hyperlink" Target="%s" TargetMode="External"/>`, d.links[address], relOffice, esc(address))
	}
	return d.links[address]
}

func (d *docx) table(p para) {
	if len(p.rows) == 0 {
		return
	}
	wide := 0
	for _, row := range p.rows {
		wide = max(wide, len(row))
	}
	d.body.WriteString(`<w:tbl><w:tblPr><w:tblStyle w:val="TableGrid"/><w:tblW w:w="5000" w:type="pct"/></w:tblPr><w:tblGrid>`)
	for range wide {
		put(&d.body, `<w:gridCol w:w="%d"/>`, 9400/max(1, wide))
	}
	d.body.WriteString("</w:tblGrid>")
	for i, row := range p.rows {
		d.body.WriteString("<w:tr>")
		if i == 0 && p.head {
			d.body.WriteString("<w:trPr><w:tblHeader/></w:trPr>")
		}
		for j := range wide {
			put(&d.body, `<w:tc><w:tcPr><w:tcW w:w="%d" w:type="dxa"/></w:tcPr><w:p>`, 9400/max(1, wide))
			if i == 0 && p.head {
				d.body.WriteString(`<w:pPr><w:pStyle w:val="TableHead"/></w:pPr>`)
			}
			if j < len(row) {
				d.runs(row[j])
			}
			d.body.WriteString("</w:p></w:tc>")
		}
		d.body.WriteString("</w:tr>")
	}
	d.body.WriteString("</w:tbl><w:p/>")
}

// The measures of DrawingML: EMU for each pixel, and the room between the margins.
const (
	emu      = 9525
	pageWide = 9412 * 635
	pageHigh = 11800 * 635
)

func (d *docx) picture(p *picture) {
	d.n++
	w, h := float64(p.w*emu), float64(p.h*emu)
	k := min(1, pageWide/w, pageHigh/h)
	name := fmt.Sprintf("picture%d", d.n)
	d.a.write("word/media/"+name+".png", p.raw, 0)
	put(&d.rels, `<Relationship Id="%s" Type="%s/image" Target="media/%s.png"/>`, name, relOffice, name)
	put(&d.body, `<w:p><w:pPr><w:pStyle w:val="Picture"/></w:pPr><w:r><w:drawing><wp:inline distT="0" distB="0" distL="0" distR="0"><wp:extent cx="%d" cy="%d"/><wp:docPr id="%d" name="%s" descr="%s"/><a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:pic><pic:nvPicPr><pic:cNvPr id="%d" name="%s" descr="%s"/><pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip r:embed="%s"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="%d" cy="%d"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r></w:p>`,
		int(w*k), int(h*k), d.n, name, esc(p.alt), d.n, name, esc(p.alt), name, int(w*k), int(h*k))
}

// wordStyles are the styles of a text document, by the names that templates know.
func wordStyles(lang string) string {
	var b strings.Builder
	put(&b, `%s<w:styles xmlns:w="%s"><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:ascii="Atkinson Hyperlegible" w:hAnsi="Atkinson Hyperlegible" w:cs="Arial"/><w:sz w:val="22"/><w:lang w:val="%s"/></w:rPr></w:rPrDefault><w:pPrDefault><w:pPr><w:spacing w:after="120" w:line="276" w:lineRule="auto"/></w:pPr></w:pPrDefault></w:docDefaults>`, xmlHead, nsWord, esc(lang))
	style := func(kind, id, name, based, next, ppr, rpr string) {
		put(&b, `<w:style w:type="%s" w:styleId="%s"`, kind, id)
		if id == "Normal" {
			b.WriteString(` w:default="1"`)
		}
		put(&b, `><w:name w:val="%s"/>`, name)
		if based != "" {
			put(&b, `<w:basedOn w:val="%s"/>`, based)
		}
		if next != "" {
			put(&b, `<w:next w:val="%s"/>`, next)
		}
		put(&b, `<w:qFormat/>%s<w:rPr>%s</w:rPr></w:style>`, ppr, rpr)
	}
	style("paragraph", "Normal", "Normal", "", "", "", "")
	style("paragraph", "Title", "Title", "Normal", "Normal", `<w:pPr><w:spacing w:after="120"/></w:pPr>`, `<w:b/><w:sz w:val="48"/>`)
	style("paragraph", "Subtitle", "Subtitle", "Normal", "Normal", "", `<w:i/><w:sz w:val="28"/>`)
	for i, size := range []int{34, 28, 25, 23, 22, 22} {
		style("paragraph", fmt.Sprintf("Heading%d", i+1), fmt.Sprintf("heading %d", i+1), "Normal", "Normal", fmt.Sprintf(`<w:pPr><w:keepNext/><w:spacing w:before="%d" w:after="80"/><w:outlineLvl w:val="%d"/></w:pPr>`, 320-40*i, i), fmt.Sprintf(`<w:b/><w:sz w:val="%d"/>`, size))
	}
	style("paragraph", "ListBullet", "List Bullet", "Normal", "", `<w:pPr><w:spacing w:after="60"/></w:pPr>`, "")
	style("paragraph", "ListNumber", "List Number", "Normal", "", `<w:pPr><w:spacing w:after="60"/></w:pPr>`, "")
	style("paragraph", "TableHead", "Table Head", "Normal", "", `<w:pPr><w:spacing w:after="0"/></w:pPr>`, `<w:b/>`)
	style("paragraph", "Picture", "Picture", "Normal", "Normal", `<w:pPr><w:jc w:val="center"/></w:pPr>`, "")
	style("paragraph", "Origin", "Origin", "Normal", "Normal", `<w:pPr><w:spacing w:before="360"/></w:pPr>`, `<w:color w:val="5A6A87"/><w:sz w:val="17"/>`)
	style("character", "LinkingPhrase", "Linking Phrase", "", "", "", `<w:rFonts w:ascii="Source Serif 4" w:hAnsi="Source Serif 4"/><w:i/>`)
	style("character", "Hyperlink", "Hyperlink", "", "", "", `<w:color w:val="7A4A00"/><w:u w:val="single"/>`)
	b.WriteString(`<w:style w:type="table" w:styleId="TableGrid"><w:name w:val="Table Grid"/><w:tblPr><w:tblBorders>`)
	for _, side := range []string{"top", "left", "bottom", "right", "insideH", "insideV"} {
		put(&b, `<w:%s w:val="single" w:sz="4" w:space="0" w:color="A0A8B8"/>`, side)
	}
	b.WriteString(`</w:tblBorders><w:tblCellMar><w:left w:w="100" w:type="dxa"/><w:right w:w="100" w:type="dxa"/></w:tblCellMar></w:tblPr></w:style></w:styles>`)
	return b.String()
}

func wordNumbering() string {
	var b strings.Builder
	put(&b, `%s<w:numbering xmlns:w="%s">`, xmlHead, nsWord)
	for list, ordered := range []bool{false, true} {
		put(&b, `<w:abstractNum w:abstractNumId="%d"><w:multiLevelType w:val="multilevel"/>`, list)
		text := ""
		for level := range 9 {
			form, said := "bullet", "•"
			if ordered {
				text += fmt.Sprintf("%%%d.", level+1)
				form, said = "decimal", text
			}
			put(&b, `<w:lvl w:ilvl="%d"><w:start w:val="1"/><w:numFmt w:val="%s"/><w:lvlText w:val="%s"/><w:lvlJc w:val="left"/><w:pPr><w:ind w:left="%d" w:hanging="360"/></w:pPr></w:lvl>`, level, form, said, 360*(level+1))
		}
		b.WriteString("</w:abstractNum>")
	}
	b.WriteString(`<w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num><w:num w:numId="2"><w:abstractNumId w:val="1"/></w:num></w:numbering>`)
	return b.String()
}

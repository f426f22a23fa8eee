package office

import (
	"fmt"
	"strings"

	"mevrin/core/geometry"
	"mevrin/format/content"
)

// WriteODP gives a map as slides.
func WriteODP(e *content.Export) ([]byte, error) {
	d := &odp{styles: map[string]string{}}
	for i, s := range slidesOf(e) {
		d.slide(i+1, s)
	}
	a := newArchive()
	a.stored("mimetype", "application/vnd.oasis.opendocument.presentation")
	a.add("content.xml", xmlHead+`<office:document-content`+odfNames+`><office:automatic-styles><style:style style:name="strong" style:family="text"><style:text-properties fo:font-weight="bold"/></style:style><style:style style:name="emph" style:family="text"><style:text-properties fo:font-style="italic"/></style:style><style:style style:name="both" style:family="text"><style:text-properties fo:font-weight="bold" fo:font-style="italic"/></style:style>`+d.automatic.String()+`</office:automatic-styles><office:body><office:presentation>`+d.body.String()+`</office:presentation></office:body></office:document-content>`)
	a.add("styles.xml", xmlHead+`<office:document-styles`+odfNames+`><office:styles>`+odfStyles(string(e.Language()))+`<style:style style:name="standard" style:family="graphic"><style:text-properties fo:font-size="18pt"/></style:style></office:styles><office:automatic-styles><style:page-layout style:name="page"><style:page-layout-properties fo:page-width="33.867cm" fo:page-height="19.05cm" fo:margin-top="0cm" fo:margin-bottom="0cm" fo:margin-left="0cm" fo:margin-right="0cm" style:print-orientation="landscape"/></style:page-layout></office:automatic-styles><office:master-styles><style:master-page style:name="Default" style:page-layout-name="page"><presentation:notes><draw:page-thumbnail presentation:class="page" svg:x="2cm" svg:y="2cm" svg:width="17cm" svg:height="9.6cm"/></presentation:notes></style:master-page></office:master-styles></office:document-styles>`)
	a.add("meta.xml", odfMeta(e))
	manifest(a, "application/vnd.oasis.opendocument.presentation", nil)
	return a.done()
}

type odp struct {
	body, automatic strings.Builder
	styles          map[string]string
}

// style gives the name of an automatic style of a shape.
func (d *odp) style(properties, text string) string {
	key := properties + "|" + text
	if d.styles[key] == "" {
		d.styles[key] = fmt.Sprintf("g%d", len(d.styles)+1)
		put(&d.automatic, `<style:style style:name="%s" style:family="graphic" style:parent-style-name="standard"><style:graphic-properties %s/><style:text-properties %s/></style:style>`, d.styles[key], properties, text)
	}
	return d.styles[key]
}

// paragraph gives the name of an automatic style of paragraphs.
func (d *odp) paragraph(properties, text string) string {
	key := "p|" + properties + "|" + text
	if d.styles[key] == "" {
		d.styles[key] = fmt.Sprintf("p%d", len(d.styles)+1)
		put(&d.automatic, `<style:style style:name="%s" style:family="paragraph"><style:paragraph-properties %s/><style:text-properties %s/></style:style>`, d.styles[key], properties, text)
	}
	return d.styles[key]
}

// cm72 gives a length in points as centimetres.
func cm72(v float64) string { return fmt.Sprintf("%.3fcm", v/72*2.54) }

func at(b geometry.Box) string {
	return fmt.Sprintf(`svg:x="%s" svg:y="%s" svg:width="%s" svg:height="%s"`, cm72(b.X), cm72(b.Y), cm72(b.W), cm72(b.H))
}

func (d *odp) slide(n int, s slide) {
	put(&d.body, `<draw:page draw:name="%d" draw:master-page-name="Default">`, n)
	frame := func(class string, box geometry.Box, inner string) {
		style := d.style(`draw:stroke="none" draw:fill="none" draw:auto-grow-height="false" style:shrink-to-fit="true" draw:textarea-vertical-align="top"`, "")
		put(&d.body, `<draw:frame draw:style-name="%s" presentation:class="%s" presentation:user-transformed="true" %s><draw:text-box>%s</draw:text-box></draw:frame>`, style, class, at(box), inner)
	}
	const face = `fo:font-family="'Atkinson Hyperlegible'" fo:color="#1d2f52"`
	frame("title", geometry.Box{X: slideEdge, Y: slideEdge, W: slideW - 2*slideEdge, H: titleHigh}, `<text:p text:style-name="`+d.paragraph("", face+` fo:font-size="30pt" fo:font-weight="bold"`)+`">`+odfWords(s.title)+`</text:p>`)
	text := odt{as: d.paragraph(`fo:margin-bottom="0.25cm"`, face+` fo:font-size="18pt"`)}
	for _, p := range s.body {
		if p.kind == kindPicture {
			continue
		}
		if p.kind == kindTable {
			for _, row := range p.rows {
				var cells []string
				for _, cell := range row {
					cells = append(cells, words(cell))
				}
				text.para(para{spans: plain(strings.Join(cells, " | "))})
			}
			continue
		}
		text.para(p)
	}
	text.list(0, false)
	if text.body.Len() > 0 {
		wide := slideW - 3*slideEdge - mapWide
		if len(s.shapes) == 0 {
			wide = slideW - 2*slideEdge
		}
		frame("outline", geometry.Box{X: slideEdge, Y: slideEdge + titleHigh, W: wide, H: slideH - 2*slideEdge - titleHigh}, text.body.String())
	}
	for _, one := range s.shapes {
		d.shape(one)
	}
	var said strings.Builder
	for line := range strings.SplitSeq(s.notes, "\n") {
		said.WriteString(`<text:p>` + odfWords(line) + `</text:p>`)
	}
	put(&d.body, `<presentation:notes><draw:page-thumbnail presentation:class="page" draw:page-number="%d" svg:x="2cm" svg:y="2cm" svg:width="17cm" svg:height="9.6cm"/><draw:frame presentation:class="notes" svg:x="2cm" svg:y="13cm" svg:width="17cm" svg:height="13cm"><draw:text-box>%s</draw:text-box></draw:frame></presentation:notes></draw:page>`, n, said.String())
}

func (d *odp) shape(s shape) {
	properties := `draw:stroke="none"`
	if s.stroke != "" {
		properties = fmt.Sprintf(`draw:stroke="solid" svg:stroke-color="%s" svg:stroke-width="%s"`, s.stroke, cm72(s.wide))
	}
	if s.fill == "" {
		properties += ` draw:fill="none"`
	} else {
		properties += fmt.Sprintf(` draw:fill="solid" draw:fill-color="%s"`, s.fill)
	}
	if s.verb { // its room is measured for its own face
		properties += ` fo:wrap-option="no-wrap"`
	}
	properties += ` draw:auto-grow-height="false" draw:auto-grow-width="false" fo:padding="0cm" draw:textarea-vertical-align="middle" draw:textarea-horizontal-align="justify"`
	text := fmt.Sprintf(`fo:font-size="%.1fpt" fo:color="%s" fo:font-family="'Atkinson Hyperlegible'"`, s.size, s.ink)
	if s.verb {
		text = fmt.Sprintf(`fo:font-size="%.1fpt" fo:color="%s" fo:font-style="italic" fo:font-family="'Source Serif 4'"`, s.size, s.ink)
	}
	if s.bold {
		text += ` fo:font-weight="bold"`
	}
	inner := ""
	if s.words != "" {
		for line := range strings.SplitSeq(s.words, "\n") {
			inner += `<text:p text:style-name="` + d.paragraph(`fo:text-align="center"`, text) + `">` + odfWords(line) + `</text:p>`
		}
	}
	style := d.style(properties, "")
	if s.outline == nil {
		put(&d.body, `<draw:frame draw:name="%s" draw:style-name="%s" %s><draw:text-box>%s</draw:text-box></draw:frame>`, s.name, style, at(s.box), inner)
		return
	}
	var path strings.Builder
	pt := func(q geometry.Point) string { return fmt.Sprintf("%d %d", int(q.X*100), int(q.Y*100)) }
	for _, seg := range s.outline {
		switch seg.Op {
		case 'M':
			path.WriteString("M" + pt(seg.To))
		case 'L':
			path.WriteString("L" + pt(seg.To))
		case 'C':
			path.WriteString("C" + pt(seg.C1) + " " + pt(seg.C2) + " " + pt(seg.To))
		case 'Z':
			path.WriteString("Z")
		}
	}
	put(&d.body, `<draw:path draw:name="%s" draw:style-name="%s" %s svg:viewBox="0 0 %d %d" svg:d="%s">%s</draw:path>`, s.name, style, at(s.box), max(1, int(s.box.W*100)), max(1, int(s.box.H*100)), path.String(), inner)
}

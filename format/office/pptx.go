package office

import (
	"fmt"
	"strings"

	"mevrin/core/geometry"
	"mevrin/format/content"
)

const nsSlides = "http://schemas.openxmlformats.org/presentationml/2006/main"

// points gives a length in EMU.
func points(v float64) int { return int(v * 12700) }

// WritePPTX gives a map as slides.
func WritePPTX(e *content.Export) ([]byte, error) {
	all := slidesOf(e)
	a := newArchive()
	kind := "application/vnd.openxmlformats-officedocument.presentationml."
	var types, ids, rels strings.Builder
	for i := range all {
		n := i + 1
		put(&types, `<Override PartName="/ppt/slides/slide%d.xml" ContentType="%sslide+xml"/><Override PartName="/ppt/notesSlides/notesSlide%d.xml" ContentType="%snotesSlide+xml"/>`, n, kind, n, kind)
		put(&ids, `<p:sldId id="%d" r:id="s%d"/>`, 255+n, n)
		put(&rels, `<Relationship Id="s%d" Type="%s/slide" Target="slides/slide%d.xml"/>`, n, relOffice, n)
	}
	a.add("[Content_Types].xml", xmlHead+`<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/ppt/presentation.xml" ContentType="`+kind+`presentation.main+xml"/><Override PartName="/ppt/slideMasters/slideMaster1.xml" ContentType="`+kind+`slideMaster+xml"/><Override PartName="/ppt/slideLayouts/slideLayout1.xml" ContentType="`+kind+`slideLayout+xml"/><Override PartName="/ppt/notesMasters/notesMaster1.xml" ContentType="`+kind+`notesMaster+xml"/><Override PartName="/ppt/theme/theme1.xml" ContentType="application/vnd.openxmlformats-officedocument.theme+xml"/><Override PartName="/ppt/theme/theme2.xml" ContentType="application/vnd.openxmlformats-officedocument.theme+xml"/><Override PartName="/docProps/core.xml" ContentType="application/vnd.openxmlformats-package.core-properties+xml"/>`+types.String()+`</Types>`)
	a.add("_rels/.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="r1" Type="`+relOffice+`/officeDocument" Target="ppt/presentation.xml"/><Relationship Id="r2" Type="http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties" Target="docProps/core.xml"/></Relationships>`)
	a.add("docProps/core.xml", coreProperties(e))
	a.add("ppt/presentation.xml", xmlHead+`<p:presentation xmlns:p="`+nsSlides+`" xmlns:a="`+nsDraw+`" xmlns:r="`+relOffice+`"><p:sldMasterIdLst><p:sldMasterId id="2147483648" r:id="m1"/></p:sldMasterIdLst><p:notesMasterIdLst><p:notesMasterId r:id="n1"/></p:notesMasterIdLst><p:sldIdLst>`+ids.String()+`</p:sldIdLst><p:sldSz cx="12192000" cy="6858000"/><p:notesSz cx="6858000" cy="9144000"/></p:presentation>`)
	a.add("ppt/_rels/presentation.xml.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="m1" Type="`+relOffice+`/slideMaster" Target="slideMasters/slideMaster1.xml"/><Relationship Id="n1" Type="`+relOffice+`/notesMaster" Target="notesMasters/notesMaster1.xml"/><Relationship Id="t1" Type="`+relOffice+`/theme" Target="theme/theme1.xml"/>`+rels.String()+`</Relationships>`)
	a.add("ppt/theme/theme1.xml", theme())
	a.add("ppt/theme/theme2.xml", theme())
	mapping := `<p:clrMap bg1="lt1" tx1="dk1" bg2="lt2" tx2="dk2" accent1="accent1" accent2="accent2" accent3="accent3" accent4="accent4" accent5="accent5" accent6="accent6" hlink="hlink" folHlink="folHlink"/>`
	group := `<p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/>`
	names := ` xmlns:p="` + nsSlides + `" xmlns:a="` + nsDraw + `" xmlns:r="` + relOffice + `"`
	title := placeholder(2, "Title", `type="title"`, geometry.Box{X: slideEdge, Y: slideEdge, W: slideW - 2*slideEdge, H: titleHigh}, `<a:p><a:r><a:rPr lang="en"/><a:t>Title</a:t></a:r></a:p>`)
	body := placeholder(3, "Text", `type="body" idx="1"`, geometry.Box{X: slideEdge, Y: slideEdge + titleHigh, W: slideW - 3*slideEdge - mapWide, H: slideH - 2*slideEdge - titleHigh}, `<a:p><a:r><a:rPr lang="en"/><a:t>Text</a:t></a:r></a:p>`)
	level := func(n int, size int, bullet string) string {
		return fmt.Sprintf(`<a:lvl%dpPr marL="%d" indent="%d"><a:spcBef><a:spcPts val="600"/></a:spcBef>%s<a:defRPr sz="%d"><a:solidFill><a:schemeClr val="tx1"/></a:solidFill><a:latin typeface="+mn-lt"/></a:defRPr></a:lvl%dpPr>`, n, 228600*(n-1), map[bool]int{true: -228600, false: 0}[n > 1], bullet, size, n)
	}
	styles := `<p:txStyles><p:titleStyle><a:lvl1pPr><a:defRPr sz="3000" b="1"><a:solidFill><a:schemeClr val="tx1"/></a:solidFill><a:latin typeface="+mj-lt"/></a:defRPr></a:lvl1pPr></p:titleStyle><p:bodyStyle>` + level(1, 1800, "<a:buNone/>") + level(2, 1600, `<a:buChar char="•"/>`) + level(3, 1500, `<a:buChar char="•"/>`) + level(4, 1400, `<a:buChar char="•"/>`) + `</p:bodyStyle><p:otherStyle/></p:txStyles>`
	a.add("ppt/slideMasters/slideMaster1.xml", xmlHead+`<p:sldMaster`+names+`><p:cSld><p:bg><p:bgPr><a:solidFill><a:srgbClr val="FFFFFF"/></a:solidFill><a:effectLst/></p:bgPr></p:bg><p:spTree>`+group+title+body+`</p:spTree></p:cSld>`+mapping+`<p:sldLayoutIdLst><p:sldLayoutId id="2147483649" r:id="l1"/></p:sldLayoutIdLst>`+styles+`</p:sldMaster>`)
	a.add("ppt/slideMasters/_rels/slideMaster1.xml.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="l1" Type="`+relOffice+`/slideLayout" Target="../slideLayouts/slideLayout1.xml"/><Relationship Id="t1" Type="`+relOffice+`/theme" Target="../theme/theme1.xml"/></Relationships>`)
	a.add("ppt/slideLayouts/slideLayout1.xml", xmlHead+`<p:sldLayout`+names+` type="obj" preserve="1"><p:cSld name="Title and map"><p:spTree>`+group+title+body+`</p:spTree></p:cSld><p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sldLayout>`)
	a.add("ppt/slideLayouts/_rels/slideLayout1.xml.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="m1" Type="`+relOffice+`/slideMaster" Target="../slideMasters/slideMaster1.xml"/></Relationships>`)
	a.add("ppt/notesMasters/notesMaster1.xml", xmlHead+`<p:notesMaster`+names+`><p:cSld><p:bg><p:bgPr><a:solidFill><a:srgbClr val="FFFFFF"/></a:solidFill><a:effectLst/></p:bgPr></p:bg><p:spTree>`+group+placeholder(2, "Slide", `type="sldImg"`, geometry.Box{X: 54, Y: 54, W: 432, H: 243}, "")+placeholder(3, "Notes", `type="body" idx="1"`, geometry.Box{X: 54, Y: 320, W: 432, H: 340}, `<a:p/>`)+`</p:spTree></p:cSld>`+mapping+`</p:notesMaster>`)
	a.add("ppt/notesMasters/_rels/notesMaster1.xml.rels", xmlHead+`<Relationships xmlns="`+relPack+`"><Relationship Id="t1" Type="`+relOffice+`/theme" Target="../theme/theme2.xml"/></Relationships>`)
	for i, s := range all {
		p := pptSlide{lang: string(e.Language()), links: map[string]string{}}
		tree := p.tree(s)
		a.add(fmt.Sprintf("ppt/slides/slide%d.xml", i+1), xmlHead+`<p:sld`+names+`><p:cSld><p:spTree>`+group+tree+`</p:spTree></p:cSld><p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sld>`)
		a.add(fmt.Sprintf("ppt/slides/_rels/slide%d.xml.rels", i+1), xmlHead+fmt.Sprintf(`<Relationships xmlns="%s"><Relationship Id="l1" Type="%s/slideLayout" Target="../slideLayouts/slideLayout1.xml"/><Relationship Id="n1" Type="%s/notesSlide" Target="../notesSlides/notesSlide%d.xml"/>%s</Relationships>`, relPack, relOffice, relOffice, i+1, p.rels.String()))
		var said strings.Builder
		for line := range strings.SplitSeq(s.notes, "\n") {
			put(&said, `<a:p><a:r><a:rPr lang="%s"/><a:t>%s</a:t></a:r></a:p>`, esc(p.lang), esc(line))
		}
		a.add(fmt.Sprintf("ppt/notesSlides/notesSlide%d.xml", i+1), xmlHead+`<p:notes`+names+`><p:cSld><p:spTree>`+group+placeholder(2, "Slide", `type="sldImg"`, geometry.Box{}, "")+placeholder(3, "Notes", `type="body" idx="1"`, geometry.Box{}, said.String())+`</p:spTree></p:cSld><p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:notes>`)
		a.add(fmt.Sprintf("ppt/notesSlides/_rels/notesSlide%d.xml.rels", i+1), xmlHead+fmt.Sprintf(`<Relationships xmlns="%s"><Relationship Id="m1" Type="%s/notesMaster" Target="../notesMasters/notesMaster1.xml"/><Relationship Id="s1" Type="%s/slide" Target="../slides/slide%d.xml"/></Relationships>`, relPack, relOffice, relOffice, i+1))
	}
	return a.done()
}

// placeholder is a place that a template fills: its own place is that of the master where the box is
// empty.
func placeholder(id int, name, kind string, box geometry.Box, words string) string {
	place := ""
	if box.W > 0 {
		place = `<a:xfrm>` + extent(box) + `</a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom>`
	}
	text := ""
	if words != "" {
		text = `<p:txBody><a:bodyPr><a:normAutofit/></a:bodyPr><a:lstStyle/>` + words + `</p:txBody>`
	}
	return fmt.Sprintf(`<p:sp><p:nvSpPr><p:cNvPr id="%d" name="%s"/><p:cNvSpPr><a:spLocks noGrp="1"/></p:cNvSpPr><p:nvPr><p:ph %s/></p:nvPr></p:nvSpPr><p:spPr>%s</p:spPr>%s</p:sp>`, id, name, kind, place, text)
}

func extent(b geometry.Box) string {
	return fmt.Sprintf(`<a:off x="%d" y="%d"/><a:ext cx="%d" cy="%d"/>`, points(b.X), points(b.Y), points(b.W), points(b.H))
}

type pptSlide struct {
	lang  string
	rels  strings.Builder
	links map[string]string
}

func (p *pptSlide) tree(s slide) string {
	var b strings.Builder
	b.WriteString(placeholder(2, "Title", `type="title"`, geometry.Box{}, fmt.Sprintf(`<a:p><a:r><a:rPr lang="%s"/><a:t>%s</a:t></a:r></a:p>`, esc(p.lang), esc(s.title))))
	var text strings.Builder
	for _, one := range s.body {
		p.para(&text, one)
	}
	if text.Len() == 0 {
		text.WriteString("<a:p/>")
	}
	box := geometry.Box{}
	if len(s.shapes) == 0 { // the words have all the room
		box = geometry.Box{X: slideEdge, Y: slideEdge + titleHigh, W: slideW - 2*slideEdge, H: slideH - 2*slideEdge - titleHigh}
	}
	b.WriteString(placeholder(3, "Text", `type="body" idx="1"`, box, text.String()))
	for i, one := range s.shapes {
		p.shape(&b, i+4, one)
	}
	return b.String()
}

func (p *pptSlide) para(b *strings.Builder, one para) {
	if one.kind == kindTable {
		for _, row := range one.rows {
			var cells []string
			for _, cell := range row {
				cells = append(cells, words(cell))
			}
			p.para(b, para{spans: plain(strings.Join(cells, " | "))})
		}
		return
	}
	if one.kind == kindPicture {
		return
	}
	level := 0
	if one.kind == kindItem {
		level = min(one.level, 3)
	}
	put(b, `<a:p><a:pPr lvl="%d"/>`, level)
	for _, s := range one.spans {
		if s.words == "" {
			continue
		}
		put(b, `<a:r><a:rPr lang="%s"`, esc(p.lang))
		if one.kind == kindFoot {
			b.WriteString(` sz="1000"`)
		}
		if s.strong {
			b.WriteString(` b="1"`)
		}
		if s.emph || s.verb {
			b.WriteString(` i="1"`)
		}
		b.WriteString(">")
		if s.verb {
			b.WriteString(`<a:latin typeface="Source Serif 4"/>`)
		}
		if s.link != "" {
			if p.links[s.link] == "" {
				p.links[s.link] = fmt.Sprintf("h%d", len(p.links)+1)
				put(&p.rels, `<Relationship Id="%s" Type="%s/hyperlink" Target="%s" TargetMode="External"/>`, p.links[s.link], relOffice, esc(s.link))
			}
			put(b, `<a:hlinkClick r:id="%s"/>`, p.links[s.link])
		}
		put(b, `</a:rPr><a:t>%s</a:t></a:r>`, esc(strings.ReplaceAll(s.words, "\n", " ")))
	}
	b.WriteString("</a:p>")
}

func (p *pptSlide) shape(b *strings.Builder, id int, s shape) {
	put(b, `<p:sp><p:nvSpPr><p:cNvPr id="%d" name="%s %d" descr="%s"/><p:cNvSpPr/><p:nvPr/></p:nvSpPr><p:spPr><a:xfrm>%s</a:xfrm>`, id, s.name, id, esc(strings.ReplaceAll(s.words, "\n", " ")), extent(s.box))
	if s.outline == nil {
		b.WriteString(`<a:prstGeom prst="rect"><a:avLst/></a:prstGeom>`)
	} else {
		fill := ""
		if s.fill == "" {
			fill = ` fill="none"`
		}
		put(b, `<a:custGeom><a:avLst/><a:gdLst/><a:ahLst/><a:cxnLst/><a:rect l="0" t="0" r="r" b="b"/><a:pathLst><a:path w="%d" h="%d"%s>`, points(s.box.W), points(s.box.H), fill)
		pt := func(q geometry.Point) string {
			return fmt.Sprintf(`<a:pt x="%d" y="%d"/>`, points(q.X), points(q.Y))
		}
		for _, seg := range s.outline {
			switch seg.Op {
			case 'M':
				b.WriteString("<a:moveTo>" + pt(seg.To) + "</a:moveTo>")
			case 'L':
				b.WriteString("<a:lnTo>" + pt(seg.To) + "</a:lnTo>")
			case 'C':
				b.WriteString("<a:cubicBezTo>" + pt(seg.C1) + pt(seg.C2) + pt(seg.To) + "</a:cubicBezTo>")
			case 'Z':
				b.WriteString("<a:close/>")
			}
		}
		b.WriteString("</a:path></a:pathLst></a:custGeom>")
	}
	solid := func(colour string) string {
		if colour == "" {
			return "<a:noFill/>"
		}
		return `<a:solidFill><a:srgbClr val="` + strings.ToUpper(strings.TrimPrefix(colour, "#")) + `"/></a:solidFill>`
	}
	put(b, `%s<a:ln w="%d">%s</a:ln></p:spPr>`, solid(s.fill), points(s.wide), solid(s.stroke))
	if s.words != "" {
		face, more := "+mn-lt", ""
		if s.verb {
			face, more = "Source Serif 4", ` i="1"`
		}
		if s.bold {
			more += ` b="1"`
		}
		wrap := "square"
		if s.verb { // its room is measured for its own face
			wrap = "none"
		}
		put(b, `<p:txBody><a:bodyPr wrap="%s" lIns="18000" tIns="0" rIns="18000" bIns="0" anchor="ctr"><a:noAutofit/></a:bodyPr><a:lstStyle/>`, wrap)
		for line := range strings.SplitSeq(s.words, "\n") {
			put(b, `<a:p><a:pPr algn="ctr"/><a:r><a:rPr lang="%s" sz="%d"%s>%s<a:latin typeface="%s"/></a:rPr><a:t>%s</a:t></a:r></a:p>`, esc(p.lang), int(s.size*100), more, solid(s.ink), face, esc(line))
		}
		b.WriteString(`</p:txBody>`)
	}
	b.WriteString("</p:sp>")
}

// theme is the set of colours and types of slides, which a template replaces.
func theme() string {
	var b strings.Builder
	put(&b, `%s<a:theme xmlns:a="%s" name="Mevrin"><a:themeElements><a:clrScheme name="Mevrin">`, xmlHead, nsDraw)
	for _, c := range [][2]string{{"dk1", "1D2F52"}, {"lt1", "FFFFFF"}, {"dk2", "1D2F52"}, {"lt2", "FBF6EA"}, {"accent1", "D98A00"}, {"accent2", "35AFF9"}, {"accent3", "0C8359"}, {"accent4", "7B4F9E"}, {"accent5", "B0582F"}, {"accent6", "D7B826"}, {"hlink", "7A4A00"}, {"folHlink", "5A6A87"}} {
		put(&b, `<a:%s><a:srgbClr val="%s"/></a:%s>`, c[0], c[1], c[0])
	}
	fill, line := `<a:solidFill><a:schemeClr val="phClr"/></a:solidFill>`, `<a:ln w="9525"><a:solidFill><a:schemeClr val="phClr"/></a:solidFill></a:ln>`
	effect := `<a:effectStyle><a:effectLst/></a:effectStyle>`
	put(&b, `</a:clrScheme><a:fontScheme name="Mevrin"><a:majorFont><a:latin typeface="Atkinson Hyperlegible"/><a:ea typeface=""/><a:cs typeface=""/></a:majorFont><a:minorFont><a:latin typeface="Atkinson Hyperlegible"/><a:ea typeface=""/><a:cs typeface=""/></a:minorFont></a:fontScheme><a:fmtScheme name="Mevrin"><a:fillStyleLst>%s</a:fillStyleLst><a:lnStyleLst>%s</a:lnStyleLst><a:effectStyleLst>%s</a:effectStyleLst><a:bgFillStyleLst>%s</a:bgFillStyleLst></a:fmtScheme></a:themeElements></a:theme>`,
		strings.Repeat(fill, 3), strings.Repeat(line, 3), strings.Repeat(effect, 3), strings.Repeat(fill, 3))
	return b.String()
}

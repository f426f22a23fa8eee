package web

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"encoding/xml"
	"errors"
	"fmt"
	"html"
	"html/template"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/core/message"
	"mevrin/draw/display"
	"mevrin/draw/face"
	"mevrin/draw/scene"
	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// The pages are of this house; the registry of formats is told who writes them.
func init() { formats.WriteSite = writeSite }

// maxSite bounds a site, in bytes: what is larger is no file to pass on.
const maxSite = 80 << 20

// site is a walk as pages that need no server.
type site struct {
	page   string
	files  map[string]siteFile // by their hashes
	fonts  string
	styles string
	script string
}

type siteFile struct {
	kind string
	raw  []byte
}

// writeSite gives the walk along the route of an export, or along the map as it is read, as one file
// ("html"), as pages in an archive ("zip"), or as a package for a learning platform.
func writeSite(e *content.Export, kind string) ([]byte, error) {
	s, err := siteOf(e)
	if err != nil {
		return nil, err
	}
	if kind == "html" {
		return s.single()
	}
	return s.archive(e, kind)
}

// sitePages are the templates of sites, which speak no language of whoever asks.
var sitePages = sync.OnceValue(func() *template.Template { return parsePages(message.English()) })

func siteOf(e *content.Export) (*site, error) {
	m, route := guide.Way(e.Map, e.Structure, e.Route)
	if route == "" {
		return nil, cm.Refusef("There is nothing on this map yet that could be walked.")
	}
	if m.Routes[route].Together { // its places come from a server
		m = m.Clone()
		r := *m.Routes[route]
		r.Together = false
		m.Routes[route] = &r
	}
	reading := query.Reading{State: &workspace.State{Map: m, Structure: e.Structure, Scene: scene.Build(m, e.Structure, scene.View{Lang: e.Lang}, nil)}}
	v := reading.Walk(route, e.Language())
	v.Base, v.Key = ".", "site:"+string(m.ID)+":"+string(route)
	var page bytes.Buffer
	if err := sitePages().ExecuteTemplate(&page, "walk.html", walkPage{v, paperOf(v.Scene, ".")}); err != nil {
		return nil, err
	}
	s := &site{page: page.String(), files: map[string]siteFile{}}
	sum := 0
	for _, found := range siteFiles.FindAllStringSubmatch(s.page, -1) {
		if _, known := s.files[found[1]]; known || e.Picture == nil {
			continue
		}
		if kind, raw, ok := e.Picture(found[1]); ok {
			s.files[found[1]] = siteFile{kind, raw}
			sum += len(raw)
		}
	}
	if sum > maxSite {
		return nil, cm.Refusef("The pictures, sounds and films of this walk are too large for one file: %d MB, and at most %d are possible.", sum>>20, maxSite>>20)
	}
	return s, s.dress(e)
}

var (
	siteFiles = regexp.MustCompile(`files/([0-9a-f]{64})(?:/small)?`)
	siteHead  = regexp.MustCompile(`(?s)<link rel="(?:icon|stylesheet)"[^>]*>\s*|<script src="/assets/js/walk.js" type="module"></script>\s*|<meta name="htmx-config"[^>]*>\s*`)
	siteTags  = regexp.MustCompile(`(?s)<(script|style)\b.*?</(?:script|style)>|<[^>]*>`)
	iconNames = regexp.MustCompile(`/assets/icons\.svg#([\w-]+)`)
	symbols   = regexp.MustCompile(`(?s)<symbol id="([\w-]+)".*?</symbol>`)
)

// dress gathers styles, fonts, scripts and signs of a page, and takes what leads to a server off it.
func (s *site) dress(e *content.Export) error {
	read := func(name string) string {
		raw, err := staticFiles.ReadFile("static/" + name)
		if err != nil {
			panic("site: " + err.Error()) // it is built in
		}
		return string(raw)
	}
	s.page = siteHead.ReplaceAllString(s.page, "")
	used := map[string]bool{}
	s.page = iconNames.ReplaceAllStringFunc(s.page, func(found string) string {
		name := iconNames.FindStringSubmatch(found)[1]
		used[name] = true
		return "#icon-" + name
	})
	sprite := `<svg xmlns="http://www.w3.org/2000/svg" width="0" height="0" hidden>`
	for _, found := range symbols.FindAllStringSubmatch(read("icons.svg"), -1) {
		if used[found[1]] {
			sprite += strings.Replace(found[0], `id="`, `id="icon-`, 1)
		}
	}
	s.page = strings.Replace(s.page, "</body>", sprite+"</svg>\n</body>", 1)
	if said := e.Said(); said != "" {
		s.page = strings.Replace(s.page, "</head>", "<meta name=\"description\" content=\""+html.EscapeString(said)+"\">\n</head>", 1)
	}
	words := html.UnescapeString(siteTags.ReplaceAllString(s.page, " "))
	all := map[face.Voice][]string{}
	for _, voice := range []face.Voice{face.Noun, face.NounBold, face.NounItalic, face.Verb} {
		all[voice] = []string{words}
	}
	s.fonts = face.EmbeddedCSS(all)
	s.styles = display.Style() + "\n" + read("app.css")
	if e.Map.Look.Own != nil {
		s.styles += display.Own(e.Map.Look)
	}
	s.script = read("js/walk.js")
	return nil
}

// single gives the one file.
func (s *site) single() ([]byte, error) {
	page := siteFiles.ReplaceAllStringFunc(s.page, func(found string) string {
		f, is := s.files[siteFiles.FindStringSubmatch(found)[1]]
		if !is {
			return "about:blank"
		}
		return "data:" + f.kind + ";base64," + base64.StdEncoding.EncodeToString(f.raw)
	})
	page = strings.ReplaceAll(page, `"./data:`, `"data:`)
	head := "<style>" + strings.ReplaceAll(s.fonts+s.styles, "</", `<\/`) + "</style>\n"
	page = strings.Replace(page, "</head>", head+"</head>", 1)
	script := "<script type=\"module\">" + strings.ReplaceAll(s.script, "</script", `<\/script`) + "</script>\n"
	page = strings.Replace(page, "</body>", script+"</body>", 1)
	if len(page) > maxSite*3 {
		return nil, cm.Refusef("The pictures, sounds and films of this walk are too large for one file. Take the pages in an archive instead.")
	}
	return []byte(page), nil
}

var endings = map[string]string{"image/png": ".png", "image/jpeg": ".jpg", "image/gif": ".gif", "image/webp": ".webp", "image/svg+xml": ".svg", "audio/wav": ".wav", "audio/wave": ".wav", "audio/x-wav": ".wav", "audio/mpeg": ".mp3", "audio/ogg": ".ogg", "video/mp4": ".mp4", "video/webm": ".webm", "application/pdf": ".pdf"}

// archive gives the pages in an archive, with what a learning platform reads.
func (s *site) archive(e *content.Export, kind string) ([]byte, error) {
	named := func(hash string) string { return "files/" + hash[:16] + endings[s.files[hash].kind] }
	page := siteFiles.ReplaceAllStringFunc(s.page, func(found string) string {
		hash := siteFiles.FindStringSubmatch(found)[1]
		if _, is := s.files[hash]; !is {
			return "files/gone"
		}
		return named(hash)
	})
	parts := []string{"index.html", "walk.css", "walk.js"}
	report := ""
	if kind == "scorm12" || kind == "scorm2004" || kind == "cmi5" {
		raw, err := staticFiles.ReadFile("static/js/report.js")
		if err != nil {
			return nil, err
		}
		report = string(raw)
		parts = append(parts, "report.js")
		page = strings.Replace(page, "<body ", `<body data-report="`+kind+`" `, 1)
	}
	page = strings.Replace(page, "</head>", "<link rel=\"stylesheet\" href=\"walk.css\">\n</head>", 1)
	scripts := `<script src="walk.js" type="module"></script>`
	if report != "" { // first, so that it hears of the first stop
		scripts = `<script src="report.js" type="module"></script>` + scripts
	}
	page = strings.Replace(page, "</body>", scripts+"\n</body>", 1)
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	var errs error
	add := func(name string, raw []byte) {
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)})
		if err == nil {
			_, err = w.Write(raw)
		}
		errs = errors.Join(errs, err)
	}
	hashes := make([]string, 0, len(s.files))
	for hash := range s.files {
		hashes = append(hashes, hash)
	}
	slices.Sort(hashes)
	for _, hash := range hashes {
		parts = append(parts, named(hash))
	}
	if name, raw := manifestOf(e, kind, parts); name != "" {
		add(name, []byte(raw))
	}
	add("index.html", []byte(page))
	add("walk.css", []byte(s.fonts+s.styles))
	add("walk.js", []byte(s.script))
	if report != "" {
		add("report.js", []byte(report))
	}
	for _, hash := range hashes {
		add(named(hash), s.files[hash].raw)
	}
	errs = errors.Join(errs, z.Close())
	return out.Bytes(), errs
}

// manifestOf tells a learning platform what a package holds: SCORM 1.2 and SCORM 2004 4th edition (ADL),
// cmi5 (AICC/ADL), IMS Common Cartridge 1.3.
func manifestOf(e *content.Export, kind string, parts []string) (name, raw string) {
	esc := func(words string) string {
		var b bytes.Buffer
		_ = xml.EscapeText(&b, []byte(words)) // to memory
		return b.String()
	}
	title, id := esc(e.Title()), "mevrin-"+esc(string(e.Map.ID))
	var files strings.Builder
	for _, p := range parts {
		fmt.Fprintf(&files, `<file href="%s"/>`, esc(p))
	}
	const head = `<?xml version="1.0" encoding="UTF-8"?>` + "\n"
	switch kind {
	case "scorm12":
		return "imsmanifest.xml", head + `<manifest identifier="` + id + `" version="1" xmlns="http://www.imsproject.org/xsd/imscp_rootv1p1p2" xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_rootv1p2"><metadata><schema>ADL SCORM</schema><schemaversion>1.2</schemaversion></metadata><organizations default="all"><organization identifier="all"><title>` + title + `</title><item identifier="walk" identifierref="page"><title>` + title + `</title></item></organization></organizations><resources><resource identifier="page" type="webcontent" adlcp:scormtype="sco" href="index.html">` + files.String() + `</resource></resources></manifest>`
	case "scorm2004":
		return "imsmanifest.xml", head + `<manifest identifier="` + id + `" version="1" xmlns="http://www.imsglobal.org/xsd/imscp_v1p1" xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_v1p3" xmlns:adlseq="http://www.adlnet.org/xsd/adlseq_v1p3" xmlns:adlnav="http://www.adlnet.org/xsd/adlnav_v1p3" xmlns:imsss="http://www.imsglobal.org/xsd/imsss"><metadata><schema>ADL SCORM</schema><schemaversion>2004 4th Edition</schemaversion></metadata><organizations default="all"><organization identifier="all"><title>` + title + `</title><item identifier="walk" identifierref="page"><title>` + title + `</title></item><imsss:sequencing><imsss:controlMode choice="true" flow="true"/></imsss:sequencing></organization></organizations><resources><resource identifier="page" type="webcontent" adlcp:scormType="sco" href="index.html">` + files.String() + `</resource></resources></manifest>`
	case "cmi5":
		urn := "urn:mevrin:" + esc(string(e.Map.ID))
		lang := esc(string(e.Language()))
		words := func(s string) string { return `<langstring lang="` + lang + `">` + s + `</langstring>` }
		return "cmi5.xml", head + `<courseStructure xmlns="https://w3id.org/xapi/profiles/cmi5/v1/CourseStructure.xsd"><course id="` + urn + `"><title>` + words(title) + `</title><description>` + words(esc(e.Question())) + `</description></course><au id="` + urn + `:walk" moveOn="Completed"><title>` + words(title) + `</title><description>` + words(esc(e.Question())) + `</description><url>index.html</url></au></courseStructure>`
	case "imscc":
		return "imsmanifest.xml", head + `<manifest identifier="` + id + `" xmlns="http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1" xmlns:lomimscc="http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest"><metadata><schema>IMS Common Cartridge</schema><schemaversion>1.3.0</schemaversion><lomimscc:lom><lomimscc:general><lomimscc:title><lomimscc:string>` + title + `</lomimscc:string></lomimscc:title></lomimscc:general></lomimscc:lom></metadata><organizations><organization identifier="all" structure="rooted-hierarchy"><item identifier="root"><item identifier="walk" identifierref="page"><title>` + title + `</title></item></item></organization></organizations><resources><resource identifier="page" type="webcontent" href="index.html">` + files.String() + `</resource></resources></manifest>`
	}
	return "", ""
}

package web

import (
	"embed"
	"encoding/json"
	"fmt"
	"html/template"
	"maps"
	"net/url"
	"slices"
	"strings"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/format/formats"
	"mevrin/markdown"
	"mevrin/store"
	"mevrin/workspace/query"
)

//go:embed templates
var templateFiles embed.FS

// pageFuncs are what pages can call.
func pageFuncs(say *message.Printer) template.FuncMap {
	return template.FuncMap{
		// depth is an outline's indentation as the style sheet knows it.
		"depth":     func(below int) int { return min(below+1, query.Deepest) },
		"steps":     query.StepsOf,
		"noteTools": func() []query.Choice { return noteTools },
		"json": func(v any) (string, error) {
			raw, err := json.Marshal(v)
			return string(raw), err
		},
		"emptyRubric": func() cm.Rubric { return cm.Rubric{} },
		"limit":       limit,
		// say writes a message whose key is a value.
		"say":    func(key string, args ...any) string { return say.Sprintf(key, args...) },
		"texts":  func() (string, error) { raw, err := json.Marshal(say.Texts()); return string(raw), err },
		"reader": say.Language,
		"part":   marginPart,
		"hued":   newHued,
		"legend": func(k *scene.Key) template.HTML { return template.HTML(svg.Legend(k)) },
		"key":    func(kind, id string) cm.Key { return cm.Key{Kind: cm.Entity(kind), ID: cm.ID(id)} },
		"sourceIcon": func(k cm.SourceKind) string {
			return map[cm.SourceKind]string{cm.SourcePicture: "image", cm.SourceSound: "volume-2", cm.SourceVideo: "film", cm.SourceFile: "paperclip", cm.SourceCite: "quote", cm.SourceWeb: "link"}[k]
		},
		"reads":    formats.Endings,
		"hues":     func() []cm.Colour { return cm.Colours },
		"outlines": func() []cm.Outline { return cm.Outlines },
		"strokes":  func() []cm.Stroke { return cm.Strokes },
		// drawing is markup of package svg, which escapes every word itself.
		"drawing":     func(markup string) template.HTML { return template.HTML(markup) },
		"clock":       func(seconds int) string { return fmt.Sprintf("%d:%02d", seconds/60, seconds%60) },
		"markdown":    func(words string) template.HTML { return template.HTML(markdown.HTML(words)) }, // safe by that package's promise
		"noteRead":    noteRead,
		"iconPicture": func(i cm.Icon) template.HTML { return template.HTML(svg.Icon(i)) },
		"kindPicture": kindPicture,
		"card":        func(v libraryView, m store.Summary) libraryCard { return libraryCard{v, m} },
		"suggested":   func(v query.Suggestions, one query.SuggestionView) suggestedOne { return suggestedOne{v, one} },
		"into":        func(all []query.Choice, id any, name, in string) moveTo { return moveTo{all, fmt.Sprint(id), name, in} },
		"swatch":      func(c cm.Colour, o cm.Outline) template.HTML { return template.HTML(svg.Swatch(c, o)) },
		"when":        func(t time.Time) string { return t.Local().Format("2 January 2006, 15:04") },
	}
}

// libraryCard is a map in the list, and moveTo what moves a map or a folder into another folder.
type libraryCard struct {
	View libraryView
	Map  store.Summary
}

// suggestedOne is a suggestion on its page.
type suggestedOne struct {
	View query.Suggestions
	One  query.SuggestionView
}

type moveTo struct {
	Folders      []query.Choice
	ID, Name, In string
}

// parsePages gives the pages in the language of a printer.
func parsePages(say *message.Printer) *template.Template {
	t := template.New("").Funcs(pageFuncs(say))
	template.Must(t.ParseFS(templateFiles, "templates/*.html"))
	for _, one := range t.Templates() {
		if one.Tree != nil {
			(&localizer{look: func(key string) string { return say.Sprintf(key) }, counts: say.Counts}).list(one.Tree.Root)
		}
	}
	return t
}

// noteTools are what the small editor of notes offers.
var noteTools = []query.Choice{
	{Value: "bold", Name: "B", Why: "Bold: **words**"}, {Value: "italic", Name: "I", Why: "Italic: *words*"}, {Value: "heading", Name: "H", Why: "Heading: # words"}, {Value: "list", Name: "•", Why: "List: - words"},
	{Value: "link", Name: "↗", Why: "Link: [words](address)"}, {Value: "table", Name: "⊞", Why: "Table"}, {Value: "formula", Name: "√", Why: "Formula: $f = v/lambda$"},
}

// noteRead gives a note as it is read; nothing where it is plain words.
func noteRead(note string) template.HTML {
	if !strings.ContainsAny(note, "*_#`[|$>") && !strings.Contains(note, "://") && !strings.Contains(note, "- ") && !strings.Contains(note, "1. ") {
		return ""
	}
	return template.HTML(markdown.HTML(note)) // safe by that package's promise
}

// kindPicture shows how the things of a kind look.
func kindPicture(k *cm.Kind) template.HTML {
	if k.Links {
		return template.HTML(svg.Stroke(k))
	}
	return template.HTML(svg.Swatch(k.Colour, k.Outline))
}

// marginPart gives the attributes of an element that fetches its part of the margin by
// itself: when what is selected or the map is another ("fresh"), or when it comes into
// sight ("shown"). What it asks for stands in the form #margin-asks.
func marginPart(id cm.ID, name string) template.HTMLAttr {
	return template.HTMLAttr(`hx-get="/maps/` + url.PathEscape(string(id)) + `/margin/` + name + `" hx-trigger="fresh, shown" hx-include="#margin-asks" hx-sync="this:replace" hx-swap="innerMorph"`)
}

// hued is a thing with a colour that can be changed: by which operation, and how
// the operation names the thing.
type hued struct {
	Do, Member string
	ID         cm.ID
	Colour     cm.Colour
	Stroke     cm.Stroke
}

func newHued(do, member string, id cm.ID, colour cm.Colour, stroke cm.Stroke) hued {
	return hued{do, member, id, colour, stroke}
}

// filesAt puts the address of a map before those of its files, which drawings name
// beside it. No words of a map can look like one: they have no quotes in them.
func filesAt(base string, drawn template.HTML) template.HTML {
	return template.HTML(strings.ReplaceAll(string(drawn), `href="files/`, `href="`+base+`/files/`))
}

// paper is a complete drawing as markup. The writers of package svg escape every
// word themselves.
type paper struct {
	Links, Slips, Axis, Regions, Key template.HTML
	// Many tells that the page takes slips and links onto the paper piece by piece.
	Many bool
}

// manySlips is from how many slips on a drawing comes onto the paper piece by piece.
const manySlips = 150

func paperOf(sc *scene.Scene, base string) paper {
	return paper{template.HTML(svg.Group(sc.Links, svg.Link)), filesAt(base, template.HTML(svg.Group(sc.Slips, svg.Slip))), template.HTML(svg.Axis(sc.Axis)),
		filesAt(base, template.HTML(svg.Regions(sc))), template.HTML(svg.Key(sc.Key)), len(sc.Slips) > manySlips}
}

// TemplateTexts gives the keys of all texts in the pages.
func TemplateTexts() []string {
	seen := map[string]bool{}
	for _, tool := range noteTools {
		seen[tool.Why] = true
	}
	pages := template.New("").Funcs(pageFuncs(message.English()))
	template.Must(pages.ParseFS(templateFiles, "templates/*.html"))
	for _, one := range pages.Templates() {
		if one.Tree != nil {
			(&localizer{look: func(key string) string { seen[key] = true; return key }}).list(one.Tree.Root)
		}
	}
	return slices.Sorted(maps.Keys(seen))
}

// Package docs holds the handbook that the application shows: pages by task, written in
// Markdown, with the pictures of docs/screenshots.
package docs

import (
	"embed"
	"io/fs"
	"path"
	"regexp"
	"strings"
	"unicode"
)

//go:embed handbook/*.md screenshots/*.png
var files embed.FS

// Page is one page of the handbook.
type Page struct {
	Name  string // in its address
	Title string
	Parts []Part
	words string // folded, to be searched
}

// Part is a run of Markdown, or a picture.
type Part struct {
	Words        string
	Picture, Alt string // the name of its file and what it shows
}

var picture = regexp.MustCompile(`(?m)^!\[([^\]]*)\]\(([a-z-]+\.png)\)$`)

// Pages are all pages in the order in which they are read.
var Pages = read()

func read() []Page {
	names, err := fs.Glob(files, "handbook/*.md")
	if err != nil {
		panic(err)
	}
	var all []Page
	for _, name := range names {
		raw, err := files.ReadFile(name)
		if err != nil {
			panic(err)
		}
		head, body, _ := strings.Cut(string(raw), "\n")
		_, short, _ := strings.Cut(strings.TrimSuffix(path.Base(name), ".md"), "-")
		p := Page{Name: short, Title: strings.TrimPrefix(head, "# "), words: folded(string(raw))}
		at := 0
		for _, m := range picture.FindAllStringSubmatchIndex(body, -1) {
			p.Parts = append(p.Parts, Part{Words: body[at:m[0]]}, Part{Alt: body[m[2]:m[3]], Picture: body[m[4]:m[5]]})
			at = m[1]
		}
		p.Parts = append(p.Parts, Part{Words: body[at:]})
		all = append(all, p)
	}
	return all
}

// Find gives the pages on which all words stand, also as parts of words, however they
// are written; all pages where none is sought.
func Find(words string) []Page {
	var found []Page
next:
	for _, p := range Pages {
		for _, w := range strings.Fields(folded(words)) {
			if !strings.Contains(p.words, w) {
				continue next
			}
		}
		found = append(found, p)
	}
	return found
}

// Screenshot gives the file of a picture; an error where there is none.
func Screenshot(name string) ([]byte, error) {
	return files.ReadFile(path.Join("screenshots", path.Base(name)))
}

// folded leaves letters, numbers and spaces, small.
func folded(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsNumber(r) {
			return unicode.ToLower(r)
		}
		return ' '
	}, s)
}

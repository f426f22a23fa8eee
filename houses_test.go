// Package mevrin_test holds what concerns the whole repository.
package mevrin_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rooms says which houses each house may know of; arrows point one way. What
// the core may use of the standard library is bounded too: it must not reach
// the network, files, the clock or chance.
var rooms = map[string][]string{
	"core":      {"core"},
	"draw":      {"core", "draw", "markdown"},
	"format":    {"core", "draw", "format", "markdown"},
	"markdown":  {"core", "format", "markdown"}, // the text of notes and cards
	"standin":   {"core", "standin"},
	"store":     {"core", "store"},
	"web":       {"core", "draw", "format", "markdown", "standin", "store", "workspace", "web", "docs"},
	"workspace": {"core", "draw", "format", "markdown", "standin", "store", "workspace"},
	"docs":      {"docs"}, // the handbook
	"demo":      {"core", "standin", "demo"},
	"cmd":       {"core", "draw", "format", "standin", "store", "workspace", "web", "demo"},
	"e2e":       {"core", "demo", "store", "draw", "e2e"},
	"assets":    {"core", "format", "workspace", "web"},
	"bench":     {"core", "format"},
}

var notForTheCore = []string{"net", "net/http", "os", "io/fs", "html", "html/template", "text/template", "math/rand", "math/rand/v2", "crypto/rand", "time", "database/sql", "gorm.io/", "github.com/gin-gonic/"}

func TestHousesKnowOnlyWhatTheyMay(t *testing.T) {
	raw, err := exec.Command("go", "list", "-json=ImportPath,Imports", "./...").Output()
	require.NoError(t, err)
	from := json.NewDecoder(strings.NewReader(string(raw)))
	seen := map[string]bool{}
	for from.More() {
		var p struct {
			ImportPath string
			Imports    []string
		}
		require.NoError(t, from.Decode(&p))
		path := strings.TrimPrefix(p.ImportPath, "mevrin/")
		house, _, _ := strings.Cut(path, "/")
		if p.ImportPath == "mevrin" {
			continue
		}
		seen[house] = true
		allowed, known := rooms[house]
		require.True(t, known, "%s is in no house", path)
		for _, i := range p.Imports {
			if inner, ours := strings.CutPrefix(i, "mevrin/"); ours {
				other, _, _ := strings.Cut(inner, "/")
				assert.Contains(t, allowed, other, "%s imports %s", path, inner)
				continue
			}
			if house != "core" || strings.HasSuffix(path, "/maptest") {
				continue
			}
			for _, no := range notForTheCore {
				assert.False(t, i == no || strings.HasSuffix(no, "/") && strings.HasPrefix(i, no), "%s imports %s", path, i)
			}
		}
	}
	for house := range rooms {
		assert.True(t, seen[house], "there is no house %s any more", house)
	}
}

// Everything shipped from elsewhere has its licence beside it, and every
// picture in the docs is shown in the README.
func TestLicencesAndPictures(t *testing.T) {
	fonts, err := filepath.Glob("draw/face/files/*.woff")
	require.NoError(t, err)
	require.NotEmpty(t, fonts)
	scripts, err := filepath.Glob("web/static/vendor/*.js")
	require.NoError(t, err)
	licences, err := filepath.Glob("licences/*.txt")
	require.NoError(t, err)
	for _, shipped := range append(fonts, scripts...) {
		covered := false
		for _, l := range licences {
			covered = covered || strings.HasPrefix(filepath.Base(shipped), strings.TrimSuffix(filepath.Base(l), ".txt"))
		}
		assert.True(t, covered, "%s has no licence", shipped)
	}
	readme, err := os.ReadFile("README.md")
	require.NoError(t, err)
	pictures, err := filepath.Glob("docs/screenshots/*.png")
	require.NoError(t, err)
	require.NotEmpty(t, pictures)
	for _, p := range pictures {
		assert.Contains(t, string(readme), p)
	}
}

// A script is given what it names and no more: the type check holds it to that, and a
// test can give it as much.
func TestScriptsNameWhatTheyNeed(t *testing.T) {
	scripts, err := filepath.Glob("web/js/*/*.js")
	require.NoError(t, err)
	require.Greater(t, len(scripts), 50)
	for _, file := range scripts {
		raw, err := os.ReadFile(file)
		require.NoError(t, err)
		for line := range strings.Lines(string(raw)) {
			if strings.Contains(line, "main.js').App") {
				assert.Contains(t, line, "Pick<import", "%s takes the whole page", file)
			}
		}
	}
}

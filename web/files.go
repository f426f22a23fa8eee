package web

import (
	"mime"
	"net/http"
	"strings"
	"unicode"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
)

// document sends the map as a file that Mevrin reads again.
func (s *server) document(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.turn(g)()
	m := now.m
	if g.Query("talk") == "no" {
		m = m.WithoutTalk()
	}
	raw, err := document.Write(m)
	if err != nil {
		s.failWith(g, err)
		return
	}
	attach(g, now.m, ".json", "application/json", raw)
}

// drawing sends the map as a picture.
func (s *server) drawing(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.turn(g)()
	sc := now.scene
	if now.m.Talked() { // what was said of the map is not what it says
		m := now.m.WithoutTalk()
		sc = scene.Build(m, structure.Of(m), scene.View{}, nil)
	}
	attach(g, now.m, ".svg", "image/svg+xml", []byte(svg.Document(sc, now.m.Name(), now.m.Words(now.m.Question), s.pictures(g, now.m.ID))))
}

func attach(g *gin.Context, m *cm.Map, ending, kind string, raw []byte) {
	g.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": FileName(m.Name()) + ending}))
	g.Data(http.StatusOK, kind, raw)
}

// maxFileName bounds a file's name in bytes; file systems take 255.
const maxFileName = 120

// FileName makes the name of a file, without its ending, of the name of a map:
// letters of all scripts, but nothing that a common file system takes amiss.
func FileName(name string) string {
	name = strings.Map(func(r rune) rune {
		switch {
		case strings.ContainsRune(`/\:*?"<>|`, r), unicode.IsControl(r):
			return ' '
		case unicode.Is(unicode.Cf, r):
			return -1
		}
		return r
	}, name)
	name = strings.Join(strings.Fields(name), " ")
	var out strings.Builder
	for _, r := range name {
		if out.Len()+len(string(r)) > maxFileName {
			break
		}
		out.WriteRune(r)
	}
	name = strings.Trim(out.String(), ". ")
	if name == "" {
		return "Map"
	}
	if device[strings.ToUpper(strings.SplitN(name, ".", 2)[0])] {
		return "Map " + name
	}
	return name
}

// device holds names that one family of systems keeps for itself.
var device = func() map[string]bool {
	all := map[string]bool{"CON": true, "PRN": true, "AUX": true, "NUL": true}
	for _, n := range "123456789" {
		all["COM"+string(n)], all["LPT"+string(n)] = true, true
	}
	return all
}()

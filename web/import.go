package web

import (
	"errors"
	"io"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/format/tables"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// maxFiles bounds how many files are brought at once.
const maxFiles = 40

// broughtFile is a file that a request brings.
type broughtFile struct {
	name string
	raw  []byte
}

// brought gives the files that a request brings.
func brought(g *gin.Context) (all []broughtFile, err error) {
	parts, err := g.Request.MultipartReader()
	if err != nil {
		return nil, cm.Refusef("Choose a file first.")
	}
	for {
		part, err := parts.NextPart()
		if errors.Is(err, io.EOF) {
			if len(all) == 0 {
				return nil, cm.Refusef("Choose a file first.")
			}
			return all, nil
		} else if err != nil {
			return nil, brokenOff(err)
		}
		if part.FormName() != "file" {
			continue
		}
		raw, err := io.ReadAll(part)
		if err != nil {
			return nil, brokenOff(err)
		}
		if len(raw) == 0 {
			return nil, cm.Refusef("This file is empty, or none was chosen.")
		}
		if len(all) == maxFiles {
			return nil, cm.Refusef("That is too much at once: at most %d files.", maxFiles)
		}
		all = append(all, broughtFile{part.FileName(), raw})
	}
}

// bringPage is where files are chosen that are to be added to a map.
func (s *server) bringPage(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		s.html(g, http.StatusOK, "import.html", query.Importing{Into: now.Map.ID, Title: now.Map.Name(), Ends: formats.Readable()})
	}
}

// bring takes files to be looked at, for a map of their own or to be added to one.
func (s *server) bring(g *gin.Context) {
	who, into := asker(g)
	files, err := brought(g)
	if err != nil {
		s.importFault(g, into, err)
		return
	}
	var ids []string
	for _, f := range files {
		ids = append(ids, s.work.Wait(who, into, f.name, f.raw))
	}
	g.Redirect(http.StatusSeeOther, "/import?"+url.Values{"file": ids}.Encode())
}

func (s *server) importFault(g *gin.Context, into cm.ID, err error) {
	var refusal *cm.Refusal
	var tooLarge *http.MaxBytesError
	v := query.Importing{Into: into, Ends: formats.Readable()}
	status := http.StatusUnprocessableEntity
	switch {
	case errors.As(err, &tooLarge):
		status, v.Fault = http.StatusRequestEntityTooLarge, say(g).Sprintf("This file is too large for a map. Nothing was changed.")
	case errors.As(err, &refusal):
		v.Fault = refusal.In(say(g))
	default:
		s.failWith(g, err)
		return
	}
	s.html(g, status, "import.html", v)
}

// wishOf reads how a file is to be read.
func wishOf(g *gin.Context, id string) workspace.Wish {
	get := func(name string) string {
		if v := g.PostForm(name + "-" + id); v != "" {
			return v
		}
		return g.Query(name + "-" + id)
	}
	number := func(name string) int {
		n, err := strconv.Atoi(get(name))
		if err != nil || n < -1 || n > 1000 {
			return -1
		}
		return n
	}
	wish := workspace.Wish{Sheet: max(0, number("sheet")), Choice: content.Choice{
		Lines: content.ReadLines(get("lines")), Label: get("label"), Note: get("note"), Phrase: get("relation"), NoNotes: get("notes") == "no",
	}}
	if get("from") != "" && number("columns") == number("sheet") { // the columns are those of another sheet otherwise
		wish.Columns = &tables.Columns{From: max(0, number("from")), Phrase: number("phrase"), To: max(0, number("to")), Head: get("head") == "yes"}
	}
	return wish
}

// importPage shows what files would become.
func (s *server) importPage(g *gin.Context) {
	s.showImports(g, http.StatusOK, g.QueryArray("file"), "")
}

// showImports shows what files would become that wait, and what went wrong.
func (s *server) showImports(g *gin.Context, status int, ids []string, fault string) {
	who, _ := asker(g)
	v := query.Importing{Ends: formats.Readable(), Fault: fault}
	for _, id := range ids[:min(len(ids), maxFiles)] {
		one := s.work.Waiting(who, id)
		if one == nil {
			continue
		}
		v.Into = one.Into
		v.Files = append(v.Files, s.imported(g, one))
	}
	if len(v.Files) == 0 && len(ids) > 0 && fault == "" {
		v.Fault = say(g).Sprintf("These files do not wait here any more. Please bring them again.")
	}
	if v.Into != "" {
		_, err := s.asAbout(g, v.Into, CanEdit)
		var now *workspace.State
		if err == nil {
			now, err = s.work.Session(v.Into).Look(g.Request.Context())
		}
		if err == nil {
			v.Title = now.Map.Name()
		} else { // it is gone meanwhile, or closed to whoever asks
			v.Into = ""
		}
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "import.html", v)
}

// readablePreview is up to how many concepts a map is shown with its words before it is taken.
const readablePreview = 80

// imported reads a file that waits, and draws what it would become.
func (s *server) imported(g *gin.Context, one *workspace.Import) query.Imported {
	wish := wishOf(g, one.ID)
	look, err := one.Read(wish)
	v := query.ImportedOf(one, look, wish)
	var m *cm.Map
	if err == nil {
		m, _, err = workspace.Built(g.Request.Context(), look.Draft, content.Counting())
	}
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		v.Fault = refusal.In(say(g))
	case err != nil:
		v.Fault = say(g).Sprintf("This file could not be read. It is kept as it is; nothing was made of it.")
		s.Log.Warn("a file could not be read", "name", one.Name, "err", err)
	default:
		defer (&workspace.State{Map: m}).Turn(g.Request.Context())()
		sc := scene.Build(m, structure.Of(m), scene.View{}, nil)
		if v.Drawing = svg.Small(sc); len(sc.Slips) <= readablePreview {
			v.Drawing = wholeDrawing(sc, say(g).Sprintf("The map as it would be"))
		}
	}
	return v
}

// takeImports makes maps of files that wait, or adds them to one. Where one of them cannot be taken, it and
// those behind it wait on.
func (s *server) takeImports(g *gin.Context) {
	who, _ := asker(g)
	into, last := cm.ID(""), cm.ID("")
	made := 0
	for _, id := range g.PostFormArray("take") {
		one := s.work.Waiting(who, id)
		if one == nil {
			continue
		}
		taker, err := who, error(nil)
		if g.PostForm("as") == "added" && one.Into != "" {
			into = one.Into
			taker, err = s.asAbout(g, into, CanEdit)
		}
		if err == nil {
			last, err = s.take(g, taker, into, one)
		}
		var refusal *cm.Refusal
		if errors.As(err, &refusal) {
			s.showImports(g, http.StatusUnprocessableEntity, g.PostFormArray("file"), one.Name+": "+refusal.In(say(g)))
			return
		} else if err != nil {
			s.failWith(g, err)
			return
		}
		s.work.Drop(who, id)
		made++
	}
	switch {
	case made == 0:
		s.showImports(g, http.StatusUnprocessableEntity, g.PostFormArray("file"), say(g).Sprintf("Nothing was chosen, or these files do not wait here any more. Please bring them again."))
	case made == 1 || into != "":
		g.Redirect(http.StatusSeeOther, "/maps/"+string(last))
	default:
		g.Redirect(http.StatusSeeOther, "/")
	}
}

// take makes a map of a file that waits, or adds it to one, and gives the map's id.
func (s *server) take(g *gin.Context, who workspace.Person, into cm.ID, one *workspace.Import) (cm.ID, error) {
	look, err := one.Read(wishOf(g, one.ID))
	if err != nil {
		return "", err
	}
	return s.work.Take(g.Request.Context(), who, into, look.Draft)
}

// isOurs tells whether a file is a map of ours, which needs no look.
func isOurs(f broughtFile) bool {
	if !strings.HasSuffix(strings.ToLower(f.name), ".json") {
		return f.name == ""
	}
	_, format, err := formats.Read(f.name, f.raw)
	return format == nil || format.ID == "json" || err != nil && format.ID == "json"
}

// uploaded gives the one file that a request brings.
func uploaded(g *gin.Context) ([]byte, error) {
	files, err := brought(g)
	if err != nil {
		return nil, err
	}
	return files[0].raw, nil
}

package web

import (
	"errors"
	"mime"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// exportAsked reads what is asked of an export: its format, its extent and its options.
func exportAsked(g *gin.Context) (f *formats.Format, use string, o content.Options) {
	use = g.Query("use")
	f = formats.ByID(g.Query("format"))
	if f == nil || use != "" && string(f.Use) != use {
		f = formats.ByID("pdf")
		for i := len(formats.All) - 1; i >= 0; i-- { // the first of its use
			if string(formats.All[i].Use) == use {
				f = formats.All[i]
			}
		}
	}
	on := func(name string, otherwise bool) bool {
		if g.Query("set") == "" {
			return otherwise
		}
		return g.Query(name) != ""
	}
	number := func(name string, otherwise int) int {
		if n, err := strconv.Atoi(g.Query(name)); err == nil {
			return n
		}
		return otherwise
	}
	usual := f.Usual()
	return f, string(f.Use), content.Options{
		Notes: on("notes", usual.Notes), Sources: on("sources", usual.Sources), Sentences: on("sentences", usual.Sentences), Drawing: on("drawing", usual.Drawing),
		Numbered: on("numbered", false), List: on("outline", false) || on("list", false), Argument: on("argument", false), Transparent: on("transparent", false),
		Scale: number("scale", usual.Scale), Sheet: g.Query("sheet"), Held: g.Query("held"), Across: number("across", usual.Across),
	}.Bounded()
}

// talkAsked tells whether what people said is to leave too: it does where nobody chose.
func talkAsked(g *gin.Context) bool {
	talk := g.Query("talk")
	return talk != "no" && (g.Query("set") == "" || talk != "")
}

// exported gives the map, or the part of it that is asked for, as it leaves.
func (s *server) exported(g *gin.Context, now *query.Reading, f *formats.Format, o content.Options, what string) (*content.Export, error) {
	who, id := asker(g)
	m := f.Leaving(now.Map, talkAsked(g), g.Query("judged") != "")
	e := &content.Export{Map: m, Structure: now.Structure, Options: o, Picture: s.work.Pictures(g.Request.Context(), who, id)}
	if m != now.Map {
		e.Structure = structure.Of(m)
	}
	e.Address = originOf(g) + "/maps/" + string(id)
	e.State = say(g).Sprintf("As of %s", s.Store.Now().Format("2 January 2006, 15:04"))
	return e, e.Extent(what)
}

// originOf is where this Mevrin is reached, as whoever asks reaches it.
func originOf(g *gin.Context) string {
	scheme := "http"
	if g.Request.TLS != nil || g.GetHeader("X-Forwarded-Proto") == "https" {
		scheme = "https"
	}
	return scheme + "://" + g.Request.Host
}

// exportPage is from where a map leaves: what for, in which format, how much of it.
func (s *server) exportPage(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	f, use, o := exportAsked(g)
	var chosen []cm.ID
	for one := range strings.SplitSeq(g.Query("chosen"), ",") {
		if one = strings.TrimPrefix(one, "c-"); now.Map.Concepts[cm.ID(one)] != nil && len(chosen) < 500 {
			chosen = append(chosen, cm.ID(one))
		}
	}
	what := g.Query("what")
	e, err := s.exported(g, now, f, o, what)
	if err != nil { // what was chosen is gone meanwhile
		what = ""
		e, err = s.exported(g, now, f, o, what)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	v := now.Exporting(e, f, use, what, chosen)
	who, id := asker(g)
	if v.Links, err = query.LinksFor(g.Request.Context(), s.work, who, id, store.AllowsPicture, ""); err != nil {
		s.failWith(g, err)
		return
	}
	v.Origin = originOf(g)
	v.Name = workspace.FileName(now.Map.Name()) + f.Ending
	v.Outline, v.WithJudged, v.WithTalk = o.List, g.Query("judged") != "", talkAsked(g)
	q := g.Request.URL.Query()
	q.Set("format", f.ID)
	q.Set("what", what)
	file := g.Request.URL.Path + "/file?"
	v.File = file + q.Encode()
	q.Set("format", "svg")
	q.Del("use")
	q.Set("shown", "1")
	v.Preview = file + q.Encode()
	g.Header("Cache-Control", "no-store")
	s.html(g, http.StatusOK, "export.html", v)
}

// exportFile sends the file.
func (s *server) exportFile(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	f, _, o := exportAsked(g)
	if formats.ByID(g.Query("format")) == nil {
		s.fail(g, http.StatusBadRequest, "There is no such format.", nil)
		return
	}
	done, err := workspace.TakeTurn(g.Request.Context())
	if err != nil {
		s.failWith(g, err)
		return
	}
	defer done()
	e, err := s.exported(g, now, f, o, g.Query("what"))
	var raw []byte
	if err == nil {
		raw, err = f.Write(e)
	}
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		s.failSaying(g, http.StatusUnprocessableEntity, refusal.In(say(g)), nil)
		return
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	disposition := "attachment"
	if g.Query("shown") != "" && f.ID == "svg" {
		disposition = "inline"
	}
	g.Header("Cache-Control", "no-store")
	g.Header("Last-Modified", s.Store.Now().UTC().Format(time.RFC1123))
	g.Header("Content-Disposition", mime.FormatMediaType(disposition, map[string]string{"filename": workspace.FileName(now.Map.Name()) + f.Ending}))
	g.Data(http.StatusOK, f.Type, raw)
}

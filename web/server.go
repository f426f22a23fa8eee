package web

import (
	"embed"
	"encoding/json"
	"errors"
	"html/template"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/draw/face"
	"mevrin/draw/svg"
	"mevrin/standin/ideas"
	"mevrin/standin/preview"
	"mevrin/standin/shelf"
	"mevrin/store"
)

//go:embed templates
var templateFiles embed.FS

//go:embed static
var staticFiles embed.FS

// Config says what a server needs.
type Config struct {
	Store  *store.Store
	Access Access
	Log    *slog.Logger
	// Hosts are the names under which the server may be addressed, without
	// ports. A request for another one is refused, so that no foreign page can
	// reach a local server through a name of its own. Empty allows all.
	Hosts []string
	// Films are the hosts from which films are played in a frame; none unless the
	// owner names some.
	Films []string
	// Shelf finds pictures and sounds; the shipped stand-in where it is nil.
	Shelf shelf.Searcher
	// Ideas offers what could be added to a concept; the shipped stand-in where it
	// is nil.
	Ideas ideas.Helper
	// Previewer tells what stands at a web address; the shipped stand-in where it is
	// nil.
	Previewer preview.Previewer
}

type server struct {
	Config
	policy string // what pages may load
	desks  *desks
	pages  *template.Template
}

// New gives the handler of the whole application.
func New(c Config) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	if c.Shelf == nil {
		c.Shelf = shelf.Local{}
	}
	if c.Previewer == nil {
		c.Previewer = preview.Local{}
	}
	if c.Ideas == nil {
		c.Ideas = ideas.Local{}
	}
	s := &server{Config: c, policy: policy + framesOf(c.Films), desks: newDesks(c.Store), pages: parsePages()}
	r := gin.New()
	r.Use(s.recover, s.guard)
	r.SetHTMLTemplate(s.pages)
	r.NoRoute(func(g *gin.Context) { s.fail(g, http.StatusNotFound, "There is nothing at this address.", nil) })

	static, err := fs.Sub(staticFiles, "static")
	if err != nil {
		panic("web: " + err.Error())
	}
	assets := r.Group("/assets", cached)
	assets.StaticFS("/", http.FS(static))
	fonts := r.Group("/fonts", cached)
	fonts.StaticFS("/", http.FS(face.Files()))
	r.GET("/look/fonts.css", cached, styleSheet(face.CSS("/fonts/")))
	r.GET("/look/paper.css", cached, styleSheet(svg.Style()))
	r.GET("/favicon.ico", cached, func(g *gin.Context) { g.FileFromFS("mark.svg", http.FS(static)) })

	r.GET("/", s.library)
	r.GET("/bin", s.bin)
	r.POST("/maps", s.makeMap)
	r.POST("/upload", s.upload)
	r.GET("/maps/:map", s.mapPage)
	r.POST("/maps/:map/name", s.renameMap)
	r.POST("/maps/:map/copy", s.copyMap)
	r.POST("/maps/:map/discard", s.discardMap)
	r.POST("/maps/:map/restore", s.restoreMap)
	r.POST("/maps/:map/destroy", s.destroyMap)
	r.GET("/maps/:map/small.svg", s.small)
	r.GET("/maps/:map/document", s.document)
	r.GET("/maps/:map/drawing", s.drawing)
	r.GET("/maps/:map/walk/:route", s.lookAtWalk)
	r.POST("/maps/:map/grants", s.postGrant)
	r.POST("/maps/:map/grants/:grant/close", s.closeGrant)
	r.POST("/maps/:map/hand-links", s.postHandLink)
	r.GET("/walk/:token", s.walk)
	r.GET("/maps/:map/files", s.files)
	r.POST("/maps/:map/files", s.postFile)
	r.POST("/maps/:map/files/:file/use", s.useFile)
	r.GET("/maps/:map/files/:file", s.file)
	r.GET("/maps/:map/files/:file/small", s.smallFile)
	r.GET("/walk/:token/files/:file", s.walkFile)
	r.GET("/walk/:token/files/:file/small", s.walkFile)
	r.GET("/maps/:map/key", s.key)
	r.GET("/maps/:map/sets/:set", s.set)
	r.GET("/icons", s.icons)
	r.GET("/maps/:map/look.css", s.lookSheet)
	r.GET("/walk/:token/look.css", s.walkSheet)
	r.POST("/maps/:map/looks", s.postLook)
	r.POST("/maps/:map/looks/drop", s.dropLook)
	r.GET("/maps/:map/ideas", s.ideas)
	r.GET("/maps/:map/preview", s.preview)
	r.POST("/maps/:map/cited", s.cited)
	r.GET("/maps/:map/citations/:form", s.citations)
	r.GET("/maps/:map/shelf", s.shelf)
	r.POST("/maps/:map/shelf/:item", s.takeFromShelf)
	r.GET("/shelf/:item", s.shelfItem)
	r.GET("/maps/:map/aloud", s.aloud)
	r.GET("/maps/:map/talk", s.talk)
	r.GET("/maps/:map/note", s.noteCard)
	r.GET("/maps/:map/cards", s.cards)
	r.GET("/maps/:map/phrases", s.phrases)
	r.POST("/phrases", s.setPhrase)
	r.POST("/maps/:map/pasted", s.pasted)
	r.GET("/maps/:map/find", s.find)
	r.POST("/maps/:map/replaced", s.replaced)
	r.GET("/maps/:map/split", s.split)
	r.GET("/maps/:map/order", s.order)
	r.GET("/maps/:map/margin", s.margin)
	r.GET("/maps/:map/column", s.column)
	r.GET("/maps/:map/lens", s.getLens)
	r.POST("/maps/:map/entries", s.postEntry)
	r.POST("/maps/:map/tried", s.postTried)
	r.GET("/maps/:map/changes", s.changesSince)
	r.POST("/maps/:map/view", s.postView)
	r.POST("/maps/:map/chosen", s.postChosen)
	r.GET("/maps/:map/live", s.live)
	s.handRoutes(r)
	return http.NewCrossOriginProtection().Handler(r)
}

func styleSheet(css string) gin.HandlerFunc {
	return func(g *gin.Context) { g.Data(http.StatusOK, "text/css; charset=utf-8", []byte(css)) }
}

// cached lets the browser keep what is part of the program for a while; it
// asks again soon enough after an update.
func cached(g *gin.Context) { g.Header("Cache-Control", "max-age=300") }

const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; media-src 'self'; " +
	"font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

// guard sets the headers that every answer carries, checks the address asked
// for, and bounds what a request may send.
func (s *server) guard(g *gin.Context) {
	h := g.Writer.Header()
	h.Set("Content-Security-Policy", s.policy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	if host := hostOf(g.Request.Host); len(s.Hosts) > 0 && !slices.Contains(s.Hosts, host) {
		s.fail(g, http.StatusMisdirectedRequest, "Mevrin does not answer to this name here.", nil)
		return
	}
	most := int64(mostBody)
	switch path := g.Request.URL.Path; {
	case path == "/upload":
		most = mostUpload
	case strings.HasPrefix(path, "/maps/") && strings.HasSuffix(path, "/files"):
		most = mostFile
	}
	g.Request.Body = http.MaxBytesReader(g.Writer, g.Request.Body, most)
	g.Next()
}

// mostBody bounds a request's body, in bytes.
const mostBody = 4 << 20

func hostOf(address string) string {
	if host, _, err := net.SplitHostPort(address); err == nil {
		address = host
	}
	return strings.ToLower(strings.Trim(address, "[]"))
}

func (s *server) recover(g *gin.Context) {
	defer func() {
		if fault := recover(); fault != nil {
			if fault == http.ErrAbortHandler {
				panic(fault)
			}
			s.Log.Error("panic", "fault", fault, "path", g.Request.URL.Path)
			s.fail(g, http.StatusInternalServerError, sorry, nil)
		}
	}()
	g.Next()
}

const sorry = "Something went wrong here. What was saved before is safe; please try again."

// fail answers with a sentence, as a page or as JSON, and logs the details.
func (s *server) fail(g *gin.Context, status int, words string, err error) {
	if err != nil || status >= 500 {
		s.Log.Warn("request failed", "method", g.Request.Method, "path", g.Request.URL.Path, "status", status, "err", err)
	}
	g.Abort()
	if strings.Contains(g.GetHeader("Accept"), "text/html") {
		g.HTML(status, "fault.html", gin.H{"Words": words})
		return
	}
	g.JSON(status, gin.H{"error": words})
}

// failWith finds the words for an error.
func (s *server) failWith(g *gin.Context, err error) {
	var refusal *cm.Refusal
	var tooLarge *http.MaxBytesError
	if g.Param("token") != "" && errors.Is(err, store.ErrBinned) {
		err = store.ErrNoGrant // whoever has a link need not know of a bin
	}
	switch {
	case errors.As(err, &refusal):
		s.fail(g, http.StatusUnprocessableEntity, refusal.Words, nil)
	case errors.As(err, &tooLarge):
		s.fail(g, http.StatusRequestEntityTooLarge, "That is too much at once. Please send it in smaller parts.", nil)
	case errors.Is(err, store.ErrBinned):
		s.fail(g, http.StatusGone, "This map is in the bin. Restore it there to go on with it.", nil)
	case errors.Is(err, store.ErrNoGrant):
		s.fail(g, http.StatusNotFound, "This link leads nowhere, or no longer. Ask whoever gave it to you for a new one.", nil)
	case errors.Is(err, store.ErrNoFile):
		s.fail(g, http.StatusNotFound, "This map has no such file.", nil)
	case errors.Is(err, store.ErrNoMap):
		s.fail(g, http.StatusNotFound, "There is no map at this address. It may have been deleted.", nil)
	case errors.Is(err, errNotAllowed):
		s.fail(g, http.StatusForbidden, "You may not do that here.", nil)
	default:
		s.fail(g, http.StatusInternalServerError, sorry, err)
	}
}

// allow asks whether the person may; it answers the request itself if not.
func (s *server) allow(g *gin.Context, right Right) (Person, cm.ID, bool) {
	if token := g.Param("token"); token != "" {
		return s.allowBearer(g, token, right)
	}
	id := cm.ID(g.Param("map"))
	if id != "" && !id.Valid() {
		s.failWith(g, store.ErrNoMap)
		return Person{}, "", false
	}
	who, err := s.Access.Ask(g.Request, right, id)
	if err != nil {
		s.failWith(g, err)
		return Person{}, "", false
	}
	return who, id, true
}

func parsePages() *template.Template {
	t := template.New("").Funcs(template.FuncMap{
		// depth is an outline's indentation as the style sheet knows it.
		"depth":     func(below int) int { return min(below+1, deepest) },
		"steps":     stepsOf,
		"noteTools": func() []choiceView { return noteTools },
		"json": func(v any) (string, error) {
			raw, err := json.Marshal(v)
			return string(raw), err
		},
		"hued": newHued,
		"key":  func(kind, id string) cm.Key { return cm.Key{Kind: cm.Entity(kind), ID: cm.ID(id)} },
		"sourceIcon": func(k cm.SourceKind) string {
			return map[cm.SourceKind]string{cm.SourcePicture: "image", cm.SourceSound: "volume-2", cm.SourceVideo: "film", cm.SourceFile: "paperclip", cm.SourceCite: "quote", cm.SourceWeb: "link"}[k]
		},
		"hues":     func() []cm.Colour { return cm.Colours },
		"outlines": func() []cm.Outline { return cm.Outlines },
		"strokes":  func() []cm.Stroke { return cm.Strokes },
		"swatch":   func(c cm.Colour, o cm.Outline) template.HTML { return template.HTML(svg.Swatch(c, o)) },
		"when":     func(t time.Time) string { return t.Local().Format("2 January 2006, 15:04") },
	})
	return template.Must(t.ParseFS(templateFiles, "templates/*.html"))
}

// framesOf is what the policy of pages says of frames.
func framesOf(films []string) string {
	if len(films) == 0 {
		return ""
	}
	return "; frame-src https://" + strings.Join(films, " https://")
}

package web

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/gin-gonic/gin/render"
	"github.com/klauspost/compress/gzhttp"
	"golang.org/x/text/language"

	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"mevrin/standin/ideas"
	"mevrin/standin/preview"
	"mevrin/standin/shelf"
	"mevrin/store"
	"mevrin/workspace"
)

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
	// Proxies are the addresses and networks of proxies whose word counts for where a
	// request comes from; none unless some are named.
	Proxies []string
	// Films are the hosts from which films are played in a frame; none unless the
	// owner names some.
	Films []string
	// Shelf finds pictures and sounds; the shipped stand-in where it is nil.
	Shelf shelf.Searcher
	// Ideas offers what could be added to a concept; the shipped stand-in where it
	// is nil.
	Ideas ideas.Helper
	// Accounts are the people of a Mevrin that several share; nil where it serves one author alone.
	Accounts *workspace.Accounts
	// School is where people of a school sign in by what they have there; nil where they do not.
	School *School
	// Tries lets whoever comes try everything on a map of their own, without an account.
	Tries bool
	// Metrics is a password by which /metrics answers whoever measures; empty where the owner alone sees it.
	Metrics string
	// Demo lets anybody sign in as anyone, by one press.
	Demo bool
	// Context is how long this process carries what happens on maps to others that serve the same people, and
	// back; nil where it serves them alone.
	Context context.Context
	// Previewer tells what stands at a web address; the shipped stand-in where it is
	// nil.
	Previewer preview.Previewer

	memory int64 // bounds what sessions hold, in bytes; 0 for the usual
}

type server struct {
	Config
	policy string // what pages may load
	work   *workspace.Workspace
	pages  map[string]*template.Template // by the language of the reader
	triers workspace.Tries               // of the codes of rooms, by address
	trials workspace.Tries               // of maps without an account, by address
	sheets workspace.Tries               // of sheets without an account, by address

	measures *measures
}

// New gives the handler of the whole application; an error where the configuration
// cannot be used.
func New(c Config) (http.Handler, error) {
	_, app, err := build(c)
	return app, err
}

func build(c Config) (*server, http.Handler, error) {
	gin.SetMode(gin.ReleaseMode)
	if c.Previewer == nil {
		c.Previewer = preview.Local{}
	}
	s := &server{Config: c, policy: policyWith(c.Films), triers: workspace.Tries{Once: wrongCodes, Again: codeAgain}, trials: workspace.Tries{Once: 5, Again: 5 * time.Minute}, sheets: workspace.Tries{Once: 40, Again: time.Minute}, work: workspace.NewWorkspace(c.Store, workspace.Options{Shelf: c.Shelf, Ideas: c.Ideas, Memory: c.memory})}
	if c.Context != nil {
		go s.work.Run(c.Context)
	}
	s.pages = map[string]*template.Template{}
	for _, language := range message.Languages() {
		s.pages[language] = parsePages(message.For(language))
	}
	s.measures = s.newMeasures()
	r := gin.New()
	r.HandleMethodNotAllowed = true
	if err := r.SetTrustedProxies(c.Proxies); err != nil {
		return nil, nil, fmt.Errorf("the proxies cannot be read: %w", err)
	}
	r.Use(s.measure, s.recover, s.guard)
	r.NoRoute(func(g *gin.Context) { s.fail(g, http.StatusNotFound, "There is nothing at this address.", nil) })
	r.NoMethod(func(g *gin.Context) {
		s.fail(g, http.StatusMethodNotAllowed, "That cannot be done at this address.", nil)
	})

	if err := s.register(r, s.routes()); err != nil {
		return nil, nil, err
	}
	own := http.NewCrossOriginProtection()
	own.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.WriteHeader(http.StatusForbidden)
		_, _ = io.WriteString(w, `{"error":"This was asked by a page from elsewhere, and was not done."}`)
	}))
	return s, s.headers(smaller(own.Handler(withHead(r)))), nil
}

// smaller compresses what is text for browsers that can read it: a page of a map is a
// fifth of its size then. Files that people brought are sent as they are.
func smaller(next http.Handler) http.Handler {
	wrap, err := gzhttp.NewWrapper(gzhttp.MinSize(2<<10), gzhttp.CompressionLevel(3), gzhttp.ContentTypes([]string{"text/html", "text/css", "text/javascript", "application/javascript", "application/json", "image/svg+xml"}))
	if err != nil {
		panic(err) // of options that are fixed
	}
	return wrap(next)
}

// withHead answers HEAD where GET is answered; the server leaves out the body.
func withHead(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodHead {
			as := *r
			as.Method = http.MethodGet
			r = &as
		}
		next.ServeHTTP(w, r)
	})
}

// filesOnly shows files and lists no folder.
type filesOnly struct{ http.FileSystem }

func (f filesOnly) Open(name string) (http.File, error) {
	file, err := f.FileSystem.Open(name)
	if err != nil {
		return nil, err
	}
	if info, err := file.Stat(); err != nil || info.IsDir() {
		_ = file.Close()
		return nil, fs.ErrNotExist
	}
	return file, nil
}

func styleSheet(css string) gin.HandlerFunc {
	return func(g *gin.Context) { g.Data(http.StatusOK, "text/css; charset=utf-8", []byte(css)) }
}

// cached lets the browser keep what is part of the program for a while; it
// asks again soon enough after an update.
func cached(g *gin.Context) { g.Header("Cache-Control", "max-age=300") }

const (
	policy = "default-src 'none'; script-src 'self'; style-src 'self'; " +
		"font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
	ownPictures = "; img-src 'self' data: blob:"
	ownSounds   = "; media-src 'self'"
)

// headers sets what every answer carries, whoever gives it.
func (s *server) headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", s.policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

// guard checks the address asked for, and bounds what a request may send.
func (s *server) guard(g *gin.Context) {
	if host := hostOf(g.Request.Host); len(s.Hosts) > 0 && !slices.Contains(s.Hosts, host) {
		s.fail(g, http.StatusMisdirectedRequest, "Mevrin does not answer to this name here.", nil)
		return
	}
	if _, err := url.ParseQuery(g.Request.URL.RawQuery); err != nil {
		s.fail(g, http.StatusBadRequest, "This address cannot be read: a part of it is damaged.", nil)
		return
	}
	most := int64(maxBody)
	switch path := g.Request.URL.Path; {
	case path == "/upload", strings.HasPrefix(path, "/maps/") && strings.HasSuffix(path, "/import"):
		most = maxUpload
	case strings.HasPrefix(path, "/maps/") && strings.HasSuffix(path, "/files"):
		most = maxFile
	}
	g.Request.Body = http.MaxBytesReader(g.Writer, g.Request.Body, most)
	g.Next()
}

// formed reads the form that a request sends before anything is done. Of one that
// is something else, too large or damaged, nothing is taken.
func (s *server) formed(g *gin.Context) {
	if g.Request.ContentLength != 0 && g.ContentType() != "application/x-www-form-urlencoded" {
		s.failWith(g, errForm)
		return
	}
	if err := g.Request.ParseForm(); err != nil {
		var tooLarge *http.MaxBytesError
		if !errors.As(err, &tooLarge) {
			err = cm.Refusef("What was filled in did not arrive whole. Nothing was changed; please try again.")
		}
		s.failWith(g, err)
	}
}

// readJSON reads the one JSON value that a request sends. An error that is not a
// matter of size or sort is a refusal in the words given.
func (s *server) readJSON(g *gin.Context, into any, refused string) error {
	if kind := g.ContentType(); kind != "" && kind != "application/json" {
		return errJSON
	}
	from := json.NewDecoder(g.Request.Body)
	from.DisallowUnknownFields()
	err := from.Decode(into)
	if err == nil {
		if _, err = from.Token(); errors.Is(err, io.EOF) {
			return nil
		}
		err = errors.Join(err, errors.New("there is more"))
	}
	var tooLarge *http.MaxBytesError
	var refusal *cm.Refusal
	if errors.As(err, &tooLarge) || errors.As(err, &refusal) {
		return err
	}
	return cm.Refusef(refused)
}

// What is asked for in a form that the server does not take there.
var (
	errForm = errors.New("a form is expected")
	errJSON = errors.New("JSON is expected")
)

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
			s.fail(g, http.StatusInternalServerError, "Something went wrong here. What was saved before is safe; please try again.", nil)
		}
	}()
	g.Next()
}

// say gives the printer for whoever asks, by the languages that their browser names.
func say(g *gin.Context) *message.Printer { return message.For(understood(g)...) }

// maxLanguages is how many languages of a browser are taken in.
const maxLanguages = 10

// understood gives the languages that a browser names, by preference.
func understood(g *gin.Context) (tags []string) {
	want, _, err := language.ParseAcceptLanguage(g.GetHeader("Accept-Language"))
	if err != nil {
		return nil
	}
	for _, tag := range want[:min(len(want), maxLanguages)] {
		tags = append(tags, tag.String())
	}
	return tags
}

// html answers with a page in the reader's language.
func (s *server) html(g *gin.Context, status int, name string, data any) {
	g.Render(status, render.HTML{Template: s.pages[say(g).Language()], Name: name, Data: data})
}

// fail answers with a message, given by its key, as a page or, to scripts, as JSON, and logs the
// details.
func (s *server) fail(g *gin.Context, status int, key string, err error) {
	s.failSaying(g, status, say(g).Sprintf(key), err)
}

// failSaying answers with words that are written already.
func (s *server) failSaying(g *gin.Context, status int, words string, err error) {
	if err != nil || status >= 500 {
		s.Log.Warn("request failed", "method", g.Request.Method, "path", g.Request.URL.Path, "status", status, "err", err)
	}
	g.Abort()
	if strings.Contains(g.GetHeader("Accept"), "text/html") && g.GetHeader("HX-Request") == "" {
		s.html(g, status, "fault.html", gin.H{"Words": words})
		return
	}
	g.JSON(status, gin.H{"error": words})
}

// failWith finds the words for an error.
func (s *server) failWith(g *gin.Context, err error) {
	var refusal *cm.Refusal
	var tooLarge *http.MaxBytesError
	var contradicts *workspace.Conflict
	if g.Param("token")+g.Param("code") != "" && errors.Is(err, store.ErrBinned) {
		err = store.ErrNoGrant // whoever has a link need not know of a bin
	}
	switch {
	case errors.As(err, &refusal):
		s.failSaying(g, http.StatusUnprocessableEntity, refusal.In(say(g)), nil)
	case errors.As(err, &tooLarge):
		s.fail(g, http.StatusRequestEntityTooLarge, "That is too much at once. Please send it in smaller parts.", nil)
	case errors.Is(err, store.ErrBinned):
		s.fail(g, http.StatusGone, "This map is in the bin. Restore it there to go on with it.", nil)
	case errors.Is(err, store.ErrNoGrant):
		s.fail(g, http.StatusNotFound, "This link leads nowhere, or no longer. Ask whoever gave it to you for a new one.", nil)
	case errors.Is(err, workspace.ErrNoRoom):
		s.fail(g, http.StatusNotFound, "This code opens no room, or no longer. Look at the guide desk for the code of today.", nil)
	case errors.Is(err, workspace.ErrTooOften):
		s.fail(g, http.StatusTooManyRequests, "That was tried too often. Please wait a minute.", nil)
	case errors.Is(err, store.ErrNoFile):
		s.fail(g, http.StatusNotFound, "This map has no such file.", nil)
	case errors.Is(err, store.ErrNoSuggestion):
		s.fail(g, http.StatusNotFound, "This suggestion waits no more: somebody has decided on it, or took it back.", nil)
	case errors.Is(err, store.ErrNoFolder):
		s.fail(g, http.StatusNotFound, "There is no such folder, or it is not shared with you any more.", nil)
	case errors.Is(err, store.ErrNoMap):
		s.fail(g, http.StatusNotFound, "There is no map at this address. It may have been deleted.", nil)
	case errors.Is(err, errForm):
		s.fail(g, http.StatusUnsupportedMediaType, "A form is expected here, and something else came. Nothing was changed.", nil)
	case errors.Is(err, errJSON):
		s.fail(g, http.StatusUnsupportedMediaType, "JSON is expected here, and something else came. Nothing was changed.", nil)
	case errors.Is(err, io.ErrUnexpectedEOF):
		s.fail(g, http.StatusBadRequest, "That did not arrive whole. Nothing was changed; please try again.", nil)
	case errors.Is(err, workspace.ErrNoTurn), errors.Is(err, context.Canceled):
		s.fail(g, http.StatusServiceUnavailable, "Others are computing something large just now. Nothing is lost; please try again in a moment.", nil)
	case store.Busy(err):
		s.fail(g, http.StatusServiceUnavailable, "The disk could not take this just now: it is full or busy. Nothing is lost here; it is tried again.", err)
	case errors.As(err, &contradicts):
		s.failSaying(g, http.StatusConflict, contradicts.In(say(g)), nil)
	case errors.Is(err, errLocked) && g.Request.URL.Path == underLink(g):
		s.locked(g, http.StatusOK, "")
	case errors.Is(err, errLocked):
		s.fail(g, http.StatusForbidden, "This link asks for a password. Please reload the page.", nil)
	case errors.Is(err, errSignIn) && g.Request.Method == http.MethodGet && strings.Contains(g.GetHeader("Accept"), "text/html") && g.GetHeader("HX-Request") == "":
		g.Abort()
		g.Redirect(http.StatusSeeOther, "/sign-in?"+url.Values{"to": {g.Request.URL.RequestURI()}}.Encode())
	case errors.Is(err, errSignIn):
		s.fail(g, http.StatusUnauthorized, "You are not signed in any more. Sign in again in another tab; what you wrote here waits.", nil)
	case errors.Is(err, store.ErrNoTicket):
		s.fail(g, http.StatusNotFound, "This link was used already, or is too old. Ask for a new one.", nil)
	case errors.Is(err, errNobody):
		s.fail(g, http.StatusForbidden, "This window does not say whose it is. Please reload the page.", nil)
	case errors.Is(err, errNotAllowed):
		s.fail(g, http.StatusForbidden, "You may not do that here.", nil)
	default:
		s.fail(g, http.StatusInternalServerError, "Something went wrong here. What was saved before is safe; please try again.", err)
	}
}

// policyWith is the policy of pages on which films, pictures and sounds of other hosts may be
// shown in place.
func policyWith(hosts []string) string {
	if len(hosts) == 0 {
		return policy + ownPictures + ownSounds
	}
	others := " https://" + strings.Join(hosts, " https://")
	return policy + ownPictures + others + ownSounds + others + "; frame-src" + others
}

// What a request may send is bounded here; what it may cause and leave in memory, in
// package workspace.
const (
	maxBody   = 4 << 20  // bytes of a body, but for the two that follow
	maxUpload = 40 << 20 // of an uploaded map: more than the largest
	maxFile   = 25 << 20 // of a file that is attached; the page has it from limits.js and says so before
)

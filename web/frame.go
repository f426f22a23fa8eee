package web

import (
	"fmt"
	"html"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// framed lets a page stand in a frame on the pages that its author named, and on no others (W3C CSP 3, frame-ancestors).
func (s *server) framed(g *gin.Context) {
	grant := admitted(g).grant
	h := g.Writer.Header()
	h.Set("Content-Security-Policy", strings.Replace(s.policy, "frame-ancestors 'none'", "frame-ancestors "+strings.Join(grant.Frame.Origins, " "), 1))
	h.Del("X-Frame-Options") // which knows no list of pages
}

// frame shows a map, or a route of it, to be read on a page of somebody else.
func (s *server) frame(g *gin.Context) {
	now, grant := s.walked(g)
	switch {
	case now == nil:
	case grant.Route == "":
		s.showAsRead(g, now, "/frame/"+g.Param("token"))
	default:
		s.showWalk(g, now, grant.Route, "frame:"+grant.ID, "", "/frame/"+g.Param("token"))
	}
}

// frameDrawn draws what stands at a stop.
func (s *server) frameDrawn(g *gin.Context) {
	if now, grant := s.walked(g); now != nil && grant.Route != "" {
		s.sendDrawn(g, now, grant.Route, "/frame/"+g.Param("token"))
	} else if now != nil {
		s.fail(g, http.StatusNotFound, "This route is no longer there.", nil)
	}
}

// postFrame lets a map stand in a frame on pages of others.
func (s *server) postFrame(g *gin.Context) {
	who, id := asker(g)
	size, err := strconv.Atoi(g.PostForm("size"))
	if err != nil {
		size = -1
	}
	s.backToSharing(g, s.work.MakeFrame(g.Request.Context(), who, id, cm.ID(g.PostForm("route")), g.PostForm("origins"), size, cm.Theme(g.PostForm("dress")), g.PostForm("until")))
}

// frameCode is what is pasted into a page to show a frame.
func frameCode(origin, title string, f store.Frame, path string) string {
	width := "100%"
	if f.Width > 0 {
		width = strconv.Itoa(f.Width)
	}
	return fmt.Sprintf(`<iframe src="%s" title="%s" width="%s" height="%d" loading="lazy" allowfullscreen></iframe>`, html.EscapeString(origin+path), html.EscapeString(title), width, f.Height)
}

// embedded is an answer of oEmbed 1.0 (oembed.com).
type embedded struct {
	Version      string `json:"version"`
	Type         string `json:"type"`
	Title        string `json:"title"`
	ProviderName string `json:"provider_name"`
	ProviderURL  string `json:"provider_url"`
	URL          string `json:"url,omitempty"`
	HTML         string `json:"html,omitempty"`
	Width        int    `json:"width"`
	Height       int    `json:"height"`
	CacheAge     int    `json:"cache_age"`
}

// oembed tells a page how to show a frame or a picture whose address somebody pasted there.
func (s *server) oembed(g *gin.Context) {
	if form := g.DefaultQuery("format", "json"); form != "json" {
		s.fail(g, http.StatusNotImplemented, "This is told as JSON alone.", nil)
		return
	}
	u, err := url.Parse(g.Query("url"))
	if err != nil || hostOf(u.Host) != hostOf(g.Request.Host) {
		s.failWith(g, store.ErrNoGrant)
		return
	}
	parts := strings.Split(strings.Trim(u.Path, "/"), "/")
	if len(parts) < 2 || parts[0] != "frame" && parts[0] != "picture" {
		s.failWith(g, store.ErrNoGrant)
		return
	}
	grant, err := s.Access.Redeem(g.Request, parts[1])
	if err != nil || string(grant.Allows) != parts[0] {
		s.failWith(g, store.ErrNoGrant)
		return
	}
	now, err := s.work.Session(grant.MapID).Look(g.Request.Context())
	if err != nil {
		s.failWith(g, store.ErrNoGrant)
		return
	}
	origin := originOf(g)
	e := embedded{Version: "1.0", Type: "photo", Title: now.Map.Name(), ProviderName: "Mevrin", ProviderURL: origin + "/", CacheAge: 3600}
	within := func(name string, is int) int {
		if most, err := strconv.Atoi(g.Query(name)); err == nil && most > 0 {
			return min(is, most)
		}
		return is
	}
	if grant.Frame != nil {
		f := *grant.Frame
		if f.Width == 0 {
			f.Width = workspace.Sizes[2][0]
		}
		f.Width, f.Height = within("maxwidth", f.Width), within("maxheight", f.Height)
		e.Type, e.Width, e.Height, e.HTML = "rich", f.Width, f.Height, frameCode(origin, e.Title, f, "/frame/"+grant.Token)
	} else {
		box := now.Scene.Bounds().Grown(24, 24)
		scale := min(1, float64(within("maxwidth", int(box.W)))/box.W, float64(within("maxheight", int(box.H)))/box.H)
		e.URL, e.Width, e.Height = origin+"/picture/"+grant.Token+"/map.svg", int(box.W*scale), int(box.H*scale)
	}
	g.Header("Access-Control-Allow-Origin", "*") // it says what its address says, to whoever has that
	g.Header("Cache-Control", "no-cache")
	g.JSON(http.StatusOK, e)
}

// sizeChoices are how large a frame can be.
func sizeChoices(says func(string, ...any) string) (all []query.Choice) {
	for i, size := range workspace.Sizes {
		name := says("as wide as the page, %d high", size[1])
		if size[0] > 0 {
			name = says("%d × %d", size[0], size[1])
		}
		all = append(all, query.Choice{Value: strconv.Itoa(i), Name: name})
	}
	return all
}

// leadsBack gives where the page of a map leads back to: nowhere for those who came by a link, or from another page.
func leadsBack(g *gin.Context) string {
	p := admitted(g)
	switch {
	case p.grant.ID != "" || p.who.Bearer || p.who.Nobody:
		return ""
	case p.who.Account != nil && p.may[CanOwn]:
		return "/"
	case p.who.Account != nil:
		return "/shared"
	}
	return "/"
}

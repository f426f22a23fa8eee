package web

import (
	"errors"
	"fmt"
	"html"
	"mime"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/differences"
	"mevrin/draw/display"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/store"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// revisionOf reads a revision that is asked for; otherwise where there is none, or none such.
func revisionOf(g *gin.Context, name string, otherwise, most int) int {
	n, err := strconv.Atoi(g.Query(name))
	if err != nil || n < 0 || n > most {
		return otherwise
	}
	return n
}

// wholeDrawing draws a map as one picture that says what it is; nothing where there is nothing on it.
func wholeDrawing(sc *scene.Scene, said string, over ...string) string {
	if len(sc.Slips) == 0 {
		return ""
	}
	box := sc.Bounds().Grown(24, 24)
	return fmt.Sprintf(`<svg class="sheet %s" role="img" aria-label="%s" viewBox="%g %g %g %g">`, workspace.LookOf(sc.Look), html.EscapeString(said), box.X, box.Y, box.W, box.H) +
		svg.Write(display.Still(display.List(sc))...) + strings.Join(over, "") + "</svg>"
}

// maxShifts is how many lines of what moved are drawn: more would hide the map.
const maxShifts = 60

// shiftLines draw where concepts moved from, or, on the earlier state, where to.
func shiftLines(all []differences.Shift, later bool) (lines []string) {
	if len(all) > maxShifts {
		return nil
	}
	for _, s := range all {
		from, to := s.From, s.To
		end := to
		if !later {
			end = from
		}
		lines = append(lines, fmt.Sprintf(`<path class="shift" d="M%g %gL%g %g"></path><circle class="shift-end" cx="%g" cy="%g" r="5"></circle>`, from.X, from.Y, to.X, to.Y, end.X, end.Y))
	}
	return lines
}

// versionsPage shows the states in which a map was: the named ones, and what was done when by whom; one of
// them drawn, with what differs from another.
func (s *server) versionsPage(g *gin.Context) { s.showVersions(g, http.StatusOK, "") }

func (s *server) showVersions(g *gin.Context, status int, fault string) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	who, id := asker(g)
	ctx := g.Request.Context()
	v := query.Versioned{MapID: id, Title: now.Map.Name(), Now: now.Revision, Fault: fault}
	v.At = revisionOf(g, "at", now.Revision, now.Revision)
	v.Against = revisionOf(g, "with", now.Revision, now.Revision)
	at, err := s.work.StateAt(ctx, who, id, v.At)
	if err == nil {
		other := now.State
		if v.Against != now.Revision {
			other, err = s.work.StateAt(ctx, who, id, v.Against)
		}
		if err == nil {
			earlier, later := at, other
			if v.At > v.Against {
				earlier, later = other, at
			}
			v.Differ(earlier.Map, later.Map)
			// What moved is seen from where it was: on the state that is shown.
			v.Counts = query.Counted(at.Structure)
			v.Drawing = wholeDrawing(at.Scene, say(g).Sprintf("The map as it was"), shiftLines(v.Since.Shifts, at == later)...)
		}
	}
	if err == nil {
		v.Versions, err = s.reach(g).Versions(ctx, id)
	}
	for _, one := range v.Versions {
		if one.Revision == v.At {
			v.Name = one.Name
		}
	}
	names, errs := s.names(g)
	err = errors.Join(err, errs)
	if err == nil {
		heads, errs := s.reach(g).Heads(ctx, id)
		v.Sittings, err = query.Sat(store.SittingsOf(heads), names), errs
	}
	if err == nil {
		deeds, errs := s.reach(g).DeedsOn(ctx, id)
		v.Hands, err = query.HandsOf(deeds, names, at.Map), errs
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "no-store")
	s.html(g, status, "versions.html", v)
}

// names gives the names of those who have accounts, by how the log knows them.
func (s *server) names(g *gin.Context) (map[string]string, error) {
	all, err := s.Store.People(g.Request.Context())
	names := map[string]string{}
	for _, p := range all {
		names[p.ID] = p.Name
	}
	return names, err
}

// versionDrawing draws a map as it was, for the slider.
func (s *server) versionDrawing(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	defer now.Turn(g.Request.Context())()
	who, id := asker(g)
	at, err := s.work.StateAt(g.Request.Context(), who, id, revisionOf(g, "at", now.Revision, now.Revision))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Cache-Control", "private, max-age=3600") // what was stays what it was
	counts := `<data id="counts" hidden value="` + query.Counted(at.Structure) + `"></data>`
	g.Data(http.StatusOK, "text/html; charset=utf-8", []byte(counts+wholeDrawing(at.Scene, say(g).Sprintf("The map as it was"))))
}

// postVersion gives a state a name, or makes the map what it was.
func (s *server) postVersion(g *gin.Context) {
	who, id := asker(g)
	at, err := strconv.Atoi(g.PostForm("at"))
	to := "/maps/" + string(id)
	switch {
	case err != nil:
		err = cm.Refusef("Say which state is meant.")
	case g.PostForm("what") == "restore":
		err = s.work.GoBack(g.Request.Context(), who, id, at)
	default:
		err = s.work.NameVersion(g.Request.Context(), who, id, at, g.PostForm("name"))
		to += "/versions?at=" + strconv.Itoa(at)
	}
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showVersions(g, http.StatusUnprocessableEntity, refusal.In(say(g)))
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, to)
	}
}

// logFile sends the log of a map, a line of JSON for each entry. Who has an account leaves by their name,
// others as visitors.
func (s *server) logFile(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	names, err := s.names(g)
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Header("Content-Type", "application/jsonl; charset=utf-8")
	g.Header("Cache-Control", "no-store")
	g.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": workspace.FileName(now.Map.Name()) + ".jsonl"}))
	named := func(author string) string {
		if name := names[author]; name != "" {
			return name
		}
		if author == "author" {
			return author
		}
		return "visitor"
	}
	if err := s.reach(g).WriteLog(g.Request.Context(), now.Map.ID, named, g.Writer); err != nil {
		s.Log.Warn("the log of a map broke off", "err", err)
	}
}

package web

import (
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/guide"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// present leads a room through a map.
func (s *server) present(g *gin.Context) {
	who, id := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	l, err := s.work.Leading(who, id, cm.ID(g.Query("by")), false)
	if err == nil {
		_, err = now.Led(l)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	if stop := cm.ID(g.Query("stop")); stop != "" && now.Map.Stops[stop] != nil {
		_ = l.Do(now.State, s.Store.Now(), guide.Command{Deed: guide.DeedStop, ID: stop}) // from the start where that is gone
	}
	g.Redirect(http.StatusSeeOther, "/maps/"+string(id)+"/desk")
}

// desk is what whoever guides sees.
func (s *server) desk(g *gin.Context) {
	who, id := asker(g)
	now := s.lookAt(g)
	if now == nil {
		return
	}
	l, err := s.work.Leading(who, id, cm.ID(g.Query("by")), rehearses(g))
	var led query.Led
	if err == nil {
		led, err = now.Led(l)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	s.went(g, who, now, led.Stage.Route)
	s.html(g, http.StatusOK, "desk.html", gin.H{
		"Base": "/maps/" + string(id), "Code": l.Code, "Title": led.Card("").Title, "Lang": now.Map.Language, "Look": workspace.LookOf(now.Map.Look), "Own": now.Map.Look.Own != nil,
		"Films": strings.Join(s.Films, " "), "Rehearsal": l.Rehearsal, "Route": led.Stage.Route,
	})
}

// rehearses tells that a desk is there for nobody yet.
func rehearses(g *gin.Context) bool { return g.Query("rehearse") != "" }

// commanded is what a desk asks for.
type commanded struct {
	Deed     guide.Deed `json:"deed"`
	ID       cm.ID      `json:"id"`
	Sentence string     `json:"sentence"` // by its key
	Of       cm.Key     `json:"of"`       // whose source
}

// postDeed does what whoever guides does.
func (s *server) postDeed(g *gin.Context) {
	who, id := asker(g)
	var asked commanded
	if err := s.readJSON(g, &asked, "This did not arrive whole. Please reload the page and try again."); err != nil {
		s.failWith(g, err)
		return
	}
	now := s.lookAt(g)
	if now == nil {
		return
	}
	l, err := s.work.Led(who, id, rehearses(g))
	var led query.Led
	if err == nil {
		led, err = now.Led(l)
	}
	if err == nil {
		command := guide.Command{Deed: asked.Deed, ID: asked.ID, Source: guide.SourceOf{Of: asked.Of, ID: asked.ID}}
		command.Sentence, _ = led.FindSentence(asked.Sentence)
		err = l.Do(now.State, s.Store.Now(), command)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

// postSpot shows the room where something is; without a place nowhere any more.
func (s *server) postSpot(g *gin.Context) {
	who, id := asker(g)
	var asked struct {
		At *cm.Point `json:"at"`
	}
	err := s.readJSON(g, &asked, "This did not arrive whole. Please reload the page and try again.")
	var l *workspace.Leading
	if err == nil {
		l, err = s.work.Led(who, id, rehearses(g))
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	l.Spot(asked.At)
	g.Status(http.StatusNoContent)
}

// endLeading ends it. One that has ended is ended: what is wanted holds.
func (s *server) endLeading(g *gin.Context) {
	who, id := asker(g)
	if l, err := s.work.Led(who, id, rehearses(g)); err == nil {
		l.End()
	}
	g.Status(http.StatusNoContent)
}

// door is where the code of a room is typed.
func (s *server) door(g *gin.Context) {
	s.html(g, http.StatusOK, "door.html", gin.H{"Length": workspace.CodeLength})
}

// enter leads to the room of a code that was typed.
func (s *server) enter(g *gin.Context) {
	code := strings.Map(func(r rune) rune {
		if r == ' ' || r == '-' {
			return -1
		}
		return r
	}, strings.ToUpper(g.PostForm("code")))
	if _, err := s.roomOf(g, code); err != nil {
		words := "This code opens no room, or no longer. Look at the guide desk for the code of today."
		status := http.StatusNotFound
		if errors.Is(err, workspace.ErrTooOften) {
			words, status = "That was tried too often. Please wait a minute.", http.StatusTooManyRequests
		}
		s.html(g, status, "door.html", gin.H{"Length": workspace.CodeLength, "Fault": say(g).Sprintf(words)})
		return
	}
	g.Redirect(http.StatusSeeOther, "/room/"+code)
}

// room is what a room sees.
func (s *server) room(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	code := g.Param("code")
	s.html(g, http.StatusOK, "room.html", gin.H{"Base": "/room/" + code, "Lang": now.Map.Language, "Look": workspace.LookOf(now.Map.Look), "Own": now.Map.Look.Own != nil, "Title": now.Map.Name(), "Films": strings.Join(s.Films, " ")})
}

// roomFile is a file of what a room may see.
func (s *server) roomFile(g *gin.Context) {
	now := s.lookAt(g)
	if now == nil {
		return
	}
	if !now.ShowsFile(g.Param("file")) {
		s.fail(g, http.StatusNotFound, "This map has no such file.", nil)
		return
	}
	if strings.HasSuffix(g.FullPath(), "/small") {
		s.smallFile(g)
		return
	}
	s.file(g)
}

// routeLine is the line of a route over the map, as the person asking sees it.
func (s *server) routeLine(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	g.JSON(http.StatusOK, now.RouteLine(view, cm.ID(g.Param("route")))) // of one that is gone meanwhile there is nothing to draw
}

package web

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	cm "mevrin/core/conceptmap"
	"mevrin/core/kinds"
	"mevrin/draw/scene"
	"mevrin/store"
)

// The plain hand: the same paper with a few large controls, for the youngest
// and for a first day. It is chosen for a map, or given by a link, whose bearer
// can do what is gentle and nothing else.

// bearerCookie tells apart those who work under one link, so that nobody takes
// back what another one did. It is sent to that link's addresses alone.
const bearerCookie = "who"

// bearer gives the principal behind a link for the plain hand. Only the page of the
// link makes a new one: whoever comes without a name that this server gave may look,
// and is nobody yet.
func (s *server) bearer(g *gin.Context, grant store.Grant) principal {
	p := principal{mapID: grant.MapID, grant: grant, may: Capabilities{CanLook: true, CanAdd: true}}
	name, err := g.Cookie(bearerCookie)
	who, known := s.Store.Bearer(grant, name)
	switch {
	case err == nil && known:
	case g.FullPath() == handPage:
		who, name = s.Store.NewBearer(grant)
		http.SetCookie(g.Writer, &http.Cookie{Name: bearerCookie, Value: name, Path: "/hand/" + g.Param("token"), HttpOnly: true, SameSite: http.SameSiteLaxMode, MaxAge: 400 * 24 * 3600})
	default:
		p.nobody = true
	}
	p.who = Person{ID: handPrefix + grant.ID + ":" + who, Gentle: true}
	return p
}

// handPage is where the page of a link is.
const handPage = "/hand/:token"

// swatch shows how the concepts of a kind look.
type swatch struct {
	Kind    cm.ID
	Name    string
	Colour  cm.Colour
	Outline cm.Outline
	Count   int // of its concepts
}

func newSwatch(id cm.ID, name string, colour cm.Colour, outline cm.Outline) swatch {
	return swatch{Kind: id, Name: name, Colour: colour, Outline: outline}
}

// keyOf gives the key of the map.
func (s reading) keyOf() []swatch {
	count := map[cm.ID]int{}
	for _, c := range s.m.Concepts {
		count[c.Kind]++
	}
	all := []swatch{}
	for _, k := range s.m.Key() {
		if k.Links {
			continue
		}
		sw := newSwatch(k.ID, s.m.Words(k.Name), k.Colour, k.Outline)
		sw.Count = count[k.ID]
		all = append(all, sw)
	}
	return all
}

// startOf gives the kinds of a set in the map's language.
func (s reading) startOf(set kinds.Set) []swatch {
	all := []swatch{}
	for _, k := range set.Kinds {
		all = append(all, newSwatch("", k.Name(s.m.Language), k.Colour, k.Outline))
	}
	return all
}

// key is the key to colour by: the map's own, or one to begin with.
func (s *server) key(g *gin.Context) {
	if now := s.lookAt(g); now != nil {
		all := now.keyOf()
		if len(all) == 0 {
			all = now.startOf(kinds.Shipped[0])
		}
		g.HTML(http.StatusOK, "plain-key", all)
	}
}

// spoken is a sentence with the elements that it speaks of.
type spoken struct {
	Words    string   `json:"words"`
	Elements []string `json:"elements"`
}

// aloud gives what is to be read aloud: of the thing that is asked for, or of
// all that the person sees, in reading order.
func (s *server) aloud(g *gin.Context) {
	now, view := s.lookAtAs(g)
	if now == nil {
		return
	}
	g.JSON(http.StatusOK, gin.H{"language": now.m.Language, "sentences": now.spoken(view, g.Query("chosen"))})
}

func (s reading) spoken(v scene.View, chosen string) []spoken {
	seen := s.seen(v)
	all := []spoken{}
	said := map[cm.ID]bool{}
	for _, p := range s.structure.Propositions() {
		one := s.sentenceOf(p)
		elements := []string{"c-" + string(p.Subject), "l-" + string(one.Link), "c-" + string(p.Object)}
		if seen.Slips[p.Subject] == nil || seen.Slips[p.Object] == nil || len(all) == maxSpoken {
			continue
		}
		said[p.Subject], said[p.Object] = true, true
		if chosen == "" || chosen == elements[0] || chosen == elements[1] || chosen == elements[2] {
			all = append(all, spoken{strings.Join(strings.Fields(one.Noun1+" "+one.Verb+" "+one.Noun2), " ") + ".", elements})
		}
	}
	for _, id := range s.structure.Order {
		element := "c-" + string(id)
		if said[id] || seen.Slips[id] == nil || chosen != "" && chosen != element || len(all) == maxSpoken {
			continue
		}
		all = append(all, spoken{s.m.Words(s.m.Concepts[id].Label) + ".", []string{element}})
	}
	if kind, id, _ := strings.Cut(chosen, "-"); kind == "c" {
		if c := s.m.Concepts[cm.ID(id)]; c != nil && !c.Remark.Empty() {
			all = append(all, spoken{s.m.Words(c.Remark) + ".", []string{chosen}})
		}
	}
	return all
}

// handLinks are the links under which a map is worked on with the plain hand, and
// who did so.
type handLinks struct {
	MapID    cm.ID
	Links    []walkLink
	Visitors []visitorView
}

// visitorView is what somebody did who has a link.
type visitorView struct {
	ID     cm.ID // as a speaker
	Name   string
	Count  int
	Latest time.Time
}

// postHandLink makes a link for the plain hand.
func (s *server) postHandLink(g *gin.Context) {
	_, id := asker(g)
	err := s.work.LinkHand(g.Request.Context(), id)
	s.answerHandLinks(g, err, id)
}

func (s *server) answerHandLinks(g *gin.Context, err error, id cm.ID) {
	var links handLinks
	var now *state
	if err == nil {
		now, err = s.work.Session(id).look(g.Request.Context())
	}
	if err == nil {
		links, err = handLinksOf(g.Request.Context(), s.work, now.m)
	}
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.HTML(http.StatusOK, "hand-links", links)
}

// maxVisitors bounds those who are listed, the latest first.
const maxVisitors = 60

func handLinksOf(ctx context.Context, w *Workspace, m *cm.Map) (all handLinks, err error) {
	all.MapID = m.ID
	if all.Links, err = linksFor(ctx, w, m.ID, store.AllowsHand, ""); err != nil {
		return all, err
	}
	did, err := w.Store.Visitors(ctx, m.ID, handPrefix)
	if err != nil {
		return all, err
	}
	for i, a := range did[:min(len(did), maxVisitors)] {
		v := visitorView{ID: speakerOf(m.ID, a.Author, true), Count: a.Entries, Latest: a.Latest}
		if v.Name = m.NameOf(v.ID); v.Name == "" {
			v.Name = fmt.Sprintf("Visitor %d", len(did)-i)
		}
		all.Visitors = append(all.Visitors, v)
	}
	return all, nil
}

// takeBack takes back all that a visitor did on a map, as one edit of whoever asks.
func (s *server) takeBack(g *gin.Context) {
	who, id := asker(g)
	answer, err := s.work.TakeBack(g.Request.Context(), who, id, cm.ID(g.Param("visitor")))
	if err != nil {
		s.failWith(g, err)
		return
	}
	g.JSON(http.StatusOK, gin.H{"notices": answer.Notices, "changed": answer.Revision})
}

package web

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/draw/scene"
	"mevrin/format/outline"
	"mevrin/standin/shelf"
)

// beginForm is what is asked of a new map: its question, what it begins with, the
// lines of an outline; and, for those who want it, a look, a key and a picture.
type beginForm struct {
	Question, Begin, Lines string
	Dress                  cm.Dress
	Set                    string // the key to begin with, by its name
	Picture                string // of the shelf, by its name
}

// makeMap makes a map: with one concept in the middle, empty, from an outline,
// or with a loose idea for each line. What is refused comes back in the form.
func (s *server) makeMap(g *gin.Context) {
	who, _ := asker(g)
	form := beginForm{g.PostForm("question"), g.PostForm("begin"), g.PostForm("lines"), cm.Dress(g.PostForm("dress")), g.PostForm("key"), g.PostForm("picture")}
	id := newMapID()
	ops, err := form.operations()
	if err == nil && form.Picture != "" && !slices.ContainsFunc(s.drawings(), func(i shelf.Item) bool { return i.Name == form.Picture }) {
		err = &cm.Refusal{Words: "There is no such picture on the shelf."}
	}
	if err == nil {
		err = s.begin(g.Request.Context(), who, id, ops)
	}
	if err == nil && form.Picture != "" {
		err = s.beginPicture(g.Request.Context(), who, id, form.Picture)
	}
	var refusal *cm.Refusal
	switch {
	case errors.As(err, &refusal):
		s.showLibrary(g, http.StatusUnprocessableEntity, libraryView{Fault: refusal.Words, Form: form}, "")
	case err != nil:
		s.failWith(g, err)
	default:
		g.Redirect(http.StatusSeeOther, "/maps/"+string(id))
	}
}

func newMapID() cm.ID { return cm.ID(uuid.Must(uuid.NewV7()).String()) }

// newThingID makes an id for a thing on a map, where no page makes it.
func newThingID(kind string) cm.ID {
	return cm.ID(kind + strings.ReplaceAll(uuid.Must(uuid.NewV7()).String(), "-", ""))
}

func (form beginForm) operations() ([]edit.Operation, error) {
	var ops []edit.Operation
	if strings.TrimSpace(form.Question) != "" {
		ops = append(ops, &edit.Ask{Question: form.Question})
	}
	if form.Dress != cm.DressPlain {
		ops = append(ops, &edit.SetLook{Dress: &form.Dress})
	}
	if form.Set != "" {
		i := slices.IndexFunc(kinds.Shipped, func(set kinds.Set) bool { return set.ID == form.Set })
		if i < 0 {
			return nil, &cm.Refusal{Words: "There is no such key to begin with."}
		}
		ops = append(ops, kinds.Shipped[i].Operations("en", func() cm.ID { return newThingID("k") })...)
	}
	switch form.Begin {
	case "empty":
		return ops, nil
	case "outline", "lines":
		lines, err := outline.Parse(form.Lines, false)
		if err != nil {
			return nil, err
		}
		if len(lines) == 0 {
			return nil, &cm.Refusal{Words: "Type or paste some lines first, one idea in each."}
		}
		o := outline.Options{NewID: newThingID, Measure: scene.Measurer{}, Flat: form.Begin == "lines", Focus: form.Begin == "outline"}
		return append(ops, outline.Operations(lines, o)...), nil
	}
	first := newThingID("c")
	return append(ops, &edit.AddConcept{ID: first}, &edit.SetFocus{Concept: first}), nil
}

func (s *server) begin(ctx context.Context, who Person, id cm.ID, ops []edit.Operation) error {
	out, err := edit.Apply(cm.NewMap(id, "en"), ops, nil)
	if err != nil {
		return err
	}
	raw, err := edit.MarshalOperations(ops)
	if err != nil {
		return err
	}
	return s.Store.Put(ctx, out.Map, who.ID, raw)
}

// drawings are the pictures of the shelf.
func (s *server) drawings() []shelf.Item {
	return slices.DeleteFunc(s.Shelf.Find("", ""), func(i shelf.Item) bool { return i.Kind != "picture" })
}

// beginWide is how wide a picture stands on the slip of a new map, in pixels.
const beginWide = 140

// beginPicture puts a picture of the shelf on the focus concept of a new map; into
// the tray where it has none yet. It is an entry of its own: undone, the map is as
// it would be without.
func (s *server) beginPicture(ctx context.Context, who Person, id cm.ID, name string) error {
	source, err := s.fromShelf(ctx, id, who, name)
	if err != nil {
		return err
	}
	d := s.sessions.get(id)
	now, err := d.look(ctx)
	if err != nil {
		return err
	}
	on := cm.Key{Kind: cm.EntityMap, ID: id}
	if now.m.Focus != "" {
		on, source.Wide = cm.Key{Kind: cm.EntityConcept, ID: now.m.Focus}, beginWide
	}
	ops, err := edit.MarshalOperations([]edit.Operation{&edit.AttachSource{On: on, ID: newThingID("s"), Source: source}})
	if err != nil {
		return err
	}
	_, err = d.perform(ctx, who, Asked{ID: newThingID("g"), Window: "begin", Operations: json.RawMessage(ops)})
	return err
}

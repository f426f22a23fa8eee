package workspace

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/kinds"
	"mevrin/core/starters"
	"mevrin/core/structure"
	"mevrin/draw/scene"
	"mevrin/draw/svg"
	"mevrin/format/outline"
	"mevrin/standin/shelf"
	"mevrin/store"
)

// BeginForm is what is asked of a new map: its question, what it begins with, the
// lines of an outline; and, for those who want it, a look, a key and a picture.
type BeginForm struct {
	Question, Begin, Lines string
	Theme                  cm.Theme
	Set                    string // the key to begin with, by its name
	Picture                string // of the shelf, by its name
	// Order is the pattern by which the map keeps itself in order from its first concept
	// on; OrderFree where everything stays as it is placed, levels where it is empty.
	Order cm.Pattern
	// Starter is the map of package starters that it begins with, in place of all but its question; Answers are
	// those to the questions that it asks, one for each.
	Starter string
	Answers []string
}

// OrderFree stands for a map that does not keep itself in order.
const OrderFree cm.Pattern = "free"

// Begin makes a map: with one concept in the middle, empty, from an outline, or with a
// loose idea for each line.
func (w *Workspace) Begin(ctx context.Context, who Person, form BeginForm) (cm.ID, error) {
	ops, err := form.operations()
	if err == nil && form.Picture != "" && !slices.ContainsFunc(w.Drawings(), func(i shelf.Item) bool { return i.Name == form.Picture }) {
		err = cm.Refusef("There is no such picture.")
	}
	id := newMapID()
	if err == nil {
		err = w.make(ctx, who, id, ops)
	}
	if err == nil && form.Picture != "" {
		err = w.beginPicture(ctx, who, id, form.Picture)
	}
	return id, err
}

// operations gives what makes the map that is asked for.
func (form BeginForm) operations() ([]edit.Operation, error) {
	if form.Starter != "" {
		return starters.Operations(form.Starter, form.Question, NewThingID)
	}
	ops, err := form.order()
	if err != nil {
		return nil, err
	}
	if strings.TrimSpace(form.Question) != "" {
		ops = append(ops, &edit.Ask{Question: form.Question})
	}
	if form.Theme != cm.ThemePlain {
		ops = append(ops, &edit.SetLook{Theme: &form.Theme})
	}
	if form.Set != "" {
		i := slices.IndexFunc(kinds.Shipped, func(set kinds.Set) bool { return set.ID == form.Set })
		if i < 0 {
			return nil, cm.Refusef("There is no such key to begin with.")
		}
		ops = append(ops, kinds.Shipped[i].Operations("en", func() cm.ID { return NewThingID("k") })...)
	}
	switch form.Begin {
	case "empty":
		return ops, nil
	case "questions":
		said, err := starters.Answered(form.Answers, NewThingID)
		return append(ops, said...), err
	case "text":
		said, err := readText(form.Lines)
		return append(ops, said...), err
	case "outline", "lines":
		lines, err := outline.Parse(form.Lines, false)
		if err != nil {
			return nil, err
		}
		if len(lines) == 0 {
			return nil, cm.Refusef("Type or paste some lines first, one idea in each.")
		}
		o := outline.Options{NewID: NewThingID, Measure: scene.Measurer{}, Flat: form.Begin == "lines", Focus: form.Begin == "outline"}
		return append(ops, outline.Operations(lines, o)...), nil
	}
	first := NewThingID("c")
	return append(ops, &edit.AddConcept{ID: first}, &edit.SetFocus{Concept: first}), nil
}

// order gives what lets the map keep itself in order, if that is wished.
func (form BeginForm) order() ([]edit.Operation, error) {
	pattern := cmp.Or(form.Order, cm.PatternLevels)
	switch {
	case pattern == OrderFree:
		return nil, nil
	case !pattern.Valid():
		return nil, cm.Refusef("There is no such pattern.")
	}
	freely := true // until their author puts them in order
	return []edit.Operation{&edit.KeepTidy{On: true, Pattern: pattern, Freely: &freely}}, nil
}

// make makes a map by operations on an empty one.
func (w *Workspace) make(ctx context.Context, who Person, id cm.ID, ops []edit.Operation) error {
	out, err := apply(ctx, cm.NewMap(id, "en"), nil, ops)
	if err != nil {
		return err
	}
	raw, err := edit.MarshalOperations(ops)
	if err != nil {
		return err
	}
	return w.Store.For(who.Scope).Put(ctx, out.Map, who.ID, raw)
}

// Drawings are the pictures of the shelf.
func (w *Workspace) Drawings() []shelf.Item {
	return slices.DeleteFunc(w.Shelf.Find("", ""), func(i shelf.Item) bool { return i.Kind != "picture" })
}

// beginWide is how wide a picture stands on the slip of a new map, in pixels.
const beginWide = 140

// beginPicture puts a picture of the shelf on the focus concept of a new map; into
// the tray where it has none yet. It is an entry of its own: undone, the map is as
// it would be without.
func (w *Workspace) beginPicture(ctx context.Context, who Person, id cm.ID, name string) error {
	source, err := w.FromShelf(ctx, id, who, name)
	if err != nil {
		return err
	}
	d := w.Session(id)
	now, err := d.Look(ctx)
	if err != nil {
		return err
	}
	on := cm.Key{Kind: cm.EntityMap, ID: id}
	if now.Map.Focus != "" {
		on, source.Wide = cm.Key{Kind: cm.EntityConcept, ID: now.Map.Focus}, beginWide
	}
	ops, err := edit.Sent(&edit.AttachSource{On: on, ID: NewThingID("s"), Source: source})
	if err != nil {
		return err
	}
	_, err = d.Perform(ctx, who, Asked{ID: NewThingID("g"), Window: "begin", Operations: ops})
	return err
}

// Upload makes a map of a document. Files that the person brought to another map here
// are there for this one, too; where one is missing its place on the map says so.
func (w *Workspace) Upload(ctx context.Context, who Person, raw []byte) (cm.ID, error) {
	m, err := document.Read(raw)
	if err != nil {
		return "", err
	}
	m.ID = newMapID()
	err = w.Store.For(who.Scope).Put(ctx, m, who.ID, nil)
	for _, f := range m.Files() {
		if err == nil {
			err = w.Store.For(who.Scope).UseFile(ctx, m.ID, who.ID, f.Hash)
		}
		if errors.Is(err, store.ErrNoFile) {
			err = nil
		}
	}
	return m.ID, err
}

// Rename names a map: an edit like any other.
func (w *Workspace) Rename(ctx context.Context, who Person, id cm.ID, title string) error {
	ops, err := edit.Sent(&edit.NameMap{Title: title})
	if err == nil {
		_, err = w.Session(id).Perform(ctx, who, Asked{ID: NewThingID("g"), Window: "library", Operations: ops})
	}
	return err
}

// Copy makes a map like another one.
func (w *Workspace) Copy(ctx context.Context, who Person, id cm.ID) (cm.ID, error) {
	return w.twin(ctx, who, id, false, func(m *cm.Map) *cm.Map {
		if name := []rune(m.Name()); len(name) > 0 {
			m.Title = m.Title.With(m.Language, "Copy of "+string(name[:min(len(name), cm.MaxTitle-8)]))
		}
		return m
	})
}

// Discard puts a map into the bin.
func (w *Workspace) Discard(ctx context.Context, who Person, id cm.ID) error {
	err := w.Store.For(who.Scope).Discard(ctx, id)
	w.sessions.forget(id)
	return err
}

// Restore takes a map out of the bin.
func (w *Workspace) Restore(ctx context.Context, who Person, id cm.ID) error {
	err := w.Store.For(who.Scope).Restore(ctx, id)
	w.sessions.forget(id)
	return err
}

// Small gives the drawing of a map as lists show it, and its revision. A map that nobody
// works on is not kept for that.
func (w *Workspace) Small(ctx context.Context, who Person, id cm.ID) (drawing string, revision int, err error) {
	m, revision, err := w.Store.For(who.Scope).Load(ctx, id)
	if err != nil {
		return "", 0, err
	}
	defer (&State{Map: m}).Turn(ctx)()
	m = m.WithoutDiscussion()
	return svg.Small(scene.Build(m, structure.Of(m), scene.View{}, nil)), revision, nil
}

// Picture gives the drawing of a map as a file that leaves it, without what was said of
// the map, but for judgements where they are wanted. Pictures gives those on its slips.
func (s *State) Picture(judged bool, pictures func(hash string) (kind string, raw []byte, ok bool)) string {
	sc := s.Scene
	if s.Map.Discussed() {
		m := s.Map.WithoutDiscussion()
		if judged {
			m.Judgements = s.Map.Judgements
		}
		sc = scene.Build(m, structure.Of(m), scene.View{}, nil)
	}
	return svg.Document(sc, s.Map.Name(), s.Map.Words(s.Map.Question), pictures)
}

var ErrNotOnShelf = errors.New("nothing on the shelf has that name")

// FromShelf keeps an item of the shelf as a file of a map, and gives it as a source.
func (w *Workspace) FromShelf(ctx context.Context, id cm.ID, who Person, name string) (cm.Source, error) {
	item, raw, ok := w.Shelf.Content(name)
	if !ok {
		return cm.Source{}, ErrNotOnShelf
	}
	kept, err := w.Store.For(who.Scope).KeepFile(ctx, id, who.ID, item.File, bytes.NewReader(raw), Recognise)
	return cm.Source{File: &kept.File, Title: item.Title, Says: item.Says, Licence: item.Licence}, err
}

package workspace

import (
	"context"
	"slices"
	"sync"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
	"mevrin/core/work"
	"mevrin/draw/scene"
	"mevrin/format/content"
	"mevrin/format/formats"
	"mevrin/format/tables"
)

// Imports are files that were brought and are looked at before anything is made of them. They last
// until they are taken, for a while, and as long as there is room.
type Imports struct {
	mu  sync.Mutex
	all []*Import
}

// Import is a file that waits.
type Import struct {
	ID    string
	Name  string
	Who   string
	Into  cm.ID // the map to which it may be added; empty for none
	Raw   []byte
	since time.Time
}

// The bounds of what waits: bytes of all files together, and for how long.
const (
	maxWaiting  = 96 << 20
	importLasts = time.Hour
)

// Wait keeps a file until it is taken, and gives its id.
func (w *Workspace) Wait(who Person, into cm.ID, name string, raw []byte) string {
	all := &w.imports
	all.mu.Lock()
	defer all.mu.Unlock()
	now := w.Store.Now()
	one := &Import{ID: string(NewThingID("i")), Name: name, Who: who.ID, Into: into, Raw: raw, since: now}
	all.all = append(slices.DeleteFunc(all.all, func(i *Import) bool { return now.Sub(i.since) > importLasts }), one)
	sum := 0
	for _, i := range all.all {
		sum += len(i.Raw)
	}
	for sum > maxWaiting && len(all.all) > 1 { // the oldest goes
		sum -= len(all.all[0].Raw)
		all.all = all.all[1:]
	}
	return one.ID
}

// Waiting gives a file that somebody brought; nil where it does not wait any more.
func (w *Workspace) Waiting(who Person, id string) *Import {
	w.imports.mu.Lock()
	defer w.imports.mu.Unlock()
	for _, i := range w.imports.all {
		if i.ID == id && i.Who == who.ID {
			return i
		}
	}
	return nil
}

// Drop forgets a file that waits.
func (w *Workspace) Drop(who Person, id string) {
	w.imports.mu.Lock()
	defer w.imports.mu.Unlock()
	w.imports.all = slices.DeleteFunc(w.imports.all, func(i *Import) bool { return i.ID == id && i.Who == who.ID })
}

// Wish says how a file is to be read: which sheet of a workbook, which columns of a table hold what (nil
// for what its head says), and what else of it becomes label, phrase and note.
type Wish struct {
	Sheet   int
	Columns *tables.Columns
	content.Choice
}

// Look is what was found in a file that waits.
type Look struct {
	Draft  *content.Draft // nil where it cannot be read
	Format *formats.Format
	Sheets []string       // of a workbook
	Rows   [][]string     // of a table
	Wished tables.Columns // as the rows were read
}

// Read reads a file that waits, as it is wished. Where it refuses, the rest of the look says how far it came.
func (i *Import) Read(wish Wish) (look Look, err error) {
	f := formats.ByName(i.Name, "")
	if f == nil || f.Rows == nil {
		look.Draft, look.Format, err = formats.Read(i.Name, i.Raw)
	} else {
		look.Format = f
		if f.Sheets != nil {
			if look.Sheets, err = f.Sheets(i.Raw); err != nil {
				return look, err
			}
		}
		if look.Rows, err = f.Rows(i.Raw, wish.Sheet); err != nil {
			return look, err
		}
		look.Wished = tables.Guess(look.Rows)
		if wish.Columns != nil {
			look.Wished = *wish.Columns
		}
		look.Draft, err = tables.Read(look.Rows, look.Wished)
	}
	if err != nil {
		return look, err
	}
	look.Draft, err = look.Draft.Chosen(wish.Choice)
	return look, err
}

// Built makes the map of a draft, as it would be.
func Built(ctx context.Context, d *content.Draft, newID func(string) cm.ID) (m *cm.Map, ops []edit.Operation, err error) {
	err = Working(ctx, func(limit *work.Limit) error {
		m, ops, err = d.Build(newMapID(), newID, layout.Placer{Measurer: scene.Measurer{}, Stop: limit})
		return err
	})
	return m, ops, err
}

// Take makes a map of a draft, or adds it to one, and gives the map's id.
func (w *Workspace) Take(ctx context.Context, who Person, into cm.ID, d *content.Draft) (cm.ID, error) {
	if into == "" || d.Map != nil {
		m, ops, err := Built(ctx, d, NewThingID)
		if err != nil {
			return "", err
		}
		if ops == nil {
			return m.ID, w.Store.For(who.Scope).Put(ctx, m, who.ID, nil)
		}
		raw, err := edit.MarshalOperations(ops)
		if err != nil {
			return "", err
		}
		return m.ID, w.Store.For(who.Scope).Put(ctx, m, who.ID, raw)
	}
	now, err := w.Session(into).Look(ctx)
	if err != nil {
		return "", err
	}
	added := *d
	added.Title, added.Question, added.Language = "", "", ""
	right, top := 0.0, 0.0
	if len(now.Scene.Slips) > 0 { // beside what is there
		box := now.Scene.Bounds()
		right, top = box.X+box.W+120, box.Y
	}
	added.Concepts = slices.Clone(d.Concepts)
	for i := range added.Concepts {
		at := cm.Point{X: float64(i%12) * 240, Y: float64(i/12) * 120}
		if c := added.Concepts[i].At; c != nil {
			at = *c
		}
		added.Concepts[i].At = &cm.Point{X: right + 120 + at.X, Y: top + at.Y}
	}
	sent, err := edit.Sent(added.Operations(NewThingID, now.Map.Focus == "")...)
	if err != nil {
		return "", err
	}
	_, err = w.Session(into).Perform(ctx, who, Asked{ID: NewThingID("g"), Window: "import", Operations: sent})
	return into, err
}

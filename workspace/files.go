package workspace

import (
	"context"
	"errors"
	"io"
	"mime"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"unicode"

	"github.com/gabriel-vasile/mimetype"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/format/picture"
	"mevrin/store"
)

// KeepFile keeps a file that somebody brought to a map, under a name of which nothing but
// the last part counts; what a picture looks like on a slip is made at once, so that
// nobody waits for it when the map is opened.
func (w *Workspace) KeepFile(ctx context.Context, who Person, id cm.ID, called string, content io.Reader) (name string, kept store.Kept, err error) {
	if _, err := w.Session(id).Look(ctx); err != nil {
		return "", kept, err
	}
	name, err = cm.Clean(filepath.Base(strings.ReplaceAll(called, `\`, "/")), cm.MaxSourceName, "The name of a file")
	if err != nil || name == "." || name == "/" {
		name = ""
	}
	if kept, err = w.Store.For(who.Scope).KeepFile(ctx, id, who.ID, name, content, Recognise); err != nil {
		return name, kept, err
	}
	w.prepare(ctx, who, id, kept)
	return name, kept, nil
}

// prepare makes what a picture looks like on a slip, so that nobody waits for it
// when the map is opened. Where it cannot be made the picture itself is shown.
func (w *Workspace) prepare(ctx context.Context, who Person, id cm.ID, kept store.Kept) {
	if kept.W == 0 || kept.Type == "image/svg+xml" {
		return
	}
	if _, path, err := w.Store.For(who.Scope).FileOf(ctx, id, kept.Hash); err == nil {
		_, _ = w.SmallPicture(ctx, kept, path)
	}
}

// Recognise tells what a file is by what is in it, never by its name, and how
// large it is where it is a picture; it says why where it cannot be kept.
func Recognise(f *cm.File, path string) error {
	if f.Size == 0 {
		return cm.Refusef("That file is empty.")
	}
	kind, err := mimetype.DetectFile(path)
	if err != nil {
		return err
	}
	f.Type, _, _ = mime.ParseMediaType(kind.String())
	if !strings.HasPrefix(f.Type, "image/") {
		return nil
	}
	raw, err := os.ReadFile(path)
	if err != nil {
		return err
	}
	f.W, f.H, err = picture.Extent(raw, f.Type)
	if errors.Is(err, picture.ErrUnreadable) {
		// It says that it is a picture, and is none that can be shown.
		f.Type = "application/octet-stream"
		return nil
	}
	return err
}

// smallSize is how large the pictures on slips are at most, in pixels: twice as
// large as they stand there, for fine screens.
const smallSize = 2 * cm.MaxPicture

// decoding is held by whoever decodes a picture: one at a time, since one may take
// as much memory as all else together.
var decoding = make(chan struct{}, 1)

// errNoSmall tells that a picture could not be made smaller when it was tried.
var errNoSmall = errors.New("this picture cannot be made smaller here")

// SmallPicture gives a picture as it stands on a slip, made once; what failed once is
// not tried again.
func (w *Workspace) SmallPicture(ctx context.Context, kept store.Kept, path string) ([]byte, error) {
	small, made := w.Store.Beside(kept.Hash, "small")
	if !made {
		if err := w.makeSmall(ctx, path, small); err != nil {
			return nil, err
		}
	}
	raw, err := w.readFile(small)
	if err == nil && len(raw) == 0 {
		err = errNoSmall
	}
	return raw, err
}

func (w *Workspace) makeSmall(ctx context.Context, path, small string) error {
	select {
	case decoding <- struct{}{}:
		defer func() { <-decoding }()
	case <-ctx.Done():
		return ctx.Err()
	}
	if _, err := os.Lstat(small); err == nil {
		return nil // another request made it
	}
	raw, err := w.readFile(path)
	if err != nil {
		return err
	}
	out, _, err := picture.Small(raw, smallSize)
	if err != nil {
		out = nil // remembered as what cannot be made
	}
	temp, err := os.CreateTemp(filepath.Dir(small), "small-*")
	if err != nil {
		return err
	}
	_, err = temp.Write(out)
	if err := errors.Join(err, temp.Close(), os.Rename(temp.Name(), small)); err != nil {
		_ = os.Remove(temp.Name())
		return err
	}
	return nil
}

func (w *Workspace) readFile(path string) ([]byte, error) {
	file, err := w.Store.OpenFile(path)
	if err != nil {
		return nil, err
	}
	defer func() { _ = file.Close() }()
	return io.ReadAll(file)
}

// Pictures gives those on the slips of a map, for a drawing that leaves it.
func (w *Workspace) Pictures(ctx context.Context, who Person, id cm.ID) func(string) (string, []byte, bool) {
	return func(hash string) (string, []byte, bool) {
		kept, path, err := w.Store.For(who.Scope).FileOf(ctx, id, hash)
		if err != nil {
			return "", nil, false
		}
		if kept.Type == "image/svg+xml" {
			raw, err := w.readFile(path)
			return kept.Type, raw, err == nil
		}
		raw, err := w.SmallPicture(ctx, kept, path)
		return http.DetectContentType(raw[:min(len(raw), 512)]), raw, err == nil
	}
}

// maxFileName bounds a file's name in bytes; file systems take 255.
const maxFileName = 120

// FileName makes the name of a file, without its ending, of the name of a map:
// letters of all scripts, but nothing that a common file system takes amiss.
func FileName(name string) string {
	name = strings.Map(func(r rune) rune {
		switch {
		case strings.ContainsRune(`/\:*?"<>|`, r), unicode.IsControl(r):
			return ' '
		case unicode.Is(unicode.Cf, r):
			return -1
		}
		return r
	}, name)
	name = strings.Join(strings.Fields(name), " ")
	var out strings.Builder
	for _, r := range name {
		if out.Len()+len(string(r)) > maxFileName {
			break
		}
		out.WriteRune(r)
	}
	name = strings.Trim(out.String(), ". ")
	if name == "" {
		return "Map"
	}
	if device[strings.ToUpper(strings.SplitN(name, ".", 2)[0])] {
		return "Map " + name
	}
	return name
}

// device holds names that one family of systems keeps for itself.
var device = func() map[string]bool {
	all := map[string]bool{"CON": true, "PRN": true, "AUX": true, "NUL": true}
	for _, n := range "123456789" {
		all["COM"+string(n)], all["LPT"+string(n)] = true, true
	}
	return all
}()

// takeFiles lets a map use the files of what is pasted on it, where whoever pastes brought
// them to another map. A source whose file cannot be had does not come along.
func (d *Session) takeFiles(ctx context.Context, who Person, ops []edit.Operation) error {
	for _, op := range ops {
		paste, is := op.(*edit.Paste)
		if !is {
			continue
		}
		part, err := document.Read(paste.Document)
		if err != nil {
			return err
		}
		without := false
		take := func(sources map[cm.ID]cm.Source) {
			for id, source := range sources {
				if source.File != nil && d.store.UseFile(ctx, d.id, who.ID, source.File.Hash) != nil {
					delete(sources, id)
					without = true
				}
			}
		}
		for _, c := range part.Concepts {
			take(c.Sources)
		}
		for _, l := range part.Links {
			take(l.Sources)
		}
		if without {
			if paste.Document, err = document.Write(part); err != nil {
				return err
			}
		}
	}
	return nil
}

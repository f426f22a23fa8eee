// Package safe opens files that somebody else made: bounded in size, depth and memory, whatever they hold.
package safe

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"path"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	cm "mevrin/core/conceptmap"
)

// The bounds of what is read: bytes of one part of an archive and of all together, the parts, and how
// deep elements may lie in each other.
const (
	MaxPart  = 30 << 20
	MaxAll   = 60 << 20
	MaxParts = 4000
	MaxDepth = 200
)

// Text gives the words of a file that is written as UTF-8 or UTF-16 with a mark, or as Latin-1 (Windows
// 1252) where it is neither.
func Text(raw []byte) string {
	if bytes.HasPrefix(raw, []byte{0xFF, 0xFE}) || bytes.HasPrefix(raw, []byte{0xFE, 0xFF}) {
		if out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewDecoder().Bytes(raw); err == nil {
			return string(out)
		}
	}
	raw = bytes.TrimPrefix(raw, []byte{0xEF, 0xBB, 0xBF})
	if utf8.Valid(raw) {
		return string(raw)
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(raw)
	if err != nil {
		return strings.ToValidUTF8(string(raw), "�")
	}
	return string(out)
}

// XML reads XML token by token and gives each to what takes it, with its line; it ends where that refuses.
// It knows no entities but the five of XML itself, and refuses a file that declares others, that is broken,
// or whose elements lie deeper in each other than MaxDepth.
func XML(raw []byte, take func(t xml.Token, line int) error) error {
	text := Text(raw)
	if strings.Contains(text, "<!ENTITY") || strings.Contains(text, "<!entity") {
		return cm.Refusef("This file declares entities of its own. It is not read, to be safe.")
	}
	dec := xml.NewDecoder(strings.NewReader(text))
	dec.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil } // it is UTF-8 by now
	depth := 0
	for {
		t, err := dec.Token()
		switch {
		case errors.Is(err, io.EOF):
			return nil
		case err != nil:
			return broken(err)
		}
		switch t.(type) {
		case xml.StartElement:
			if depth++; depth > MaxDepth {
				return cm.Refusef("This file is nested too deeply to be a map.")
			}
		case xml.EndElement:
			depth--
		}
		line, _ := dec.InputPos()
		if err := take(t, line); err != nil {
			return err
		}
	}
}

// broken refuses XML that is broken, and says where it is.
func broken(err error) error {
	var syntax *xml.SyntaxError
	if errors.As(err, &syntax) {
		return cm.Refusef("This file is broken in line %d.", syntax.Line)
	}
	return cm.Refusef("This file is broken: it ends too early.")
}

// Attributes gives the attributes of an element by their local names.
func Attributes(t xml.StartElement) map[string]string {
	all := map[string]string{}
	for _, a := range t.Attr {
		all[a.Name.Local] = a.Value
	}
	return all
}

// Archive is a ZIP file whose parts are read within bounds.
type Archive struct {
	parts map[string]*zip.File
	left  int64
}

// Open opens a ZIP file. Parts whose names lead out of it are refused.
func Open(raw []byte) (*Archive, error) {
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		return nil, cm.Refusef("This file is broken: it cannot be unpacked.")
	}
	if len(z.File) > MaxParts {
		return nil, cm.Refusef("This file has too many parts to be read.")
	}
	a := &Archive{parts: map[string]*zip.File{}, left: MaxAll}
	for _, f := range z.File {
		if name := path.Clean("/" + strings.ReplaceAll(f.Name, "\\", "/")); name != "/"+strings.TrimSuffix(f.Name, "/") {
			return nil, cm.Refusef("A part of this file has a name that leads out of it. It is not read, to be safe.")
		}
		a.parts[f.Name] = f
	}
	return a, nil
}

// Has tells whether there is a part of a name.
func (a *Archive) Has(name string) bool { return a.parts[name] != nil }

// Part gives a part of the archive; nil where there is none of that name. It refuses what unpacks to
// more than the bounds.
func (a *Archive) Part(name string) ([]byte, error) {
	f := a.parts[name]
	if f == nil {
		return nil, nil
	}
	in, err := f.Open()
	if err != nil {
		return nil, cm.Refusef("This file is broken: it cannot be unpacked.")
	}
	defer in.Close()
	most := min(MaxPart, a.left)
	out, err := io.ReadAll(io.LimitReader(in, most+1))
	if int64(len(out)) > most {
		return nil, cm.Refusef("This file unpacks to more than can be read.")
	}
	if err != nil {
		return nil, cm.Refusef("This file is broken: it cannot be unpacked.")
	}
	a.left -= int64(len(out))
	return out, nil
}

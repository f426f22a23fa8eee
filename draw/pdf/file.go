// Package pdf writes drawings and set text as PDF (ISO 32000-1), with the glyphs of the shipped fonts,
// words that can be searched and copied, links, bookmarks, and a structure for those who have it read.
package pdf

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"strings"
	"unicode/utf16"
)

// file is a PDF as it is written: objects by number, from 1.
type file struct {
	bytes.Buffer
	offsets []int
}

// ref names an object.
type ref int

func (r ref) String() string { return fmt.Sprintf("%d 0 R", int(r)) }

// reserve gives the number of an object that is written later.
func (f *file) reserve() ref {
	f.offsets = append(f.offsets, 0)
	return ref(len(f.offsets))
}

// put writes an object under a number that was reserved.
func (f *file) put(r ref, body string) {
	f.offsets[r-1] = f.Len()
	fmt.Fprintf(f, "%d 0 obj\n%s\nendobj\n", int(r), body)
}

// add writes an object, and gives its number.
func (f *file) add(body string) ref {
	r := f.reserve()
	f.put(r, body)
	return r
}

// stream writes an object of bytes, made small, with more entries of its dictionary.
func (f *file) stream(entries string, raw []byte) ref {
	var small bytes.Buffer
	z := zlib.NewWriter(&small)
	_, _ = z.Write(raw) // to memory
	_ = z.Close()
	return f.raw(entries+" /Filter /FlateDecode", small.Bytes())
}

// raw writes an object of bytes as they are.
func (f *file) raw(entries string, raw []byte) ref {
	r := f.reserve()
	f.offsets[r-1] = f.Len()
	fmt.Fprintf(f, "%d 0 obj\n<< %s /Length %d >>\nstream\n", int(r), entries, len(raw))
	f.Write(raw)
	f.WriteString("\nendstream\nendobj\n")
	return r
}

// begin writes the head of a file.
func (f *file) begin() { f.WriteString("%PDF-1.7\n%\xe2\xe3\xcf\xd3\n") }

// end writes the table of objects.
func (f *file) end(root, info ref) {
	at := f.Len()
	fmt.Fprintf(f, "xref\n0 %d\n0000000000 65535 f \n", len(f.offsets)+1)
	for _, o := range f.offsets {
		fmt.Fprintf(f, "%010d 00000 n \n", o)
	}
	fmt.Fprintf(f, "trailer\n<< /Size %d /Root %s /Info %s >>\nstartxref\n%d\n%%%%EOF\n", len(f.offsets)+1, root, info, at)
}

// text writes words as a string of a PDF.
func text(words string) string {
	var b strings.Builder
	b.WriteString("<FEFF")
	for _, u := range utf16.Encode([]rune(words)) {
		fmt.Fprintf(&b, "%04X", u)
	}
	b.WriteByte('>')
	return b.String()
}

// address writes an address as a string of a PDF.
func address(url string) string {
	return "(" + strings.NewReplacer("\\", "\\\\", "(", "\\(", ")", "\\)", "\r", "", "\n", "").Replace(url) + ")"
}

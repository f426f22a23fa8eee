package raster

import (
	"bytes"
	"encoding/binary"
	"hash/adler32"
	"hash/crc32"
	"image"
	"io"

	"github.com/klauspost/compress/flate"
)

// PNG writes a picture as PNG (ISO/IEC 15948): with three bytes for each pixel where nothing lets
// anything through, else with four. Each row is told by its difference from the one above, which is
// nothing on most of a drawing; so it is written several times faster than by trying all ways.
func PNG(img *image.RGBA) ([]byte, error) {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	opaque := img.Opaque()
	wide, kind := 4, byte(6)
	if opaque {
		wide, kind = 3, 2
	}
	var out bytes.Buffer
	out.WriteString("\x89PNG\r\n\x1a\n")
	chunk := func(name string, body []byte) {
		var n [4]byte
		binary.BigEndian.PutUint32(n[:], uint32(len(body)))
		out.Write(n[:])
		sum := crc32.NewIEEE()
		_, _ = sum.Write([]byte(name)) // never fails
		_, _ = sum.Write(body)
		out.WriteString(name)
		out.Write(body)
		binary.BigEndian.PutUint32(n[:], sum.Sum32())
		out.Write(n[:])
	}
	head := make([]byte, 13)
	binary.BigEndian.PutUint32(head, uint32(w))
	binary.BigEndian.PutUint32(head[4:], uint32(h))
	head[8], head[9] = 8, kind
	chunk("IHDR", head)
	body, err := deflated(img, opaque, wide)
	if err != nil {
		return nil, err
	}
	chunk("IDAT", body)
	chunk("IEND", nil)
	return out.Bytes(), nil
}

// deflated gives the rows of a picture as a zlib stream (RFC 1950). Bands of rows are pressed together
// beside each other: each ends at a whole byte, so that the next may follow it, and the last ends the stream.
func deflated(img *image.RGBA, opaque bool, wide int) ([]byte, error) {
	type band struct {
		body bytes.Buffer
		sum  uint32
		long int
		err  error
	}
	w, h := img.Rect.Dx(), img.Rect.Dy()
	bands := make([]band, bandsOf(h))
	inBands(h, len(bands), func(i, from, to int) {
		b := &bands[i]
		b.long = (to - from) * (1 + w*wide)
		b.sum, b.err = press(&b.body, img, opaque, wide, from, to)
	})
	out, sum := []byte{0x78, 0x01}, uint32(1)
	for i := range bands {
		b := &bands[i]
		if b.err != nil {
			return nil, b.err
		}
		out, sum = append(out, b.body.Bytes()...), joinedSum(sum, b.sum, b.long)
	}
	return binary.BigEndian.AppendUint32(out, sum), nil
}

// press writes some rows of a picture by DEFLATE, and gives the Adler-32 of what was pressed.
func press(to io.Writer, img *image.RGBA, opaque bool, wide, first, end int) (uint32, error) {
	z, err := flate.NewWriter(to, flate.BestSpeed)
	if err != nil {
		return 0, err
	}
	w, sum := img.Rect.Dx(), adler32.New()
	above, row, told := make([]byte, w*wide), make([]byte, w*wide), make([]byte, 1+w*wide)
	if first > 0 {
		readRow(above, img, opaque, first-1)
	}
	told[0] = 2 // the difference from the row above
	for y := first; y < end; y++ {
		readRow(row, img, opaque, y)
		for i := range row {
			told[1+i] = row[i] - above[i]
		}
		_, _ = sum.Write(told) // never fails
		if _, err := z.Write(told); err != nil {
			return 0, err
		}
		above, row = row, above
	}
	if end == img.Rect.Dy() {
		return sum.Sum32(), z.Close()
	}
	return sum.Sum32(), z.Flush()
}

// readRow gives the colours of one row as PNG has them.
func readRow(row []byte, img *image.RGBA, opaque bool, y int) {
	w := img.Rect.Dx()
	line := img.Pix[y*img.Stride : y*img.Stride+4*w]
	if opaque {
		for x := range w {
			row[3*x], row[3*x+1], row[3*x+2] = line[4*x], line[4*x+1], line[4*x+2]
		}
		return
	}
	for x := range w {
		r, g, b, a := line[4*x], line[4*x+1], line[4*x+2], line[4*x+3]
		if a != 0 && a != 255 { // RGBA is multiplied with what it lets through, PNG is not
			r, g, b = uint8(int(r)*255/int(a)), uint8(int(g)*255/int(a)), uint8(int(b)*255/int(a))
		}
		row[4*x], row[4*x+1], row[4*x+2], row[4*x+3] = r, g, b, a
	}
}

// joinedSum gives the Adler-32 of two runs of bytes after each other from those of each and the length of
// the second (by its definition in RFC 1950, section 8.2).
func joinedSum(first, second uint32, long int) uint32 {
	const base = 65521
	a1, b1 := uint64(first&0xffff), uint64(first>>16)
	a2, b2 := uint64(second&0xffff), uint64(second>>16)
	a := (a1 + a2 + base - 1) % base
	b := (b1 + b2 + uint64(long)%base*(a1+base-1)) % base
	return uint32(b<<16 | a)
}

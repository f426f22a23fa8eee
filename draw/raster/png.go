package raster

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"

	"github.com/klauspost/compress/zlib"
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
	var body bytes.Buffer
	z, err := zlib.NewWriterLevel(&body, zlib.BestSpeed)
	if err != nil {
		return nil, err
	}
	above, row, told := make([]byte, w*wide), make([]byte, w*wide), make([]byte, 1+w*wide)
	told[0] = 2 // the difference from the row above
	for y := range h {
		line := img.Pix[y*img.Stride : y*img.Stride+4*w]
		if opaque {
			for x := range w {
				row[3*x], row[3*x+1], row[3*x+2] = line[4*x], line[4*x+1], line[4*x+2]
			}
		} else {
			for x := range w {
				r, g, b, a := line[4*x], line[4*x+1], line[4*x+2], line[4*x+3]
				if a != 0 && a != 255 { // RGBA is multiplied with what it lets through, PNG is not
					r, g, b = uint8(int(r)*255/int(a)), uint8(int(g)*255/int(a)), uint8(int(b)*255/int(a))
				}
				row[4*x], row[4*x+1], row[4*x+2], row[4*x+3] = r, g, b, a
			}
		}
		for i := range row {
			told[1+i] = row[i] - above[i]
		}
		if _, err := z.Write(told); err != nil {
			return nil, err
		}
		above, row = row, above
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	chunk("IDAT", body.Bytes())
	chunk("IEND", nil)
	return out.Bytes(), nil
}

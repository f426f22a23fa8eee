// Package picture reads pictures that people bring: how large they are when
// upright, and a smaller version for the paper. Every byte is taken as hostile:
// sizes are looked at before anything is decoded.
package picture

import (
	"bytes"
	"encoding/binary"
	"encoding/xml"
	"errors"
	"image"
	"image/color"
	"image/draw"
	_ "image/gif" // so that it can be decoded
	"image/jpeg"
	"image/png"
	"math"
	"strconv"
	"strings"

	_ "golang.org/x/image/webp" // so that it can be decoded
)

// What is decoded is bounded by pixels, by the length of a side, and by the memory
// that decoding takes, in bytes: a picture of many colours, or one that is sent in
// several passes, takes a multiple of another one of the same size.
const (
	MaxPixels = 40_000_000
	MaxSide   = 20_000
	MaxMemory = 170 << 20
)

// ErrTooLarge tells that a picture has more pixels than are decoded; ErrUnreadable
// that it is damaged or of a sort that is not known.
var (
	ErrTooLarge   = errors.New("picture: too many pixels")
	ErrUnreadable = errors.New("picture: cannot be read")
)

// Extent gives the width and height of an upright picture in pixels.
func Extent(raw []byte, mediaType string) (w, h int, err error) {
	if mediaType == "image/svg+xml" {
		return svgExtent(raw)
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || config.Width <= 0 || config.Height <= 0 {
		return 0, 0, ErrUnreadable
	}
	if max(config.Width, config.Height) > MaxSide || config.Width > MaxPixels/config.Height || memory(raw, config, format) > MaxMemory {
		return 0, 0, ErrTooLarge
	}
	if orientation(raw) > 4 {
		return config.Height, config.Width, nil
	}
	return config.Width, config.Height, nil
}

// Small gives a version at most so many pixels wide and high, upright, as PNG
// where it has transparent places or few colours, else as JPEG. A picture that is
// small and upright already is given as it is.
func Small(raw []byte, most int) (small []byte, mediaType string, err error) {
	if _, _, err := Extent(raw, ""); err != nil {
		return nil, "", err
	}
	way := orientation(raw)
	if config, format, err := image.DecodeConfig(bytes.NewReader(raw)); err == nil && max(config.Width, config.Height) <= most && way == 1 {
		return raw, "image/" + format, nil // as it is
	}
	src, format, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, "", ErrUnreadable
	}
	b := src.Bounds()
	by := math.Min(1, float64(most)/float64(max(b.Dx(), b.Dy())))
	dst := turned(shrunk(src, max(1, int(float64(b.Dx())*by)), max(1, int(float64(b.Dy())*by))), way)
	var out bytes.Buffer
	if format == "jpeg" || dst.Opaque() && format != "png" {
		err = jpeg.Encode(&out, dst, &jpeg.Options{Quality: 86})
		return out.Bytes(), "image/jpeg", err
	}
	err = png.Encode(&out, dst)
	return out.Bytes(), "image/png", err
}

// memory estimates what decoding takes, in bytes, as the decoders of the standard
// library and of x/image do it.
func memory(raw []byte, config image.Config, format string) int64 {
	pixels, each := int64(config.Width)*int64(config.Height), 4.0
	switch config.ColorModel {
	case color.GrayModel:
		each = 1
	case color.Gray16Model:
		each = 2
	case color.NRGBA64Model, color.RGBA64Model:
		each = 8
	}
	if _, is := config.ColorModel.(color.Palette); is {
		each = 1
	}
	switch {
	case format == "jpeg":
		samples, passes := frame(raw)
		if each = max(each, samples); config.ColorModel == color.YCbCrModel {
			each = samples
		}
		if passes {
			each += 4 * samples // coefficients of 32 bits are kept to the last pass
		}
	case format == "png" && len(raw) > 28 && raw[28] == 1:
		each *= 1.5 // interlaced
	}
	return int64(float64(pixels) * each)
}

// frame reads from a JPEG how many samples it has for each pixel, and whether it
// comes in several passes (ITU-T T.81, B.2.2); of what cannot be told, the dearest.
func frame(raw []byte) (samples float64, passes bool) {
	for at := 2; at+4 <= len(raw) && raw[at] == 0xff; {
		switch raw[at+1] {
		case 0xff:
			at++ // fill
			continue
		case 0xc0, 0xc1, 0xc2:
			most := 1
			for i := at + 10; i+3 <= len(raw) && i < at+10+3*int(raw[at+9]); i += 3 {
				sampling := int(raw[i+1]>>4) * int(raw[i+1]&15)
				samples += float64(sampling)
				most = max(most, sampling)
			}
			return samples / float64(most), raw[at+1] == 0xc2
		}
		at += 2 + int(binary.BigEndian.Uint16(raw[at+2:]))
	}
	return 4, true
}

// bandHeight is how many rows of a picture are looked at at a time.
const bandHeight = 32

// shrunk gives a picture at most as large as it is, each pixel the mean of those
// that it stands for. Beside the two pictures it takes a band of rows.
func shrunk(src image.Image, w, h int) *image.NRGBA {
	b := src.Bounds()
	sums, counts := make([]uint64, 4*w*h), make([]uint64, w*h)
	band := image.NewRGBA(image.Rect(0, 0, b.Dx(), bandHeight))
	for top := 0; top < b.Dy(); top += bandHeight {
		rows := min(bandHeight, b.Dy()-top)
		draw.Draw(band, image.Rect(0, 0, b.Dx(), rows), src, image.Pt(b.Min.X, b.Min.Y+top), draw.Src)
		for y := range rows {
			line := (top + y) * h / b.Dy() * w
			row := band.Pix[y*band.Stride:]
			for x := range b.Dx() {
				to := line + x*w/b.Dx()
				for i := range 4 {
					sums[4*to+i] += uint64(row[4*x+i])
				}
				counts[to]++
			}
		}
	}
	mean := image.NewRGBA(image.Rect(0, 0, w, h))
	for i, sum := range sums {
		if n := counts[i/4]; n > 0 {
			mean.Pix[i] = uint8((sum + n/2) / n)
		}
	}
	dst := image.NewNRGBA(mean.Rect)
	draw.Draw(dst, dst.Rect, mean, image.Point{}, draw.Src)
	return dst
}

// turned gives a picture as an orientation of Exif would have it shown.
func turned(src *image.NRGBA, orientation int) *image.NRGBA {
	if orientation < 2 || orientation > 8 {
		return src
	}
	w, h := src.Bounds().Dx(), src.Bounds().Dy()
	out := image.Rect(0, 0, w, h)
	if orientation > 4 {
		out = image.Rect(0, 0, h, w)
	}
	dst := image.NewNRGBA(out)
	for y := range out.Dy() {
		for x := range out.Dx() {
			sx, sy := x, y
			switch orientation {
			case 2:
				sx = w - 1 - x
			case 3:
				sx, sy = w-1-x, h-1-y
			case 4:
				sy = h - 1 - y
			case 5:
				sx, sy = y, x
			case 6:
				sx, sy = y, h-1-x
			case 7:
				sx, sy = w-1-y, h-1-x
			case 8:
				sx, sy = w-1-y, x
			}
			dst.SetNRGBA(x, y, src.NRGBAAt(sx, sy))
		}
	}
	return dst
}

// orientation gives the orientation that a JPEG states (Exif 2.32, tag 0x0112), 1
// where it states none.
func orientation(raw []byte) int {
	if len(raw) < 4 || raw[0] != 0xff || raw[1] != 0xd8 {
		return 1
	}
	for at := 2; at+4 <= len(raw) && raw[at] == 0xff; {
		size := int(binary.BigEndian.Uint16(raw[at+2:]))
		if size < 2 || at+2+size > len(raw) || raw[at+1] == 0xda {
			return 1
		}
		if part := raw[at+4 : at+2+size]; raw[at+1] == 0xe1 && bytes.HasPrefix(part, []byte("Exif\x00\x00")) {
			return ofTIFF(part[6:])
		}
		at += 2 + size
	}
	return 1
}

func ofTIFF(tiff []byte) int {
	if len(tiff) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.BigEndian
	if string(tiff[:2]) == "II" {
		order = binary.LittleEndian
	}
	at := int64(order.Uint32(tiff[4:]))
	if at+2 > int64(len(tiff)) {
		return 1
	}
	n := int64(order.Uint16(tiff[at:]))
	for i := range n {
		entry := at + 2 + 12*i
		if entry+12 > int64(len(tiff)) {
			return 1
		}
		if order.Uint16(tiff[entry:]) == 0x0112 {
			if o := int(order.Uint16(tiff[entry+8:])); o >= 1 && o <= 8 {
				return o
			}
			return 1
		}
	}
	return 1
}

// svgExtent reads how large an SVG says it is: by width and height, else by its
// view box.
func svgExtent(raw []byte) (w, h int, err error) {
	from := xml.NewDecoder(bytes.NewReader(raw))
	from.Strict = false
	for {
		token, err := from.Token()
		if err != nil {
			return 0, 0, ErrUnreadable
		}
		start, ok := token.(xml.StartElement)
		if !ok {
			continue
		}
		if start.Name.Local != "svg" {
			return 0, 0, ErrUnreadable
		}
		var wide, high float64
		var box []string
		for _, a := range start.Attr {
			switch a.Name.Local {
			case "width":
				wide = pixels(a.Value)
			case "height":
				high = pixels(a.Value)
			case "viewBox":
				box = strings.FieldsFunc(a.Value, func(r rune) bool { return r == ' ' || r == ',' })
			}
		}
		if (wide == 0 || high == 0) && len(box) == 4 {
			wide, high = pixels(box[2]), pixels(box[3])
		}
		if wide == 0 || high == 0 {
			wide, high = 300, 150 // what browsers take
		}
		return int(math.Ceil(wide)), int(math.Ceil(high)), nil
	}
}

// pixels reads a length; 0 where it is none in pixels.
func pixels(words string) float64 {
	v, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(words), "px"), 64)
	if err != nil || !(v > 0) || v > 100_000 {
		return 0
	}
	return v
}

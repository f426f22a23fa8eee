package picture_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/format/picture"
)

// sideways is a JPEG of 60 by 40 pixels, its left half red, that says it lies on
// its side.
func sideways(t testing.TB, orientation byte) []byte {
	img := image.NewNRGBA(image.Rect(0, 0, 60, 40))
	for y := range 40 {
		for x := range 60 {
			c := color.NRGBA{B: 255, A: 255}
			if x < 30 {
				c = color.NRGBA{R: 255, A: 255}
			}
			img.Set(x, y, c)
		}
	}
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, img, nil))
	exif := append([]byte("\xff\xe1\x00\x22Exif\x00\x00MM\x00\x2a\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00"), orientation, 0, 0, 0, 0, 0, 0)
	raw := out.Bytes()
	return append(append(append([]byte{}, raw[:2]...), exif...), raw[2:]...)
}

// A picture taken sideways is shown upright: what was at its left is where the
// standard has it.
func TestPicturesAreTurnedUpright(t *testing.T) {
	for orientation, red := range map[byte]image.Point{1: {5, 20}, 2: {55, 20}, 3: {55, 20}, 4: {5, 20}, 5: {20, 5}, 6: {20, 5}, 7: {20, 55}, 8: {20, 55}} {
		raw := sideways(t, orientation)
		w, h, err := picture.Extent(raw, "image/jpeg")
		require.NoError(t, err)
		small, kind, err := picture.Small(raw, 600)
		require.NoError(t, err)
		assert.Equal(t, "image/jpeg", kind)
		img, _, err := image.Decode(bytes.NewReader(small))
		require.NoError(t, err)
		assert.Equal(t, image.Pt(w, h), img.Bounds().Size(), orientation)
		r, _, b, _ := img.At(red.X, red.Y).RGBA()
		assert.Greater(t, r, b, "orientation %d", orientation)
	}
}

func TestLargePicturesBecomeSmallAndBombsAreNotOpened(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewNRGBA(image.Rect(0, 0, 1200, 300))))
	small, kind, err := picture.Small(out.Bytes(), 400)
	require.NoError(t, err)
	assert.Equal(t, "image/png", kind, "it has transparent places")
	config, err := png.DecodeConfig(bytes.NewReader(small))
	require.NoError(t, err)
	assert.Equal(t, [2]int{400, 100}, [2]int{config.Width, config.Height})

	bomb := append([]byte{}, out.Bytes()...)
	copy(bomb[16:24], []byte{0, 1, 0, 0, 0, 1, 0, 0}) // 65,536 by 65,536
	crc := bomb[:33]
	_, _, err = picture.Small(crc, 400)
	assert.Error(t, err)

	w, h, err := picture.Extent([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80,50"><script>alert(1)</script></svg>`), "image/svg+xml")
	require.NoError(t, err)
	assert.Equal(t, [2]int{80, 50}, [2]int{w, h})
	_, _, err = picture.Extent([]byte("<html><svg/></html>"), "image/svg+xml")
	assert.ErrorIs(t, err, picture.ErrUnreadable)
}

// What a picture takes to decode is told from its head, before any of it is: by its
// sides, by its pixels, by its depth, and for a photograph by how it is sent.
func TestTheHeadTellsWhatAPictureTakes(t *testing.T) {
	png := func(w, h uint32, depth, colours, interlaced byte) []byte {
		head := append([]byte("IHDR"), binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, w), h)...)
		head = append(head, depth, colours, 0, 0, interlaced)
		raw := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0d"), head...)
		return binary.BigEndian.AppendUint32(raw, crc32.ChecksumIEEE(head))
	}
	jpeg := func(w, h uint16, frame, sampling byte) []byte {
		raw := []byte{0xff, 0xd8, 0xff, frame, 0, 17, 8}
		raw = binary.BigEndian.AppendUint16(binary.BigEndian.AppendUint16(raw, h), w)
		return append(raw, 3, 1, sampling, 0, 2, 0x11, 0, 3, 0x11, 0, 0xff, 0xda, 0, 2)
	}
	const baseline, inPasses, whole, quarter = 0xc0, 0xc2, 0x11, 0x22
	for what, c := range map[string]struct {
		raw  []byte
		fits bool
	}{
		"one pixel wide": {png(1, 60_000_000, 8, 2, 0), false}, "a line": {png(30_000, 2, 8, 2, 0), false}, "many pixels": {png(7000, 7000, 8, 0, 0), false},
		"a large one": {png(6300, 6300, 8, 6, 0), true}, "of 16 bits": {png(6300, 6300, 16, 6, 0), false}, "grey of 16 bits": {png(6300, 6300, 16, 0, 0), true}, "interlaced": {png(6300, 6300, 8, 6, 1), false},
		"a photograph": {jpeg(8000, 5000, baseline, quarter), true}, "all colours": {jpeg(8000, 5000, baseline, whole), true},
		"in passes": {jpeg(8000, 5000, inPasses, quarter), false}, "in passes, smaller": {jpeg(5000, 4000, inPasses, quarter), true}, "in passes, all colours": {jpeg(5000, 4000, inPasses, whole), false},
	} {
		_, _, err := picture.Extent(c.raw, "")
		assert.Equal(t, c.fits, err == nil, "%s: %v", what, err)
		if !c.fits {
			assert.ErrorIs(t, err, picture.ErrTooLarge, what)
		}
	}
}

func FuzzPictures(f *testing.F) {
	f.Add(sideways(f, 6))
	f.Fuzz(func(t *testing.T, raw []byte) {
		if w, h, err := picture.Extent(raw, ""); err == nil && w*h < 1_000_000 {
			_, _, _ = picture.Small(raw, 100)
		}
		_, _, _ = picture.Extent(raw, "image/svg+xml")
	})
}

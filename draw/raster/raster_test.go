package raster_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/maptest"
	"mevrin/core/structure"
	"mevrin/draw/raster"
	"mevrin/draw/scene"
)

// A picture is the same on one processor as on many, and what is written as PNG is read by another
// reader as it was painted, with paper and without.
func TestAPictureIsTheSameInBands(t *testing.T) {
	out, err := edit.Apply(cm.NewMap("m", "en"), maptest.Large(40), nil)
	require.NoError(t, err)
	sc := scene.Build(out.Map, structure.Of(out.Map), scene.View{}, nil)
	for _, o := range []raster.Options{{Scale: 1}, {Scale: 1, Transparent: true}} {
		before := runtime.GOMAXPROCS(1)
		whole, err := raster.Document(sc, o)
		runtime.GOMAXPROCS(7)
		inBands, errs := raster.Document(sc, o)
		written, errw := raster.PNG(inBands)
		runtime.GOMAXPROCS(before)
		require.NoError(t, err)
		require.NoError(t, errs)
		require.NoError(t, errw)
		require.Greater(t, whole.Rect.Dy(), 800, "as high as several bands")
		require.Equal(t, whole.Rect, inBands.Rect)
		assert.True(t, bytes.Equal(whole.Pix, inBands.Pix))
		read, err := png.Decode(bytes.NewReader(written))
		require.NoError(t, err)
		assert.Equal(t, inBands.Rect, read.Bounds())
		for y := range inBands.Rect.Dy() {
			for x := range inBands.Rect.Dx() {
				was, is := inBands.RGBAAt(x, y), color.RGBAModel.Convert(read.At(x, y)).(color.RGBA)
				if was.A == 255 && was != is || was.A != is.A {
					t.Fatalf("the pixel at %v is %v, read as %v", image.Pt(x, y), was, is)
				}
			}
		}
	}
}

// Package raster paints a display list as a picture of pixels.
package raster

import (
	"fmt"
	"image"
	"image/color"
	"math"
	"runtime"
	"strings"
	"sync"

	"github.com/golang/freetype/raster"
	"golang.org/x/image/draw"
	"golang.org/x/image/math/fixed"

	"mevrin/core/geometry"
	"mevrin/draw/display"
	"mevrin/draw/face"
)

// MaxPixels bounds a picture: what is larger takes more memory than a request may have.
const MaxPixels = 36_000_000

// TooLarge tells that a picture would have more pixels than MaxPixels.
type TooLarge struct{ W, H int }

func (e TooLarge) Error() string {
	return fmt.Sprintf("a picture of %d × %d pixels is too large", e.W, e.H)
}

// Pictures gives the pictures that lie on a drawing, by the hashes of their files; nil for one that
// cannot be had.
type Pictures func(hash string) image.Image

// Paint paints what lies in a box of the paper, at so many pixels for each of its own. What is not
// painted stays transparent. Where there is no paper (clear), the room of a phrase is left free, too. It
// fails with TooLarge.
func Paint(items []display.Painted, box geometry.Box, scale float64, clear bool, pictures Pictures) (*image.RGBA, error) {
	w, h := int(math.Ceil(box.W*scale)), int(math.Ceil(box.H*scale))
	if w < 1 || h < 1 || float64(w)*float64(h) > MaxPixels {
		return nil, TooLarge{w, h}
	}
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	var one sync.Mutex
	inBands(h, bandsOf(h), func(_, from, to int) {
		part := img.SubImage(image.Rect(0, from, w, to)).(*image.RGBA)
		c := &canvas{img: part, pen: raster.NewRasterizer(w, to-from), paint: raster.NewRGBAPainter(part), clear: clear}
		if pictures != nil {
			c.pictures = func(hash string) image.Image {
				one.Lock()
				defer one.Unlock()
				return pictures(hash)
			}
		}
		for _, p := range items {
			c.place = place{(p.DX - box.X) * scale, (p.DY - box.Y) * scale, p.Scale * scale}
			c.item(p)
		}
	})
	return img, nil
}

// fewRows is the least height of a band that is worth a processor of its own.
const fewRows = 256

// bandsOf is in how many bands a picture of so many rows is worked on: one for each processor, at most.
func bandsOf(rows int) int { return max(1, min(runtime.GOMAXPROCS(0), rows/fewRows)) }

// inBands does something with all rows of a picture, in n bands below each other, each on a processor of
// its own. What is done is told which band it is.
func inBands(rows, n int, do func(band, from, to int)) {
	var all sync.WaitGroup
	for i := range n {
		all.Go(func() { do(i, rows*i/n, rows*(i+1)/n) })
	}
	all.Wait()
}

// place says where the coordinates of an item lie among the pixels.
type place struct{ dx, dy, k float64 }

func (p place) at(q geometry.Point) fixed.Point26_6 {
	return fixed.Point26_6{X: fix(p.dx + q.X*p.k), Y: fix(p.dy + q.Y*p.k)}
}

// fix gives a length in 64ths of a pixel; what lies far out is brought nearer, so that nothing overflows.
func fix(v float64) fixed.Int26_6 {
	const far = 1 << 16
	return fixed.Int26_6(math.Round(max(-far, min(far, v)) * 64))
}

type canvas struct {
	img      *image.RGBA
	pen      *raster.Rasterizer
	paint    *raster.RGBAPainter
	pictures Pictures
	place    place
	clear    bool // there is no paper: the room of a phrase is left free
}

func (c *canvas) item(p display.Painted) {
	switch i := p.Item.(type) {
	case *display.Path:
		at := c.place
		at.dx += i.At.X * at.k
		at.dy += i.At.Y * at.k
		c.outline(i.Path, at, p.Paint)
	case *display.Rect:
		if p.Stroke == "" && i.Round == 0 && p.Fill != "" && (p.FillOpacity == 0 || p.FillOpacity == 1) {
			c.box(i, p.Fill)
			return
		}
		c.outline(display.RoundedBox(i.Box, i.Round), c.place, p.Paint)
	case *display.Circle:
		c.outline(display.RoundedBox(geometry.Box{X: i.Centre.X - i.R, Y: i.Centre.Y - i.R, W: 2 * i.R, H: 2 * i.R}, i.R), c.place, p.Paint)
	case *display.Text:
		c.words(i, p.Paint)
	case *display.Image:
		c.picture(i)
	}
}

// box fills a box with one colour: pixels that it covers wholly at once, and its edges as any outline.
func (c *canvas) box(i *display.Rect, with string) {
	if strings.Contains(i.Class, "gap") && c.clear {
		c.paint.Op = draw.Src
		defer func() { c.paint.Op = draw.Over }()
		c.fillWith(pathOf(display.RoundedBox(i.Box, 0), c.place, true), color.Transparent, false)
		return
	}
	from := c.place.at(geometry.Point{X: i.Box.X, Y: i.Box.Y})
	to := c.place.at(geometry.Point{X: i.Box.X + i.Box.W, Y: i.Box.Y + i.Box.H})
	// What ends within the last row and column covers all.
	all := c.img.Bounds()
	if from.X <= 0 && from.Y <= fixed.I(all.Min.Y) && to.X.Ceil() >= all.Max.X && to.Y.Ceil() >= all.Max.Y {
		draw.Draw(c.img, all, image.NewUniform(colour(with, 1)), image.Point{}, draw.Src)
		return
	}
	c.fill(pathOf(display.RoundedBox(i.Box, 0), c.place, true), with, 1, false)
}

// lower sets the pen to the rows that a path lies in, so that no others are looked at, and gives the path
// as it lies there. It says that there is nothing to paint where the path lies beside the picture.
func (c *canvas) lower(path raster.Path, wide fixed.Int26_6) (raster.Path, bool) {
	b := c.img.Bounds()
	x0, y0, x1, y1 := fixed.Int26_6(math.MaxInt32), fixed.Int26_6(math.MaxInt32), fixed.Int26_6(math.MinInt32), fixed.Int26_6(math.MinInt32)
	for i := 0; i < len(path); {
		n := 1
		if path[i] > 0 {
			n = int(path[i])
		}
		for j := range n {
			x, y := path[i+1+2*j], path[i+2+2*j]
			x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
		}
		i += 2 + 2*n
	}
	if x1+wide < 0 || y1+wide < fixed.I(b.Min.Y) || x0-wide > fixed.I(b.Max.X) || y0-wide > fixed.I(b.Max.Y) {
		return nil, false
	}
	// The rasterizer rounds what lies above its first row into it; so that row is one that is not painted.
	top := max(b.Min.Y-1, (y0 - wide).Floor())
	c.pen.SetBounds(b.Max.X, min(b.Max.Y, (y1+wide).Ceil()+1)-top)
	c.pen.Dy = top
	by := fixed.I(top)
	for i := 0; i < len(path); {
		n := 1
		if path[i] > 0 {
			n = int(path[i])
		}
		for j := range n {
			path[i+2+2*j] -= by
		}
		i += 2 + 2*n
	}
	return path, true
}

func (c *canvas) outline(o display.Outline, at place, p display.Paint) {
	if p.Fill != "" {
		path := pathOf(o, at, true)
		c.fill(path, p.Fill, p.FillOpacity, p.EvenOdd)
	}
	if p.Stroke == "" || p.StrokeWidth <= 0 {
		return
	}
	for _, part := range display.Dashed(o, p.Dash) {
		path := pathOf(part, at, false)
		wide := max(fix(p.StrokeWidth*at.k), 16)
		if len(path) == 0 {
			continue
		}
		path, seen := c.lower(path, 2*wide)
		if !seen {
			continue
		}
		c.pen.UseNonZeroWinding = true
		for _, line := range parts(path) {
			end := caps[p.LineCap]
			if n := len(line); n > 8 && line[1] == line[n-3] && line[2] == line[n-2] { // it closes: its corner is whole
				end = raster.SquareCapper
			}
			c.pen.AddStroke(line, wide, end, joins(p.LineJoin))
		}
		c.paint.SetColor(colour(p.Stroke, p.StrokeOpacity))
		c.pen.Rasterize(c.paint)
	}
}

var caps = map[string]raster.Capper{"": raster.ButtCapper, "butt": raster.ButtCapper, "round": raster.RoundCapper, "square": raster.SquareCapper}

func joins(name string) raster.Joiner {
	if name == "bevel" {
		return raster.BevelJoiner
	}
	return raster.RoundJoiner // a mitre ends as a slightly rounded corner
}

func (c *canvas) fill(path raster.Path, with string, opacity float64, evenOdd bool) {
	c.fillWith(path, colour(with, opacity), evenOdd)
}

func (c *canvas) fillWith(path raster.Path, with color.Color, evenOdd bool) {
	if len(path) == 0 {
		return
	}
	path, seen := c.lower(path, fixed.I(1))
	if !seen {
		return
	}
	c.pen.UseNonZeroWinding = !evenOdd
	c.pen.AddPath(path)
	c.paint.SetColor(with)
	c.pen.Rasterize(c.paint)
}

// smallWords is up to which size, in pixels, the curves of letters are drawn as three straight lines.
const smallWords = 40

func (c *canvas) words(t *display.Text, p display.Paint) {
	if p.Fill == "" || !c.near(t) {
		return
	}
	for _, line := range t.Set(p) {
		var path raster.Path
		for _, run := range line.Runs {
			for _, g := range run.Glyphs {
				at := place{c.place.dx + (line.From.X+g.X)*c.place.k, c.place.dy + (line.From.Y+g.Y)*c.place.k, t.Size * c.place.k}
				var from geometry.Point
				for _, s := range face.Outline(run.Font, g.ID) {
					switch s.Op {
					case 'M':
						path.Start(at.at(s.To))
					case 'L':
						path.Add1(at.at(s.To))
					case 'C':
						if at.k > smallWords {
							path.Add3(at.at(s.C1), at.at(s.C2), at.at(s.To))
							break
						}
						for _, t := range [...]float64{1. / 3, 2. / 3} { // as good at this size, and much quicker
							u := 1 - t
							path.Add1(at.at(geometry.Point{
								X: u*u*u*from.X + 3*u*u*t*s.C1.X + 3*u*t*t*s.C2.X + t*t*t*s.To.X,
								Y: u*u*u*from.Y + 3*u*u*t*s.C1.Y + 3*u*t*t*s.C2.Y + t*t*t*s.To.Y,
							}))
						}
						path.Add1(at.at(s.To))
					}
					from = s.To
				}
			}
		}
		c.fill(path, p.Fill, p.FillOpacity, false)
	}
}

// near tells whether any line of a text comes near the rows that are painted, before its glyphs are set.
func (c *canvas) near(t *display.Text) bool {
	b, reach := c.img.Bounds(), 2*t.Size*c.place.k
	for _, l := range t.Lines {
		if y := c.place.dy + l.At.Y*c.place.k; y+reach >= float64(b.Min.Y) && y-reach <= float64(b.Max.Y) {
			return true
		}
	}
	return false
}

func (c *canvas) picture(i *display.Image) {
	if c.pictures == nil {
		return
	}
	src := c.pictures(i.Hash)
	if src == nil {
		return
	}
	// The whole picture in the middle of its box, as a browser lays it.
	b, box := src.Bounds(), i.Box
	k := min(box.W/float64(b.Dx()), box.H/float64(b.Dy()))
	w, h := float64(b.Dx())*k, float64(b.Dy())*k
	from := c.place.at(geometry.Point{X: box.X + (box.W-w)/2, Y: box.Y + (box.H-h)/2})
	to := c.place.at(geometry.Point{X: box.X + (box.W+w)/2, Y: box.Y + (box.H+h)/2})
	rect := image.Rect(from.X.Round(), from.Y.Round(), to.X.Round(), to.Y.Round())
	if !rect.Overlaps(c.img.Bounds()) || rect.Dx()*rect.Dy() > MaxPixels {
		return
	}
	opacity := i.Opacity
	if opacity == 0 {
		opacity = 1
	}
	var options *draw.Options
	if opacity < 1 {
		options = &draw.Options{SrcMask: image.NewUniform(color.Alpha{uint8(opacity * 255)})}
	}
	draw.ApproxBiLinear.Scale(c.img, rect, src, b, draw.Over, options)
}

// pathOf gives an outline among the pixels: each part closed and with its curves where it is to be
// filled, of straight lines where it is to be stroked.
func pathOf(o display.Outline, at place, closed bool) (path raster.Path) {
	var from, now geometry.Point
	open := false
	end := func() {
		if open && closed && now != from {
			path.Add1(at.at(from))
		}
	}
	for _, s := range o {
		switch s.Op {
		case 'M':
			end()
			from, now, open = s.To, s.To, true
			path.Start(at.at(s.To))
		case 'L':
			now = s.To
			path.Add1(at.at(s.To))
		case 'C':
			if closed {
				path.Add3(at.at(s.C1), at.at(s.C2), at.at(s.To))
			} else {
				for _, p := range display.Straight(now, s, at.k) {
					path.Add1(at.at(p))
				}
			}
			now = s.To
		case 'Z':
			now = from
			path.Add1(at.at(from))
		}
	}
	end()
	return path
}

// parts takes a path apart where it begins anew: a stroke is made of one piece.
func parts(path raster.Path) (all []raster.Path) {
	begin := 0
	for i := 0; i < len(path); {
		n := 1
		if path[i] > 0 {
			n = int(path[i])
		} else if i > begin {
			all, begin = append(all, path[begin:i]), i
		}
		i += 2 + 2*n
	}
	return append(all, path[begin:])
}

func colour(hex string, opacity float64) color.Color {
	var r, g, b uint8
	_, _ = fmt.Sscanf(hex, "#%02x%02x%02x", &r, &g, &b) // black where it is none
	if opacity == 0 {
		opacity = 1
	}
	return color.NRGBA{r, g, b, uint8(math.Round(opacity * 255))}
}

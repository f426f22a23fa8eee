package display

import (
	"math"
	"strconv"
	"strings"

	"mevrin/core/geometry"
	"mevrin/draw/scene"
)

// Outline is a path of straight lines and cubic curves.
type Outline []Segment

// Segment is one step of an outline: Op is 'M' (begin anew at To), 'L' (a line), 'C' (a
// curve with the control points C1 and C2) or 'Z' (back to where it began).
type Segment struct {
	Op         byte
	C1, C2, To geometry.Point
}

func (o *Outline) move(x, y float64) {
	*o = append(*o, Segment{Op: 'M', To: geometry.Point{X: x, Y: y}})
}
func (o *Outline) line(x, y float64) {
	*o = append(*o, Segment{Op: 'L', To: geometry.Point{X: x, Y: y}})
}
func (o *Outline) curve(x1, y1, x2, y2, x, y float64) {
	*o = append(*o, Segment{'C', geometry.Point{X: x1, Y: y1}, geometry.Point{X: x2, Y: y2}, geometry.Point{X: x, Y: y}})
}
func (o *Outline) close() { *o = append(*o, Segment{Op: 'Z'}) }

// last gives where the outline has come to.
func (o Outline) last() geometry.Point {
	i := len(o) - 1
	if i < 0 {
		return geometry.Point{}
	}
	if o[i].Op == 'Z' { // back where what is closed began
		for i > 0 && o[i].Op != 'M' {
			i--
		}
	}
	return o[i].To
}

// arc goes on along an ellipse, as the command A of SVG does: by the conversion from
// endpoints to a centre of SVG 1.1, appendix F.6.5, and a cubic curve for each quarter
// or less.
func (o *Outline) arc(rx, ry, turn float64, large, sweep bool, x, y float64) {
	from := o.last()
	if rx == 0 || ry == 0 || from == (geometry.Point{X: x, Y: y}) {
		o.line(x, y)
		return
	}
	rx, ry = math.Abs(rx), math.Abs(ry)
	sin, cos := math.Sincos(turn * math.Pi / 180)
	dx, dy := (from.X-x)/2, (from.Y-y)/2
	px, py := cos*dx+sin*dy, -sin*dx+cos*dy
	if grow := px*px/(rx*rx) + py*py/(ry*ry); grow > 1 { // too small to reach: as small as reaches
		rx, ry = rx*math.Sqrt(grow), ry*math.Sqrt(grow)
	}
	factor := math.Sqrt(max(0, (rx*rx*ry*ry-rx*rx*py*py-ry*ry*px*px)/(rx*rx*py*py+ry*ry*px*px)))
	if large == sweep {
		factor = -factor
	}
	qx, qy := factor*rx*py/ry, -factor*ry*px/rx
	cx, cy := cos*qx-sin*qy+(from.X+x)/2, sin*qx+cos*qy+(from.Y+y)/2
	begin := math.Atan2((py-qy)/ry, (px-qx)/rx)
	span := math.Atan2((-py-qy)/ry, (-px-qx)/rx) - begin
	if sweep && span < 0 {
		span += 2 * math.Pi
	} else if !sweep && span > 0 {
		span -= 2 * math.Pi
	}
	parts := int(math.Ceil(math.Abs(span)/(math.Pi/2) - 1e-9))
	step := span / float64(max(parts, 1))
	reach := 4.0 / 3 * math.Tan(step/4)
	at := func(u, v float64) (float64, float64) {
		return cx + cos*rx*u - sin*ry*v, cy + sin*rx*u + cos*ry*v
	}
	for i := range parts {
		s0, c0 := math.Sincos(begin + float64(i)*step)
		s1, c1 := math.Sincos(begin + float64(i+1)*step)
		x1, y1 := at(c0-reach*s0, s0+reach*c0)
		x2, y2 := at(c1+reach*s1, s1-reach*c1)
		ex, ey := at(c1, s1)
		if i == parts-1 {
			ex, ey = x, y
		}
		o.curve(x1, y1, x2, y2, ex, ey)
	}
}

// leg goes along a line of the scene.
func (o *Outline) leg(p scene.Path) {
	o.move(p[0].A.X, p[0].A.Y)
	for _, c := range p {
		if c.Straight() {
			o.line(c.B.X, c.B.Y)
		} else {
			o.curve(c.C1.X, c.C1.Y, c.C2.X, c.C2.Y, c.B.X, c.B.Y)
		}
	}
}

// dart goes round a slim arrowhead with a notch.
func (o *Outline) dart(d scene.Dart) {
	at := func(back, side float64) (float64, float64) {
		return d.Tip.X - back*d.Along.X - side*d.Along.Y, d.Tip.Y - back*d.Along.Y + side*d.Along.X
	}
	o.move(at(0, 0))
	o.line(at(13, 4.4))
	o.line(at(9.5, 0))
	o.line(at(13, -4.4))
	o.close()
}

// polygon joins points, given as x, y in turn, and closes the outline.
func polygon(xy ...float64) Outline {
	o := straight(xy...)
	o.close()
	return o
}

// straight joins points, given as x, y in turn.
func straight(xy ...float64) Outline {
	var o Outline
	o.move(xy[0], xy[1])
	for i := 2; i+1 < len(xy); i += 2 {
		o.line(xy[i], xy[i+1])
	}
	return o
}

// Traced reads the data of a path of SVG, whatever commands it uses.
func Traced(d string) Outline {
	var o Outline
	r := pathReader{rest: d}
	var begun geometry.Point          // where this part began
	var cubic, square *geometry.Point // the last control point, right after a curve of that sort
	var op byte
	for {
		if next := r.command(); next != 0 {
			op = next
		} else if r.done() {
			return o
		}
		from := o.last()
		if len(o) > 0 && o[len(o)-1].Op == 'Z' {
			from = begun
		}
		relative := op >= 'a'
		x := func() float64 { return r.number() + pick(relative, from.X) }
		y := func() float64 { return r.number() + pick(relative, from.Y) }
		beyond := func(control *geometry.Point) geometry.Point {
			if control == nil {
				return from
			}
			return geometry.Point{X: 2*from.X - control.X, Y: 2*from.Y - control.Y}
		}
		smooth, smoothSquare := beyond(cubic), beyond(square)
		cubic, square = nil, nil
		switch op &^ 0x20 {
		case 'M':
			o.move(x(), y())
			begun = o.last()
			op-- // what follows are lines: L comes before M
		case 'L':
			o.line(x(), y())
		case 'H':
			o.line(x(), from.Y)
		case 'V':
			o.line(from.X, y())
		case 'C':
			o.curve(x(), y(), x(), y(), x(), y())
			cubic = &o[len(o)-1].C2
		case 'S':
			o.curve(smooth.X, smooth.Y, x(), y(), x(), y())
			cubic = &o[len(o)-1].C2
		case 'Q':
			square = &geometry.Point{X: x(), Y: y()}
			o.quadratic(from, *square, geometry.Point{X: x(), Y: y()})
		case 'T':
			square = &smoothSquare
			o.quadratic(from, *square, geometry.Point{X: x(), Y: y()})
		case 'A':
			rx, ry, turn, large, sweep := r.number(), r.number(), r.number(), r.flag(), r.flag()
			o.arc(rx, ry, turn, large, sweep, x(), y())
		case 'Z':
			o.close()
		default:
			panic("display: a path that cannot be read: " + d)
		}
	}
}

func (o *Outline) quadratic(from, c, to geometry.Point) {
	o.curve(from.X+(c.X-from.X)*2/3, from.Y+(c.Y-from.Y)*2/3, to.X+(c.X-to.X)*2/3, to.Y+(c.Y-to.Y)*2/3, to.X, to.Y)
}

func pick(yes bool, v float64) float64 {
	if yes {
		return v
	}
	return 0
}

// pathReader reads the data of a path piece by piece.
type pathReader struct{ rest string }

func (r *pathReader) skip() { r.rest = strings.TrimLeft(r.rest, " ,\t\n") }

func (r *pathReader) done() bool { r.skip(); return r.rest == "" }

// command reads a letter where one comes next, else 0.
func (r *pathReader) command() byte {
	if r.skip(); r.rest == "" {
		return 0
	}
	if c := r.rest[0]; c|0x20 >= 'a' && c|0x20 <= 'z' {
		r.rest = r.rest[1:]
		return c
	}
	return 0
}

// flag reads a 0 or a 1, which may stand close to what follows.
func (r *pathReader) flag() bool {
	r.skip()
	is := r.rest[0] == '1'
	r.rest = r.rest[1:]
	return is
}

func (r *pathReader) number() float64 {
	r.skip()
	end, dot := 0, false
	for ; end < len(r.rest); end++ {
		c := r.rest[end]
		if c == '.' && dot || c == '-' && end > 0 || c != '.' && c != '-' && (c < '0' || c > '9') {
			break
		}
		dot = dot || c == '.'
	}
	v, err := strconv.ParseFloat(r.rest[:end], 64)
	if err != nil {
		panic("display: a path that cannot be read: " + r.rest)
	}
	r.rest = r.rest[end:]
	return v
}

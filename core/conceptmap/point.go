package conceptmap

import (
	"math"
	"mevrin/core/geometry"
)

// Point is a place on the paper in pixels at scale 1, x to the right, y down.
type Point = geometry.Point

// FarthestPlace bounds both coordinates of a place, in pixels either way.
const FarthestPlace = 200_000

// CleanPoint gives a place as it is stored, and refuses what is too far out.
func CleanPoint(p Point) (Point, error) {
	if !(math.Abs(p.X) <= FarthestPlace && math.Abs(p.Y) <= FarthestPlace) {
		return p, Refusef("That place is too far off the paper.")
	}
	return RoundPoint(p), nil
}

// RoundPoint keeps places to a quarter of a pixel: finer is not seen, and
// documents stay readable.
func RoundPoint(p Point) Point {
	return Point{X: math.Round(p.X*4)/4 + 0, Y: math.Round(p.Y*4)/4 + 0}
}

// ClampPoint keeps what follows a concept on the paper.
func ClampPoint(p Point) Point {
	return RoundPoint(Point{X: max(-FarthestPlace, min(FarthestPlace, p.X)), Y: max(-FarthestPlace, min(FarthestPlace, p.Y))})
}

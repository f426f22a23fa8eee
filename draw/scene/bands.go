package scene

import "math"

// Band is a level as a band across the paper.
type Band struct {
	Level int     `json:"level"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
}

// Bands gives the levels, of which there are so many, as bands across the paper,
// from top to bottom or from left to right; nil where levels stand among each
// other.
func Bands(sc *Scene, depth int) []Band {
	if depth == 0 {
		return nil
	}
	whole := sc.Bounds()
	for _, across := range []bool{false, true} {
		low, high := make([]float64, depth), make([]float64, depth)
		for i := range low {
			low[i], high[i] = math.Inf(1), math.Inf(-1)
		}
		for _, slip := range sc.Slips {
			level := slip.Level
			if level == 0 {
				continue
			}
			from, to := slip.Box.Y, slip.Box.Y+slip.Box.H
			if across {
				from, to = slip.Box.X, slip.Box.X+slip.Box.W
			}
			low[level-1], high[level-1] = min(low[level-1], from), max(high[level-1], to)
		}
		bands := []Band{}
		up := true
		for i := range low {
			if math.IsInf(low[i], 1) {
				continue // tucked away
			}
			if n := len(bands); n > 0 { // one beside the other, in order
				last := bands[n-1]
				at, long := last.Y, last.H
				if across {
					at, long = last.X, last.W
				}
				if n == 1 {
					up = low[i] < at
				}
				if !up && low[i] < at+long+8 || up && high[i] > at-8 {
					bands = nil
					break
				}
			}
			b := Band{i + 1, whole.X - 60, low[i] - 7, whole.W + 120, high[i] - low[i] + 14}
			if across {
				b = Band{i + 1, low[i] - 7, whole.Y - 60, high[i] - low[i] + 14, whole.H + 120}
			}
			bands = append(bands, b)
		}
		if bands != nil {
			return bands
		}
	}
	return nil
}

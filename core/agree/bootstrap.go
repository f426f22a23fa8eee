package agree

import (
	"math/bits"
	"slices"
)

// Samples is how many samples the bootstrap draws where nobody says otherwise.
const Samples = 1000

// intervals bounds each measure by the bootstrap (Efron, Bootstrap methods: another look at the
// jackknife, 1979; percentiles: Efron and Tibshirani, An Introduction to the Bootstrap, 1993): as
// many units as there are are drawn from them, again and again, always by the same chance, and
// 95 % of what the measure then is lies between the bounds. Samples for which it is not defined
// are left out; where that is more than half of them, there is no interval.
func (c *counts) intervals(f *Figures, samples int) {
	n := len(c.t.Units)
	if n < 2 || samples == 0 {
		return
	}
	chance := chance(1979)
	found := make([][]float64, len(f.all()))
	often := make([]float64, n)
	for range samples {
		clear(often)
		for range n {
			often[chance.below(n)]++
		}
		now, why := c.measure(often)
		for i := range found {
			if why[i] == "" {
				found[i] = append(found[i], now[i])
			}
		}
	}
	for i, figure := range f.all() {
		if figure.Value == nil || 2*len(found[i]) <= samples {
			continue
		}
		slices.Sort(found[i])
		low, high := quantile(found[i], 0.025), quantile(found[i], 0.975)
		figure.Low, figure.High = &low, &high
	}
}

// chance gives numbers that seem to be drawn at random, always the same (SplitMix64: Steele, Lea
// and Flood, Fast splittable pseudorandom number generators, 2014).
type chance uint64

// below gives the next number, less than n.
func (c *chance) below(n int) int {
	*c += 0x9E3779B97F4A7C15
	z := uint64(*c)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	high, _ := bits.Mul64(z^z>>31, uint64(n))
	return int(high)
}

// quantile gives the value below which a part of sorted values lies, between two of them by how
// near it is to each (definition 7 of Hyndman and Fan, Sample quantiles in statistical packages,
// 1996).
func quantile(sorted []float64, part float64) float64 {
	at := part * float64(len(sorted)-1)
	i := int(at)
	if i+1 >= len(sorted) {
		return sorted[len(sorted)-1]
	}
	return sorted[i] + (at-float64(i))*(sorted[i+1]-sorted[i])
}

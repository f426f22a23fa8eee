package agree

import (
	"cmp"
	"math"
	"slices"
)

// alphas are Krippendorff's alpha for values without order and for ordered ones (Krippendorff,
// Content Analysis, 4th edition, 2019, chapter 12): one less the disagreement found among the
// values of a unit over that to be expected among all values. Units with fewer than two values
// say nothing. Two ordered values are as far apart as values were given between them, half of
// those that equal one of them counted; a value beside the order is left out there.
func (c *counts) alphas(often []float64) (nominal, ordinal float64, whyNominal, whyOrdinal string) {
	all := make([]int, len(c.t.Scale.Names))
	for i := range all {
		all[i] = i
	}
	nominal, whyNominal = c.alpha(often, all, func(_ []float64) func(a, b int) float64 { return unequal })
	if !c.t.Scale.Ordered() {
		return nominal, 0, whyNominal, notOrdered
	}
	ordered := slices.DeleteFunc(slices.Clone(all), func(v int) bool { return math.IsNaN(c.t.Scale.Amounts[v]) })
	slices.SortStableFunc(ordered, func(a, b int) int { return cmp.Compare(c.t.Scale.Amounts[a], c.t.Scale.Amounts[b]) })
	ordinal, whyOrdinal = c.alpha(often, ordered, func(n []float64) func(a, b int) float64 {
		up := make([]float64, len(n)+1) // how many values come before each
		for i, k := range n {
			up[i+1] = up[i] + k
		}
		return func(a, b int) float64 {
			if a > b {
				a, b = b, a
			}
			between := up[b+1] - up[a] - (n[a]+n[b])/2
			return between * between
		}
	})
	return nominal, ordinal, whyNominal, whyOrdinal
}

// alpha works on some of the values, in their order; apart gives how far two of them are from
// each other, by their places in it, where they were given n times each.
func (c *counts) alpha(often []float64, values []int, apart func(n []float64) func(a, b int) float64) (float64, string) {
	k := len(values)
	together, n, total := make([]float64, k*k), make([]float64, k), 0.0
	has := make([]int, 0, k)
	for u, times := range often {
		if times == 0 {
			continue
		}
		given, m := c.values[u], 0.0
		has = has[:0]
		for i, v := range values {
			if given[v] > 0 {
				has, m = append(has, i), m+given[v]
			}
		}
		if m < 2 {
			continue
		}
		for _, i := range has {
			x := given[values[i]]
			n[i], total = n[i]+times*x, total+times*x
			for _, j := range has {
				y := given[values[j]]
				if i == j {
					y--
				}
				together[i*k+j] += times * x * y / (m - 1)
			}
		}
	}
	if total == 0 {
		return 0, noPairs
	}
	far := apart(n)
	found, expected := 0.0, 0.0
	for i := range k {
		for j := range k {
			if i == j || n[i] == 0 || n[j] == 0 {
				continue
			}
			d := far(i, j)
			found, expected = found+together[i*k+j]*d, expected+n[i]*n[j]*d
		}
	}
	if expected == 0 {
		return 0, noVariation
	}
	return 1 - (total-1)*found/expected, ""
}

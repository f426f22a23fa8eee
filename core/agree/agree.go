// Package agree tells how far raters agree who judge the same things apart from each other:
// percent agreement, Cohen's, weighted and Fleiss' kappa, Krippendorff's alpha, each with an
// interval by bootstrap. All are pure functions of a Table; docs/figures.md has the formulas.
package agree

import (
	"fmt"
	"math"
)

// Table holds what each rater said of each unit.
type Table struct {
	Units, Raters []string
	// Said holds, for each unit, what each rater said of it: the place of a value on the scale,
	// or Missing.
	Said [][]int
	// Scale are the values that may be given. Of an ordered scale, each stands for an amount.
	Scale Scale
}

// Missing stands where a rater said nothing of a unit.
const Missing = -1

// Scale is the set of values that raters choose from.
type Scale struct {
	Names []string
	// Amounts are what the values stand for, in the same order, where they are ordered and
	// their distances mean something; NaN for a value beside that order; nil where none is
	// ordered.
	Amounts []float64
}

// Ordered tells that amounts of the values can be compared.
func (s Scale) Ordered() bool { return s.Amounts != nil }

// Figure is a measure of agreement: a Value, or the reason Why there is none.
type Figure struct {
	Value *float64
	Why   string
	// Low and High bound the interval that holds 95 % of what the bootstrap gave; nil where
	// there is none.
	Low, High *float64
}

// Figures are all measures of a table.
type Figures struct {
	Units, Raters, Values int // Values is how many were given
	// Percent is the share of the pairs of values given to one unit that are equal, from 0 to
	// 100.
	Percent Figure
	// Kappa, Linear and Quadratic are Cohen's kappa of two raters, plain and weighted by how
	// far apart their values are.
	Kappa, Linear, Quadratic Figure
	Fleiss                   Figure
	// Nominal and Ordinal are Krippendorff's alpha.
	Nominal, Ordinal Figure
}

// all lists the measures, in the order of values.
func (f *Figures) all() []*Figure {
	return []*Figure{&f.Percent, &f.Kappa, &f.Linear, &f.Quadratic, &f.Fleiss, &f.Nominal, &f.Ordinal}
}

// Of works out all measures, with intervals from so many samples; none with 0.
func Of(t Table, samples int) Figures {
	c := newCounts(t)
	f := Figures{Units: len(t.Units), Raters: len(t.Raters), Values: c.given}
	once := make([]float64, len(t.Units))
	for i := range once {
		once[i] = 1
	}
	now, why := c.measure(once)
	for i, figure := range f.all() {
		if figure.Why = why[i]; why[i] == "" {
			figure.Value = &now[i]
		}
	}
	c.intervals(&f, samples)
	return f
}

// counts is what each unit contributes to the measures: a sample of units adds up some of them,
// some several times.
type counts struct {
	t      Table
	given  int
	equal  []float64 // pairs of equal values of each unit
	pairs  []float64
	values [][]float64 // how often each value was given to each unit
	n      []float64   // values given to each unit
	two    [][2]int    // of two raters: what they said, both Missing where one said nothing
}

func newCounts(t Table) *counts {
	c := &counts{t: t}
	for _, said := range t.Said {
		of := make([]float64, len(t.Scale.Names))
		n := 0.0
		for _, v := range said {
			if v != Missing {
				of[v]++
				n++
			}
		}
		equal := 0.0
		for _, k := range of {
			equal += k * (k - 1) / 2
		}
		c.given += int(n)
		c.values, c.n, c.equal, c.pairs = append(c.values, of), append(c.n, n), append(c.equal, equal), append(c.pairs, n*(n-1)/2)
		pair := [2]int{Missing, Missing}
		if len(t.Raters) == 2 && said[0] != Missing && said[1] != Missing {
			pair = [2]int{said[0], said[1]}
		}
		c.two = append(c.two, pair)
	}
	return c
}

// What a measure may lack.
const (
	noPairs     = "no unit has two values"
	noVariation = "all values are equal: there is no agreement beyond chance to speak of"
	notOrdered  = "the values are not ordered"
)

// Reasons lists them.
var Reasons = []Reason{{noPairs}, {noVariation}, {notOrdered}}

// Reason says why a figure has no value.
type Reason struct{ Why string }

// measure works out all measures, in the order of Figures.all, of units that count so often.
func (c *counts) measure(often []float64) (value [7]float64, why [7]string) {
	value[0], why[0] = c.percent(often)
	for i, apart := range []func(a, b int) float64{unequal, c.distance(1), c.distance(2)} {
		value[1+i], why[1+i] = c.cohen(often, apart)
	}
	value[4], why[4] = c.fleiss(often)
	value[5], value[6], why[5], why[6] = c.alphas(often)
	return value, why
}

func unequal(a, b int) float64 {
	if a == b {
		return 0
	}
	return 1
}

// distance gives how far apart two values are, to a power; nil where they are not ordered. A
// value beside the order is NaN far from all.
func (c *counts) distance(power float64) func(a, b int) float64 {
	if !c.t.Scale.Ordered() {
		return nil
	}
	return func(a, b int) float64 {
		return math.Pow(math.Abs(c.t.Scale.Amounts[a]-c.t.Scale.Amounts[b]), power)
	}
}

// percent gives the share of pairs of values given to one unit that are equal.
func (c *counts) percent(often []float64) (float64, string) {
	equal, pairs := 0.0, 0.0
	for u, times := range often {
		equal, pairs = equal+times*c.equal[u], pairs+times*c.pairs[u]
	}
	if pairs == 0 {
		return 0, noPairs
	}
	return 100 * equal / pairs, ""
}

// cohen is kappa of two raters (Cohen, A coefficient of agreement for nominal scales, 1960;
// Cohen, Weighted kappa, 1968): one less the disagreement found over that to be expected where
// each rater gave their values at random, each disagreement weighted by how far apart the two
// values are.
func (c *counts) cohen(often []float64, apart func(a, b int) float64) (float64, string) {
	if len(c.t.Raters) != 2 {
		return 0, fmt.Sprintf("Cohen’s kappa compares two raters; here are %d", len(c.t.Raters))
	}
	if apart == nil {
		return 0, notOrdered
	}
	k := len(c.t.Scale.Names)
	first, second, n, found := make([]float64, k), make([]float64, k), 0.0, 0.0
	for u, pair := range c.two {
		if pair[0] == Missing || often[u] == 0 {
			continue
		}
		d := apart(pair[0], pair[1])
		if math.IsNaN(d) {
			continue // one is beside the order
		}
		first[pair[0]], second[pair[1]] = first[pair[0]]+often[u], second[pair[1]]+often[u]
		n, found = n+often[u], found+often[u]*d
	}
	if n == 0 {
		return 0, noPairs
	}
	expected := 0.0
	for a, x := range first {
		for b, y := range second {
			if x > 0 && y > 0 {
				expected += x * y / n * apart(a, b)
			}
		}
	}
	if expected == 0 {
		return 0, noVariation
	}
	return 1 - found/expected, ""
}

// fleiss is kappa of any number of raters (Fleiss, Measuring nominal scale agreement among many
// raters, 1971), for units that need not have equally many values (Gwet, Handbook of Inter-Rater
// Reliability, 2014): agreement is the mean of that of the units with two values or more, and
// a value is to be expected as often as it is its mean share of the values of such a unit.
func (c *counts) fleiss(often []float64) (float64, string) {
	share := make([]float64, len(c.t.Scale.Names))
	found, units := 0.0, 0.0
	for u, times := range often {
		if c.n[u] < 2 || times == 0 {
			continue
		}
		for v, k := range c.values[u] {
			share[v] += times * k / c.n[u]
		}
		units, found = units+times, found+times*c.equal[u]/c.pairs[u]
	}
	if units == 0 {
		return 0, noPairs
	}
	found /= units
	expected := 0.0
	for _, s := range share {
		expected += (s / units) * (s / units)
	}
	if expected > 1-1e-12 {
		return 0, noVariation
	}
	return (found - expected) / (1 - expected), ""
}

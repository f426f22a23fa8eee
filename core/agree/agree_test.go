package agree_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"mevrin/core/agree"
)

func scale(values ...float64) agree.Scale {
	s := agree.Scale{}
	for range values {
		s.Names = append(s.Names, "v")
	}
	s.Amounts = values
	return s
}

// table reads the values of one rater in each row; 0 stands for a missing one, and n for the nth
// value of the scale.
func table(s agree.Scale, rows ...[]int) agree.Table {
	t := agree.Table{Scale: s, Units: make([]string, len(rows[0])), Raters: make([]string, len(rows)), Said: make([][]int, len(rows[0]))}
	for u := range t.Said {
		for _, row := range rows {
			t.Said[u] = append(t.Said[u], row[u]-1)
		}
	}
	return t
}

// counted makes a table of two raters of how often each pair of values was given.
func counted(s agree.Scale, often [][]int) agree.Table {
	t := agree.Table{Scale: s, Raters: make([]string, 2)}
	for a, row := range often {
		for b, n := range row {
			for range n {
				t.Units, t.Said = append(t.Units, ""), append(t.Said, []int{a, b})
			}
		}
	}
	return t
}

func is(t *testing.T, want float64, f agree.Figure, what string) {
	t.Helper()
	if assert.NotNil(t, f.Value, "%s: %s", what, f.Why) {
		assert.InDelta(t, want, *f.Value, 0.0006, what)
	}
}

// Krippendorff, Computing Krippendorff's alpha-reliability, 2011: four observers, twelve units, some
// values missing. Nominal 0.743, ordinal 0.815.
func TestAlphaOfKrippendorffsExample(t *testing.T) {
	f := agree.Of(table(scale(1, 2, 3, 4, 5),
		[]int{1, 2, 3, 3, 2, 1, 4, 1, 2, 0, 0, 0},
		[]int{1, 2, 3, 3, 2, 2, 4, 1, 2, 5, 0, 3},
		[]int{0, 3, 3, 3, 2, 3, 4, 2, 2, 5, 1, 0},
		[]int{1, 2, 3, 3, 2, 4, 4, 1, 2, 5, 1, 0}), 200)
	is(t, 0.743, f.Nominal, "nominal")
	is(t, 0.815, f.Ordinal, "ordinal")
	assert.Nil(t, f.Kappa.Value)
	assert.Contains(t, f.Kappa.Why, "two raters; here are 4")
	assert.Equal(t, [3]int{12, 4, 41}, [3]int{f.Units, f.Raters, f.Values})
	require.NotNil(t, f.Nominal.Low)
	assert.Less(t, *f.Nominal.Low, 0.743)
	assert.Greater(t, *f.Nominal.High, 0.743)
}

// Fleiss, Measuring nominal scale agreement among many raters, 1971: thirty patients, six
// psychiatrists, five categories. Agreement 0.556, kappa 0.430.
func TestKappaOfFleissExample(t *testing.T) {
	given := [][5]int{{0, 0, 0, 6, 0}, {0, 3, 0, 0, 3}, {0, 1, 4, 0, 1}, {0, 0, 0, 0, 6}, {0, 3, 0, 3, 0}, {2, 0, 4, 0, 0}, {0, 0, 4, 0, 2}, {2, 0, 3, 1, 0}, {2, 0, 0, 4, 0}, {0, 0, 0, 0, 6},
		{1, 0, 0, 5, 0}, {1, 1, 0, 4, 0}, {0, 3, 3, 0, 0}, {1, 0, 0, 5, 0}, {0, 2, 0, 3, 1}, {0, 0, 5, 0, 1}, {3, 0, 0, 1, 2}, {5, 1, 0, 0, 0}, {0, 2, 0, 4, 0}, {1, 0, 2, 0, 3},
		{0, 0, 0, 0, 6}, {0, 1, 0, 5, 0}, {0, 2, 0, 1, 3}, {2, 0, 0, 4, 0}, {1, 0, 0, 4, 1}, {0, 5, 0, 1, 0}, {4, 0, 0, 0, 2}, {0, 2, 0, 4, 0}, {1, 0, 5, 0, 0}, {0, 0, 0, 0, 6}}
	tab := agree.Table{Scale: agree.Scale{Names: make([]string, 5)}, Raters: make([]string, 6)}
	for _, row := range given {
		var said []int
		for v, n := range row {
			for range n {
				said = append(said, v)
			}
		}
		tab.Units, tab.Said = append(tab.Units, ""), append(tab.Said, said)
	}
	f := agree.Of(tab, 0)
	is(t, 0.430, f.Fleiss, "kappa")
	is(t, 55.56, agree.Figure{Value: ptr(math.Round(*f.Percent.Value*100) / 100)}, "percent")
	assert.Equal(t, "the values are not ordered", f.Ordinal.Why)
}

func ptr(x float64) *float64 { return &x }

// Cohen, Weighted kappa, 1968, gives no table that can be taken over whole; this one is worked by
// hand. Found: 43 of 60 equal. To be expected: (25·22 + 20·21 + 15·17)/3600. Linear: found
// (12·1 + 4·2)/60, expected (25·21 + 20·22 + 20·17 + 15·21 + 2·(25·17 + 15·22))/3600. Quadratic: the
// same with 4 instead of 2.
func TestCohensKappaByHand(t *testing.T) {
	f := agree.Of(counted(scale(0, 1, 2), [][]int{{18, 4, 3}, {3, 14, 3}, {1, 3, 11}}), 300)
	equal, chance := 43.0/60, (25.0*22+20*21+15*17)/3600
	is(t, (equal-chance)/(1-chance), f.Kappa, "kappa")
	near, far := 25.0*21+20*22+20*17+15*21, 25.0*17+15*22
	is(t, 1-((13.0+2*4)/60)/((near+2*far)/3600), f.Linear, "linear")
	is(t, 1-((13.0+4*4)/60)/((near+4*far)/3600), f.Quadratic, "quadratic")
	assert.Greater(t, *f.Kappa.High, *f.Kappa.Low)
}

// What is not defined says why, and nothing is ever NaN.
func TestWhatIsNotDefinedSaysWhy(t *testing.T) {
	f := agree.Of(table(scale(0, 1, 2), []int{3, 3, 3}, []int{3, 3, 3}), 50)
	is(t, 100, f.Percent, "percent")
	for _, figure := range []agree.Figure{f.Kappa, f.Linear, f.Quadratic, f.Fleiss, f.Nominal, f.Ordinal} {
		assert.Nil(t, figure.Value)
		assert.Contains(t, figure.Why, "all values are equal")
	}
	f = agree.Of(table(scale(0, 1, 2), []int{3, 0, 1}, []int{0, 2, 0}), 50)
	assert.Equal(t, "no unit has two values", f.Percent.Why)
	assert.Equal(t, "no unit has two values", f.Nominal.Why)
	agree.Of(agree.Table{}, 50) // and an empty one does no harm
	rapid.Check(t, func(t *rapid.T) {
		raters, units := rapid.IntRange(1, 4).Draw(t, "raters"), rapid.IntRange(1, 8).Draw(t, "units")
		rows := make([][]int, raters)
		for i := range rows {
			rows[i] = rapid.SliceOfN(rapid.IntRange(0, 4), units, units).Draw(t, "row")
		}
		f := agree.Of(table(scale(0, 1, 2, math.NaN()), rows...), 20)
		for _, figure := range []agree.Figure{f.Percent, f.Kappa, f.Linear, f.Quadratic, f.Fleiss, f.Nominal, f.Ordinal} {
			require.NotEqual(t, figure.Value == nil, figure.Why == "")
			for _, x := range []*float64{figure.Value, figure.Low, figure.High} {
				require.False(t, x != nil && (math.IsNaN(*x) || math.IsInf(*x, 0)))
			}
		}
	})
}

// With two raters and nothing missing, the measures hang together: Fleiss' kappa is Scott's pi,
// from which alpha differs by the size of the sample alone (Krippendorff, 2019).
func TestMeasuresHangTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 12).Draw(t, "units")
		row := func() []int { return rapid.SliceOfN(rapid.IntRange(1, 3), n, n).Draw(t, "row") }
		f := agree.Of(table(scale(0, 1, 2), row(), row()), 0)
		if f.Fleiss.Value == nil {
			return
		}
		require.InDelta(t, 1-(1-*f.Fleiss.Value)*(1-1/(2*float64(n))), *f.Nominal.Value, 1e-9)
	})
}

// Aim: 20 raters, 500 propositions, 1,000 samples within 1 s.
func BenchmarkAgreement(b *testing.B) {
	t := agree.Table{Scale: scale(0, 1, 2), Units: make([]string, 500), Raters: make([]string, 20)}
	for u := range t.Units {
		var said []int
		for r := range t.Raters {
			said = append(said, (u*7+r*u%5)%4-1)
		}
		t.Said = append(t.Said, said)
	}
	for b.Loop() {
		agree.Of(t, agree.Samples)
	}
}

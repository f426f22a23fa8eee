package ratings_test

import (
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/agree"
	"mevrin/format/ratings"
)

func TestTablesAreRead(t *testing.T) {
	const table = "\xef\xbb\xbfRater;Unit;Value;Note\nada;p1;holds;a\nben;p1;not-sure;\nada;p2;;\nben;p2;in-part;\n\nben;p3;does-not-hold;\n"
	got, err := ratings.Read([]byte(table), ratings.Options{})
	require.NoError(t, err)
	assert.Equal(t, []string{"p1", "p2", "p3"}, got.Units)
	assert.Equal(t, []string{"ada", "ben"}, got.Raters)
	assert.Equal(t, [][]int{{2, agree.Missing}, {agree.Missing, 1}, {agree.Missing, 0}}, got.Said)
	got, err = ratings.Read([]byte(table), ratings.Options{NotSureIsAValue: true})
	require.NoError(t, err)
	assert.Equal(t, []int{2, 3}, got.Said[0])
	// Whole numbers; what is empty is missing though 0 is a value.
	got, err = ratings.Read([]byte("unit,rater,value\na,x,0\nb,x,\na,y,-3\nb,y,10\n"), ratings.Options{})
	require.NoError(t, err)
	assert.Equal(t, []float64{-3, 0, 10}, got.Scale.Amounts)
	assert.Equal(t, [][]int{{1, 0}, {agree.Missing, 2}}, got.Said)
}

func TestBadLinesAreNamed(t *testing.T) {
	for table, want := range map[string]string{
		"":                                                  "line 1: there is no line with the names",
		"unit,value\n":                                      "line 1: there is no column “rater”",
		"unit,rater,value\na,b,maybe":                       "line 2: “maybe” is no value",
		"unit,rater,value\na,b,1\na,c,holds":                "line 3: “holds” stands among values of the other sort",
		"unit,rater,value\na,b,1\nx,b,2\na,b,1":             "line 4: “b” judged “a” in line 2 already",
		"unit,rater,value\n\n,b,1":                          "line 3: the unit has no name",
		"unit,rater,value\na":                               "line 2: a value is missing",
		"unit,rater,value\na,b,1.5":                         "line 2: “1.5” is no value",
		"unit,rater,value\na,\"b,1\n":                       "line 2: a quotation mark",
		"unit,rater,value\na,b,\xff":                        "line 1: the file is no text",
		"unit,rater,value\na,b," + strings.Repeat("9", 500): "line 2:",
	} {
		_, err := ratings.Read([]byte(table), ratings.Options{})
		var fault *ratings.Fault
		if assert.True(t, errors.As(err, &fault), "%q: %v", table, err) {
			assert.Contains(t, err.Error(), want)
		}
	}
}

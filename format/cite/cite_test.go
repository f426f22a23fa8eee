package cite_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/format/cite"
)

func TestWorksAreRead(t *testing.T) {
	all, err := cite.Read(`% a list
@string{x = "y"}
@Article{hollin1902, author = {Hollin, Berta and M{\"u}ller, Karl}, title = "On {B}ells \& their tones", journal={Yearbook of Founders}, volume = 7, pages={12--19}, year = 1902}
@book(cast, title = {Casting}, publisher = {Hollin}, date = {1911-04})`)
	require.NoError(t, err)
	assert.Equal(t, []cm.Citation{
		{Author: "Berta Hollin, Karl Müller", Year: "1902", Title: "On Bells & their tones", Place: "Yearbook of Founders 7, pp. 12–19"},
		{Year: "1911", Title: "Casting", Place: "Hollin"},
	}, all)
	all, err = cite.Read(`[{"id":"a","type":"book","title":"Bells","author":[{"family":"Hollin","given":"Berta"}],"issued":{"date-parts":[[1902,4]]},"publisher":"Works","volume":3,"page":"4-9"}]`)
	require.NoError(t, err)
	assert.Equal(t, []cm.Citation{{Author: "Berta Hollin", Year: "1902", Title: "Bells", Place: "3, Works, pp. 4-9"}}, all)
	for text, want := range map[string]error{"": cite.ErrNone, "just words": cite.ErrNone, "[{]": cite.ErrBroken, "@book{a, title={x": cite.ErrBroken} {
		_, err := cite.Read(text)
		assert.ErrorIs(t, err, want, text)
	}
}

// What is written is read again, but for the signs that TeX keeps for itself.
func TestWorksGoOutAndComeBack(t *testing.T) {
	words := rapid.StringMatching(`[A-Za-zäöß0-9 ,.:&%_]{0,30}`)
	rapid.Check(t, func(t *rapid.T) {
		trim := func(s string) string { return strings.Join(strings.Fields(s), " ") }
		var all []cm.Citation
		for range rapid.IntRange(1, 4).Draw(t, "works") {
			all = append(all, cm.Citation{Author: trim(strings.ReplaceAll(words.Draw(t, "author"), ",", " ")), Year: rapid.SampledFrom([]string{"", "1902", "about 1900"}).Draw(t, "year"), Title: trim("T " + words.Draw(t, "title")), Place: trim(words.Draw(t, "place"))})
		}
		raw, err := cite.WriteCSL(all)
		require.NoError(t, err)
		back, err := cite.Read(string(raw))
		require.NoError(t, err)
		require.Equal(t, all, back)
		for i := range all {
			all[i].Author = strings.Join(strings.Split(all[i].Author, " and "), ", ")
		}
		back, err = cite.Read(cite.WriteBibTeX(all))
		require.NoError(t, err)
		require.Equal(t, all, back)
	})
}

func FuzzCite(f *testing.F) {
	f.Add("@book{a, title={x}}")
	f.Add(`[{"title":"x"}]`)
	f.Fuzz(func(t *testing.T, text string) {
		all, err := cite.Read(text)
		for _, c := range all {
			clean, cleanErr := cm.Clean(c.Title, cm.MaxSourceSays, "")
			require.NoError(t, cleanErr)
			require.Equal(t, clean, c.Title)
		}
		require.True(t, err != nil || len(all) > 0)
	})
}

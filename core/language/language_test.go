package language_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/language"
)

// listed reads a labelled list: fields parted by bars, the last what is right.
func listed(t *testing.T, file string) [][]string {
	t.Helper()
	raw, err := os.ReadFile("testdata/" + file)
	require.NoError(t, err)
	var all [][]string
	for line := range strings.Lines(string(raw)) {
		if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") {
			all = append(all, strings.Split(line, "|"))
		}
	}
	return all
}

// score counts how often a rule is right: precision is the share of what it notices that is so,
// recall the share of what is so that it notices.
type score struct{ hits, noticed, there int }

func (s *score) count(noticed, is bool) {
	if noticed {
		s.noticed++
	}
	if is {
		s.there++
	}
	if noticed && is {
		s.hits++
	}
}

func (s score) good(t *testing.T, what string) {
	precision, recall := float64(s.hits)/float64(s.noticed), float64(s.hits)/float64(s.there)
	t.Logf("%s: precision %.3f of %d, recall %.3f of %d", what, precision, s.noticed, recall, s.there)
	assert.GreaterOrEqual(t, precision, 0.9, what)
	assert.GreaterOrEqual(t, recall, 0.8, what)
}

func TestPhrasesAreJudged(t *testing.T) {
	of := map[language.Fault]*score{language.Empty: {}, language.NoRelation: {}}
	for _, p := range listed(t, "phrases.txt") {
		got := language.Of(p[0]).Fault(p[2], p[1], p[3])
		want := language.Fault(strings.Replace(p[4], "ok", "", 1))
		for fault, s := range of {
			s.count(got == fault, want == fault)
		}
		if got != want {
			t.Logf("%s: %s | %s | %s is %q, not %q", p[0], p[1], p[2], p[3], want, got)
		}
	}
	of[language.Empty].good(t, "phrase-empty")
	of[language.NoRelation].good(t, "phrase-no-relation")
}

func TestLabelsOfOneThingAreKnown(t *testing.T) {
	var variant, synonym score
	for _, p := range listed(t, "labels.txt") {
		tongue, labels := language.Of(p[0]), []string{p[1], p[2]}
		v, s := len(tongue.Variants(labels)) > 0, len(tongue.Synonyms(labels, nil)) > 0
		variant.count(v && !s, p[3] == "variant")
		synonym.count(s, p[3] == "synonym")
		if v != (p[3] == "variant") && !s || s != (p[3] == "synonym") {
			t.Logf("%s: %s | %s is %s; variant %t, synonym %t", p[0], p[1], p[2], p[3], v, s)
		}
	}
	variant.good(t, "concept-variant")
	synonym.good(t, "concept-synonym")
}

func TestSingleLabelsAreJudged(t *testing.T) {
	var two, number score
	for _, p := range listed(t, "single.txt") {
		tongue := language.Of(p[0])
		is, only := tongue.TwoIdeas(p[1]), tongue.OnlyNumber(p[1])
		two.count(is, p[2] == "two-ideas")
		number.count(only, p[2] == "number")
		if is != (p[2] == "two-ideas") || only != (p[2] == "number") {
			t.Logf("%s: %s is %s; two ideas %t, number %t", p[0], p[1], p[2], is, only)
		}
	}
	two.good(t, "label-two-ideas")
	number.good(t, "label-number")
}

// Who writes in another language than the map says is not blamed for it.
func TestTheLanguageIsGuessedWhereTheMapIsWrong(t *testing.T) {
	german := []string{"die Glocke", "hängt in", "der Turm", "ist aus", "Bronze", "klingt mit", "der Ton", "wird geläutet von", "der Läuter"}
	assert.Equal(t, "de", language.Guess("en", german).Name)
	assert.Equal(t, "de", language.Guess("de-AT", german).Name)
	assert.Equal(t, "en", language.Guess("en", []string{"the bell", "hangs in", "the tower", "bronze"}).Name)
	assert.Equal(t, "fr", language.Guess("fr", nil).Name)
	var finnish []string
	for range 10 {
		finnish = append(finnish, "kello", "roikkuu tornissa", "ääni", "kuuluu kylässä", "pronssi")
	}
	assert.Nil(t, language.Guess("en", finnish))
	assert.Nil(t, language.Guess("fi", finnish))
}

package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
)

func run(t *testing.T, args ...string) (string, error) {
	command := rootCommand()
	var out bytes.Buffer
	command.SetOut(&out)
	command.SetErr(&out)
	command.SetArgs(args)
	err := command.ExecuteContext(t.Context())
	return out.String(), err
}

func file(t *testing.T, name, content string) string {
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, []byte(content), 0o600))
	return path
}

// example is the map of docs/map-format.md.
func example(t *testing.T) string {
	page, err := os.ReadFile("../../docs/map-format.md")
	require.NoError(t, err)
	return regexp.MustCompile("(?s)```json\n(.*?)```").FindStringSubmatch(string(page))[1]
}

const faulty = `{"mevrin":1,"id":"m","language":"en","concepts":[{"id":"a","label":{"en":"bell"}},{"id":"b","label":{"en":"Bells"}}],
	"links":[{"id":"l","heads":"one","from":[{"id":"e","concept":"a"}],"to":[{"id":"f","concept":"b"}]}]}`

func TestCheckSaysWhatIsFound(t *testing.T) {
	good, bad := file(t, "good.json", example(t)), file(t, "bad.json", faulty)
	out, err := run(t, "check", good)
	require.NoError(t, err)
	assert.Equal(t, good+": nothing to mend\n", out)

	out, err = run(t, "check", good, bad)
	require.ErrorIs(t, err, errFound)
	assert.Equal(t, good+": nothing to mend\n"+bad+":\n  The map has no focus question\n  A link has no words\n    - bell (no words yet) Bells\n"+
		"  A concept stands there twice\n    - bell · Bells\n", out)

	out, err = run(t, "check", "--json", bad)
	require.ErrorIs(t, err, errFound)
	var reports []report
	require.NoError(t, json.Unmarshal([]byte(out), &reports))
	require.Len(t, reports, 1)
	assert.Equal(t, "concept-twice", reports[0].Findings[2].Rule)
	assert.Equal(t, [][]reportAt{{{"concept", "a", "bell"}, {"concept", "b", "Bells"}}}, reports[0].Findings[2].Places)

	_, err = run(t, "check", file(t, "newer.json", `{"mevrin":7}`))
	require.ErrorContains(t, err, "newer version")
	assert.NotErrorIs(t, err, errFound)
	_, err = run(t, "check", "nowhere.json")
	require.ErrorContains(t, err, "nowhere.json")
}

func TestConvertGoesByTheEnding(t *testing.T) {
	in := file(t, "in.json", example(t))
	again, picture := filepath.Join(t.TempDir(), "again.JSON"), filepath.Join(t.TempDir(), "picture.svg")
	for _, out := range []string{again, picture} {
		_, err := run(t, "convert", in, out)
		require.NoError(t, err)
	}
	written, err := os.ReadFile(again)
	require.NoError(t, err)
	assert.JSONEq(t, example(t), string(written))
	drawn, err := os.ReadFile(picture)
	require.NoError(t, err)
	assert.Contains(t, string(drawn), "<desc>Why does a bell hum?</desc>")

	_, err = run(t, "convert", in, "out.xyz")
	require.ErrorContains(t, err, "cannot be written")
	_, err = run(t, "convert", file(t, "in.xyz", "a"), again)
	require.ErrorContains(t, err, "cannot be read")
	// What cannot be read leaves what was there.
	_, err = run(t, "convert", file(t, "bad.json", "{"), again)
	require.Error(t, err)
	after, err := os.ReadFile(again)
	require.NoError(t, err)
	assert.Equal(t, written, after)
	_, err = run(t, "convert", in, filepath.Join(t.TempDir(), "no", "folder.svg"))
	require.Error(t, err)
}

func tidyFile(file, pattern, positions, out string) error {
	return tidying{pattern: pattern, siblings: "free", positions: positions, out: out}.file(file)
}

// A measured graph is put in order from the command line; an unknown pattern
// and a file that is none are refused in words.
func TestTidyWritesPositions(t *testing.T) {
	dir := t.TempDir()
	graph, out := filepath.Join(dir, "g.json"), filepath.Join(dir, "p.json")
	require.NoError(t, os.WriteFile(graph, []byte(`{"nodes":[{"id":"a","w":80,"h":30},{"id":"b","w":80,"h":30}],"edges":[{"from":"a","to":"b","label":"has","lw":30,"lh":16}]}`), 0o600))
	require.NoError(t, tidyFile(graph, "levels", out, ""))
	raw, err := os.ReadFile(out)
	require.NoError(t, err)
	assert.Contains(t, string(raw), `"label":{`)
	assert.ErrorContains(t, tidyFile(graph, "spiral", out, ""), "levels-right")
	assert.ErrorContains(t, tidyFile(out+"x", "levels", out, ""), "no such file")
	_, err = run(t, "tidy", graph, "--again", out, "--positions", out, "--siblings", "kept")
	require.NoError(t, err)
	again, err := os.ReadFile(out)
	require.NoError(t, err)
	assert.Contains(t, string(again), `"label":{`)
	_, err = run(t, "tidy", graph, "--again", graph, "--positions", out, "--siblings", "loose")
	assert.ErrorContains(t, err, "free or kept")
	require.NoError(t, os.WriteFile(graph, []byte(`{}`), 0o600))
	assert.ErrorContains(t, tidyFile(graph, "levels", out, ""), "a measured graph has")
}

// A map and a measured graph become a map put in order; nobody is left to guess
// where it was written.
func TestTidyWritesAMap(t *testing.T) {
	dir := t.TempDir()
	graph, out := filepath.Join(dir, "g.json"), filepath.Join(dir, "m.json")
	require.NoError(t, os.WriteFile(graph, []byte(`{"name":"bells","root":"a","nodes":[{"id":"a","label":"bell","w":80,"h":30},{"id":"b","label":"rim","w":80,"h":30}],"edges":[{"from":"a","to":"b","label":"has","lw":30,"lh":16}]}`), 0o600))
	require.NoError(t, tidyFile(graph, "levels", "", out))
	m, err := readMap(out)
	require.NoError(t, err)
	assert.Equal(t, cm.PatternLevels, m.Pattern)
	assert.Less(t, m.Concepts["c00000"].At.Y, m.Concepts["c00001"].At.Y)
	assert.NotNil(t, m.Links["l00000"].Hub)
	require.NoError(t, tidyFile(out, "levels-up", "", out))
	m, err = readMap(out)
	require.NoError(t, err)
	assert.Greater(t, m.Concepts["c00000"].At.Y, m.Concepts["c00001"].At.Y)
	assert.ErrorContains(t, tidyFile(graph, "levels", "", ""), "--out")
	_, err = run(t, "convert", graph, filepath.Join(dir, "g.svg"))
	assert.NoError(t, err)
}

func TestAgreePrintsFiguresAndNamesBadLines(t *testing.T) {
	table := file(t, "ratings.csv", "unit,rater,value\np1,a,holds\np1,b,in-part\np2,a,holds\np2,b,holds\np3,a,does-not-hold\np3,b,does-not-hold\np4,a,in-part\np4,b,\n")
	out, err := run(t, "agree", table)
	require.NoError(t, err)
	assert.Contains(t, out, "4 units, 2 raters, 7 values\nPercent agreement              66.667 %")
	out, err = run(t, "agree", "--json", "--scale", "nominal", table)
	require.NoError(t, err)
	var got agreement
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.InDelta(t, 0.5, *got.Cohen.Kappa, 1e-9)
	assert.Nil(t, got.Alpha.Ordinal)
	assert.Equal(t, "the values are not ordered", got.Why["alpha.ordinal"])
	assert.Less(t, got.Interval.Alpha.Nominal[0], got.Interval.Alpha.Nominal[1])
	_, err = run(t, "agree", file(t, "bad.csv", "unit,rater,value\np1,a,holds\np2,a,perhaps\n"))
	require.ErrorContains(t, err, "bad.csv, line 3: “perhaps” is no value")
	assert.NotErrorIs(t, err, errFound)
}

func TestBriefSaysWhatIsMet(t *testing.T) {
	m, b := file(t, "map.json", example(t)), file(t, "brief.json", `{"brief":1,"title":"Two","lines":[{"id":"two","of":"concepts","atLeast":2,"points":3},{"id":"cross","says":"=a cross-link","of":"cross-links"}]}`)
	out, err := run(t, "brief", b, m)
	require.ErrorIs(t, err, errFound)
	assert.Equal(t, m+": 3 of 3 points\n  + two: 2\n  – =a cross-link: 0 (missing: 1 more)\n", out)
	out, err = run(t, "brief", "--csv", b, m)
	require.ErrorIs(t, err, errFound)
	assert.Contains(t, out, ",cross,'=a cross-link,first,0,,,false,0,1 more\n")
	out, err = run(t, "brief", "--json", b, m)
	require.ErrorIs(t, err, errFound)
	var got []briefed
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "the bell", got[0].Lines[0].Meets[0].Words)
	_, err = run(t, "brief", "first-map", m)
	require.ErrorIs(t, err, errFound)
	_, err = run(t, "brief", file(t, "bad.json", `{"brief":1,"lines":[{"id":"x","of":"birds"}]}`), m)
	require.ErrorContains(t, err, "line 1: “birds” cannot be counted")
	assert.NotErrorIs(t, err, errFound)
}

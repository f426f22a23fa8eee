package conceptmap_test

import (
	"bytes"
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/maptest"
)

func schema(t *testing.T) func(raw []byte) error {
	file, err := os.ReadFile("../../docs/map-format.schema.json")
	require.NoError(t, err)
	parsed, err := jsonschema.UnmarshalJSON(bytes.NewReader(file))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("map-format.schema.json", parsed))
	compiled, err := c.Compile("map-format.schema.json")
	require.NoError(t, err)
	return func(raw []byte) error {
		instance, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
		if err != nil {
			return err
		}
		return compiled.Validate(instance)
	}
}

// What is written fits the published schema. A document that was damaged is
// read only if it still fits: the reader is never laxer than the schema.
func TestWriterAndReaderKeepToTheSchema(t *testing.T) {
	validate := schema(t)
	rejected := 0
	rapid.Check(t, func(t *rapid.T) {
		m := maptest.Map(t, 30)
		raw, err := document.Write(m)
		require.NoError(t, err)
		require.NoError(t, validate(raw))

		var doc any
		require.NoError(t, json.Unmarshal(raw, &doc))
		for range rapid.IntRange(1, 2).Draw(t, "damages") {
			damage(t, doc)
		}
		damaged, err := json.Marshal(doc)
		require.NoError(t, err)
		read, err := document.Read(damaged)
		if fits := validate(damaged); err == nil && fits != nil {
			t.Fatalf("read, though the schema says %v\n%s", fits, damaged)
		}
		if err != nil {
			rejected++
			return
		}
		again, err := document.Write(read)
		require.NoError(t, err)
		require.NoError(t, validate(again))
	})
	assert.Greater(t, rejected, 20, "damage is mostly noticed")
}

// damage changes one place of a document.
func damage(t *rapid.T, doc any) {
	var places []func()
	junk := rapid.SampledFrom([]any{nil, true, 1.5, -1e9, "", "x y", "one", []any{}, []any{nil}, map[string]any{}, map[string]any{"en": "x"}, map[string]any{"EN": 3}}).Draw(t, "junk")
	name := rapid.SampledFrom([]string{"colour", "ID", "Concepts", "en", "en-", "rank", "main", "note", "mevrin"}).Draw(t, "name")
	var walk func(any)
	walk = func(at any) {
		switch at := at.(type) {
		case map[string]any:
			places = append(places, func() { at[name] = junk })
			for _, key := range sortedNames(at) {
				places = append(places, func() { at[key] = junk }, func() { delete(at, key) })
				walk(at[key])
			}
		case []any:
			for i := range at {
				places = append(places, func() { at[i] = junk })
				walk(at[i])
			}
		}
	}
	walk(doc)
	places[rapid.IntRange(0, len(places)-1).Draw(t, "place")]()
}

func sortedNames(of map[string]any) []string {
	var names []string
	for name := range of {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// What JSON lets pass and a schema cannot see is refused, too.
func TestNothingInADocumentIsPassedOver(t *testing.T) {
	for raw, says := range map[string]string{
		`{"mevrin":1,"id":"m","language":"en","concepts":[],"concepts":[{"id":"a"}]}`:                              "twice",
		`{"mevrin":1,"id":"m","language":"en","concepts":[{"id":"a","label":{"en":"x","en":"y"}}]}`:                "twice",
		`{"mevrin":1,"id":"m","language":"en","Concepts":[{"id":"a"}]}`:                                            "does not know",
		`{"mevrin":1,"id":"m","language":"en","title":null}`:                                                       "null",
		`{"mevrin":1,"id":"m","language":"en","concepts":[{"id":"a"}],"focus":"b"}`:                                "not on the map",
		`{"mevrin":1,"id":"m","language":"en","rulesOff":{"loose-idea":false}}`:                                    "can be none",
		`{"mevrin":1,"id":"m","language":"en","routes":[{"id":"a"}],"concepts":[{"id":"a"}]}`:                      "have the id",
		`{"mevrin":1,"id":"m","language":"en"} {"mevrin":1}`:                                                       "cannot be read",
		`{"mevrin":1,"id":"m","language":"en","concepts":` + strings.Repeat("[", 9) + strings.Repeat("]", 9) + `}`: "does not hold",
	} {
		_, err := document.Read([]byte(raw))
		assert.ErrorContains(t, err, says, raw)
	}
	m, err := document.Read([]byte(`{"mevrin":1,"id":"m","language":"en","concepts":[{"id":"a","label":{"to":"lea","en":"sound"}}]}`))
	require.NoError(t, err, "a language may be called like a member")
	assert.Equal(t, "lea", m.Concepts["a"].Label["to"])
	m, err = document.Read([]byte(`{"mevrin":1,"id":"m","language":"en","concepts":[{"id":"a"}],"links":[{"id":"l","heads":"one","from":[{"id":"To","concept":"a"}],"to":[{"id":"X","concept":"a"}],"bends":{"To":[{"x":1,"y":2}]}}]}`))
	require.NoError(t, err, "and so may an end")
	assert.Equal(t, []cm.Point{{X: 1, Y: 2}}, m.Links["l"].Bends["To"])
}

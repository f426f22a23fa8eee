package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What maps earn is printed in words, as JSON and as a table; a rubric that is none is named.
func TestScoresOfMaps(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "bell.json")
	require.NoError(t, os.WriteFile(file, []byte(`{"mevrin":1,"id":"m","language":"en","focus":"a","concepts":[{"id":"a","label":{"en":"=bell"},"at":{"x":0,"y":0}},{"id":"b","label":{"en":"bronze"},"at":{"x":0,"y":90},"main":{"link":"l","from":"f","to":"t","rank":"V"}}],"links":[{"id":"l","phrase":{"en":"is cast of"},"heads":"one","from":[{"id":"f","concept":"a"}],"to":[{"id":"t","concept":"b"}]}],"routes":[],"stops":[]}`), 0o600))
	out, err := run(t, "score", file)
	require.NoError(t, err)
	assert.Contains(t, out, "6 points")
	assert.Contains(t, out, "level: 1 × 5 = 5")
	out, err = run(t, "score", file, "--json")
	require.NoError(t, err)
	var all []map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &all))
	assert.InDelta(t, 6, all[0]["total"], 1e-9)
	out, err = run(t, "score", file, "--csv", "--rubric", "whole")
	require.NoError(t, err)
	assert.Contains(t, out, ",total,,,0")
	rubric := filepath.Join(dir, "mine.json")
	require.NoError(t, os.WriteFile(rubric, []byte(`{"rubric":1,"weights":{"beauty":3}}`), 0o600))
	_, err = run(t, "score", file, "--rubric", rubric)
	assert.ErrorContains(t, err, "“beauty” earns no points")
}

package measured_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/format/measured"
)

const bell = `{"name":"bell","root":"a","nodes":[{"id":"a","label":"the bell","w":90,"h":34},{"id":"b","label":"the rim","w":80,"h":34},{"id":"c","label":"the crown","w":90,"h":34}],
	"edges":[{"from":"a","to":"b","label":"has","lw":30,"lh":16},{"from":"a","to":"c","label":"has","lw":30,"lh":16},{"from":"b","to":"c"}]}`

// Edges from one node with the same phrase share it; every edge is written with
// its own line, from the one centre to the other.
func TestAGraphIsReadAndItsPlacesWritten(t *testing.T) {
	f, err := measured.Read([]byte(bell))
	require.NoError(t, err)
	out, err := f.Arrange(measured.Order{Pattern: cm.PatternLevels, Freely: true})
	require.NoError(t, err)
	require.Len(t, out.Edges, 3)
	at := map[string][2]float64{}
	for _, n := range out.Nodes {
		at[n.ID] = [2]float64{n.X, n.Y}
	}
	for _, e := range out.Edges {
		assert.Equal(t, at[f.Edges[e.Index].From], e.Points[0])
		assert.Equal(t, at[f.Edges[e.Index].To], e.Points[len(e.Points)-1])
	}
	assert.Equal(t, out.Edges[0].Label, out.Edges[1].Label)
	assert.Nil(t, out.Edges[2].Label)
	m, err := f.Map("m")
	require.NoError(t, err)
	assert.Equal(t, "the bell has the rim, the crown", m.Says(m.Links["l00000"]))
	assert.Equal(t, "the bell", m.Words(m.Concepts[m.Focus].Label))
}

// What has come since is added to what stands there; where nothing has, the graph is put in
// order again.
func TestAGraphIsPutInOrderAgain(t *testing.T) {
	whole, err := measured.Read([]byte(bell))
	require.NoError(t, err)
	part := *whole
	part.Nodes, part.Edges = whole.Nodes[:2], whole.Edges[:1]
	was, err := part.Arrange(measured.Order{Pattern: cm.PatternLevels, Freely: true})
	require.NoError(t, err)
	for _, f := range []*measured.File{&part, whole} {
		now, err := f.Arrange(measured.Order{Pattern: cm.PatternLevels, Freely: true, Again: &was})
		require.NoError(t, err)
		require.Len(t, now.Nodes, len(f.Nodes))
		assert.InDelta(t, now.Nodes[0].Y, now.Nodes[1].Y-(was.Nodes[1].Y-was.Nodes[0].Y), 1, "the rim hangs below the bell as before")
	}
}

func TestWhatIsNoGraphIsRefused(t *testing.T) {
	for _, raw := range []string{``, `[]`, `{}`, `{"nodes":[]}`, `{"nodes":[{"id":"a"},{"id":"a"}]}`, `{"nodes":[{"id":"a","w":-1}]}`, `{"nodes":[{"id":"a","w":1e9,"h":1}]}`,
		`{"nodes":[{"id":"a"}],"edges":[{"from":"a","to":"b"}]}`, `{"nodes":[{"id":"a"}],"edges":[{"from":"a","to":"a","lw":-3}]}`} {
		_, err := measured.Read([]byte(raw))
		assert.Error(t, err, raw)
	}
	f, err := measured.Read([]byte(`{"nodes":[{"id":"a","w":10,"h":10}],"edges":[{"from":"a","to":"a","label":"x","lw":5,"lh":5},{"from":"a","to":"a"}]}`))
	require.NoError(t, err, "a node may be joined to itself, and twice")
	at, err := f.Arrange(measured.Order{Pattern: cm.PatternLevels})
	require.NoError(t, err)
	raw, err := json.Marshal(at)
	require.NoError(t, err)
	assert.NotContains(t, string(raw), "null")
}

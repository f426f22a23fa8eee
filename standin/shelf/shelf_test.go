package shelf_test

import (
	"encoding/binary"
	"encoding/xml"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/standin/shelf"
)

// Everything on the shelf is there, says what it is, and under what terms.
func TestEverythingOnTheShelfIsThere(t *testing.T) {
	var s shelf.Searcher = shelf.Local{}
	all := s.Find("", "")
	require.NotEmpty(t, all)
	for _, item := range all {
		_, raw, ok := s.Content(item.Name)
		require.True(t, ok, item.Name)
		assert.NotEmpty(t, item.Says)
		assert.NotEmpty(t, item.Licence)
		switch item.Kind {
		case "picture":
			require.NoError(t, xml.Unmarshal(raw, new(struct{})), item.Name)
			assert.NotContains(t, string(raw), "script")
		case "sound":
			assert.Equal(t, "RIFF", string(raw[:4]))
			assert.InDelta(t, item.Seconds, float64(len(raw)-44)/2/16000, 0.01)
		}
	}
	var names []string
	for _, item := range s.Find("tone hum", "") {
		names = append(names, item.Name)
	}
	assert.Equal(t, []string{"tone-hum"}, names)
	assert.Len(t, s.Find("tone", "CC BY 4.0"), 2)
	assert.Len(t, s.Find("film", ""), 2, "what moves")
	_, _, ok := s.Content("../shelf.go")
	assert.False(t, ok)
}

// The hum tone swings 196 times a second: its zeroes are counted.
func TestTonesHaveTheirPitch(t *testing.T) {
	for name, hertz := range map[string]float64{"tone-hum": 196, "tone-nominal": 784} {
		_, raw, _ := shelf.Local{}.Content(name)
		crossings, last := 0, int16(0)
		for i := 44; i+1 < len(raw); i += 2 {
			v := int16(binary.LittleEndian.Uint16(raw[i:]))
			if last < 0 && v >= 0 {
				crossings++
			}
			last = v
		}
		seconds := float64(len(raw)-44) / 2 / 16000
		assert.InDelta(t, hertz, float64(crossings)/seconds, 2, strings.TrimPrefix(name, "tone-"))
		assert.Less(t, math.Abs(float64(last)), 1000.0, "it ends softly")
	}
}

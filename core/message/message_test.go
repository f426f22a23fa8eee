package message_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/message"
)

func TestMessagesCount(t *testing.T) {
	p := message.For("xx", "en-GB")
	assert.Equal(t, "en", p.Language())
	for want, got := range map[string]string{
		"1 concept": p.Sprintf("%d concepts", 1), "3 concepts": p.Sprintf("%d concepts", 3), "10,000 concepts": p.Sprintf("%d concepts", 10_000),
		"a film": p.Sprintf("%d films", 1), "1 visitor disagrees": p.Sprintf("%d visitors disagree", 1), "not in the catalogue 7": p.Sprintf("not in the catalogue %d", 7),
		"50 % of it": p.Sprintf("50 % of it"), "below b": p.Sprintf("below %s", message.Word("b")), "In {1}": p.Sprintf("In {1}"), "In Bells": p.Sprintf("In {1}", "Bells"),
	} {
		assert.Equal(t, want, got)
	}
}

// A message is kept until it is known who reads it; what was kept as words before stays
// readable.
func TestMessagesAreKept(t *testing.T) {
	raw, err := json.Marshal([]message.Message{message.Of("“%s” is on the map already.", "the bell"), message.Of("%d concepts", 2)})
	require.NoError(t, err)
	var again []message.Message
	require.NoError(t, json.Unmarshal(raw, &again))
	assert.Equal(t, "“the bell” is on the map already.", again[0].String())
	require.NoError(t, json.Unmarshal([]byte(`["Left as it is: 100 % of it."]`), &again))
	assert.Equal(t, "Left as it is: 100 % of it.", again[0].String())
}

package preview_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/standin/preview"
)

func TestTitlesAreGuessed(t *testing.T) {
	for address, want := range map[string][2]string{
		"https://www.hollin.example/bells/how-a-bell_rings.html?x=1": {"How a bell rings – hollin.example", "page"},
		"https://hollin.example/":                                    {"hollin.example", "page"},
		"https://hollin.example/a/Glocken%20gie%C3%9Fen.pdf":         {"Glocken gießen – hollin.example", "document"},
		"https://hollin.example/2024/12":                             {"hollin.example", "page"},
		"nothing":                                                    {"", "page"},
	} {
		page := preview.Local{}.Preview(address)
		assert.Equal(t, want, [2]string{page.Title, page.Kind}, address)
		assert.NotEmpty(t, page.Says)
	}
}

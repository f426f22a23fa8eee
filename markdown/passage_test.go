package markdown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	cm "mevrin/core/conceptmap"
	"mevrin/markdown"
)

// What was copied from a page keeps its links and paragraphs, and nothing that could do harm.
func TestAPassageKeepsItsLinks(t *testing.T) {
	for page, note := range map[string]string{
		`<meta charset=utf-8><p>The <b>rim</b> of a <a href="https://hollin.example/bell">bell</a>, struck.</p><p>It rings.</p>`: "The rim of a [bell](<https://hollin.example/bell>), struck.\n\nIt rings.",
		`<ul><li>copper</li><li>tin</li></ul>`:                                               "- copper\n- tin",
		`see <a href="https://hollin.example/a"> here </a>now`:                               "see [here](<https://hollin.example/a>) now",
		`<a href="https://hollin.example/">https://hollin.example/</a>`:                      "<https://hollin.example/>",
		`<a href="javascript:alert(1)">press</a><script>alert(2)</script><style>p{}</style>`: "press",
		`<a href="https://hollin.example/x">a]b[c</a><img src=x onerror=alert(1)>`:           "[a)b(c](<https://hollin.example/x>)",
		`<a href="https://u:p@hollin.example/">who</a>`:                                      "who",
		`no signs at all`: "no signs at all",
		"":                "",
	} {
		assert.Equal(t, note, markdown.Passage(page, cm.CleanAddress), page)
	}
	deep := strings.Repeat("<div><a href=https://hollin.example>", 5000) + "in"
	assert.Contains(t, markdown.Passage(deep, cm.CleanAddress), "in")
}

func FuzzPassage(f *testing.F) {
	f.Add(`<p>a <a href="https://hollin.example/]>)">b`)
	f.Fuzz(func(t *testing.T, page string) { hostile(t, markdown.HTML(markdown.Passage(page, cm.CleanAddress))) })
}

package web

import (
	"html/template"
	"regexp"
	"strings"
	"testing"
	"text/template/parse"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/core/message"
)

func localized(t *testing.T, page string, look func(string) string, counts func(string) bool, data any) string {
	one := template.Must(template.New("page").Funcs(pageFuncs(message.English())).Parse(page))
	(&localizer{look: look, counts: counts}).list(one.Tree.Root)
	var out strings.Builder
	require.NoError(t, one.Execute(&out, data))
	return out.String()
}

// What is read between tags and in attributes is a message, whatever stands in it; values
// stand where the language wants them, and markup, scripts and addresses stay.
func TestPagesAreLocalised(t *testing.T) {
	seen := map[string]bool{}
	words := map[string]string{"Bells": "Glocken", "down to level {1}": "bis Ebene {1} hinab", ", {1} of {2}": ", von {2} {1}", "Close it": "Zu damit", "say {1}": "{1} sagen", "more": "mehr", "none yet": "noch keine"}
	look := func(key string) string {
		seen[key] = true
		if other := words[key]; other != "" {
			return other
		}
		return key
	}
	page := `<style>p { color: red }</style><p class="big bell" title="Close it" data-do="close">Bells <b>down to level {{.N}}</b>, {{.N}} of {{.M}}</p>
<input placeholder="{{if .N}}say {{.W}}{{else}}none yet{{end}}" value="{{.W}}">{{range .L}}<a href="/x?y=more words">more</a>{{else}}none yet{{end}} {{$d := .W}}&amp; · <i>{{$d}}</i>`
	got := localized(t, page, look, nil, map[string]any{"N": 2, "M": 7, "W": "a<b", "L": []int{1}})
	assert.Equal(t, `<style>p { color: red }</style><p class="big bell" title="Zu damit" data-do="close">Glocken <b>bis Ebene 2 hinab</b>, von 7 2</p>
<input placeholder="a&lt;b sagen" value="a&lt;b"><a href="/x?y=more words">mehr</a> &amp; · <i>a&lt;b</i>`, got)
	assert.False(t, seen["color: red"] || seen["close"] || seen["more words"], "what nobody reads is no message")
	assert.True(t, seen["none yet"])
	assert.Equal(t, "<p>1 concept</p>", localized(t, `<p>{{len .}} concepts</p>`, look, func(string) bool { return true }, []int{1}), "a text that counts is written when its number is known")
}

// Nothing that is read in any page stands outside a message: with every message replaced
// no letter is left between tags.
func TestEveryTextOfPagesIsAMessage(t *testing.T) {
	pages := template.Must(template.New("").Funcs(pageFuncs(message.English())).ParseFS(templateFiles, "templates/*.html"))
	texts := 0
	for _, page := range pages.Templates() {
		if page.Tree == nil {
			continue
		}
		l := &localizer{look: func(string) string { texts++; return "♪" }}
		l.list(page.Tree.Root)
		left := &localizer{look: func(key string) string { t.Errorf("%s: %q was no message", page.Name(), key); return key }}
		left.list(page.Tree.Root)
		assert.NotContains(t, letters(page.Tree.Root), "</", page.Name())
	}
	assert.Greater(t, texts, 900)
}

var between = regexp.MustCompile(`>([^<{]*[A-Za-z]{2}[^<{]*)<`)

// letters gives what is read in the plain text of a template.
func letters(list *parse.ListNode) string {
	var all []string
	for _, n := range list.Nodes {
		if text, is := n.(*parse.TextNode); is {
			for _, m := range between.FindAllSubmatch(text.Text, -1) {
				all = append(all, string(m[1]))
			}
		}
	}
	return strings.Join(all, "\n")
}

package web_test

import (
	"os"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A class of a drawing that is a utility of the page, too, would be set like one, and
// found where scripts look for the drawing.
func TestClassesOfDrawingsAreNoUtilities(t *testing.T) {
	read := func(path string) string {
		raw, err := os.ReadFile(path)
		require.NoError(t, err)
		return string(raw)
	}
	names := func(pattern, text string) map[string]bool {
		all := map[string]bool{}
		for _, m := range regexp.MustCompile(pattern).FindAllStringSubmatch(text, -1) {
			all[m[1]] = true
		}
		return all
	}
	drawn := names(`\.([a-z][a-z0-9-]*)`, read("../draw/display/paper.css")+read("../draw/display/looks.css"))
	require.Greater(t, len(drawn), 40)
	layers := regexp.MustCompile(`(?s)@layer utilities\{(.*)`).FindStringSubmatch(read("static/app.css"))
	require.NotNil(t, layers)
	utilities := names(`[{}]\.([a-z][a-z0-9-]*)\{`, layers[1])
	require.True(t, utilities["flex"] && utilities["grid"])
	own := names(`@utility ([a-z-]+)`, read("../assets/controls.css"))
	sheet := names(`\.([a-z][a-z0-9-]*)`, read("../assets/onpaper.css"))
	for class := range drawn {
		if utilities[class] && !own[class] && !sheet[class] {
			assert.Equal(t, "italic", class, "it says the same in both")
		}
	}
}

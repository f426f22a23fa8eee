package quiz_test

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/format/content"
	"mevrin/format/quiz"
)

// A package holds an item for each question, all that it names is in it, hostile words stay words, and the
// answer is for whoever scores alone.
func TestQuestionsLeaveAsATest(t *testing.T) {
	m := cm.NewMap("m", "en")
	_, err := quiz.WriteQTI(content.New(m))
	assert.ErrorContains(t, err, "asks a question")
	out, err := edit.Apply(m, []edit.Operation{
		&edit.AddRoute{ID: "r", Title: "Bells & <towers>"}, &edit.AddStop{ID: "a", Route: "r"}, &edit.AddStop{ID: "b", Route: "r", After: "a"},
		&edit.WriteStop{Stop: "a", Part: "question", Words: "Why *does* it hum & is 2 < 3?"}, &edit.WriteStop{Stop: "a", Part: "answer", Words: "It **trembles**."},
	}, nil)
	require.NoError(t, err)
	raw, err := quiz.WriteQTI(content.New(out.Map))
	require.NoError(t, err)
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	require.NoError(t, err)
	files := map[string]string{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		body, err := io.ReadAll(r)
		require.NoError(t, err)
		files[f.Name] = string(body)
		for d := xml.NewDecoder(bytes.NewReader(body)); ; {
			token, err := d.Token()
			if err == io.EOF {
				break
			}
			require.NoError(t, err, f.Name)
			if start, is := token.(xml.StartElement); is {
				for _, a := range start.Attr {
					if a.Name.Local == "href" {
						assert.True(t, strings.Contains(string(raw), a.Value), a.Value)
					}
				}
			}
		}
	}
	assert.Len(t, files, 3)
	item := files["question-1.xml"]
	assert.Contains(t, item, "<p>Why does it hum &amp; is 2 &lt; 3?</p>")
	before, after, _ := strings.Cut(item, "</qti-rubric-block>")
	assert.Contains(t, before, `view="scorer tutor"><qti-content-body><p>It trembles.</p>`)
	assert.NotContains(t, after, "trembles")
	assert.Contains(t, files["test.xml"], `title="Bells &amp; &lt;towers&gt;"`)
}

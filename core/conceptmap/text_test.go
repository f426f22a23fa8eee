package conceptmap_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
)

func TestClean(t *testing.T) {
	for given, want := range map[string]string{
		"bell":                              "bell",
		"  two \t words ":                   "two   words",
		"line\r\none\rtwo":                  "line\none two",
		"e\u0301":                           "é", // normal form C
		"A\u202eB\u2066C\u2069":             "ABC",
		"null\x00 bell\x07 esc\x1b[31m":     "null bell esc[31m",
		"family \U0001f468\u200d\U0001f469": "family \U0001f468\u200d\U0001f469", // joiners hold pictographs together
		"\ufeffmark":                        "mark",
		"tag \U000e0041":                    "tag",
		"\u2028":                            "",
		"صوت":                               "صوت",
	} {
		got, err := cm.Clean(given, 40, "A label")
		require.NoError(t, err, "%q", given)
		assert.Equal(t, want, got, "%q", given)
		again, err := cm.Clean(got, 40, "A label")
		require.NoError(t, err)
		assert.Equal(t, got, again, "cleaning twice is cleaning once")
	}
	long, err := cm.Clean(strings.Repeat("é", 40), 40, "A label")
	require.NoError(t, err)
	assert.Len(t, []rune(long), 40)
	_, err = cm.Clean(strings.Repeat("é", 41), 40, "A label")
	assert.EqualError(t, err, "A label is too long: it has 41 characters, and at most 40 fit.")
}

func TestText(t *testing.T) {
	en := cm.Text(nil).With("en", "bell")
	both := en.With("de", "Glocke")
	assert.Equal(t, cm.Text{"en": "bell"}, en, "a text is never altered in place")
	assert.Equal(t, []string{"Glocke", "bell", "bell", "Glocke", ""},
		[]string{both.For("de", "en"), both.For("fr", "en"), both.In("en"), both.For("fr"), cm.Text(nil).For("en")})
	assert.Nil(t, both.With("de", "").With("en", ""), "a text without words is none")
	for tag, want := range map[cm.Lang]bool{"en": true, "pt-BR": true, "zh-Hant-TW": true, "": false, "EN": false, "e": false, "en_GB": false, "en-": false, "<b>": false} {
		assert.Equal(t, want, tag.Valid(), string(tag))
	}
}

// Every member of a document, as version 1 has it. What is written here must
// be readable for ever.
const versionOne = `{
  "mevrin": 1,
  "id": "bells",
  "language": "en",
  "title": {
    "de": "Glocken",
    "en": "Bells"
  },
  "question": {
    "en": "Why does a bell hum?"
  },
  "focus": "c1",
  "concepts": [
    {
      "id": "c1",
      "label": {
        "en": "bell <b>&amp;"
      },
      "note": {
        "en": "cast\nin bronze"
      },
      "at": {
        "x": -12.5,
        "y": 0
      }
    },
    {
      "id": "c2",
      "at": {
        "x": 100,
        "y": 200.25
      },
      "main": {
        "link": "l1",
        "from": "f1",
        "to": "t1",
        "rank": "V"
      }
    }
  ],
  "links": [
    {
      "id": "l1",
      "phrase": {
        "en": "is struck by"
      },
      "note": {
        "en": "once an hour"
      },
      "heads": "both",
      "from": [
        {
          "id": "f1",
          "concept": "c1"
        }
      ],
      "to": [
        {
          "id": "t1",
          "concept": "c2"
        }
      ]
    }
  ],
  "routes": [
    {
      "id": "r1",
      "title": {
        "en": "For beginners"
      }
    }
  ],
  "stops": [
    {
      "id": "s1",
      "route": "r1",
      "rank": "V",
      "title": {
        "en": "Look"
      },
      "card": {
        "en": "*Here*"
      },
      "guideNotes": {
        "en": "knock first"
      },
      "refs": [
        {
          "kind": "concept",
          "id": "gone",
          "seen": {
            "en": "the clapper"
          }
        },
        {
          "kind": "link",
          "id": "l1"
        }
      ]
    }
  ]
}
`

func TestDocumentsOfVersionOneStayReadable(t *testing.T) {
	m, err := document.Read([]byte(versionOne))
	require.NoError(t, err)
	assert.Equal(t, versionOne, doc(t, m))
	assert.Equal(t, cm.ID("c1"), m.Parent(m.Concepts["c2"]))
	assert.Equal(t, "the clapper", m.Stops["s1"].Refs[0].Seen["en"])

	// A main strand that does not hold is mended, not refused.
	m, err = document.Read([]byte(strings.Replace(versionOne, `"from": "f1",`, `"from": "f9",`, 1)))
	require.NoError(t, err)
	assert.Equal(t, cm.ID("c1"), m.Parent(m.Concepts["c2"]))
}

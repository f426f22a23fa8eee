package people_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/core/people"
)

func TestWhatPeopleSayOfThemselves(t *testing.T) {
	for address, want := range map[string]string{"Ada.Finch@Hollin.example": "ada.finch@hollin.example", " jory@hollin.example ": "jory@hollin.example",
		"ada": "", "Ada <ada@hollin.example>": "", "ada@hollin.example\r\nBcc: all@hollin.example": "", "a b@hollin.example": "", "": "", strings.Repeat("a", 300) + "@b.example": ""} {
		got, err := people.CleanMail(address)
		assert.Equal(t, want, got, address)
		assert.Equal(t, want == "", err != nil, address)
	}
	ada := people.Person{Name: "Ada Finch", Mail: "ada.finch@hollin.example"}
	for password, good := range map[string]bool{"bronze rope lantern": true, "short": false, "password123": false, "1234567890": false, "qwertyuiop": false,
		"AdaFinch2026": false, "ada.finch@hollin.example": false, "aaaaaaaaaaaaaaa": false, strings.Repeat("x9!", 100): false, "Glocke und Seil im Turm": true} {
		assert.Equal(t, good, people.CheckPassword(password, ada) == nil, password)
	}
	_, err := people.CleanName("  ")
	assert.Error(t, err)
}

func TestRightsBringOthersAlong(t *testing.T) {
	all := []people.Right{people.RightNone, people.RightLook, people.RightCopy, people.RightJudge, people.RightComment, people.RightGuide, people.RightEdit, people.RightOwn}
	for i, r := range all {
		for j, other := range all {
			assert.Equal(t, i >= j, r.Allows(other), "%q %q", r, other)
			assert.Equal(t, all[max(i, j)], people.Greater(r, other))
		}
		assert.Equal(t, i > 0, r.Valid())
	}
	assert.False(t, people.Right("everything").Valid())
	assert.False(t, people.Right("everything").Allows(people.RightLook))
}

func TestOriginsStandInAPolicyAsTheyAre(t *testing.T) {
	for words, want := range map[string]string{
		"https://Course.Hollin.example/unit/3?x=1": "https://course.hollin.example", "wiki.hollin.example, https://wiki.hollin.example:443/a": "https://wiki.hollin.example",
		"https://a.example:8443\nhttp://localhost:8000": "https://a.example:8443 http://localhost:8000", "http://127.0.0.1:80": "http://127.0.0.1",
		"": "", " , ": "", "*": "", "https://*.hollin.example": "", "http://hollin.example": "", "javascript://alert": "", "data:text/html,x": "", "https://a;script-src": "https://a https://script-src",
		"https://a'b.example": "", "https://user@hollin.example": "", "https://": "", "https://a..b": "", "ftp://a.example": "", strings.Repeat("a.example,", 3) + manyHosts(21): "",
	} {
		got, err := people.CleanOrigins(words)
		assert.Equal(t, want, strings.Join(got, " "), words)
		assert.Equal(t, want == "", err != nil, words)
	}
}

func manyHosts(n int) (all string) {
	for i := range n {
		all += strings.Repeat("x", i+1) + ".example "
	}
	return all
}

func TestPeopleAreNamedBehindAnAt(t *testing.T) {
	all := []people.Person{{ID: "1", Name: "Jory Pell"}, {ID: "2", Name: "Wren Abbott"}, {ID: "3", Name: "Wren"}, {ID: "4", Name: "Zoë Ash"}, {ID: "5", Name: "Jo"}}
	for words, want := range map[string]string{"@Jory Pell, look": "1", "what do you say, @jory?": "1", "@wren abbott": "2", "@Wren": "3", "@Wrench": "", "@zoe and @Zoë Ash": "4", "jory@hollin.example": "",
		"Jory Pell": "", "@": "", "@@Jory": "1", "@Jory @Wren @Jory Pell": "1 3", "@Jo!": "5"} {
		var ids []string
		for _, p := range people.Mentioned(words, all) {
			ids = append(ids, p.ID)
		}
		assert.Equal(t, want, strings.Join(ids, " "), words)
	}
}

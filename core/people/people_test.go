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

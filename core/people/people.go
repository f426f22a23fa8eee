// Package people says who uses a Mevrin that several share, and what they may do with a map.
package people

import (
	"net/mail"
	"strings"
	"unicode/utf8"

	"github.com/trustelem/zxcvbn"

	cm "mevrin/core/conceptmap"
)

// Role is what somebody is to the whole of a Mevrin.
type Role string

// The roles.
const (
	RoleOwner   Role = "owner"   // keeps it: invites people and lets them go
	RoleAuthor  Role = "author"  // makes and shares maps
	RoleLearner Role = "learner" // has maps of their own, and those that others share
)

// Roles lists them with what they are called.
var Roles = []struct {
	ID    Role
	Title string
}{{RoleOwner, "owner"}, {RoleAuthor, "teacher or researcher"}, {RoleLearner, "learner"}}

// Valid tells whether there is such a role.
func (r Role) Valid() bool { return r == RoleOwner || r == RoleAuthor || r == RoleLearner }

// FirstOwner is how the one author of a Mevrin without accounts is known, and then the first who owns it:
// so what there was is theirs.
const FirstOwner = "author"

// SeesMail tells whether somebody sees the mail addresses of others: learners know each other by name.
func (r Role) SeesMail() bool { return r == RoleOwner || r == RoleAuthor }

// Person is somebody with an account.
type Person struct {
	ID   string
	Name string
	Mail string // as CleanMail gives it
	Role Role
}

// The bounds of what people write of themselves, in characters.
const (
	MaxName     = 80
	MaxMail     = 200
	MinPassword = 10
	MaxPassword = 200

	MinLinkPassword = 4      // of a link: a class has to type it
	MaxSeats        = 10_000 // for how many browsers a link can be good

	MaxFolderName = 80
)

// CleanName gives a name on one line; it refuses none, and one that is too long.
func CleanName(name string) (string, error) {
	name, err := cm.Clean(name, MaxName, "The name")
	if err == nil && name == "" {
		err = cm.Refusef("Please say by which name others know you.")
	}
	return name, err
}

// CleanMail gives a mail address (RFC 5322, addr-spec) as it is compared; it refuses what is none.
func CleanMail(address string) (string, error) {
	address = strings.TrimSpace(address)
	parsed, err := mail.ParseAddress(address)
	if err != nil || parsed.Name != "" || parsed.Address != address || len(address) > MaxMail || strings.ContainsAny(address, "<>\"\r\n ") {
		return "", cm.Refusef("That is no mail address. It should look like name@school.example.")
	}
	return strings.ToLower(address), nil
}

// hardEnough is how many guesses a password has to withstand, as a power of ten: an attack on a stolen
// database of slow hashes takes years then (Wheeler, zxcvbn, USENIX Security 2016, and its score of 3).
const hardEnough = 3

// CheckPassword refuses a password that is short, is among those that many people have, or is made of what
// is known of the person.
func CheckPassword(password string, of Person) error {
	switch n := utf8.RuneCountInString(password); {
	case n < MinPassword:
		return cm.Refusef("A password needs at least %d characters. Several words that do not belong together are easy to remember.", MinPassword)
	case n > MaxPassword:
		return cm.Refusef("A password has at most %d characters.", MaxPassword)
	}
	known := strings.FieldsFunc(strings.ToLower(of.Mail+" "+of.Name), func(r rune) bool { return strings.ContainsRune("@. -", r) })
	rest := strings.ToLower(password)
	for _, word := range known {
		if len(word) > 2 {
			rest = strings.ReplaceAll(rest, word, "")
		}
	}
	rest = strings.Trim(rest, "0123456789.-_@! ")
	named := rest != strings.Trim(strings.ToLower(password), "0123456789.-_@! ") && utf8.RuneCountInString(rest) < MinPassword/2
	if named || zxcvbn.PasswordStrength(password, append(known, of.Mail, strings.ToLower(of.Name), "mevrin")).Score < hardEnough {
		return cm.Refusef("This password is among the first that somebody would try. Take several words that do not belong together.")
	}
	return nil
}

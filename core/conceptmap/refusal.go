package conceptmap

import "fmt"

// Refusal is an error whose text is meant for the person who asked: what
// cannot be done and why, in plain words. Nothing has happened.
type Refusal struct{ Words string }

// Error gives the words.
func (r *Refusal) Error() string { return r.Words }

// Refusef gives a refusal in words.
func Refusef(format string, args ...any) error {
	return &Refusal{fmt.Sprintf(format, args...)}
}

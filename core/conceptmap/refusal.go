package conceptmap

import "mevrin/core/message"

// Refusal is an error that is meant for the person who asked: what cannot be done and
// why, in plain words. Nothing has happened.
type Refusal struct {
	Key  string // of the catalogue of messages
	Args []any  // what stands in its places
}

// Refusef gives a refusal: a key of the catalogue of messages, which is how it reads in
// English, and what stands in its places.
func Refusef(key string, args ...any) error { return &Refusal{key, args} }

// Error gives the words in English.
func (r *Refusal) Error() string { return r.In(message.English()) }

// In gives the words in another language.
func (r *Refusal) In(p *message.Printer) string { return p.Sprintf(r.Key, r.Args...) }

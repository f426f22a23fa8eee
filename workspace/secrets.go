package workspace

import (
	"context"
	"crypto/rand"
	"strings"
	"sync"

	"github.com/alexedwards/argon2id"

	"mevrin/core/people"
)

// secrets hashes passwords, some at once: each takes much memory on purpose.
type secrets chan struct{}

func newSecrets() secrets { return make(secrets, 2) }

// costs are those that OWASP's Password Storage Cheat Sheet gives for argon2id (RFC 9106): 19 MiB, two rounds.
var costs = &argon2id.Params{Memory: 19 << 10, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// nobodys is what a password is compared with where there is none, so that it takes as long.
var nobodys = sync.OnceValue(func() string {
	secret, err := argon2id.CreateHash(rand.Text(), costs)
	if err != nil {
		panic(err) // without randomness nothing here is safe
	}
	return secret
})

// HasPassword tells whether what is kept of somebody is a password: those who come by their school have none here.
func HasPassword(secret string) bool { return strings.HasPrefix(secret, "$argon2id$") }

// turn does something that takes much memory, when it is its turn.
func (s secrets) turn(ctx context.Context, do func() error) error {
	select {
	case s <- struct{}{}:
		defer func() { <-s }()
		return do()
	case <-ctx.Done():
		return ctx.Err()
	}
}

// hash gives a password as it is kept.
func (s secrets) hash(ctx context.Context, password string) (secret string, err error) {
	return secret, s.turn(ctx, func() (err error) {
		secret, err = argon2id.CreateHash(password, costs)
		return err
	})
}

// match tells whether a password is the one that is kept. Long ones are not even tried.
func (s secrets) match(ctx context.Context, password, secret string) (ok bool, err error) {
	if len(password) > 4*people.MaxPassword {
		return false, nil
	}
	return ok, s.turn(ctx, func() (err error) {
		if !HasPassword(secret) { // whoever has no password gets in by none
			_, err = argon2id.ComparePasswordAndHash(password, nobodys())
			return err
		}
		ok, err = argon2id.ComparePasswordAndHash(password, secret)
		return err
	})
}

// Hash gives a password as it is kept.
func (a *Accounts) Hash(ctx context.Context, password string) (string, error) {
	return a.secrets.hash(ctx, password)
}

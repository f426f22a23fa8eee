package main

import (
	"context"
	"crypto/rand"
	"errors"

	"mevrin/demo"
	"mevrin/store"
)

// fillPeople makes the made-up people of the demo who are not there yet, and shares its maps among them.
// They have no password that anybody knows: the demo signs in by one press.
func fillPeople(ctx context.Context, s *store.Store) error {
	for _, p := range demo.People {
		if _, _, err := s.Person(ctx, p.ID); err == nil {
			continue
		} else if !errors.Is(err, store.ErrNoPerson) {
			return err
		}
		if err := s.AddPerson(ctx, p, "none:"+rand.Text()); err != nil {
			return err
		}
		for _, share := range demo.Shares {
			if share.Person != p.ID {
				continue
			}
			if err := s.All().ShareWith(ctx, share.Map, p.ID, share.Allows); err != nil && !errors.Is(err, store.ErrNoMap) {
				return err
			}
		}
	}
	return nil
}

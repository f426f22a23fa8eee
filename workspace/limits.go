package workspace

import (
	"context"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
)

// Limits are those of a link, as somebody fills them in.
type Limits struct {
	Password string // a new one; empty for the one there is
	Open     bool   // it asks for no password
	Until    string // the last day, as YYYY-MM-DD; empty for any
	Most     string // how many may open it; empty for any number
}

// limited gives a link with limits.
func (w *Workspace) limited(ctx context.Context, g store.Grant, l Limits) (store.Grant, error) {
	g.Until, g.Most = time.Time{}, 0
	if day := strings.TrimSpace(l.Until); day != "" {
		last, err := time.ParseInLocation(time.DateOnly, day, time.Local)
		if err != nil {
			return g, cm.Refusef("The last day is no date. It should look like 2027-01-31.")
		}
		if g.Until = last.AddDate(0, 0, 1); !g.Until.After(w.Store.Now()) {
			return g, cm.Refusef("The last day lies in the past.")
		}
	}
	if most := strings.TrimSpace(l.Most); most != "" {
		n, err := strconv.Atoi(most)
		if err != nil || n < 1 || n > people.MaxSeats {
			return g, cm.Refusef("Say for how many the link is good: a number from 1 to %d.", people.MaxSeats)
		}
		g.Most = n
	}
	switch n := utf8.RuneCountInString(l.Password); {
	case l.Open:
		g.Secret = ""
	case l.Password == "":
	case g.Allows == store.AllowsFrame:
		return g, cm.Refusef("A frame cannot ask for a password. Give it a last day instead.")
	case g.Allows == store.AllowsPicture:
		return g, cm.Refusef("A picture cannot ask for a password. Give it a last day instead.")
	case n < people.MinLinkPassword || n > people.MaxPassword:
		return g, cm.Refusef("The password of a link has at least %d characters.", people.MinLinkPassword)
	default:
		secret, err := w.secrets.hash(ctx, l.Password)
		if err != nil {
			return g, err
		}
		g.Secret = secret
	}
	if g.Most > 0 && (g.Allows == store.AllowsPicture || g.Allows == store.AllowsFrame) {
		return g, cm.Refusef("Nobody can count who sees a picture. Give it a last day instead.")
	}
	return g, nil
}

// MakeLink makes a link with limits.
func (w *Workspace) MakeLink(ctx context.Context, who Person, id cm.ID, allows store.Allows, route cm.ID, l Limits) error {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return err
	}
	switch allows {
	case store.AllowsWalk:
		if now.Map.Routes[route] == nil {
			return cm.Refusef("That route is gone already.")
		}
	case store.AllowsHand, store.AllowsJudge, store.AllowsPicture:
		route = ""
	default:
		if route = ""; allows.Right() == people.RightNone {
			return cm.Refusef("Say what the link is for.")
		}
	}
	g, err := w.limited(ctx, store.Grant{ID: string(NewThingID("w")), MapID: id, Allows: allows, Route: route}, l)
	if err == nil {
		_, err = w.Store.For(who.Scope).AddGrant(ctx, g)
	}
	return err
}

// Sizes are how large a frame can be, in pixels; a width of 0 is all that there is on its page.
var Sizes = [][2]int{{0, 520}, {480, 360}, {800, 520}, {1100, 700}}

// MakeFrame lets a map, or a route of it, stand in a frame on pages of others, to be read.
func (w *Workspace) MakeFrame(ctx context.Context, who Person, id cm.ID, route cm.ID, origins string, size int, look cm.Theme, until string) error {
	now, err := w.Session(id).Look(ctx)
	if err != nil {
		return err
	}
	if route != "" && now.Map.Routes[route] == nil {
		return cm.Refusef("That route is gone already.")
	}
	f := store.Frame{Look: look}
	if f.Origins, err = people.CleanOrigins(origins); err != nil {
		return err
	}
	if size < 0 || size >= len(Sizes) || !slices.Contains(cm.Themes, look) {
		return cm.Refusef("Say how large the frame is to be.")
	}
	f.Width, f.Height = Sizes[size][0], Sizes[size][1]
	g, err := w.limited(ctx, store.Grant{ID: string(NewThingID("w")), MapID: id, Allows: store.AllowsFrame, Route: route, Frame: &f}, Limits{Until: until})
	if err == nil {
		_, err = w.Store.For(who.Scope).AddGrant(ctx, g)
	}
	return err
}

// LimitLink gives a link other limits; whoever has it open is asked again.
func (w *Workspace) LimitLink(ctx context.Context, who Person, id cm.ID, grant string, l Limits) error {
	reach := w.Store.For(who.Scope)
	all, err := reach.Grants(ctx, id)
	if err != nil {
		return err
	}
	ended, err := reach.Ended(ctx, id)
	if err != nil {
		return err
	}
	for _, g := range append(all, ended...) {
		if g.ID != grant {
			continue
		}
		if g, err = w.limited(ctx, g, l); err == nil {
			err = reach.Limit(ctx, g)
		}
		w.Hub.AskAgain(id)
		return err
	}
	return store.ErrNoGrant
}

// Unlock tells whether a password opens a link. Address is where whoever tries comes from.
func (w *Workspace) Unlock(ctx context.Context, g store.Grant, password, address string) (bool, error) {
	key := g.ID + " " + address
	if w.wrong.TooOften(key) {
		return false, ErrTooOften
	}
	ok, err := w.secrets.match(ctx, password, g.Secret)
	if err == nil && !ok {
		w.wrong.Failed(key)
	}
	return ok, err
}

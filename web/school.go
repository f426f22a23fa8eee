package web

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"encoding/json"
	"errors"
	"net/http"
	"sync"
	"time"

	"github.com/coreos/go-oidc/v3/oidc"
	"github.com/gin-gonic/gin"
	"golang.org/x/oauth2"

	"mevrin/core/people"
	"mevrin/workspace"
)

// School is where people of a school sign in by what they have there already (OpenID Connect Core 1.0).
type School struct {
	Name           string // as the button says it
	Issuer         string // the address of the school's identity
	Client, Secret string // by which it knows this Mevrin
	// Joins is what those become who come for the first time; empty where they have to be invited.
	Joins people.Role

	mu       sync.Mutex
	provider *oidc.Provider
}

// found gives what the identity tells of itself; it is asked until it answers once.
func (s *School) found(ctx context.Context) (*oidc.Provider, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.provider != nil {
		return s.provider, nil
	}
	// The keys are fetched later, with the same client.
	p, err := oidc.NewProvider(oidc.ClientContext(context.WithoutCancel(ctx), schoolClient), s.Issuer)
	if err != nil {
		return nil, err
	}
	s.provider = p
	return p, nil
}

var schoolClient = &http.Client{Timeout: 10 * time.Second}

func (s *School) config(p *oidc.Provider, back string) *oauth2.Config {
	return &oauth2.Config{ClientID: s.Client, ClientSecret: s.Secret, Endpoint: p.Endpoint(), RedirectURL: back, Scopes: []string{oidc.ScopeOpenID, "email", "profile"}}
}

// trip is what a browser keeps while somebody is away at the school's identity.
type trip struct {
	State, Nonce, Verifier, To string
}

// tripCookie is where; it is sent to the addresses of coming back alone.
const (
	tripCookie = "mevrin-trip"
	tripPath   = "/identity"
	tripLasts  = 10 * time.Minute
)

// withSchool lets what concerns the school's identity be asked for only where there is one.
func (s *server) withSchool(g *gin.Context) {
	if s.School == nil {
		s.fail(g, http.StatusNotFound, "There is nothing at this address.", nil)
	}
}

// toSchool leads to the school's identity. Who comes back is who left: by a state, a nonce and a proof key (RFC 7636).
func (s *server) toSchool(g *gin.Context) {
	p, err := s.School.found(g.Request.Context())
	if err != nil {
		s.fail(g, http.StatusBadGateway, "The school's sign-in does not answer just now. Please try again later.", err)
		return
	}
	t := trip{rand.Text(), rand.Text(), oauth2.GenerateVerifier(), onward(g, g.Query("to"))}
	raw, err := json.Marshal(t)
	if err != nil {
		s.failWith(g, err)
		return
	}
	http.SetCookie(g.Writer, &http.Cookie{Name: tripCookie, Value: base64.RawURLEncoding.EncodeToString(raw), Path: tripPath, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: secure(g), MaxAge: int(tripLasts.Seconds())})
	g.Header("Cache-Control", "no-store")
	g.Redirect(http.StatusSeeOther, s.School.config(p, originOf(g)+tripPath+"/back").AuthCodeURL(t.State, oidc.Nonce(t.Nonce), oauth2.S256ChallengeOption(t.Verifier)))
}

// fromSchool lets in whoever the school's identity vouches for.
func (s *server) fromSchool(g *gin.Context) {
	claims, to, err := s.vouched(g)
	http.SetCookie(g.Writer, &http.Cookie{Name: tripCookie, Path: tripPath, MaxAge: -1, HttpOnly: true})
	if err != nil {
		s.Log.Warn("somebody did not come back from the school's identity as they left", "err", err)
		v := entering{To: to, Fault: say(g).Sprintf("That sign-in was broken off, or is too old. Please try again.")}
		s.showSignIn(g, http.StatusForbidden, v)
		return
	}
	token, err := s.Accounts.BySchool(g.Request.Context(), claims, s.School.Joins, g.Request.UserAgent())
	s.entered(g, "sign-in.html", entering{To: to}, token, err)
}

func (s *server) vouched(g *gin.Context) (claims workspace.Vouched, to string, err error) {
	var t trip
	value, err := g.Cookie(tripCookie)
	if err != nil {
		return claims, "", err
	}
	raw, err := base64.RawURLEncoding.DecodeString(value)
	if err == nil {
		err = json.Unmarshal(raw, &t)
	}
	if err != nil {
		return claims, "", err
	}
	if t.State == "" || g.Query("state") != t.State {
		return claims, t.To, errors.New("the state is another one")
	}
	ctx := oidc.ClientContext(g.Request.Context(), schoolClient)
	p, err := s.School.found(ctx)
	if err != nil {
		return claims, t.To, err
	}
	token, err := s.School.config(p, originOf(g)+tripPath+"/back").Exchange(ctx, g.Query("code"), oauth2.VerifierOption(t.Verifier))
	if err != nil {
		return claims, t.To, err
	}
	signed, _ := token.Extra("id_token").(string)
	id, err := p.VerifierContext(ctx, &oidc.Config{ClientID: s.School.Client}).Verify(ctx, signed)
	if err != nil {
		return claims, t.To, err
	}
	if id.Nonce != t.Nonce {
		return claims, t.To, errors.New("the nonce is another one")
	}
	var told struct {
		Mail     string `json:"email"`
		Verified bool   `json:"email_verified"`
		Name     string `json:"name"`
	}
	err = id.Claims(&told)
	return workspace.Vouched{Issuer: id.Issuer, Subject: id.Subject, Mail: told.Mail, MailVerified: told.Verified, Name: told.Name}, t.To, err
}

package web_test

import (
	"context"
	"io"
	"net/http"
	"net/http/cookiejar"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/store"
	"mevrin/web"
)

// A link that asks for a password, has ended, was closed, is used up or never was answers no address under
// it, and nothing of the map leaves by it; its limits can be lifted and renewed.
func TestLinksHoldToTheirLimits(t *testing.T) {
	s := serve(t, t.TempDir())
	_, body := s.post("/maps/m/entries", entry("g", "w", 1, `[{"do":"ask","question":"secret question"},{"do":"add-route","id":"r","title":"secret way"},{"do":"add-stop","id":"s","route":"r","refs":[{"kind":"concept","id":"c00001"}]}]`))
	require.Contains(t, body, `"revision":2`)
	browser := func() *someone { return &someone{t: t, base: s.URL} }
	author := browser()
	link := func(kind string, limits ...string) (address, id string) {
		of := map[string]string{"walk": "walk r", "hand": "hand", "judge": "judge"}[kind]
		status, page, _ := author.post("/maps/m/sharing/links", append([]string{"for", of}, limits...)...)
		require.Equal(t, 303, status, page)
		all, err := s.store.All().Grants(context.Background(), "m")
		require.NoError(t, err)
		g := all[len(all)-1]
		require.Equal(t, kind, string(g.Allows))
		return "/" + kind + "/" + g.Token, g.ID
	}
	now := time.Date(2026, 11, 30, 12, 0, 0, 0, time.Local)
	s.store.Now = func() time.Time { now = now.Add(time.Second); return now }

	// Every address under each, in every state in which it leads nowhere.
	params := regexp.MustCompile(`:[a-z]+`)
	for _, kind := range []string{"walk", "hand", "judge"} {
		locked, _ := link(kind, "password", "bronze")
		ended, _ := link(kind, "until", now.Format(time.DateOnly))
		closed, id := link(kind)
		require.NoError(t, s.store.All().Revoke(t.Context(), "m", id))
		used, _ := link(kind, "most", "1")
		status, _, _ := browser().ask("GET", used, "")
		require.Equal(t, 200, status)
		before := now
		now = now.AddDate(0, 0, 1)
		for state, at := range map[string]string{"locked": locked, "ended": ended, "closed": closed, "used up": used, "none": "/" + kind + "/" + strings.Repeat("x", 22)} {
			for _, a := range web.Addresses() {
				rest, under := strings.CutPrefix(a.Path, "/"+kind+"/:token")
				if !under || a.Needs == web.CanOpen {
					continue
				}
				path := at + params.ReplaceAllString(rest, strings.Repeat("0", 64))
				status, body, _ := browser().ask(a.Method, path, "")
				where := state + ": " + a.Method + " " + a.Path
				switch {
				case state != "locked":
					assert.Equal(t, http.StatusNotFound, status, where)
				case rest == "":
					assert.Equal(t, http.StatusOK, status, where)
					assert.Contains(t, body, "This link asks for a password", where)
				default:
					assert.Equal(t, http.StatusForbidden, status, where)
				}
				assert.NotContains(t, body, "secret", where)
			}
		}
		now = before
	}

	// Whoever knows the password comes in, until it is another one.
	at, id := link("walk", "password", "bronze")
	ada := keeping(t, s.URL)
	status, _ := ada("POST", at+"/unlock", "password=copper")
	assert.Equal(t, 422, status)
	status, page := ada("POST", at+"/unlock", "password=bronze")
	assert.Equal(t, 200, status)
	assert.Contains(t, page, "secret question")
	assert.NotContains(t, page, "/export", "whoever walks takes nothing out")
	status, _, _ = author.post("/maps/m/sharing/"+id+"/limits", "password", "copper rope")
	assert.Equal(t, 303, status)
	_, page = ada("GET", at, "")
	assert.NotContains(t, page, "secret question")
	status, _, _ = author.post("/maps/m/sharing/"+id+"/limits", "open", "yes")
	assert.Equal(t, 303, status)
	_, page = ada("GET", at, "")
	assert.Contains(t, page, "secret question")

	// A seat is kept by the browser that has it; more seats let more in.
	at, id = link("walk", "most", "1")
	ada, ben := keeping(t, s.URL), keeping(t, s.URL)
	for range 3 {
		status, _ = ada("GET", at, "")
		assert.Equal(t, 200, status)
	}
	status, _ = ben("GET", at, "")
	assert.Equal(t, 404, status)
	status, _, _ = author.post("/maps/m/sharing/"+id+"/limits", "most", "2")
	assert.Equal(t, 303, status)
	status, _ = ben("GET", at, "")
	assert.Equal(t, 200, status)
	_, page, _ = author.ask("GET", "/maps/m/sharing", "")
	assert.Contains(t, page, "2 of 2 opened it")

	// One that ended by itself is listed, and can be renewed.
	at, id = link("walk", "until", now.Format(time.DateOnly))
	now = now.AddDate(0, 0, 2)
	status, _ = ben("GET", at, "")
	assert.Equal(t, 404, status)
	_, page, _ = author.ask("GET", "/maps/m/sharing", "")
	assert.Contains(t, page, "ended on 2026-11-30")
	status, page, _ = author.post("/maps/m/sharing/"+id+"/limits", "until", "2020-01-01")
	assert.Equal(t, 422, status)
	assert.Contains(t, page, "lies in the past")
	status, _, _ = author.post("/maps/m/sharing/"+id+"/limits", "until", "2027-01-31")
	assert.Equal(t, 303, status)
	status, _ = ben("GET", at, "")
	assert.Equal(t, 200, status)
	_, page, _ = author.ask("GET", "/maps/m/sharing/"+id+"/code", "")
	assert.Contains(t, page, at)
	for _, bad := range [][]string{{"for", "walk gone"}, {"for", "everything"}, {"for", "walk r", "most", "-1"}, {"for", "walk r", "until", "soon"}, {"for", "walk r", "password", "abc"}, {"for", "picture", "password", "bronze"}} {
		status, _, _ := author.post("/maps/m/sharing/links", bad...)
		assert.Equal(t, 422, status, bad)
	}
	g, err := s.store.All().Grants(t.Context(), "m")
	require.NoError(t, err)
	for _, one := range g {
		assert.NotContains(t, one.Secret, "bronze")
		assert.NotEqual(t, store.AllowsPicture, one.Allows)
	}
}

// keeping is a browser that keeps its cookies and follows where it is led.
func keeping(t *testing.T, base string) func(method, path, form string) (int, string) {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := &http.Client{Jar: jar}
	return func(method, path, form string) (int, string) {
		request, err := http.NewRequest(method, base+path, strings.NewReader(form))
		require.NoError(t, err)
		if form != "" {
			request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		}
		request.Header.Set("Accept", "text/html")
		response, err := client.Do(request)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		raw, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return response.StatusCode, string(raw)
	}
}

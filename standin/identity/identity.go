// Package identity is a small identity provider: what a school runs, for trying out and for tests. It speaks as much of
// OpenID Connect Core 1.0 as signing in needs: discovery, the authorization code flow with PKCE (RFC 7636), and ID
// tokens signed by RS256. Whoever comes chooses as which of its made-up people to sign in; it keeps nothing.
package identity

import (
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/json"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"sync"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

// Person is somebody who can sign in.
type Person struct {
	Subject, Name, Mail string
	Unverified          bool // nobody looked whether the mail address is theirs
}

// Provider is an identity provider at an address.
type Provider struct {
	Issuer           string // its address, without a slash at the end
	Client, Secret   string // the one program that it knows
	People           []Person
	Now              func() time.Time
	WrongNonce       bool // it answers with another nonce, as an attack would
	mu               sync.Mutex
	codes            map[string]granted
	key              *rsa.PrivateKey
	makeKey          sync.Once
	RedirectsAllowed []string // to which addresses it leads back; any of the program's own where it is empty
}

// granted is what a code stands for.
type granted struct {
	person                     Person
	challenge, nonce, redirect string
	until                      time.Time
}

// codeLasts is how long a code can be used.
const codeLasts = time.Minute

func (p *Provider) now() time.Time {
	if p.Now != nil {
		return p.Now()
	}
	return time.Now()
}

func (p *Provider) signing() *rsa.PrivateKey {
	p.makeKey.Do(func() {
		key, err := rsa.GenerateKey(rand.Reader, 2048)
		if err != nil {
			panic(err) // without randomness nothing here is safe
		}
		p.key = key
	})
	return p.key
}

// Handler answers for the provider.
func (p *Provider) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /.well-known/openid-configuration", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, map[string]any{"issuer": p.Issuer, "authorization_endpoint": p.Issuer + "/authorize", "token_endpoint": p.Issuer + "/token", "jwks_uri": p.Issuer + "/keys",
			"response_types_supported": []string{"code"}, "subject_types_supported": []string{"public"}, "id_token_signing_alg_values_supported": []string{"RS256"}, "code_challenge_methods_supported": []string{"S256"}})
	})
	mux.HandleFunc("GET /keys", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, jose.JSONWebKeySet{Keys: []jose.JSONWebKey{{Key: &p.signing().PublicKey, KeyID: "one", Algorithm: "RS256", Use: "sig"}}})
	})
	mux.HandleFunc("GET /authorize", p.choose)
	mux.HandleFunc("POST /authorize", p.chosen)
	mux.HandleFunc("POST /token", p.token)
	return mux
}

func answer(w http.ResponseWriter, what any) {
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(what) // whoever went away does not need the rest
}

var page = template.Must(template.New("").Parse(`<!doctype html><html lang="en"><meta charset="utf-8"><title>Hollin school: sign in</title>
<h1>Hollin school</h1><p>This is a stand-in for a school's own sign-in.</p><form method="post" action="authorize">{{range $k, $v := .Asked}}<input type="hidden" name="{{$k}}" value="{{index $v 0}}">{{end}}
{{range .People}}<p><button name="as" value="{{.Subject}}">{{.Name}}</button></p>{{end}}</form></html>`))

// sound tells whether a request for a code is one that this provider answers.
func (p *Provider) sound(q url.Values) bool {
	to, err := url.Parse(q.Get("redirect_uri"))
	return err == nil && to.Host != "" && q.Get("client_id") == p.Client && q.Get("response_type") == "code" && q.Get("code_challenge_method") == "S256" && q.Get("code_challenge") != "" &&
		(len(p.RedirectsAllowed) == 0 || slices.Contains(p.RedirectsAllowed, q.Get("redirect_uri")))
}

func (p *Provider) choose(w http.ResponseWriter, r *http.Request) {
	if !p.sound(r.URL.Query()) {
		http.Error(w, "This is no request for signing in.", http.StatusBadRequest)
		return
	}
	_ = page.Execute(w, map[string]any{"Asked": r.URL.Query(), "People": p.People})
}

func (p *Provider) chosen(w http.ResponseWriter, r *http.Request) {
	i := slices.IndexFunc(p.People, func(one Person) bool { return one.Subject == r.PostFormValue("as") })
	if !p.sound(r.PostForm) || i < 0 {
		http.Error(w, "This is no request for signing in.", http.StatusBadRequest)
		return
	}
	code := rand.Text()
	p.mu.Lock()
	if p.codes == nil {
		p.codes = map[string]granted{}
	}
	p.codes[code] = granted{p.People[i], r.PostForm.Get("code_challenge"), r.PostForm.Get("nonce"), r.PostForm.Get("redirect_uri"), p.now().Add(codeLasts)}
	p.mu.Unlock()
	http.Redirect(w, r, r.PostForm.Get("redirect_uri")+"?"+url.Values{"code": {code}, "state": {r.PostForm.Get("state")}}.Encode(), http.StatusSeeOther)
}

// token gives an ID token for a code, once, to the program that began with the challenge.
func (p *Provider) token(w http.ResponseWriter, r *http.Request) {
	client, secret, ok := r.BasicAuth()
	if !ok {
		client, secret = r.PostFormValue("client_id"), r.PostFormValue("client_secret")
	}
	p.mu.Lock()
	got, known := p.codes[r.PostFormValue("code")]
	delete(p.codes, r.PostFormValue("code"))
	p.mu.Unlock()
	sum := sha256.Sum256([]byte(r.PostFormValue("code_verifier")))
	if client != p.Client || subtle.ConstantTimeCompare([]byte(secret), []byte(p.Secret)) != 1 || !known || p.now().After(got.until) ||
		base64.RawURLEncoding.EncodeToString(sum[:]) != got.challenge || r.PostFormValue("redirect_uri") != got.redirect {
		w.WriteHeader(http.StatusBadRequest)
		answer(w, map[string]string{"error": "invalid_grant"})
		return
	}
	if p.WrongNonce {
		got.nonce = "another"
	}
	signer, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: p.signing()}, (&jose.SignerOptions{}).WithType("JWT").WithHeader("kid", "one"))
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	now := p.now()
	signed, err := jwt.Signed(signer).Claims(jwt.Claims{Issuer: p.Issuer, Subject: got.person.Subject, Audience: jwt.Audience{p.Client}, IssuedAt: jwt.NewNumericDate(now), Expiry: jwt.NewNumericDate(now.Add(codeLasts))}).
		Claims(map[string]any{"nonce": got.nonce, "email": got.person.Mail, "email_verified": !got.person.Unverified, "name": got.person.Name}).Serialize()
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	answer(w, map[string]any{"access_token": rand.Text(), "token_type": "Bearer", "expires_in": 60, "id_token": signed})
}

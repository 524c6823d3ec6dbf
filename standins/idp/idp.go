// Package idp is a small stand-in for a company's identity provider, as OpenID Connect Core 1.0 has it: discovery, a page
// on which one picks who one is, the code flow with PKCE (RFC 7636), and identity tokens signed with RS256. There are
// no passwords: it is for the demo and for tests, which can have it make each of the faults a client has to refuse.
package idp

import (
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"crypto/subtle"
	_ "embed"
	"encoding/base64"
	"encoding/json"
	"html/template"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"time"

	"github.com/go-jose/go-jose/v4"
)

// Person is somebody the provider knows.
type Person struct {
	Subject string // never changes
	Login   string // preferred_username
	Name    string
	Mail    string // "": none
	Proved  bool   // the mail address is theirs
}

// Faults are what the next tokens have wrong.
type Faults struct {
	Audience bool // for another client
	Nonce    bool // of another sign-in
	Expired  bool
	Key      bool // signed with a key that is not published
	Issuer   bool // somebody else's
	Party    bool // for this client too, but given to another
	Spare    bool // it says who it is at the userinfo endpoint alone, as providers may; no fault
	Told     bool // and there of somebody else
}

// Provider is the stand-in. It is an [http.Handler] for the address Issuer.
type Provider struct {
	Issuer         string // http://127.0.0.1:PORT
	Client, Secret string
	People         func() []Person // whom it knows

	mux *http.ServeMux
	key *rsa.PrivateKey

	mu     sync.Mutex
	faults Faults
	codes  map[string]granted // each is good once
	told   map[string]Person  // by access token, likewise
}

type granted struct {
	who                    Person
	back, nonce, challenge string
	until                  time.Time
}

const (
	codeHolds = time.Minute // how long a code is good for
	keyBits   = 2048
)

// New is a provider for one client with a secret.
func New(issuer, client, secret string, people func() []Person) (*Provider, error) {
	p := &Provider{Issuer: issuer, Client: client, Secret: secret, People: people, mux: http.NewServeMux(), codes: map[string]granted{},
		told: map[string]Person{}}
	var err error
	if p.key, err = rsa.GenerateKey(rand.Reader, keyBits); err != nil {
		return nil, err
	}
	p.mux.HandleFunc("GET /.well-known/openid-configuration", p.discovery)
	p.mux.HandleFunc("GET /authorize", p.authorize)
	p.mux.HandleFunc("GET /pick", p.pick)
	p.mux.HandleFunc("POST /token", p.token)
	p.mux.HandleFunc("GET /keys", p.keys)
	p.mux.HandleFunc("GET /userinfo", p.userinfo)
	return p, nil
}

func (p *Provider) ServeHTTP(w http.ResponseWriter, r *http.Request) { p.mux.ServeHTTP(w, r) }

// Fail makes the faults in the tokens that follow.
func (p *Provider) Fail(f Faults) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.faults = f
}

func answer(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(v) // who asked has gone
}

func (p *Provider) discovery(w http.ResponseWriter, _ *http.Request) {
	answer(w, http.StatusOK, map[string]any{
		"issuer": p.Issuer, "authorization_endpoint": p.Issuer + "/authorize", "token_endpoint": p.Issuer + "/token",
		"jwks_uri": p.Issuer + "/keys", "userinfo_endpoint": p.Issuer + "/userinfo",
		"response_types_supported": []string{"code"}, "subject_types_supported": []string{"public"},
		"id_token_signing_alg_values_supported": []string{"RS256"}, "code_challenge_methods_supported": []string{"S256"},
	})
}

func (p *Provider) keys(w http.ResponseWriter, _ *http.Request) {
	answer(w, http.StatusOK, jose.JSONWebKeySet{Keys: []jose.JSONWebKey{{Key: p.key.Public(), KeyID: "1", Algorithm: "RS256", Use: "sig"}}})
}

//go:embed page.tmpl
var pageText string

var page = template.Must(template.New("page").Parse(pageText))

// asked says what is wrong with what a client asks for.
func (p *Provider) asked(q url.Values) string {
	switch {
	case q.Get("client_id") != p.Client:
		return "that client is not known"
	case q.Get("response_type") != "code":
		return "only response_type=code"
	case q.Get("code_challenge_method") != "S256" || q.Get("code_challenge") == "":
		return "PKCE with S256 is asked for"
	case q.Get("state") == "" || q.Get("nonce") == "":
		return "state and nonce are asked for"
	}
	if back, err := url.Parse(q.Get("redirect_uri")); err != nil || back.Host == "" {
		return "redirect_uri is no address"
	}
	return ""
}

func (p *Provider) authorize(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query()
	if wrong := p.asked(q); wrong != "" {
		http.Error(w, wrong, http.StatusBadRequest)
		return
	}
	type choice struct {
		Person
		To string
	}
	var all []choice
	for _, who := range p.People() {
		q.Set("who", who.Subject)
		all = append(all, choice{who, "/pick?" + q.Encode()})
	}
	q.Del("who")
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
	_ = page.Execute(w, map[string]any{"All": all, "No": "/pick?" + q.Encode()}) // who asked has gone
}

// pick goes back to the client with a code for who was picked, or without one.
func (p *Provider) pick(w http.ResponseWriter, r *http.Request) {
	q := r.URL.Query()
	if wrong := p.asked(q); wrong != "" {
		http.Error(w, wrong, http.StatusBadRequest)
		return
	}
	back, err := url.Parse(q.Get("redirect_uri"))
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	said := url.Values{"state": {q.Get("state")}, "error": {"access_denied"}}
	for _, who := range p.People() {
		if who.Subject == q.Get("who") {
			code := rand.Text()
			p.mu.Lock()
			p.codes[code] = granted{who, q.Get("redirect_uri"), q.Get("nonce"), q.Get("code_challenge"), time.Now().Add(codeHolds)}
			p.mu.Unlock()
			said = url.Values{"state": {q.Get("state")}, "code": {code}}
		}
	}
	back.RawQuery = said.Encode()
	http.Redirect(w, r, back.String(), http.StatusSeeOther)
}

// token gives an identity token for a code, once.
func (p *Provider) token(w http.ResponseWriter, r *http.Request) {
	client, secret, basic := r.BasicAuth()
	if basic { // RFC 6749 2.3.1: both are form-encoded
		client, _ = url.QueryUnescape(client)
		secret, _ = url.QueryUnescape(secret)
	} else {
		client, secret = r.FormValue("client_id"), r.FormValue("client_secret")
	}
	if client != p.Client || subtle.ConstantTimeCompare([]byte(secret), []byte(p.Secret)) != 1 {
		answer(w, http.StatusUnauthorized, map[string]string{"error": "invalid_client"})
		return
	}
	p.mu.Lock()
	g, ok := p.codes[r.FormValue("code")]
	delete(p.codes, r.FormValue("code"))
	faults := p.faults
	p.mu.Unlock()
	sum := sha256.Sum256([]byte(r.FormValue("code_verifier")))
	if !ok || time.Now().After(g.until) || g.back != r.FormValue("redirect_uri") ||
		g.challenge != base64.RawURLEncoding.EncodeToString(sum[:]) {
		answer(w, http.StatusBadRequest, map[string]string{"error": "invalid_grant"})
		return
	}
	token, err := p.sign(&g, faults)
	if err != nil {
		answer(w, http.StatusInternalServerError, map[string]string{"error": "server_error"})
		return
	}
	access := rand.Text()
	p.mu.Lock()
	p.told[access] = g.who
	p.mu.Unlock()
	answer(w, http.StatusOK, map[string]any{"access_token": access, "token_type": "Bearer", "expires_in": 60, "id_token": token})
}

// userinfo says who somebody is to who has their access token, once.
func (p *Provider) userinfo(w http.ResponseWriter, r *http.Request) {
	p.mu.Lock()
	access := strings.TrimPrefix(r.Header.Get("Authorization"), "Bearer ")
	who, ok := p.told[access]
	delete(p.told, access)
	faults := p.faults
	p.mu.Unlock()
	if !ok {
		answer(w, http.StatusUnauthorized, map[string]string{"error": "invalid_token"})
		return
	}
	if faults.Told {
		who.Subject += "-other"
	}
	answer(w, http.StatusOK, map[string]any{"sub": who.Subject, "preferred_username": who.Login, "email": who.Mail,
		"email_verified": who.Proved})
}

// sign is the identity token of who was picked.
func (p *Provider) sign(g *granted, f Faults) (string, error) {
	key, now := p.key, time.Now()
	claims := map[string]any{"iss": p.Issuer, "sub": g.who.Subject, "aud": p.Client, "iat": now.Unix(), "exp": now.Add(5 * time.Minute).Unix(),
		"nonce": g.nonce, "preferred_username": g.who.Login, "name": g.who.Name}
	if g.who.Mail != "" {
		claims["email"], claims["email_verified"] = g.who.Mail, g.who.Proved
	}
	if f.Spare || f.Told {
		for _, name := range []string{"preferred_username", "name", "email", "email_verified"} {
			delete(claims, name)
		}
	}
	if f.Audience {
		claims["aud"] = "another client"
	}
	if f.Party {
		claims["aud"], claims["azp"] = []string{p.Client, "another client"}, "another client"
	}
	if f.Nonce {
		claims["nonce"] = rand.Text()
	}
	if f.Expired {
		claims["exp"] = now.Add(-time.Minute).Unix()
	}
	if f.Issuer {
		claims["iss"] = "https://another.example"
	}
	if f.Key {
		var err error
		if key, err = rsa.GenerateKey(rand.Reader, keyBits); err != nil {
			return "", err
		}
	}
	signer, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: jose.JSONWebKey{Key: key, KeyID: "1"}}, nil)
	if err != nil {
		return "", err
	}
	raw, err := json.Marshal(claims)
	if err != nil {
		return "", err
	}
	signed, err := signer.Sign(raw)
	if err != nil {
		return "", err
	}
	return signed.CompactSerialize()
}

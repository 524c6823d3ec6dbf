package people

import (
	"cmp"
	"crypto/rand"
	"encoding/base64"
	"encoding/binary"
	"encoding/json"
	"errors"
	"net"
	"net/http"
	"time"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/labstack/echo/v5"

	"nexufix/app/people"
	"nexufix/server/api"
	"nexufix/store"
)

// passkeyCookie names the challenge of a sign-in by passkey, which is in memory: whoever asks for one writes nothing. It is good once, for
// [signsInFor], and as long as no [maxChallenges] were asked for since.
const (
	passkeyCookie = "nexufix-passkey"
	maxChallenges = 10_000
)

// relying makes the library for the name by which the server was asked; passkeys belong to a name, and an address in figures has none.
func relying(c *echo.Context) (*webauthn.WebAuthn, error) {
	r := c.Request()
	name := r.Host
	if host, _, err := net.SplitHostPort(name); err == nil {
		name = host
	}
	if net.ParseIP(name) != nil {
		return nil, errNoName
	}
	scheme := "http://"
	if api.Encrypted(c) {
		scheme = "https://"
	}
	return webauthn.New(&webauthn.Config{RPID: name, RPDisplayName: "Nexufix", RPOrigins: []string{scheme + r.Host},
		AttestationPreference: protocol.PreferNoAttestation,
		AuthenticatorSelection: protocol.AuthenticatorSelection{ResidentKey: protocol.ResidentKeyRequirementRequired,
			UserVerification: protocol.VerificationRequired}})
}

var (
	errNoName  = api.New(http.StatusConflict, "Passkeys belong to a name.", "Open this server by its name, not by its address in figures.")
	errPasskey = api.New(http.StatusUnauthorized, "That passkey does not open an account here.", "Try again, or sign in with a password.")
)

// keyed is an account as the library wants it.
type keyed struct{ *store.Person }

// WebAuthnID is the number of the account, which says nothing of the person.
func (k keyed) WebAuthnID() []byte { return binary.BigEndian.AppendUint64(nil, uint64(k.ID)) }

// WebAuthnName is shown by the device.
func (k keyed) WebAuthnName() string { return k.Login }

// WebAuthnDisplayName is shown by the device.
func (k keyed) WebAuthnDisplayName() string { return k.Name }

// WebAuthnCredentials are the passkeys; one that cannot be read is left out.
func (k keyed) WebAuthnCredentials() (all []webauthn.Credential) {
	for i := range k.Keys {
		var c webauthn.Credential
		if json.Unmarshal(k.Keys[i].Data, &c) == nil {
			all = append(all, c)
		}
	}
	return all
}

// storedKey is a credential as it is stored.
func storedKey(c *webauthn.Credential, was store.Passkey) (store.Passkey, error) {
	var err error
	was.ID = base64.RawURLEncoding.EncodeToString(c.ID)
	was.Data, err = json.Marshal(c)
	return was, err
}

// newPasskey begins to add a passkey to the account of who asks.
func (d *Authenticator) newPasskey(c *echo.Context) error {
	in, err := api.Read[byPassword](c)
	if err != nil {
		return err
	}
	lib, err := relying(c)
	if err != nil {
		return err
	}
	if err := d.mayOwn(c, in.Current); err != nil {
		return err
	}
	who, err := d.ownKeys(c)
	if err != nil {
		return err
	}
	var have []protocol.CredentialDescriptor
	for _, k := range who.WebAuthnCredentials() {
		have = append(have, k.Descriptor())
	}
	options, way, err := lib.BeginRegistration(who, webauthn.WithExclusions(have))
	if err != nil {
		return err
	}
	if err := d.keepWay(c, "passkey", way); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, options.Response)
}

// keepWay stores what an answer has to fit in the session, until it comes.
func (d *Authenticator) keepWay(c *echo.Context, key string, what any) error {
	raw, err := json.Marshal(what)
	if err != nil {
		return err
	}
	ctx := c.Request().Context()
	d.sessions.Put(ctx, key, string(raw))
	d.sessions.Put(ctx, key+" at", time.Now().Unix())
	_, _, err = d.sessions.Commit(ctx)
	return err
}

// kept finds it again, for [signsInFor].
func (d *Authenticator) kept(c *echo.Context, key string, into any) error {
	ctx := c.Request().Context()
	raw, at := d.sessions.GetString(ctx, key), time.Unix(d.sessions.GetInt64(ctx, key+" at"), 0)
	if ago := time.Since(at); raw == "" || ago > signsInFor || ago < 0 {
		return errLate
	}
	return json.Unmarshal([]byte(raw), into)
}

// drop takes it out: it was good once.
func (d *Authenticator) drop(c *echo.Context, key string) error {
	ctx := c.Request().Context()
	d.sessions.Remove(ctx, key)
	_, _, err := d.sessions.Commit(ctx)
	return err
}

// ownKeys is the account of who asks, for the library.
func (d *Authenticator) ownKeys(c *echo.Context) (keyed, error) {
	p, err := d.store.Person(c.Request().Context(), api.Person(c).ID)
	return keyed{&p}, err
}

var errLate = api.New(http.StatusConflict, "That took too long, or began in another window.", "Begin again.")

// PasskeyAnswer is what a browser's passkey says.
type PasskeyAnswer struct {
	Name       string `json:"name,omitempty" maxLength:"80" description:"Of a new one: the device's."`
	Credential string `json:"credential" required:"true" maxLength:"20000" description:"The answer of navigator.credentials, as JSON."`
}

// shown reads what a browser's passkey says, for the name by which the server was asked.
func shown(c *echo.Context) (in PasskeyAnswer, lib *webauthn.WebAuthn, err error) {
	if in, err = api.Read[PasskeyAnswer](c); err == nil {
		lib, err = relying(c)
	}
	return in, lib, err
}

// addPasskey keeps a passkey that a browser has made.
func (d *Authenticator) addPasskey(c *echo.Context) error {
	in, lib, err := shown(c)
	if err != nil {
		return err
	}
	var begun webauthn.SessionData
	if err := cmp.Or(d.kept(c, "passkey", &begun), d.drop(c, "passkey")); err != nil {
		return err
	}
	made, err := protocol.ParseCredentialCreationResponseBytes([]byte(in.Credential))
	if err != nil {
		return errPasskey
	}
	who, err := d.ownKeys(c)
	if err != nil {
		return err
	}
	credential, err := lib.CreateCredential(who, begun, made)
	if err != nil {
		d.log.Warn("a passkey was refused", "login", who.Login, "err", err)
		return errPasskey
	}
	key, err := storedKey(credential, store.Passkey{Name: in.Name})
	if err != nil {
		return err
	}
	return d.ownChanged(c)(people.AddPasskey(c.Request().Context(), d.store, api.Person(c), key))
}

// askPasskey begins a sign-in by passkey: whoever has one for this name says who they are.
func (d *Authenticator) askPasskey(c *echo.Context) error {
	lib, err := relying(c)
	if err != nil {
		return err
	}
	if wait := d.asked.Wait(api.Address(c)); wait > 0 {
		return errTries(wait)
	}
	options, way, err := lib.BeginDiscoverableLogin(webauthn.WithUserVerification(protocol.VerificationRequired))
	if err != nil {
		return err
	}
	token := rand.Text()
	d.challenges.Add(token, way)
	setCookie(c, passkeyCookie, token, time.Now().Add(signsInFor))
	return c.JSON(http.StatusOK, options.Response)
}

// signInByPasskey signs in whose passkey answers the challenge, once. It is two factors: the device, and what opens it.
func (d *Authenticator) signInByPasskey(c *echo.Context) error {
	in, lib, err := shown(c)
	if err != nil {
		return err
	}
	if wait := d.guesses.addresses.Wait(api.Address(c)); wait > 0 {
		return errTries(wait)
	}
	ctx := c.Request().Context()
	token := sentCookie(c, passkeyCookie)
	begun, there := d.challenges.Get(token)
	there = d.challenges.Remove(token) && there // of two at once one has it
	setCookie(c, passkeyCookie, "", time.Time{})
	if !there {
		return errLate
	}
	proof, err := protocol.ParseCredentialRequestResponseBytes([]byte(in.Credential))
	if err != nil {
		return errPasskey
	}
	var p store.Person
	_, credential, err := lib.ValidatePasskeyLogin(func(_, handle []byte) (webauthn.User, error) {
		if len(handle) != 8 {
			return nil, store.ErrNotFound
		}
		var err error
		p, err = d.store.Person(ctx, int64(binary.BigEndian.Uint64(handle)))
		return keyed{&p}, err
	}, *begun, proof)
	if err != nil || p.Disabled || credential.Authenticator.CloneWarning {
		d.log.Warn("a sign-in by passkey was refused", "login", p.Login, "err", err)
		return errors.Join(errPasskey, people.RecordRefusal(ctx, d.store, "passkey "+p.Login))
	}
	key, err := d.keyAfter(&p, credential)
	if err != nil {
		return err
	}
	if err := people.SignInByPasskey(ctx, d.store, &p, key); err != nil {
		return err
	}
	d.guesses.addresses.Forget(api.Address(c))
	if err := d.begin(c, &p, way{second: true}); err != nil {
		return err
	}
	return d.answer(c, d.personOf(&p, way{second: true}))
}

// keyAfter is an account's passkey after it was used.
func (d *Authenticator) keyAfter(p *store.Person, used *webauthn.Credential) (store.Passkey, error) {
	id := base64.RawURLEncoding.EncodeToString(used.ID)
	for i := range p.Keys {
		if p.Keys[i].ID == id {
			return storedKey(used, p.Keys[i])
		}
	}
	return store.Passkey{}, store.ErrNotFound
}

package people

import (
	"context"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"
	"time"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"
	"rsc.io/qr"

	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
)

// codeTime is how long a code of an authenticator is shown (RFC 6238, 4.1; what authenticators assume). The one before and the one after
// are taken as well (5.2): a telephone's clock is never quite right, and typing takes time.
const codeTime = 30 * time.Second

// CodeLives is how long a code may be taken after all, in which it is taken once (RFC 6238, 5.2).
const CodeLives = 3 * codeTime

// CodeIs reports whether a code of six digits is the authenticator's with a secret, at a time.
func CodeIs(secret, code string, at time.Time) (is bool) {
	code = strings.Join(strings.Fields(code), "")
	for _, off := range []time.Duration{-codeTime, 0, codeTime} {
		want, err := totp.GenerateCodeCustom(secret, at.Add(off), totp.ValidateOpts{Period: uint(codeTime / time.Second), Digits: otp.DigitsSix})
		is = is || err == nil && subtle.ConstantTimeCompare([]byte(want), []byte(code)) == 1
	}
	return is
}

// Authenticator is a secret for an authenticator, before it is shown that it is there.
type Authenticator struct {
	Secret string `json:"secret" required:"true" description:"In base32, to be typed."`
	Link   string `json:"link" required:"true"`
	QR     string `json:"qr" required:"true" description:"The link as a picture, a data URL."`
}

// NewAuthenticator makes a secret for an account.
func NewAuthenticator(login string) (Authenticator, error) {
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Nexufix", AccountName: login})
	if err != nil {
		return Authenticator{}, err
	}
	code, err := qr.Encode(key.URL(), qr.M)
	if err != nil {
		return Authenticator{}, err
	}
	code.Scale = 4
	return Authenticator{key.Secret(), key.URL(), "data:image/png;base64," + base64.StdEncoding.EncodeToString(code.PNG())}, nil
}

// MayOwn asks whether a person may change the ways to sign in of their own account: they give the password that they have. Who has none
// comes by the identity provider, or is one of a demo.
func MayOwn(ctx context.Context, st *store.Store, by Person, current *string) error {
	if err := by.May(rights.Password, nil); err != nil {
		return err
	}
	p, err := st.Person(ctx, by.ID)
	if err != nil {
		return err
	}
	if p.Password == "" {
		return exchange.Problems{{Path: "current", Found: "is not there yet", Allowed: "set a password first"}}
	}
	if wrong := proves(&p, current); wrong != nil {
		return exchange.Problems{*wrong}
	}
	return nil
}

// KeepAuthenticator stores a secret that a person's authenticator has, as a code of it shows.
func KeepAuthenticator(ctx context.Context, st *store.Store, by Person, secret, code string) (store.Person, error) {
	if secret == "" || !CodeIs(secret, code, time.Now()) {
		return store.Person{}, exchange.Problems{{Path: "code", Found: "is not the code of that authenticator",
			Allowed: "the six digits that it shows now; its clock has to be right"}}
	}
	return changeOwn(ctx, st, by, "authenticator added", func(p *store.Person) { p.TOTP = secret })
}

// DropAuthenticator takes a person's authenticator away.
func DropAuthenticator(ctx context.Context, st *store.Store, by Person) (store.Person, error) {
	return changeOwn(ctx, st, by, "authenticator removed", func(p *store.Person) { p.TOTP = "" })
}

// maxPasskeys is how many passkeys an account has at the most.
const maxPasskeys = 10

// AddPasskey stores a person's passkey.
func AddPasskey(ctx context.Context, st *store.Store, by Person, key store.Passkey) (store.Person, error) {
	have, err := st.Person(ctx, by.ID)
	if err != nil {
		return have, err
	}
	if len(have.Keys) >= maxPasskeys {
		return have, exchange.Problems{{Path: "name", Found: "would be one passkey too many", Allowed: "ten; remove one first"}}
	}
	if key.Name == "" || store.OneLine(key.Name) != key.Name {
		return have, exchange.Problems{{Path: "name", Found: "is empty or has odd letters", Allowed: "a name on one line, as the device's"}}
	}
	key.At = time.Now().UTC().Format(time.RFC3339)
	return changeOwn(ctx, st, by, "passkey added: "+key.Name, func(p *store.Person) { p.Keys = append(p.Keys, key) })
}

// DropPasskey takes a person's passkey away.
func DropPasskey(ctx context.Context, st *store.Store, by Person, id string) (store.Person, error) {
	have, err := st.Person(ctx, by.ID)
	if err != nil {
		return have, err
	}
	for i := range have.Keys {
		if have.Keys[i].ID == id {
			return changeOwn(ctx, st, by, "passkey removed: "+have.Keys[i].Name, func(p *store.Person) {
				var left store.Passkeys
				for _, k := range p.Keys {
					if k.ID != id {
						left = append(left, k)
					}
				}
				p.Keys = left
			})
		}
	}
	return have, store.ErrNotFound
}

// changeOwn changes a way to sign in of one's own account.
func changeOwn(ctx context.Context, st *store.Store, by Person, said string, do func(*store.Person)) (store.Person, error) {
	if err := by.May(rights.Password, nil); err != nil {
		return store.Person{}, err
	}
	p := store.Person{Login: by.Login}
	return st.ChangePerson(ctx, by.ID, by.auditEntry("person changed", by.Login+": "+said), told(&p, by, said), do)
}

// NoteSessions writes to the audit that a person ended sessions of their own.
func NoteSessions(ctx context.Context, st *store.Store, by Person, ended int) error {
	if ended == 0 {
		return nil
	}
	return noteSignIn(ctx, st, by.auditEntry("sessions ended", fmt.Sprintf("%d of %s", ended, by.Login)))
}

package people

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/trustelem/zxcvbn"
	"golang.org/x/crypto/argon2"

	"nexufix/exchange"
	"nexufix/store"
)

// Cost of a password hash: OWASP's second choice of argon2id for 2024 (19 MiB, two passes, one lane).
const (
	hashPasses = 2
	hashLanes  = 1
	hashLength = 32
	saltLength = 16
)

var hashMemory uint32 = 19 * 1024

// HashQuickly makes hashes of new passwords that take a hundredth of the time, for tests in which many people sign in.
// Nothing but a test calls it (TestOnlyTestsHashQuickly).
func HashQuickly() { hashMemory = 64 }

// HashPassword hashes a password for storage, in the PHC string format.
func HashPassword(password string) string {
	salt := make([]byte, saltLength)
	rand.Read(salt) // never fails
	key := argon2.IDKey([]byte(password), salt, hashPasses, hashMemory, hashLanes, hashLength)
	b := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, hashMemory, hashPasses, hashLanes, b(salt), b(key))
}

// PasswordIs reports whether a password has the hash. An unreadable hash matches no password.
func PasswordIs(hash, password string) bool {
	var version int
	var memory, passes uint32
	var lanes uint8
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &memory, &passes, &lanes); err != nil || memory > 1<<20 || passes > 20 ||
		passes == 0 || lanes == 0 {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	key, err2 := base64.RawStdEncoding.DecodeString(parts[5])
	if err != nil || err2 != nil || len(key) == 0 {
		return false
	}
	return subtle.ConstantTimeCompare(key, argon2.IDKey([]byte(password), salt, passes, memory, lanes, uint32(len(key)))) == 1
}

// Limits of a password, in letters; the least score of zxcvbn (0 to 4, from its lists of passwords, names, words and rows of keys);
// and how many letters are scored: zxcvbn's time grows with the length.
const (
	minPassword = 12
	maxPassword = 200
	hardEnough  = 3
	guessedBy   = 64
)

// checkPassword reports what is wrong with a new password of an account.
func checkPassword(path, password, login, name string) *exchange.Problem {
	wrong := func(found string) *exchange.Problem {
		return &exchange.Problem{Path: path, Found: found,
			Allowed: fmt.Sprintf("%d to %d letters that are hard to guess, as some words that have nothing to do "+
				"with each other; not one's name", minPassword, maxPassword)}
	}
	low := strings.ToLower(password)
	switch n := utf8.RuneCountInString(password); {
	case !utf8.ValidString(password):
		return wrong("is no text")
	case n < minPassword || n > maxPassword:
		return wrong(fmt.Sprintf("has %d letters", n))
	case len(login) > 2 && strings.Contains(low, strings.ToLower(login)), len(name) > 2 && strings.Contains(low, strings.ToLower(name)):
		return wrong("has the login or the name in it")
	}
	letters := []rune(password)
	hard := zxcvbn.PasswordStrength(string(letters[:min(len(letters), guessedBy)]), []string{login, name, "nexufix", "bracket", "display"})
	if hard.Score < hardEnough {
		return wrong("is a common one, or easily guessed")
	}
	return nil
}

// nobodys is a hash to compare with where a login is unknown or has no password, so that the answer takes as long.
// It is made at the first sign-in, since it takes 19 MB.
var nobodys = sync.OnceValue(func() string { return HashPassword(rand.Text()) })

// noPassword is stored in place of a hash for accounts with single sign-on alone. It differs from the empty one of demo accounts.
const noPassword = "-"

// HasPassword reports whether an account has a password.
func HasPassword(p *store.Person) bool { return p.Password != "" && p.Password != noPassword }

// SingleSignOn finds the account of a person whom the identity provider (issuer) has authenticated: by the provider's subject, or, the
// first time, by the login it gives.
func SingleSignOn(ctx context.Context, st *store.Store, issuer, subject, login string) (store.Person, bool, error) {
	p, err := st.PersonBySubject(ctx, issuer+" "+subject, strings.TrimSpace(login))
	switch {
	case errors.Is(err, store.ErrNotFound):
		return p, false, RecordRefusal(ctx, st, login)
	case err != nil:
		return p, false, err
	}
	return p, true, noteSignIn(ctx, st, PersonOf(&p).auditEntry("signed in", "single sign-on"))
}

// RecordRefusal writes to the audit that a person from the identity provider was refused; an empty login: not authenticated.
func RecordRefusal(ctx context.Context, st *store.Store, login string) error {
	return noteSignIn(ctx, st, Person{}.auditEntry("sign-in refused", strings.TrimSpace("single sign-on "+login)))
}

// noteSignIn writes a sign-in to the audit. A server that only reads has its own log of them.
func noteSignIn(ctx context.Context, st *store.Store, h store.AuditEntry) error {
	if st.OnlyReads() {
		return nil
	}
	return st.Note(ctx, h)
}

// SignInDemo signs a demo account in with one press. Accounts that have a password are asked for it, in a demo too.
func SignInDemo(ctx context.Context, st *store.Store, login string) (p store.Person, ok bool, err error) {
	p, err = st.PersonByLogin(ctx, login)
	if errors.Is(err, store.ErrNotFound) || err == nil && (p.Disabled || p.Password != "") {
		return p, false, nil
	}
	if err != nil {
		return p, false, err
	}
	who := PersonOf(&p)
	return p, true, noteSignIn(ctx, st, who.auditEntry("signed in", "with one press"))
}

// Entry is what came of a sign-in.
type Entry int

// What comes of a sign-in.
const (
	Refused   Entry = iota
	WantsCode       // the password is right, the code of the authenticator is not there
	Entered
)

// Credentials are what somebody signs in with.
type Credentials struct{ Login, Password, Code string }

// SignIn finds the account of a login and password, and of an account with an authenticator its code; once takes a code, false: it was used
// before. A wrong password, an unknown login, a wrong code and a disabled account give the same answer.
func SignIn(ctx context.Context, st *store.Store, in Credentials, once func(person int64, code string) bool) (p store.Person, out Entry,
	err error) {
	p, err = st.PersonByLogin(ctx, strings.TrimSpace(in.Login))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return p, Refused, err
	}
	hash := nobodys()
	if HasPassword(&p) {
		hash = p.Password
	}
	is := PasswordIs(hash, in.Password) && HasPassword(&p) && !p.Disabled
	if is && p.TOTP != "" && in.Code == "" {
		return p, WantsCode, nil
	}
	if is && p.TOTP != "" {
		is = CodeIs(p.TOTP, in.Code, time.Now()) && once(p.ID, in.Code)
	}
	if !is {
		return p, Refused, noteSignIn(ctx, st, Person{}.auditEntry("sign-in refused", in.Login)) // who it was is not known
	}
	return p, Entered, noteSignIn(ctx, st, PersonOf(&p).auditEntry("signed in", in.Login))
}

// SignInByPasskey notes the sign-in of a person who has shown a passkey, and stores the passkey as it is now.
func SignInByPasskey(ctx context.Context, st *store.Store, p *store.Person, key store.Passkey) error {
	key.Used = time.Now().UTC().Format(time.RFC3339)
	if !st.OnlyReads() {
		if err := st.PasskeyUsed(ctx, p.ID, key); err != nil {
			return err
		}
	}
	return noteSignIn(ctx, st, PersonOf(p).auditEntry("signed in", "passkey "+key.Name))
}

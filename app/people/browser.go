package people

import (
	"context"
	"crypto/rand"
	"time"

	"nexufix/store"
)

// KnownBrowser reports whether the person of a login has signed in with the browser that has a token.
func KnownBrowser(ctx context.Context, st *store.Store, token, login string) (bool, error) {
	return st.KnownBrowser(ctx, TokenHash(token), login)
}

// RememberBrowser remembers that a person has signed in with a browser, which had a token before or "", and returns its next; "" on a
// server that only reads. Whom the one before knew, the next one knows: several people may share a computer.
func RememberBrowser(ctx context.Context, st *store.Store, before string, p *store.Person, long time.Duration) (string, error) {
	if st.OnlyReads() {
		return "", nil
	}
	next := rand.Text()
	return next, st.RememberBrowser(ctx, TokenHash(before), TokenHash(next), p, time.Now().Add(long))
}

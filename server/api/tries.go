package api

import (
	"sync"
	"time"

	"golang.org/x/time/rate"
)

// Tries limits tries by key, as an address or a login: each key has some at once, and then one in every so
// long.
type Tries struct {
	Some  int
	Every time.Duration

	mu  sync.Mutex
	all map[string]*rate.Limiter
}

// mostKeys is how many keys are remembered; above it all are forgotten.
const mostKeys = 10_000

// Allow reports whether one more try is left for all keys.
func (t *Tries) Allow(keys ...string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.all == nil || len(t.all) > mostKeys {
		t.all = map[string]*rate.Limiter{}
	}
	for _, k := range keys { // the first that is held back cannot fill the table with the others
		if t.all[k] == nil {
			t.all[k] = rate.NewLimiter(rate.Every(t.Every), t.Some)
		}
		if !t.all[k].Allow() {
			return false
		}
	}
	return true
}

// Forget resets a key after a right password: a whole office can have one address.
func (t *Tries) Forget(keys ...string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	for _, k := range keys {
		delete(t.all, k)
	}
}

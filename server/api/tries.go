package api

import (
	"sync"
	"time"

	"golang.org/x/time/rate"
)

// Tries holds back who tries too often: each key, as an address or a login, has some tries, and then one every so
// often.
type Tries struct {
	Some  int
	Every time.Duration

	mu  sync.Mutex
	all map[string]*rate.Limiter
}

// mostKeys is how many keys are remembered; then all begin anew.
const mostKeys = 10_000

// Allow says whether one more try is left for all keys.
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

// Forget gives tries back: who knows a password was no one who tries, and a whole office may have one address.
func (t *Tries) Forget(keys ...string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	for _, k := range keys {
		delete(t.all, k)
	}
}

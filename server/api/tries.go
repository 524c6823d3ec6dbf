package api

import (
	"cmp"
	"math"
	"net/http"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"
)

// RateLimiter limits tries by key, as an address or a login: each key has some at once, and then one in every so
// long. It remembers so many keys, and drops the one that was used the longest ago.
type RateLimiter struct {
	Some  int
	Every time.Duration
	Keys  int // 0: [maxKeys]

	mu  sync.Mutex
	all *lru.Cache[string, *rate.Limiter]
}

// maxKeys take some 10 MB.
const maxKeys = 50_000

// Wait takes a try of a key, and returns 0; where none is left, it returns how long it is to the next.
func (t *RateLimiter) Wait(key string) time.Duration {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.all == nil {
		t.all, _ = lru.New[string, *rate.Limiter](cmp.Or(t.Keys, maxKeys)) // it fails for no keys only
	}
	l, known := t.all.Get(key)
	if !known {
		l = rate.NewLimiter(rate.Every(t.Every), t.Some)
		t.all.Add(key, l)
	}
	r := l.Reserve()
	wait := r.Delay()
	if wait > 0 {
		r.Cancel()
	}
	return wait
}

// Forget resets a key after a right password: a whole office can have one address.
func (t *RateLimiter) Forget(key string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.all != nil {
		t.all.Remove(key)
	}
}

// TooOften is the answer to too many tries, with how long to wait.
func TooOften(what string, wait time.Duration) *Problem {
	p := New(http.StatusTooManyRequests, what, "Wait "+inWords(wait)+", then try again.")
	p.RetryAfter = int(math.Ceil(wait.Seconds()))
	return p
}

func inWords(d time.Duration) string {
	if d <= time.Minute {
		return "a minute"
	}
	return "some minutes"
}

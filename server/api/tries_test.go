package api

import (
	"testing"
	"time"
)

// TestTries: so many at once and then one in every so long, a key for itself; of too many keys the one that was used the longest ago is
// dropped, and no other, so that nobody makes the table forget who is held back.
func TestTries(t *testing.T) {
	tries := RateLimiter{Some: 3, Every: time.Hour, Keys: 2}
	for n := range 4 {
		if wait := tries.Wait("ada"); (wait > 0) != (n == 3) || wait > time.Hour {
			t.Errorf("try %d waits %v", n+1, wait)
		}
	}
	for range 5 {
		tries.Wait("other")
		tries.Wait("ada")
		tries.Wait("another")
		if tries.Wait("ada") == 0 {
			t.Fatal("who is held back is forgotten")
		}
	}
	tries.Forget("ada")
	if tries.Wait("ada") > 0 {
		t.Error("a right password forgets nothing")
	}
	p := TooOften("Too often.", 90*time.Second+time.Millisecond)
	if p.RetryAfter != 91 || p.Status != 429 {
		t.Errorf("%+v", p)
	}
}

//go:build !linux

package lease

import "time"

var started = time.Now()

// sinceBoot is the time since the program started, by a clock that nobody sets. Here it may stand still while the machine sleeps;
// the wall's clock, which [moment] has too, does not.
func sinceBoot() time.Duration { return time.Since(started) + 1 }

package lease

import (
	"time"

	"golang.org/x/sys/unix"
)

// sinceBoot is the time by a clock that nobody sets and that goes on while the machine sleeps; 0 if it cannot be read.
func sinceBoot() time.Duration {
	var at unix.Timespec
	if err := unix.ClockGettime(unix.CLOCK_BOOTTIME, &at); err != nil {
		return 0
	}
	return time.Duration(at.Nano())
}

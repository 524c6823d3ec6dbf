package exchange

import (
	"io"
	"syscall"
	"testing"
	"time"

	"nexufix/core/catalog/catalogtest"
)

// BenchmarkMatch judges 1,000 displays, some with recessed holes, on 200 brackets of which no two have the same kit,
// with every sentence, as `nexufix match` writes them. It reports the time of the processor, on however many cores.
func BenchmarkMatch(b *testing.B) {
	var c Contents
	c.Displays, c.Brackets = catalogtest.Many(1000, 200)
	catalogtest.Recessed(c.Displays)
	catalogtest.Unlike(c.Brackets)
	before := processor(b)
	var size counter
	b.ReportAllocs()
	for b.Loop() {
		size = 0
		if err := Match(io.MultiWriter(io.Discard, &size), &c, "", "", 0); err != nil {
			b.Fatal(err)
		}
	}
	pairs := float64(len(c.Displays) * len(c.Brackets))
	b.ReportMetric(float64((processor(b)-before).Microseconds())/float64(b.N)/pairs, "cpu-µs/pair")
	b.ReportMetric(float64(size)/pairs, "B/pair")
}

// processor is how long the process has kept processors busy.
func processor(b *testing.B) time.Duration {
	var used syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &used); err != nil {
		b.Fatal(err)
	}
	return time.Duration(used.Utime.Nano() + used.Stime.Nano())
}

// counter counts the bytes that are written to it.
type counter int

func (c *counter) Write(b []byte) (int, error) {
	*c += counter(len(b))
	return len(b), nil
}

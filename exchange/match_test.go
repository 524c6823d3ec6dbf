package exchange

import (
	"io"
	"testing"

	"nexufix/core/catalog/catalogtest"
)

// BenchmarkMatch judges 1,000 displays on 200 brackets of which no two have the same kit, with every
// sentence, as `nexufix match` writes them.
func BenchmarkMatch(b *testing.B) {
	var c Contents
	c.Displays, c.Brackets = catalogtest.Many(1000, 200)
	catalogtest.Unlike(c.Brackets)
	var size counter
	b.ReportAllocs()
	for b.Loop() {
		size = 0
		if err := Match(io.MultiWriter(io.Discard, &size), &c, "", "", 0); err != nil {
			b.Fatal(err)
		}
	}
	pairs := float64(len(c.Displays) * len(c.Brackets))
	b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/pairs, "µs/pair")
	b.ReportMetric(float64(size)/pairs, "B/pair")
}

// counter counts the bytes that are written to it.
type counter int

func (c *counter) Write(b []byte) (int, error) {
	*c += counter(len(b))
	return len(b), nil
}

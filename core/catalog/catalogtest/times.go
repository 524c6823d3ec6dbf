package catalogtest

import (
	"os"
	"testing"
)

// Times is how many random cases a test tries: a third of n, a tenth of that with -short (as mutants are tried), and all of n, ten times
// over, with NEXUFIX_LONG (make soak).
func Times(n int) int {
	switch {
	case os.Getenv("NEXUFIX_LONG") != "":
		return 10 * n
	case testing.Short():
		return n / 30
	}
	return n / 3
}

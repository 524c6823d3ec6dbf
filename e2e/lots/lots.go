// Package lots is for tests of cases that are drawn by lot: how many, and whether the answers to them are those that are on record.
package lots

import (
	"flag"
	"os"
	"strings"
	"testing"
)

// Times is how many random cases a test tries: a fifth of n, a tenth of that with -short (as mutants are tried), and all of n, ten times
// over, with NEXUFIX_LONG (make soak).
func Times(n int) int {
	switch {
	case os.Getenv("NEXUFIX_LONG") != "":
		return 10 * n
	case testing.Short():
		return n / 50
	}
	return n / 5
}

// OneIn is 5 n, of what each test tries one in so many: a fifth, as [Times]; n with NEXUFIX_LONG.
func OneIn(n uint32) uint32 {
	if os.Getenv("NEXUFIX_LONG") != "" {
		return n
	}
	return 5 * n
}

var update = flag.Bool("update", false, "write the answers that are on record anew")

// SameAnswers compares what is answered with the package's testdata/answers.txt, or writes it. It is no proof that an answer is right: it
// shows every answer that a change of the code changes. A change on purpose is written with -update, and read in the difference.
func SameAnswers(t *testing.T, answers string) {
	t.Helper()
	const file = "testdata/answers.txt"
	if *update {
		if err := os.WriteFile(file, []byte(answers), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	was, now := strings.Split(string(raw), "\n"), strings.Split(answers, "\n")
	in, told := "", 0
	for i := range max(len(was), len(now)) {
		a, b := "", ""
		if i < len(was) {
			a = was[i]
		}
		if i < len(now) {
			b = now[i]
		}
		if strings.HasPrefix(b, "case ") {
			in = b
		}
		if a != b {
			if told++; told > 5 {
				t.Fatal("and more")
			}
			t.Errorf("%s\nwas %s\nis  %s", in, a, b)
		}
	}
}

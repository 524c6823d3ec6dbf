package language

import (
	"os"
	"slices"
	"strings"
	"testing"

	"nexufix/core/steps"
)

// TestSentencesKeepTheirChanges: engineers' changes of steps are saved with the sentences they were made on. Each that steps ever said
// is on record, and is said still, or is said in other words (steps.Reworded), or is marked with a minus: it means something else now,
// and changes on it are told as conflicts. Reword one, and this fails until it is decided which.
func TestSentencesKeepTheirChanges(t *testing.T) {
	const file = "testdata/sentences.txt"
	said, _ := spoken(t)
	raw, err := os.ReadFile(file)
	if err != nil && !*update {
		t.Fatal(err)
	}
	known := map[string]bool{}
	lines := strings.Split(strings.TrimSpace(string(raw)), "\n")
	for _, line := range lines {
		gone, isGone := strings.CutPrefix(line, "- ")
		known[gone] = true
		_, still := said[line]
		_, reworded := steps.Reworded[line]
		if line != "" && !still && !reworded && !isGone {
			t.Errorf("%q is said no more: add it to steps.Reworded with the words that say the same, or mark it with a minus in %s", line, file)
		}
	}
	for english, where := range said {
		ofSteps := strings.HasPrefix(where, "../core/steps/") || where == "../core/catalog/walltype.go"
		if ofSteps && !known[strings.ReplaceAll(english, "\n", " ")] {
			if !*update {
				t.Errorf("%q is new: go test ./language -update", english)
			}
			lines = append(lines, strings.ReplaceAll(english, "\n", " "))
		}
	}
	for was, is := range steps.Reworded {
		if _, still := said[is]; !still && steps.Reworded[is] == "" || !slices.Equal(figures(was), figures(is)) {
			t.Errorf("%q is reworded to %q, which nobody says, or with other figures", was, is)
		}
	}
	if *update {
		slices.Sort(lines)
		if err := os.WriteFile(file, []byte(strings.TrimSpace(strings.Join(lines, "\n"))+"\n"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
}

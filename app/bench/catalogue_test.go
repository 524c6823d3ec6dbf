package bench

import (
	"testing"

	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/demo"
)

// TestNotesAreNotOdd: what is only worth knowing of a display's figures does not mark its line; what has to be checked does.
func TestNotesAreNotOdd(t *testing.T) {
	all, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	seen := map[fit.Status]int{}
	for i, line := range Grid(all, quantity.Reader{}).Displays {
		status := fit.DataCheck(all.Displays[i]).Status
		if seen[status]++; (line.Odd != "") != (status > fit.Note) {
			t.Errorf("%s, %s: %q", line.ID, status, line.Odd)
		}
	}
	if seen[fit.Note] == 0 || seen[fit.Caution] == 0 {
		t.Error(seen)
	}
}

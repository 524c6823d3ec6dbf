package exchange

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// family returns the cases of a file: what fits, just fits, just does not, is not known, is contradicted, and everyday ones, made from
// the sound document.
func family(t *testing.T, path string) []adversarial {
	t.Helper()
	raw, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	var file struct{ Cases []adversarial }
	if err := json.Unmarshal(raw, &file); err != nil {
		t.Fatalf("%s: %v", path, err)
	}
	return file.Cases
}

// TestSecondReview: of every rule the documents at its limits have the only right answer.
func TestSecondReview(t *testing.T) {
	files, err := filepath.Glob("testdata/second/*.json")
	if err != nil || len(files) < 14 {
		t.Fatalf("%d files, %v", len(files), err)
	}
	count := 0
	for _, path := range files {
		cases := family(t, path)
		if len(cases) < 6 {
			t.Errorf("%s has %d cases", path, len(cases))
		}
		count += len(cases)
		for i := range cases {
			c := &cases[i]
			t.Run(strings.TrimSuffix(filepath.Base(path), ".json")+"/"+c.Name, c.try)
		}
	}
	if count < 150 {
		t.Errorf("%d cases", count)
	}
}

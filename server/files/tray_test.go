package files

import (
	"testing"
	"time"

	"nexufix/app/imports"
)

// TestTrayHasAnEnd: files that wait are few, together not large, and go by
// themselves.
func TestTrayHasAnEnd(t *testing.T) {
	var d uploads
	tomas := &imports.Incoming{Size: 2}
	d.put("tomas", tomas)
	for n := range 10 {
		d.put("mira", &imports.Incoming{Size: 1, Name: string(rune('a' + n))})
	}
	if len(d.files) != maxOfOne+1 || d.files[1].Name != "e" {
		t.Errorf("%d files, of one from %s on", len(d.files), d.files[1].Name)
	}
	if _, err := d.get("mira", tomas.ID); err == nil {
		t.Error("somebody takes another's file")
	}
	for n := range 5 {
		for range maxOfOne {
			d.put(string(rune('a'+n)), &imports.Incoming{Size: 1})
		}
	}
	if got, err := d.get("tomas", tomas.ID); err != nil || got != tomas || len(d.files) != maxOpen {
		t.Errorf("%d files, and of one that was there: %v", len(d.files), err)
	}
	d.put("mira", &imports.Incoming{Size: maxOpenSize - maxOpen})
	if _, err := d.get("tomas", tomas.ID); err != nil {
		t.Error("a large file of one throws away another's")
	}
	d.put("mira", &imports.Incoming{Size: maxOpenSize})
	if len(d.files) != 1 {
		t.Errorf("%d files beside a large one", len(d.files))
	}
	d.files[0].came = time.Now().Add(-openFor - time.Second)
	d.put("mira", &imports.Incoming{Size: 1})
	if len(d.files) != 1 || d.files[0].Size != 1 {
		t.Errorf("%d files, one of them old", len(d.files))
	}
}

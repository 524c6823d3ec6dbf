package files

import (
	"testing"
	"time"

	"nexufix/app"
)

// TestTrayHasAnEnd: files that wait are few, together not large, and go by
// themselves.
func TestTrayHasAnEnd(t *testing.T) {
	var d tray
	for range 10 {
		d.put(&app.Incoming{Size: 1})
	}
	if len(d.files) != mostOpen || d.files[0].ID != "5" {
		t.Errorf("%d files from %s on", len(d.files), d.files[0].ID)
	}
	d.put(&app.Incoming{Size: mostOpenSize})
	if len(d.files) != 1 {
		t.Errorf("%d files beside a large one", len(d.files))
	}
	d.files[0].came = time.Now().Add(-openFor - time.Second)
	d.put(&app.Incoming{Size: 1})
	if len(d.files) != 1 || d.files[0].Size != 1 {
		t.Errorf("%d files, one of them old", len(d.files))
	}
}

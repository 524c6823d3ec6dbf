package bench

import (
	"bytes"
	"image"
	"image/jpeg"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/demo/demotest"
	"nexufix/exchange"
)

// TestPhotographIsPrinted: a step's photograph is in the pack (read back by poppler), in the page and in the folder;
// one that is not here is a conflict, and the steps go on without it.
func TestPhotographIsPrinted(t *testing.T) {
	all := demotest.Contents(t)
	var picture bytes.Buffer
	if err := jpeg.Encode(&picture, image.NewGray(image.Rect(0, 0, 640, 480)), nil); err != nil {
		t.Fatal(err)
	}
	raw := picture.Bytes()
	id := exchange.PhotoID(raw)
	gone := strings.Repeat("0", 32)
	for _, j := range all.Jobs {
		if j.ID == "mill-lane-counter" {
			j.StepChanges = []catalog.StepChange{{Step: "level", What: "photo", Photo: id, Title: "the left screw"}, {Step: "lock",
				What: "photo", Photo: gone}}
		}
	}
	i := installation(t, all, "mill-lane-counter", InstallOptions{Now: friday, Photos: func(of string) ([]byte, error) {
		return map[string][]byte{id: raw}[of], nil
	}})
	if len(i.Conflicts) != 1 || i.Conflicts[0].Change != 1 || i.Conflicts[0].Step != "lock" {
		t.Errorf("conflicts are %+v", i.Conflicts)
	}
	file := filepath.Join(t.TempDir(), "pack.pdf")
	pack, err := i.File("pdf")
	if err == nil {
		err = os.WriteFile(file, pack, 0o600)
	}
	if err != nil {
		t.Fatal(err)
	}
	if list := outside(t, "poppler-utils", "pdfimages", "-list", file); strings.Count(list, "jpeg") != 1 || !strings.Contains(list, "640") {
		t.Error(list)
	}
	if text := outside(t, "poppler-utils", "pdftotext", file, "-"); !strings.Contains(text, "the left screw") {
		t.Error("nobody says what it shows")
	}
	for format, want := range map[string]string{"html": "data:image/jpeg;base64,", "md": "(photos/" + id + ".jpg)", "json": id,
		"zip": "photos/" + id + ".jpg"} {
		if raw, err := i.File(format); err != nil || !bytes.Contains(raw, []byte(want)) {
			t.Errorf("%s has no photograph: %v", format, err)
		}
	}
}

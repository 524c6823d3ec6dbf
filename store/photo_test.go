package store

import (
	"bytes"
	"context"
	"image"
	"image/jpeg"
	"path/filepath"
	"testing"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// TestPhotosTravel: a photograph goes with the jobs that show it into a document, from there into another database
// and, with a backup, back; so does what was ticked; one that no job shows stays where it is.
func TestPhotosTravel(t *testing.T) {
	ctx := context.Background()
	s, _ := open(t)
	var raw bytes.Buffer
	if err := jpeg.Encode(&raw, image.NewGray(image.Rect(0, 0, 40, 30)), nil); err != nil {
		t.Fatal(err)
	}
	id := exchange.PhotoID(raw.Bytes())
	c := catalogue(t, "One")
	c.Jobs = []*catalog.Job{{ID: "shop", Display: c.Displays[0].ID, Bracket: "any", Wall: catalog.Wall{Type: catalog.WoodStud},
		Place: catalog.Place{Rule: "center"}, StepChanges: []catalog.StepChange{{Step: "level", What: "photo", Photo: id}}}}
	c.Photos = map[string][]byte{id: raw.Bytes()}
	if _, err := s.Import(ctx, Author{Who: "A"}, "x", c, nil, nil); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Tick(ctx, c.Jobs[0], []catalog.Tick{{Step: "unpack", At: "2026-11-02T08:00:00Z"}, {Step: "lock", At: ""}}); err != nil {
		t.Fatal(err)
	}
	if err := s.SavePhoto(ctx, exchange.PhotoID([]byte("other")), []byte("other")); err != nil {
		t.Fatal(err)
	}
	all, err := s.Catalogue(ctx)
	if err == nil {
		all, err = s.Whole(ctx, all)
	}
	if err != nil || len(all.Photos) != 1 {
		t.Fatalf("%d photographs go out: %v", len(all.Photos), err)
	}
	var doc bytes.Buffer
	if err := exchange.WriteTo(&doc, all); err != nil {
		t.Fatal(err)
	}
	back, err := exchange.Read(doc.Bytes())
	if err != nil || !bytes.Equal(back.Photos[id], raw.Bytes()) {
		t.Fatalf("read back: %v", err)
	}
	if got := back.Jobs[0].Ticks; len(got) != 1 || got[0].Step != "unpack" {
		t.Errorf("ticked is %v", got)
	}
	file := filepath.Join(t.TempDir(), "backup.db")
	if err := s.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}
	other, _ := open(t)
	if err := other.RestoreFrom(ctx, file); err != nil {
		t.Fatal(err)
	}
	if got, err := other.Photo(ctx, id); err != nil || !bytes.Equal(got, raw.Bytes()) {
		t.Errorf("restored: %d bytes, %v", len(got), err)
	}
	if got, err := other.Photo(ctx, "none"); err != nil || got != nil {
		t.Errorf("one that is not there: %v, %v", got, err)
	}
}

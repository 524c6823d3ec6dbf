package server

import (
	"os"
	"path/filepath"
	"testing"
	"time"
)

// TestEarlierBuildIsServed: what the build before had is there still, what the one before that had is not.
func TestEarlierBuildIsServed(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "page")
	started := func(build string) *page {
		p := &page{html: build, assets: map[string]asset{"/assets/view-" + build + ".js": {plain: []byte("of " + build)},
			"/assets/licences.txt": {plain: []byte("texts")}, "/v/check.js": {plain: []byte("check")}}}
		if err := p.keepEarlier(dir); err != nil {
			t.Fatal(err)
		}
		// Folders of one moment would have no order.
		builds, err := os.ReadDir(dir)
		if err != nil {
			t.Fatal(err)
		}
		for _, b := range builds {
			at := filepath.Join(dir, b.Name())
			if info, err := os.Stat(at); err != nil || os.Chtimes(at, time.Time{}, info.ModTime().Add(-time.Hour)) != nil {
				t.Fatal(err)
			}
		}
		return p
	}
	started("one")
	if err := os.Mkdir(filepath.Join(dir, begunName+"1"), 0o700); err != nil {
		t.Fatal(err)
	}
	for n, c := range []struct {
		build string
		has   []string
		not   string
	}{
		{"two", []string{"one", "two"}, "three"},
		{"two", []string{"one", "two"}, "three"}, // started again, the same program
		{"three", []string{"two", "three"}, "one"},
		{"two", []string{"two", "three"}, "one"}, // and back
	} {
		p := started(c.build)
		for _, name := range c.has {
			if a, is := p.assets["/assets/view-"+name+".js"]; !is || string(a.plain) != "of "+name {
				t.Errorf("%d: %s lacks the view of %s", n, c.build, name)
			}
		}
		if _, is := p.assets["/assets/view-"+c.not+".js"]; is {
			t.Errorf("%d: %s still has the view of %s", n, c.build, c.not)
		}
	}
	if left, _ := os.ReadDir(dir); len(left) != 2 {
		t.Errorf("%d builds are kept", len(left))
	}
	// A folder that cannot be written to is an error, and the page has all of its own.
	p := &page{html: "four", assets: map[string]asset{"/assets/a.js": {}}}
	if err := os.WriteFile(dir+"x", nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := p.keepEarlier(dir + "x"); err == nil || len(p.assets) != 1 {
		t.Errorf("%v, %d assets", err, len(p.assets))
	}
}

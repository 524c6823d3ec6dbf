package exchange

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image"
	"image/jpeg"
	"slices"
	"strings"
	"testing"
)

// TestPhotographsOfADocument: what a document brings is taken where it is a picture and nothing else. What a camera adds, a second file
// behind its end, another scan, a head alone and noise are refused with what to do.
func TestPhotographsOfADocument(t *testing.T) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, image.NewGray(image.Rect(0, 0, 40, 30)), nil); err != nil {
		t.Fatal(err)
	}
	sound := out.Bytes()
	exif := append([]byte{0xff, 0xe1, 0, 20}, "Exif\x00\x00 of Somebody"[:18]...)
	noise := append([]byte{0xff, 0xda, 0, 8, 1, 1, 0, 0, 63, 0}, "ZZZZZZZZZ"...)
	body := bytes.LastIndex(sound, []byte{0xff, 0xda})
	for name, c := range map[string]struct {
		raw   []byte
		taken bool
	}{
		"ours":          {sound, true},
		"with a place":  {slices.Concat(sound[:2], exif, sound[2:]), false},
		"a comment":     {slices.Concat(sound[:2], []byte{0xff, 0xfe, 0, 4, 'h', 'i'}, sound[2:]), false},
		"a script":      {append(slices.Clone(sound), "<script>"...), false},
		"another scan":  {slices.Concat(sound[:len(sound)-2], sound[body:]), false},
		"a head alone":  {sound[:body], false},
		"without end":   {sound[:len(sound)-2], false},
		"noise inside":  {slices.Concat(sound[:body], noise, sound[len(sound)-2:]), false},
		"text":          {[]byte("no picture"), false},
		"two pictures":  {slices.Concat(sound, sound), false},
		"filled up":     {slices.Concat(sound[:2], []byte{0xff}, sound[2:]), true},
		"half a marker": {[]byte{0xff, 0xd8, 0xff}, false},
	} {
		raw := fmt.Sprintf(`{"format": "nexufix/1", "photos": [{"id": %q, "jpeg": %q}]}`, PhotoID(c.raw), base64.StdEncoding.EncodeToString(c.raw))
		_, err := Read([]byte(raw))
		if (err == nil) != c.taken || err != nil && !strings.Contains(err.Error(), "photos[0].jpeg") {
			t.Errorf("%s: %v", name, err)
		}
	}
}

package server

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"io"
	"net/http"
	"os/exec"
	"strings"
	"testing"

	"nexufix/app/bench"
)

// strange are names that people and programs come up with, each with what of it a
// PDF can show.
var strange = map[string]string{
	"😀 Smile 43":            "□ Smile 43",
	"𠮷野 Menu 43":            "□□ Menu 43",
	"書見 43":                 "□□ 43",
	"Ложка 43":              "Ложка 43",
	"Ψωμί 43":               "Ψωμί 43",
	"خبز 43":                "□□□ 43",
	"\u202eMenu\u202c 43":   "Menu 43",
	"e\u0301cran 43":        "écran 43",
	"x\u0301\u0302\u0303 y": "x y",
	"a\u200b\u2060b 43":     "ab 43",
	"<b>&amp;\"' 43":        "<b>&amp;\"' 43",
	"]]> --> 43":            "]]> --> 43",
	"=1+1 43":               "=1+1 43",
	"＝1+1 43":               "□1+1 43",
}

// TestStrangeLetters: a display of any name is saved, judged, drawn on paper in
// every format and exported, and no picture breaks.
func TestStrangeLetters(t *testing.T) {
	d := newDesk(t)
	k := read[bench.SavedItem](t, d.get("/api/items/displays/velmora-pane-49"), 200)
	for name, shown := range strange {
		x := *k.Display
		x.ID, x.Maker, x.Model = "strange", "", name
		raw, err := json.Marshal(map[string]any{"display": x, "bracket_id": "sill-40"})
		if err != nil {
			t.Fatal(err)
		}
		post := func(path string) answer {
			a := d.request(http.MethodPost, path, "application/json", raw)
			if a.StatusCode != 200 {
				t.Errorf("%q: %s: %d %.300s", name, path, a.StatusCode, a.body)
			}
			return a
		}
		bench := read[struct{ Section, Back, Side string }](t, post("/api/bench"), 200)
		for _, picture := range []string{bench.Section, bench.Back, bench.Side, string(post("/api/template?format=svg").body)} {
			if err := wellFormed(picture); err != nil {
				t.Errorf("%q: %v", name, err)
			}
		}
		for _, path := range []string{"/api/template?format=pdf&paper=sheet", "/api/template?format=pdf&paper=a4",
			"/api/template?format=pdf&what=card"} {
			text := string(poppler(t, post(path).body))
			if !strings.Contains(strings.Join(strings.Fields(text), ""), strings.Join(strings.Fields(shown), "")) {
				t.Errorf("%q: %s has no %q", name, path, shown)
			}
		}
		if dxf := post("/api/template?format=dxf").body; bytes.IndexFunc(dxf, func(r rune) bool { return r > '~' }) >= 0 {
			t.Errorf("%q: the DXF has letters that release 12 has not", name)
		}
	}
	for _, bad := range []string{"a\ufffeb", "a\uffffb", "a\u0000b", "a\u001bb"} {
		x := *k.Display
		x.ID, x.Model = "bad", bad
		raw, _ := json.Marshal(map[string]any{"display": x, "bracket_id": "sill-40"})
		if a := d.request(http.MethodPost, "/api/bench", "application/json", raw); a.StatusCode != 400 {
			t.Errorf("%q: %d", bad, a.StatusCode)
		}
	}
}

// wellFormed reads a picture with another XML parser than the one that wrote it.
func wellFormed(svg string) error {
	d := xml.NewDecoder(strings.NewReader(svg))
	for {
		if _, err := d.Token(); errors.Is(err, io.EOF) {
			return nil
		} else if err != nil {
			return err
		}
	}
}

// poppler reads the text of a PDF.
func poppler(t *testing.T, raw []byte) []byte {
	t.Helper()
	c := exec.Command("pdftotext", "-raw", "-", "-")
	c.Stdin = bytes.NewReader(raw)
	out, err := c.Output()
	if err != nil {
		t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
	}
	return out
}

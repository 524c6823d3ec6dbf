package svg

import (
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

func sample(text string) *drawing.Drawing {
	d := &drawing.Drawing{Title: text, Min: drawing.Point{X: -10, Y: -5}, Max: drawing.Point{X: 90, Y: 45}, Pen: 0.2, TextHeight: 3}
	d.Line("a.line", drawing.Centre, -10, 0, 90, 0)
	d.Named("a.circle", drawing.Bolt, drawing.Circle{Center: drawing.Point{X: 10, Y: 20}, Radius: 4.5}, "Bolt %v", quantity.MM(16))
	d.Named(text, drawing.Plate, drawing.Rect(0, 0, 5, 5), "%v", text)
	d.Label("a.text", 20, 20, drawing.End, "%v", quantity.Bare{Length: quantity.Inch})
	d.Label("a.same", 20, 30, drawing.Start, "%v", text)
	return d
}

// parsed reads an SVG as XML: names of elements, attributes of those with a
// tag, and text.
func parsed(t *testing.T, raw []byte) (names []string, tags map[string]map[string]string, text string) {
	t.Helper()
	tags = map[string]map[string]string{}
	x := xml.NewDecoder(strings.NewReader(string(raw)))
	for {
		token, err := x.Token()
		if errors.Is(err, io.EOF) {
			return names, tags, text
		}
		if err != nil {
			t.Fatalf("%v in %s", err, raw)
		}
		switch v := token.(type) {
		case xml.StartElement:
			names = append(names, v.Name.Local)
			attributes := map[string]string{}
			for _, a := range v.Attr {
				attributes[a.Name.Local] = a.Value
			}
			tags[attributes["data-tag"]] = attributes
			if v.Name.Local == "svg" {
				tags["svg"] = attributes
			}
		case xml.CharData:
			text += string(v) + "|"
		}
	}
}

func TestWriteIsToScale(t *testing.T) {
	_, tags, _ := parsed(t, Write(sample("x"), Options{}))
	if s := tags["svg"]; s["width"] != "100mm" || s["height"] != "50mm" || s["viewBox"] != "0 0 100 50" {
		t.Errorf("%v", s)
	}
	if c := tags["a.circle"]; c["cx"] != "20" || c["cy"] != "25" || c["r"] != "4.5" || c["class"] != "s-bolt" {
		t.Errorf("%v", c)
	}
	if l := tags["a.line"]; l["points"] != "0,45 100,45" || l["stroke-dasharray"] == "" {
		t.Errorf("%v", l)
	}
	if x := tags["a.text"]; x["text-anchor"] != "end" {
		t.Errorf("%v", x)
	}
}

func TestUnits(t *testing.T) {
	_, _, mm := parsed(t, Write(sample("x"), Options{}))
	_, _, in := parsed(t, Write(sample("x"), Options{Units: quantity.Imperial}))
	if !strings.Contains(mm, "|25.4|") || !strings.Contains(in, "|1″|") {
		t.Errorf("%s\n%s", mm, in)
	}
	both := string(Write(sample("x"), Options{Both: true}))
	if strings.Count(both, "u-mm") != 1 || strings.Count(both, "u-in") != 1 {
		t.Errorf("only texts that differ are written twice: %s", both)
	}
}

// TestMarkupIsEscaped: whatever a name holds, no element or attribute comes of
// it.
func TestMarkupIsEscaped(t *testing.T) {
	evil := `"><script>alert(1)</script><a href='javascript:x'>&amp;]]>`
	names, tags, text := parsed(t, Write(sample(evil), Options{Both: true}))
	for _, n := range names {
		if n == "script" || n == "a" {
			t.Errorf("an element %s came of a name", n)
		}
	}
	if tags[evil]["class"] != "s-plate" || !strings.Contains(text, evil) {
		t.Error("the name was not kept as it is")
	}
}

func TestNum(t *testing.T) {
	for f, want := range map[float64]string{0: "0", -0.0001: "0", 1.5: "1.5", 100: "100", -2.12345: "-2.123"} {
		w := writer{out: []byte("x=")}
		if w.num(num(f)); string(w.out) != "x="+want {
			t.Errorf("%g: %s, want %s", f, w.out, want)
		}
	}
}

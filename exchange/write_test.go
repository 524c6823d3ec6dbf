package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"reflect"
	"slices"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// byLibrary is a value as encoding/json writes it, indented.
func byLibrary(t *testing.T, v any, prefix string) string {
	t.Helper()
	var out bytes.Buffer
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false)
	e.SetIndent(prefix, "  ")
	if err := e.Encode(v); err != nil {
		t.Fatal(err)
	}
	return string(bytes.TrimSuffix(out.Bytes(), []byte("\n")))
}

// TestWriterAgreesWithLibrary: pairings of all verdicts are written as encoding/json writes them. Every
// member that a pairing has is set in one of them at least, so that a new one cannot be forgotten.
func TestWriterAgreesWithLibrary(t *testing.T) {
	displays, brackets := catalogtest.Many(40, 20)
	displays[3].Patterns = nil
	displays[4].ID, displays[4].Zones[0].Connector = "\"d\"\n4", "a \\ b <&> 3″"
	displays[5].Zones[0].Plug.Known = false
	displays[6].Patterns[0].Holes[0].ID = "\xff"
	for i := range displays[7].Patterns[0].Holes { // spacers and a shoulder washer in a recess; doubtful on the sheet's word
		h := &displays[7].Patterns[0].Holes[i]
		h.Recess, h.RecessDiameter = catalog.Given(quantity.MM(10), catalog.Sheet), catalog.Given(quantity.MM(30), catalog.Sheet)
	}
	good, on := catalogtest.Pair()
	displays, brackets = append(displays, good), append(brackets, on)
	bare := *brackets[2]
	bare.Kit, bare.WallPlate = nil, nil
	own := *brackets[3]
	own.Kit = append(slices.Clone(own.Kit), catalog.Item{Kind: catalog.ShoulderWasher, Thread: fastener.M8, Thickness: quantity.MM(2),
		Count: 1})
	for i := range own.Kit { // some of another head, and too few of them
		if x := &own.Kit[i]; x.Kind == catalog.Bolt {
			x.Head, x.Count = catalog.HexHead, 3
		}
	}
	brackets = append(brackets, &bare, &own)
	verdicts, set := map[fit.Verdict]bool{}, map[string]bool{}
	var w writer
	for _, d := range displays {
		for _, b := range brackets {
			for _, turn := range []catalog.Turn{0, 90} {
				p := fit.Judge(d, b, turn, fit.Extra{}, catalog.DefaultPolicy())
				verdicts[p.Verdict] = true
				w.begin(2)
				w.pairing(&p)
				v := PairingOf(&p, quantity.Reader{Units: quantity.Metric}, false)
				if got, want := string(w.out), "\n    "+byLibrary(t, v, "    "); got != want {
					t.Fatalf("got\n%s\nwant\n%s", got, want)
				}
				members(reflect.ValueOf(v), set, true)
			}
		}
	}
	if len(verdicts) != len(fit.Verdicts) {
		t.Errorf("only %v came about", verdicts)
	}
	members(reflect.ValueOf(Pairing{Pattern: &Size{}, Checks: []Check{{}}, Hang: &Hang{},
		Stack: &Stack{Supplied: []SuppliedItem{{}}, Groups: []StackGroup{{}}}}), set, false)
	for name, is := range set {
		if !is && name != "Assumed.Value" && name != "Pairing.WallJudged" { // what nobody has said counts as 0; there is no wall
			t.Errorf("no pairing here has %s", name)
		}
	}
}

// manyAgree: what `match` writes of a document, and the cells of its matrix, are those of its pairings judged
// one by one and written by encoding/json.
func manyAgree(t *testing.T, c *Contents, turn catalog.Turn) {
	t.Helper()
	results := struct {
		Format   string    `json:"format"`
		Pairings []Pairing `json:"pairings"`
	}{Format, []Pairing{}}
	cells := map[int][]fit.Cell{}
	for i, d := range c.Displays {
		for _, b := range c.Brackets {
			p := fit.Judge(d, b, turn, fit.Extra{}, c.PolicyOrDefault())
			results.Pairings = append(results.Pairings, PairingOf(&p, quantity.Reader{Units: quantity.Metric}, false))
			upright := fit.Judge(d, b, 0, fit.Extra{}, c.PolicyOrDefault())
			cells[i] = append(cells[i], upright.Cell())
		}
	}
	var out bytes.Buffer
	if err := Match(&out, c, "", "", turn); err != nil {
		t.Fatal(err)
	}
	if got, want := out.String(), byLibrary(t, results, "")+"\n"; got != want {
		t.Errorf("match writes\n%s\nwant\n%s", got, want)
	}
	if _, _, err := new(fit.Grid).Matrix(t.Context(), c.Displays, c.Brackets, c.PolicyOrDefault(), func(r fit.Row) error {
		if !slices.Equal(r.Cells, cells[r.Display]) {
			t.Errorf("the matrix has %v, the pairings are %v", r.Cells, cells[r.Display])
		}
		return nil
	}); err != nil {
		t.Error(err)
	}
}

// TestSameWordsOfOtherHoles: on two brackets a display's bolts are judged in the same words, but one uses holes of
// which a figure was told on the telephone: the check of the other is not copied.
func TestSameWordsOfOtherHoles(t *testing.T) {
	raw, err := os.ReadFile("testdata/same-words.json")
	if err != nil {
		t.Fatal(err)
	}
	c, err := Read(raw)
	if err != nil {
		t.Fatal(err)
	}
	var all []Check
	for _, b := range c.Brackets {
		p := fit.Judge(c.Displays[0], b, 0, fit.Extra{}, c.PolicyOrDefault())
		all = append(all, PairingOf(&p, quantity.Reader{Units: quantity.Metric}, false).Checks[3])
	}
	if all[0].Text != all[1].Text || all[0].Origins["thread_depth_mm"] != "bench" || all[1].Origins["thread_depth_mm"] != "caller" {
		t.Errorf("%+v: no such document", all)
	}
	manyAgree(t, c, 0)
}

// members marks the fields of a format's structs, by struct and name, as set where they are; all that
// it meets are listed.
func members(v reflect.Value, set map[string]bool, mark bool) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			members(v.Elem(), set, mark)
		}
	case reflect.Slice:
		for i := range v.Len() {
			members(v.Index(i), set, mark)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			name := v.Type().Name() + "." + v.Type().Field(i).Name
			set[name] = set[name] || mark && !v.Field(i).IsZero()
			members(v.Field(i), set, mark)
		}
	}
}

// TestTextsAreQuoted as encoding/json quotes them.
func TestTextsAreQuoted(t *testing.T) {
	for _, text := range []string{"", "plain", `"quoted" \ back`, "a\tb\nc\x01\x7f", "<&>", "48 3/8 in × 5 °, 3″",
		"\u2028 and \u2029", "\xff no UTF-8", "😀"} {
		want := byLibrary(t, text, "")
		if got := string(appendText(nil, text)); got != want {
			t.Errorf("%s, want %s", got, want)
		}
		phrase := quantity.Say("%v", text)
		w := writer{}
		if w.sentence("x", &phrase); string(w.out) != "\n\"x\": "+want {
			t.Errorf("%s, want %s", w.out, want)
		}
	}
}

// TestSameHolesUnderOtherBacks: displays with the same holes, of which arms pass over nothing, over a box, or over pockets of different
// sizes, are judged on the same bracket one after another as if each were alone.
func TestSameHolesUnderOtherBacks(t *testing.T) {
	backs := [][]any{
		nil,
		{map[string]any{"kind": "protrusion", "x_mm": 100, "y_mm": 0, "width_mm": 30, "height_mm": 150, "out_mm": 12}},
		{map[string]any{"kind": "protrusion", "x_mm": 100, "y_mm": 0, "width_mm": 30, "height_mm": 150, "out_mm": 18}},
		{map[string]any{"kind": "pocket", "x_mm": 0, "y_mm": 0, "width_mm": 230, "height_mm": 300, "depth_mm": 8}},
		{map[string]any{"kind": "pocket", "x_mm": 0, "y_mm": 0, "width_mm": 230, "height_mm": 429, "depth_mm": 8}},
		{map[string]any{"kind": "pocket", "x_mm": 0, "y_mm": 0, "width_mm": 260, "height_mm": 440, "depth_mm": 8}},
	}
	for _, setback := range []float64{0, 8} {
		doc := soundDocument(t)
		put(t, doc, "jobs", nil)
		for i, length := range []float64{20, 30} {
			put(t, doc, fmt.Sprintf("brackets[0].kit[%d]", 5+i), map[string]any{"kind": "bolt", "thread": "M6", "length_mm": length, "count": 4})
		}
		put(t, doc, "brackets[0].kit[7]", map[string]any{"kind": "spacer", "threads": []any{"M6"}, "outer_mm": 18, "length_mm": 15, "count": 4})
		display := first(doc, "displays")
		for _, row := range []string{"top", "bottom"} {
			put(t, doc, "displays[0].patterns[0].rows."+row+".setback_mm", setback)
		}
		for _, order := range []bool{false, true} {
			var all []any
			for i, zones := range backs {
				d := copyOf(display)
				d["id"] = fmt.Sprintf("back-%d", i)
				if d["zones"] = zones; zones == nil {
					delete(d, "zones")
				}
				all = append(all, d)
			}
			if order {
				slices.Reverse(all)
			}
			doc["displays"] = all
			c, err := Read(encode(t, doc))
			if err != nil {
				t.Fatal(err)
			}
			manyAgree(t, c, 0)
		}
	}
}

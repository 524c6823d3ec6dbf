package imports

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

// whole is a display that says everything that the format has.
const whole = `{"format":"nexufix/1","displays":[{"id":"whole","maker":"Velmora","model":"Pane","aliases":["Old Pane"],"diagonal_mm":1230,
	"width_mm":1090,"height_mm":628,"depth_mm":60,"rest_plane_from_front_mm":55,"mass_kg":14.2,"mass_with_stand_kg":16,
	"cg_above_center_mm":-40,"cg_right_mm":150,"turns_deg":[0],"origin":"bench","own_parts":[{"kind":"bolt","thread":"M6",
	"length_mm":12,"count":4}],"zones":[{"kind":"port","x_mm":100,"y_mm":-50,"width_mm":90,"height_mm":40,"plug_mm":45}],
	"origins":{"mass_kg":"caller","patterns[0].torque_max_nm":"sheet"},"notes":{"mass_kg":{"text":"on the telephone"},
	"cg_right_mm":{"text":"hung on two scales"}},
	"patterns":[{"width_mm":200,"height_mm":200,"thread":"M6","center_below_top_mm":300,"center_right_mm":5,"torque_max_nm":3,
	"rows":{"top":{"setback_mm":1,"recess_mm":2,"recess_diameter_mm":12,"thread_depth_mm":14},"bottom":{"setback_mm":3,"recess_mm":4,
	"recess_diameter_mm":13,"thread_depth_mm":15}}}]}]}`

// members are the paths of all members of a struct of the format that say something of a display, in it and in its first pattern.
func members(t *testing.T, x reflect.Value, at string, out map[string]reflect.Value) {
	t.Helper()
	for i := range x.NumField() {
		f := x.Type().Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		v := x.Field(i)
		if v.Kind() == reflect.Pointer && !v.IsNil() {
			v = v.Elem()
		}
		switch {
		case slices.Contains([]string{"id", "maker", "model", "aliases", "origin", "origins", "notes", "trials", "holes", "-"}, name):
		case v.Type() == reflect.TypeFor[catalog.Rows](), v.Type() == reflect.TypeFor[catalog.HoleFigures]():
			members(t, v, at+name+".", out)
		case name == "patterns":
			members(t, v.Index(0), at+"patterns[0].", out)
		default:
			if v.IsZero() {
				t.Fatalf("%s%s is not in the whole display", at, name)
			}
			out[at+name] = v
		}
	}
}

// TestMergeTakesEveryFigure: for every figure of the format, in turn: a display that lacks it, merged with one that has it, has it, with
// its origin and its note; and what both have stays as the one has it.
func TestMergeTakesEveryFigure(t *testing.T) {
	read := func(text string) *catalog.Display {
		t.Helper()
		c, err := exchange.Read([]byte(text))
		if err != nil {
			t.Fatal(err)
		}
		return c.Displays[0]
	}
	gone := read(whole)
	of := *gone
	all := map[string]reflect.Value{}
	members(t, reflect.ValueOf(of), "", all)
	if len(all) < 24 {
		t.Fatalf("only %d figures: %v", len(all), all)
	}
	for path, want := range all {
		keep := *gone
		keep.ID, keep.Model, keep.Origins, keep.Notes = "keep", "Keep", nil, nil
		keep.Patterns = slices.Clone(keep.Patterns)
		rows := *keep.Patterns[0].Rows
		top, bottom := *rows.Top, *rows.Bottom
		rows.Top, rows.Bottom = &top, &bottom
		keep.Patterns[0].Rows = &rows
		lacking := map[string]reflect.Value{}
		members(t, reflect.ValueOf(&keep).Elem(), "", lacking)
		if strings.HasSuffix(path, "].width_mm") || strings.HasSuffix(path, "].height_mm") {
			continue // by which a pattern is known
		}
		lacking[path].SetZero()
		if wrong := exchange.Complete("", &keep); wrong != nil {
			t.Fatal(path, wrong)
		}
		both, err := Merged(&keep, gone)
		if err != nil {
			t.Fatal(err)
		}
		got := map[string]reflect.Value{}
		merged := *both
		members(t, reflect.ValueOf(merged), "", got)
		if fmt.Sprint(got[path]) != fmt.Sprint(want) {
			t.Errorf("%s: %v, want %v", path, got[path], want)
		}
		if note, has := of.Notes[path]; has && merged.Notes[path] != note {
			t.Errorf("%s: its note is %+v", path, merged.Notes[path])
		}
		if from, has := of.Origins[path]; has && merged.Origins[path] != from {
			t.Errorf("%s is from %v, want %v", path, merged.Origins[path], from)
		}
		for other, was := range all {
			if other != path && fmt.Sprint(got[other]) != fmt.Sprint(was) {
				t.Errorf("with %s, %s became %v", path, other, got[other])
			}
		}
	}
	// What both have is the one's; a port of the other stays a port.
	other := read(strings.NewReplacer(`"whole"`, `"other"`, `"depth_mm":60`, `"depth_mm":70`, `"x_mm":100`, `"x_mm":-200`,
		`"turns_deg":[0]`, `"turns_deg":[0,90]`).Replace(whole))
	both, err := Merged(gone, other)
	if err != nil || both.Depth != gone.Depth || len(both.Zones) != 2 || len(both.Turns) != 1 {
		t.Errorf("%+v, %v", both, err)
	}
	if again, err := Merged(both, other); err != nil || len(again.Zones) != 2 {
		t.Errorf("a port twice: %+v, %v", again.Zones, err)
	}
}

// TestMergeOfRowsAndHoles: one display says its holes by rows, the other one by one, with another depth at each: no hole gets its
// neighbour's. The shallow one decides what bolt is short enough, so a merge that takes the row's would crack a panel.
func TestMergeOfRowsAndHoles(t *testing.T) {
	read := func(pattern string) *catalog.Display {
		t.Helper()
		c, err := exchange.Read([]byte(`{"format":"nexufix/1","displays":[{"id":"d","model":"Pane","patterns":[{"width_mm":200,"height_mm":200,
			"thread":"M6",` + pattern + `}]}]}`))
		if err != nil {
			t.Fatal(err)
		}
		return c.Displays[0]
	}
	rows := read(`"rows":{"top":{"setback_mm":1},"bottom":{"setback_mm":2}}`)
	holes := read(`"holes":[{"id":"TL","x_mm":-100,"y_mm":100,"thread_depth_mm":14},{"id":"TR","x_mm":100,"y_mm":100,"thread_depth_mm":9},
		{"id":"BL","x_mm":-100,"y_mm":-100},{"id":"BR","x_mm":100,"y_mm":-100,"thread_depth_mm":12}]`)
	for name, pair := range map[string][2]*catalog.Display{"into rows": {rows, holes}, "into holes": {holes, rows}} {
		both, err := Merged(pair[0], pair[1])
		if err != nil {
			t.Fatal(err)
		}
		raw, err := exchange.Write(&exchange.Contents{Displays: []*catalog.Display{both}})
		if err != nil {
			t.Fatal(err)
		}
		c, err := exchange.Read(raw)
		if err != nil {
			t.Fatal(name, err)
		}
		want := map[string][2]string{"TL": {"1 mm", "14 mm"}, "TR": {"1 mm", "9 mm"}, "BL": {"2 mm", "?"}, "BR": {"2 mm", "12 mm"}}
		for _, h := range c.Displays[0].Patterns[0].Holes {
			got := [2]string{"?", "?"}
			for i, f := range []catalog.Figure{h.Setback, h.ThreadDepth} {
				if f.Known {
					got[i] = quantity.Say("%v", f.Length).In(quantity.Metric)
				}
			}
			if got != want[h.ID] {
				t.Errorf("%s: %s has %v, want %v", name, h.ID, got, want[h.ID])
			}
		}
	}
}

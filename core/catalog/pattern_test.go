package catalog

import (
	"encoding/json"
	"reflect"
	"testing"
)

func displayOf(t *testing.T, text string) *Display {
	t.Helper()
	var d Display
	if err := json.Unmarshal([]byte(text), &d); err != nil {
		t.Fatal(err)
	}
	return &d
}

// TestHolesOfRows: two rows are four holes, each with its row's figures and their origins; what is on record is written as it was, but for
// what says no more than is known without it.
func TestHolesOfRows(t *testing.T) {
	d := displayOf(t, `{"id":"d","origin":"bench","patterns":[{"width_mm":200,"height_mm":100,"rows":{
		"top":{"setback_mm":1,"thread_depth_mm":14},"bottom":{}}}],
		"origins":{"mass_kg":"bench","patterns[0].rows.top.setback_mm":"caller","patterns[0].rows.top.thread_depth_mm":"bench"}}`)
	shared := *d
	d.Complete()
	if rows := d.Patterns[0].Rows; rows.Bottom != nil || rows.Top == nil {
		t.Errorf("an empty row is %+v", rows)
	}
	if want := map[string]Origin{"mass_kg": Bench, "patterns[0].rows.top.setback_mm": Caller}; !reflect.DeepEqual(d.Origins, want) {
		t.Errorf("origins %v, want %v", d.Origins, want)
	}
	if shared.Patterns[0].Rows.Bottom == nil || shared.Patterns[0].Holes != nil || len(shared.Origins) != 3 {
		t.Errorf("what it shares has changed: %+v", shared)
	}
	for i, want := range []Hole{
		{ID: "TL", X: -mm(100), Y: mm(50), Setback: Given(mm(1), Caller), ThreadDepth: Given(mm(14), Bench)},
		{ID: "TR", X: mm(100), Y: mm(50), Setback: Given(mm(1), Caller), ThreadDepth: Given(mm(14), Bench)},
		{ID: "BL", X: -mm(100), Y: -mm(50), Setback: Figure{Origin: Bench}, ThreadDepth: Figure{Origin: Bench}},
		{ID: "BR", X: mm(100), Y: -mm(50), Setback: Figure{Origin: Bench}, ThreadDepth: Figure{Origin: Bench}},
	} {
		want.Recess, want.RecessDiameter = Figure{Origin: Bench}, Figure{Origin: Bench}
		if got := d.Patterns[0].Holes[i]; !reflect.DeepEqual(got, want) {
			t.Errorf("%+v, want %+v", got, want)
		}
	}
}

// TestRecessBesideTrials: beside trial bolts a depth on record goes with no recess, which is then not written either, unless somebody
// else said so.
func TestRecessBesideTrials(t *testing.T) {
	for _, c := range []struct {
		figures, origins string
		known, written   bool
	}{
		{`"thread_depth_mm":9`, `{}`, true, false},
		{`"thread_depth_mm":9,"recess_mm":0`, `{}`, true, false},
		{`"thread_depth_mm":9,"recess_mm":0`, `{"patterns[0].rows.top.recess_mm":"bench"}`, true, true},
		{`"thread_depth_mm":9,"recess_mm":1`, `{}`, true, true},
		{`"recess_mm":0`, `{}`, true, true},
		{`"setback_mm":0`, `{}`, false, false},
	} {
		d := displayOf(t, `{"id":"d","patterns":[{"width_mm":2,"height_mm":2,"rows":{"top":{`+c.figures+`,"trials":[{"thread":"M6","length_mm":1,
			"outcome":"seated"}]}}}],"origins":`+c.origins+`}`)
		d.Complete()
		if got := d.Patterns[0].Holes[0].Recess.Known; got != c.known {
			t.Errorf("%s: a recess is known: %v", c.figures, got)
		}
		if got := d.Patterns[0].Rows.Top.Recess.Known; got != c.written {
			t.Errorf("%s: a recess is written: %v", c.figures, got)
		}
	}
}

// TestOneByOne: rows put on record one by one are judged as they were.
func TestOneByOne(t *testing.T) {
	d := displayOf(t, `{"id":"d","patterns":[{"width_mm":8,"height_mm":8},{"width_mm":200,"height_mm":100,"rows":{"top":{"setback_mm":1},
		"bottom":{"recess_mm":4,"recess_diameter_mm":9}}}],"origins":{"mass_kg":"bench","patterns[1].rows.bottom.recess_mm":"caller"},
		"notes":{"patterns[1].rows.top.setback_mm":{"text":"by hand"}}}`)
	d.Complete()
	was := *d
	d.Patterns = append([]Pattern(nil), d.Patterns...)
	d.OneByOne(1)
	d.Complete()
	if !reflect.DeepEqual(d.Patterns[1].Holes, was.Patterns[1].Holes) || d.Patterns[1].Rows != nil || len(d.Patterns[1].Given) != 4 {
		t.Errorf("%+v, want the holes %+v", d.Patterns[1], was.Patterns[1].Holes)
	}
	want := map[string]Origin{"mass_kg": Bench, "patterns[1].holes[2].recess_mm": Caller, "patterns[1].holes[3].recess_mm": Caller}
	if !reflect.DeepEqual(d.Origins, want) {
		t.Errorf("origins %v", d.Origins)
	}
	for _, path := range []string{"patterns[1].holes[0].setback_mm", "patterns[1].holes[1].setback_mm"} {
		if len(d.Notes) != 2 || d.Notes[path].Text != "by hand" {
			t.Errorf("notes %v", d.Notes)
		}
	}
	if len(was.Origins) != 2 || len(was.Notes) != 1 || was.Patterns[1].Rows == nil {
		t.Errorf("what it shares has changed: %+v", was)
	}
	d.OneByOne(1)
	if len(d.Patterns[1].Given) != 4 {
		t.Error("again")
	}
}

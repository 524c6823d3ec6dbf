package install

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/drawtest"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// TestNames: the figures that a change can choose are those that can be drawn, and each is drawn.
func TestNames(t *testing.T) {
	f, _ := reflect.TypeFor[catalog.StepChange]().FieldByName("Shows")
	if got := f.Tag.Get("enum"); got != strings.Join(Names, ",") {
		t.Errorf("a change can choose of %s, and %v can be drawn", got, Names)
	}
	p := drawtest.Judged(drawtest.Stepped)
	seq := steps.Generate(&p, steps.Site{Wall: "wood_stud"})
	for _, name := range Names {
		seq.Steps = []steps.Step{{Figure: name}}
		if d := Figures(&p, &seq, nil, nil)[name]; d == nil || len(d.Items) == 0 || d.Width() <= 0 || d.Height() <= 0 {
			t.Errorf("%s is not drawn", name)
		}
	}
	if f := (&figures{p: &p, seq: &seq}).draw("ghost"); f != nil {
		t.Error("a figure of nothing")
	}
}

func drawn(t *testing.T, name string) *drawing.Drawing {
	t.Helper()
	p := drawtest.Judged(drawtest.Stepped)
	seq := steps.Generate(&p, steps.Site{Wall: "wood_stud"})
	d := Figures(&p, &seq, nil, nil)[name]
	if d == nil {
		t.Fatalf("no figure %s", name)
	}
	return d
}

// TestToolIsNamed: a tool in the bags is called one, and not what stays in its bag.
func TestToolIsNamed(t *testing.T) {
	p := drawtest.Judged(drawtest.Stepped)
	b := *p.Bracket
	b.Kit = append(slices.Clone(b.Kit), catalog.Item{Kind: catalog.Tool, Name: "hex key 5 mm", Bag: "T", Count: 1})
	p.Bracket = &b
	seq := steps.Generate(&p, steps.Site{Wall: "wood_stud"})
	if got := said(Figures(&p, &seq, nil, nil)["bags"]); !strings.Contains(got, "bag T: tool") {
		t.Error(got)
	}
}

func said(d *drawing.Drawing) string {
	var out []string
	for _, i := range d.Items {
		if s, ok := i.Shape.(drawing.Text); ok {
			out = append(out, s.Text.In(quantity.Metric))
		}
	}
	return strings.Join(out, "\n")
}

// TestExplodedIsInOrder: along the bolt the parts stand as the fingers need them, each as long as it is, and
// tagged with its line of the kit.
func TestExplodedIsInOrder(t *testing.T) {
	p := drawtest.Judged(drawtest.Stepped)
	f := figures{p: &p}
	h := &p.Stack.Groups[1]
	var order []string
	long := 0.0
	for _, x := range f.pieces(h) {
		order = append(order, x.name.In(quantity.Metric))
		long += x.long
	}
	if got := strings.Join(order, ", "); !strings.HasPrefix(got, "washer") || !strings.HasSuffix(got, "arm, spacer 10") {
		t.Error(got)
	}
	if want := (h.UnderHead()).MM(); long-want > 1e-9 || want-long > 1e-9 {
		t.Errorf("the parts are %.3f mm in all, and %.3f mm stand under the head", long, want)
	}
	if got := said(drawn(t, "stack")); !strings.Contains(got, "1: bolt M6×") || !strings.Contains(got, "TL, TR") {
		t.Error(got)
	}
}

// TestGapUnderHead is the figure beside "try the bolts": the head stands off as the text says.
func TestGapUnderHead(t *testing.T) {
	if got := said(drawn(t, "try")); !strings.Contains(got, "gap 4.1") {
		t.Error(got)
	}
}

package studs

import (
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

func TestStudsFromOutlet(t *testing.T) {
	w := &catalog.Wall{Width: quantity.Some(mm(2000)), Outlets: []catalog.Outlet{{X: mm(900), Y: mm(300), Stud: "left"}},
		Studs: &catalog.Studs{Outlet: quantity.Some(0), Spacing: quantity.Some(mm(400)), Width: quantity.Some(mm(38))}}
	// 900 − 28.5 − 19 = 852.5, and every 400 to both sides.
	got := Studs(w, 0)
	if len(got) != 5 || got[0].X != 52_500_000 || got[2].X != 852_500_000 {
		t.Errorf("%+v", got)
	}
	w.Studs.Spacing = quantity.Optional[quantity.Length]{}
	w.Outlets[0].Stud = "right"
	if got := Studs(w, 0); len(got) != 1 || got[0].X != 947_500_000 {
		t.Errorf("%+v", got)
	}
	w.Outlets[0].Stud = ""
	if got := Studs(w, 0); len(got) != 0 {
		t.Errorf("an outlet that does not say where its stud is tells %v", got)
	}
}

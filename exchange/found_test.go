package exchange

import (
	"testing"

	"nexufix/core/catalog"
)

// TestFoundByID: what is indexed is found where it is, in copies with others before it and without it too.
func TestFoundByID(t *testing.T) {
	a, b, c := &catalog.Display{ID: "a"}, &catalog.Display{ID: "b"}, &catalog.Display{ID: "c"}
	all := &Contents{Displays: []*catalog.Display{a, b}, Jobs: []*catalog.Job{{ID: "a"}}}
	all.Indexed()
	if all.Display("a") != a || all.Display("b") != b || all.Display("c") != nil || all.Job("a") == nil || all.Bracket("a") != nil {
		t.Error("not found where they are")
	}
	again := *all
	again.Displays = []*catalog.Display{c, b}
	if again.Display("c") != c || again.Display("b") != b || again.Display("a") != nil {
		t.Error("not found in a copy with others")
	}
	again.Displays = []*catalog.Display{{ID: "a", Model: "changed"}, b}
	if got := again.Display("a"); got == a || got == nil {
		t.Error("a changed one is not the one that was indexed")
	}
}

package catalog

import (
	"reflect"
	"slices"
	"testing"

	"nexufix/core/quantity"
)

// TestEveryWallHasItsAnswers walks the table: a kind of wall that lacks an answer
// fails, and so does a field that is asked of every wall and is not listed here.
func TestEveryWallHasItsAnswers(t *testing.T) {
	// Fields whose zero value is an answer too, with for whom it must not be.
	free := map[string]func(*WallProperties) bool{
		"Base":           func(w *WallProperties) bool { return w.Type != HollowBoard },
		"Studs":          nil,
		"CoveringMax":    nil,
		"CoveringCounts": nil,
		"Cavity":         func(w *WallProperties) bool { return w.Type == LinedMasonry },
		"Backed":         func(w *WallProperties) bool { return w.Holds == Wood },
		"Backing":        func(w *WallProperties) bool { return w.Type == WoodStud },
		"BackingMost":    func(w *WallProperties) bool { return w.Backed },
		"Embedment":      func(w *WallProperties) bool { return w.Holds == Masonry },
		"OldAnchor":      func(w *WallProperties) bool { return w.Holds != Wood },
		"Behind":         func(w *WallProperties) bool { return w.DrawnCavity == 0 },
		"DrawnDepth":     func(w *WallProperties) bool { return w.Behind != "" },
		"DrawnCavity":    func(w *WallProperties) bool { return w.Cavity },
		"Into":           func(w *WallProperties) bool { return w.Holds == Wood },
		"Starter":        nil,
		"Start":          func(w *WallProperties) bool { return w.Starter > 0 },
		"Hammer":         nil,
		"Caution":        func(w *WallProperties) bool { return w.Type != WoodStud },
	}
	if len(Walls) != len(WallTypes) {
		t.Fatalf("%d walls of %d kinds", len(Walls), len(WallTypes))
	}
	ty := reflect.TypeFor[WallProperties]()
	for i := range Walls {
		w := &Walls[i]
		if w.Type != WallTypes[i] {
			t.Errorf("%s stands where %s is listed", w.Type, WallTypes[i])
		}
		for f := range ty.NumField() {
			name := ty.Field(f).Name
			must, may := free[name]
			value := reflect.ValueOf(w).Elem().Field(f)
			empty := value.IsZero() || value.Kind() == reflect.Slice && value.Len() == 0
			if phrase, ok := value.Interface().(quantity.Phrase); ok {
				empty = phrase.Empty()
			}
			if empty && (!may || must != nil && must(w)) {
				t.Errorf("%s has no %s", w.Type, name)
			}
		}
		for _, kind := range w.Usual {
			if !slices.Contains(ItemKinds, kind) || !(&Item{Kind: kind}).MadeFor(w.Type) {
				t.Errorf("the usual %s is not made for %s", kind, w.Type)
			}
		}
	}
}

package quantity

import "testing"

// TestAngleDown: a limit is shown as it is or as less, above and below zero.
func TestAngleDown(t *testing.T) {
	for a, want := range map[Angle]string{36_987_239: "36.98°", 36_990_000: "36.99°", 9_999: "0°", 0: "0°", -1: "-0.01°", -10_000: "-0.01°"} {
		if got := a.Down().String(); got != want {
			t.Errorf("%d: %s, wanted %s", a, got, want)
		}
	}
}

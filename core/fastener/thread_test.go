package fastener

import (
	"testing"

	"nexufix/core/quantity"
)

func mm(f float64) quantity.Length { return quantity.FromMM(f) }

// TestThreadTables compares the tables with the standards' values, entered
// here a second time and in another way: ISO 261 pitches; ISO 965-1
// deviations, from which the limits are computed (all from memory).
func TestThreadTables(t *testing.T) {
	for _, c := range []struct {
		thread             Thread
		d, pitch           float64
		es, td             float64 // ISO 965-1: upper deviation g, tolerance Td of the major diameter, grade 6
		minor, td1         float64 // ISO 724 basic minor diameter D1, ISO 965-1 tolerance TD1, grade 6
		washer, washerWide float64 // ISO 7089
		large, largeWide   float64 // ISO 7093-1
		clearance, head    float64 // ISO 273 medium, ISO 7045
	}{
		{M4, 4, 0.7, 0.022, 0.140, 3.242, 0.180, 0.8, 9, 1, 12, 4.5, 3.1},
		{M5, 5, 0.8, 0.024, 0.150, 4.134, 0.200, 1, 10, 1, 15, 5.5, 3.7},
		{M6, 6, 1, 0.026, 0.180, 4.917, 0.236, 1.6, 12, 1.6, 18, 6.6, 4.6},
		{M8, 8, 1.25, 0.028, 0.212, 6.647, 0.265, 1.6, 16, 2, 24, 9, 6},
	} {
		s := c.thread.Standard()
		same := func(what string, got quantity.Length, want float64) {
			if got != mm(want) {
				t.Errorf("%s %s: %s, want %g mm", c.thread, what, got, want)
			}
		}
		same("diameter", s.Nominal, c.d)
		same("pitch", s.Pitch, c.pitch)
		same("largest major diameter", s.BoltMajor.Max, c.d-c.es)
		same("smallest major diameter", s.BoltMajor.Min, c.d-c.es-c.td)
		same("smallest minor diameter", s.HoleMinor.Min, c.minor)
		same("largest minor diameter", s.HoleMinor.Max, c.minor+c.td1)
		same("washer", s.Washer.Thickness, c.washer)
		same("washer's width", s.Washer.Outer, c.washerWide)
		same("large washer", s.LargeWasher.Thickness, c.large)
		same("large washer's width", s.LargeWasher.Outer, c.largeWide)
		same("clearance hole", s.ClearanceHole, c.clearance)
		same("head", s.PanHeadHeight, c.head)
		// ISO 724: D1 = d − 1.0825 P, to a thousandth.
		if want := mm(c.d - 1.082532*c.pitch).Round(quantity.Micrometre); (s.HoleMinor.Min - want).Abs() > quantity.Micrometre {
			t.Errorf("%s minor diameter %s is not d − 1.0825 P = %s", c.thread, s.HoleMinor.Min, want)
		}
	}
	if M5.Standard().BoltMajor.Max <= M6.Standard().HoleMinor.Min {
		t.Error("an M5 bolt can catch in an M6 hole: 4.976 against 4.917")
	}
}

// TestLengthTolerance compares with js15 as ISO 286-1 gives it: half of IT15
// (memory): 0.48 above 3 to 6, 0.58 to 10, 0.70 to 18, 0.84 to 30, 1.00 to
// 50, 1.20 to 80, 1.40 to 120.
func TestLengthTolerance(t *testing.T) {
	for _, c := range []struct{ length, it15 float64 }{
		{6, 0.48}, {6.5, 0.58}, {10, 0.58}, {12, 0.70}, {16, 0.70}, {20, 0.84}, {30, 0.84}, {35, 1}, {50, 1}, {55, 1.2}, {80, 1.2}, {100, 1.4},
	} {
		if got := LengthTolerance(mm(c.length)); got != mm(c.it15/2) {
			t.Errorf("%g: %s, want %g", c.length, got, c.it15/2)
		}
	}
}

func TestSuppliedLengths(t *testing.T) {
	for _, c := range []struct {
		thread      Thread
		first, last int64
		count       int
	}{{M4, 6, 40, 10}, {M5, 8, 50, 11}, {M6, 10, 60, 12}, {M8, 12, 80, 14}} {
		got := c.thread.SuppliedLengths()
		if len(got) != c.count || got[0] != quantity.MM(c.first) || got[len(got)-1] != quantity.MM(c.last) {
			t.Errorf("%s: %v", c.thread, got)
		}
	}
}

func TestParseThread(t *testing.T) {
	for _, x := range Threads {
		if got, err := ParseThread(" " + x.String() + " "); err != nil || got != x {
			t.Error(got, err)
		}
	}
	for _, s := range []string{"", "M3", "M6x1", "6"} {
		if got, err := ParseThread(s); err == nil {
			t.Errorf("%q was taken as %s", s, got)
		}
	}
	if Thread(99).String() != "" || Thread(99).Standard() != (Standard{}) {
		t.Error("an unknown thread has no name and no table")
	}
}

func TestWasherTolerance(t *testing.T) {
	if got := M8.WasherTolerance(mm(2)); got != mm(0.2) {
		t.Error(got)
	}
	if got := M4.WasherTolerance(mm(3)); got != mm(0.1) {
		t.Errorf("a washer of another thickness is as ISO 7089, not %s", got)
	}
}

// TestInterfaceClass compares with the flat-display mounting standard (VESA
// FDMI, 2006, memory).
func TestInterfaceClass(t *testing.T) {
	for _, c := range []struct {
		w, h int64
		kg   float64
		any  Thread
	}{
		{50, 20, 2, M4}, {75, 35, 4.5, M4}, {75, 75, 8, M4}, {100, 100, 14, M4}, {200, 100, 22.7, M4},
		{200, 200, 113.6, M6}, {400, 200, 113.6, M8}, {800, 400, 113.6, M6},
	} {
		got, ok := InterfaceClass(quantity.MM(c.w), quantity.MM(c.h))
		if !ok || got.MaxMass.Kilograms() != c.kg {
			t.Errorf("%d × %d: %v %v", c.w, c.h, got, ok)
		}
		found := false
		for _, x := range got.Threads {
			found = found || x == c.any
		}
		if !found {
			t.Errorf("%d × %d should take %s: %v", c.w, c.h, c.any, got.Threads)
		}
	}
	for _, c := range [][2]int64{{300, 300}, {0, 0}, {100, 75}, {200, 300}} {
		if _, ok := InterfaceClass(quantity.MM(c[0]), quantity.MM(c[1])); ok {
			t.Errorf("%v has no class", c)
		}
	}
}

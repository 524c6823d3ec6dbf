// Package fastener holds the standards' tables that the bolt stack stands on:
// metric coarse threads M4 to M8, washers, clearance holes, nominal lengths
// and their tolerances, and the flat-display mounting-interface classes.
//
// Every table names its source. A value marked "memory" is a published value
// written down from memory and is to be checked against the document.
package fastener

import (
	"fmt"
	"strings"

	"nexufix/core/quantity"
)

// Thread is a metric coarse thread. The zero value is an unknown thread.
type Thread uint8

// The threads that displays and brackets use.
const (
	NoThread Thread = iota
	M4
	M5
	M6
	M8
)

// Threads lists the known threads from small to large.
var Threads = []Thread{M4, M5, M6, M8}

// Disc is a washer: thickness, its tolerance to either side, outer diameter.
type Disc struct{ Thickness, Tolerance, Outer quantity.Length }

// Standard is what the standards fix for one thread.
type Standard struct {
	Nominal       quantity.Length // nominal diameter d
	Pitch         quantity.Length // ISO 261 coarse
	BoltMajor     Interval        // major diameter limits 6g, ISO 965 (memory)
	HoleMinor     Interval        // minor diameter limits 6H, ISO 965 (memory)
	Washer        Disc            // ISO 7089
	LargeWasher   Disc            // ISO 7093-1
	ClearanceHole quantity.Length // ISO 273, medium series
	PanHeadHeight quantity.Length // ISO 7045
	HeadDiameter  quantity.Length // ISO 7045 pan head, nominal maximum (memory); drawn, never computed with
	Supplied      Interval        // bolt lengths the trade stocks (practice)
}

func um(n int64) quantity.Length { return quantity.Length(n) * quantity.Micrometre }

func between(lo, hi int64) Interval { return Interval{um(lo), um(hi)} }

func disc(thick, tol, outer int64) Disc { return Disc{um(thick), um(tol), um(outer)} }

var standards = [...]Standard{
	M4: {um(4000), um(700), between(3838, 3978), between(3242, 3422), disc(800, 100, 9000), disc(1000, 100, 12000), um(4500), um(3100),
		um(8000), between(6000, 40000)},
	M5: {um(5000), um(800), between(4826, 4976), between(4134, 4334), disc(1000, 100, 10000), disc(1000, 100, 15000), um(5500), um(3700),
		um(9500), between(8000, 50000)},
	M6: {um(6000), um(1000), between(5794, 5974), between(4917, 5153), disc(1600, 200, 12000), disc(1600, 200, 18000), um(6600), um(4600),
		um(12000), between(10000, 60000)},
	M8: {um(8000), um(1250), between(7760, 7972), between(6647, 6912), disc(1600, 200, 16000), disc(2000, 200, 24000), um(9000), um(6000),
		um(16000), between(12000, 80000)},
}

// Standard gives the tables of a thread. An unknown thread has the zero
// Standard.
func (t Thread) Standard() Standard {
	if int(t) >= len(standards) {
		return Standard{}
	}
	return standards[t]
}

var names = [...]string{NoThread: "", M4: "M4", M5: "M5", M6: "M6", M8: "M8"}

// String is the thread's designation, "M6", or "" for an unknown thread.
func (t Thread) String() string {
	if int(t) >= len(names) {
		return ""
	}
	return names[t]
}

// MarshalText writes the designation.
func (t Thread) MarshalText() ([]byte, error) { return []byte(t.String()), nil }

// UnmarshalText reads what [ParseThread] reads.
func (t *Thread) UnmarshalText(text []byte) (err error) {
	*t, err = ParseThread(string(text))
	return err
}

// Enum lists the designations for the format's reader and schema.
func (Thread) Enum() []any { return []any{"M4", "M5", "M6", "M8"} }

// ParseThread reads a designation: "M6", "m6". The error lists what is known.
func ParseThread(s string) (Thread, error) {
	for _, t := range Threads {
		if strings.EqualFold(strings.TrimSpace(s), t.String()) {
			return t, nil
		}
	}
	return NoThread, fmt.Errorf("%q is not a known thread; allowed: M4, M5, M6, M8", s)
}

// NominalLengths are the bolt lengths of ISO 888 (memory), rising.
var NominalLengths = func() []quantity.Length {
	var all []quantity.Length
	for _, n := range []int64{6, 8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80} {
		all = append(all, quantity.MM(n))
	}
	return all
}()

// SuppliedLengths are the nominal lengths the trade stocks for a thread
// (practice), rising.
func (t Thread) SuppliedLengths() []quantity.Length {
	var out []quantity.Length
	for _, l := range NominalLengths {
		if t.Standard().Supplied.Holds(l) {
			out = append(out, l)
		}
	}
	return out
}

// LengthTolerance is how far a bolt's length may be from its nominal length
// to either side: js15, ISO 4759-1 with ISO 286-1 (memory).
func LengthTolerance(l quantity.Length) quantity.Length {
	switch mm := quantity.MM; {
	case l <= mm(6):
		return um(240)
	case l <= mm(10):
		return um(290)
	case l <= mm(18):
		return um(350)
	case l <= mm(30):
		return um(420)
	case l <= mm(50):
		return um(500)
	case l <= mm(80):
		return um(600)
	}
	return um(700)
}

// WasherTolerance is how far a washer's thickness may be from its nominal
// thickness: that of the standard washer it is, else as ISO 7089.
func (t Thread) WasherTolerance(thickness quantity.Length) quantity.Length {
	s := t.Standard()
	if thickness == s.LargeWasher.Thickness && thickness != s.Washer.Thickness {
		return s.LargeWasher.Tolerance
	}
	return s.Washer.Tolerance
}

package fit

import (
	"math"
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// conservative returns a display for judging: of figures that contradict each other,
// the more favourable ones are dropped. The data rule names
// them. A display whose figures agree is returned unchanged.
func conservative(d *catalog.Display) *catalog.Display {
	out := *d
	changed := false
	if weighs := weight(d); weighs != d.Mass {
		out.Mass, changed = weighs, true
	}
	if out.Mass.Known && d.OriginOf("mass_kg") == catalog.Caller && !d.MassDoubted {
		out.Mass.Value += out.Mass.Value * 3 / 10 // what a caller tells of a mass is a guess (practice)
		out.MassDoubted, changed = true, true
	}
	if d.Depth.Known && d.RestPlaneFromFront.Value > d.Depth.Value {
		out.Depth, changed = d.RestPlaneFromFront, true
	}
	if outline, known := outlineDiagonal(d); known && d.Diagonal.Known && !diagonalOf(d.Diagonal.Value.MM(), outline) {
		out.OtherDiagonal, changed = quantity.Some(quantity.FromMM(outline)), true
	}
	inside := behindFront(d)
	for i := range d.Zones {
		if inside.Known && d.Zones[i].Setback.Value > inside.Value {
			if &out.Zones[0] == &d.Zones[0] {
				out.Zones = slices.Clone(d.Zones)
			}
			out.Zones[i].Setback, changed = quantity.Some(quantity.Length(0)), true
		}
	}
	for i := range d.Patterns {
		if h, deep := tooDeep(d, &d.Patterns[i]); h != nil {
			if &out.Patterns[0] == &d.Patterns[0] {
				out.Patterns = slices.Clone(d.Patterns)
			}
			p := &out.Patterns[i]
			p.Contradictions = append(slices.Clone(p.Contradictions),
				catalog.Contradiction{Holes: []string{h.ID}, Text: deeper(h, deep, inside.Value)})
			changed = true
		}
	}
	if !changed {
		return d
	}
	return &out
}

// weight returns the mass that a display is judged with: a mass that no display of its
// size has, or that leaves too much for a stand, is unknown; with its stand it
// weighs no less than without.
func weight(d *catalog.Display) quantity.Optional[quantity.Mass] {
	switch {
	case !d.Mass.Known || !tooLight(d, d.Mass.Value) && !mostlyStand(d):
		return d.Mass
	case d.MassWithStand.Known && !tooLight(d, d.MassWithStand.Value):
		return quantity.Some(max(d.Mass.Value, d.MassWithStand.Value))
	}
	return quantity.Optional[quantity.Mass]{}
}

// lightest is less than any display weighs, in kg a square metre (practice).
const lightest = 2

func tooLight(d *catalog.Display, m quantity.Mass) bool {
	return d.Width.Known && d.Height.Known && m.Kilograms()*1e6 < lightest*d.Width.Value.MM()*d.Height.Value.MM()
}

// mostlyStand reports whether two thirds of a display's mass would be its stand (practice).
func mostlyStand(d *catalog.Display) bool {
	return d.Mass.Known && d.MassWithStand.Known && 3*d.Mass.Value < d.MassWithStand.Value
}

// outlineDiagonal returns the diagonal of the outline, in mm; false if it is not known.
func outlineDiagonal(d *catalog.Display) (float64, bool) {
	return math.Hypot(d.Width.Value.MM(), d.Height.Value.MM()), d.Width.Known && d.Height.Known
}

// diagonalOf reports whether a screen's diagonal agrees with that of the
// outline: no longer, and no shorter than 85 % of it.
func diagonalOf(mm, outline float64) bool { return mm <= outline && mm >= 0.85*outline }

// behindFront returns how far the rest plane lies behind the display's front; of two
// contradicting figures the smaller.
func behindFront(d *catalog.Display) quantity.Optional[quantity.Length] {
	if r := d.RestPlaneFromFront; r.Known && !(d.Depth.Known && d.Depth.Value < r.Value) {
		return r
	}
	return d.Depth
}

// tooDeep returns the first hole of a pattern that would end in front of the
// display's front, and its depth; nil if there is none.
func tooDeep(d *catalog.Display, p *catalog.Pattern) (*catalog.Hole, quantity.Length) {
	thick := behindFront(d)
	if !thick.Known {
		return nil, 0
	}
	for i := range p.Holes {
		h := &p.Holes[i]
		deep := h.Recess.Length + h.ThreadDepth.Length
		if h.Probed != nil {
			deep = h.Probed.Depth.Low
		}
		if deep += h.Setback.Length; deep > thick.Value {
			return h, deep
		}
	}
	return nil, 0
}

func deeper(h *catalog.Hole, deep, thick quantity.Length) quantity.Phrase {
	return quantity.Say("At %v the hole ends %v in, deeper than the display, %v.", h.ID, deep, thick)
}

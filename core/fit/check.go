// Package fit judges a pairing: one display, hung with a turn, on one
// bracket. Rules are independent: none is skipped because another failed.
//
// A rule is one value with a file of its own, in the list of [Rules]. It judges to a [Finding]: what was compared, the value, the limit
// and the margin; and, when somebody reads it ([Pairing.Words]), to a [Check] with a sentence and, if there is one, a remedy.
//
// [Judge] judges one pairing. [Grid.Matrix] judges many displays on many brackets to a [Cell] each,
// [Rows] to all their findings in the order of the displays. [Improve] looks for one change that would
// help.
package fit

import (
	"slices"

	"nexufix/core/quantity"
)

// Status is the outcome of one rule.
type Status uint8

// In rising order of consequence. A note is worth reading and changes no verdict.
const (
	Pass Status = iota
	Note
	Caution
	Unknown
	Fail
)

// String is the status in the exchange format.
func (s Status) String() string { return [...]string{"pass", "note", "caution", "unknown", "fail"}[s] }

// Statuses lists the statuses by name, in the order of the constants.
var Statuses = []string{"pass", "note", "caution", "unknown", "fail"}

// Unit is the unit of a measure, which counts in nanometres, micrograms or millionths of a
// degree.
type Unit string

// The units of measures, as the exchange format names them.
const (
	MM  Unit = "mm"
	KG  Unit = "kg"
	Deg Unit = "deg"

	NM Unit = "nm" // newton metres, in millionths

	// Percent counts in millionths of a hundredth, Holes in millionths of one,
	// People in millionths of one.
	Percent Unit = "%"
	Holes   Unit = "holes"
)

// Measure is a value and its (nearer) limit. Margin is negative if the
// limit is not met. The zero Measure means that nothing was measured.
type Measure struct {
	Value, Limit, Margin int64
	Unit                 Unit
	AtLeast              bool // the limit is a lower limit
	Coarse               bool // shown in 16ths of an inch, not in 64ths
}

// atMost measures a value that must not exceed a limit.
func atMost[T ~int64](value, limit T, u Unit) Measure {
	return Measure{int64(value), int64(limit), int64(limit - value), u, false, false}
}

// atLeast measures a value that must reach a limit.
func atLeast[T ~int64](value, limit T, u Unit) Measure {
	return Measure{int64(value), int64(limit), int64(value - limit), u, true, false}
}

// AtMost measures a length that must not exceed a limit.
func AtMost(value, limit quantity.Length) Measure { return atMost(value, limit, MM) }

// AtLeast measures a length that must reach a limit.
func AtLeast(value, limit quantity.Length) Measure { return atLeast(value, limit, MM) }

// Given reports whether something was measured.
func (m Measure) Given() bool { return m.Unit != "" }

// In writes value and limit on one line, both rounded the safe way.
func (m *Measure) In(u quantity.Units) string { return string(m.AppendIn(nil, u)) }

// Words are they as a sentence.
func (m *Measure) Words() quantity.Phrase {
	says := "%v · at most %v"
	value, limit := quantity.Up, quantity.Down
	if m.AtLeast {
		says, value, limit = "%v · at least %v", quantity.Down, quantity.Up
	}
	either := func(n int64, b quantity.Bound) quantity.Either {
		return quantity.Either{Metric: string(m.show(nil, n, b, quantity.Metric)), Imperial: string(m.show(nil, n, b, quantity.Imperial))}
	}
	return quantity.Say(says, either(m.Value, value), either(m.Limit, limit))
}

// AppendIn appends them.
func (m *Measure) AppendIn(out []byte, u quantity.Units) []byte {
	value, limit, word := quantity.Up, quantity.Down, "at most"
	if m.AtLeast {
		value, limit, word = quantity.Down, quantity.Up, "at least"
	}
	out = append(append(m.show(out, m.Value, value, u), " · "...), word...)
	return m.show(append(out, ' '), m.Limit, limit, u)
}

func (m *Measure) show(out []byte, n int64, b quantity.Bound, u quantity.Units) []byte {
	switch m.Unit {
	case KG:
		return u.AppendMass(out, quantity.Mass(n), b)
	case Percent:
		return append(quantity.AppendDecimal(out, roundHundredths(n, b), 0), " %"...)
	case Deg:
		return u.AppendAngle(out, quantity.Angle(n).Degrees())
	case Holes:
		return quantity.AppendDecimal(out, n, 6)
	case NM:
		return append(out, tenths(quantity.Torque(n))...)
	}
	return u.AppendShown(out, quantity.Shown{Length: quantity.Length(n), Bound: b, Coarse: m.Coarse})
}

func roundHundredths(n int64, b quantity.Bound) int64 {
	if b == quantity.Up {
		return (n + 999_999) / 1_000_000
	}
	return n / 1_000_000
}

// ShareAtMost measures a share in hundredths that must not exceed 100.
func ShareAtMost(hundredths float64) Measure {
	n := int64(min(hundredths, 1e6) * 1e6)
	return Measure{n, 100_000_000, 100_000_000 - n, Percent, false, false}
}

// Finding is what a rule found, in figures.
type Finding struct {
	Rule    RuleID
	Status  Status
	Measure Measure // none where the rule compares no figure

}

// Check is a finding in words. They are made when somebody reads it, by [Pairing.Words].
type Check struct {
	Finding
	Text   quantity.Phrase
	Remedy quantity.Phrase
	Marks  []string // tags of the drawing's parts that the check is about; shared, not to be changed

	inWords bool // text and remedy are wanted: where they are not, making them would take longer than judging
}

// Printed reports whether a check is for the installer too: every condition, and of the notes how far the display moves.
func (c *Check) Printed() bool {
	return c.Status > Note || c.Status == Note && (c.Rule == TiltRule || c.Rule == SwivelRule)
}

// Same reports whether two checks are written the same.
func (c *Check) Same(o *Check) bool {
	return c.Finding == o.Finding && c.Text.Same(o.Text) && c.Remedy.Same(o.Remedy) && slices.Equal(c.Marks, o.Marks)
}

// Sentences joins the text and the remedy, if there is one.
func (c *Check) Sentences() quantity.Phrase {
	if c.Remedy.Empty() {
		return c.Text
	}
	return quantity.Say("%v %v", c.Text, c.Remedy)
}

// Blocks reports whether it leaves the verdict open where it is not known.
func (f *Finding) Blocks() bool { return aboutOf(f.Rule).Blocks }

// Severity is what it costs to be wrong about it: 1 is the worst.
func (f *Finding) Severity() int { return aboutOf(f.Rule).Severity }

// Verdict sums up a pairing.
type Verdict string

// From best to worst.
const (
	Fits               Verdict = "fits"
	FitsWithConditions Verdict = "fits_with_conditions"
	MissingData        Verdict = "missing_data"
	DoesNotFit         Verdict = "does_not_fit"
)

// Verdicts lists the verdicts from best to worst.
var Verdicts = []Verdict{Fits, FitsWithConditions, MissingData, DoesNotFit}

// verdict is does_not_fit on any fail, else missing_data on an unknown that
// matters, else fits_with_conditions on any caution, any other unknown or any
// supplied part, else fits: every rule passes, some with a note.
func verdict(findings []Finding, supplied bool) Verdict {
	v := Fits
	if supplied {
		v = FitsWithConditions
	}
	for i := range findings {
		c := &findings[i]
		switch {
		case c.Status == Fail:
			return DoesNotFit
		case c.Status == Unknown && c.Blocks():
			v = MissingData
		case c.Status > Note && v == Fits:
			v = FitsWithConditions
		}
	}
	return v
}

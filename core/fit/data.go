package fit

import (
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// DataRule: what a display's figures say of each other. It looks at the display alone, and is judged once for all brackets.
const DataRule RuleID = "data"

var dataRule = pairingRule{About: About{ID: DataRule, Never: map[Status]string{Fail: "odd figures are a reason to check, never a " +
	"failed match", Unknown: "what is not known cannot disagree"}, Name: "Figures", Severity: 16, Step: "unpack"},
	Judge: func(p *Pairing, c *Check) { c.Status, c.Text, c.Remedy = p.data.Status, p.data.Text, p.data.Remedy }}

// dataCheck compares a display's figures with each other and with the
// class table of the mounting-interface standard. A disagreement is a
// reason to check a figure, never a failed match; a pattern that is in common use all the same is a note (practice).
func dataCheck(d *catalog.Display) Check {
	c := Check{Finding: Finding{Rule: DataRule}, Text: quantity.Say("The display's figures agree with each other.")}
	var odd, usual []quantity.Phrase
	note := func(format string, args ...any) { usual = append(usual, quantity.Say(format, args...)) }
	add := func(format string, args ...any) { odd = append(odd, quantity.Say(format, args...)) }
	if d.Mass.Known && d.MassWithStand.Known && d.Mass.Value > d.MassWithStand.Value {
		add("Without its stand it is heavier, %v, than with it, %v: swapped?", d.Mass.Value, d.MassWithStand.Value)
	}
	if mostlyStand(d) {
		add("Without its stand it weighs %v, with it %v: a stand is lighter than that.", d.Mass.Value, d.MassWithStand.Value)
	}
	if d.Mass.Known && tooLight(d, d.Mass.Value) {
		add("%v is less than a display of its size weighs.", d.Mass.Value)
	}
	if low, high, odd := oddDensity(d); odd {
		add("%v is unusual for its size: such displays weigh %v to %v.", d.Mass.Value, quantity.Capacity(low), quantity.Capacity(high))
	}
	if d.Depth.Known && d.Diagonal.Known && 4*d.Depth.Value > d.Diagonal.Value {
		add("It is %v deep: more than a quarter of its diagonal.", d.Depth.Value)
	}
	if d.RestPlaneFromFront.Known && d.Depth.Known && d.RestPlaneFromFront.Value > d.Depth.Value {
		add("Its back is farther from its front, %v, than it is deep, %v.", d.RestPlaneFromFront.Value, d.Depth.Value)
	}
	if d.Width.Known && d.CGRight.Abs() > d.Width.Value/2 || d.Height.Known && d.CGAboveCenter.Abs() > d.Height.Value/2 {
		add("Its centre of gravity lies outside it.")
	}
	diagonalAgrees(d, add)
	for _, x := range d.Patterns {
		if h, deep := tooDeep(d, &x); h != nil {
			odd = append(odd, deeper(h, deep, behindFront(d).Value))
		}
		patternAgrees(d, &x, add, note)
	}
	zonesAgree(d, add)
	if odd == nil && usual == nil {
		return c
	}
	c.Status = Caution
	if odd == nil {
		c.Status, odd = Note, usual
	}
	c.Text = odd[0]
	for _, o := range odd[1:] {
		c.Text = quantity.Say("%v %v", c.Text, o)
	}
	if c.Status == Caution {
		c.Remedy = quantity.Say("Check this against the data sheet, or measure.")
	}
	return c
}

// zonesAgree adds what cannot be right about where zones are, and over holes.
func zonesAgree(d *catalog.Display, add func(string, ...any)) {
	for i := range d.Zones {
		z := &d.Zones[i]
		if beyond(d.Width, z.X.Abs()-z.Width/2) || beyond(d.Height, z.Y.Abs()-z.Height/2) {
			add("Its %v at %v, %v is beside it, not on its back.", z.Kind, z.X, z.Y)
		}
		if id := holeUnder(d, z); id != "" {
			add("Its %v at %v, %v lies over hole %v: no bolt gets there.", z.Kind, z.X, z.Y, id)
		}
		if h := shallowIn(d, z); h != nil {
			add("Hole %v lies %v in, and the pocket around it is %v deep: does it stand on a boss?", h.ID, h.Setback.Length, z.Depth.Value)
		}
		in := max(z.Setback.Value, z.Depth.Value)
		if thick := behindFront(d); thick.Known && in > thick.Value {
			add("Its %v at %v, %v lies %v in, deeper than the display, %v.", z.Kind, z.X, z.Y, in, thick.Value)
		}
	}
}

// shallowIn returns a hole in a pocket that is said to lie much less deep than that; nil if there is none.
func shallowIn(d *catalog.Display, z *catalog.Zone) *catalog.Hole {
	if z.Kind != "pocket" || !z.Depth.Known {
		return nil
	}
	for i := range d.Patterns {
		x, y := d.PatternCenter(&d.Patterns[i], 0)
		for n := range d.Patterns[i].Holes {
			h := &d.Patterns[i].Holes[n]
			if x.Known && y.Known && 2*(x.Value+h.X-z.X).Abs() < z.Width && 2*(y.Value+h.Y-z.Y).Abs() < z.Height &&
				h.Setback.Known && h.Setback.Length+recessDoubt < z.Depth.Value {
				return h
			}
		}
	}
	return nil
}

// holeUnder returns a hole that something on the back, which no bolt goes through, lies over; "" if there is none.
func holeUnder(d *catalog.Display, z *catalog.Zone) string {
	if z.Kind != "port" && z.Kind != "protrusion" {
		return ""
	}
	for i := range d.Patterns {
		x, y := d.PatternCenter(&d.Patterns[i], 0)
		for _, h := range d.Patterns[i].Holes {
			if x.Known && y.Known && 2*(x.Value+h.X-z.X).Abs() < z.Width && 2*(y.Value+h.Y-z.Y).Abs() < z.Height {
				return h.ID
			}
		}
	}
	return ""
}

// policyCheck adds that a policy is laxer than the defaults: that is a condition of every verdict.
func policyCheck(policy *catalog.Policy, c *Check) {
	lax := policy.Laxer()
	if lax == nil {
		return
	}
	text := quantity.Say("The company's policy is laxer than common practice: %v.", strings.Join(lax, ", "))
	if c.Status > Pass {
		text = quantity.Say("%v %v", text, c.Text)
	}
	c.Status, c.Text = Caution, text
	c.Remedy = quantity.Say("Have it judged by who answers for it.")
}

// DataCheck returns the finding of the data rule for a display.
func DataCheck(d *catalog.Display) Check { return dataCheck(d) }

func diagonalAgrees(d *catalog.Display, add func(string, ...any)) {
	if !d.Diagonal.Known || !d.Width.Known || !d.Height.Known {
		return
	}
	outline, _ := outlineDiagonal(d)
	diagonal := d.Diagonal.Value.MM()
	switch {
	case diagonalOf(diagonal, outline):
	case diagonalOf(diagonal*25.4, outline):
		add("A diagonal of %v looks like inches typed as millimetres.", d.Diagonal.Value)
	case diagonal > outline:
		add("The diagonal, %v, is longer than the outline's, %v.", d.Diagonal.Value, quantity.FromMM(outline))
	default:
		add("The diagonal, %v, is below 85 %% of the outline's, %v.", d.Diagonal.Value, quantity.FromMM(outline))
	}
}

// beyond reports whether something is farther from the middle than half of a size.
func beyond(size quantity.Optional[quantity.Length], from quantity.Length) bool {
	return size.Known && 2*from > size.Value
}

// inUse are patterns that displays have though the standard does not (practice).
var inUse = [][2]int64{{300, 200}, {300, 300}, {400, 300}, {500, 400}}

func patternAgrees(d *catalog.Display, x *catalog.Pattern, add, note func(string, ...any)) {
	name := patternName(x.Width, x.Height)
	larger := d.Width.Known && x.Width > d.Width.Value || d.Height.Known && x.Height > d.Height.Value
	if larger {
		add("The pattern %v is larger than the display.", name)
	}
	cx, cy := d.PatternCenter(x, 0)
	for _, h := range x.Holes {
		if !larger && (beyond(d.Width, (cx.Value+h.X).Abs()) || cy.Known && beyond(d.Height, (cy.Value+h.Y).Abs())) {
			add("Hole %v of %v is beside it, not on its back.", h.ID, name)
			break
		}
	}
	if h, off := besideCorner(x); h != nil {
		add("Hole %v lies %v beside the corner of %v.", h.ID, quantity.AtMost(off), name)
	}
	for _, h := range x.Holes {
		if depth := h.ThreadDepth; depth.Known && depth.Length <= quantity.Millimetre*3/2 {
			add("At %v a thread depth of %v looks like inches typed as millimetres.", h.ID, depth.Length)
			break
		}
	}
	class, ok := fastener.InterfaceClass(x.Width, x.Height)
	common := slices.ContainsFunc(inUse, func(p [2]int64) bool { return x.Width == quantity.MM(p[0]) && x.Height == quantity.MM(p[1]) })
	switch {
	case !ok && common:
		note("%v is in common use, though the mounting-interface standard does not have it.", name)
	case ok && x.Thread == fastener.M4 && x.Width == quantity.MM(200) && x.Height == quantity.MM(200) && d.Mass.Known &&
		d.Mass.Value <= lightWithM4:
		note("%v displays have %v, this one %v, as light ones often do.", name, threadList(class.Threads, " or "), x.Thread)
	case !ok:
		add("%v is no pattern of the mounting-interface standard.", name)
	case x.Thread != 0 && !slices.Contains(class.Threads, x.Thread):
		add("%v displays have %v, this one %v.", name, threadList(class.Threads, " or "), x.Thread)
	case d.Mass.Known && d.Mass.Value > class.MaxMass:
		add("%v displays weigh up to %v, this one %v.", name, quantity.Capacity(class.MaxMass), d.Mass.Value)
	}
}

// besideCorner returns the hole that lies farthest beside a corner of its pattern that it is taken for, and how far; nil if all are
// where they belong. Half of an odd number of nanometres (an odd number of 1/64 in) cannot be written.
func besideCorner(x *catalog.Pattern) (at *catalog.Hole, off quantity.Length) {
	for i := range x.Holes {
		h := &x.Holes[i]
		for _, w := range [2]quantity.Length{-x.Width, x.Width} {
			for _, y := range [2]quantity.Length{-x.Height, x.Height} {
				far := max((2*h.X-w).Abs(), (2*h.Y-y).Abs()) / 2
				if catalog.Half(h.X, w) && catalog.Half(h.Y, y) && far > off {
					at, off = h, far
				}
			}
		}
	}
	return at, off
}

// lightWithM4 is up to what mass displays of 200 × 200 have M4 (practice).
const lightWithM4 = 14 * quantity.Kilogram

// What displays weigh for their outline, in kg a square metre; 40 in and more in the narrower range (practice).
const (
	leastDensity, mostDensity           = 7, 60
	leastLargeDensity, mostLargeDensity = 12, 40
	large                               = 40 * quantity.Inch
)

// oddDensity returns what a display of its outline weighs, and whether this one does not.
func oddDensity(d *catalog.Display) (least, most quantity.Mass, odd bool) {
	if !d.Mass.Known || !d.Width.Known || !d.Height.Known {
		return 0, 0, false
	}
	square := d.Width.Value.MM() * d.Height.Value.MM() / 1e6
	lo, hi := float64(leastDensity), float64(mostDensity)
	if d.Diagonal.Known && d.Diagonal.Value >= large {
		lo, hi = leastLargeDensity, mostLargeDensity
	}
	kg := d.Mass.Value.Kilograms()
	of := func(density float64) quantity.Mass {
		return quantity.Mass(density * square * float64(quantity.Kilogram))
	}
	return of(lo), of(hi), kg < lo*square || kg > hi*square
}

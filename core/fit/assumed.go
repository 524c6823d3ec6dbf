package fit

import (
	"strconv"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Assumed is a figure that nobody has said, what it is taken for, and how far it may be off before the answer
// changes.
type Assumed struct {
	Path  string // in the display's document; accessories_kg is of the request
	Value int64  // as a measure has it, in the unit
	Holds int64  // up to this nothing changes
	Unit  Unit
	Text  quantity.Phrase
}

// Assumed lists what the verdict stands on though nobody has said it. How far a recess or a rim may be off comes with
// the stack (see stack.HoleStack); the rest follows from the rules' own limits. A margin below the doubt that is usual
// for a figure is a caution of its rule.
func (p *Pairing) Assumed() []Assumed {
	var out []Assumed
	if p.Stack != nil {
		for i := range p.Stack.Groups {
			out = append(out, p.assumedAt(i)...)
		}
	}
	ports := false
	for i := range p.Display.Zones {
		ports = ports || p.Display.Zones[i].Kind == "port"
	}
	if room, known := p.roomForPlugs(); known && !ports {
		room = max(0, room)
		out = append(out, Assumed{"zones", 0, int64(room), MM, quantity.Say("No port on record: %v of room for plugs.", quantity.AtLeast(room))})
	}
	if p.Extra.Accessories == 0 && p.status(judgeLoad) == Pass {
		l := p.load()
		if room := p.Policy.LoadCaution.OfMass(l.rated) - l.mass; room > 0 {
			out = append(out, Assumed{Path: AccessoriesPath, Unit: KG}.UpTo(Margin(int64(room), MassStep, p.carries)))
		}
	}
	if p.Display.CGRight == 0 && p.Display.CGAboveCenter == 0 {
		if i := p.Check(BalanceRule); i.Status == Pass && i.Measure.Given() {
			out = append(out, Assumed{Path: AsidePath(p.Turn), Unit: MM}.UpTo(i.Measure.Margin))
		}
	}
	return out
}

// What is assumed of a pairing that matters on its wall as well, and the steps in which a margin is looked for.
const (
	AccessoriesPath = "accessories_kg"
	cgRight         = "cg_right_mm"
	cgAbove         = "cg_above_center_mm"
	MassStep        = int64(10 * quantity.Gram)
	AsideStep       = int64(quantity.Millimetre)
)

// AsidePath returns which figure of a display's centre of gravity lies aside as it hangs.
func AsidePath(turn catalog.Turn) string {
	if turn.Swaps() {
		return cgAbove
	}
	return cgRight
}

// SetAside puts a display's centre of gravity aside, as it hangs.
func SetAside(d *catalog.Display, turn catalog.Turn, to quantity.Length) {
	if AsidePath(turn) == cgAbove {
		d.CGAboveCenter = to
	} else {
		d.CGRight = to
	}
}

// UpTo returns an assumption about accessories, or about the weight's place, that holds up to another figure.
func (a Assumed) UpTo(holds int64) Assumed {
	a.Holds = holds
	switch {
	case a.Path == AccessoriesPath && holds <= 0:
		a.Text = quantity.Say("No accessories given: whatever else hangs there changes the answer.")
	case a.Path == AccessoriesPath:
		a.Text = quantity.Say("No accessories given: up to %v changes nothing.", quantity.Capacity(holds))
	case holds <= 0:
		a.Text = quantity.Say("Its weight is taken to be in its middle: anywhere else changes the answer.")
	default:
		a.Text = quantity.Say("Its weight is taken to be in its middle: up to %v aside changes nothing.", quantity.AtLeast(holds))
	}
	return a
}

// Margin returns the largest figure up to most, else in whole steps, at which something still holds that does not hold again once it has
// stopped.
func Margin(most, step int64, holds func(int64) bool) int64 {
	if holds(most) {
		return most
	}
	low, high := int64(0), most/step+1 // in steps: holds, does not
	for high-low > 1 {
		if middle := (low + high) / 2; holds(middle * step) {
			low = middle
		} else {
			high = middle
		}
	}
	return low * step
}

// status is what a rule says.
func (p *Pairing) status(judge func(*Pairing, *Check)) Status {
	var c Check
	judge(p, &c)
	return c.Status
}

// carries reports whether no rule says anything worse with so much more on the display.
func (p *Pairing) carries(accessories int64) bool {
	more := *p
	more.Extra.Accessories += quantity.Mass(accessories)
	return more.status(judgeLoad) <= p.status(judgeLoad) && more.status(judgeHold) <= p.status(judgeHold)
}

// assumedAt lists what nobody has said of the holes of a group.
func (p *Pairing) assumedAt(group int) (out []Assumed) {
	slack, g := p.Stack.Groups[group].Slack, &p.Layout.Groups[group]
	if !slack.Known {
		return nil
	}
	at := p.pathOf(g.Holes[0].ID)
	add := func(unsaid bool, figure, word string) {
		if unsaid {
			out = append(out, Assumed{at + figure, 0, int64(slack.Value), MM, quantity.Say("No %v on record at %v: up to %v changes nothing.", word,
				list(g.IDs()), quantity.AtLeast(slack.Value))})
		}
	}
	add(g.RecessUnsaid, "recess_mm", "recess")
	add(g.SetbackUnsaid && len(p.Stack.Groups[group].Spacers) == 0, "setback_mm", "rim offset")
	return out
}

// pathOf returns where a hole's figures stand in the display's document.
func (p *Pairing) pathOf(id string) string {
	for i := range p.Display.Patterns {
		x := &p.Display.Patterns[i]
		if x != p.Pattern {
			continue
		}
		for j := range x.Holes {
			if x.Holes[j].ID == id {
				return "patterns[" + strconv.Itoa(i) + "]." + x.HolePath(j) + "."
			}
		}
	}
	return ""
}

// ExtraOf returns what a job says beside its pairing.
func ExtraOf(j *catalog.Job) Extra {
	return Extra{Accessories: j.Accessories, Clearance: j.ArmClearance.Or(0), WantedTilt: j.WantedTilt, WantedSwivel: j.WantedSwivel}
}

package place

import (
	"fmt"
	"iter"
	"math"
	"slices"
	"strings"
	"unicode"

	"nexufix/core/catalog"
	"nexufix/core/hang"
	"nexufix/core/quantity"
)

// Common practice, memory: a lead of 8 mm bends around four times that; a tenth of slack; a
// moulded plug stands 45 mm out of its outlet, in a box of 70 mm.
const (
	usualBend  = 32 * quantity.Millimetre
	plugOut    = 45 * quantity.Millimetre
	outletHalf = 35 * quantity.Millimetre
)

// A Cable leads from an outlet on the wall to a plug in the display's back.
type Cable struct {
	Zone      int    // index of the display's zone
	Connector string // "" if the display does not name it
	Outlet    int    // index of the wall's outlet; -1 if none is recorded
	Known     bool   // its needed length is known
	Missing   string // why it is not known
	// Needed is its least length: the longest way from outlet to socket in any position of
	// the bracket, along its arm if it has one, with both bends, and a tenth of slack.
	Needed quantity.Length
	Fixed  quantity.Optional[quantity.Length] // the length of a cable that cannot be unplugged
	From   At                                 // outlet, from the wall's left end, the floor and the wall
	Closed At                                 // socket, with the bracket closed
	Out    At                                 // socket, in the position with the longest way
}

// At is a point in front of the wall, in millimetres from its left end, the floor, and its surface.
type At struct{ X, Y, Z float64 }

func (a At) to(b At) float64 {
	return math.Sqrt((a.X-b.X)*(a.X-b.X) + (a.Y-b.Y)*(a.Y-b.Y) + (a.Z-b.Z)*(a.Z-b.Z))
}

// Cables returns the cables of the ports in use: those of the display's ports that a plug stands out of.
func (p *Placement) Cables() []Cable {
	var out []Cable
	d := p.Pairing.Display
	for i := range d.Zones {
		z := &d.Zones[i]
		if z.Kind != "port" || !z.Plug.Known && !z.FixedCable.Known {
			continue
		}
		c := Cable{Zone: i, Connector: z.Connector, Outlet: p.outletFor(z), Fixed: z.FixedCable}
		p.measure(&c, z)
		out = append(out, c)
	}
	return out
}

// mainsWords are names of mains connectors, and of power supplies that plug into an outlet.
var mainsWords = []string{"iec", "mains", "power", "c7", "c8", "c13", "c14", "dc"}

// mains reports whether a connector is a mains connector, by its name; known is false if it has
// no name.
func mains(connector string) (is, known bool) {
	words := strings.FieldsFunc(strings.ToLower(connector), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	return slices.ContainsFunc(words, func(w string) bool { return slices.Contains(mainsWords, w) }), len(words) > 0
}

// outletFor returns the nearest outlet for a plug; -1 for none. For a plug without a name it is
// the nearest one of either kind, of the kind that is farther away.
func (p *Placement) outletFor(z *catalog.Zone) int {
	power, known := mains(z.Connector)
	nearest := map[bool]int{true: -1, false: -1}
	least := map[bool]float64{}
	at, _ := p.socket(z)
	for i, o := range p.Job.Wall.Outlets {
		if o.Kind == "switch" {
			continue
		}
		kind := o.Kind == "power"
		if way := at.to(At{o.X.MM(), o.Y.MM(), 0}); nearest[kind] < 0 || way < least[kind] {
			nearest[kind], least[kind] = i, way
		}
	}
	switch {
	case known:
		return nearest[power]
	case least[false] > least[true]:
		return nearest[false]
	}
	return nearest[true]
}

// socket returns the place of a plug with the bracket closed; false if a figure is missing.
func (p *Placement) socket(z *catalog.Zone) (At, bool) {
	r := p.Pairing.ZonePlace(z)
	at := At{X: p.DisplayX.MM() + (r.Left+r.Right).MM()/2, Y: p.Centre.MM() + (r.Top+r.Bottom).MM()/2,
		Z: (p.Gap.Value + z.Setback.Or(0)).MM()}
	return at, p.Known && p.Gap.Known
}

// measure computes the needed length of a cable.
func (p *Placement) measure(c *Cable, z *catalog.Zone) {
	b := p.Pairing.Bracket
	socket, known := p.socket(z)
	tilts := b.TiltDown.Value != 0 || b.TiltUp.Value != 0
	_, tiltPlaced := b.TiltAxis()
	_, swivelPlaced := b.SwivelAxis()
	moves := b.Kind.Properties().Tilts
	_, reaches := b.Farthest()
	switch {
	case c.Outlet < 0:
		c.Missing = "no outlet for it is recorded"
	case !known || len(p.Plates) == 0:
		c.Missing = "where the display comes, or how far from the wall, is not known"
	case moves && (!b.TiltDown.Known || !b.TiltUp.Known):
		c.Missing = "how far the bracket tilts is not on record"
	case tilts && !tiltPlaced:
		c.Missing = "where the bracket tilts is not on record"
	case b.Swings() && (!reaches || !b.Swivel.Known || b.Swivel.Value != 0 && !swivelPlaced):
		c.Missing = "how far the bracket reaches and swivels is not on record"
	}
	if c.Outlet >= 0 {
		o := p.Job.Wall.Outlets[c.Outlet]
		c.From = At{o.X.MM(), o.Y.MM(), 0}
	}
	c.Closed, c.Out = socket, socket
	if c.Missing != "" {
		return
	}
	longest := c.From.to(socket)
	for pose := range p.poses(socket) {
		if way := c.From.to(pose); way > longest {
			longest, c.Out = way, pose
		}
	}
	if b.Swings() {
		plate := At{p.DatumX.MM(), p.Datum.MM(), 0}
		joint := At{plate.X, p.hook() - b.Interface.CenterBelowHook.Or(0).MM(), b.Profile.Value.MM()}
		far, _ := b.Farthest()
		longest = max(longest, c.From.to(plate)+far.MM()+joint.to(socket))
	}
	bends := 2 * math.Pi / 2 * max(z.CableBend.Or(usualBend), usualBend).MM()
	c.Needed, c.Known = quantity.FromMM(math.Ceil((longest+bends)*1.1)), true
}

func (p *Placement) hook() float64 {
	return (p.Datum + p.Pairing.Bracket.WallPlate.HookAboveDatum).MM()
}

// Steps between the angles of poses; differences between them are within the slack.
const (
	tiltStep   = 2.0
	swivelStep = 4.0
)

// poses returns the places of a socket: tilted with the bracket closed, and tilted and swung at
// full reach.
func (p *Placement) poses(socket At) iter.Seq[At] {
	b := p.Pairing.Bracket
	tilt, tilts := b.TiltAxis()
	swivel, swivels := b.SwivelAxis()
	far, ok := b.Farthest()
	if !ok {
		far = b.Profile.Value
	}
	return func(yield func(At) bool) {
		for _, plane := range [...]quantity.Length{b.Profile.Value, far} {
			for down := range angles(-b.TiltUp.Value.Degrees(), b.TiltDown.Value.Degrees(), tiltStep) {
				at := socket
				at.Z += (plane - b.Profile.Value).MM()
				if tilts {
					y, z := p.hook()-tilt.BelowHook.MM(), (plane - tilt.BehindArm).MM()
					above, before := hang.Tilted(at.Y-y, at.Z-z, down)
					at.Y, at.Z = y+above, z+before
				}
				if !swivels || !b.Swings() || plane != far {
					if !yield(at) {
						return
					}
					continue
				}
				x, z := p.DatumX.MM(), (plane - swivel.BehindArm).MM()
				for side := range angles(-b.Swivel.Value.Degrees(), b.Swivel.Value.Degrees(), swivelStep) {
					sin, cos := math.Sincos(side * math.Pi / 180)
					if !yield(At{x + (at.X-x)*cos - (at.Z-z)*sin, at.Y, z + (at.X-x)*sin + (at.Z-z)*cos}) {
						return
					}
				}
			}
		}
	}
}

// angles returns the angles from one to another, both included, in steps.
func angles(from, to, step float64) iter.Seq[float64] {
	return func(yield func(float64) bool) {
		if !yield(from) {
			return
		}
		for a := from + step; a < to; a += step {
			if !yield(a) {
				return
			}
		}
		yield(to)
	}
}

// Metres writes the needed length of a cable, in tenths of a metre or in inches, rounded up.
func Metres(l quantity.Length) quantity.Phrase {
	tenths := int64((l + 100*quantity.Millimetre - 1) / (100 * quantity.Millimetre))
	inches := int64((l + quantity.Inch - 1) / quantity.Inch)
	return quantity.Say("%v", quantity.Either{Metric: fmt.Sprintf("%d.%d m", tenths/10, tenths%10), Imperial: fmt.Sprintf("%d in", inches)})
}

// Name returns the name of a cable.
func (c *Cable) Name() quantity.Phrase {
	if c.Connector != "" {
		return quantity.Say("%v cable", c.Connector)
	}
	return quantity.Say("cable of port %v", c.Zone+1)
}

// Begins returns its name for the beginning of a sentence.
func (c *Cable) Begins() quantity.Phrase {
	if c.Connector != "" {
		return quantity.Say("%v cable", capital(c.Connector))
	}
	return quantity.Say("Cable of port %v", c.Zone+1)
}

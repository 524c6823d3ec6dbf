package place

import (
	"math"
	"math/rand/v2"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// pt is a point in millimetres, shape a convex polygon. What is below knows no
// formula of the product: it puts shapes where they are, turns them in small
// steps, and looks whether they are in each other's way.
type pt struct{ x, y float64 }
type shape []pt

func box(x0, x1, y0, y1 float64) shape { return shape{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}} }

// turned is a shape turned counter-clockwise about a point.
func (s shape) turned(about pt, degrees float64) shape {
	out := make(shape, len(s))
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	for i, p := range s {
		x, y := p.x-about.x, p.y-about.y
		out[i] = pt{about.x + x*cos - y*sin, about.y + x*sin + y*cos}
	}
	return out
}

// inside: every corner is within a frame.
func (s shape) inside(x0, x1, y0, y1 float64) bool {
	const slack = 1e-3
	for _, p := range s {
		if p.x < x0-slack || p.x > x1+slack || p.y < y0-slack || p.y > y1+slack {
			return false
		}
	}
	return true
}

// meets: no line along an edge of one keeps the two apart.
func (s shape) meets(o shape) bool {
	for _, pair := range [][2]shape{{s, o}, {o, s}} {
		a, b := pair[0], pair[1]
		for i := range a {
			p, q := a[i], a[(i+1)%len(a)]
			nx, ny := q.y-p.y, p.x-q.x
			apart := true
			for _, c := range b {
				if (c.x-p.x)*nx+(c.y-p.y)*ny < 1e-3*math.Hypot(nx, ny) {
					apart = false
				}
			}
			if apart {
				return false
			}
		}
	}
	return true
}

// scene is a random display on a random bracket on a random wall.
func scene(r *rand.Rand) (*fit.Pairing, *catalog.Job) {
	around := func(l, spread int64) quantity.Length { return mm(l - spread + r.Int64N(2*spread+1)) }
	return site(func(d *catalog.Display, b *catalog.Bracket, job *catalog.Job) {
		d.Height, d.Width = quantity.Some(around(640, 60)), quantity.Some(around(1095, 90))
		d.Depth = quantity.Some(around(70, 40))
		if r.IntN(3) == 0 {
			d.Zones = []catalog.Zone{{Kind: "protrusion", X: around(0, 500), Y: around(0, 280), Width: around(120, 80), Height: around(80, 50),
				Out: quantity.Some(around(25, 25))}}
		}
		b.Profile = quantity.Some(around(60, 35))
		b.LiftOver = quantity.Some(around(20, 15))
		b.Interface.ArmTop, b.Interface.ArmBottom = quantity.Some(around(30, 60)), quantity.Some(around(450, 120))
		w := b.WallPlate
		w.Width, w.Height = quantity.Some(around(500, 300)), quantity.Some(around(230, 180))
		w.LateralSlide = quantity.Some(around(60, 60))
		w.Thickness = quantity.Some(around(3, 2))
		switch r.IntN(3) {
		case 1:
			b.Kind = "tilt"
		case 2:
			b.Kind, b.Reach, b.Swivel = "full_motion", quantity.Some(around(400, 250)), quantity.Some(quantity.Angle(5+r.Int64N(85))*quantity.Degree)
			b.SwivelPivot = &catalog.Pivot{BehindArm: quantity.Some(around(40, 40))}
		}
		if b.Kind != "fixed" {
			b.TiltDown, b.TiltUp = quantity.Some(quantity.Angle(r.Int64N(25))*quantity.Degree),
				quantity.Some(quantity.Angle(r.Int64N(12))*quantity.Degree)
			b.TiltPivot = &catalog.Pivot{BelowHook: quantity.Some(around(200, 160)), BehindArm: quantity.Some(around(15, 30))}
		}
		job.Wall.Type, job.Wall.Studs = catalog.Concrete, nil
		if r.IntN(3) == 0 {
			job.Wall.Type, job.Wall.Studs = catalog.WoodStud, &catalog.Studs{First: quantity.Some(around(210, 200)), Spacing: some(406),
				Width: some(38)}
		}
		job.Wall.Width, job.Wall.Height = quantity.Some(around(1500, 400)), quantity.Some(around(2300, 250))
		job.Place = catalog.Place{Rule: "center", Center: quantity.Some(around(1400, 350)), X: quantity.Some(around(750, 250))}
		if r.IntN(3) == 0 {
			job.Place.Line = quantity.Some(around(1850, 200))
		}
		if r.IntN(3) == 0 {
			job.Place.Surface, job.Place.Accessory = quantity.Some(around(950, 150)), quantity.Some(around(60, 60))
		}
		if r.IntN(3) == 0 {
			job.Wall.Furniture = []catalog.Furniture{{X: around(750, 700), Width: around(500, 300), Height: around(950, 150)}}
		}
		if r.IntN(3) == 0 {
			job.Wall.Niche = &catalog.Niche{X: around(750, 60), Width: around(1400, 300), Bottom: around(1000, 200), Height: around(900, 200),
				Depth: some(150)}
		}
	})
}

// TestShapesAreWhereTheyMayBe: over random scenes, what passes is clear of
// everything in each position of tilt and swivel, and what fails is not.
func TestShapesAreWhereTheyMayBe(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 14))
	seen := map[fit.RuleID][5]int{}
	for n := 0; n < lots.Times(6000); n++ {
		pair, job := scene(r)
		for _, p := range Place(pair, job) {
			if !p.Known || len(p.Plates) == 0 {
				continue
			}
			clear := bruteForce(&p)
			// A rule of the pairing is judged again where its plate is.
			status := map[fit.RuleID]fit.Status{}
			for _, c := range append(pair.Words(), p.Checks...) {
				status[c.Rule] = max(status[c.Rule], c.Status)
			}
			for rule, ok := range clear {
				s, judged := status[rule]
				count := seen[rule]
				count[s]++
				seen[rule] = count
				switch {
				case !judged && !ok:
					t.Errorf("scene %d: nothing is said of %s, and it is in the way", n, rule)
				case judged && s == fit.Pass && !ok:
					t.Errorf("scene %d: %s passes, and it is in the way: %v", n, rule, check(&p, rule).Text.In(quantity.Metric))
				case s == fit.Fail && ok, s == fit.Caution && ok && (rule == fit.TiltRule || rule == fit.SwivelRule):
					t.Errorf("scene %d: %s is %s, and nothing is in the way", n, rule, s)
				}
			}
			if t.Failed() && n > 50 {
				return
			}
		}
	}
	t.Log(seen)
	for rule, count := range seen {
		if rule == fit.ProtrusionRule { // judged by more than is drawn here: only that it passes counts
			continue
		}
		if count[fit.Pass] < lots.Times(100) || count[fit.Fail]+count[fit.Caution]+count[fit.Note] < lots.Times(40) {
			t.Errorf("%s is seldom tried: %v", rule, count)
		}
	}
}

// bruteForce says by rule whether everything is clear.
func bruteForce(p *Placement) map[fit.RuleID]bool {
	const step = 0.05 // degrees
	d, b, w, job := p.Pairing.Display, p.Pairing.Bracket, p.Pairing.Bracket.WallPlate, p.Job
	half := d.Width.Value.MM() / 2
	x, bottom, top := p.DisplayX.MM(), p.Bottom.MM(), p.Top.MM()
	datum, hook := p.Datum.MM(), (p.Datum + w.HookAboveDatum).MM()
	front := box(x-half, x+half, bottom, top)
	arms := box(x-100, x+100, hook-b.Interface.ArmBottom.Value.MM(), hook+b.Interface.ArmTop.Value.MM())
	var plates []shape
	for _, at := range p.Plates {
		plates = append(plates, box(at.MM()-w.Width.Value.MM()/2, at.MM()+w.Width.Value.MM()/2, datum-w.Height.Value.MM()/2,
			datum+w.Height.Value.MM()/2))
	}
	high := job.Wall.Height.Value.MM()
	left, right, low := 0.0, job.Wall.Width.Value.MM(), 0.0
	limit := high
	if job.Place.Line.Known {
		limit = min(limit, job.Place.Line.Value.MM())
	}
	niche := job.Wall.Niche
	if niche != nil {
		left, right = max(left, (niche.X-niche.Width/2).MM()), min(right, (niche.X+niche.Width/2).MM())
		low, high = niche.Bottom.MM(), min(high, (niche.Bottom+niche.Height).MM())
		limit = min(limit, high)
	}
	out := map[fit.RuleID]bool{}
	all := math.Inf(1)

	plate := true
	for _, s := range plates {
		plate = plate && s.inside(left, right, low, high)
	}
	for i := range p.Points {
		r := p.Points[i].Drill.Diameter.Value.MM() / 2
		px, py := p.Points[i].X.MM(), p.Points[i].Y.MM()
		plate = plate && box(px-r, px+r, py-r, py+r).inside(left, right, low, high)
	}
	out[PlateRule] = plate
	out[WallRule] = front.inside(0, job.Wall.Width.Value.MM(), -all, all)

	// From the side: x outwards from the arm plane, y the height. A top that comes
	// forward turns clockwise.
	deep := d.Depth.Value.MM()
	far, near := p.Pairing.Stack.Plane.MM(), p.Pairing.Nearest().MM()
	var tiltPivot pt
	if axis, ok := b.TiltAxis(); ok {
		tiltPivot = pt{-axis.BehindArm.MM(), hook - axis.BelowHook.MM()}
	}
	lowest, highest, touches := bottom, top, false
	middle := (bottom + top) / 2
	for turn := -b.TiltUp.Value.Degrees(); turn <= b.TiltDown.Value.Degrees()+1e-9; turn += step {
		for _, c := range box(far, far+deep, bottom, top).turned(tiltPivot, -turn) {
			lowest, highest = min(lowest, c.y), max(highest, c.y)
		}
		bodies := []shape{box(near, near+deep, bottom, top)}
		for _, z := range d.Zones {
			bodies = append(bodies, box(near-z.Out.Value.MM(), near, middle+z.Y.MM()-z.Height.MM()/2, middle+z.Y.MM()+z.Height.MM()/2))
		}
		for _, body := range bodies {
			touches = touches || !body.turned(tiltPivot, -turn).inside(-b.Profile.Value.MM(), all, -all, all)
		}
	}
	lift := b.LiftOver.Value.MM()
	above := shape{{0, top + lift}, {0, highest}, {0, hook + b.Interface.ArmTop.Value.MM() + lift}}
	below := shape{{0, lowest}, arms[0]}
	for _, s := range plates {
		above, below = append(above, s[2]), append(below, s[0])
	}
	out[AboveRule] = above.inside(-all, all, -all, limit)
	floor, something := job.Place.Surface.Value.MM(), job.Place.Surface.Known
	for _, f := range job.Wall.Furniture {
		if box(f.X.MM()-f.Width.MM()/2, f.X.MM()+f.Width.MM()/2, 0, 1).meets(box(x-half, x+half, 0, 1)) {
			floor, something = max(floor, f.Height.MM()), true
		}
	}
	sill := niche == nil || lowest-job.Place.Accessory.Value.MM() >= niche.Bottom.MM()-1e-3
	if something || niche != nil {
		out[BelowRule] = sill && (!something || below.inside(-all, all, floor+job.Place.Accessory.Value.MM(), all))
	}
	if b.TiltDown.Value+b.TiltUp.Value > 0 { // else what stands out is a protrusion's
		out[fit.TiltRule] = !touches
	}

	// From above: x along the wall, y outwards.
	if niche != nil {
		out[NicheRule] = front.inside((niche.X - niche.Width/2).MM(), (niche.X + niche.Width/2).MM(), -all, all)
	}
	if axis, ok := b.SwivelAxis(); ok {
		arm := b.Reach.Value.MM()
		pivot := pt{p.DatumX.MM(), arm - axis.BehindArm.MM()}
		stuck, swept := false, true
		for turn := -b.Swivel.Value.Degrees(); turn <= b.Swivel.Value.Degrees()+1e-9; turn += step {
			bodies := []shape{box(x-half, x+half, arm+near, arm+near+deep)}
			for _, z := range d.Zones {
				bodies = append(bodies, box(x+z.X.MM()-z.Width.MM()/2, x+z.X.MM()+z.Width.MM()/2, arm+near-z.Out.Value.MM(), arm+near))
			}
			for _, body := range bodies {
				stuck = stuck || !body.turned(pivot, turn).inside(-all, all, 0, all)
			}
			if niche != nil {
				swept = swept && box(x-half, x+half, arm+far, arm+far+deep).turned(pivot, turn).inside((niche.X-niche.Width/2).MM(),
					(niche.X+niche.Width/2).MM(), -all, all)
			}
		}
		out[fit.SwivelRule] = !stuck
		if niche != nil {
			out[NicheRule] = out[NicheRule] && swept
		}
	}

	// What stands out of the back: off the wall, and off the plates it is before.
	clear := true
	for _, z := range d.Zones {
		zx, zy := x+z.X.MM(), middle+z.Y.MM()
		zone := box(zx-z.Width.MM()/2, zx+z.Width.MM()/2, zy-z.Height.MM()/2, zy+z.Height.MM()/2)
		room := b.Profile.Value.MM() + near
		for _, s := range plates {
			if zone.meets(s) {
				room = min(room, b.Profile.Value.MM()+near-w.Thickness.Value.MM())
			}
		}
		clear = clear && z.Out.Value.MM() <= room+1e-3
	}
	if len(d.Zones) > 0 && check(p, fit.ProtrusionRule).Status == fit.Pass && p.Pairing.Check(fit.ProtrusionRule).Status == fit.Pass {
		out[fit.ProtrusionRule] = clear
	}
	return out
}

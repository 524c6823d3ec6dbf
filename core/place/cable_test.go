package place

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// armed is a display with one port on a bracket that tilts, reaches and swivels, at an outlet.
func armed(change func(*catalog.Display, *catalog.Bracket, *catalog.Job)) *Placement {
	d, b := catalogtest.Pair()
	d.Zones = []catalog.Zone{{Kind: "port", X: quantity.MM(180), Y: quantity.MM(-60), Width: quantity.MM(90), Height: quantity.MM(40),
		Plug: catalogtest.Length(45), Setback: catalogtest.Length(12), Connector: "IEC C8"}}
	b.Kind, b.Profile, b.Reach = "full_motion", catalogtest.Length(52), catalogtest.Length(480)
	b.TiltDown, b.TiltUp = quantity.Some(12*quantity.Degree), quantity.Some(4*quantity.Degree)
	b.TiltPivot = &catalog.Pivot{BelowHook: catalogtest.Length(219), BehindArm: catalogtest.Length(18)}
	b.Swivel, b.SwivelPivot = quantity.Some(60*quantity.Degree), &catalog.Pivot{BehindArm: catalogtest.Length(40)}
	b.WallPlate.LateralSlide = catalogtest.Length(60)
	j := &catalog.Job{ID: "counter", Wall: catalog.Wall{Type: "wood_stud", Width: catalogtest.Length(3600), Covering: catalogtest.Length(12),
		Studs:   &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)},
		Outlets: []catalog.Outlet{{X: quantity.MM(2600), Y: quantity.MM(300), Kind: "power"}}},
		Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1650)}}
	change(d, b, j)
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	return &Place(&p, j)[0]
}

// matrix is a rotation about an axis, written out as Rodrigues' formula has it (v cos θ + (k × v)
// sin θ + k (k·v)(1 − cos θ)): another way than the plane rotations of the product.
func rotate(v, k [3]float64, degrees float64) [3]float64 {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	cross := [3]float64{k[1]*v[2] - k[2]*v[1], k[2]*v[0] - k[0]*v[2], k[0]*v[1] - k[1]*v[0]}
	dot := k[0]*v[0] + k[1]*v[1] + k[2]*v[2]
	var out [3]float64
	for i := range v {
		out[i] = v[i]*cos + cross[i]*sin + k[i]*dot*(1-cos)
	}
	return out
}

// TestCableAgainstRodrigues: no position that the bracket takes, tried in steps of half a degree
// with an independent rotation, has the socket farther from the outlet than the cable reaches.
func TestCableAgainstRodrigues(t *testing.T) {
	p := armed(func(*catalog.Display, *catalog.Bracket, *catalog.Job) {})
	c := p.Cables()[0]
	if !c.Known || c.Outlet != 0 {
		t.Fatalf("%+v", c)
	}
	b := p.Pairing.Bracket
	socket := [3]float64{p.DisplayX.MM() + 180, p.Centre.MM() - 60, p.Gap.Value.MM() + 12}
	far := 0.0
	hook := (p.Datum + b.WallPlate.HookAboveDatum).MM()
	for _, plane := range []float64{52, 480} {
		for tilt := -4.0; tilt <= 12; tilt += 0.5 {
			at := socket
			at[2] += plane - 52
			pivot := [3]float64{0, hook - 219, plane - 18}
			v := rotate([3]float64{at[0], at[1] - pivot[1], at[2] - pivot[2]}, [3]float64{1, 0, 0}, tilt)
			at = [3]float64{v[0], v[1] + pivot[1], v[2] + pivot[2]}
			for swing := -60.0; swing <= 60; swing += 0.5 {
				if plane == 52 && swing != 0 {
					continue
				}
				axis := [3]float64{p.DatumX.MM(), 0, plane - 40}
				w := rotate([3]float64{at[0] - axis[0], at[1], at[2] - axis[2]}, [3]float64{0, 1, 0}, swing)
				x, y, z := w[0]+axis[0], w[1], w[2]+axis[2]
				far = max(far, math.Sqrt((x-2600)*(x-2600)+(y-300)*(y-300)+z*z))
			}
		}
	}
	if got := c.Needed.MM(); got < far*1.1 || got > 2*far {
		t.Errorf("a cable of %.0f mm, and the socket comes as far as %.0f mm from its outlet", got, far)
	}
	// Along the arm it is longer than straight.
	straight := far
	along := math.Hypot(2600-p.DatumX.MM(), 300-p.Datum.MM()) + 480
	if along > straight && c.Needed.MM() < 1.1*along {
		t.Errorf("%.0f mm do not reach along the arm, %.0f mm", c.Needed.MM(), along)
	}
	// A bracket that does not move: the plain distance, both bends of 32 mm, and a tenth.
	p = armed(func(_ *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
		b.Kind, b.TiltDown, b.TiltUp, b.Swivel, b.Reach = "fixed", quantity.Optional[quantity.Angle]{}, quantity.Optional[quantity.Angle]{},
			quantity.Optional[quantity.Angle]{}, quantity.Optional[quantity.Length]{}
	})
	c = p.Cables()[0]
	plain := math.Sqrt(math.Pow(p.DisplayX.MM()+180-2600, 2) + math.Pow(p.Centre.MM()-60-300, 2) + math.Pow(p.Gap.Value.MM()+12, 2))
	if want := (plain + math.Pi*32) * 1.1; math.Abs(c.Needed.MM()-want) > 1 {
		t.Errorf("%.1f mm, want %.1f", c.Needed.MM(), want)
	}
}

// TestCableFindings: a cable that cannot be unplugged and is too short, an outlet under the plate
// or the display, and what is not known, are said.
func TestCableFindings(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*catalog.Display, *catalog.Bracket, *catalog.Job)
		want   fit.Status
		none   bool
	}{
		"long enough": {func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Job) {
			d.Zones[0].FixedCable = catalogtest.Length(6000)
		}, fit.Pass, false},
		"too short": {func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Job) {
			d.Zones[0].FixedCable = catalogtest.Length(1500)
		}, fit.Fail, false},
		"no outlet recorded": {func(d *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			d.Zones[0].FixedCable, j.Wall.Outlets = catalogtest.Length(6000), nil
		}, fit.Unknown, false},
		"an outlet of another kind": {func(d *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			d.Zones[0].FixedCable, j.Wall.Outlets[0].Kind = catalogtest.Length(6000), "data"
		}, fit.Unknown, false},
		"of which kind is not known": {func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Job) {
			d.Zones[0].FixedCable, d.Zones[0].Connector = catalogtest.Length(6000), ""
		}, fit.Unknown, false},
		"dc in a word is no supply": {func(d *catalog.Display, _ *catalog.Bracket, _ *catalog.Job) {
			d.Zones[0].FixedCable, d.Zones[0].Connector = catalogtest.Length(6000), "HDMI HDCP 2.2"
		}, fit.Unknown, false},
		"reach not on record": {func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
			d.Zones[0].FixedCable, b.Reach = catalogtest.Length(6000), quantity.Optional[quantity.Length]{}
		}, fit.Unknown, false},
		"tilt up not on record": {func(d *catalog.Display, b *catalog.Bracket, _ *catalog.Job) {
			d.Zones[0].FixedCable, b.TiltUp = catalogtest.Length(6000), quantity.Optional[quantity.Angle]{}
		}, fit.Unknown, false},
		"behind the plate": {func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Outlets[0] = catalog.Outlet{X: quantity.MM(1650), Y: quantity.MM(1588), Kind: "power"}
		}, fit.Fail, false},
		"behind the display, no room for a plug": {func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			b.Profile = catalogtest.Length(20)
			j.Wall.Outlets[0] = catalog.Outlet{X: quantity.MM(2100), Y: quantity.MM(1300), Kind: "power"}
		}, fit.Caution, false},
		"nothing to say": {func(*catalog.Display, *catalog.Bracket, *catalog.Job) {}, fit.Pass, true},
	} {
		p := armed(c.change)
		worst, found := fit.Pass, false
		for _, check := range p.Checks {
			if check.Rule == CablesRule {
				worst, found = max(worst, check.Status), true
			}
		}
		if found == c.none || worst != c.want {
			t.Errorf("%s: %v, said %v; want %v", name, worst, found, c.want)
		}
	}
}

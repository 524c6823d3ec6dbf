package pairing

import (
	"math"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// moving gives the bracket a profile, a tilt and a swivel, and the display a
// depth, a plug and a box on its back.
func moving(d *catalog.Display, b *catalog.Bracket) {
	d.Depth = catalogtest.Length(61)
	d.Zones = []catalog.Zone{
		{Kind: "port", X: quantity.MM(300), Y: quantity.MM(-60), Width: quantity.MM(90), Height: quantity.MM(40), Plug: catalogtest.Length(45),
			Setback: catalogtest.Length(12)},
		{Kind: "protrusion", Y: quantity.MM(-250), Width: quantity.MM(160), Height: quantity.MM(40), Out: catalogtest.Length(20)},
	}
	b.Profile, b.TiltPivot, b.TiltDown = catalogtest.Length(52), &catalog.Pivot{BelowHook: catalogtest.Length(219),
		BehindArm: catalogtest.Length(18)}, quantity.Some(12*quantity.Degree)
	b.Reach, b.SwivelPivot, b.Swivel = catalogtest.Length(480), &catalog.Pivot{BehindArm: catalogtest.Length(40)},
		quantity.Some(60*quantity.Degree)
}

// TestDepthsOfPractice: 18 + 0 + 47 = 65, and 22 + 31 = 53 (common practice).
func TestDepthsOfPractice(t *testing.T) {
	for _, c := range []struct{ profile, depth, front int64 }{{18, 47, 65}, {22, 31, 53}} {
		p := drawtest.Judged(func(d *catalog.Display, b *catalog.Bracket) {
			d.Depth, b.Profile = catalogtest.Length(c.depth), catalogtest.Length(c.profile)
		})
		if got, ok := DepthsOf(&p); !ok || got.ToFront != quantity.MM(c.front) || got.Gap != quantity.MM(c.profile) {
			t.Errorf("%+v: %+v", c, got)
		}
	}
	p := drawtest.Judged(func(_ *catalog.Display, b *catalog.Bracket) { b.Profile.Known = false })
	if _, ok := DepthsOf(&p); ok || Side(&p, 0, nil) != nil || Above(&p, 0) != nil {
		t.Error("without a profile there is no side")
	}
}

func TestSideIsToScale(t *testing.T) {
	p := drawtest.Judged(moving)
	s := Side(&p, 0, nil)
	for tag, want := range map[string][4]float64{
		"side.display":    {-113, -52, -219 + 352 - 634, -219 + 352},
		"side.arm":        {-52, -49.5, -452, 14},
		"side.plate":      {-3, 0, -96 - 115, -96 + 115},
		"side.plug":       {-64, -19, -219 + 35 - 80, -219 + 35 - 40}, // the display's centre is 35 above the pattern's
		"side.protrusion": {-52, -32, -219 + 35 - 270, -219 + 35 - 230},
	} {
		x0, x1, y0, y1 := drawtest.Extent(s, tag)
		if !drawtest.Near(x0, want[0]) || !drawtest.Near(x1, want[1]) || !drawtest.Near(y0, want[2]) || !drawtest.Near(y1, want[3]) {
			t.Errorf("%s from %g to %g, %g to %g; want %v", tag, x0, x1, y0, y1, want)
		}
	}
}

// TestTouchesWhereItIsSaid: drawn at the largest angle, something just touches
// the wall; a degree less, it is clear.
func TestTouchesWhereItIsSaid(t *testing.T) {
	p := drawtest.Judged(moving)
	m := p.Motion()
	rightmost := func(d *drawing.Drawing, tags ...string) float64 {
		far := math.Inf(-1)
		for _, tag := range tags {
			_, x, _, _ := drawtest.Extent(d, tag)
			far = max(far, x)
		}
		return far
	}
	for _, c := range []struct {
		name     string
		angle    float64
		distance func(float64) float64
	}{
		{"tilt down", m.TiltDown.Value, func(a float64) float64 { return rightmost(Side(&p, a, nil), "side.display", "side.protrusion") }},
		{"tilt up", m.TiltUp.Value, func(a float64) float64 { return rightmost(Side(&p, -a, nil), "side.display", "side.protrusion") }},
		{"swivel", m.Swivel.Value, func(a float64) float64 {
			_, _, _, y := drawtest.Extent(Above(&p, a), "side.display")
			return y
		}},
	} {
		if at := c.distance(c.angle); math.Abs(at) > 1e-6 {
			t.Errorf("%s: at %g° it is %g from the wall", c.name, c.angle, at)
		}
		if at := c.distance(c.angle - 1); at >= 0 {
			t.Errorf("%s: a degree less it touches still", c.name)
		}
	}
	if sinks, ok := Sinks(&p, 12); !ok || math.Abs(sinks.MM()-(282*math.Cos(12*math.Pi/180)+79*math.Sin(12*math.Pi/180)-282)) > 1e-5 {
		t.Errorf("sinks %s", sinks)
	}
}

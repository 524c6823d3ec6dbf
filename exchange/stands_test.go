package exchange

import (
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/e2e/lots"
)

// asTold reads a document's figures for itself, without the rules: lengths in mm, masses in kg.
type asTold struct{ doc map[string]any }

// of returns a figure; false if it is not there.
func (f asTold) of(path string) (float64, bool) {
	v, ok := f.any(path).(float64)
	return v, ok
}

// or returns a figure, or what it is taken for.
func (f asTold) or(path string, other float64) float64 {
	if v, ok := f.of(path); ok {
		return v
	}
	return other
}

func (f asTold) any(path string) any { return valueAt(f.doc, path) }

// jitter changes up to three of a document's figures, by factors that a slip of the tape or of the finger makes.
func jitter(t *testing.T, r *rand.Rand, doc map[string]any) (_ map[string]any, slips []string) {
	out := copyOf(doc)
	var paths, numbers []string
	singleFigures(doc, "", &paths)
	for _, p := range paths {
		if _, ok := (asTold{doc}).of(p); ok {
			numbers = append(numbers, p)
		}
	}
	for range r.IntN(4) {
		p, by := numbers[r.IntN(len(numbers))], []float64{0.1, 0.5, 0.8, 0.9, 1.1, 1.25, 2, 10, 25.4}[r.IntN(9)]
		put(t, out, p, (asTold{out}).or(p, 0)*by)
		slips = append(slips, fmt.Sprintf("%s × %g", p, by))
	}
	return out, slips
}

// untrue lists what of a placement that may be hung is not so by the plainest of statics and geometry, from the document alone.
func untrue(f asTold, a *answer) (out []string) {
	const hair = 0.02
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	p, job := &a.pairing, "jobs[0]."
	mass := f.or("displays[0].mass_kg", 0)
	own := f.any("displays[0].origins.mass_kg")
	if own == "caller" || own == nil && f.any("displays[0].origin") == "caller" {
		mass *= 1.3
	}
	if rated, ok := f.of("brackets[0].rated_load_kg"); !ok || mass+f.or(job+"accessories_kg", 0) > rated+hair {
		say("%g kg on a bracket for %g", mass, rated)
	}
	if p.Stack == nil {
		say("no bolts")
		return out
	}
	pocket := strings.Contains(fmt.Sprint(f.any("displays[0].zones")), "pocket")
	plate, measured := f.of("brackets[0].plate_thickness_mm")
	for _, g := range p.Stack.Groups {
		row := "displays[0].patterns[0].rows.top."
		if strings.HasPrefix(g.Holes[0], "B") {
			row = "displays[0].patterns[0].rows.bottom."
		}
		depth, known := f.of(row + "thread_depth_mm")
		if !measured || pocket || p.Turn != 0 || !known || len(p.Display.Patterns) > 1 || f.or(row+"recess_mm", 0) > 0 {
			continue // more ways to bear than one
		}
		past := g.Bolt.MM() - plate - float64(g.Washers.Count)*g.Washers.Thickness.MM() - g.Plane.MM() - f.or(row+"setback_mm", 0)
		if d := g.Thread.Standard().Nominal.MM(); past < 0.8*d-hair || past > depth+hair {
			say("at %v %s × %s goes %.1f into a thread %.1f deep", g.Holes, g.Thread, g.Bolt, past, depth)
		}
	}
	if p.Turn == 0 && !pocket {
		out = append(out, untrueBehind(f, a)...)
	}
	for i := range a.places {
		out = append(out, untrueOnWall(f, a, i)...)
		out = append(out, untrueOfLoads(f, a, i)...)
	}
	return out
}

// untrueBehind is untrue of what stands out of an upright display's back.
func untrueBehind(f asTold, a *answer) (out []string) {
	const hair = 0.02
	p := &a.pairing
	if p.Bracket.Interface.Type != catalog.Arms || len(p.Display.Patterns) > 1 {
		return nil
	}
	wide := f.or("displays[0].patterns[0].width_mm", 0)
	middle := f.or("displays[0].patterns[0].center_right_mm", 0)
	above := f.or("displays[0].height_mm", 0)/2 - f.or("displays[0].patterns[0].center_below_top_mm", 0)
	hook := above + p.Hang.CenterBelowHook.MM()
	low, high := hook-f.or("brackets[0].interface.arm_bottom_mm", 0), hook+f.or("brackets[0].interface.arm_top_mm", 0)
	half := f.or("brackets[0].interface.arm_width_mm", 0) / 2
	z, profile := p.Stack.Plane.MM(), f.or("brackets[0].profile_mm", 0)
	for n := range p.Display.Zones {
		at := fmt.Sprintf("displays[0].zones[%d].", n)
		x, y := f.or(at+"x_mm", 0), f.or(at+"y_mm", 0)
		w, h := f.or(at+"width_mm", 0)/2, f.or(at+"height_mm", 0)/2
		stands, known, kind := 0.0, true, f.any(at+"kind")
		switch kind {
		case "protrusion":
			stands, known = f.of(at + "out_mm")
		case "port":
			stands = f.or(at+"plug_mm", 0) - f.or(at+"setback_mm", 0)
		}
		for _, arm := range []float64{middle - wide/2, middle + wide/2} {
			under := x-w < arm+half && x+w > arm-half && y-h < high && y+h > low
			if under && (stands > z+hair || !known) {
				out = append(out, fmt.Sprintf("a %s of %g under an arm %g off the back", kind, stands, z))
			}
		}
		if stands > profile+z+hair {
			out = append(out, fmt.Sprintf("a %s of %g with %g to the wall", kind, stands, profile+z))
		}
	}
	return out
}

// untrueOfLoads is untrue of how much a fastener is pulled: no less than if the plate turned about its lower edge and every fastener
// pulled by its distance from there. Wood holds no more than 1800·G^1.5·D^0.75 lb an inch (NDS 12.2.1, memory) over all that is in it.
func untrueOfLoads(f asTold, a *answer, i int) (out []string) {
	pl := &a.places[i]
	item, n := pl.Choice.Item, float64(len(pl.Points))
	if n == 0 || !pl.Gap.Known || f.any("jobs[0].assume") != nil || pl.Choice.Beside != nil || len(pl.Plates) > 1 {
		return nil
	}
	edge := pl.Datum.MM() - f.or("brackets[0].wall_plate.height_mm", 0)/2
	most, squares := 0.0, 0.0
	for _, q := range pl.Points {
		lever := q.Y.MM() - edge
		most, squares = max(most, lever), squares+lever*lever
	}
	weight := (f.or("displays[0].mass_kg", 0) + f.or("jobs[0].accessories_kg", 0)) * 9.80665
	pull := weight * (pl.Gap.Value.MM() + f.or("displays[0].depth_mm", 0)/2) * most / squares
	holds, d := math.Inf(1), item.Diameter.MM()
	switch pl.Job.Wall.Type {
	case catalog.WoodStud:
		const lbPerInch = 0.175127 // N/mm
		gravity := map[any]float64{nil: 0.42, "spruce_pine_fir": 0.42, "hem_fir": 0.43, "douglas_fir_larch": 0.5, "southern_pine": 0.55}
		in := item.Length.MM() - f.or("brackets[0].wall_plate.thickness_mm", 0) - f.or("jobs[0].wall.covering_mm", 0)
		holds = 1800 * math.Pow(gravity[f.any("jobs[0].wall.species")], 1.5) * math.Pow(d/25.4, 0.75) * lbPerInch * in
	case catalog.Concrete:
		carrier := pl.Choice.Carrier()
		if r, ok := carrier.RatingFor(catalog.Concrete, ""); ok {
			holds = r.Pull.Kilograms() * 9.80665
		}
	}
	if pull > holds {
		out = append(out, fmt.Sprintf("%s is pulled with %.0f N and holds %.0f", item.Label(), pull, holds))
	}
	return out
}

// untrueOnWall is untrue of one display on the wall.
func untrueOnWall(f asTold, a *answer, i int) (out []string) {
	const hair, wall = 0.02, "jobs[0].wall."
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	pl := &a.places[i]
	wide, high := f.or("displays[0].width_mm", math.NaN()), f.or("displays[0].height_mm", math.NaN())
	if a.pairing.Turn != 0 {
		wide, high = high, wide
	}
	x, bottom := pl.DisplayX.MM(), pl.Bottom.MM()
	if w, ok := f.of(wall + "width_mm"); ok && (x-wide/2 < -hair || x+wide/2 > w+hair) {
		say("the display, %g wide at %g, is not on a wall of %g", wide, x, w)
	}
	if h, ok := f.of(wall + "height_mm"); bottom < -hair || ok && bottom+high > h+hair {
		say("the display, %g high from %g, is not on a wall of %g", high, bottom, h)
	}
	if s, ok := f.of("jobs[0].place.surface_mm"); ok && bottom < s-hair {
		say("its bottom at %g is under what is below it, %g", bottom, s)
	}
	people := f.any(wall+"people_below") != false && f.any(wall+"niche") == nil
	if people && bottom >= 2030 && f.any("brackets[0].lock") == nil {
		say("over people without a lock")
	}
	item, kind := &pl.Choice.Item, pl.Job.Wall.Type
	for n := range pl.Job.Wall.Furniture {
		at := fmt.Sprintf("%sfurniture[%d].", wall, n)
		fx, fw, fh := f.or(at+"x_mm", 0), f.or(at+"width_mm", 0), f.or(at+"height_mm", 0)
		if math.Abs(fx-x) < (fw+wide)/2 && bottom < fh-hair && a.pairing.Turn == 0 && bottom+high > 0 {
			say("its bottom at %g is under furniture of %g", bottom, fh)
		}
	}
	for n, o := range pl.Job.Wall.Outlets {
		pw, ph := f.or("brackets[0].wall_plate.width_mm", 0)/2, f.or("brackets[0].wall_plate.height_mm", 0)/2
		for _, plate := range pl.Plates {
			if math.Abs(o.X.MM()-plate.MM()) < pw-hair && math.Abs(o.Y.MM()-pl.Datum.MM()) < ph-hair {
				say("outlet %d is under the plate", n)
			}
		}
	}
	for _, q := range pl.Points {
		px, py := q.X.MM(), q.Y.MM()
		if w, ok := f.of(wall + "width_mm"); ok && (px < 0 || px > w) {
			say("hole %s at %g beside a wall of %g", q.Hole, px, w)
		}
		if h, ok := f.of(wall + "height_mm"); py < 0 || ok && py > h {
			say("hole %s at %g on a wall %g high", q.Hole, py, h)
		}
		d := item.Diameter.MM()
		if kind == catalog.Concrete || kind == catalog.Block {
			base, measured := f.of(wall + "backing_mm")
			before := f.or(wall+"covering_mm", math.NaN()) + f.or(wall+"cavity_mm", 0)
			in := item.Length.MM() - f.or("brackets[0].wall_plate.thickness_mm", math.NaN()) - before
			if measured && q.Drill.Depth.Known && q.Drill.Depth.Value.MM()-before > base-30+hair {
				say("hole %s is %v deep in %g", q.Hole, q.Drill.Depth, base)
			}
			if !(in >= 25) {
				say("it goes %g into the masonry", in)
			}
		}
		if kind == catalog.WoodStud && !q.Beside {
			width := f.or(wall+"studs.width_mm", 38)
			near := math.Inf(1)
			for _, s := range pl.Studs {
				near = min(near, math.Abs(s.X.MM()-px))
			}
			if near+d/2 > width/2+hair {
				say("hole %s is %g from the middle of a stud of %g", q.Hole, near, width)
			}
			if drill := q.Drill.Diameter; item.Kind == catalog.Lag && !drill.Known || drill.Value.MM() > d-0.5+hair {
				say("a hole of %v for a screw of %g", drill, d)
			}
			before := f.or(wall+"covering_mm", math.NaN()) + f.or(wall+"cavity_mm", 0)
			in := item.Length.MM() - f.or("brackets[0].wall_plate.thickness_mm", math.NaN()) - f.or("brackets[0].wall_plate.washer_mm", 0) - before
			least := 0.0
			if item.Kind == catalog.Lag {
				least = f.or("brackets[0].walls.wood_stud.penetration_min_mm", 38)
			}
			if !(in >= min(least, 38)-hair) {
				say("it goes %g into the stud", in)
			}
			if in > f.or(wall+"backing_mm", 63.5)-3+hair && f.any("jobs[0].assume.penetration_mm") == nil {
				say("it goes %g into a stud of %v", in, f.any(wall+"backing_mm"))
			}
		}
		if holes, ok := f.any("brackets[0].wall_plate.holes").([]any); ok {
			for _, h := range holes {
				h, _ := h.(map[string]any)
				wide, ok := h["diameter_mm"].(float64)
				shaft := item.Kind == catalog.Lag || item.Kind == catalog.Screw || item.Kind == catalog.ConcreteScrew
				if h["id"] == q.Hole && ok && shaft && !q.Beside && wide < d-hair {
					say("%s of %g through a hole of %g", item.Label(), d, wide)
				}
			}
		}
	}
	return out
}

// TestWhatMayBeHungStands: documents that are two of the made ones at once, and any everyday display on any bracket and wall, with up
// to three figures of theirs changed. What may be hung stands by statics and geometry that are written here once more, from the
// document's own figures.
func TestWhatMayBeHungStands(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 2030))
	hung, tried := 0, 0
	try := func(name string, doc map[string]any) {
		doc, slips := jitter(t, r, doc)
		c, err := Read(encode(t, doc))
		if err != nil || len(c.Displays) == 0 || len(c.Brackets) == 0 || len(c.Jobs) == 0 {
			return
		}
		tried++
		a := answerOf(c, 0)
		if len(a.sequence.Blocked) > 0 || len(a.places) == 0 {
			return
		}
		hung++
		for _, what := range untrue(asTold{doc}, &a) {
			t.Errorf("%s with %v: %s", name, slips, what)
		}
	}
	eachMixed(t, lots.Times(1500), func(name string, doc map[string]any, _ *Contents) {
		try(name, doc)
		try(name, doc)
	})
	var goods struct{ Displays, Brackets []map[string]any }
	var walls struct {
		Cases []struct{ Job map[string]any }
	}
	readCases(t, "catalogue.json", &goods)
	readCases(t, "walls.json", &walls)
	for range lots.Times(1500) {
		d, b := goods.Displays[r.IntN(len(goods.Displays))], goods.Brackets[r.IntN(len(goods.Brackets))]
		job := maps.Clone(walls.Cases[r.IntN(len(walls.Cases))].Job)
		job["display"], job["bracket"] = d["id"], b["id"]
		try(fmt.Sprint(d["id"], " on ", b["id"], ", ", job["id"]),
			map[string]any{"format": "nexufix/1", "displays": []any{d}, "brackets": []any{b}, "jobs": []any{job}})
	}
	t.Logf("%d of %d documents may be hung", hung, tried)
	if hung < lots.Times(750) {
		t.Errorf("only %d may be hung", hung)
	}
}

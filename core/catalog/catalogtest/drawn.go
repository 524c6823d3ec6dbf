package catalogtest

import (
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Site is a display on a bracket, on a stud wall 3.6 m wide with studs 406.4 apart from 210, its centre at 1500.
func Site() (*catalog.Display, *catalog.Bracket, *catalog.Job) {
	d, b := Pair()
	b.Profile, b.Walls["wood_stud"] = Length(52), catalog.WallFixing{Drill: Length(5), Depth: Length(72), CoveringMax: Length(16),
		PenetrationMin: Length(38), Fasteners: []string{"lag"}}
	b.WallPlate.LateralSlide = Length(60)
	d.Depth, b.Mass = Length(61), Mass(2000)
	job := &catalog.Job{ID: "j", Wall: catalog.Wall{Type: "wood_stud", Width: Length(3600), Covering: Length(12),
		Studs: &catalog.Studs{First: Length(210), Spacing: quantity.Some(quantity.Length(406_400_000)),
			Width: quantity.Some(quantity.Length(38_100_000))}},
		Place: catalog.Place{Rule: "center", Center: Length(1500)}}
	return d, b, job
}

// Drawn is a display, a bracket, a job and a policy drawn by lot.
func Drawn(r *rand.Rand) (*catalog.Display, *catalog.Bracket, *catalog.Job, catalog.Policy) {
	d, b, job := Site()
	policy := catalog.DefaultPolicy()
	now := func(share float64) bool { return r.Float64() < share }
	of := func(all ...int64) quantity.Length { return mm(all[r.IntN(len(all))]) }
	maybe := func(all ...int64) quantity.Optional[quantity.Length] {
		if now(0.05) {
			return quantity.Optional[quantity.Length]{}
		}
		return quantity.Some(of(all...))
	}
	degrees := func(all ...int64) quantity.Optional[quantity.Angle] {
		return quantity.Some(quantity.Angle(all[r.IntN(len(all))]) * quantity.Degree)
	}
	w := &job.Wall
	w.Type = catalog.WallTypes[r.IntN(len(catalog.WallTypes))]
	w.Width, w.Height, w.Covering = maybe(1200, 2400, 3600, 9000), maybe(1800, 2400, 3000), maybe(0, 0, 12, 16, 25)
	w.Cavity, w.Backing, w.Steel = maybe(0, 20, 60, 400), maybe(18, 38, 60, 89, 150, 300), maybe(0, 1, 2)
	w.BlockKind = []string{"", "", "solid", "hollow", "aerated", "old_brick"}[r.IntN(6)]
	w.BoardKind = []string{"", "ply", "osb", "particle"}[r.IntN(4)]
	w.Species = []string{"", "southern_pine", "spruce_pine_fir"}[r.IntN(3)]
	w.Treated, w.Vehicle, w.OpenLeft, w.OpenRight = now(0.1), now(0.1), now(0.3), now(0.3)
	if now(0.2) {
		people := now(0.5)
		w.PeopleBelow = &people
	}
	if now(0.3) {
		w.Niche = &catalog.Niche{X: of(1500, 1650, 1700), Width: of(1000, 1100, 1200, 2000), Bottom: of(900, 1100, 1180), Height: of(640,
			700, 900)}
	}
	for range r.IntN(3) {
		w.Outlets = append(w.Outlets, catalog.Outlet{X: of(1200, 1430, 1650, 2000, 2600), Y: of(300, 1300, 1500, 1690),
			Kind: []string{"power", "data", "switch"}[r.IntN(3)]})
	}
	for range r.IntN(3) {
		w.Furniture = append(w.Furniture, catalog.Furniture{X: of(600, 1300, 1650, 2500), Width: of(300, 600, 1200), Height: of(700,
			1100, 1190, 1400),
			Depth: maybe(300, 500)})
	}
	if now(0.15) {
		w.LetIn = &catalog.Backing{Thickness: of(12, 18, 24)}
	}
	if now(0.3) {
		w.Studs = &catalog.Studs{First: quantity.Some(of(100, 210, 300)), Spacing: maybe(140, 300, 406, 600), Width: maybe(30, 38, 45, 170)}
	}
	job.Place = catalog.Place{Rule: []string{"center", "eye", "upper_third", "above", "below", "overhead"}[r.IntN(6)],
		Center: maybe(1070, 1500, 2300), Eye: maybe(1200, 1600), Surface: maybe(0, 900, 1180), Line: maybe(1830, 2400), Gap: maybe(20, 145),
		Bottom: maybe(1900, 2030, 2100), Distance: maybe(1500, 3000), Accessory: maybe(0, 50), X: maybe(600, 1500, 1650, 1700), Public: now(0.3)}
	if now(0.2) {
		job.Run = &catalog.Run{Count: 1 + r.IntN(3), Gap: of(0, 10, 60, 80)}
	}
	b.Kind = catalog.BracketKinds[r.IntN(len(catalog.BracketKinds))].Kind
	if b.Kind.Properties().Tilts {
		b.TiltDown, b.TiltUp, b.TiltPivot = degrees(0, 5, 15), degrees(0, 5), &catalog.Pivot{BelowHook: Length(219), BehindArm: Length(18)}
	}
	if b.Kind.Properties().Swivels {
		b.Swivel, b.SwivelPivot, b.Reach = degrees(0, 30, 60, 90), &catalog.Pivot{BehindArm: Length(40)}, maybe(300, 480, 700)
	}
	if b.Kind.Properties().Swings && now(0.5) {
		b.ArmSwing = degrees(30, 90)
	}
	b.Profile, b.LiftOver = maybe(25, 40, 52, 70), maybe(15, 22)
	b.Mass, b.WallPlate.Height, b.WallPlate.Width = quantity.Some(quantity.Mass(of(1, 2, 5))*1000), maybe(200, 230, 500), maybe(300, 480)
	b.WallPlate.LateralSlide, b.WallPlate.Thickness = maybe(0, 60, 150), maybe(2, 3)
	b.WallPlate.StudsRequired = r.IntN(3)
	if now(0.2) {
		b.WallPlate.Count, b.WallPlate.StudsRequired = 2, 1
		b.WallPlate.SeparationRange = &fastener.Interval{Min: mm(200), Max: of(400, 600)}
	}
	if now(0.6) {
		b.Lock = &catalog.Lock{Access: []string{"", "below", "side", "front"}[r.IntN(4)]}
	}
	kinds := w.Type.Properties().Fasteners
	if len(kinds) > 0 && now(0.85) {
		kind := kinds[r.IntN(len(kinds))]
		item := catalog.Item{Kind: kind, Diameter: of(5, 6, 8, 10, 12), Length: of(25, 60, 80, 100, 120), Count: 2 + r.IntN(6),
			RatingBasis: []string{"", "rated", "ultimate"}[r.IntN(3)]}
		if now(0.9) {
			item.Ratings = map[catalog.BaseMaterial]catalog.Rating{catalog.BaseMaterial(w.Type): {Pull: quantity.Mass(of(20, 60, 200)) * 1000,
				Shear: quantity.Mass(of(30, 90, 300)) * 1000}}
		}
		if now(0.3) {
			item.EmbedmentMin, item.EdgeMin, item.SpacingMin, item.Root = of(30, 50), of(20, 60), of(40, 120), of(4, 7)
		}
		b.Kit = append(b.Kit, item)
		drill := maybe(3, 4, 5, 6, 8, 10)
		if bit := kind.Properties().Bit; bit > 0 && now(0.8) {
			drill = quantity.Some(item.Diameter * quantity.Length(bit) / 10)
		} else if bit == 0 && now(0.8) {
			drill = quantity.Some(item.Diameter * 6 / 10)
			if kind.Properties().Opens {
				drill = quantity.Some(2 * item.Diameter)
			}
		}
		b.Kit = append(b.Kit, catalog.Item{Kind: catalog.LagWasher, Diameter: item.Diameter, Outer: 3 * item.Diameter, Thickness: mm(2),
			Count: 8})
		for i := range b.WallPlate.Holes {
			b.WallPlate.Holes[i].Diameter = item.Diameter + mm(1)
		}
		b.Walls[w.Type] = catalog.WallFixing{Drill: drill, Depth: maybe(40, 60, 80), Fasteners: []string{kind.String()},
			CoveringMax: maybe(16, 25, 30), PenetrationMin: maybe(10, 20, 30)}
	}
	d.Mass, d.Depth = quantity.Some(quantity.Mass(of(4, 11, 14, 30))*1000), maybe(40, 61, 90)
	d.CGRight, d.CGAboveCenter = of(0, 0, 30, 90), of(0, 0, 50)
	if now(0.4) {
		d.Zones = append(d.Zones, catalog.Zone{Kind: "port", X: of(300, 400, -300), Y: of(-200, 0, 60), Width: mm(60), Height: mm(40),
			Plug: maybe(0, 30, 45), Setback: maybe(0, 15), Connector: []string{"", "HDMI", "IEC C13"}[r.IntN(3)], CableBend: maybe(20, 60)})
		if now(0.5) {
			d.Zones[0].FixedCable = maybe(800, 1500, 3000)
		}
	}
	policy.WallSchool = catalog.WallSchools[r.IntN(len(catalog.WallSchools))]
	if now(0.2) {
		job.Assume = catalog.Assumptions{Load: quantity.Some(quantity.Mass(of(10, 40)) * 1000), Reach: maybe(200, 600), Aside: maybe(0, 100),
			Penetration: maybe(20, 45)}
	}
	return d, b, job, policy
}

// SameAnswers compares what is answered with the package's testdata/answers.txt, or writes it. It is no proof that an answer is right: it
// shows every answer that a change of the code changes. A change on purpose is written with -update, and read in the difference.
func SameAnswers(t *testing.T, update bool, answers string) {
	t.Helper()
	const file = "testdata/answers.txt"
	if update {
		if err := os.WriteFile(file, []byte(answers), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	was, now := strings.Split(string(raw), "\n"), strings.Split(answers, "\n")
	in, told := "", 0
	for i := range max(len(was), len(now)) {
		a, b := "", ""
		if i < len(was) {
			a = was[i]
		}
		if i < len(now) {
			b = now[i]
		}
		if strings.HasPrefix(b, "case ") {
			in = b
		}
		if a != b {
			if told++; told > 5 {
				t.Fatal("and more")
			}
			t.Errorf("%s\nwas %s\nis  %s", in, a, b)
		}
	}
}

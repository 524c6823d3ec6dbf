package catalogtest

import (
	"math/rand/v2"

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
	l := lot{r}
	l.wall(&job.Wall)
	job.Place = catalog.Place{Rule: []string{"center", "eye", "upper_third", "above", "below", "overhead"}[l.IntN(6)],
		Center: l.maybe(1070, 1500, 2300), Eye: l.maybe(1200, 1600), Surface: l.maybe(0, 900, 1180), Line: l.maybe(1830, 2400),
		Gap:    l.maybe(20, 145),
		Bottom: l.maybe(1900, 2030, 2100), Distance: l.maybe(1500, 3000), Accessory: l.maybe(0, 50), X: l.maybe(600, 1500, 1650,
			1700), Public: l.now(0.3)}
	if l.now(0.2) {
		job.Run = &catalog.Run{Count: 1 + l.IntN(3), Gap: l.of(0, 10, 60, 80)}
	}
	b.Kind = catalog.BracketKinds[l.IntN(len(catalog.BracketKinds))].Kind
	if b.Kind.Properties().Tilts {
		b.TiltDown, b.TiltUp, b.TiltPivot = l.degrees(0, 5, 15), l.degrees(0, 5), &catalog.Pivot{BelowHook: Length(219), BehindArm: Length(18)}
	}
	if b.Kind.Properties().Swivels {
		b.Swivel, b.SwivelPivot, b.Reach = l.degrees(0, 30, 60, 90), &catalog.Pivot{BehindArm: Length(40)}, l.maybe(300, 480, 700)
	}
	if b.Kind.Properties().Swings && l.now(0.5) {
		b.ArmSwing = l.degrees(30, 90)
	}
	b.Profile, b.LiftOver = l.maybe(25, 40, 52, 70), l.maybe(15, 22)
	b.Mass, b.WallPlate.Height, b.WallPlate.Width = quantity.Some(quantity.Mass(l.of(1, 2, 5))*1000), l.maybe(200, 230, 500), l.maybe(300, 480)
	b.WallPlate.LateralSlide, b.WallPlate.Thickness = l.maybe(0, 60, 150), l.maybe(2, 3)
	b.WallPlate.StudsRequired = l.IntN(3)
	if l.now(0.2) {
		b.WallPlate.Count, b.WallPlate.StudsRequired = 2, 1
		b.WallPlate.SeparationRange = &fastener.Interval{Min: mm(200), Max: l.of(400, 600)}
	}
	if l.now(0.6) {
		b.Lock = &catalog.Lock{Access: []string{"", "below", "side", "front"}[l.IntN(4)]}
	}
	l.fasteners(b, &job.Wall)
	d.Mass, d.Depth = quantity.Some(quantity.Mass(l.of(4, 11, 14, 30))*1000), l.maybe(40, 61, 90)
	d.CGRight, d.CGAboveCenter = l.of(0, 0, 30, 90), l.of(0, 0, 50)
	if l.now(0.4) {
		d.Zones = append(d.Zones, catalog.Zone{Kind: "port", X: l.of(300, 400, -300), Y: l.of(-200, 0, 60), Width: mm(60), Height: mm(40),
			Plug: l.maybe(0, 30, 45), Setback: l.maybe(0, 15), Connector: []string{"", "HDMI", "IEC C13"}[l.IntN(3)], CableBend: l.maybe(20, 60)})
		if l.now(0.5) {
			d.Zones[0].FixedCable = l.maybe(800, 1500, 3000)
		}
	}
	policy.WallSchool = catalog.WallSchools[l.IntN(len(catalog.WallSchools))]
	if l.now(0.2) {
		job.Assume = catalog.Assumptions{Load: quantity.Some(quantity.Mass(l.of(10, 40)) * 1000), Reach: l.maybe(200, 600),
			Aside:       l.maybe(0, 100),
			Penetration: l.maybe(20, 45)}
	}
	return d, b, job, policy
}

// lot draws what is in a job.
type lot struct{ *rand.Rand }

func (l lot) now(share float64) bool { return l.Float64() < share }

func (l lot) of(all ...int64) quantity.Length { return mm(all[l.IntN(len(all))]) }

func (l lot) maybe(all ...int64) quantity.Optional[quantity.Length] {
	if l.now(0.05) {
		return quantity.Optional[quantity.Length]{}
	}
	return quantity.Some(l.of(all...))
}

func (l lot) degrees(all ...int64) quantity.Optional[quantity.Angle] {
	return quantity.Some(quantity.Angle(all[l.IntN(len(all))]) * quantity.Degree)
}

func (l lot) wall(w *catalog.Wall) {
	w.Type = catalog.WallTypes[l.IntN(len(catalog.WallTypes))]
	w.Width, w.Height, w.Covering = l.maybe(1200, 2400, 3600, 9000), l.maybe(1800, 2400, 3000), l.maybe(0, 0, 12, 16, 25)
	w.Cavity, w.Backing, w.Steel = l.maybe(0, 20, 60, 400), l.maybe(18, 38, 60, 89, 150, 300), l.maybe(0, 1, 2)
	w.BlockKind = []string{"", "", "solid", "hollow", "aerated", "old_brick"}[l.IntN(6)]
	w.BoardKind = []string{"", "ply", "osb", "particle"}[l.IntN(4)]
	w.Species = []string{"", "southern_pine", "spruce_pine_fir"}[l.IntN(3)]
	w.Treated, w.Vehicle, w.OpenLeft, w.OpenRight = l.now(0.1), l.now(0.1), l.now(0.3), l.now(0.3)
	if l.now(0.2) {
		people := l.now(0.5)
		w.PeopleBelow = &people
	}
	if l.now(0.3) {
		w.Niche = &catalog.Niche{X: l.of(1500, 1650, 1700), Width: l.of(1000, 1100, 1200, 2000), Bottom: l.of(900, 1100, 1180), Height: l.of(640,
			700, 900)}
	}
	for range l.IntN(3) {
		w.Outlets = append(w.Outlets, catalog.Outlet{X: l.of(1200, 1430, 1650, 2000, 2600), Y: l.of(300, 1300, 1500, 1690),
			Kind: []string{"power", "data", "switch"}[l.IntN(3)]})
	}
	for range l.IntN(3) {
		w.Furniture = append(w.Furniture, catalog.Furniture{X: l.of(600, 1300, 1650, 2500), Width: l.of(300, 600, 1200), Height: l.of(700,
			1100, 1190, 1400),
			Depth: l.maybe(300, 500)})
	}
	if l.now(0.15) {
		w.LetIn = &catalog.Backing{Thickness: l.of(12, 18, 24)}
	}
	if l.now(0.3) {
		w.Studs = &catalog.Studs{First: quantity.Some(l.of(100, 210, 300)), Spacing: l.maybe(140, 300, 406, 600), Width: l.maybe(30, 38, 45, 170)}
	}
}

// fasteners puts some for the wall into the bag and the bracket's table.
func (l lot) fasteners(b *catalog.Bracket, w *catalog.Wall) {
	kinds := w.Type.Properties().Fasteners
	if len(kinds) > 0 && l.now(0.85) {
		kind := kinds[l.IntN(len(kinds))]
		item := catalog.Item{Kind: kind, Diameter: l.of(5, 6, 8, 10, 12), Length: l.of(25, 60, 80, 100, 120), Count: 2 + l.IntN(6),
			RatingBasis: []string{"", "rated", "ultimate"}[l.IntN(3)]}
		if l.now(0.9) {
			item.Ratings = map[catalog.BaseMaterial]catalog.Rating{catalog.BaseMaterial(w.Type): {Pull: quantity.Mass(l.of(20, 60, 200)) * 1000,
				Shear: quantity.Mass(l.of(30, 90, 300)) * 1000}}
		}
		if l.now(0.3) {
			item.EmbedmentMin, item.EdgeMin, item.SpacingMin, item.Root = l.of(30, 50), l.of(20, 60), l.of(40, 120), l.of(4, 7)
		}
		b.Kit = append(b.Kit, item)
		drill := l.maybe(3, 4, 5, 6, 8, 10)
		if bit := kind.Properties().Bit; bit > 0 && l.now(0.8) {
			drill = quantity.Some(item.Diameter * quantity.Length(bit) / 10)
		} else if bit == 0 && l.now(0.8) {
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
		b.Walls[w.Type] = catalog.WallFixing{Drill: drill, Depth: l.maybe(40, 60, 80), Fasteners: []string{kind.String()},
			CoveringMax: l.maybe(16, 25, 30), PenetrationMin: l.maybe(10, 20, 30)}
	}
}

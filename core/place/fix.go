package place

import (
	"cmp"
	"slices"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/studs"
)

// Fixing is the second stage: the fasteners, their places on the wall, and their
// depth. Points are in the order they are marked: by plate, the top row from left to
// right, then the bottom row.
type Fixing struct {
	DatumX quantity.Length
	Points []Point
	Plates []quantity.Length // datum of each wall plate, from left to right
	Studs  []studs.Stud      // of the wall
	Choice anchorage.Choice
	Layers anchorage.Layers
	Hole   anchorage.Hole // for the points in studs

	ofStuds, ofAnchors []fit.Check // what the rules of that name found
	moveX              quantity.Optional[quantity.Length]
}

// fix computes the second stage.
func (s *setting) fix(h *Height) Fixing {
	b, kind := s.Pairing.Bracket, s.Job.Wall.Type
	x, _ := s.Pairing.Display.PatternCenter(s.Pairing.Pattern, s.Pairing.Turn)
	pattern := s.DisplayX + x.Value
	f := Fixing{Studs: studs.Studs(&s.Job.Wall, s.DisplayX), Choice: anchorage.Choose(b, &s.Job.Wall), Layers: anchorage.LayersOf(b,
		&s.Job.Wall)}
	f.Hole = anchorage.HoleFor(b, &f.Choice, &f.Layers)
	plate := s.plate(pattern, &f.Choice)
	f.DatumX = min(max(s.DisplayX, pattern-plate.Slide), pattern+plate.Slide)
	if kind == catalog.NoWall {
		f.ofStuds = []fit.Check{stated(fit.Unknown, quantity.Say("The job says nothing of its wall."),
			quantity.Say("Say what kind of wall it is, and where its studs are."))}
		return f
	}
	datum, plates := s.fixPlates(&plate, kind, f.Studs)
	var beside []studs.Point
	if kind.HasStuds() && plates == nil && s.Pairing.Policy.WallSchool == "stud_and_anchors" {
		var c *fit.Check
		plates, beside, c = s.studAndAnchors(&plate, &f)
		if plates != nil {
			datum = plates[0].Datum
		}
		if c != nil && beside == nil {
			f.ofAnchors = []fit.Check{*c}
		} else if c != nil {
			f.ofStuds = []fit.Check{*c}
		}
	}
	switch {
	case beside != nil:
	case kind.HasStuds():
		c, move := s.onStuds(&plate, &f, h, datum, plates)
		f.ofStuds, f.moveX = []fit.Check{c}, move
	default:
		f.ofStuds = []fit.Check{s.withoutStuds(&plate, kind, plates)}
	}
	if plates == nil {
		return f
	}
	f.DatumX = datum
	for i, fixed := range plates {
		number := 0
		if len(plates) > 1 {
			number = i + 1
		}
		f.Plates = append(f.Plates, fixed.Datum)
		for _, pt := range fixed.Points {
			f.Points = append(f.Points, s.point(h, pt, number, f.Hole))
		}
	}
	for _, pt := range beside {
		one := s.point(h, pt, 0, s.besideHole(&f))
		one.Beside = true
		f.Points = append(f.Points, one)
	}
	slices.SortStableFunc(f.Points, func(a, b Point) int {
		return cmp.Or(cmp.Compare(a.Plate, b.Plate), cmp.Compare(b.Y, a.Y), cmp.Compare(a.X, b.X))
	})
	return f
}

func (s *setting) point(h *Height, pt studs.Point, plate int, drill anchorage.Hole) Point {
	y := h.Datum + pt.Hole.Y
	return Point{Hole: pt.Hole.ID, Plate: plate, X: pt.X, Y: y, FromCentreLine: pt.X - s.DisplayX, BelowDisplayTop: h.Top - y, Drill: drill,
		Stud: pt.Stud}
}

// besideHole returns the hole for a fastener in the board beside the studs.
func (s *setting) besideHole(f *Fixing) anchorage.Hole {
	c := anchorage.Choice{Wall: catalog.HollowBoard, Item: *f.Choice.Beside}
	return anchorage.HoleFor(s.Pairing.Bracket, &c, &f.Layers)
}

// plate returns the bracket's wall plate for this display.
func (s *setting) plate(pattern quantity.Length, c *anchorage.Choice) studs.Plate {
	w := s.Pairing.Bracket.WallPlate
	diameter := 8 * quantity.Millimetre // the usual lag
	if c.Known() && c.Item.Diameter > 0 {
		diameter = c.Item.Diameter
	}
	plate := studs.Plate{
		Holes: w.Holes, Studs: max(1, w.StudsRequired), TopPerStud: w.TopPerStud, BotPerStud: w.BottomPerStud,
		Diameter: diameter, Find: s.Pairing.Policy.StudFind, Pattern: pattern, Slide: s.Pairing.Hang.Slide, Wanted: s.DisplayX,
	}
	if plate.TopPerStud+plate.BotPerStud == 0 {
		plate.TopPerStud, plate.BotPerStud = 1, 1
	}
	return plate
}

// fixPlates fixes the plate, or the two plates, to the wall: it returns their middle, and each
// one's place, nil if there is none.
func (s *setting) fixPlates(plate *studs.Plate, kind catalog.WallType, all []studs.Stud) (datum quantity.Length, plates []studs.Fixed) {
	if s.Pairing.Bracket.WallPlate.Count < 2 {
		f, ok := plate.Anywhere()
		if kind.HasStuds() {
			f, ok = plate.Fix(kind, all)
		}
		if !ok {
			return 0, nil
		}
		return f.Datum, []studs.Fixed{f}
	}
	pair := s.platePair(plate)
	if kind.HasStuds() {
		if f, ok := pair.Fix(kind, all); ok {
			return f.Middle, f.Plates[:]
		}
		return 0, nil
	}
	middle := min(max(plate.Wanted, plate.Pattern-plate.Slide), plate.Pattern+plate.Slide)
	for _, x := range s.Pairing.Bracket.PlatesAbout(middle, s.Pairing.Hang.Width) {
		one := pair.Plate
		one.Pattern, one.Wanted, one.Slide = x, x, 0
		f, ok := one.Anywhere()
		if !ok {
			return 0, nil
		}
		plates = append(plates, f)
	}
	return middle, plates
}

// platePair returns the bracket's two wall plates.
func (s *setting) platePair(plate *studs.Plate) *studs.Pair {
	pair := studs.Pair{Plate: *plate, Width: s.Pairing.Hang.Width}
	pair.Separation = fastener.Interval{Min: pair.Width, Max: pair.Width}
	if apart := s.Pairing.Bracket.WallPlate.SeparationRange; apart != nil {
		pair.Separation = *apart
	}
	return &pair
}

// Allowed returns the places of the display's middle, between two and from left to right, at which
// the plate finds its studs: with the datum under the middle
// if straight is set, else within the slide. It is for
// walls with studs.
func (p *Placement) Allowed(lo, hi quantity.Length, straight bool) fastener.Intervals {
	if !p.Known {
		return nil
	}
	return p.setting.allowed(&p.Fixing, lo, hi, straight)
}

func (s *setting) allowed(f *Fixing, lo, hi quantity.Length, straight bool) fastener.Intervals {
	kind := s.Job.Wall.Type
	if !kind.HasStuds() || s.Pairing.Hang.Slide < 0 {
		return nil
	}
	center, _ := s.Pairing.Display.PatternCenter(s.Pairing.Pattern, s.Pairing.Turn)
	x := center.Value
	plate := s.plate(s.DisplayX+x, &f.Choice)
	// The datum is within the slide of the pattern's middle, which is x from the
	// display's.
	slide := plate.Slide
	from, to := x-slide, x+slide
	if straight {
		if from > 0 || to < 0 {
			return nil // the datum cannot be under the display's middle
		}
		from, to = 0, 0
	}
	var data fastener.Intervals
	if s.Pairing.Bracket.WallPlate.Count < 2 {
		data = plate.Places(kind, f.Studs, lo+from, hi+to)
	} else {
		data = s.platePair(&plate).Places(kind, f.Studs, lo+from, hi+to)
	}
	var out fastener.Intervals
	for _, d := range data {
		if one, some := (fastener.Interval{Min: d.Min - to, Max: d.Max - from}).And(fastener.Interval{Min: lo, Max: hi}); some {
			out = append(out, one)
		}
	}
	return fastener.Union(nil, out)
}

package place

import (
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

func moved(t *testing.T, m Move, change change) (*catalog.Job, string) {
	t.Helper()
	p, job := site(change)
	before := *job
	out, said, err := m.Apply(p, job)
	if err != nil {
		t.Fatal(err)
	}
	if job.Place != before.Place || job.Wall.Width != before.Wall.Width {
		t.Error("the job that was given is changed")
	}
	var words []string
	for _, s := range said {
		words = append(words, s.In(quantity.Metric))
	}
	return out, strings.Join(words, " ")
}

// TestMoveDisplay: a display snaps to where its plate finds studs, to the
// wall's middle where that may be, and to the heights of the rules; free, it
// stays where it is put.
func TestMoveDisplay(t *testing.T) {
	// By hand, as in TestChecks: it may hang up to 1713.25 there, and between
	// 1829.2 − 4.05 − … the next stud: the wall's middle, 1800, is not allowed.
	for name, c := range map[string]struct {
		m      Move
		x, y   quantity.Length
		rule   string
		says   string
		change change
	}{
		"free": {Move{What: "display", X: mm(1734), Y: mm(1444)}, mm(1734), mm(1444), "center", "", nil},
		"onto the edge": {Move{What: "display", X: mm(1734), Y: mm(1500), Snap: true}, 1_713_250_000, mm(1500), "center",
			"As far as the plate finds its studs", nil},
		"straight": {Move{What: "display", X: 1_655_600_000, Y: mm(1500), Snap: true}, 1_653_250_000, mm(1500), "center",
			"right under the display", nil},
		"on the grid": {Move{What: "display", X: 1_680_400_000, Y: 1_444_300_000, Snap: true}, mm(1680), mm(1444), "center", "", nil},
		"the wall's middle": {Move{What: "display", X: mm(1806), Y: mm(1500), Snap: true}, mm(1800), mm(1500), "center", "Middle of the wall",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Type = "concrete" }},
		"past the wall's end": {Move{What: "display", X: mm(9000), Y: mm(1500)}, mm(3600), mm(1500), "center", "", nil},
		"under the floor":     {Move{What: "display", X: mm(1650), Y: mm(-50)}, mm(1650), 0, "center", "", nil},
		"eye height": {Move{What: "display", X: mm(1680), Y: mm(1606), Snap: true}, mm(1680), mm(1600), "eye", "eye height",
			func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.Eye = some(1600) }},
		"under the ceiling": {Move{What: "display", X: mm(1680), Y: mm(2079), Snap: true}, mm(1680), mm(2500 - 22 - 317), "center",
			"lifted over its hook",
			func(_ *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
				b.LiftOver, j.Wall.Height, j.Place.Eye = some(22), some(2500), some(900)
			}},
	} {
		if name == "under the ceiling" {
			c.m.Y = mm(2160)
		}
		job, said := moved(t, c.m, c.change)
		p, _ := site(nil)
		all := Place(p, job)
		if job.Place.X.Value != c.x || !strings.Contains(said, c.says) || c.says == "" && said != "" {
			t.Errorf("%s: at %s, %q", name, job.Place.X.Value, said)
		}
		if job.Place.Rule != c.rule || (all[0].Centre-c.y).Abs() > 1 {
			t.Errorf("%s: %s by %s, want %s by %s", name, all[0].Centre, job.Place.Rule, c.y, c.rule)
		}
	}
}

// TestMoveKeepsToTheArithmetic: wherever a display is dragged with snapping
// near to where it can hang, its plate finds its studs there.
func TestMoveKeepsToTheArithmetic(t *testing.T) {
	p, job := site(nil)
	hangs := 0
	for x := mm(600); x < mm(3000); x += 7 * quantity.Millimetre {
		out, _, err := Move{What: "display", X: x, Y: mm(1500), Snap: true}.Apply(p, job)
		if err != nil {
			t.Fatal(err)
		}
		one := Place(p, out)[0]
		near, ok := one.Allowed(x-snapOnto, x+snapOnto, false).Nearest(x)
		if ok && (near-x).Abs() <= snapOnto && len(one.Points) == 0 {
			t.Errorf("dragged to %s it is put at %s, where it does not hang; at %s it would", x, out.Place.X.Value, near)
		}
		if len(one.Points) > 0 {
			hangs++
		}
	}
	if hangs < 100 {
		t.Errorf("it hangs in %d places only", hangs)
	}
}

// TestMoveOthers: what else can be moved on a wall, and where it snaps to.
func TestMoveOthers(t *testing.T) {
	furnished := func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
		j.Place.X = some(1650)
		j.Wall.Furniture = []catalog.Furniture{{X: mm(1000), Width: mm(800), Height: mm(700)}}
		j.Wall.Outlets = []catalog.Outlet{{X: mm(2500), Y: mm(300)}}
		j.Wall.Niche = &catalog.Niche{X: mm(1500), Width: mm(1400), Bottom: mm(900), Height: mm(1200)}
		j.Wall.Height, j.Place.Surface, j.Place.Line = some(2600), some(700), some(2400)
	}
	marked := func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
		furnished(d, b, j)
		j.Wall.Studs = &catalog.Studs{At: []quantity.Length{mm(1800), mm(600)}}
	}
	told := func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
		furnished(d, b, j)
		j.Wall.Outlets[0].Stud = "left"
		j.Wall.Studs = &catalog.Studs{Outlet: quantity.Some(0), Spacing: some(400), Width: some(38)}
	}
	for name, c := range map[string]struct {
		m      Move
		change change
		is     func(*catalog.Job) bool
	}{
		"furniture": {Move{What: "furniture", X: mm(1645), Y: mm(812), Snap: true}, furnished, func(j *catalog.Job) bool {
			return j.Wall.Furniture[0].X == mm(1650) && j.Wall.Furniture[0].Height == mm(812)
		}},
		"an outlet, to a stud": {Move{What: "outlet", X: mm(2605), Y: mm(310), Snap: true}, furnished,
			func(j *catalog.Job) bool { return j.Wall.Outlets[0].X == 2_600_850_000 }}, // 2648.4 − 28.5 − 19.05
		"the niche": {Move{What: "niche", X: mm(1655), Y: mm(1600), Snap: true}, furnished,
			func(j *catalog.Job) bool { return j.Wall.Niche.X == mm(1650) && j.Wall.Niche.Bottom == mm(1000) }},
		"the ceiling": {Move{What: "ceiling", Y: mm(2700)}, furnished,
			func(j *catalog.Job) bool { return j.Wall.Height.Value == mm(2700) }},
		"the line": {Move{What: "line", Y: mm(2300)}, furnished,
			func(j *catalog.Job) bool { return j.Place.Line.Value == mm(2300) }},
		"the surface": {Move{What: "surface", Y: mm(650)}, furnished,
			func(j *catalog.Job) bool { return j.Place.Surface.Value == mm(650) }},
		"studs at a spacing": {Move{What: "stud", Index: 3, X: 1_439_200_000}, furnished,
			func(j *catalog.Job) bool { return j.Wall.Studs.First.Value == mm(220) }},
		"further than the first": {Move{What: "stud", Index: 0, X: 0}, furnished,
			func(j *catalog.Job) bool { return j.Wall.Studs.First.Value == 0 }},
		"a marked stud": {Move{What: "stud", Index: 0, X: mm(650)}, marked,
			func(j *catalog.Job) bool { return j.Wall.Studs.At[0] == mm(650) && j.Wall.Studs.At[1] == mm(1800) }},
		"studs told by an outlet": {Move{What: "stud", Index: 1, X: mm(460)}, told, func(j *catalog.Job) bool {
			return !j.Wall.Studs.Outlet.Known && j.Wall.Studs.First.Value == mm(460)%mm(400)
		}},
	} {
		if job, _ := moved(t, c.m, c.change); !c.is(job) {
			t.Errorf("%s: %+v %+v %+v", name, job.Wall.Studs, job.Wall, job.Place)
		}
	}
	p, job := site(furnished)
	for _, m := range []Move{{What: "stud", Index: 99}, {What: "furniture", Index: -1}, {What: "outlet", Index: 1},
		{What: "display", Index: 1}, {What: "wall"}} {
		if _, _, err := m.Apply(p, job); err == nil {
			t.Errorf("%+v is moved", m)
		}
	}
	job.Wall.Niche = nil
	if _, _, err := (Move{What: "niche"}).Apply(p, job); err == nil {
		t.Error("a niche that is not there is moved")
	}
	things := map[string]int{}
	for _, thing := range Movables(Place(p, job)) {
		things[thing.What]++
		if thing.Tag() == "" || thing.Name.Empty() {
			t.Errorf("%+v", thing)
		}
	}
	if things["stud"] != 9 || things["display"] != 1 || things["outlet"] != 1 || things["ceiling"] != 1 {
		t.Error(things)
	}
}

// TestMoveRun: a run moves as a whole, whichever display is taken.
func TestMoveRun(t *testing.T) {
	run := func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
		j.Wall.Type, j.Run = "concrete", &catalog.Run{Count: 3, Gap: mm(12)}
	}
	job, _ := moved(t, Move{What: "display", Index: 2, X: mm(1800 + 1107 + 30), Y: mm(1500)}, run)
	if job.Place.X.Value != mm(1830) {
		t.Error(job.Place.X)
	}
	p, _ := site(run)
	for i, one := range Place(p, job) {
		if one.DisplayX != mm(1830)+mm(1107)*quantity.Length(i-1) {
			t.Error(i, one.DisplayX)
		}
	}
}

// TestMoveRunHelps: where one display of a run finds no studs, the whole run's
// way to where all do is told, and there they do.
func TestMoveRunHelps(t *testing.T) {
	p, job := site(func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
		j.Run = &catalog.Run{Count: 2, Gap: mm(12)}
	})
	all := Place(p, job)
	remedy := ""
	for i := range all {
		if c := check(&all[i], "studs"); c.Status == fit.Fail {
			remedy = c.Remedy.In(quantity.Metric)
		}
	}
	if !strings.Contains(remedy, "whole run") {
		t.Fatalf("%q", remedy)
	}
	if strings.Contains(remedy, "Move the whole run") {
		fields := strings.Fields(remedy)
		by, err := quantity.ParseLength(fields[4]+" mm", quantity.Millimetre)
		if err != nil {
			t.Fatal(err)
		}
		if strings.Contains(remedy, "left") {
			by = -by
		}
		if exact := all[0].MoveX; !exact.Known || (exact.Value.Abs().Ceil(quantity.Millimetre/2)-by.Abs()) != 0 {
			t.Errorf("it moves by %v, and says %q", exact, remedy)
		}
		job.Place.X = quantity.Some(all[0].runMiddle(2) + all[0].MoveX.Value)
		for i, one := range Place(p, job) {
			if len(one.Points) != 4 {
				t.Errorf("after %q display %d does not hang", remedy, i+1)
			}
		}
	}
}

func BenchmarkMove(b *testing.B) {
	p, job := site(nil)
	for b.Loop() {
		if _, _, err := (Move{What: "display", X: mm(1700), Y: mm(1500), Snap: true}).Apply(p, job); err != nil {
			b.Fatal(err)
		}
	}
}

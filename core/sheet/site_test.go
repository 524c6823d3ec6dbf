package sheet

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/draw/drawtest"
	"nexufix/core/draw/pairing"
	"nexufix/core/draw/wall"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/place/placetest"
	"nexufix/core/quantity"
)

// dots are the points to drill that a template shows, by the number it gives
// them; from the first datum, in millimetres.
func dots(d *drawing.Drawing) map[int]drawing.Point {
	at, numbers := map[string]drawing.Point{}, map[string]int{}
	for _, i := range d.Items {
		if !strings.HasPrefix(i.Tag, "point.") {
			continue
		}
		switch s := i.Shape.(type) {
		case drawing.Circle:
			if i.Style == drawing.Solid {
				at[i.Tag] = s.Center
			}
		case drawing.Text:
			if n, ok := strings.CutPrefix(s.Text.In(quantity.Metric), "drill "); ok {
				numbers[i.Tag], _ = strconv.Atoi(n)
			}
		}
	}
	out := map[int]drawing.Point{}
	for tag, p := range at {
		out[numbers[tag]] = p
	}
	return out
}

// rows are the rows of a card's table of points.
func rows(d *drawing.Drawing) [][]string {
	var out [][]string
	last := math.NaN()
	for _, i := range d.Items {
		t, ok := i.Shape.(drawing.Text)
		if !ok || i.Tag != "card.row" || !t.Strong {
			continue
		}
		if t.At.Y != last {
			out, last = append(out, nil), t.At.Y
		}
		out[len(out)-1] = append(out[len(out)-1], t.Text.In(quantity.Metric))
	}
	return out
}

// TestCardAndTemplateAgree: a person with only the card, who measures what it
// says from the wall's end and the floor, and one with only the template, who
// tapes it up by its own lines, mark the same points, to the half millimetre
// that a tape can be read to.
func TestCardAndTemplateAgree(t *testing.T) {
	for name, site := range placetest.Sites {
		p, all := site()
		tpl, card := DrillTemplate(p, Sheet{Places: all}), MeasureCard(p, Sheet{Places: all})
		marked := dots(tpl)
		count := 0
		for i := range all {
			count += len(all[i].Points)
		}
		table := rows(card)
		if count == 0 || len(marked) != count || len(table) != count {
			t.Fatalf("%s: %d points, %d on the template, %d on the card", name, count, len(marked), len(table))
		}
		for n, cells := range table {
			number, _ := strconv.Atoi(cells[0])
			if number != n+1 {
				t.Errorf("%s: row %d is numbered %s", name, n+1, cells[0])
			}
			display := 0
			if _, of, ok := strings.Cut(cells[1], " of "); ok {
				display, _ = strconv.Atoi(of)
				display--
			}
			across, up, floor := figureOf(t, cells[2], "left"), figureOf(t, cells[3], "down"), figureOf(t, cells[4], "")
			if math.Abs(all[0].Datum.MM()+up-floor) > 0.51 {
				t.Errorf("%s %d: %g above the level line, %g above the floor", name, number, up, floor)
			}
			// The template's level line and first datum are where the card says.
			x := all[display].DisplayX.MM() + across - all[0].DatumX.MM()
			if q := marked[number]; math.Abs(q.X-x) > 0.26 || math.Abs(q.Y-up) > 0.26 {
				t.Errorf("%s %d: the card says %.2f, %.2f, the template %.2f, %.2f", name, number, x, up, q.X, q.Y)
			}
		}
	}
}

// figureOf reads "185.5 mm right"; what is on the negative side is negative.
func figureOf(t *testing.T, text, negative string) float64 {
	t.Helper()
	number, rest, _ := strings.Cut(text, " mm")
	f, err := strconv.ParseFloat(number, 64)
	if err != nil {
		t.Fatalf("%q: %v", text, err)
	}
	if negative != "" && strings.Contains(rest, negative) {
		return -f
	}
	return f
}

// TestEveryPointIsExact: template and wall show every point where it was
// computed, within 0.001 mm, and every hole where its plate has it.
func TestEveryPointIsExact(t *testing.T) {
	for name, site := range placetest.Sites {
		p, all := site()
		tpl, picture := DrillTemplate(p, Sheet{Places: all}), wall.Elevation(all)
		marked := dots(tpl)
		for i := range all {
			for n := range all[i].Points {
				pt := &all[i].Points[n]
				q := marked[wall.Number(all, i, n)]
				if math.Abs(q.X-(pt.X-all[0].DatumX).MM()) > 0.001 || math.Abs(q.Y-(pt.Y-all[0].Datum).MM()) > 0.001 {
					t.Errorf("%s: %s is drawn at %v", name, pt.Hole, q)
				}
				tag := "point." + wall.PointName(&all[i], pt, len(all))
				found := false
				for _, item := range picture.Items {
					if c, ok := item.Shape.(drawing.Circle); ok && item.Tag == tag {
						found = math.Abs(c.Center.X-pt.X.MM()) < 0.001 && math.Abs(c.Center.Y-pt.Y.MM()) < 0.001
					}
				}
				if !found {
					t.Errorf("%s: the wall does not show %s at %s, %s", name, tag, pt.X, pt.Y)
				}
			}
			for plate, datum := range all[i].Plates {
				for _, h := range p.Bracket.WallPlate.Holes {
					id := h.ID
					if len(all[i].Plates) > 1 {
						id = fmt.Sprintf("p%d-%s", plate+1, id)
					}
					if len(all) > 1 {
						id = fmt.Sprintf("d%d-%s", i+1, id)
					}
					x0, x1, _, _ := drawtest.Extent(tpl, "hole."+id)
					if want := (datum + h.X - all[0].DatumX).MM(); math.Abs((x0+x1)/2-want) > 0.001 {
						t.Errorf("%s: hole %s is drawn at %g, want %g", name, id, (x0+x1)/2, want)
					}
				}
			}
		}
	}
}

// TestWhatIsShown: parts can be left out; points to drill cannot.
func TestWhatIsShown(t *testing.T) {
	p, all := placetest.Studs()
	whole := DrillTemplate(p, Sheet{Places: all})
	tags := map[string]string{"outline": "template.outline", "studs": "template.stud", "plate": "template.plate", "hook": "template.hook",
		"holes": "hole.T2"}
	has := func(d *drawing.Drawing, tag string) bool {
		for _, i := range d.Items {
			if strings.HasPrefix(i.Tag, tag) {
				return true
			}
		}
		return false
	}
	for part, tag := range tags {
		less := DrillTemplate(p, Sheet{Places: all, Hide: []string{part}})
		if !has(whole, tag) || has(less, tag) {
			t.Errorf("%s: %v, hidden %v", part, has(whole, tag), has(less, tag))
		}
	}
	bare := DrillTemplate(p, Sheet{Places: all, Hide: Shows})
	if len(dots(bare)) != len(all[0].Points) || len(bare.Items) >= len(whole.Items) {
		t.Errorf("%d points of %d", len(dots(bare)), len(all[0].Points))
	}
	for _, d := range []*drawing.Drawing{whole, bare, MeasureCard(p, Sheet{Places: all}), MeasureCard(p, Sheet{})} {
		said := fmt.Sprint(drawtest.Texts(d, quantity.Metric))
		if !strings.Contains(said, "Local codes") && !strings.Contains(said, "local codes") || !strings.Contains(said, "cables and pipes") {
			t.Errorf("%s does not defer: %s", d.Title, said)
		}
	}
}

// TestSheetsSayNoDrilling: what fails on a wall stands on its sheets, first.
func TestSheetsSayNoDrilling(t *testing.T) {
	p, all := placetest.Studs()
	job := *all[0].Job
	job.Wall.Covering, job.Assume.Load = catalogtest.Length(17), quantity.Some(4000*quantity.Kilogram)
	bad := place.Place(p, &job)
	for _, d := range []*drawing.Drawing{DrillTemplate(p, Sheet{Places: bad}), MeasureCard(p, Sheet{Places: bad})} {
		said := drawtest.Texts(d, quantity.Metric)
		if !strings.Contains(said, "Do not install: 17 mm of covering") || !strings.Contains(said, "Do not install: The fastener in") {
			t.Errorf("%s: %s", d.Title, said)
		}
	}
	if said := drawtest.Texts(DrillTemplate(p, Sheet{Places: all}), quantity.Metric); strings.Contains(said, "Do not drill") {
		t.Error(said)
	}
}

// TestOddWalls: what nobody has is drawn without a wrong line, or not at all:
// every coordinate is a number, and every text as long as its place allows.
func TestOddWalls(t *testing.T) {
	long := strings.Repeat("<b>&amp; Ünïcode \n", 300)
	for name, change := range map[string]func(*catalog.Display, *catalog.Bracket, *catalog.Job){
		"no studs":      func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Studs = nil },
		"narrow":        func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Width = catalogtest.Length(300) },
		"under a floor": func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Place.Center = catalogtest.Length(0) },
		"a low ceiling": func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) { j.Wall.Height = catalogtest.Length(100) },
		"100 m": func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Width = catalogtest.Length(100_000)
		},
		"dense studs": func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Studs.Spacing = catalogtest.Length(5)
		},
		"a hundred displays": func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Type, j.Wall.Width, j.Run = "concrete", catalogtest.Length(100_000), &catalog.Run{Count: 80, Gap: quantity.MM(5)}
		},
		"long names": func(d *catalog.Display, b *catalog.Bracket, j *catalog.Job) {
			d.Model, b.Name, j.ID = long, long, long
			j.Wall.Furniture = []catalog.Furniture{{Name: long, X: quantity.MM(500), Width: quantity.MM(400), Height: quantity.MM(300)}}
		},
		"everything": func(_ *catalog.Display, _ *catalog.Bracket, j *catalog.Job) {
			j.Wall.Outlets = []catalog.Outlet{{X: 0, Y: 0}, {X: quantity.MM(3600), Y: quantity.MM(20_000)}}
			j.Wall.Niche = &catalog.Niche{X: quantity.MM(100), Width: quantity.MM(9000), Bottom: 0, Height: quantity.MM(1)}
			j.Place.Surface, j.Place.Line = catalogtest.Length(20_000), catalogtest.Length(0)
		},
	} {
		d, b := catalogtest.Pair()
		b.Profile, b.WallPlate.LateralSlide = catalogtest.Length(52), catalogtest.Length(60)
		job := &catalog.Job{ID: "odd", Wall: catalog.Wall{Type: "wood_stud", Width: catalogtest.Length(3600),
			Studs: &catalog.Studs{First: catalogtest.Length(210), Spacing: catalogtest.Length(406)}},
			Place: catalog.Place{Rule: "center", Center: catalogtest.Length(1500), X: catalogtest.Length(1700)}}
		change(d, b, job)
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		all := place.Place(&p, job)
		for _, pic := range []*drawing.Drawing{wall.Elevation(all), wall.Holding(&all[0]), wall.BuildUp(&all[0]),
			DrillTemplate(&p, Sheet{Places: all}), MeasureCard(&p, Sheet{Places: all}), pairing.Side(&p, 0, &all[0])} {
			if pic != nil {
				sound(t, name, pic)
			}
		}
	}
}

// sound reports whether every coordinate of a drawing is a number in reason, and
// its frame is one.
func sound(t *testing.T, name string, d *drawing.Drawing) {
	t.Helper()
	if !(d.Width() > 0 && d.Height() > 0 && d.Width() < 200_000 && d.Height() < 200_000) {
		t.Errorf("%s: %s is %g × %g", name, d.Title, d.Width(), d.Height())
	}
	check := func(p drawing.Point) {
		if math.IsNaN(p.X+p.Y) || math.Abs(p.X)+math.Abs(p.Y) > 500_000 {
			t.Errorf("%s: %s has a point at %v", name, d.Title, p)
		}
	}
	for _, i := range d.Items {
		switch s := i.Shape.(type) {
		case drawing.Line:
			for _, p := range s.Points {
				check(p)
			}
		case drawing.Polygon:
			for _, p := range s.Points {
				check(p)
			}
		case drawing.Circle:
			check(s.Center)
		case drawing.Text:
			check(s.At)
			if text := s.Text.In(quantity.Imperial); len([]rune(text)) > 400 || strings.Contains(text, "\n") {
				t.Errorf("%s: %s says %.60q…, %d letters", name, d.Title, text, len([]rune(text)))
			}
		}
	}
}

func BenchmarkElevation(b *testing.B) {
	_, all := placetest.Studs()
	for b.Loop() {
		wall.Elevation(all)
	}
}

package anchorage

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// figure is a number with many digits, of which the last ones are noise.
var figure = regexp.MustCompile(`-?\d+\.\d{5,}(e[+-]\d+)?`)

// TestStrengthsStayAsTheyAre: which fastener is chosen for walls and brackets drawn by lot, where it ends, what is drilled for it, and what
// it holds, are what testdata/answers.txt has (see [lots.SameAnswers]).
func TestStrengthsStayAsTheyAre(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 13))
	var out strings.Builder
	for n := range 400 {
		_, b, job, _ := catalogtest.Drawn(r)
		c := Choose(b, &job.Wall)
		l := LayersOf(b, &job.Wall)
		gravity := SpecificGravity(job.Wall.Species)
		hole := HoleFor(b, &c, &l)
		rating, rated := c.Rating(&l)
		fmt.Fprintf(&out, "case %d: %s, %s %s|%s, of %v %v\n", n, job.Wall.Type, c.Label(), c.Wrong.In(quantity.Metric),
			c.Unclear.In(quantity.Metric), rating, rated)
		fmt.Fprintf(&out, " layers %v, hole %v, bore %v\n", l, hole, BoreOf(&c, &hole, gravity))
		fmt.Fprintf(&out, " bears %v, embedded %v, in wood %v, depth %v\n", BearingOf(b, &c), Embedment(&c, &l), Penetration(b, &c, &l),
			Effective(&c, &l))
		if !c.Sound() || !l.Plate.Known || !l.Covering.Known || !l.Cavity.Known || !l.Backing.Known {
			continue
		}
		a := loaded(r, Case{Choice: c, Layers: l, Gravity: gravity, Vehicle: job.Wall.Vehicle}).Assess()
		for _, line := range strings.Split(fmt.Sprintf(" %v\n bent %v, tested %v %v, leaned on %v %v, aside %v\n", a.Straight, a.Bending,
			a.TypeTest, a.TypeTestRated, a.Handling, a.Leaned, a.SwungRated)+
			fmt.Sprintf(" %v: worst %v, straight %v, aside %v, %v %v %v\n", a.Rated, a.Strength, a.SquareRated, a.Swung, a.Moment, a.Shares,
				a.Cones), "\n") {
			out.WriteString(figure.ReplaceAllStringFunc(line, func(s string) string {
				x, _ := strconv.ParseFloat(s, 64) // it is one
				return strconv.FormatFloat(x, 'g', 6, 64)
			}) + "\n")
		}
	}
	lots.SameAnswers(t, out.String())
}

// loaded draws where the fasteners are, and how the display hangs on them.
func loaded(r *rand.Rand, c Case) *Case {
	of := func(all ...int64) quantity.Length { return quantity.MM(all[r.IntN(len(all))]) }
	for _, plate := range []int{0, 1}[:1+r.IntN(2)] {
		for _, y := range []int64{1400, 1590} {
			for range 1 + r.IntN(2) {
				c.Points = append(c.Points, Point{X: of(40, 200, 1430, 1650, 1836) + quantity.MM(int64(400*plate)), Y: quantity.MM(y), Plate: plate})
			}
		}
	}
	if c.Choice.Beside != nil && r.IntN(2) == 0 {
		c.Points[0].Beside = true
	}
	c.LowerEdge = quantity.MM(1350)
	c.Bounds = Bounds{Left: quantity.Some(quantity.Length(0)), Right: quantity.Some(of(1900, 3600)), Bottom: quantity.Some(of(0, 1300)),
		Top: quantity.Some(of(1700, 2600))}
	f := func(all ...float64) float64 { return all[r.IntN(len(all))] }
	c.Hanging = Hanging{Display: f(80, 200, 400), Own: f(10, 50), DatumX: 1633, CGX: f(1600, 1650, 1800), Profile: 52, Reach: f(52, 300, 600),
		ZHalf: f(20, 45), Behind: f(0, 40), Arm: f(0, 30, 90), Head: f(0, 30, 60), Left: 1100, Right: 2200, Handling: f(0, 180, 450),
		Leans: r.IntN(2) == 0, Pulled: r.IntN(2) == 0, PulledAt: f(-300, -100, 20), PlateHeight: 230}
	if r.IntN(3) == 0 {
		c.Left = f(0.7, 0.5)
	}
	if r.IntN(4) == 0 && c.Choice.Wall.Holds() == catalog.Wood {
		c.Penetration = quantity.Some(of(20, 45))
	}
	return &c
}

package studs

import (
	"fmt"
	"testing"
	"time"

	"nexufix/core/quantity"
)

// TestHostilePlates: plates and walls that nobody has, as large as the format
// takes them, are answered in good time.
func TestHostilePlates(t *testing.T) {
	var studs, double []Stud
	for i := range quantity.Length(1000) {
		studs = append(studs, Stud{i * mm(5), mm(38)})
		double = append(double, Stud{i * mm(38), mm(38)})
	}
	p := Plate{Studs: 20, TopPerStud: 20, BotPerStud: 20, Diameter: mm(8), Find: mm(3), Slide: mm(2000), Pattern: mm(2500), Wanted: mm(2500)}
	for i := range int64(100) {
		p.Holes = append(p.Holes, hole(fmt.Sprint("t", i), "top", 10*i-500, 90, 37), hole(fmt.Sprint("b", i), "bottom", 10*i-500, -90, 37))
	}
	for name, all := range map[string][]Stud{"5 mm apart": studs, "side by side": double} {
		for _, perStud := range []int{20, 2} { // two would do, were they not too close together
			p.TopPerStud, p.BotPerStud = perStud, perStud
			start := time.Now()
			f, ok := p.Fix("wood_stud", all)
			where := p.Places("wood_stud", all, mm(500), mm(4500))
			t.Logf("%s, %d a stud: %v, %d places, after %s", name, perStud, ok, len(where), time.Since(start))
			if ok != (len(where) > 0) || ok && len(f.Points) != 20*2*perStud {
				t.Errorf("%s, %d a stud: %v, %d places", name, perStud, ok, len(where))
			}
		}
	}
}

package place

import (
	"fmt"
	"testing"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TestHostileJobs: a run of two displays, on plates of two hundred slots,
// on a thousand studs, is answered in good time.
func TestHostileJobs(t *testing.T) {
	for _, perStud := range []int{2, 20} {
		d, b, job := sitePair()
		w := b.WallPlate
		w.StudsRequired, w.TopPerStud, w.BottomPerStud = 20, perStud, perStud
		w.LateralSlide, w.Holes = some(2000), nil
		b.Interface.RailWidth = some(5000)
		for i := range int64(100) {
			for _, row := range []string{"top", "bottom"} {
				w.Holes = append(w.Holes, catalog.PlateHole{ID: fmt.Sprint(row[:1], i), Row: row, Shape: "slot_h", X: mm(10*i - 500),
					Y: map[string]quantity.Length{"top": mm(60), "bottom": mm(-60)}[row], Travel: mm(37), Diameter: mm(9)})
			}
		}
		job.Wall.Width, job.Run = some(100_000), &catalog.Run{Count: 2}
		job.Wall.Studs = &catalog.Studs{Width: some(38)}
		for i := range int64(1000) {
			job.Wall.Studs.At = append(job.Wall.Studs.At, mm(48_000+5*i))
		}
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		start := time.Now()
		all := Place(&p, job)
		t.Logf("%d a stud: %d displays after %s", perStud, len(all), time.Since(start))
		if len(all) != 2 {
			t.Error(len(all))
		}
	}
}

package demo

import (
	"fmt"
	"strings"

	"nexufix/exchange"
)

// Many are so many displays, from a number on, of a catalogue that is made up to measure large ones.
func Many(from, many int) (*exchange.Contents, error) {
	var doc strings.Builder
	doc.WriteString(`{"format":"nexufix/1","displays":[`)
	for i := from; i < from+many; i++ {
		if i > from {
			doc.WriteByte(',')
		}
		fmt.Fprintf(&doc, `{"id":"d%05d","maker":"Maker %d","model":"Model %d","diagonal_mm":%d,"width_mm":%d.5,"height_mm":%d,
			"depth_mm":%d,"mass_kg":%d.25,"patterns":[{"width_mm":200,"height_mm":200,"thread":"M6","center_below_top_mm":300,
			"rows":{"top":{"thread_depth_mm":14},"bottom":{"setback_mm":%d,"thread_depth_mm":14}}}],
			"zones":[{"kind":"port","x_mm":100,"y_mm":-50,"width_mm":90,"height_mm":40,"plug_mm":45}]}`,
			i, i%40, i, 600+i%1500, 500+i%1300, 300+i%800, 30+i%60, 3+i%50, i%12)
	}
	doc.WriteString(`]}`)
	return exchange.Read([]byte(doc.String()))
}

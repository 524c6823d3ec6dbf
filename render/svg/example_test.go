package svg_test

import (
	"fmt"
	"strings"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/render/svg"
)

// A drawing is made in millimetres; one value is written as SVG, PDF and DXF.
func Example() {
	d := &drawing.Drawing{Title: "A plate", Max: drawing.Point{X: 100, Y: 60}, Pen: 0.25, TextHeight: 3}
	d.Line("plate.edge", drawing.Outline, 10, 10, 90, 10)
	d.Label("plate.width", 50, 14, drawing.Middle, "%v", 80*quantity.Millimetre)
	_, inside, _ := strings.Cut(string(svg.Write(d, svg.Options{})), "</title>")
	fmt.Println(strings.ReplaceAll(inside, "><", ">\n<"))
	// Output:
	// <polyline points="10,50 90,50" fill="none" stroke="#222226" stroke-width="0.4" class="s-outline" data-tag="plate.edge"/>
	// <text x="50" y="46" font-size="4.286" text-anchor="middle" fill="#222226" class="s-text" data-tag="plate.width">80 mm</text>
	// </svg>
}

// Package render has what the writers of drawings and steps share: the pen and the fill of each
// [drawing.Style], the letters of the embedded fonts,
// and the width of a text in them.
//
// A picture is a [drawing.Drawing], made in core from figures and tagged with what it shows. The
// subpackages write that value: svg for the screen and for a file, pdf whole or in tiles at 1:1, dxf
// for CAD and plotters. Step sequences are written by pdf (the pack), html (a page for a telephone) and
// markdown. None of them computes geometry.
package render

import "nexufix/core/drawing"

// Ink is a colour as red, green and blue; nil is no ink.
type Ink *[3]uint8

// Pen is how a style is drawn on paper. Width and Dash are multiples of the
// drawing's pen.
type Pen struct {
	Stroke, Fill Ink
	Width        float64
	Dash         []float64
}

func ink(r, g, b uint8) Ink { return &[3]uint8{r, g, b} }

var (
	dark  = ink(34, 34, 38)
	mid   = ink(96, 96, 104)
	faint = ink(168, 168, 174)
)

var pens = map[drawing.Style]Pen{
	drawing.Outline:   {Stroke: dark, Width: 1.6},
	drawing.Thin:      {Stroke: dark, Width: 0.8},
	drawing.Hidden:    {Stroke: mid, Width: 1, Dash: []float64{12, 6}},
	drawing.Centre:    {Stroke: mid, Width: 0.8, Dash: []float64{24, 6, 4, 6}},
	drawing.Dim:       {Stroke: mid, Width: 0.8},
	drawing.Level:     {Stroke: dark, Width: 1.2},
	drawing.Solid:     {Fill: dark},
	drawing.Body:      {Stroke: mid, Fill: ink(246, 244, 239), Width: 1},
	drawing.Panel:     {Stroke: dark, Fill: ink(196, 206, 214), Width: 1.2},
	drawing.InsertFil: {Stroke: dark, Fill: ink(226, 205, 150), Width: 1},
	drawing.Bolt:      {Stroke: dark, Fill: ink(214, 216, 220), Width: 1.4},
	drawing.Washer:    {Stroke: dark, Fill: ink(234, 234, 238), Width: 1.2},
	drawing.Spacer:    {Stroke: dark, Fill: ink(238, 224, 214), Width: 1.2},
	drawing.Plate:     {Stroke: dark, Fill: ink(228, 232, 236), Width: 1.4},
	drawing.Clear:     {Stroke: faint, Fill: ink(255, 255, 255), Width: 0.6},
	drawing.Arm:       {Stroke: dark, Fill: ink(222, 228, 234), Width: 1.2},
	drawing.Slot:      {Stroke: dark, Fill: ink(255, 255, 255), Width: 1},
	drawing.Zone:      {Stroke: mid, Fill: ink(240, 236, 224), Width: 1, Dash: []float64{6, 4}},
	drawing.Hatch:     {Stroke: faint, Width: 0.5},
	drawing.Glass:     {Stroke: dark, Width: 1.8},
	drawing.Ground:    {Stroke: dark, Fill: ink(252, 251, 248), Width: 1.4},
	drawing.Wood:      {Stroke: mid, Fill: ink(240, 228, 206), Width: 0.8},
	drawing.Over:      {Stroke: ink(150, 30, 20), Fill: ink(196, 60, 40), Width: 1},
}

// PenFor returns the pen of a style.
func PenFor(s drawing.Style) Pen { return pens[s] }

package exchange

import (
	"nexufix/core/place"
	"nexufix/core/quantity"
)

// Placement is one display of a job on its wall.
type Placement struct {
	Job          string       `json:"job" required:"true"`
	RunIndex     int          `json:"run_index,omitempty"`
	CenterHeight *MM          `json:"center_height_mm"`
	TopHeight    *MM          `json:"top_height_mm"`
	BottomHeight *MM          `json:"bottom_height_mm"`
	DatumHeight  *MM          `json:"datum_height_mm"`
	DisplayX     *MM          `json:"display_x_mm"`
	DatumX       *MM          `json:"datum_x_mm"`
	Shift        *MM          `json:"shift_mm"`
	Points       []PlacePoint `json:"points" required:"true"`
	WallToFront  *MM          `json:"wall_to_front_mm"`
	Gap          *MM          `json:"gap_mm"`
	Checks       []Check      `json:"checks" required:"true"`
}

// PlacePoint is a place to drill.
type PlacePoint struct {
	Hole            string `json:"hole" required:"true"`
	Plate           int    `json:"plate,omitempty"`
	X               MM     `json:"x_mm" required:"true"`
	Y               MM     `json:"y_mm" required:"true"`
	FromCenterLine  MM     `json:"from_center_line_mm" required:"true"`
	BelowDisplayTop MM     `json:"below_display_top_mm" required:"true"`
	Drill           *MM    `json:"drill_mm"`
	Depth           *MM    `json:"depth_mm"`
	MakerDepth      *MM    `json:"maker_depth_mm"`
	Fastener        string `json:"fastener"`
}

// PlacementOf writes a placement in the format. What is not known is null.
func PlacementOf(p *place.Placement) Placement {
	out := Placement{Job: p.Job.ID, RunIndex: p.RunIndex, Points: []PlacePoint{}, WallToFront: mmOpt(p.ToFront), Gap: mmOpt(p.Gap), Checks: []Check{}}
	if p.Known {
		out.CenterHeight, out.TopHeight, out.BottomHeight, out.DatumHeight = mmOf(p.Centre), mmOf(p.Top), mmOf(p.Bottom), mmOf(p.Datum)
		out.DisplayX, out.DatumX, out.Shift = mmOf(p.DisplayX), mmOf(p.DatumX), mmOf(p.Shift())
	}
	for _, pt := range p.Points {
		out.Points = append(out.Points, PlacePoint{pt.Hole, pt.Plate, MM(pt.X), MM(pt.Y), MM(pt.FromCentreLine), MM(pt.BelowDisplayTop),
			mmOpt(pt.Drill.Diameter), mmOpt(pt.Drill.Depth), mmOpt(pt.Drill.Maker), pt.Drill.Fastener})
	}
	for _, c := range p.Checks {
		out.Checks = append(out.Checks, checkOf(c, quantity.Metric))
	}
	return out
}

package wall

import (
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// usual are the kinds of part that go into a wall when its bracket does not
// say, in order of preference (practice).
var usual = map[catalog.WallType][]catalog.ItemKind{
	"wood_stud": {"lag", "screw"}, "timber_board": {"screw", "lag"}, "thin_backer": {"screw", "lag"},
	"concrete": {"anchor", "lag"}, "block": {"anchor", "lag"}, "lined_masonry": {"anchor", "lag"},
	"metal_stud": {"anchor", "lag"}, "hollow_board": {"anchor", "lag"},
}

// Fastener is the part of a bracket's kit that goes into a type of wall: of
// the kind or by the name that the bracket's figures for it say, else of the
// usual kind. False when the kit has none.
func Fastener(b *catalog.Bracket, kind catalog.WallType) (catalog.Item, bool) {
	said := first0(b.Walls[kind].Fasteners)
	kinds := usual[kind]
	switch said {
	case "lag", "screw", "anchor":
		kinds = append([]catalog.ItemKind{catalog.ItemKind(said)}, kinds...)
	case "":
	default:
		for _, i := range b.Kit {
			if (i.Kind == "anchor" || i.Kind == "screw") && strings.Contains(strings.ToLower(i.Name), strings.ToLower(said)) {
				return i, true
			}
		}
	}
	for _, k := range kinds {
		if i, ok := first(b, k); ok {
			return i, true
		}
	}
	return catalog.Item{}, false
}

func first(b *catalog.Bracket, kind catalog.ItemKind) (catalog.Item, bool) {
	for _, i := range b.Kit {
		if i.Kind == kind {
			return i, true
		}
	}
	return catalog.Item{}, false
}

// Anchor is the kit's anchor: what takes a lag in masonry, or stands alone; one
// with a rating before others.
func Anchor(b *catalog.Bracket) (catalog.Item, bool) {
	for _, i := range b.Kit {
		if i.Kind == "anchor" && i.Pull > 0 && i.Shear > 0 {
			return i, true
		}
	}
	return first(b, "anchor")
}

// Rated is what one anchor may hold, pulled and across, in newtons; an
// ultimate figure is divided by [Ultimate]. Zero: not known.
func Rated(i catalog.Item) (pull, shear float64) {
	by := 1.0
	if i.RatingBasis == "ultimate" {
		by = Ultimate
	}
	return Newtons(i.Pull) / by, Newtons(i.Shear) / by
}

// RatedPull is the pull an anchor may hold, as a mass.
func RatedPull(i catalog.Item) quantity.Mass {
	if i.RatingBasis == "ultimate" {
		return i.Pull / Ultimate
	}
	return i.Pull
}

// Guide is what a type of wall asks, in words, for a lag of 5/16 in or 8 mm
// (all practice; the pilot by NDS 12.1.4, memory). The bracket's own figures
// come first.
type Guide struct{ Fixing, Hole, Limit quantity.Phrase }

// Guides are the guides by type of wall.
var Guides = map[catalog.WallType]Guide{
	"wood_stud": {quantity.Say("Lag with its washer, into the stud."), quantity.Say("A pilot of 40 to 70 % of the lag's diameter in usual woods, more in dense ones."),
		quantity.Say("Covering up to %v, the middle of the stud, never the board alone.", 16*quantity.Millimetre)},
	"concrete": {quantity.Say("Sleeve anchor, or plug and lag."), quantity.Say("The anchor's own diameter, its depth and %v.", 10*quantity.Millimetre),
		quantity.Say("The plug flush; covering up to %v.", 16*quantity.Millimetre)},
	"block": {quantity.Say("Sleeve anchor, or plug and lag."), quantity.Say("Smaller first, then to size, without hammer."),
		quantity.Say("Never in the mortar joint; covering up to %v.", 16*quantity.Millimetre)},
	"lined_masonry": {quantity.Say("Long frame fixing or concrete screw, through the cavity."), quantity.Say("By the fixing."),
		quantity.Say("Its length counts lining, cavity and %v in the masonry.", 50*quantity.Millimetre)},
	"metal_stud":   {quantity.Say("Rated toggle."), quantity.Say("By the toggle."), quantity.Say("By the house's policy and the load.")},
	"timber_board": {quantity.Say("Wood screws with washers, many small ones."), quantity.Say("A pilot."), quantity.Say("The board's thickness.")},
	"thin_backer": {quantity.Say("Short screws."), quantity.Say("A pilot."),
		quantity.Say("The tip must not come through: %v less than what is there.", 3*quantity.Millimetre)},
	"hollow_board": {quantity.Say("Toggle."), quantity.Say("By the toggle: 1/2 in for one of 3/16 in."), quantity.Say("By the house's school on hollow walls.")},
}

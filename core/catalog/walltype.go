package catalog

import (
	"slices"

	"nexufix/core/quantity"
)

// WallType is a kind of wall, by its name in the exchange format. NoWall is one
// of which nothing is said.
type WallType string

// The kinds of wall that ask for fixings of their own (practice).
const (
	NoWall       WallType = ""
	WoodStud     WallType = "wood_stud"
	MetalStud    WallType = "metal_stud"
	Concrete     WallType = "concrete"
	Block        WallType = "block"
	LinedMasonry WallType = "lined_masonry"
	TimberBoard  WallType = "timber_board"
	ThinBacker   WallType = "thin_backer"
	HollowBoard  WallType = "hollow_board"
)

// WallTypes lists the kinds of wall, in the order of [Walls].
var WallTypes = func() []WallType {
	var out []WallType
	for i := range Walls {
		out = append(out, Walls[i].Type)
	}
	return out
}()

// ParseWallType reads a kind of wall by its name; false for one that is not
// known.
func ParseWallType(s string) (WallType, bool) {
	t := WallType(s)
	return t, slices.Contains(WallTypes, t)
}

// String is the name in the exchange format.
func (t WallType) String() string { return string(t) }

// Enum lists the names for the format's reader and schema.
func (WallType) Enum() []any { return anyOf(WallTypes) }

func anyOf[T any](list []T) []any {
	out := make([]any, len(list))
	for i, x := range list {
		out[i] = x
	}
	return out
}

// Name is what people call it.
func (t WallType) Name() string { return t.Properties().Name }

// Material is what a fastener holds in.
type Material uint8

// The materials. Wood is a stud, a board or a backer of it, Masonry concrete
// and what is laid, Hollow a thin shell with room behind it.
const (
	NoMaterial Material = iota
	Wood
	Masonry
	Hollow
)

// WallProperties is everything a kind of wall decides.
type WallProperties struct {
	Type  WallType
	Name  string // for people
	Holds Material
	Studs bool // fixed to by its studs

	// Usual are the kinds of part that go into it when its bracket does not say,
	// in order of preference (practice).
	Usual []ItemKind

	// CoveringMax is the covering that is allowed when the bracket does not say;
	// 0: the fastener's length alone decides.
	CoveringMax quantity.Length
	// CoveringCounts says that a covering that is not known leaves open how far
	// the fastener goes in.
	CoveringCounts bool
	// Cavity says that there is room behind the covering which has to be known.
	Cavity bool
	// Backed says that the fastener's tip must stay inside what it goes into, of
	// which Backing is the depth when nobody says; 0: it is asked for.
	Backed  bool
	Backing quantity.Length
	// BackingMost is more than what it goes into is ever deep: a figure above it
	// cannot be right. 0: no bound.
	BackingMost quantity.Length
	// Embedment is the least that a fixing of one piece needs in masonry when it
	// does not say.
	Embedment quantity.Length

	// What it asks, in words, for a lag of 5/16 in or 8 mm. The bracket's own
	// figures come first.
	Fixing, Hole, Limit quantity.Phrase

	// How it is worked on.
	Find    quantity.Phrase // what is looked for, and proved a second way
	Sound   quantity.Phrase // how one knows that it was found
	Drill   quantity.Phrase // how the hole is made
	Right   quantity.Phrase // how one knows that the hole is right
	Hammer  bool            // drilled with hammer action
	Caution quantity.Phrase // what goes wrong here
}

// unknownWall is what a wall is that is none of the table.
var unknownWall WallProperties

func (t WallType) row() *WallProperties {
	for i := range Walls {
		if Walls[i].Type == t {
			return &Walls[i]
		}
	}
	return &unknownWall
}

// Properties are the wall's; the zero value for one that is not known.
func (t WallType) Properties() WallProperties { return *t.row() }

// HasStuds says whether the wall is fixed to by its studs.
func (t WallType) HasStuds() bool { return t.row().Studs }

// Holds is what a fastener holds in.
func (t WallType) Holds() Material { return t.row().Holds }

// usualCovering is 5/8 in of board over studs or masonry (practice).
const usualCovering = 16 * quantity.Millimetre

// Walls is the one table of what each kind of wall is. All of it is practice,
// except the pilot (NDS 12.1.4, memory).
var Walls = []WallProperties{
	{
		Type: WoodStud, Name: "wood stud", Holds: Wood, Studs: true, Usual: []ItemKind{Lag, Screw},
		CoveringMax: usualCovering, CoveringCounts: true,
		Backed: true, Backing: 5 * quantity.Inch / 2, BackingMost: 300 * quantity.Millimetre, // from 2 1/2 in, the shallowest stud in trade
		Fixing:  quantity.Say("Lag with its washer, into the stud."),
		Hole:    quantity.Say("A pilot of 40 to 70 % of the lag's diameter in usual woods, more in dense ones."),
		Limit:   quantity.Say("Covering up to %v, the middle of the stud, never the board alone.", usualCovering),
		Find:    quantity.Say("Find the studs with the finder, then prove each by a second way: knocking, a magnet on screws, or a fine nail."),
		Sound:   quantity.Say("The studs are evenly spaced, and the nail meets wood at each centre."),
		Drill:   quantity.Say("Start each with the small bit so that it does not wander, then to size."),
		Right:   quantity.Say("Wood dust all the way. A hole that goes easily has missed the stud: stop and find it again."),
		Caution: quantity.Say("Fasten into the studs, never into the board alone."),
	},
	{
		Type: MetalStud, Name: "metal stud", Holds: Hollow, Studs: true, Usual: []ItemKind{Toggle},
		CoveringMax: usualCovering,
		Fixing:      quantity.Say("Rated toggle."),
		Hole:        quantity.Say("By the toggle."),
		Limit:       quantity.Say("By the company's policy and the load."),
		Find:        quantity.Say("Find the studs with the finder, then prove each with a magnet: thin sheet rings and holds it."),
		Sound:       quantity.Say("The magnet holds along the whole height of each stud."),
		Drill:       quantity.Say("Small first, slow and without hammer through the sheet, then to the toggle's size."),
		Right:       quantity.Say("The toggle opens behind the sheet and does not turn."),
		Caution:     quantity.Say("A screw driven into thin sheet holds next to nothing: toggles only."),
	},
	{
		Type: Concrete, Name: "concrete", Holds: Masonry, Usual: []ItemKind{SleeveAnchor, ConcreteScrew, Plug},
		CoveringMax: usualCovering, CoveringCounts: true, Embedment: 40 * quantity.Millimetre, Hammer: true,
		Fixing:  quantity.Say("Sleeve anchor, or plug and lag."),
		Hole:    quantity.Say("The anchor's own diameter, its depth and %v.", 10*quantity.Millimetre),
		Limit:   quantity.Say("The plug flush; covering up to %v.", usualCovering),
		Find:    quantity.Say("Go over the place with the finder, then tap it: solid concrete sounds the same everywhere."),
		Sound:   quantity.Say("No signal where holes will be. Where the wall sounds hollow: stop."),
		Drill:   quantity.Say("With hammer action and a depth stop; brush and blow the dust out."),
		Right:   quantity.Say("Grey dust all the way, and the full depth. A bit that stops dead has met steel: move the plate."),
		Caution: quantity.Say("Steel in the concrete is not cut through."),
	},
	{
		Type: Block, Name: "block or brick", Holds: Masonry, Usual: []ItemKind{Plug, SleeveAnchor, ConcreteScrew},
		CoveringMax: usualCovering, CoveringCounts: true, Embedment: 40 * quantity.Millimetre,
		Fixing:  quantity.Say("Sleeve anchor, or plug and lag."),
		Hole:    quantity.Say("Smaller first, then to size, without hammer."),
		Limit:   quantity.Say("Never in the mortar joint; covering up to %v.", usualCovering),
		Find:    quantity.Say("Go over the place with the finder, then find the joints with a fine nail: no hole goes into one."),
		Sound:   quantity.Say("Every point lies in the body of a block or brick."),
		Drill:   quantity.Say("Smaller first, then to size, without hammer; blow the dust out."),
		Right:   quantity.Say("Dust of the block, no grey mortar. A bit that drops has met a hollow: stop and ask for a fixing made for it."),
		Caution: quantity.Say("Mortar joints cannot be seen under plaster, and hold nothing."),
	},
	{
		Type: LinedMasonry, Name: "lined masonry", Holds: Masonry, Usual: []ItemKind{FrameFixing, ConcreteScrew},
		CoveringCounts: true, Cavity: true, Embedment: 50 * quantity.Millimetre,
		Fixing: quantity.Say("Long frame fixing or concrete screw, through the cavity."),
		Hole:   quantity.Say("By the fixing."),
		Limit:  quantity.Say("Its length counts lining, cavity and %v in the masonry.", 50*quantity.Millimetre),
		Find: quantity.Say("Go over the place with the finder, then drill a first hole: how thick the lining is, and how far the masonry " +
			"is behind it."),
		Sound:   quantity.Say("Both figures are those that the place was worked out with."),
		Drill:   quantity.Say("Through the lining without hammer, then into the masonry to the full depth; blow the dust out."),
		Right:   quantity.Say("Dust of the masonry for the whole embedment. The lining does not carry: do not crush it with the plate."),
		Caution: quantity.Say("The lining holds nothing, and fasteners that cross the cavity bend."),
	},
	{
		Type: TimberBoard, Name: "timber board", Holds: Wood, Usual: []ItemKind{Screw,
			Lag}, Backed: true, BackingMost: 100 * quantity.Millimetre, CoveringCounts: true,
		Fixing:  quantity.Say("Wood screws with washers, many small ones."),
		Hole:    quantity.Say("A pilot."),
		Limit:   quantity.Say("The board's thickness."),
		Find:    quantity.Say("Go over the place with the finder, then measure the board's thickness at an edge or a first small hole."),
		Sound:   quantity.Say("The board is sound, and as thick as the place was worked out with."),
		Drill:   quantity.Say("A pilot with a depth stop."),
		Right:   quantity.Say("Wood dust, and the hole ends inside the board."),
		Caution: quantity.Say("How the board itself is fixed decides as much as the screws: have it judged."),
	},
	{
		Type: ThinBacker, Name: "thin backer", Holds: Wood, Usual: []ItemKind{Screw,
			Lag}, Backed: true, BackingMost: 50 * quantity.Millimetre, CoveringCounts: true,
		Fixing:  quantity.Say("Short screws."),
		Hole:    quantity.Say("A pilot."),
		Limit:   quantity.Say("The tip must not come through: %v less than what is there.", 3*quantity.Millimetre),
		Find:    quantity.Say("Look behind the panel or drill a first small hole with a stop, and measure the backer twice."),
		Sound:   quantity.Say("The backer is where the figure says, and as thick."),
		Drill:   quantity.Say("A pilot with a depth stop, never through."),
		Right:   quantity.Say("The stop ends the hole inside the backer."),
		Caution: quantity.Say("What is behind the backer is not seen: a tip that comes through can meet a cable."),
	},
	{
		Type: HollowBoard, Name: "hollow board", Holds: Hollow, Usual: []ItemKind{Toggle},
		Fixing: quantity.Say("Toggle."),
		Hole:   quantity.Say("By the toggle: 1/2 in for one of 3/16 in."),
		Limit:  quantity.Say("By the company's school on hollow walls."),
		Find: quantity.Say("Look for studs first. Where there are none, drill a first small hole: how thick the board is, and how much " +
			"room is behind it."),
		Sound:   quantity.Say("The board is dry and firm, and the toggle has the room it needs."),
		Drill:   quantity.Say("To the toggle's size, without hammer."),
		Right:   quantity.Say("The toggle opens behind the board and draws tight without crushing it."),
		Caution: quantity.Say("Board alone carries little and nothing that moves. A stud is better."),
	},
}

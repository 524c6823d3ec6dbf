package catalog

import (
	"slices"
	"strings"

	"nexufix/core/quantity"
)

// WallType is a type of wall, by its name in the exchange format. NoWall means that
// no wall is given.
type WallType string

// The types of wall that need different fixings (practice).
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

// WallTypes lists the types of wall, in the order of [Walls].
var WallTypes = func() []WallType {
	var out []WallType
	for i := range Walls {
		out = append(out, Walls[i].Type)
	}
	return out
}()

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

// Name returns the name that people read.
func (t WallType) Name() string { return t.Properties().Name }

// Material is the base material of a fastener.
type Material uint8

// The materials. Wood is a wooden stud, board or backer, Masonry is concrete,
// brick or block, Hollow is a thin shell with a cavity behind it.
const (
	NoMaterial Material = iota
	Wood
	Masonry
	Hollow
)

// WallProperties is everything that depends on the type of wall: a row of [Walls].
type WallProperties struct {
	Type  WallType
	Name  string // for people
	Holds Material
	Studs bool // fasteners go into its studs
	// Base is what backing_mm is the thickness of, in words: kinds of wall with the same words share the figure. "": of nothing.
	Base string

	// Usual are the kinds of fastener for it if its bracket does not name one,
	// in order of preference (practice).
	Usual []ItemKind
	// Fasteners are the kinds that are made for it, unless an item says what it
	// is for; a plug is used with its lag or screw (practice).
	Fasteners []ItemKind
	// OldAnchor is the kind of fastener that older documents call "anchor" for this wall; "": none
	// (practice).
	OldAnchor ItemKind

	// Behind is the layer behind the covering and the cavity, for drawings: its name, and its depth
	// if that is not measured. "": none.
	Behind      string
	DrawnDepth  quantity.Length
	DrawnCavity quantity.Length // 0: none
	Into        string          // the base material in a sentence, if it is wood

	// CoveringMax is the allowed covering if the bracket gives none;
	// 0: only the fastener's length decides.
	CoveringMax quantity.Length
	// CoveringCounts means that the penetration of the fastener is unknown if the
	// covering is.
	CoveringCounts bool
	// Cavity means that there is a cavity behind the covering, whose depth is needed.
	Cavity bool
	// Backed means that the fastener's tip must stay inside the base material.
	// Backing is its depth if none is given; 0: it is asked for.
	Backed  bool
	Backing quantity.Length
	// BackingMost is the greatest plausible depth of the base material: a larger figure
	// cannot be right. 0: no limit.
	BackingMost quantity.Length
	// Embedment is the least embedment of a fixing of one piece in masonry if it
	// gives none.
	Embedment quantity.Length

	// What the wall requires, for a lag of 5/16 in or 8 mm. The bracket's own
	// figures come first.
	Fixing, Hole, Limit quantity.Phrase

	// The texts of the steps.
	Find       quantity.Phrase // what to look for
	Sound      quantity.Phrase // how to check that it was found
	Prove      quantity.Phrase // a second way, independent of the first
	Proved     quantity.Phrase // how to check that both agree
	ProveTools []string
	Starter    quantity.Length // the pilot bit for a wider hole; 0: none
	Start      quantity.Phrase // how to drill the pilot
	Drill      quantity.Phrase // how to drill the hole
	Right      quantity.Phrase // how to check that the hole is right
	Wrong      quantity.Phrase // how to tell that it went wrong
	Then       quantity.Phrase // and what to do then
	Fix        quantity.Phrase // how to set the fastener
	Hammer     bool            // drilled with hammer action
	Caution    quantity.Phrase // what goes wrong here
}

// unknownWall is the row of a wall that is not in the table.
var unknownWall WallProperties

func (t WallType) row() *WallProperties {
	for i := range Walls {
		if Walls[i].Type == t {
			return &Walls[i]
		}
	}
	return &unknownWall
}

// Properties returns the wall's row; the zero value for an unknown one.
func (t WallType) Properties() WallProperties { return *t.row() }

// LostWithKind are the figures that are of one kind of wall, by their names in the format.
var LostWithKind = []string{"cavity_mm", "steel_mm", "block_kind", "board_kind", "treated", "wet", "species"}

// lostWithBase are those that are of one kind of base.
var lostWithBase = []string{"backing_mm", "backing"}

// Lost are the figures of a wall that are not so any more when it becomes one of another kind, by their names in the format.
func (t WallType) Lost(to WallType) []string {
	if t == to {
		return nil
	}
	out := LostWithKind
	if t.row().Base != to.row().Base {
		out = append(slices.Clip(out), lostWithBase...)
	}
	return out
}

// HasStuds reports whether fasteners go into the wall's studs.
func (t WallType) HasStuds() bool { return t.row().Studs }

// Holds returns the base material.
func (t WallType) Holds() Material { return t.row().Holds }

// OfBoard reports whether what holds is a board, of wood or from it.
func (t WallType) OfBoard() bool { return t.Holds() == Wood && !t.HasStuds() }

// usualCovering is 5/8 in of board over studs or masonry (practice).
const usualCovering = 16 * quantity.Millimetre

// Walls is the one table of the types of wall. All of it is practice,
// except the pilot (NDS 12.1.4, memory).
var Walls = []WallProperties{
	{
		Base: "Stud depth",
		Type: WoodStud, Name: "wood stud", Holds: Wood, Studs: true, Usual: []ItemKind{Lag, Screw},
		CoveringMax: usualCovering, CoveringCounts: true,
		Backed: true, Backing: 5 * quantity.Inch / 2, BackingMost: 300 * quantity.Millimetre, // from 2 1/2 in, the shallowest stud in trade
		Fasteners: []ItemKind{Lag, Screw},
		Behind:    "stud", DrawnDepth: 63_500 * quantity.Micrometre, Into: "the stud",
		Fixing: quantity.Say("Lag with its washer, into the stud."),
		Hole:   quantity.Say("A pilot of 40 to 70 % of the lag's diameter in usual woods, more in dense ones."),
		Limit:  quantity.Say("Covering up to %v, the middle of the stud, never the board alone.", usualCovering),
		Find:   quantity.Say("Go over the wall with the finder, from both sides and at two heights: mark where each edge shows."),
		Sound:  quantity.Say("The studs are evenly spaced, and both heights show the same edges."),
		Prove: quantity.Say("Prove each stud without the finder: a magnet on the screws of the board, knocking, or a fine nail " +
			"across its width where the plate will cover it."),
		Proved:     quantity.Say("The nail meets wood at each centre and passes beside both edges."),
		ProveTools: []string{"magnet", "hammer", "fine nail"},
		Starter:    3 * quantity.Millimetre,
		Start:      quantity.Say("Start each hole with the small bit so that it does not wander, then drill to size."),
		Drill:      quantity.Say("Hold the drill square to the wall."),
		Right:      quantity.Say("Wood dust all the way, and resistance to the full depth."),
		Wrong:      quantity.Say("The bit goes in easily after the board, or the dust turns white or grey."),
		Then: quantity.Say("The stud was missed: stop, find its edges again, and have the place worked out anew. A spoilt hole " +
			"is never used."),
		Fix:     quantity.Say("Drive each in by hand until its washer sits hard, and no further: over-driving strips the wood."),
		Caution: quantity.Say("Fasten into the studs, never into the board alone."),
	},
	{
		Base: "Stud depth",
		Type: MetalStud, Name: "metal stud", Holds: Hollow, Studs: true, Usual: []ItemKind{Toggle},
		CoveringMax: usualCovering,
		Fasteners:   []ItemKind{Toggle}, OldAnchor: Toggle,
		Behind: "metal stud", DrawnDepth: 70 * quantity.Millimetre,
		Fixing:     quantity.Say("Rated toggle."),
		Hole:       quantity.Say("By the toggle."),
		Limit:      quantity.Say("By the company's policy and the load."),
		Find:       quantity.Say("Go over the wall with the finder, set to metal, at two heights: mark both edges of each stud."),
		Sound:      quantity.Say("The studs are evenly spaced, and both heights show the same edges."),
		Prove:      quantity.Say("Prove each with a magnet, and knock: thin sheet rings and holds the magnet along its whole height."),
		Proved:     quantity.Say("Magnet and finder show the same edges."),
		ProveTools: []string{"magnet"},
		Starter:    6 * quantity.Millimetre,
		Start:      quantity.Say("Small first, then to the toggle's size."),
		Drill:      quantity.Say("Slow and without hammer through the sheet."),
		Right:      quantity.Say("Bright curls of metal, and the toggle opens behind the sheet and does not turn."),
		Wrong:      quantity.Say("The bit drops through right after the board, or the toggle turns as it is tightened."),
		Then: quantity.Say("The stud was missed or the sheet is torn: take the toggle out, do not use the hole, and have the " +
			"place worked out anew."),
		Fix: quantity.Say("Pull the toggle against the sheet while the screw is turned, until it draws tight; a screw alone " +
			"holds next to nothing."),
		Caution: quantity.Say("A screw driven into thin sheet holds next to nothing: toggles only."),
	},
	{
		Base: "Wall thickness",
		Type: Concrete, Name: "concrete", Holds: Masonry, Usual: []ItemKind{SleeveAnchor, ConcreteScrew, Plug},
		CoveringMax: usualCovering, CoveringCounts: true, Embedment: 40 * quantity.Millimetre, Hammer: true,
		Fasteners: []ItemKind{Plug, SleeveAnchor, ConcreteScrew, FrameFixing}, OldAnchor: Plug,
		Behind: "concrete", DrawnDepth: 110 * quantity.Millimetre,
		Fixing: quantity.Say("Sleeve anchor, or plug and lag."),
		Hole:   quantity.Say("The anchor's own diameter, its depth and %v.", 10*quantity.Millimetre),
		Limit:  quantity.Say("The plug flush; covering up to %v.", usualCovering),
		Find:   quantity.Say("Go over the place with the finder, set to metal and to live cables, in both directions."),
		Sound:  quantity.Say("No signal within a hand's width of any hole."),
		Prove: quantity.Say("Tap the place with a hammer's handle, then drill the first hole small and shallow: solid concrete " +
			"sounds the same everywhere and gives grey dust."),
		Proved:     quantity.Say("One sound over the whole plate, and grey dust as soon as the covering is through."),
		ProveTools: []string{"hammer", "hammer drill", "drill bit Ø 6 mm", "eye protection"},
		Drill: quantity.Say("To the anchor's size with hammer action and a depth stop; then brush and blow the dust out until " +
			"none comes."),
		Right: quantity.Say("Grey dust all the way, the full depth, and an anchor that goes in with light blows."),
		Wrong: quantity.Say("The bit stops dead or brings bright metal (steel), or drops into a hollow, or the anchor turns."),
		Then: quantity.Say("Steel is not cut: move the plate. Hollow, crumbling or turning: stop, and have the wall judged by " +
			"someone licensed."),
		Fix:     quantity.Say("Set each anchor flush with the concrete, not with the plaster, and tighten by hand as its maker says."),
		Caution: quantity.Say("Steel in the concrete is not cut through."),
	},
	{
		Base: "Wall thickness",
		Type: Block, Name: "block or brick", Holds: Masonry, Usual: []ItemKind{Plug, SleeveAnchor, ConcreteScrew},
		CoveringMax: usualCovering, CoveringCounts: true, Embedment: 40 * quantity.Millimetre,
		Fasteners: []ItemKind{Plug, SleeveAnchor, ConcreteScrew, FrameFixing}, OldAnchor: Plug,
		Behind: "block or brick", DrawnDepth: 110 * quantity.Millimetre,
		Fixing: quantity.Say("Sleeve anchor, or plug and lag."),
		Hole:   quantity.Say("Smaller first, then to size, without hammer."),
		Limit:  quantity.Say("Never in the mortar joint; covering up to %v.", usualCovering),
		Find: quantity.Say("Go over the place with the finder, set to metal and to live cables, then look for the joints: where " +
			"the covering lets them show, along a window or in a loft."),
		Sound: quantity.Say("No signal within a hand's width of any hole."),
		Prove: quantity.Say("Find the joints with a fine nail or the smallest bit, beside each point and above it: mortar gives " +
			"at once, block or brick does not."),
		Proved:     quantity.Say("Every point lies in the body of a block or brick, none in a joint."),
		ProveTools: []string{"fine nail", "hammer", "drill", "drill bit Ø 4 mm", "eye protection"},
		Starter:    6 * quantity.Millimetre,
		Start:      quantity.Say("Smaller first, then to size."),
		Drill:      quantity.Say("Without hammer and never in the joint; blow the dust out."),
		Right:      quantity.Say("Dust of the block or brick all the way, no grey sand of mortar."),
		Wrong:      quantity.Say("Sand of mortar, a bit that wanders into softer stuff, or one that drops into a hollow."),
		Then: quantity.Say("A joint holds nothing: have the place worked out anew. Hollow: ask for a fixing that is made for " +
			"hollow block."),
		Fix:     quantity.Say("Push each plug in behind the covering; it must go in with a light hammer and not turn."),
		Caution: quantity.Say("Mortar joints cannot be seen under plaster, and hold nothing."),
	},
	{
		Base: "Masonry",
		Type: LinedMasonry, Name: "lined masonry", Holds: Masonry, Usual: []ItemKind{FrameFixing, ConcreteScrew},
		CoveringCounts: true, Cavity: true, Embedment: 50 * quantity.Millimetre,
		Fasteners: []ItemKind{ConcreteScrew, FrameFixing}, OldAnchor: FrameFixing,
		Behind: "masonry", DrawnDepth: 110 * quantity.Millimetre, DrawnCavity: 25 * quantity.Millimetre,
		Fixing: quantity.Say("Long frame fixing or concrete screw, through the cavity."),
		Hole:   quantity.Say("By the fixing."),
		Limit:  quantity.Say("Its length counts lining, cavity and %v in the masonry.", 50*quantity.Millimetre),
		Find: quantity.Say("Go over the place with the finder, set to metal and to live cables: the lining hides both, and the " +
			"battens it hangs on."),
		Sound: quantity.Say("No signal within a hand's width of any hole; battens are marked."),
		Prove: quantity.Say("Drill a first hole through the lining where the plate will cover it: measure how thick the lining " +
			"is, and with a wire how far the masonry is behind it."),
		Proved:     quantity.Say("Both figures are those that the place was worked out with."),
		ProveTools: []string{"drill", "drill bit Ø 6 mm", "eye protection", "stiff wire", "rule"},
		Drill: quantity.Say("Through the lining without hammer, then into the masonry to the full depth, measured from the " +
			"lining's face; blow the dust out."),
		Right: quantity.Say("Dust of the masonry for the whole embedment."),
		Wrong: quantity.Say("The bit finds the masonry later than the figure says, or not at all, or brings sand of mortar."),
		Then: quantity.Say("Stop: measure lining and cavity again, and have the place worked out anew; a longer fixing is " +
			"another pairing."),
		Fix: quantity.Say("Tighten until the plate sits flat on the lining and no further: the lining carries nothing, do not " +
			"crush it."),
		Caution: quantity.Say("The lining holds nothing, and fasteners that cross the cavity bend."),
	},
	{
		Base: "Board",
		Type: TimberBoard, Name: "timber board", Holds: Wood, Usual: []ItemKind{Screw, Lag}, Backed: true,
		BackingMost: 100 * quantity.Millimetre, CoveringCounts: true,
		Fasteners: []ItemKind{Lag, Screw},
		Behind:    "board", DrawnDepth: 45 * quantity.Millimetre, Into: "the board",
		Fixing: quantity.Say("Wood screws with washers, many small ones."),
		Hole:   quantity.Say("A pilot."),
		Limit:  quantity.Say("The board's thickness."),
		Find: quantity.Say("Go over the place with the finder for cables and pipes, then find how the board itself is fixed: its " +
			"screws, its edges."),
		Sound: quantity.Say("The board is fixed to something that holds it, near every point."),
		Prove: quantity.Say("Measure the board's thickness at an edge, or in a first small hole with a hooked wire; press it: it " +
			"must not spring."),
		Proved:     quantity.Say("As thick as the place was worked out with, sound, and firm."),
		ProveTools: []string{"drill", "drill bit Ø 3 mm", "eye protection", "stiff wire", "rule"},
		Drill:      quantity.Say("A pilot with a depth stop, no deeper than the board."),
		Right:      quantity.Say("Wood dust, and the hole ends inside the board."),
		Wrong:      quantity.Say("The bit comes through, or the dust is dark and wet, or layers come apart."),
		Then: quantity.Say("A shorter screw, or another board: stop, and have the place worked out anew. Wet or split board is " +
			"not fixed to."),
		Fix: quantity.Say("Drive every screw by hand until its washer sits hard: many small ones share, none of them pulls the " +
			"board."),
		Caution: quantity.Say("How the board itself is fixed decides as much as the screws: have it judged."),
	},
	{
		Base: "Backer",
		Type: ThinBacker, Name: "thin backer", Holds: Wood, Usual: []ItemKind{Screw, Lag}, Backed: true,
		BackingMost: 50 * quantity.Millimetre, CoveringCounts: true,
		Fasteners: []ItemKind{Lag, Screw},
		Behind:    "backer", DrawnDepth: 18 * quantity.Millimetre, Into: "the backer",
		Fixing: quantity.Say("Short screws."),
		Hole:   quantity.Say("A pilot."),
		Limit:  quantity.Say("The tip must not come through: %v less than what is there.", 3*quantity.Millimetre),
		Find: quantity.Say("Go over the place with the finder for cables, then look behind the panel if it can be opened. A " +
			"sticker that says there is a backer proves nothing."),
		Sound: quantity.Say("The backer is seen, or shown by the finder over the whole plate."),
		Prove: quantity.Say("Prove the backer before it is trusted: a first small hole with a depth stop in the plate's middle, " +
			"and its thickness measured twice with a hooked wire."),
		Proved:     quantity.Say("The backer is where the figure says, as thick, and behind every point."),
		ProveTools: []string{"drill", "drill bit Ø 3 mm", "depth stop", "eye protection", "stiff wire", "rule"},
		Drill:      quantity.Say("A pilot with a depth stop, never through: what is behind is not seen."),
		Right:      quantity.Say("The stop ends the hole inside the backer, and the dust is of the backer to the end."),
		Wrong:      quantity.Say("The bit goes on without resistance before the stop, or the dust changes."),
		Then:       quantity.Say("There is no backer at this point, or a thinner one: stop. Nothing is hung from the panel alone."),
		Fix:        quantity.Say("Short screws, by hand, until the washer sits hard; the tip stays inside the backer."),
		Caution:    quantity.Say("What is behind the backer is not seen: a tip that comes through can meet a cable."),
	},
	{
		Type: HollowBoard, Name: "hollow board", Holds: Hollow, Usual: []ItemKind{Toggle},
		Fasteners: []ItemKind{Toggle}, OldAnchor: Toggle,
		DrawnCavity: 60 * quantity.Millimetre,
		Fixing:      quantity.Say("Toggle."),
		Hole:        quantity.Say("By the toggle: 1/2 in for one of 3/16 in."),
		Limit:       quantity.Say("By the company's school on hollow walls."),
		Find: quantity.Say("Look for studs first, with the finder at two heights: one stud is better than any board. Mark cables " +
			"and pipes."),
		Sound: quantity.Say("No stud can be used, and no signal within a hand's width of any hole."),
		Prove: quantity.Say("Drill a first small hole where the plate will cover it: measure how thick the board is, and with a " +
			"wire how much room is behind it."),
		Proved:     quantity.Say("The board is dry and firm, and the toggle has the room it needs to open."),
		ProveTools: []string{"drill", "drill bit Ø 6 mm", "eye protection", "stiff wire", "rule"},
		Starter:    6 * quantity.Millimetre,
		Start:      quantity.Say("Small first, then to the toggle's size."),
		Drill:      quantity.Say("Without hammer."),
		Right:      quantity.Say("A clean edge, and the toggle opens behind the board and draws tight without crushing it."),
		Wrong:      quantity.Say("The edge crumbles, the toggle turns or draws into the board, or the wire meets something at once."),
		Then: quantity.Say("Take it out and do not use the hole. A board that crumbles or is wet carries nothing: look for a " +
			"stud, or hang something lighter."),
		Fix: quantity.Say("Pull each toggle against the board while it is tightened; stop when the plate sits flat: the board " +
			"crushes easily."),
		Caution: quantity.Say("Board alone carries little and nothing that moves. A stud is better."),
	},
}

// WallNames are all kinds of wall, as a message lists them.
func WallNames() string {
	var names []string
	for _, w := range WallTypes {
		names = append(names, w.String())
	}
	return strings.Join(names, ", ")
}

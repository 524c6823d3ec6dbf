package catalog

import "nexufix/core/quantity"

// Job is one site: a display on a bracket on a wall.
type Job struct {
	ID, Display, Bracket string
	Turn                 Turn
	Accessories          quantity.Mass
	Run                  *Run
	Wall                 Wall
	Place                Place
	Assume               Assumptions
	Prints               []Print
}

// Assumptions are what the strength of a place is worked out with instead of
// what follows from the pairing and the wall.
type Assumptions struct {
	Load        quantity.Optional[quantity.Mass]   // display with accessories
	Reach       quantity.Optional[quantity.Length] // wall to arm plane, at its longest
	Aside       quantity.Optional[quantity.Length] // load's way from the plate's middle
	Penetration quantity.Optional[quantity.Length] // of a fastener, its tip not counted
	Gravity     quantity.Optional[quantity.Ratio]  // of the wood
}

// Print is a printed template's scale bar as it was measured.
type Print struct {
	Bar, Measured quantity.Length
	Accepted      bool
	Paper         string
	Who, At       string
}

// Run is several equal displays side by side.
type Run struct {
	Count int
	Gap   quantity.Length
}

// Wall is the wall of a job.
type Wall struct {
	Type     WallType
	Vehicle  bool
	Covering quantity.Optional[quantity.Length]
	Width    quantity.Optional[quantity.Length]
	Height   quantity.Optional[quantity.Length] // floor to ceiling
	Cavity   quantity.Optional[quantity.Length] // between lining and masonry
	Backing  quantity.Optional[quantity.Length] // depth of what the fastener goes into: stud, board, backer
	Studs    *Studs
	Species  string

	Outlets   []Outlet
	Furniture []Furniture
	Niche     *Niche
}

// Outlet is a box in the wall: cables lead to it, and it usually hangs on a
// stud (practice).
type Outlet struct {
	X, Y quantity.Length // its middle
	Kind string          // power, data or switch
	Stud string          // the side its stud is on: left, right, or "" when not known
}

// The kinds of outlet, the first of which is the default.
var OutletKinds = []string{"power", "data", "switch"}

// Furniture is what stands against the wall.
type Furniture struct {
	Name             string
	X, Width, Height quantity.Length // its middle, and its top above the floor
	Depth            quantity.Optional[quantity.Length]
}

// Niche is a recess, or a cabinet, that the display goes in.
type Niche struct {
	X, Width, Bottom, Height quantity.Length // its middle; its bottom above the floor
	Depth                    quantity.Optional[quantity.Length]
}

// Studs are where a wall's studs are: from the first at a spacing, marked one
// by one, or from an outlet that hangs on one, at a spacing to both sides.
type Studs struct {
	Outlet         quantity.Optional[int] // of the wall's outlets
	First, Spacing quantity.Optional[quantity.Length]
	At             []quantity.Length
	Width          quantity.Optional[quantity.Length]
}

// Species are the woods whose strength is known.
var Species = []string{"spruce_pine_fir", "hem_fir", "douglas_fir_larch", "southern_pine"}

// PlaceRules are the height schools.
var PlaceRules = []string{"center", "eye", "upper_third", "above", "below", "overhead"}

// Place is where a display goes on its wall. Which figures it has depends on
// the rule.
type Place struct {
	Rule                                                            string
	Center, Eye, Distance, Surface, Line, Gap, Bottom, Accessory, X quantity.Optional[quantity.Length]
	Angle                                                           quantity.Optional[quantity.Angle]
	Public                                                          bool
}

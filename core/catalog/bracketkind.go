package catalog

import "slices"

// BracketKind is a kind of bracket, by its name in the exchange format.
type BracketKind string

// The kinds of bracket.
const (
	Fixed      BracketKind = "fixed"
	LowProfile BracketKind = "low_profile"
	Tilting    BracketKind = "tilt"
	FullMotion BracketKind = "full_motion"
	BallJoint  BracketKind = "ball"
)

// BracketProperties are what a kind of bracket is.
type BracketProperties struct {
	Kind    BracketKind
	Word    string // that people read
	Tilts   bool   // an absent range of its tilt is not known, not zero
	Swivels bool   // the same of its swivel
	Swings  bool   // it has an arm that swings
	Flat    bool   // it keeps the display at its wall plate, on hooks
	Joint   bool   // a ball turns every way
}

// BracketKinds are the kinds of bracket in scope. Ceiling, desk and cart mounts are not.
var BracketKinds = []BracketProperties{
	{Kind: Fixed, Word: "fixed", Flat: true},
	{Kind: LowProfile, Word: "low profile", Flat: true},
	{Kind: Tilting, Word: "tilting", Tilts: true},
	{Kind: FullMotion, Word: "full motion", Tilts: true, Swivels: true, Swings: true},
	{Kind: BallJoint, Word: "ball joint", Tilts: true, Swivels: true, Joint: true},
}

// Properties are those of the kind; of an unknown one the zero value.
func (k BracketKind) Properties() BracketProperties {
	i := slices.IndexFunc(BracketKinds, func(p BracketProperties) bool { return p.Kind == k })
	if i < 0 {
		return BracketProperties{}
	}
	return BracketKinds[i]
}

// String is the name in the exchange format.
func (k BracketKind) String() string { return string(k) }

// Enum lists the names for the format's reader and schema.
func (BracketKind) Enum() []any {
	var out []any
	for _, p := range BracketKinds {
		out = append(out, p.Kind)
	}
	return out
}

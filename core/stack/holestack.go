package stack

import (
	"cmp"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Status is how far a stack can be trusted.
type Status uint8

// OK is safe with all tolerances against it; Caution is right on paper, but
// the tolerances could undo it; Unsafe must not be used.
const (
	OK Status = iota
	Caution
	Unsafe
)

// String is the status in the exchange format.
func (s Status) String() string { return [...]string{"ok", "caution", "unsafe"}[s] }

// Bearing is what the parts press on.
type Bearing uint8

// Rim is the display's back around the hole, Insert the face of the threaded
// insert at the bottom of the cup.
const (
	Rim Bearing = iota
	Insert
)

// String is the bearing in the exchange format.
func (b Bearing) String() string { return [...]string{"rim", "insert"}[b] }

// Spacer is one spacer of a stack.
type Spacer struct{ Length, Outer quantity.Length }

// Washers are the equal washers under a bolt's head.
type Washers struct {
	Count            int
	Thickness, Outer quantity.Length
}

// HoleStack is the stack at one hole, and so at every hole of its group, with
// the figures of the package comment.
type HoleStack struct {
	Group    int // index in the problem's groups
	Holes    []string
	Bearing  Bearing
	Thread   fastener.Thread
	Bolt     quantity.Length // L
	Head     catalog.BoltHead
	Threaded quantity.Length // of L
	Washers  Washers
	Shoulder quantity.Length // h, 0 for none
	Spacers  []Spacer        // from the display outward

	Plane           quantity.Length // z
	Entry           quantity.Length // E
	Engagement      quantity.Length // e
	EngagementWorst quantity.Length // e⁻
	Clearance       quantity.Length // k
	ClearanceWorst  quantity.Length // k⁻
	Status          Status
	// How much deeper recess and rim may be than 0, if nobody has said how deep they are.
	Slack quantity.Optional[quantity.Length]
}

func (h *HoleStack) set(m margins) {
	h.Engagement, h.Clearance, h.EngagementWorst, h.ClearanceWorst = m.engagement, m.clearance, m.engagementWorst, m.clearanceWorst
}

// Turns returns how often the bolt turns from first catch to tight: e / pitch.
func (h *HoleStack) Turns() float64 {
	pitch := h.Thread.Standard().Pitch
	if pitch == 0 {
		return 0
	}
	return float64(h.Engagement) / float64(pitch)
}

// UnderHead returns the length of the bolt outside the display's bearing face:
// n·t + h + p + s.
func (h *HoleStack) UnderHead() quantity.Length { return h.Bolt - h.Entry }

// SpacersLength returns s, the length of all its spacers.
func (h *HoleStack) SpacersLength() (total quantity.Length) {
	for _, x := range h.Spacers {
		total += x.Length
	}
	return total
}

// HeadGap is how far the head of the bare bolt stands off the rim of its hole, of which the recess is so
// deep, when it has turned in as far as it goes with everything under it.
func (h *HoleStack) HeadGap(recess quantity.Length) quantity.Length {
	if h.Bearing == Insert {
		return h.UnderHead() - recess
	}
	return h.UnderHead()
}

// IsBolt reports whether an item is the bolt of the stack.
func (h *HoleStack) IsBolt(i *catalog.Item) bool {
	return i.Kind == catalog.Bolt && i.Thread == h.Thread && i.Length == h.Bolt && cmp.Or(i.Head, catalog.PanHead) == h.Head &&
		i.ThreadOf() == h.Threaded
}

// IsWasher reports whether an item is its washer.
func (h *HoleStack) IsWasher(i *catalog.Item) bool {
	return i.Kind == catalog.Washer && i.Thread == h.Thread && i.Thickness == h.Washers.Thickness && i.Outer == h.Washers.Outer
}

// IsShoulder reports whether an item is its shoulder washer.
func (h *HoleStack) IsShoulder(i *catalog.Item) bool {
	return i.Kind == catalog.ShoulderWasher && i.Thread == h.Thread && i.Thickness == h.Shoulder
}

// IsSpacer reports whether an item is one of its spacers.
func (h *HoleStack) IsSpacer(i *catalog.Item, x Spacer) bool {
	return i.Kind == catalog.Spacer && i.Passes(h.Thread) && i.Length == x.Length && i.Outer == x.Outer
}

package bench

import (
	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/probe"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/render/svg"
)

// Trials are a caller's trial bolts, and the bracket whose kit the caller has
// in hand.
type Trials struct {
	Trials    []catalog.Trial `json:"trials" required:"true" maxItems:"64"`
	BracketID string          `json:"bracket_id,omitempty" maxLength:"80"`
	Units     string          `json:"units,omitempty" enum:"mm,in"`
	Changes   []exchange.Edit `json:"changes,omitempty" maxItems:"1000"` // of the trials: as they were typed
}

// ProbeResult is the result of trials with a drawing of the hole.
type ProbeResult struct {
	Result  exchange.ProbeResult `json:"result" required:"true"`
	Drawing string               `json:"drawing" required:"true"` // SVG
}

// Probe works out what trial bolts tell about a hole, for who reads it.
func Probe(all *exchange.Contents, in Trials, to quantity.Reader) (*ProbeResult, error) {
	if len(in.Changes) > 0 {
		edits := in.Changes
		in.Changes = nil
		var err error
		if in, _, err = exchange.Edited(in, edits, Units(in.Units)); err != nil {
			return nil, err
		}
	}
	var kit []catalog.Item
	if in.BracketID != "" {
		b := all.Bracket(in.BracketID)
		if b == nil {
			return nil, exchange.Problems{Missing("bracket", in.BracketID)}
		}
		kit = b.Kit
	}
	r := probe.Solve(in.Trials, kit)
	return &ProbeResult{exchange.ProbeResultOf(r, to), svg.Picture(pairing.Hole(r).For(to.Language))}, nil
}

package place

import (
	"testing"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// TestLengthsThatFit: which length of those in trade a remedy names, by hand: a plate of 2 and a washer of 2, 12 of covering, 20 of cavity,
// and what is needed in the wood; from above 3 mm less than its back.
func TestLengthsThatFit(t *testing.T) {
	mm := quantity.MM
	some := quantity.Some[quantity.Length]
	for _, c := range []struct {
		kind          catalog.ItemKind
		need, backing quantity.Length // backing 0: not known
		want          string
	}{
		{catalog.Lag, mm(2), 0, "Take fasteners of 38 mm."}, // 36 + 2 = 38
		{catalog.Lag, mm(2) + 1, 0, "Take fasteners of 50 mm."},
		{catalog.Lag, mm(14) + 1, 0, "Take fasteners of 60 mm."},
		{catalog.Lag, mm(24) + 1, 0, "Take fasteners of 70 mm."},
		{catalog.Lag, mm(44), 0, "Take fasteners of 80 mm."},
		{catalog.Lag, mm(54), 0, "Take fasteners of 90 mm."},
		{catalog.Lag, mm(64), 0, "Take fasteners of 100 mm."},
		{catalog.Lag, mm(84), 0, "Take fasteners of 120 mm."},
		{catalog.Lag, mm(84) + 1, 0, "Take fasteners of at least 120.1 mm, or take the covering away under the plate."},
		// 4 + 12 + 20 + backing − 3 may stick in: 70 of a backing of 37.
		{catalog.Lag, mm(24) + 1, mm(37), "Take fasteners of 70 mm."},
		// A nanometre less, and there is none between; 70 − 4 − 32 + 3 = 37 of backing would do, in steps of 5.
		{catalog.Lag, mm(24) + 1, mm(37) - 1, "No lag screw in trade is as long as this wall takes, 60.1 mm to 69.9 mm. Let a backing of 40 mm " +
			"in behind, or take another bracket."},
		// 60 would be needed, and 24 + 3 of backing for it; a nanometre less than that takes none.
		{catalog.Lag, mm(24), mm(27), "Take fasteners of 60 mm."},
		{catalog.Lag, mm(24), mm(27) - 1, "No lag screw fits this wall: 60 mm would be needed and 59.9 mm fits. Take thinner ones in number, " +
			"let a backing of 30 mm in behind, or take another bracket."},
		{catalog.Lag, mm(84) + 1, mm(100), "Take fasteners of at least 120.1 mm, or take the covering away under the plate."},
		{catalog.Screw, mm(9), 0, "Take fasteners of 45 mm."},
		{catalog.Screw, mm(4), 0, "Take fasteners of 40 mm."},
		{catalog.Screw, mm(19), 0, "Take fasteners of 60 mm."},
		{catalog.Screw, mm(44), 0, "Take fasteners of 80 mm."},
	} {
		var p Placement
		p.Pairing, p.Job = &fit.Pairing{Bracket: &catalog.Bracket{}}, &catalog.Job{}
		p.Choice = anchorage.Choice{Wall: catalog.WoodStud, Item: catalog.Item{Kind: c.kind}}
		p.Layers = anchorage.Layers{Plate: some(mm(2)), Washer: mm(2), Covering: some(mm(12)), Cavity: some(mm(20))}
		if c.backing > 0 {
			p.Layers.Backing = some(c.backing)
		}
		if got := p.lengthThatFits(c.need).In(quantity.Metric); got != c.want {
			t.Errorf("%s, %v in wood of %v: %s\nwant %s", c.kind, c.need, c.backing, got, c.want)
		}
	}
}

// TestLengthsInTrade: what is needed to the nanometre takes that length, and a nanometre more the next.
func TestLengthsInTrade(t *testing.T) {
	for kind, sold := range map[catalog.ItemKind][]int64{catalog.Lag: {38, 50, 60, 70, 80, 90, 100, 120},
		catalog.Screw: {12, 16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 120}} {
		for i, long := range sold {
			var p Placement
			p.Pairing, p.Job = &fit.Pairing{Bracket: &catalog.Bracket{}}, &catalog.Job{}
			p.Choice = anchorage.Choice{Wall: catalog.WoodStud, Item: catalog.Item{Kind: kind}}
			none := quantity.Some(quantity.Length(0))
			p.Layers = anchorage.Layers{Plate: none, Covering: none, Cavity: none}
			want := quantity.Say("Take fasteners of %v.", quantity.MM(long)).In(quantity.Metric)
			least := quantity.Length(1)
			if i > 0 {
				least = quantity.MM(sold[i-1]) + 1
			}
			for _, need := range []quantity.Length{least, quantity.MM(long)} {
				if got := p.lengthThatFits(need).In(quantity.Metric); got != want {
					t.Errorf("%s, %v: %s", kind, need, got)
				}
			}
		}
	}
}

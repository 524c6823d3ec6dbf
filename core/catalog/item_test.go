package catalog

import (
	"testing"

	"nexufix/core/quantity"
)

// TestFiguresThatCount: what a fastener cannot have does not count (practice).
func TestFiguresThatCount(t *testing.T) {
	mm := func(tenths int64) quantity.Length { return quantity.Length(tenths) * quantity.Millimetre / 10 }
	for _, c := range []struct {
		name string
		item Item
		of   func(*Item) quantity.Length
		want quantity.Length
	}{
		{"root of M8", Item{Diameter: mm(80), Root: mm(65)}, (*Item).SoundRoot, mm(65)},
		{"root of nine tenths", Item{Diameter: mm(80), Root: mm(72)}, (*Item).SoundRoot, 0},
		{"a sleeve of five", Item{Diameter: mm(80), Sleeve: mm(400)}, (*Item).SoundSleeve, mm(400)},
		{"and of more", Item{Diameter: mm(80), Sleeve: mm(401)}, (*Item).SoundSleeve, 0},
		{"25 mm deep", Item{Kind: SleeveAnchor, EmbedmentMin: mm(250)}, (*Item).SoundEmbedment, mm(250)},
		{"and less", Item{Kind: SleeveAnchor, EmbedmentMin: mm(249)}, (*Item).SoundEmbedment, 0},
		{"a plug by its length", Item{Kind: Plug, Length: mm(600), EmbedmentMin: mm(100)}, (*Item).SoundEmbedment, mm(600)},
		{"a plug of 4 mm", Item{Kind: Plug, Length: mm(40)}, (*Item).SoundEmbedment, 0},
	} {
		if got := c.of(&c.item); got != c.want {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
}

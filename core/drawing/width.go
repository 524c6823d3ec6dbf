package drawing

import (
	"nexufix/core/quantity"
)

// advances are the widths of the letters from space to tilde in the fonts that ship, Go
// Regular and Go Bold of golang.org/x/image, in thousandths of an em, rounded up. A test of
// package render/pdf compares them with the fonts.
var advances = [2][95]uint16{
	{278, 278, 355, 557, 557, 890, 667, 191, 334, 334, 584, 584, 317, 584, 317, 278, 557, 557, 557, 557, 557, 557, 557, 557, 557, 557, 307,
		307, 584, 584, 584, 557, 1016, 667, 667, 723, 723, 667, 611, 778, 723, 399, 496, 667, 557, 834, 723, 778, 667, 778, 723, 667, 611,
		723, 667, 944, 667, 667, 611, 278, 278, 278, 469, 557, 334, 557, 557, 500, 557, 557, 278, 557, 557, 247, 254, 500, 268, 834, 557,
		557, 557, 557, 334, 500, 283, 557, 500, 723, 500, 500, 500, 334, 260, 334, 584},
	{278, 334, 475, 557, 557, 890, 723, 238, 334, 334, 559, 584, 278, 584, 278, 278, 557, 557, 557, 557, 557, 557, 557, 557, 557, 557, 334,
		334, 584, 584, 584, 611, 976, 723, 723, 723, 723, 667, 611, 778, 723, 454, 557, 723, 611, 834, 723, 778, 667, 778, 723, 667, 611,
		723, 667, 944, 667, 667, 611, 334, 278, 334, 584, 557, 334, 557, 611, 557, 611, 557, 334, 611, 611, 290, 288, 557, 299, 890, 611,
		611, 611, 611, 390, 557, 334, 611, 557, 778, 557, 557, 500, 390, 280, 390, 584},
}

// CapHeight is how high a capital letter is, in ems: texts are as high as their capitals.
const CapHeight = 0.7

// accented are letters that are as wide as a plain one, for the languages there are.
var accented = map[rune]rune{'ä': 'a', 'ö': 'o', 'ü': 'u', 'Ä': 'A', 'Ö': 'O', 'Ü': 'U', 'ß': 'Z'}

// LineWidth is how wide a line is drawn whose capitals have a height. A letter beyond ASCII
// counts as wide as the widest.
func LineWidth(line string, height float64, strong bool) float64 {
	return widthOf(advance(line, strong), height)
}

func widthOf(advance int, height float64) float64 {
	return float64(advance) / 1000 * height / CapHeight
}

// advance is how wide a line is, in thousandths of an em.
func advance(line string, strong bool) int {
	of, sum := &advances[0], 0
	if strong {
		of = &advances[1]
	}
	for _, r := range line {
		if r > '~' {
			if plain, ok := accented[r]; ok {
				r = plain
			}
		}
		if i := int(r - ' '); i >= 0 && i < len(of) {
			sum += int(of[i])
		} else {
			sum += 1000
		}
	}
	return sum
}

// TextWidth is how wide a text is drawn, in the system of units in which it is wider.
func TextWidth(p quantity.Phrase, height float64) float64 {
	return max(LineWidth(p.In(quantity.Metric), height, false), LineWidth(p.In(quantity.Imperial), height, false))
}

// Wrap breaks a text into lines no wider than a width.
func Wrap(p quantity.Phrase, width, height float64, strong bool) []quantity.Phrase {
	return p.Wrap(func(line string) bool { return LineWidth(line, height, strong) <= width })
}

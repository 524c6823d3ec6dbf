package fastener

import "nexufix/core/quantity"

// Class is a class of the flat-display mounting-interface standard: a hole
// pattern, the heaviest display it is meant for, and its threads.
type Class struct {
	Width, Height quantity.Length
	MaxMass       quantity.Mass
	Threads       []Thread
}

func kg(tenths int64) quantity.Mass { return quantity.Mass(tenths) * quantity.Kilogram / 10 }

var classes = []Class{
	{quantity.MM(50), quantity.MM(20), kg(20), []Thread{M4}},
	{quantity.MM(75), quantity.MM(35), kg(45), []Thread{M4}},
	{quantity.MM(75), quantity.MM(75), kg(80), []Thread{M4}},
	{quantity.MM(100), quantity.MM(100), kg(140), []Thread{M4}},
	{quantity.MM(200), quantity.MM(100), kg(227), []Thread{M4}},
}

// MostOnM4 is the greatest mass of a class with M4.
const MostOnM4 = 227 * quantity.Kilogram / 10

// InterfaceClass finds the class of a pattern in the flat-display mounting
// standard (VESA FDMI, 2006, memory). Real displays stray from it, so a
// departure is a reason to check a figure and never a failed match.
func InterfaceClass(width, height quantity.Length) (Class, bool) {
	for _, c := range classes {
		if c.Width == width && c.Height == height {
			return c, true
		}
	}
	step := quantity.MM(200)
	if width > 0 && height > 0 && width%step == 0 && height%step == 0 {
		return Class{width, height, kg(1136), []Thread{M6, M8}}, true
	}
	return Class{}, false
}

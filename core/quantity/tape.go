package quantity

// Side is the side of a line that something is on, by how far right of it it is.
func Side(right Length) string {
	if right < 0 {
		return "left"
	}
	return "right"
}

// LeftOrRight says how far beside a line something is, as on a wall: "221 mm left of", "on".
func LeftOrRight(right Length) Phrase {
	switch {
	case right > 0:
		return Say("%v right of", Wall(right))
	case right < 0:
		return Say("%v left of", Wall(-right))
	}
	return Say("on")
}

// AboveOrBelow says how far over a line something is, or under it: "95 mm above", "on".
func AboveOrBelow(up Length) Phrase {
	switch {
	case up > 0:
		return Say("%v above", Wall(up))
	case up < 0:
		return Say("%v below", Wall(-up))
	}
	return Say("on")
}

// Sideways is a way to the side, in a table: "221 mm left", "0 mm".
func Sideways(right Length) Phrase { return way(right, Side(right)) }

// Vertical is a way up or down, in a table: "95 mm down", "0 mm".
func Vertical(up Length) Phrase {
	if up < 0 {
		return way(up, "down")
	}
	return way(up, "up")
}

func way(l Length, where string) Phrase {
	if l == 0 {
		return Say("%v", Wall(0))
	}
	return Say("%v %v", Wall(l.Abs()), where)
}

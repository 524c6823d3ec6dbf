package place

import (
	"fmt"

	"nexufix/core/quantity"
)

// Movable is something on a wall that can be moved.
type Movable struct {
	What  string // as [Move] has it
	Index int
	X, Y  quantity.Length // as [Move] takes them
	Name  quantity.Phrase
}

// Tag returns its tag in the drawing of the wall.
func (t *Movable) Tag() string {
	switch t.What {
	case "niche", "surface", "line", "ceiling":
		return t.What
	}
	return fmt.Sprintf("%s.%d", t.What, t.Index)
}

// Movables lists what can be moved on the wall of a job's displays.
func Movables(all []Placement) []Movable {
	var out []Movable
	add := func(what string, index int, x, y quantity.Length, format string, args ...any) {
		out = append(out, Movable{what, index, x, y, quantity.Say(format, args...)})
	}
	for i := range all {
		if p := &all[i]; p.Known {
			name := "Display"
			if len(all) > 1 {
				name = fmt.Sprintf("Display %d", i+1)
			}
			add("display", i, p.DisplayX, p.Centre, "%v, its middle %v across and %v up", name, quantity.Wall(p.DisplayX), quantity.Wall(p.Centre))
		}
	}
	if len(all) == 0 || !all[0].Known {
		return out
	}
	p := &all[0]
	w := &p.Job.Wall
	if w.Type.HasStuds() {
		for i, s := range p.Studs {
			add("stud", i, s.X, 0, "Stud %v at %v", i+1, quantity.Wall(s.X))
		}
	}
	for i, f := range w.Furniture {
		add("furniture", i, f.X, f.Height, "%v, its middle at %v, %v high", or(f.Name, "Furniture"), quantity.Wall(f.X), quantity.Wall(f.Height))
	}
	for i, o := range w.Outlets {
		add("outlet", i, o.X, o.Y, "Outlet at %v, %v up", quantity.Wall(o.X), quantity.Wall(o.Y))
	}
	if n := w.Niche; n != nil {
		add("niche", 0, n.X, n.Bottom+n.Height/2, "Niche, its middle at %v", quantity.Wall(n.X))
	}
	for _, l := range []struct {
		what string
		at   quantity.Optional[quantity.Length]
		name string
	}{{"surface", p.Job.Place.Surface, "Furniture below"}, {"line", p.Job.Place.Line, "Line above"}, {"ceiling", w.Height, "Ceiling"}} {
		if l.at.Known {
			add(l.what, 0, 0, l.at.Value, "%v at %v", l.name, quantity.Wall(l.at.Value))
		}
	}
	return out
}

// or is what somebody has called a thing, in every language the same, or else a word for it.
func or(name, otherwise string) any {
	if name == "" {
		return otherwise
	}
	return quantity.Name(name)
}

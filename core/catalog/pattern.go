package catalog

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Pattern is one hole pattern on a display's back. Its holes are on record as two rows of equal ones, or one by one.
type Pattern struct {
	Width  quantity.Length `json:"width_mm" required:"true" exclusiveMinimum:"0" maximum:"3000"`
	Height quantity.Length `json:"height_mm" required:"true" minimum:"0" maximum:"3000"`
	Thread fastener.Thread `json:"thread,omitzero"` // NoThread: not known
	// of the pattern below the outline's top, and right of its middle
	CenterBelowTop OptLength       `json:"center_below_top_mm,omitzero" minimum:"0" maximum:"10000"`
	CenterRight    quantity.Length `json:"center_right_mm,omitzero" minimum:"-5000" maximum:"5000"`
	// of its bolts
	TorqueMax quantity.Optional[quantity.Torque] `json:"torque_max_nm,omitzero" exclusiveMinimum:"0" maximum:"200"`
	Rows      *Rows                              `json:"rows,omitempty"`
	Given     []GivenHole                        `json:"holes,omitempty" minItems:"2" maxItems:"8"` // one by one; nil: by rows

	Holes          []Hole          `json:"-"` // two to eight, of Rows or Given; filled in by Complete
	Contradictions []Contradiction `json:"-"` // between figures, or these and trial bolts; filled in by packages probe and fit
}

// Rows are the figures of four holes TL TR BL BR: equal ones in each row.
type Rows struct {
	Top    *HoleFigures `json:"top,omitempty"`
	Bottom *HoleFigures `json:"bottom,omitempty"`
}

// HoleFigures are the figures on record along a hole's axis.
type HoleFigures struct {
	Setback        OptLength `json:"setback_mm,omitzero" minimum:"0" maximum:"500"`
	Recess         OptLength `json:"recess_mm,omitzero" minimum:"0" maximum:"500"`
	RecessDiameter OptLength `json:"recess_diameter_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
	ThreadDepth    OptLength `json:"thread_depth_mm,omitzero" exclusiveMinimum:"0" maximum:"500"`
	Trials         []Trial   `json:"trials,omitempty" minItems:"1" maxItems:"64"`
}

// GivenHole is one hole on record, with its place from the pattern's centre, front view.
type GivenHole struct {
	ID string          `json:"id" required:"true" pattern:"^[A-Za-z0-9_-]{1,16}$"`
	X  quantity.Length `json:"x_mm" required:"true" minimum:"-3000" maximum:"3000"`
	Y  quantity.Length `json:"y_mm" required:"true" minimum:"-3000" maximum:"3000"`
	HoleFigures
}

// Hole is one threaded hole as it is judged: where it is from the pattern's centre (x right, y up, front view) and what
// is known along its axis, each figure with its origin.
type Hole struct {
	ID             string
	X, Y           quantity.Length
	Setback        Figure // b: rim in front of the rest plane
	Recess         Figure // r: rim down to the insert's face
	RecessDiameter Figure // cup around the hole
	ThreadDepth    Figure // D: insert's face to where a bolt bottoms
	Trials         []Trial
	Probed         *Probed // what the trials give, where they stand in for the figures
}

// Contradiction is a figure on record that a caller's trial bolts, or other
// figures on record, exclude.
type Contradiction struct {
	Holes  []string
	Thread bool            // of the thread; else of a depth
	Text   quantity.Phrase // both of them
}

// Probed is what trial bolts say of a hole, held together with what is on
// record.
type Probed struct {
	Depth       Span // r + D, rim to where a bolt bottoms
	Recess      Span // r
	ThreadDepth Span // D
}

// ByRows reports whether the holes are on record as two rows.
func (p *Pattern) ByRows() bool { return p.Given == nil }

// HolePath is where the figures of a hole are on record, within the pattern: "rows.top" or "holes[2]".
func (p *Pattern) HolePath(hole int) string {
	switch {
	case !p.ByRows():
		return "holes[" + strconv.Itoa(hole) + "]"
	case hole < 2:
		return "rows.top"
	}
	return "rows.bottom"
}

// rowHoles are the holes of two rows, and their places in half widths and heights.
var rowHoles = [4]struct {
	id        string
	bottom    bool
	right, up quantity.Length
}{{"TL", false, -1, 1}, {"TR", false, 1, 1}, {"BL", true, -1, -1}, {"BR", true, 1, -1}}

// oneByOne returns the holes of two rows one by one.
func (p *Pattern) oneByOne() []GivenHole {
	var rows Rows
	if p.Rows != nil {
		rows = *p.Rows
	}
	out := make([]GivenHole, len(rowHoles))
	for i, h := range rowHoles {
		out[i] = GivenHole{ID: h.id, X: h.right * p.Width / 2, Y: h.up * p.Height / 2}
		if of := rows.of(h.bottom); of != nil {
			out[i].HoleFigures = *of
		}
	}
	return out
}

func (r *Rows) of(bottom bool) *HoleFigures {
	if bottom {
		return r.Bottom
	}
	return r.Top
}

// OneByOne puts the holes of a pattern's two rows on record one by one, with their origins and notes.
func (d *Display) OneByOne(pattern int) {
	p := &d.Patterns[pattern]
	if !p.ByRows() {
		return
	}
	at := "patterns[" + strconv.Itoa(pattern) + "]."
	rows := *p
	p.Given, p.Rows = p.oneByOne(), nil
	d.Origins, d.Notes = maps.Clone(d.Origins), maps.Clone(d.Notes)
	for hole := range rowHoles {
		renamed(d.Origins, at+rows.HolePath(hole)+".", at+p.HolePath(hole)+".")
		renamed(d.Notes, at+rows.HolePath(hole)+".", at+p.HolePath(hole)+".")
	}
	for _, row := range []string{"rows.top.", "rows.bottom."} {
		forget := func(path string) bool { return strings.HasPrefix(path, at+row) }
		maps.DeleteFunc(d.Origins, func(path string, _ Origin) bool { return forget(path) })
		maps.DeleteFunc(d.Notes, func(path string, _ Note) bool { return forget(path) })
	}
}

// renamed gives what is said of one path to another.
func renamed[T any](table map[string]T, from, to string) {
	for path, what := range maps.Clone(table) {
		if rest, ok := strings.CutPrefix(path, from); ok {
			table[to+rest] = what
		}
	}
}

// Complete fills in what the format leaves to a default, and derives the holes that are judged from what is on record. What says no more
// than is known without it goes, so that what says the same is written the same: a figure's origin that is the display's, a row without
// figures, and beside trial bolts no recess. What may be shared with another display is not changed.
func (d *Display) Complete() {
	d.OwnParts = slices.Clone(d.OwnParts)
	completeItems(d.OwnParts)
	d.Patterns = slices.Clone(d.Patterns)
	var redundant []string
	for i := range d.Patterns {
		d.Patterns[i].complete(d, "patterns["+strconv.Itoa(i)+"].", &redundant)
	}
	if len(redundant) > 0 {
		d.Origins = maps.Clone(d.Origins)
		maps.DeleteFunc(d.Origins, func(path string, _ Origin) bool { return slices.Contains(redundant, path) })
	}
}

// complete derives the pattern's holes, and collects the paths of origins that are redundant.
func (p *Pattern) complete(d *Display, at string, redundant *[]string) {
	given := slices.Clone(p.Given)
	if p.ByRows() {
		given = p.oneByOne()
	}
	p.Holes = make([]Hole, len(given))
	for j := range given {
		p.Holes[j] = d.judged(&given[j], at+p.HolePath(j)+".", redundant)
	}
	if !p.ByRows() {
		p.Given = given
		return
	}
	p.Rows = nil
	if top, bottom := given[0].figures(), given[2].figures(); top != nil || bottom != nil {
		p.Rows = &Rows{top, bottom}
	}
}

// judged is a hole with its figures' origins. Setback and recess count as 0 where nobody has said them, and are not known then; beside
// trials a depth on record goes with no recess.
func (d *Display) judged(g *GivenHole, at string, redundant *[]string) Hole {
	figure := func(l OptLength, name string) Figure {
		from := d.Origin
		if len(d.Origins) > 0 {
			if own, ok := d.Origins[at+name]; ok && own == from {
				*redundant = append(*redundant, at+name)
			} else if ok {
				from = own
			}
		}
		return Figure{l.Value, l.Known, from}
	}
	h := Hole{
		ID: g.ID, X: g.X, Y: g.Y, Setback: figure(g.Setback, "setback_mm"), Recess: figure(g.Recess, "recess_mm"),
		RecessDiameter: figure(g.RecessDiameter, "recess_diameter_mm"), ThreadDepth: figure(g.ThreadDepth, "thread_depth_mm"),
		Trials: g.Trials,
	}
	if h.Trials != nil && h.ThreadDepth.Known {
		if h.Recess.Length == 0 && h.Recess.Origin == d.Origin {
			g.Recess = OptLength{}
		}
		h.Recess.Known = true
	}
	return h
}

// figures are those of a hole on record, nil for none.
func (g *GivenHole) figures() *HoleFigures {
	f := &g.HoleFigures
	if !f.Setback.Known && !f.Recess.Known && !f.RecessDiameter.Known && !f.ThreadDepth.Known && f.Trials == nil {
		return nil
	}
	return f
}

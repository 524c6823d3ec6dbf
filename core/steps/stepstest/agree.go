// Package stepstest holds everything that leaves for one installation against
// each other: placement, steps, drilling template and measure card.
package stepstest

import (
	"fmt"
	"math"
	"regexp"
	"strings"

	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/steps"
)

// Disagreements says where points, holes, drills, parts and counts of the sheets
// differ from the placement; none for sheets that are of one mind.
func Disagreements(p *fit.Pairing, places []place.Placement, seq *steps.Sequence) []string {
	var out []string
	fault := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	blocked := len(place.Blocking(p, places)) > 0
	if blocked && len(seq.Blocked) == 0 {
		fault("the place is blocked, and the steps carry no word of it")
	}
	s := sheet.Sheet{Blocked: seq.Blocked}
	total := 0
	for i := range places {
		if total += len(places[i].Points); len(places[i].Points) == 0 {
			total = 0
			break
		}
	}
	if total > 0 {
		s.Places = places
	}
	drawings := map[string]*drawing.Drawing{"template": sheet.DrillTemplate(p, s), "card": sheet.MeasureCard(p, s)}
	for name, d := range drawings {
		if d == nil {
			continue
		}
		all := texts(d)
		if says := strings.Contains(strings.Join(all, "\n"), "Do not install"); says != (len(seq.Blocked) > 0) {
			fault("the %s says Do not install: %v; the steps are blocked by %d", name, says, len(seq.Blocked))
		}
		for _, text := range all {
			if noWay.MatchString(text) {
				fault("the %s says %q, which no tape has", name, text)
			}
		}
		if total == 0 {
			continue
		}
		count(all, name, total, fault)
	}
	if total > 0 {
		drawn(drawings["template"], places, fault)
		for _, s := range OnTheMarks(drawings["template"]) {
			fault("of the template %s", s)
		}
		listed(drawings["card"], places, fault)
	}
	if len(seq.Steps) > 0 && total > 0 {
		worked(places, seq, total, fault)
	}
	return out
}

// noWay is a way that is less than none, or to the side by nothing.
var noWay = regexp.MustCompile(`[-−]\d[\d.]* mm (below|above|left|right|up|down)|(^|[^\d.])0 mm (left|right|up|down)`)

type faults func(format string, args ...any)

func texts(d *drawing.Drawing) (out []string) {
	for _, i := range d.Items {
		if t, ok := i.Shape.(drawing.Text); ok {
			out = append(out, t.Text.In(quantity.Metric))
		}
	}
	return out
}

// count: every number up to the last stands once, and none after it.
func count(all []string, name string, total int, fault faults) {
	form := map[string]string{"template": "drill %d", "card": "%d"}[name]
	seen := map[string]int{}
	for _, s := range all {
		seen[s]++
	}
	for n := 1; n <= total; n++ {
		if s := fmt.Sprintf(form, n); seen[s] < 1 || name == "template" && seen[s] > 1 {
			fault("%q stands %d times on the %s", s, seen[s], name)
		}
	}
	if s := fmt.Sprintf(form, total+1); name == "template" && seen[s] > 0 {
		fault("there is a %q on the template, with %d points", s, total)
	}
}

// drawn: on the template each point is where the placement has it, of its drill's
// size, with its fastener and its depth written beside.
func drawn(d *drawing.Drawing, places []place.Placement, fault faults) {
	if d == nil {
		fault("there is no template of a place with points")
		return
	}
	byTag := map[string][]drawing.Item{}
	for _, i := range d.Items {
		byTag[i.Tag] = append(byTag[i.Tag], i)
	}
	for i := range places {
		p := &places[i]
		for n := range p.Points {
			pt := &p.Points[n]
			x, y := (pt.X - places[0].DatumX).MM(), (pt.Y - places[0].Datum).MM()
			found := false
			for tag, items := range byTag {
				if !strings.HasPrefix(tag, "point.") {
					continue
				}
				at, sized := false, !pt.Drill.Diameter.Known
				words := ""
				for _, item := range items {
					switch s := item.Shape.(type) {
					case drawing.Circle:
						here := near(s.Center.X, x) && near(s.Center.Y, y)
						at = at || here
						sized = sized || here && near(s.Radius*2, pt.Drill.Diameter.Value.MM())
					case drawing.Text:
						words += s.Text.In(quantity.Metric) + "\n"
					}
				}
				if !at {
					continue
				}
				if sized && strings.Contains(words, pt.Drill.Fastener) && (!pt.Drill.Depth.Known || strings.Contains(words, depth(pt))) {
					found = true
				}
			}
			if !found {
				fault("point %s of display %d is not on the template as it is placed", pt.Hole, i+1)
			}
		}
	}
}

func near(a, b float64) bool { return a-b < 1e-6 && b-a < 1e-6 }

func depth(pt *place.Point) string {
	return quantity.Say("%v", quantity.Bare{Length: pt.Drill.Depth.Value, Bound: quantity.Up, Wall: true}).In(quantity.Metric)
}

// listed: the card has as many rows for a hole, with its place and drill, as the
// placement has.
func listed(d *drawing.Drawing, places []place.Placement, fault faults) {
	if d == nil {
		fault("there is no measure card of a place with points")
		return
	}
	all := strings.Join(texts(d), "\n")
	for i := range places {
		for n := range places[i].Points {
			pt := &places[i].Points[n]
			for _, want := range []string{quantity.Say("%v", quantity.Wall(pt.FromCentreLine.Abs())).In(quantity.Metric),
				quantity.Say("%v", quantity.Wall(pt.Y)).In(quantity.Metric), pt.Drill.Fastener} {
				if !strings.Contains(all, want) {
					fault("the card does not say %s of point %s", want, pt.Hole)
				}
			}
		}
	}
}

// widestBit is the widest one with which the holes are drilled.
func widestBit(seq *steps.Sequence) (out quantity.Length) {
	for i := range seq.Steps {
		if seq.Steps[i].ID != "drill" {
			continue
		}
		for _, t := range seq.Steps[i].Tools {
			var mm float64
			if n, _ := fmt.Sscanf(t, "drill bit Ø %g mm", &mm); n == 1 {
				out = max(out, quantity.Length(math.Round(mm*float64(quantity.Millimetre))))
			}
		}
	}
	return out
}

// OnTheMarks are the texts of a template that lie on a point to drill: its cross is what the drill is set on.
func OnTheMarks(d *drawing.Drawing) (out []string) {
	var texts []drawing.Text
	var boxes []drawing.Box
	for i := range d.Items {
		if text, ok := d.Items[i].Shape.(drawing.Text); ok {
			texts, boxes = append(texts, text), append(boxes, text.Box())
		}
	}
	for i := range d.Items {
		mark, ok := d.Items[i].Shape.(drawing.Circle)
		if !ok || mark.Radius != sheet.PointRadius || !strings.HasPrefix(d.Items[i].Tag, "point.") {
			continue
		}
		c := mark.Center
		around := drawing.Box{Min: drawing.Point{X: c.X - 2, Y: c.Y - 2}, Max: drawing.Point{X: c.X + 2, Y: c.Y + 2}}
		for n := range boxes {
			if boxes[n].Meets(around) {
				out = append(out, fmt.Sprintf("%q lies on %s", texts[n].Text.In(quantity.Metric), d.Items[i].Tag))
			}
		}
	}
	return out
}

// worked: the steps mark, drill and fill as many holes as there are points.
func worked(places []place.Placement, seq *steps.Sequence, total int, fault faults) {
	said := map[string]string{}
	for _, s := range seq.Steps {
		for _, t := range s.Text {
			said[s.ID] += t.In(quantity.Metric) + "\n"
		}
	}
	must := func(step, what string) {
		if !strings.Contains(said[step], what) {
			fault("step %s does not say %q: %s", step, what, said[step])
		}
	}
	want := map[string]int{}
	beside := 0
	must("mark", fmt.Sprintf("mark %d holes", total))
	n := 0
	for i := range places {
		p := &places[i]
		for j := range p.Points {
			pt := &p.Points[j]
			n++
			middle := "on the middle"
			if x := pt.FromCentreLine; x != 0 {
				middle = quantity.Say("%v", quantity.Wall(x.Abs())).In(quantity.Metric)
			}
			must("mark", fmt.Sprintf("%d (%s): %s", n, pt.Hole, middle))
			if d := pt.Drill.Diameter; d.Known {
				bit := fmt.Sprintf("drill bit Ø %s mm", quantity.FormatDecimal(int64(d.Value), 6))
				if !contains(seq.Tools, bit) {
					fault("no tool is the %s of point %s", bit, pt.Hole)
				}
				if wider := widestBit(seq); wider > d.Value && !pt.Beside {
					fault("point %s is drilled %v wide, and a bit of %v starts it", pt.Hole, d.Value, wider)
				}
			}
			item := &p.Choice.Item
			if pt.Beside {
				beside++
				item = p.Choice.Beside
			} else if plug := p.Choice.Plug; plug != nil {
				want[plug.Label()]++
			}
			if item != nil && p.Choice.Known() {
				want[item.Label()]++
			}
			if !pt.Beside && pt.Drill.Depth.Known {
				must("drill", quantity.Say("%v deep", quantity.AtMost(pt.Drill.Depth.Value)).In(quantity.Metric))
			}
		}
	}
	must("drill", fmt.Sprintf("Drill %d holes", total-beside))
	if beside > 0 {
		must("drill_board", fmt.Sprintf("Drill %d holes in the board", beside))
	}
	have := map[string]int{}
	for _, s := range seq.Steps {
		if s.ID != "plugs" && s.ID != "plate" {
			continue
		}
		for _, p := range s.Parts {
			have[p.Name] += p.Count
		}
	}
	for name, n := range want {
		if have[name] != n {
			fault("%d × %s are placed, the steps use %d", n, name, have[name])
		}
	}
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}

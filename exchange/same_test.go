package exchange

import (
	"bytes"
	"encoding/json"
	"slices"
	"testing"

	"nexufix/core/quantity"
)

// sameAs are ways to write a document that must not change what is said of it; false if it does not apply.
var sameAs = map[string]func(doc map[string]any) bool{
	"the kit from its end":     func(doc map[string]any) bool { return turnedRound(first(doc, "brackets"), "kit") },
	"the zones from their end": func(doc map[string]any) bool { return turnedRound(first(doc, "displays"), "zones") },
	"the plate's holes from their end": func(doc map[string]any) bool {
		plate, _ := first(doc, "brackets")["wall_plate"].(map[string]any)
		return turnedRound(plate, "holes")
	},
	"left and right": mirrored,
	"a display that is taller than wide, hung turned": turned,
}

func first(doc map[string]any, list string) map[string]any {
	all, _ := doc[list].([]any)
	if len(all) == 0 {
		return nil
	}
	one, _ := all[0].(map[string]any)
	return one
}

func turnedRound(of map[string]any, list string) bool {
	all, _ := of[list].([]any)
	slices.Reverse(all)
	return len(all) > 1
}

// mirrored swaps left and right of a display, its bracket's plate and its wall. It is for walls of known width, on which everything is
// where somebody said.
func mirrored(doc map[string]any) bool {
	display, bracket, job := first(doc, "displays"), first(doc, "brackets"), first(doc, "jobs")
	wall, _ := job["wall"].(map[string]any)
	width, measured := wall["width_mm"].(float64)
	if job["turn_deg"] != nil || job["run"] != nil || wall["studs"] != nil || wall["outlets"] != nil || !measured || job["assume"] != nil {
		return false
	}
	place, _ := job["place"].(map[string]any)
	negate := func(of map[string]any, names ...string) {
		for _, name := range names {
			if v, ok := of[name].(float64); ok {
				of[name] = -v
			}
		}
	}
	across := func(of map[string]any, name string) {
		if v, ok := of[name].(float64); ok {
			of[name] = width - v
		}
	}
	each := func(list any, do func(map[string]any)) {
		all, _ := list.([]any)
		for _, x := range all {
			if one, ok := x.(map[string]any); ok {
				do(one)
			}
		}
	}
	negate(display, "cg_right_mm")
	each(display["zones"], func(z map[string]any) { negate(z, "x_mm") })
	each(display["patterns"], func(p map[string]any) {
		negate(p, "center_right_mm")
		each(p["holes"], func(h map[string]any) { negate(h, "x_mm") })
	})
	if plate, ok := bracket["wall_plate"].(map[string]any); ok {
		each(plate["holes"], func(h map[string]any) { negate(h, "x_mm") })
	}
	across(place, "x_mm")
	each(wall["furniture"], func(f map[string]any) { across(f, "x_mm") })
	if niche, ok := wall["niche"].(map[string]any); ok {
		across(niche, "x_mm")
	}
	left, right := wall["open_left"], wall["open_right"]
	delete(wall, "open_left")
	delete(wall, "open_right")
	if left != nil {
		wall["open_right"] = left
	}
	if right != nil {
		wall["open_left"] = right
	}
	return true
}

// turned says of the display that it is taller than wide, and hangs it turned by 90°: on the wall everything is where it was. It is
// for displays whose rows are alike: turned, rows are columns.
func turned(doc map[string]any) bool {
	display, bracket, job := first(doc, "displays"), first(doc, "brackets"), first(doc, "jobs")
	number := func(of map[string]any, name string) float64 { v, _ := of[name].(float64); return v }
	swap := func(of map[string]any, a, b string) {
		x, y := of[a], of[b]
		delete(of, a)
		delete(of, b)
		if x != nil {
			of[b] = x
		}
		if y != nil {
			of[a] = y
		}
	}
	back := func(of map[string]any, x, y string) { // (x, y) on the wall is (−y, x) on the display
		of[x], of[y] = -number(of, y), number(of, x)
	}
	width, height := number(display, "width_mm"), number(display, "height_mm")
	upright := func(of map[string]any) bool {
		turns, said := of["turns_deg"].([]any)
		return !said || slices.Contains(turns, any(0.0))
	}
	told := display["origins"] != nil || display["notes"] != nil // by path
	if job == nil || job["turn_deg"] != nil || !upright(display) || !upright(bracket) || width == 0 || height == 0 || told {
		return false
	}
	patterns, _ := display["patterns"].([]any)
	for _, x := range patterns {
		p := x.(map[string]any)
		rows, _ := p["rows"].(map[string]any)
		top, _ := json.Marshal(rows["top"])
		if bottom, _ := json.Marshal(rows["bottom"]); !bytes.Equal(top, bottom) || p["center_below_top_mm"] == nil {
			return false
		}
		across, up := number(p, "center_right_mm"), height/2-number(p, "center_below_top_mm")
		p["center_right_mm"], p["center_below_top_mm"] = -up, width/2-across
		swap(p, "width_mm", "height_mm")
		holes, _ := p["holes"].([]any)
		for _, h := range holes {
			back(h.(map[string]any), "x_mm", "y_mm")
		}
	}
	zones, _ := display["zones"].([]any)
	for _, z := range zones {
		back(z.(map[string]any), "x_mm", "y_mm")
		swap(z.(map[string]any), "width_mm", "height_mm")
	}
	swap(display, "width_mm", "height_mm")
	back(display, "cg_right_mm", "cg_above_center_mm")
	both := []any{0.0, 90.0}
	display["turns_deg"], bracket["turns_deg"], job["turn_deg"] = both, both, 90.0
	return true
}

// TestOrderAndSideChangeNothing: what a document says, or two at once say, is the same whatever the order of its lists, and in a mirror.
func TestOrderAndSideChangeNothing(t *testing.T) {
	tried := map[string]int{}
	one := func(name string, doc map[string]any, before *Contents) {
		was := answerOf(before, 0)
		for what, rewrite := range sameAs {
			other := copyOf(doc)
			if !rewrite(other) {
				continue
			}
			after, err := Read(encode(t, other))
			if err != nil {
				continue // a path in it leads to what is not read that way
			}
			tried[what]++
			is := answerOf(after, 0)
			if was.pairing.Verdict != is.pairing.Verdict {
				t.Errorf("%s, %s: %s is %s", name, what, was.pairing.Verdict, is.pairing.Verdict)
			}
			had, has := was.outcomes(), is.outcomes()
			for rule, rank := range had {
				if has[rule] != rank {
					t.Errorf("%s, %s: %s goes from %d to %d", name, what, rule, rank, has[rule])
				}
			}
			for i, c := range was.pairing.Findings {
				if n := is.pairing.Findings[i]; c.Measure != n.Measure {
					t.Errorf("%s, %s: %s is %v, not %v", name, what, c.Rule, n.Measure, c.Measure)
				}
			}
			if p, q := was.pairing.Stack, is.pairing.Stack; p != nil && q != nil && p.Plane != q.Plane {
				t.Errorf("%s, %s: the arms stand at %s, not %s", name, what, quantity.Metric.Stack(q.Plane, 0), quantity.Metric.Stack(p.Plane, 0))
			}
		}
	}
	eachDocument(t, one)
	eachMixed(t, 300, one)
	for what := range sameAs {
		if tried[what] < 40 {
			t.Errorf("%s was tried only %d times", what, tried[what])
		}
	}
	t.Log(tried)
}

package exchange

import (
	"hash/crc32"
	"strings"
	"testing"

	"nexufix/e2e/lots"
)

// worsenings make a document's figures worse, by the end of their paths: heavier, weaker, softer, thinner, fewer, farther from what
// holds. A change of 0 leaves the figure alone.
var worsenings = map[string]func(float64) float64{
	"displays[0].mass_kg":     func(v float64) float64 { return v * 1.2 },
	".accessories_kg":         func(v float64) float64 { return v + 2 },
	".rated_load_kg":          func(v float64) float64 { return v * 0.8 },
	".pull_kg":                func(v float64) float64 { return v * 0.7 },
	".shear_kg":               func(v float64) float64 { return v * 0.7 },
	".covering_mm":            func(v float64) float64 { return v + 4 },
	".cavity_mm":              func(v float64) float64 { return v - 10 },
	"wall.steel_mm":           func(v float64) float64 { return v * 0.7 },
	".studs.width_mm":         func(v float64) float64 { return v * 0.8 },
	".out_mm":                 func(v float64) float64 { return v + 6 },
	".plug_mm":                func(v float64) float64 { return v + 10 },
	".tilt_hold_nm":           func(v float64) float64 { return v * 0.8 },
	".furniture[0].depth_mm":  func(v float64) float64 { return v + 100 },
	".furniture[0].height_mm": func(v float64) float64 { return v + 100 },
}

// truths that make a wall worse when they come to be true.
var harder = []string{"jobs[0].wall.wet", "jobs[0].wall.treated", "jobs[0].place.public", "jobs[0].wall.vehicle"}

// TestWorseIsNeverBetter: of every document, and of two at once, each figure that can be worse is made so (one in three, and
// ten of each; all in the long form). Its verdict, every rule of
// the pairing, and whether it may be hung are no better than before.
func TestWorseIsNeverBetter(t *testing.T) {
	tried := map[string]int{}
	one := func(name string, doc map[string]any, before *Contents) {
		was := answerOf(before, 0)
		had := was.outcomes()
		if had["data"] > 0 {
			return // figures that exclude each other may come to agree
		}
		try := func(what string, path string, value any) {
			worse := copyOf(doc)
			put(t, worse, path, value)
			after, err := Read(encode(t, worse))
			if err != nil || len(after.Displays) == 0 || len(after.Brackets) == 0 {
				return
			}
			tried[what]++
			is := answerOf(after, 0)
			for _, better := range improved(&was, &is, had, false) {
				rule, _, _ := strings.Cut(better, " ")
				switch {
				case rule == "place:blocked" && verdictRank(is.pairing.Verdict) == 2:
					continue // what kept it from being hung there keeps it everywhere
				case (what == ".plug_mm" || what == ".out_mm") && (rule == "stack" || rule == "hold"),
					what == "kit count" && rule != "verdict" && rule != "place:blocked":
					continue // other parts, which have to be sent: the verdict says so
				case (what == ".pull_kg" || what == ".shear_kg") && rule == "place:fastener":
					continue // a figure that its steel does not hold comes to be believed
				}
				t.Errorf("%s with a worse %s: %s", name, path, better)
			}
		}
		var paths []string
		singleFigures(doc, "", &paths)
		for _, path := range paths {
			drawn := crc32.ChecksumIEEE([]byte(name+path))%lots.OneIn(1) == 0
			for end, change := range worsenings {
				value, ok := valueAt(doc, path).(float64)
				if end == ".covering_mm" && valueAt(doc, "jobs[0].wall.type") != "wood_stud" {
					continue // in masonry a thicker covering leaves more behind the hole; a thicker board holds a toggle better
				}
				if ok && (drawn || tried[end] < 10) && strings.HasSuffix(path, end) && change(value) >= 0 {
					try(end, path, change(value))
				}
			}
			if value, ok := valueAt(doc, path).(float64); ok && value >= 1 && strings.Contains(path, ".kit[") && strings.HasSuffix(path, ".count") {
				try("kit count", path, value-1)
			}
		}
		if len(before.Jobs) > 0 {
			for _, path := range harder {
				if valueAt(doc, path) == nil {
					try(path, path, true)
				}
			}
		}
	}
	eachDocument(t, one)
	eachMixed(t, 120, one)
	for end := range worsenings {
		if tried[end] < 5 {
			t.Errorf("%s was made worse only %d times", end, tried[end])
		}
	}
	t.Log(tried)
}

// valueAt returns what is at a path of a document; nil for nothing.
func valueAt(doc map[string]any, path string) any {
	var at any = doc
	for _, part := range pathPart.FindAllString(path, -1) {
		switch x := at.(type) {
		case map[string]any:
			at = x[part]
		case []any:
			n := 0
			for _, digit := range part {
				n = 10*n + int(digit-'0')
			}
			if n < 0 || n >= len(x) {
				return nil
			}
			at = x[n]
		default:
			return nil
		}
	}
	return at
}

package exchange

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fit"
)

// mayImprove are the figures that may be taken away to an answer's advantage,
// because the format or the handbook says what their absence means; by the end of
// their path, with why. Everything else is asked for when it is missing.
var mayImprove = map[string]string{
	// Stated defaults.
	"setback_mm":               "0: a flat back",
	"recess_mm":                "0: no cup",
	"recess_diameter_mm":       "unknown keeps to the rim, where it is also safe had the spacer dropped in",
	"center_right_mm":          "0",
	"cg_above_center_mm":       "0",
	"cg_right_mm":              "0",
	"rest_plane_from_front_mm": "the depth",
	"turn_deg":                 "0",
	"turns_deg":                "a display's: not known, no check; a bracket's: upright",
	"origin":                   "sheet",
	"origins":                  "of a figure: the display's",
	"rows_used":                "both",
	"slot_width_mm":            "the clearance hole of the largest thread",
	"washer_mm":                "0",
	"lateral_slide_mm":         "as the rail allows",
	"count":                    "1",
	"separation_mm":            "the pattern's width",
	"studs_required":           "1",
	"top_per_stud":             "1",
	"bottom_per_stud":          "1",
	"length_mm":                "of a slot: a round hole; of a toggle: not looked at",
	"shape":                    "round",
	"species":                  "spruce-pine-fir",
	"first_mm":                 "0",
	"spacing_mm":               "a single stud",
	"at_mm":                    "none",
	"studs.width_mm":           "38",
	"wall.backing_mm":          "a stud is taken for 63.5 mm; masonry is deep",
	"wall.cavity_mm":           "none, but in walls that have one; behind a board: not looked at",
	"under_head_mm":            "0",
	"tolerance_mm":             "1",
	"gap_mm":                   "of a seated bolt 0, of a run 0; of a rule the least that is needed",
	"turns":                    "not counted",
	"outer_mm":                 "of a washer: ISO 7089",
	"hung_mass_kg":             "half the bracket's",
	"thread_length_mm":         "as usual",
	"embedment_min_mm":         "40, in lined masonry 50",
	"fu_mpa":                   "400",
	"root_mm":                  "of lags and screws by their size",
	"arm_swing_deg":            "90 of full motion",
	"penetration_min_mm":       "38 of a lag; by diameters",
	"covering_max_mm":          "16 where a wall has a limit",
	"drill_mm":                 "the anchor's own diameter",
	"depth_mm@walls":           "of a hole: as computed",
	"center_mm":                "1070",
	"bottom_mm":                "overhead: 2030",
	"angle_deg":                "0",
	"x_mm@place":               "the middle of the wall",
	"arm_width_mm":             "the slot's width",
	"rail_width_mm":            "no limit of its own",
	"behind_arm_mm":            "0",
	"below_hook_mm":            "0",
	"rating_basis":             "judged both ways",
	"for":                      "what its kind is made for",
	"threads":                  "of a spacer: required",
	"accessories_kg":           "0",
	"arm_clearance_mm":         "0",
	"fastener":                 "the usual kind",
	"outlet":                   "none",
	"stud":                     "none",
	"pull_kg":                  "of an item with ratings by wall: those",
	"shear_kg":                 "the same",
	"sleeve_mm":                "it bends, but is not pulled more",
	// Optional limits, and what is only a question when somebody asks it.
	"diagonal_min_mm":    "no limit",
	"diagonal_max_mm":    "no limit",
	"rated_moment_nm":    "no limit",
	"tilt_hold_nm":       "not looked at",
	"slip_nm":            "not looked at",
	"head_room_mm":       "no limit",
	"torque_max_nm":      "not said",
	"clear_mm":           "not asked for",
	"cable_bend_mm":      "not asked for",
	"fixed_cable_mm":     "none",
	"mass_with_stand_kg": "nothing to compare with",
	"diagonal_mm":        "where the bracket has no limits nothing to compare with",
	"width_mm@display":   "an outline that disagrees with its diagonal is gone with it",
	"height_mm@display":  "the same",
	"surface_mm":         "no furniture",
	"line_mm":            "no shelf",
	"accessory_mm":       "nothing stands there",
	"distance_mm":        "not asked",
	"eye_mm":             "not asked",
	"wall.width_mm":      "no ends that are known; edges are then unknown",
	"wall.height_mm":     "no ceiling that is known; the same",
	"vehicle":            "no vehicle",
	"public":             "no public way",
	"rule":               "of a place: a chosen centre",
	"access":             "of a lock: asked for",
	"kind":               "required, but for a lock's",
	"thread":             "of a pattern: asked for",
	"height_adjust_mm":   "none",
	"assume":             "nothing is assumed",
	"wall.niche":         "none",
	"run":                "one",
	// Names.
	"id": "a name", "name": "a name", "maker": "a name", "model": "a name", "revision": "a name", "bag": "a name", "connector": "a name", "format": "a name", "display": "a name", "bracket": "a name",
}

// exempt says whether a path is one of those.
func exempt(path string) bool {
	bare := regexp.MustCompile(`\[\d+\]`).ReplaceAllString(path, "")
	parts := strings.Split(bare, ".")
	last := parts[len(parts)-1]
	for _, key := range []string{last, strings.Join(parts[max(0, len(parts)-2):], ".")} {
		if _, ok := mayImprove[key]; ok {
			return true
		}
	}
	switch {
	case strings.Contains(bare, ".walls.") && last == "depth_mm", strings.Contains(bare, ".place.") && last == "x_mm":
		return true
	case bare == "displays.width_mm", bare == "displays.height_mm":
		return true
	case strings.HasPrefix(bare, "policy"), strings.Contains(bare, ".origins."), strings.Contains(bare, ".assume."), strings.Contains(bare, ".niche"), strings.Contains(bare, ".ratings."), strings.Contains(bare, ".run."), strings.Contains(bare, ".furniture"), strings.Contains(bare, ".outlets"), strings.Contains(bare, ".settings"):
		return true
	}
	return false
}

// singleFigures are the paths of every single figure of a value.
func singleFigures(v any, path string, out *[]string) {
	switch x := v.(type) {
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(x)) {
			singleFigures(x[k], join(path, k), out)
		}
	case []any:
		if len(x) > 0 {
			if _, object := x[0].(map[string]any); !object {
				*out = append(*out, path) // a list of plain figures is one
				return
			}
		}
		for i := range x {
			singleFigures(x[i], index(path, i), out)
		}
	default:
		*out = append(*out, path)
	}
}

// rank is how good an outcome is: what cannot be told is no better than what
// fails.
func rank(s fit.Status) int {
	switch s {
	case fit.Pass:
		return 0
	case fit.Caution:
		return 1
	}
	return 2
}

func verdictRank(v fit.Verdict) int { return min(2, slices.Index(fit.Verdicts, v)) }

// outcomes are the ranks of everything an answer says, by rule; a rule that is
// not judged any more counts for the worst, unless it was passed.
func (a *answer) outcomes() map[string]int {
	out := map[string]int{"verdict": verdictRank(a.pairing.Verdict)}
	for _, c := range a.pairing.Checks {
		out[string(c.Rule)] = rank(c.Status)
	}
	for i := range a.places {
		for _, c := range a.places[i].Checks {
			key := "place:" + string(c.Rule)
			out[key] = max(out[key], rank(c.Status))
		}
		blocked := "place:blocked"
		if len(a.places[i].Blocked()) > 0 {
			out[blocked] = 2
		}
	}
	return out
}

func encode(t testing.TB, doc map[string]any) []byte {
	t.Helper()
	raw, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

// TestRemovalNeverImproves: from the base and from every adversarial document
// each single figure is taken away. Where it can still be read, the verdict, every
// rule of the pairing and the place as a whole are no better than before.
func TestRemovalNeverImproves(t *testing.T) {
	documents := map[string]map[string]any{"base": soundDocument(t), "full": fullDocument(t)}
	err := filepath.WalkDir("testdata/adversarial", func(path string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || filepath.Base(path) == "base.json" || filepath.Base(path) == "full.json" {
			return err
		}
		raw, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		var c adversarial
		if err := json.Unmarshal(raw, &c); err != nil {
			return err
		}
		if c.Expect.Error != "" {
			return nil
		}
		doc := soundDocument(t)
		for _, p := range slices.Sorted(maps.Keys(c.Set)) {
			put(t, doc, p, c.Set[p])
		}
		documents[path] = doc
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	tried, read := 0, 0
	for _, name := range slices.Sorted(maps.Keys(documents)) {
		doc := documents[name]
		before, err := Read(encode(t, doc))
		if err != nil {
			t.Fatal(name, err)
		}
		was := answerOf(before, 0)
		had := was.outcomes()
		var paths []string
		singleFigures(doc, "", &paths)
		for _, path := range paths {
			if exempt(path) {
				continue
			}
			tried++
			var without map[string]any
			if err := json.Unmarshal(encode(t, doc), &without); err != nil {
				t.Fatal(err)
			}
			put(t, without, path, nil)
			after, err := Read(encode(t, without))
			if err != nil || len(after.Displays) == 0 || len(after.Brackets) == 0 {
				continue // it is required
			}
			read++
			is := answerOf(after, 0)
			if s := is.contradicts(); s != "" {
				t.Errorf("%s without %s: %s", name, path, s)
			}
			has := is.outcomes()
			open := opened(&was, &is)
			for rule, old := range had {
				now, judged := has[rule]
				switch {
				case open && (rule == "verdict" || rule == "place:blocked"):
					continue // what failed can no longer be told, and is a condition
				case rule == "data" || was.pairing.Pattern != nil && len(was.pairing.Pattern.Contradictions) > 0:
					continue // with one of two figures their contradiction goes: it is settled
				}
				if strings.HasPrefix(rule, "place:") && rule != "place:blocked" && (!judged || has["place:blocked"] == 2) {
					continue // it is not placed at all, or is blocked all the same
				}
				if now < old {
					t.Errorf("%s without %s: %s goes from %d to %d", name, path, rule, old, now)
				}
			}
		}
	}
	t.Logf("%d figures of %d documents, %d of them can be missing", tried, len(documents), read)
	if read < 1000 {
		t.Errorf("only %d figures were taken away", read)
	}
}

// opened says whether a rule of the pairing that failed can no longer be told,
// and is one of those whose unknown is a condition.
func opened(was, is *answer) bool {
	for _, c := range was.pairing.Checks {
		if c.Status == fit.Fail && is.pairing.Check(c.Rule).Status == fit.Unknown {
			return true
		}
	}
	for i := range was.places { // or failed where its plate is
		for _, c := range was.places[i].Checks {
			if c.Status == fit.Fail && slices.Contains(fit.Rules, c.Rule) && is.pairing.Check(c.Rule).Status == fit.Unknown {
				return true
			}
		}
	}
	return false
}

// fullDocument has every figure of the format.
func fullDocument(t testing.TB) map[string]any {
	t.Helper()
	raw, err := os.ReadFile("testdata/adversarial/full.json")
	if err != nil {
		t.Fatal(err)
	}
	var doc map[string]any
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	return doc
}

// TestEveryFigureIsTakenAway: between them the documents have every field of
// displays, brackets and jobs, so that none escapes the test above.
func TestEveryFigureIsTakenAway(t *testing.T) {
	raw := string(encode(t, soundDocument(t))) + string(encode(t, fullDocument(t)))
	var walk func(reflect.Type, string)
	seen := map[reflect.Type]bool{}
	walk = func(ty reflect.Type, at string) {
		switch ty.Kind() {
		case reflect.Pointer, reflect.Slice, reflect.Map, reflect.Array:
			walk(ty.Elem(), at)
			return
		case reflect.Struct:
		default:
			return
		}
		if seen[ty] {
			return
		}
		seen[ty] = true
		for _, f := range fields(ty) {
			path := join(at, f.name)
			if !strings.Contains(raw, fmt.Sprintf("%q:", f.name)) {
				t.Errorf("no document has %s", path)
			}
			walk(ty.Field(f.index).Type, path)
		}
	}
	for name, ty := range map[string]reflect.Type{"display": reflect.TypeFor[Display](), "bracket": reflect.TypeFor[Bracket](), "job": reflect.TypeFor[Job]()} {
		walk(ty, name)
	}
	_ = catalog.WallTypes
}

package exchange

import (
	"encoding/json"
	"fmt"
	"hash/crc32"
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
	"nexufix/e2e/lots"
)

// mayImprove are the figures that may be taken away to an answer's advantage,
// because the format or the handbook says what their absence means: an optional
// limit, a question that nobody asks any more, or a stated default. By the end of
// their path, with why. Everything else is asked for when it is missing.
var mayImprove = map[string]string{
	// Stated defaults.
	"setback_mm":               "0, and said so: a measured one may be what fails",
	"rest_plane_from_front_mm": "the depth",
	"wall.backing_mm":          "a stud is taken for 63.5 mm, which is the least in use; a measured one may be less",
	"wall_plate.washer_mm":     "no washer asked for",
	"kit.head":                 "a pan head",
	"kit.spacing_min_mm":       "the usual distances count",
	"kit.edge_min_mm":          "the usual distances count",
	"kit.embedment_min_mm":     "the usual depth counts",
	"diagonal_min_mm":          "no limit",
	"public":                   "no public way",
	"cg_above_center_mm":       "0: at the middle",
	"cg_right_mm":              "0: at the middle",
	"turn_deg":                 "0",
	"turns_deg":                "of a display: any; of a bracket: upright",
	"top_per_stud":             "1",
	"bottom_per_stud":          "1",
	"walls.wood_stud.depth_mm": "the hole as it is computed",
	"center_mm":                "the eye height of the policy",
	"place.x_mm":               "the middle of the wall",
	"accessories_kg":           "0",
	"wall.treated":             "untreated",
	"wall.wet":                 "dry",
	"assume.load_kg":           "what is on record",
	// Optional limits of makers.
	"rated_moment_nm": "no limit",
	"tilt_hold_nm":    "not looked at",
	"slip_nm":         "not looked at",
	// What is looked at only where somebody asked for it.
	"clear_mm":   "no vent to keep free",
	"line_mm":    "no shelf",
	"surface_mm": "no furniture",
}

// exempt reports whether a path is one of those.
func exempt(path string, assumes bool) bool {
	bare := "." + regexp.MustCompile(`\[\d+\]`).ReplaceAllString(path, "")
	if strings.HasPrefix(bare, ".policy.") {
		return true // a policy has a default for each of its figures
	}
	for _, end := range []string{"brackets.reach_mm", "displays.mass_kg", "wall.species"} {
		if assumes && strings.HasSuffix(bare, end) {
			return true // what is assumed stands in for it, and the answer says so
		}
	}
	for end := range mayImprove {
		if strings.HasSuffix(bare, "."+end) {
			return true
		}
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
	case fit.Pass, fit.Note:
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
	for _, c := range a.pairing.Findings {
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

// soundAndOdd are the base, the document with every field, and every adversarial
// document that can be read; with the figures of each that settle a contradiction
// when they are taken away.
func soundAndOdd(t *testing.T) (documents map[string]map[string]any, settled map[string][]string) {
	t.Helper()
	documents, settled = map[string]map[string]any{"base": soundDocument(t), "full": fullDocument(t)}, map[string][]string{}
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
		documents[path], settled[path] = doc, c.SettledWithout
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	files, _ := filepath.Glob("testdata/second/*.json")
	for _, path := range files {
		for _, c := range family(t, path) {
			doc := soundDocument(t)
			for _, p := range slices.Sorted(maps.Keys(c.Set)) {
				put(t, doc, p, c.Set[p])
			}
			name := path + ":" + c.Name
			documents[name], settled[name] = doc, c.SettledWithout
		}
	}
	return documents, settled
}

// eachDocument calls do with each of them.
func eachDocument(t *testing.T, do func(name string, doc map[string]any, c *Contents)) {
	t.Helper()
	documents, _ := soundAndOdd(t)
	for _, name := range slices.Sorted(maps.Keys(documents)) {
		c, err := Read(encode(t, documents[name]))
		if err != nil {
			t.Fatal(name, err)
		}
		do(name, documents[name], c)
	}
}

// copyOf is a document to change.
func copyOf[T any](doc T) T {
	switch x := any(doc).(type) {
	case map[string]any:
		out := make(map[string]any, len(x))
		for k, v := range x {
			out[k] = copyOf(v)
		}
		return any(out).(T)
	case []any:
		out := make([]any, len(x))
		for i, v := range x {
			out[i] = copyOf(v)
		}
		return any(out).(T)
	}
	return doc
}

// TestRemovalNeverImproves: from the base and the full document each single
// figure is taken away, and from every adversarial document one in fifteen,
// others in each (one in five in the long form). Where it can still be read, the verdict, every rule of
// the pairing and the place as a whole are no better than before.
func TestRemovalNeverImproves(t *testing.T) {
	_, settled := soundAndOdd(t)
	tried, read, documents := 0, 0, 0
	eachDocument(t, func(name string, doc map[string]any, before *Contents) {
		documents++
		was := answerOf(before, 0)
		had := was.outcomes()
		var paths []string
		singleFigures(doc, "", &paths)
		assumes := strings.Contains(string(encode(t, doc)), `"assume":`)
		for _, path := range paths {
			if exempt(path, assumes) || slices.Contains(settled[name], path) || name != "base" && name != "full" &&
				crc32.ChecksumIEEE([]byte(name+path))%lots.OneIn(5) != 0 {
				continue
			}
			tried++
			without := copyOf(doc)
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
			for _, worse := range improved(&was, &is, had, false) {
				t.Errorf("%s without %s: %s", name, path, worse)
			}
		}
	})
	t.Logf("%d figures of %d documents, %d of them can be missing", tried, documents, read)
	if read < lots.Times(1500) {
		t.Errorf("only %d figures were taken away", read)
	}
}

// improved are the rules whose outcome is better in what is than in what was.
func improved(was, is *answer, had map[string]int, added bool) []string {
	var out []string
	has := is.outcomes()
	open := opened(was, is)
	for _, rule := range slices.Sorted(maps.Keys(had)) {
		now, judged := has[rule]
		switch {
		case open && (rule == "verdict" || rule == "place:blocked"):
			continue // what failed can no longer be told, and is a condition
		case !added && (rule == "data" || inTheWall(was.pairing.Bracket) || was.pairing.Pattern != nil &&
			len(was.pairing.Pattern.Contradictions) > 0):
			continue // with one of two figures their contradiction goes: it is settled
		case strings.HasPrefix(rule, "place:") && rule != "place:blocked" && (!judged || has["place:blocked"] == 2):
			continue // it is not placed at all, or is blocked all the same
		}
		if now < had[rule] {
			out = append(out, fmt.Sprintf("%s goes from %d to %d", rule, had[rule], now))
		}
	}
	return out
}

// inTheWall reports whether a pivot is contradicted by where its arms are.
func inTheWall(b *catalog.Bracket) bool {
	_, tilt := b.TiltAxis()
	_, swivel := b.SwivelAxis()
	in := func(p *catalog.Pivot, placed bool) bool { return p != nil && p.BehindArm.Known && !placed }
	return in(b.TiltPivot, tilt) && b.TiltPivot.BelowHook.Known || in(b.SwivelPivot, swivel)
}

// figure is the number at a path of the first display, pattern or bracket, if it
// has one.
func figure(doc any, path ...string) (float64, bool) {
	for _, p := range path {
		switch x := doc.(type) {
		case map[string]any:
			doc = x[p]
		case []any:
			if len(x) == 0 {
				return 0, false
			}
			doc = x[0]
		default:
			return 0, false
		}
	}
	f, ok := doc.(float64)
	return f, ok
}

// recorded is the thread depth of a row whose thread is on record and in which no
// bolt was tried.
func recorded(doc map[string]any, row string) (float64, bool) {
	depth, ok := figure(doc, "displays", "", "patterns", "", "rows", row, "thread_depth_mm")
	raw, _ := json.Marshal(doc["displays"])
	return depth, ok && patternThread(doc) && !strings.Contains(string(raw), `"trials"`)
}

// contradictions add to a document what cannot be true beside what it has; false
// when it has nothing to be contradicted.
var contradictions = map[string]func(t *testing.T, doc map[string]any) bool{
	"a trial of another thread": func(t *testing.T, doc map[string]any) bool {
		depth, ok := recorded(doc, "top")
		if ok {
			put(t, doc, "displays[0].patterns[0].rows.top.trials",
				[]any{map[string]any{"thread": "M6", "length_mm": depth + 30, "outcome": "too_big"},
					map[string]any{"thread": "M4", "length_mm": depth + 30, "outcome": "stopped", "gap_mm": 30}})
		}
		return ok
	},
	"a trial that goes deeper": func(t *testing.T, doc map[string]any) bool {
		depth, ok := recorded(doc, "bottom")
		if ok {
			put(t, doc, "displays[0].patterns[0].rows.bottom.trials",
				[]any{map[string]any{"thread": "M6", "length_mm": depth + 40, "outcome": "stopped", "gap_mm": 0, "tolerance_mm": 0.5}})
		}
		return ok
	},
	"a trial that stops short": func(t *testing.T, doc map[string]any) bool {
		depth, ok := recorded(doc, "top")
		if ok {
			put(t, doc, "displays[0].patterns[0].rows.top.trials",
				[]any{map[string]any{"thread": "M6", "length_mm": depth + 10, "outcome": "stopped", "gap_mm": depth + 8, "tolerance_mm": 0.5}})
		}
		return ok
	},
	"lighter with its stand": func(t *testing.T, doc map[string]any) bool {
		mass, ok := figure(doc, "displays", "", "mass_kg")
		stand, _ := figure(doc, "displays", "", "mass_with_stand_kg")
		if ok = ok && stand <= 3*mass; ok { // else it contradicts already, and would be settled
			put(t, doc, "displays[0].mass_with_stand_kg", mass*0.8)
		}
		return ok
	},
	"a back farther than it is deep": func(t *testing.T, doc map[string]any) bool {
		depth, ok := figure(doc, "displays", "", "depth_mm")
		if ok {
			put(t, doc, "displays[0].rest_plane_from_front_mm", depth+15)
		}
		return ok
	},
	"a centre of gravity outside it": func(t *testing.T, doc map[string]any) bool {
		width, ok := figure(doc, "displays", "", "width_mm")
		if ok {
			put(t, doc, "displays[0].cg_right_mm", width)
		}
		return ok
	},
	"a diagonal longer than its outline": func(t *testing.T, doc map[string]any) bool {
		width, ok := figure(doc, "displays", "", "width_mm")
		_, has := figure(doc, "displays", "", "diagonal_mm")
		if ok && has {
			put(t, doc, "displays[0].diagonal_mm", width*2)
		}
		return ok && has
	},
	"an item for a wall it is not made for": func(t *testing.T, doc map[string]any) bool {
		b, ok := doc["brackets"].([]any)
		if !ok || len(b) == 0 {
			return false
		}
		kit, ok := b[0].(map[string]any)["kit"].([]any)
		if !ok {
			return false
		}
		for _, i := range kit {
			if i.(map[string]any)["kind"] == "lag" {
				i.(map[string]any)["for"] = []any{"hollow_board"}
			}
		}
		return true
	},
}

// TestContradictionNeverImproves adds each of them to every document.
func TestContradictionNeverImproves(t *testing.T) {
	tried := map[string]int{}
	eachDocument(t, func(name string, doc map[string]any, before *Contents) {
		was := answerOf(before, 0)
		had := was.outcomes()
		for what, add := range contradictions {
			with := copyOf(doc)
			if !add(t, with) {
				continue
			}
			after, err := Read(encode(t, with))
			if err != nil {
				continue // refused, which is safe too
			}
			tried[what]++
			is := answerOf(after, 0)
			if s := is.contradicts(); s != "" {
				t.Errorf("%s with %s: %s", name, what, s)
			}
			for _, worse := range improved(&was, &is, had, true) {
				if what == "a back farther than it is deep" && strings.HasPrefix(worse, "protrusion ") {
					continue // it takes the place of the figure that told of something behind
				}
				t.Errorf("%s with %s: %s", name, what, worse)
			}
		}
	})
	for what := range contradictions {
		if tried[what] < 20 {
			t.Errorf("%s: tried on %d documents", what, tried[what])
		}
	}
}

// opened reports whether a rule of the pairing that failed can no longer be told,
// and is one of those whose unknown is a condition.
func opened(was, is *answer) bool {
	for _, c := range was.pairing.Findings {
		if c.Status == fit.Fail && is.pairing.Check(c.Rule).Status == fit.Unknown {
			return true
		}
	}
	for i := range was.places { // or failed where its plate is
		for _, c := range was.places[i].Checks {
			if c.Status == fit.Fail && is.pairing.Check(c.Rule).Status == fit.Unknown {
				return true
			}
		}
	}
	return false
}

// TestEveryFigureIsTakenAway: between them the documents have every field of displays, brackets and jobs where it is, so that none escapes
// the test above. (Looked for by its name alone, the depth of one thing hid that of another.)
func TestEveryFigureIsTakenAway(t *testing.T) {
	there := map[string]bool{}
	for _, doc := range []map[string]any{soundDocument(t), fullDocument(t)} {
		for list, noun := range map[string]string{"displays": "display", "brackets": "bracket", "jobs": "job"} {
			all, _ := doc[list].([]any)
			for _, x := range all {
				pathsIn(x, noun, there)
			}
		}
	}
	var walk func(ty reflect.Type, at string, within []reflect.Type)
	walk = func(ty reflect.Type, at string, within []reflect.Type) {
		switch ty.Kind() {
		case reflect.Pointer, reflect.Slice, reflect.Array:
			walk(ty.Elem(), at, within)
			return
		case reflect.Map:
			walk(ty.Elem(), at+".*", within)
			return
		case reflect.Struct:
		default:
			return
		}
		if slices.Contains(within, ty) {
			return
		}
		for _, f := range shapeOf(ty).fields {
			path := join(at, f.name)
			if path == "display.own_parts" {
				continue // items are those of a kit, which are all looked at there
			}
			if !there[path] {
				t.Errorf("no document has %s", path)
			}
			walk(f.typ, path, append(slices.Clone(within), ty))
		}
	}
	for name, ty := range map[string]reflect.Type{"display": reflect.TypeFor[catalog.Display](), "bracket": reflect.TypeFor[catalog.Bracket](),
		"job": reflect.TypeFor[catalog.Job]()} {
		walk(ty, name, nil)
	}
}

// pathsIn notes the paths of a value's members, an entry of a list by its list, and of an object with free names by "*" too.
func pathsIn(x any, at string, there map[string]bool) {
	switch x := x.(type) {
	case []any:
		for _, one := range x {
			pathsIn(one, at, there)
		}
	case map[string]any:
		for name, one := range x {
			for _, path := range []string{at + "." + name, at + ".*"} {
				there[path] = true
				pathsIn(one, path, there)
			}
		}
	}
}

func patternThread(doc map[string]any) bool {
	displays, _ := doc["displays"].([]any)
	if len(displays) == 0 {
		return false
	}
	patterns, _ := displays[0].(map[string]any)["patterns"].([]any)
	if len(patterns) == 0 {
		return false
	}
	_, ok := patterns[0].(map[string]any)["thread"]
	return ok
}

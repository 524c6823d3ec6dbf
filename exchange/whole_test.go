package exchange

import (
	"encoding/binary"
	"encoding/json"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/draw/wall"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/steps"
	"nexufix/core/steps/stepstest"
	"nexufix/e2e/lots"
)

// oddFigures are what people and programs write where a figure belongs.
var oddFigures = []any{nil, 0.0, 1.0, -1.0, 3.175, 0.000001, 1e-7, 0.5, 12.7, 25.4, 100.0, 199.996875, 400.0, 1999.0, 9999.0, -400.0, 1e9,
	"", "6", true, []any{}, map[string]any{}}

// scrambled is a document that a run of bytes makes of one of the sound ones: one
// byte chooses it, each four after that change one of its figures.
func scrambled(sound []map[string]any, script []byte) map[string]any {
	if len(script) == 0 {
		return nil
	}
	raw, _ := json.Marshal(sound[int(script[0])%len(sound)])
	var doc map[string]any
	_ = json.Unmarshal(raw, &doc) // it was just written
	script = script[1:]
	for n := 0; n < 12 && len(script) >= 4; n++ {
		var paths []string
		singleFigures(doc, "", &paths)
		path := paths[int(binary.LittleEndian.Uint16(script))%len(paths)]
		how, what := script[2], int(script[3])
		script = script[4:]
		at := figureAt(doc, path)
		if at == nil {
			continue
		}
		number, is := at.get().(float64)
		switch {
		case how%4 == 0:
			at.set(oddFigures[what%len(oddFigures)])
		case is && how%4 == 1:
			at.set(number * (0.5 + float64(what)/128))
		case is && how%4 == 2:
			at.set(number + float64(what-128)/8)
		default: // what stands somewhere else under the same name
			var same []string
			last := path[strings.LastIndexAny(path, ".]")+1:]
			for _, other := range paths {
				if strings.HasSuffix(other, last) {
					same = append(same, other)
				}
			}
			if other := figureAt(doc, same[what%len(same)]); other != nil {
				at.set(other.get())
			}
		}
	}
	return doc
}

// slot is a place in a document.
type slot struct {
	get func() any
	set func(any)
}

func figureAt(root any, path string) *slot {
	parts := pathPart.FindAllString(path, -1)
	for i, part := range parts {
		last := i == len(parts)-1
		switch x := root.(type) {
		case map[string]any:
			if last {
				return &slot{func() any { return x[part] }, func(v any) {
					if v == nil {
						delete(x, part)
					} else {
						x[part] = v
					}
				}}
			}
			root = x[part]
		case []any:
			n := 0
			for _, c := range strings.Trim(part, "[]") {
				n = n*10 + int(c-'0')
			}
			if n >= len(x) {
				return nil
			}
			if last {
				return &slot{func() any { return x[n] }, func(v any) { x[n] = v }}
			}
			root = x[n]
		default:
			return nil
		}
	}
	return nil
}

// soundOnes are the documents that are scrambled.
func soundOnes(t testing.TB) []map[string]any {
	out := []map[string]any{soundDocument(t), fullDocument(t)}
	kinds := catalog.WallTypes
	for _, kind := range kinds { // and the first on every kind of wall
		doc := soundDocument(t)
		jobs := doc["jobs"].([]any)
		job := jobs[0].(map[string]any)
		wall := job["wall"].(map[string]any)
		wall["type"] = kind.String()
		if !kind.HasStuds() {
			delete(wall, "studs")
			delete(wall, "species")
		}
		bracket := doc["brackets"].([]any)[0].(map[string]any)
		walls := bracket["walls"].(map[string]any)
		usual := kind.Properties().Usual[0].String()
		walls[kind.String()] = map[string]any{"fastener": usual, "covering_max_mm": 16.0}
		kit := bracket["kit"].([]any)
		if !slices.ContainsFunc(kit, func(i any) bool { return i.(map[string]any)["kind"] == usual }) {
			item := map[string]any{"kind": usual, "diameter_mm": 8.0, "length_mm": 90.0, "count": 4.0, "bag": "X", "pull_kg": 100.0,
				"shear_kg": 120.0, "rating_basis": "rated"}
			bracket["kit"] = append(kit, item)
		}
		out = append(out, doc)
	}
	return out
}

// read reads a document, or says that it is refused, or has nothing to judge.
func readScrambled(t testing.TB, doc map[string]any) *Contents {
	raw, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	c, err := Read(raw)
	if err != nil || len(c.Displays) == 0 || len(c.Brackets) == 0 {
		return nil
	}
	return c
}

// FuzzMatch: no document makes matching panic, or contradict itself.
func FuzzMatch(f *testing.F) {
	eachScript(f, func(t *testing.T, c *Contents) {
		for _, turn := range []catalog.Turn{0, 90} {
			for _, d := range c.Displays {
				for _, b := range c.Brackets {
					a := answer{pairing: fit.Judge(d, b, turn, fit.Extra{}, c.PolicyOrDefault())}
					a.sequence = steps.Generate(&a.pairing, steps.Site{Wall: catalog.WoodStud})
					if s := a.contradicts(); s != "" {
						t.Error(s)
					}
					fit.Improve(&a.pairing, c.Brackets)
				}
				fit.MeasurementPriorities(d, c.Brackets, c.PolicyOrDefault(), nil)
			}
		}
	})
}

// FuzzPlace: no document makes placing panic, or contradict itself.
func FuzzPlace(f *testing.F) {
	eachScript(f, func(t *testing.T, c *Contents) {
		for _, job := range c.Jobs {
			d, b := c.Display(job.Display), c.Bracket(job.Bracket)
			if d == nil || b == nil {
				continue
			}
			p := fit.Judge(d, b, job.Turn, fit.Extra{Accessories: job.Accessories}, c.PolicyOrDefault())
			a := answer{pairing: p, places: place.Place(&p, job)}
			a.sequence = steps.Generate(&p, steps.Site{Wall: job.Wall.Type, Places: a.places})
			if s := a.contradicts(); s != "" {
				t.Error(s)
			}
			wall.Elevation(a.places)
		}
	})
}

// FuzzSteps: no document makes the sheets panic, or be of two minds.
func FuzzSteps(f *testing.F) {
	eachScript(f, func(t *testing.T, c *Contents) {
		a := answerOf(c, 0)
		if s := a.contradicts(); s != "" {
			t.Error(s)
		}
		for _, s := range stepstest.Disagreements(&a.pairing, a.places, &a.sequence) {
			t.Error(s)
		}
	})
}

func eachScript(f *testing.F, try func(*testing.T, *Contents)) {
	sound := soundOnes(f)
	r := rand.New(rand.NewPCG(7, 7))
	for i := range 40 {
		script := []byte{byte(i)}
		for range r.IntN(12) {
			script = binary.LittleEndian.AppendUint32(script, r.Uint32())
		}
		f.Add(script)
	}
	f.Fuzz(func(t *testing.T, script []byte) {
		if doc := scrambled(sound, script); doc != nil {
			if c := readScrambled(t, doc); c != nil {
				try(t, c)
			}
		}
	})
}

// TestSheetsAgree: over every adversarial document and a thousand random ones on every
// kind of wall, points, holes, drills, parts and counts are the same in placement,
// steps, template and measure card.
func TestSheetsAgree(t *testing.T) {
	documents, _ := soundAndOdd(t)
	for _, name := range slices.Sorted(maps.Keys(documents)) {
		c, err := Read(encode(t, documents[name]))
		if err != nil {
			t.Fatal(err)
		}
		a := answerOf(c, 0)
		for _, s := range stepstest.Disagreements(&a.pairing, a.places, &a.sequence) {
			t.Errorf("%s: %s", name, s)
		}
	}
	sound := soundOnes(t)
	r := rand.New(rand.NewPCG(12, 9))
	read, placed := 0, map[catalog.WallType]int{}
	for n := 0; read < lots.Times(3000); n++ {
		script := []byte{byte(n)}
		for range 1 + r.IntN(3) {
			script = binary.LittleEndian.AppendUint16(script, uint16(r.Uint32()))
			script = append(script, byte(1+r.IntN(3)), byte(r.UintN(256)))
		}
		doc := scrambled(sound, script)
		if job, ok := doc["jobs"].([]any); ok && len(job) > 0 && r.IntN(3) == 0 {
			job[0].(map[string]any)["run"] = map[string]any{"count": float64(1 + r.IntN(4)), "gap_mm": float64(r.IntN(40))}
		}
		c := readScrambled(t, doc)
		if c == nil || len(c.Jobs) == 0 {
			continue
		}
		read++
		a := answerOf(c, 0)
		if s := a.contradicts(); s != "" {
			t.Errorf("%x: %s", script, s)
		}
		for _, s := range stepstest.Disagreements(&a.pairing, a.places, &a.sequence) {
			t.Errorf("%x: %s", script, s)
		}
		if len(a.places) > 0 && len(a.places[0].Points) > 0 && len(a.sequence.Steps) > 0 {
			placed[c.Jobs[0].Wall.Type]++
		}
		if t.Failed() {
			raw, _ := json.MarshalIndent(doc, "", " ")
			_ = os.WriteFile(filepath.Join(os.TempDir(), "disagree.json"), raw, 0o644)
			return
		}
	}
	t.Log(placed)
	for _, kind := range catalog.WallTypes {
		if placed[kind] < lots.Times(60) {
			t.Errorf("only %d of the documents have points on %s", placed[kind], kind)
		}
	}
}

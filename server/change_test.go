package server

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"nexufix/app/bench"
	"nexufix/core/catalog"
)

// changes is a request of the bench with changes, by pairs of a path and what was typed there.
func changes(more string, pairs ...string) string {
	var list []string
	for i := 0; i < len(pairs); i += 2 {
		list = append(list, fmt.Sprintf(`{"path":%q,"to":%s}`, pairs[i], pairs[i+1]))
	}
	return `{` + pane + more + `,"changes":[` + strings.Join(list, ",") + `]}`
}

// benchAnswer is of the bench's answer what is looked at here.
type benchAnswer struct {
	Said      bench.Said
	Used      int                        `json:"pattern_index"`
	Was       map[string]json.RawMessage `json:"was"`
	Meanwhile []bench.Meanwhile
	Display   catalog.Display

	DisplayRevision int `json:"display_revision"`
	BracketRevision int `json:"bracket_revision"`
}

func TestChangesAreMadeHere(t *testing.T) {
	d := newDesk(t)
	b := read[benchAnswer](t, d.post("/api/bench", changes("", "display.mass_kg", `"19,5"`, "accessories_kg", `"2 lb"`)), 200)
	if got := b.Display.Mass.Value.String(); got != "19.5 kg" {
		t.Errorf("its mass is %s", got)
	}
	raw, _ := json.Marshal(b.Was)
	if string(raw) != `{"accessories_kg":null,"display.mass_kg":14.2}` {
		t.Errorf("they were %s", raw)
	}
	// A figure with an origin is emptied like any other: the origin goes with it.
	measured := "display.patterns[0].rows.bottom.recess_mm"
	for _, emptied := range []string{changes("", measured, `""`), changes("", "display.patterns[0]", `null`),
		changes("", "display.patterns[0].rows.bottom.trials", `[{"thread":"M6","length_mm":"30","outcome":"stopped","gap_mm":"3","turns":""}]`)} {
		b = read[benchAnswer](t, d.post("/api/bench", emptied), 200)
		if _, is := b.Display.Origins["patterns[0].rows.bottom.recess_mm"]; is {
			t.Errorf("%s: the origin of nothing is left: %v", emptied, b.Display.Origins)
		}
	}
	// What is wrong stands at the path that was typed at, all of it at once.
	refused := d.post("/api/bench", changes("", "display.mass_kg", `"heavy"`, "bracket.slot_width_mm", `"-3"`))
	for _, path := range []string{`"path":"display.mass_kg"`, `"path":"bracket.slot_width_mm"`} {
		if refused.StatusCode != 400 || !strings.Contains(string(refused.body), path) {
			t.Errorf("%s: %d %s", path, refused.StatusCode, refused.body)
		}
	}
	// A display that is typed in has its pattern once both of its sides are given.
	half := `{"display":{"id":"new-one","model":"New one"},"bracket_id":"sill-40","changes":[{"path":"display.patterns[0].width_mm","to":"300"}`
	if b = read[benchAnswer](t, d.post("/api/bench", half+`]}`), 200); b.Used != -1 {
		t.Errorf("a pattern with one side is used: %+v", b.Display.Patterns)
	}
	if b = read[benchAnswer](t, d.post("/api/bench", half+`,{"path":"display.patterns[0].height_mm","to":"300"}]}`), 200); b.Used != 0 {
		t.Errorf("a pattern with both sides is not: %+v", b.Display.Patterns)
	}
	// As many changes as a request may have, and one more.
	for n, want := range map[int]int{1000: 200, 1001: 400} {
		many := `{` + pane + `,"changes":[` + strings.TrimSuffix(strings.Repeat(`{"path":"display.mass_kg","to":"13"},`, n), ",") + `]}`
		if got := d.post("/api/bench", many); got.StatusCode != want {
			t.Errorf("%d changes: %d, want %d", n, got.StatusCode, want)
		}
	}
	noSuch := `{"display_id":"no-such","bracket_id":"sill-40","changes":[{"path":"display.mass_kg","to":"3"}]}`
	if got := d.post("/api/bench", noSuch); got.StatusCode != 400 {
		t.Errorf("a change of no display: %d", got.StatusCode)
	}
}

// TestSavedMeanwhile: a figure that is tried out is tried on what is saved now, and the page is told what has become of it.
func TestSavedMeanwhile(t *testing.T) {
	d := newDesk(t)
	ask := func(revision int) benchAnswer {
		return read[benchAnswer](t, d.post("/api/bench", changes(fmt.Sprintf(`,"display_revision":%d`, revision), "display.depth_mm", `"60"`)), 200)
	}
	before := ask(0)
	if before.DisplayRevision != 1 || before.BracketRevision != 1 || len(before.Meanwhile) != 0 {
		t.Fatalf("revisions %d and %d, %v", before.DisplayRevision, before.BracketRevision, before.Meanwhile)
	}
	save := `{"revision":1,"why":"weighed","changes":[{"path":"display.mass_kg","to":"54.3"}]}`
	if got := d.request("PUT", "/api/items/displays/velmora-pane-49", "application/json", []byte(save)); got.StatusCode != 200 {
		t.Fatalf("%d %s", got.StatusCode, got.body)
	}
	after := ask(1)
	if after.DisplayRevision != 2 || after.Display.Mass.Value.String() != "54.3 kg" || after.Said.Verdict != "does_not_fit" {
		t.Errorf("revision %d, %s, %s", after.DisplayRevision, after.Display.Mass.Value, after.Said.Verdict)
	}
	if len(after.Meanwhile) != 1 || after.Meanwhile[0].What != "display" || after.Meanwhile[0].Why != "weighed" ||
		fmt.Sprint(after.Meanwhile[0].Changes) != "[{mass_kg 14.2 54.3}]" {
		t.Errorf("%+v", after.Meanwhile)
	}
	if again := ask(2); len(again.Meanwhile) != 0 {
		t.Errorf("told twice: %+v", again.Meanwhile)
	}
	// A save from the old revision is a conflict, with their version.
	got := d.request("PUT", "/api/items/displays/velmora-pane-49", "application/json", []byte(save))
	if got.StatusCode != 409 || !strings.Contains(string(got.body), `"theirs"`) {
		t.Errorf("%d %s", got.StatusCode, got.body)
	}
}

// TestOneAnswer: the bench says the same of a pairing on a wall as the wall does, and where the wall's figures are wrong, it
// says that the wall was not judged.
func TestOneAnswer(t *testing.T) {
	d := newDesk(t)
	for name, request := range map[string]string{
		"as it is":      counter,
		"a narrow wall": strings.Replace(counter, `"width_mm":3600`, `"width_mm":700`, 1),
		"no studs":      strings.Replace(counter, `"studs":{"first_mm":210,"spacing_mm":406.4,"width_mm":38.1}`, `"species":"hem_fir"`, 1),
	} {
		b := read[benchAnswer](t, d.post("/api/bench", request), 200)
		w := read[bench.WallView](t, d.post("/api/wall", `{"request":`+request+`}`), 200)
		bench, _ := json.Marshal(b.Said)
		wall, _ := json.Marshal(w.Said)
		if string(bench) != string(wall) || !b.Said.OnWall || b.Said.Why == "" {
			t.Errorf("%s: the bench says %s, the wall %s", name, bench, wall)
		}
		if of := b.Said.Of; (of == "wall") != (name != "as it is") {
			t.Errorf("%s: decided by the %s", name, of)
		}
	}
	wrong := strings.TrimSuffix(counter, "}") + `,"changes":[{"path":"site.wall.width_mm","to":"wide"},{"path":"display.mass_kg","to":"13"}]}`
	b := read[benchAnswer](t, d.post("/api/bench", wrong), 200)
	if u := b.Said.Unplaced; b.Said.OnWall || len(u) != 1 || u[0].Path != "site.wall.width_mm" || b.Display.Mass.Value.String() != "13 kg" {
		t.Errorf("%+v, %s", b.Said, b.Display.Mass.Value)
	}
	got := d.post("/api/wall", `{"request":`+wrong+`}`)
	if got.StatusCode != 400 || !strings.Contains(string(got.body), `"path":"request.site.wall.width_mm"`) {
		t.Errorf("%d %s", got.StatusCode, got.body)
	}
}

// drawnAnswer is of an editor's answer what is looked at here.
type drawnAnswer struct {
	Document  map[string]any
	Problems  []struct{ Path string }
	Meanwhile *bench.Meanwhile
	Changes   []bench.VerdictMoved
	Picture   string
	Kit       string
	Marks     map[string]string
}

// TestEditorSendsChanges: what is edited is drawn from the revision and its changes, and answered even where it is not right yet.
func TestEditorSendsChanges(t *testing.T) {
	d := newDesk(t)
	draw := func(more string) drawnAnswer {
		return read[drawnAnswer](t, d.post("/api/draw", `{"bracket_id":"sill-40"`+more+`}`), 200)
	}
	const load = `,"changes":[{"path":"bracket.rated_load_kg","to":"88 lb"}]`
	was := draw("")
	got := draw(`,"revision":1` + load)
	if got.Document["rated_load_kg"] != 39.916129 || len(got.Problems) != 0 || got.Picture == "" || strings.Count(got.Kit, "\n") < 3 {
		t.Errorf("%v %v, %d, %d", got.Document["rated_load_kg"], got.Problems, len(got.Picture), len(got.Kit))
	}
	// What the page has is not sent again.
	got = draw(load + fmt.Sprintf(`,"have":[%q,%q]`, was.Marks["picture"], was.Marks["kit"]))
	if got.Picture+got.Kit != "" || got.Marks["picture"] == "" {
		t.Errorf("sent again: %d, %d", len(got.Picture), len(got.Kit))
	}
	// What is wrong is all named, what is right is in the document, an entry that was added too.
	got = draw(`,"changes":[{"path":"bracket.rated_load_kg","to":"much"},{"path":"bracket.profile_mm","to":"60"},` +
		`{"path":"bracket.kit[0]","to":null},{"path":"bracket.no_such","to":"1"},{"path":"bracket.kit[99].count","to":"1"}]`)
	if len(got.Problems) != 3 || got.Document["profile_mm"] != 60.0 || got.Picture != "" ||
		len(got.Document["kit"].([]any)) != len(was.Document["kit"].([]any))-1 {
		t.Errorf("%v %v", got.Problems, got.Document["profile_mm"])
	}
	// Somebody saves meanwhile: the changes stay on the revision that they were made of, and it is said.
	read[any](t, d.request("PUT", "/api/items/brackets/sill-40", "application/json",
		[]byte(`{"revision":1,"why":"weighed","changes":[{"path":"bracket.profile_mm","to":"54"}]}`)), 200)
	got = draw(`,"revision":1` + load)
	if got.Meanwhile == nil || got.Meanwhile.Why != "weighed" || got.Document["profile_mm"] == 54.0 {
		t.Errorf("%+v, profile %v", got.Meanwhile, got.Document["profile_mm"])
	}
	if got := draw(`,"revision":2` + load); got.Meanwhile != nil || got.Document["profile_mm"] != 54.0 {
		t.Errorf("%+v, profile %v", got.Meanwhile, got.Document["profile_mm"])
	}
	// What somebody else's change does is not told as one's own: with a tenth of the load most pairings fail.
	read[any](t, d.request("PUT", "/api/items/brackets/sill-40", "application/json",
		[]byte(`{"revision":2,"changes":[{"path":"bracket.rated_load_kg","to":"4"}]}`)), 200)
	if got := draw(`,"revision":1`); len(got.Changes) != 0 {
		t.Errorf("told as one's own: %v", got.Changes)
	}
	if got := draw(`,"revision":1,"changes":[{"path":"bracket.rated_load_kg","to":"4"}]`); len(got.Changes) < 10 {
		t.Errorf("one's own change is not told: %v", got.Changes)
	}
	// Only the document is changed: not which one it is of, nor the request itself, and it is never gone.
	for _, path := range []string{"bracket", "display", "display.width_mm", "display_id", "revision", "units", ""} {
		for _, to := range []string{`null`, `{"id":"x"}`, `"7"`} {
			body := fmt.Sprintf(`{"bracket_id":"sill-40","changes":[{"path":%q,"to":%s}]}`, path, to)
			if got := d.post("/api/draw", body); got.StatusCode != 400 {
				t.Errorf("%s: %d %s", body, got.StatusCode, got.body)
			}
			body = fmt.Sprintf(`{"revision":2,"changes":[{"path":%q,"to":%s}]}`, path, to)
			if got := d.request("PUT", "/api/items/brackets/sill-40", "application/json", []byte(body)); got.StatusCode != 400 {
				t.Errorf("%s: %d %s", body, got.StatusCode, got.body)
			}
		}
	}
	for body, want := range map[string]int{`{}`: 400, `{"bracket_id":"no-such"}`: 404, `{"bracket_id":"sill-40","revision":9}`: 404,
		`{"bracket_id":"sill-40","display_id":"velmora-pane-49"}`: 400, `{"display":{"id":"x"},"bracket":{"id":"y"}}`: 400} {
		if got := d.post("/api/draw", body); got.StatusCode != want {
			t.Errorf("%s: %d %s", body, got.StatusCode, got.body)
		}
	}
}

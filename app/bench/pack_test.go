package bench

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/draw/install"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/demo/demotest"
	"nexufix/exchange"
	"nexufix/language"
)

// randomSite is a job on a random wall, worked by random schools.
func randomSite(r *rand.Rand, d *catalog.Display, b *catalog.Bracket) *catalog.Job {
	pick := func(list []string) string { return list[r.IntN(len(list))] }
	mm := func(lo, hi int) quantity.Optional[quantity.Length] {
		return quantity.Some(quantity.MM(int64(lo + r.IntN(hi-lo))))
	}
	j := &catalog.Job{ID: "random", Display: d.ID, Bracket: b.ID, Turn: catalog.Turns[r.IntN(len(catalog.Turns))],
		Wall: catalog.Wall{Type: catalog.WallTypes[r.IntN(len(catalog.WallTypes))], Covering: mm(8, 18), Width: mm(2500, 9000),
			Height: mm(2300, 3000), Vehicle: r.IntN(6) == 0},
		Place: catalog.Place{Rule: "center", Center: mm(900, 2100), Public: r.IntN(3) == 0},
		Schools: catalog.Schools{Marking: pick(catalog.MarkingSchools), Level: pick(catalog.LevelSchools), Stand: pick(catalog.StandSchools),
			Cables: pick(catalog.CablesSchools)}}
	if j.Wall.Type.HasStuds() {
		j.Wall.Studs, j.Wall.Backing = &catalog.Studs{First: mm(100, 400), Spacing: mm(400, 620), Width: mm(37, 50)}, mm(70, 100)
	} else if r.IntN(2) == 0 {
		j.Wall.Cavity, j.Wall.Backing = mm(10, 60), mm(15, 200)
	}
	if r.IntN(4) == 0 {
		j.Run = &catalog.Run{Count: 2 + r.IntN(2), Gap: quantity.MM(int64(r.IntN(200)))}
	}
	for range r.IntN(3) {
		j.Wall.Outlets = append(j.Wall.Outlets, catalog.Outlet{X: quantity.MM(int64(r.IntN(3000))), Y: quantity.MM(int64(200 + r.IntN(1500))),
			Kind: pick(catalog.OutletKinds)})
	}
	return j
}

// TestRandomSequences: of 2,000 random displays on random brackets, walls, turns, runs and schools no
// step comes before what it needs, no part is used twice or not at all, no tool is missing, people are
// never fewer than the lift takes, and what is used and what is left over make up the kit.
func TestRandomSequences(t *testing.T) {
	all, r := demotest.Contents(t), rand.New(rand.NewPCG(14, 2026))
	policy := all.PolicyOrDefault()
	worked, kinds := 0, map[catalog.WallType]int{}
	for n := 0; n < 2000; n++ {
		d, b := all.Displays[r.IntN(len(all.Displays))], all.Brackets[r.IntN(len(all.Brackets))]
		j := randomSite(r, d, b)
		p := fit.Judge(d, b, j.Turn, fit.Extra{}, policy)
		if p.Stack == nil || p.Hang == nil || p.Verdict == fit.DoesNotFit {
			if r.IntN(20) > 0 {
				n--
				continue
			}
		}
		places := place.Place(&p, j)
		seq := steps.Generate(&p, steps.Site{Wall: j.Wall.Type, Places: places, Job: j})
		name := fmt.Sprintf("%d: %s on %s on %s", n, d.ID, b.ID, j.Wall.Type)
		for _, f := range seq.Faults() {
			t.Errorf("%s: %s", name, f)
		}
		if len(seq.Steps) == 0 {
			if len(seq.Blocked) == 0 {
				t.Errorf("%s: no steps, and nobody says why", name)
			}
			continue
		}
		worked++
		kinds[j.Wall.Type]++
		accounted(t, name, &p, &seq, max(1, len(places)))
		for _, s := range seq.Steps {
			if s.Figure == "" || !slices.Contains(install.Names, s.Figure) {
				t.Errorf("%s: step %s has the figure %q", name, s.ID, s.Figure)
			}
			if (s.ID == "lift" || s.ID == "facedown" || s.ID == "unpack") && s.People < seq.Lift.People {
				t.Errorf("%s: %d people for %s, and the lift takes %d", name, s.People, s.ID, seq.Lift.People)
			}
		}
	}
	if worked < 800 || len(kinds) != len(catalog.WallTypes) {
		t.Errorf("only %d were worked out, on %v", worked, kinds)
	}
}

// accounted: used and left over are the kit and what is supplied; the stack's parts are used once for
// each hole, the fasteners once for each point.
func accounted(t *testing.T, name string, p *fit.Pairing, seq *steps.Sequence, displays int) {
	t.Helper()
	have, used := map[string]int{}, map[string]int{}
	for _, i := range slices.Concat(p.Bracket.Kit, p.Display.OwnParts) {
		if i, _ = i.Resolved(); i.Kind != catalog.Tool {
			have[i.Label()] += i.Count * displays
		}
	}
	for _, x := range slices.Concat(seq.Parts, seq.Leftovers) {
		used[x.Name] += x.Count
	}
	for _, x := range seq.Supply {
		have[x.Name] += x.Count
	}
	for part, n := range have {
		if used[part] != n {
			t.Errorf("%s: %d × %s there, %d used or left over", name, n, part, used[part])
		}
	}
	for part, n := range used {
		if have[part] == 0 && n > 0 {
			t.Errorf("%s: %d × %s come from nowhere", name, n, part)
		}
	}
	bolts, holes := 0, 0
	for _, s := range seq.Steps {
		for _, x := range s.Parts {
			if s.ID == "bolt" && strings.HasPrefix(x.Name, "bolt ") {
				bolts += x.Count
			}
		}
	}
	for _, g := range p.Stack.Groups {
		holes += len(g.Holes) * displays
	}
	if bolts != holes {
		t.Errorf("%s: %d bolts for %d holes", name, bolts, holes)
	}
}

// TestStepFigures: every step of every job of the demo that can be installed has its figure, whose
// lettering keeps apart, is inside its frame, and can be read when it is 80 mm wide, in every language.
func TestStepFigures(t *testing.T) {
	for _, code := range language.Codes() {
		t.Run(code, func(t *testing.T) { stepFigures(t, code) })
	}
}

func stepFigures(t *testing.T, code string) {
	l, err := Language(code)
	if err != nil {
		t.Fatal(err)
	}
	all := demotest.Contents(t)
	drawn := 0
	for _, j := range all.Jobs {
		p := fit.Judge(all.Display(j.Display), all.Bracket(j.Bracket), j.Turn, fit.Extra{Accessories: j.Accessories}, all.PolicyOrDefault())
		places := place.Place(&p, j)
		seq := steps.Generate(&p, steps.Site{Wall: j.Wall.Type, Places: places, Job: j})
		figures := install.Figures(&p, &seq, places, l.With(p.Bracket.Translated(code)))
		for _, s := range seq.Steps {
			if figures[s.Figure] == nil {
				t.Errorf("%s: step %s has no figure %q", j.ID, s.ID, s.Figure)
			}
		}
		for name, d := range figures {
			drawn++
			apart(t, j.ID+": "+name, d)
			for _, i := range d.Items {
				text, ok := i.Shape.(drawing.Text)
				if !ok {
					continue
				}
				if b := text.Box(); b.Min.X < d.Min.X-0.01 || b.Max.X > d.Max.X+0.01 || b.Min.Y < d.Min.Y-0.01 || b.Max.Y > d.Max.Y+0.01 {
					t.Errorf("%s: %q of %s is outside of its frame", j.ID, text.Text.In(quantity.Metric), name)
				}
				if high := text.Height / d.Width() * 80; high < 1 {
					t.Errorf("%s: %q of %s is %.1f mm high when the figure is 80 mm wide", j.ID, text.Text.In(quantity.Metric), name, high)
				}
			}
		}
	}
	if drawn < 150 {
		t.Errorf("only %d figures were drawn", drawn)
	}
}

func installation(t testing.TB, all *exchange.Contents, job string, o InstallOptions) *Installation {
	t.Helper()
	at := slices.IndexFunc(all.Jobs, func(j *catalog.Job) bool { return j.ID == job })
	j := all.Jobs[at]
	w, err := Open(context.Background(), all, Request{DisplayID: j.Display, BracketID: j.Bracket, Turn: int(j.Turn), Site: j})
	if err != nil {
		t.Fatal(err)
	}
	out, err := w.Install(o)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

var friday = time.Date(2026, 1, 2, 3, 4, 5, 0, time.UTC)

func outside(t *testing.T, pack, program string, args ...string) string {
	t.Helper()
	out, err := exec.Command(program, args...).CombinedOutput()
	if err != nil {
		t.Fatalf("%s (Debian package %s, see make browser-tools): %v %s", program, pack, err, out)
	}
	return string(out)
}

// coverAndCardStandOn: cover and card say what nobody has said of the pairing. The text is read as it was written, since the letters
// across a draft stand between its lines.
func coverAndCardStandOn(t *testing.T, i *Installation, file string) {
	t.Helper()
	written := strings.Join(strings.Fields(outside(t, "poppler-utils", "pdftotext", "-raw", file, "-")), " ")
	onCard := max(0, strings.LastIndex(written, "Stands on what nobody has said: "))
	cover, card := written[:onCard], written[onCard:]
	for _, x := range place.StandsOn(&i.Pairing, i.Placed) {
		if says := x.In(quantity.Metric); !strings.Contains(cover, says) || i.Pack().Card != nil && !strings.Contains(card, says) {
			t.Errorf("%s: cover or card does not say %q", i.Title.In(quantity.Metric), says)
		}
	}
}

// TestPackIsReadBack: poppler reads the pack of every job of the demo in the order an installer does,
// with its number and fingerprint on every page of text, and qpdf finds nothing wrong with it.
func TestPackIsReadBack(t *testing.T) {
	all := demotest.Contents(t)
	for n, j := range all.Jobs {
		i := installation(t, all, j.ID, InstallOptions{Now: friday, Paper: Papers[n%2]})
		raw, err := i.File("pdf")
		if err != nil {
			t.Fatal(j.ID, err)
		}
		if len(raw) > 3_000_000 {
			t.Errorf("%s: the pack has %d bytes", j.ID, len(raw))
		}
		file := filepath.Join(t.TempDir(), "pack.pdf")
		if err := os.WriteFile(file, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		outside(t, "qpdf", "qpdf", "--check", file)
		text := outside(t, "poppler-utils", "pdftotext", "-layout", file, "-")
		pages := strings.Split(strings.TrimRight(text, "\f"), "\f")
		info := outside(t, "poppler-utils", "pdfinfo", file)
		if of := regexp.MustCompile(`Pages:\s+(\d+)`).FindStringSubmatch(info); of == nil || of[1] != strconv.Itoa(len(pages)) {
			t.Errorf("%s: %d pages of text, %v", j.ID, len(pages), of)
		}
		order := []string{i.Title.In(quantity.Metric), "Cautions"}
		if len(i.Blocked) > 0 && !strings.Contains(pages[0], "Do not install") {
			t.Errorf("%s is blocked, and its cover does not say so", j.ID)
		}
		if len(i.Steps) > 0 {
			order = append(order, "Parts and tools")
			for k := range i.Steps {
				order = append(order, fmt.Sprintf("%d %s", k+1, i.Steps[k].Title))
			}
			order = append(order, "When something is wrong", "What is left over", "To sign")
		}
		flat := strings.Join(strings.Fields(text), " ")
		coverAndCardStandOn(t, i, file)
		at := 0
		for _, want := range order {
			k := strings.Index(flat[at:], strings.Join(strings.Fields(want), " "))
			if k < 0 {
				t.Errorf("%s: %q is missing, or not where it belongs", j.ID, want)
				continue
			}
			at += k
		}
		for k, page := range pages {
			if strings.Contains(page, "measure it") && strings.Contains(page, "row") { // a page of the template has its own foot
				break
			}
			if !strings.Contains(page, fmt.Sprintf("Page %d of %d", k+1, len(pages))) || !strings.Contains(page, i.Fingerprint) {
				t.Errorf("%s: page %d lacks its number or fingerprint: %.200s", j.ID, k+1, page)
			}
		}
	}
}

// TestFolder: the folder of an installation has everything, twice the same.
func TestFolder(t *testing.T) {
	all := demotest.Contents(t)
	i := installation(t, all, "mill-lane-counter", InstallOptions{Now: friday})
	raw, err := i.File("zip")
	again, err2 := i.File("zip")
	if err != nil || err2 != nil || !bytes.Equal(raw, again) {
		t.Fatal("the folder is not the same again", err, err2)
	}
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
	}
	if got := strings.Join(names, " "); got != "pack.pdf steps.html steps.md steps.json template.pdf template.svg template.dxf measures.pdf" {
		t.Error(got)
	}
}

// BenchmarkSteps are what a sequence costs: with its figures, as a pack, as a page.
func BenchmarkSteps(b *testing.B) {
	all := demotest.Contents(b)
	for _, format := range []string{"json", "pdf", "html", "zip"} {
		b.Run(format, func(b *testing.B) {
			for b.Loop() {
				if _, err := installation(b, all, "mill-lane-counter", InstallOptions{Now: friday}).File(format); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestMeasuredAtTheWall: studs that were found move the points; what cannot be read changes nothing and is
// said; a bar that is off is said.
func TestMeasuredAtTheWall(t *testing.T) {
	all := demotest.Contents(t)
	points := func(m SiteMeasurements, units quantity.Units) (string, string, bool) {
		i, err := AtWall(context.Background(), all, "mill-lane-counter", m, InstallOptions{Now: friday, Units: units})
		if err != nil {
			t.Fatal(m, err)
		}
		var at, said []string
		for _, p := range i.Placed[0].Points {
			at = append(at, p.X.String())
		}
		wrong := false
		for _, s := range i.said {
			said = append(said, s.Text.In(quantity.Metric))
			wrong = wrong || s.Wrong
		}
		return strings.Join(at, " "), strings.Join(said, " "), wrong
	}
	was, _, _ := points(SiteMeasurements{}, quantity.Metric)
	for _, c := range []struct {
		found SiteMeasurements
		units quantity.Units
		moved bool
		says  string
		wrong bool
	}{
		{SiteMeasurements{Studs: "1440; 1846,5"}, quantity.Metric, true, "Worked out anew for 2 studs", false},
		{SiteMeasurements{Studs: "1846.5 mm, 1440"}, quantity.Metric, true, "Worked out anew for 2 studs", false},
		{SiteMeasurements{Studs: "56 3/4; 72 3/4 in"}, quantity.Imperial, true, "Worked out anew for 2 studs", false},
		{SiteMeasurements{Studs: "1440,1846"}, quantity.Metric, false, "is no place on the wall", true},
		{SiteMeasurements{Studs: "1440; left of the door"}, quantity.Metric, false, `"left of the door" is no place`, true},
		{SiteMeasurements{Studs: "-3; 1440"}, quantity.Metric, false, "is no place on the wall", true},
		{SiteMeasurements{Bar: "99.8"}, quantity.Metric, false, "Accepted", false},
		{SiteMeasurements{Bar: "97"}, quantity.Metric, false, "Not accepted", true},
		{SiteMeasurements{Bar: "a hand"}, quantity.Metric, false, "is no length", true},
		{SiteMeasurements{Bar: strings.Repeat("9", 400)}, quantity.Metric, false, "is no length", true},
	} {
		at, said, wrong := points(c.found, c.units)
		if (at != was) != c.moved || !strings.Contains(said, c.says) || wrong != c.wrong {
			t.Errorf("%+v: points %s (were %s), says %q, wrong %v", c.found, at, was, said, wrong)
		}
	}
	if s := all.Jobs[0].Wall.Studs; all.Jobs[0].ID == "mill-lane-counter" && len(s.At) > 0 && s.At[0] == quantity.MM(1440) {
		t.Error("the job on record was changed")
	}
}

// TestCoverSaysOnce: what forbids to install stands on the cover once, above the conditions.
func TestCoverSaysOnce(t *testing.T) {
	all, forbidden := demotest.Contents(t), 0
	for _, j := range all.Jobs {
		i, err := AtWall(t.Context(), all, j.ID, SiteMeasurements{}, InstallOptions{Now: time.Now()})
		if err != nil {
			t.Fatal(err)
		}
		seen := map[string]bool{}
		for _, c := range i.Blocked {
			forbidden++
			seen[c.Sentences().In(quantity.Metric)] = true
		}
		for _, c := range i.Pack().Conditions {
			if text := c.In(quantity.Metric); seen[text] {
				t.Errorf("%s: the cover says %q twice", j.ID, text)
			} else {
				seen[text] = true
			}
		}
	}
	if forbidden == 0 {
		t.Error("no job of the demo is forbidden")
	}
}

// TestTiltStopsAtTheWall: no figure draws a display tilted into its wall.
func TestTiltStopsAtTheWall(t *testing.T) {
	all, tilted := demotest.Contents(t), 0
	for _, j := range all.Jobs {
		i, err := AtWall(t.Context(), all, j.ID, SiteMeasurements{}, InstallOptions{Now: time.Now()})
		if err != nil {
			t.Fatal(err)
		}
		d := i.Figures()["tension"]
		if d == nil {
			continue
		}
		for n := range d.Items {
			display, ok := d.Items[n].Shape.(drawing.Polygon)
			if !ok || d.Items[n].Tag != "side.display" {
				continue
			}
			tilted++
			for _, p := range display.Points {
				if p.X > 0.01 {
					t.Errorf("%s: the display is drawn %.1f mm into the wall", j.ID, p.X)
				}
			}
		}
	}
	if tilted == 0 {
		t.Error("nothing tilts")
	}
}

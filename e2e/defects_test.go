package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// field is what a field shows.
func (d *desk) field(css string) string {
	d.See(css)
	return value[string](d, fmt.Sprintf("document.querySelector(%q).value", css))
}

// saved counts the pairings that are saved.
func (d *desk) saved() int {
	return value[int](d, `fetch('/api/pairings').then((r) => r.json()).then((l) => l.length)`)
}

// TestSaveKey: Ctrl+S saves what is worked on, and only once; the pairing of the bench from the
// bench alone.
func TestSaveKey(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Chord("s")
	d.Wait(`document.querySelector('.MuiSnackbar-root')?.innerText.includes('Saved')`)
	before := d.saved()
	for _, at := range []string{"/matrix", "/catalogue", "/steps"} {
		d.Open(d.app.URL + at + "?display=velmora-pane-49&bracket=sill-40")
		d.See("h1, h2")
		d.Chord("s")
	}
	d.Open(d.app.URL + "/catalogue/displays/velmora-pane-49")
	d.Fill(`input[data-path="mass_kg"]`, "14.7")
	d.Chord("s")
	d.Wait(`fetch('/api/items/displays/velmora-pane-49').then((r) => r.json()).then((k) => k.display.mass_kg === 14.7)`)
	if now := d.saved(); now != before {
		t.Errorf("%d pairings are saved, after Ctrl+S elsewhere %d", before, now)
	}
}

// TestDraftsStay: what is typed in an editor survives going to another view by its key, and a
// reload; undo there undoes it and nothing of the bench.
func TestDraftsStay(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Fill(`[aria-label="Plate"]`, "4")
	d.Ready()
	d.PressButton("nav a", "Catalogue")
	d.See(`.MuiDataGrid-row:not(.MuiDataGrid-rowSkeleton) [data-field="model"]`)
	id := value[string](d, `document.querySelector('.MuiDataGrid-row').dataset.id`)
	d.Click(`.MuiDataGrid-row [data-field="model"]`)
	d.Type(kb.Enter)
	d.Fill(`input[data-path="mass_kg"]`, "15.1")
	d.Type(kb.Escape)
	d.Press("z")
	d.Wait(`document.querySelector('input[data-path="mass_kg"]')?.value !== '15.1'`)
	d.See(`.effects[data-ready="yes"]`)
	d.Fill(`input[data-path="mass_kg"]`, "15.1")
	d.Type(kb.Escape)
	d.Press("t") // the template, in the middle of it
	d.See(".template-page")
	d.PressButton("nav a", "Catalogue")
	d.See(`.MuiDataGrid-row [data-field="model"]`)
	d.Open(d.app.URL + "/catalogue/displays/" + id)
	d.Wait(`document.querySelector('input[data-path="mass_kg"]')?.value === '15.1'`)
	d.Reload()
	d.Wait(`document.querySelector('input[data-path="mass_kg"]')?.value === '15.1'`)
	d.Press("z")
	d.Wait(`document.querySelector('input[data-path="mass_kg"]')?.value !== '15.1'`)
	d.Open(d.app.URL + "/")
	d.Ready()
	if got := d.field(`[aria-label="Plate"]`); got != "4" {
		t.Errorf("undo in the editor took back what was changed on the bench: the plate is %s, want 4", got)
	}
}

// TestWallAsTyped: a job is saved as it is typed; what cannot be is refused, and can be put
// right after a reload; a marked stud's place can be typed, with any unit.
func TestWallAsTyped(t *testing.T) {
	d := atCounter(t)
	d.allowed = "400"
	width := `fetch('/api/items/jobs/mill-lane-counter').then((r) => r.json()).then((k) => k.job.wall.width_mm)`
	was := value[float64](d, width)
	d.Fill(`[aria-label="Width"]`, "12 miles")
	d.Wait(`document.querySelector('[aria-label="Width"][aria-invalid]')`)
	d.PressButton("button", "Save job")
	d.Wait(`document.querySelector('.not-saved')?.innerText.includes('Not saved')`)
	if now := value[float64](d, width); now != was {
		t.Errorf("the width of the last wall that could be placed was saved: %g, want %g as before", now, was)
	}
	d.Reload()
	d.Wait(`document.querySelector('[aria-label="Width"]')?.value.includes('miles')`)
	d.Fill(`[aria-label="Width"]`, "3210")
	d.Wait(wallReady)
	d.Chord("s")
	d.Wait(width + `.then((w) => w === 3210)`)
	d.choose(`[aria-label="Studs"]`, "marked one by one", "marked")
	d.Wait(wallReady)
	d.Fill(`[aria-label="Stud 1"]`, "11 in")
	d.Wait(wallReady + ` && document.querySelector('[data-tag="stud.0"]')`)
	d.Chord("s")
	d.Wait(`fetch('/api/items/jobs/mill-lane-counter').then((r) => r.json()).then((k) => k.job.wall.studs.at_mm?.includes(279.4))`)
}

// TestAnotherDisplayOnTheWall: another display on the described wall leaves the wall as it is,
// and so does going back to the catalogue's figures.
func TestAnotherDisplayOnTheWall(t *testing.T) {
	d := atCounter(t)
	d.Fill(`[aria-label="Width"]`, "3300")
	d.Wait(wallReady)
	d.PressButton("nav a", "Bench")
	d.Ready()
	d.Fill(`[aria-label="Plate"]`, "4")
	d.Ready()
	d.PressButton("button", "Back to the catalogue")
	d.Ready()
	d.Click(`[data-pick="displays"]`)
	d.Type("brindle menu 43")
	d.Wait(`document.querySelector('[role="option"]')?.innerText.includes('Brindle Menu 43')`)
	d.Type(kb.Enter)
	d.Wait(`document.querySelector('.bench[data-ready="yes"]') && document.title.includes('Brindle')`)
	d.PressButton("nav a", "Wall")
	d.Wait(wallReady)
	if got := d.field(`[aria-label="Width"]`); got != "3300" {
		t.Errorf("the wall is %s wide, want 3300 as typed", got)
	}
}

// TestPickerIsEmptied: all of a picker's text can be taken out and another name typed.
func TestPickerIsEmptied(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Click(`[data-pick="displays"]`)
	d.Chord("a")
	d.Type(kb.Backspace)
	if got := d.field(`[data-pick="displays"]`); got != "" {
		t.Errorf("after everything was taken out it says %q", got)
	}
	d.Type("quill")
	if got := d.field(`[data-pick="displays"]`); got != "quill" {
		t.Errorf("it says %q, want what was typed", got)
	}
}

// TestMouseSelectsText: dragging over a figure selects it; its handle pulls it.
func TestMouseSelectsText(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	plate := `[aria-label="Plate"]`
	was := d.field(plate)
	d.Drag(plate, 40, 0, false)
	if got := d.field(plate); got != was {
		t.Errorf("selecting by mouse made %s of %s", got, was)
	}
	d.Drag(`.figure-pull:has([aria-label="Plate"]) .pull-handle`, 24, 0, false)
	d.Wait(fmt.Sprintf("document.querySelector(%q).value !== %q", plate, was))
}

// TestPolicyInItsUnit: a figure typed in millimetres stays one when inches are shown, and the
// wall, the steps and the matrix are judged by the new policy.
func TestPolicyInItsUnit(t *testing.T) {
	d := sit(t, "/policy")
	d.Fill(`[data-setting="reveal_mm"]`, "12")
	d.Type(kb.Escape)
	d.Press("u")
	d.Wait(`document.querySelector('[data-setting="reveal_mm"]').value === '12 mm'`)
	d.Fill(`input[placeholder="a name"]`, "Twelve")
	d.PressButton("button", "Save and use")
	d.Wait(`fetch('/api/policies').then((r) => r.json()).then((p) => p.name === 'Twelve' && p.policy.reveal_mm === 12)`)
}

// TestTrialsByRow: what a caller told of one row is not overwritten by what is told of all.
func TestTrialsByRow(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Press("c")
	d.See(`[data-pick="call"]`) // it takes the keyboard when it comes
	d.choose(`[aria-label="Holes the caller speaks of"]`, "Top", "patterns[0].rows.top")
	tell := func(gap string) {
		d.Fill(`[aria-label="Gap under bolt head"]`, gap)
		d.Type(kb.Enter)
		d.Wait(fmt.Sprintf(`document.querySelector('.trials')?.innerText.includes(%q)`, gap+" left"))
	}
	tell("3")
	d.Reload()
	d.See(`[aria-label="Holes the caller speaks of"]`)
	if got := d.field(`[aria-label="Holes the caller speaks of"]`); !strings.Contains(got, "top") {
		t.Errorf("it speaks of %q after the top row alone was told of", got)
	}
	if !value[bool](d, `document.querySelector('[aria-label="Holes the caller speaks of"] option[value=""]').disabled`) {
		t.Error("all holes can be told of at once, over what was told of one row")
	}
}

// TestPartsStayWithAnotherBracket: what a caller has in hand stays when the next bracket is
// looked at.
func TestPartsStayWithAnotherBracket(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Press("i")
	d.Fill(`[data-pick="hand"]`, "35")
	d.Type(kb.Escape)
	d.Press("n")
	d.Wait(`document.querySelector('.bench[data-ready="yes"]') && !location.search.includes('sill-40')`)
	if got := d.field(`[data-pick="hand"]`); got != "35" {
		t.Errorf("the bolt in hand is %s, want 35 as typed", got)
	}
}

// TestPlaceholdersInInches: what an empty field stands for is in the units that are shown.
func TestPlaceholdersInInches(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.PressButton("nav a", "Wall")
	d.Click(`[data-begin="wood_stud"]`)
	d.Wait(wallReady)
	d.Press("u")
	d.Wait(`document.querySelector('[aria-label="Stud depth"]').placeholder === '2 1/2'`)
}

// TestSavedWithItsArms: a saved pairing opens with the arms where they were.
func TestSavedWithItsArms(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	value[bool](d, `fetch('/api/pairings', {method: 'POST', headers: {'Content-Type': 'application/json'},
		body: JSON.stringify({display_id: 'velmora-pane-49', bracket_id: 'sill-40', top_holes_mm: 60})}).then((r) => r.ok)`)
	d.PressButton("nav a", "Jobs")
	d.PressButton("[data-pairing]", "Velmora Pane 49")
	d.Ready()
	d.Wait(`JSON.parse(sessionStorage.getItem('nexufix.inputs')).topHoles === 60`)
}

// TestMatrixAgain: the matrix is not asked for again as long as nothing was changed; Enter does
// not open a display that is filtered out.
func TestMatrixAgain(t *testing.T) {
	d := sit(t, "/matrix")
	d.See("[data-cover]")
	asked := `performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/api/matrix')).length`
	d.PressButton("nav a", "Bench")
	d.See(".start .lead")
	d.PressButton("nav a", "Matrix")
	d.See("[data-cover]")
	if n := value[int](d, asked); n != 1 {
		t.Errorf("the matrix was asked for %d times", n)
	}
	d.See(".picture[data-rows]")
	d.Fill(`[aria-label="Only displays named"]`, "lokwerk")
	d.Wait(`document.querySelector('.picture').dataset.rows < 6`)
	d.Type(kb.Tab) // order
	d.Type(kb.Tab) // which
	d.Type(kb.Tab) // the picture
	d.Type(kb.Enter)
	if at := value[string](d, "location.pathname"); at != "/matrix" {
		t.Errorf("Enter went to %s, to a display that is not shown", at)
	}
}

// TestTemplateOnPages: on A4 a template shows what is drilled, on at most four pages; the whole
// outline when it is asked for. A wall with a figure that is not right says which.
func TestTemplateOnPages(t *testing.T) {
	d := atCounter(t)
	d.PressButton("nav a", "Template")
	d.See(".template-page svg")
	d.choose(`[aria-label="PDF on"]`, "pages of A4", "a4")
	d.Wait(`document.querySelector('.template-page [data-tag="point.1"], .template-page [data-tag^="point."]') &&
		!document.querySelector('.template-page [data-tag="template.outline"]')`)
	d.PressButton("button", "Template PDF")
	raw := d.downloaded("mill-lane-counter-velmora-pane-49-on-sill-40.pdf")
	if n := pages(t, raw); n > 4 {
		t.Errorf("%d pages of A4 for what is drilled, want at most 4", n)
	}
	d.Click(`[data-show="whole"]`)
	d.See(`.template-page [data-tag="template.outline"]`)
	d.PressButton("nav a", "Wall")
	d.Wait(wallReady)
	d.allowed = "400"
	d.Fill(`[aria-label="Width"]`, "wide")
	d.Wait(`document.querySelector('[aria-label="Width"][aria-invalid]')`)
	d.PressButton("nav a", "Template")
	d.Wait(`[...document.querySelectorAll('.MuiAlert-root')].some((a) => a.innerText.includes('width'))`)
}

// pages counts the pages of a PDF.
func pages(t *testing.T, raw []byte) (n int) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "pages.pdf")
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("pdfinfo", file).CombinedOutput()
	if err != nil {
		t.Fatalf("%v %s", err, out)
	}
	if _, err := fmt.Sscanf(string(regexp.MustCompile(`Pages: +(\d+)`).FindSubmatch(out)[1]), "%d", &n); err != nil {
		t.Fatal(err)
	}
	return n
}

// TestStart: an empty bench says how to begin, uncovered, and leads on to what was worked on.
func TestStart(t *testing.T) {
	d := sit(t, "/")
	d.See(".start .lead")
	if value[bool](d, `!!document.querySelector('[role="listbox"]')`) {
		t.Error("a list covers what the page says")
	}
	d.Click(".start [data-job]")
	d.Wait(`location.pathname === '/wall' && document.querySelector('.bench.wall')`)
	d.PressButton("nav a", "Policy")
	d.Wait(`document.title === 'Policy – Nexufix' && document.activeElement.tagName === 'H1'`)
}

// TestViewFails: a view that fails on what was asked leaves the page, and a way back.
func TestViewFails(t *testing.T) {
	d := sit(t, "/")
	d.See(".start")
	d.allowed = "Uncaught"
	d.Run(`history.replaceState({workspace: {inputs: {display: 'velmora-pane-49', schools: null}}}, '')`)
	d.Reload()
	d.Wait(`document.querySelector('h1')?.innerText === 'This view failed'`)
	d.PressButton("nav a", "Policy")
	d.See(`[data-setting="reveal_mm"]`)
	d.PressButton("nav a", "Bench")
	d.See("h1")
	d.PressButton("button", "Start over")
	d.Open(d.app.URL + "/")
	d.See(".start .lead")
}

// TestTypingFast: however fast somebody types, no letter is lost, and at most five questions a
// second are sent, the last of them with all of it.
func TestTypingFast(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	const sent = `performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/api/bench')).length`
	from, before := value[float64](d, "performance.now()"), value[int](d, sent)
	text := "3.0000000000000000000000000000000000005"[:36]
	d.Fill(`[aria-label="Plate"]`, text)
	d.Ready()
	seconds := (value[float64](d, "performance.now()") - from) / 1000
	if got := d.field(`[aria-label="Plate"]`); got != text {
		t.Errorf("%q was typed and %q is there", text, got)
	}
	if n := value[int](d, sent) - before; float64(n) > 2+5*seconds {
		t.Errorf("%d questions in %.1f s", n, seconds)
	}
	if got := d.Text(`.finding[data-rule="stack"]`); !strings.Contains(got, "Every hole is safe") {
		t.Error(got)
	}
}

// TestPolicyCountsEverywhere: after a change of policy the wall is judged by the new one.
func TestPolicyCountsEverywhere(t *testing.T) {
	d := atCounter(t)
	d.See(`[data-rule="studs"][data-status="pass"]`)
	d.PressButton("nav a", "Policy")
	d.Fill(`[data-setting="stud_find_mm"]`, "30")
	d.Fill(`input[placeholder="a name"]`, "Doubtful studs")
	d.PressButton("button", "Save and use")
	d.Wait(`document.querySelector('.policy .tools').innerText.includes('Doubtful studs')`)
	d.PressButton("nav a", "Wall")
	d.See(`[data-rule="studs"][data-status="fail"]`)
}

// TestWhoIsSent: the name that was given once goes with every change, from whatever page.
func TestWhoIsSent(t *testing.T) {
	d := sit(t, "/catalogue")
	d.Fill(`[aria-label="Your name, for the history"]`, "Ida")
	d.Open(d.app.URL + "/wall?display=velmora-pane-49&bracket=sill-40")
	d.Click(`.begin [data-job="mill-lane-counter"]`)
	d.Wait(wallReady)
	d.Fill(`[aria-label="Width"]`, "3333")
	d.Wait(wallReady)
	d.Chord("s")
	d.Wait(`fetch('/api/history?kind=jobs&id=mill-lane-counter').then((r) => r.json()).then((l) => l[0].who === 'Ida')`)
}

// TestLongImport: of many rows the first are shown, and it is said; of two quick changes of columns
// neither is lost.
func TestLongImport(t *testing.T) {
	d := sit(t, "/catalogue/import")
	d.See(".import")
	rows := "Maker,Model,Weight (kg),Colour,Shelf\n"
	for n := range 620 {
		rows += fmt.Sprintf("Tarn,View %d,3,black,%d\n", n, n)
	}
	d.drop("many.csv", []byte(rows))
	d.Wait(`document.querySelectorAll('tr[data-outcome]').length === 200`)
	d.Wait(`document.querySelector('.import').innerText.includes('the first rows are shown')`)
	d.choose(`[aria-label="What Colour means"]`, "aliases")
	d.choose(`[aria-label="What Weight (kg) means"]`, "Ignore", "")
	d.Wait(`!document.querySelector('.import [role="status"]')`)
	if colour, weight := d.field(`[aria-label="What Colour means"]`), d.field(`[aria-label="What Weight (kg) means"]`); colour != "aliases" ||
		weight != "" {
		t.Errorf("after two quick changes Colour means %q and the weight %q", colour, weight)
	}
}

// TestTrialThatCannotBeRead stays in its field, which says why, and is not judged as if it had been
// told; mended, it is added.
func TestTrialThatCannotBeRead(t *testing.T) {
	d := sit(t, "/?display=tarn-oven-view-19&bracket=crumb-15")
	d.allowed = "400"
	d.Ready()
	d.Press("c")
	d.See(`[data-pick="call"]:focus`)
	d.Type("stop" + kb.Tab + "a bit" + kb.Enter)
	d.Wait(`document.querySelector('[aria-label="Gap under bolt head"][aria-invalid="true"]')`)
	if n := value[int](d, `document.querySelectorAll('.trials li').length`); n != 0 {
		t.Errorf("%d trials were added of one that cannot be read", n)
	}
	d.Fill(`[aria-label="Gap under bolt head"]`, "3"+kb.Enter)
	d.Wait(`document.querySelectorAll('.trials li').length === 1`)
	d.Ready()
}

package e2e

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/png"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// TestStepsByHand: the steps with their figures; a part that is pointed at lights up in its figure; a
// school is picked and undone; a symptom is looked up; the pack, the folder and the page for a telephone
// arrive.
func TestStepsByHand(t *testing.T) {
	d := sit(t, "/steps?job=mill-lane-counter")
	d.See(`[data-step="bolt"] figure svg`)
	d.Point(`[data-step="bolt"] li[data-part="kit.4"]`)
	d.Wait(`document.querySelectorAll('[data-step="bolt"] figure .lit, [data-step="bolt"] li[data-part].at').length > 0`)
	if n := value[int](d, `document.querySelectorAll('.sequence [data-step]').length`); n < 18 {
		t.Errorf("only %d steps", n)
	}
	d.Press("x")
	d.Type("A bolt stops")
	d.Wait(`document.querySelector('.symptoms').innerText.includes('stands under its head')`)
	d.Click(`[data-setting="marking_school"]`)
	d.Type(kb.Escape + "ta")
	d.Wait(`document.querySelector('[data-step="mark"]').innerText.includes('as the measure card lists them')`)
	d.Type(kb.ArrowUp)
	d.Wait(`document.querySelector('[data-step="mark"]').innerText.includes('Tape the template up')`)
	d.PressButton("button", "Pack PDF")
	if raw := d.downloaded("mill-lane-counter-velmora-pane-49-on-sill-40.pdf"); !bytes.HasPrefix(raw, []byte("%PDF")) {
		t.Errorf("the pack begins %.20q", raw)
	}
	d.PressButton("button", "ZIP")
	raw := d.downloaded("mill-lane-counter-velmora-pane-49-on-sill-40.zip")
	if z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw))); err != nil || len(z.File) != 8 {
		t.Errorf("the folder: %v, %d files", err, len(z.File))
	}
	d.PressButton("button", "Telephone")
	d.downloaded("mill-lane-counter-velmora-pane-49-on-sill-40.html")
}

// TestInGerman: the language is picked; the steps and their figures are read in it, a figure has its
// comma, the address keeps it, the pack and the wall's page are written in it. A text of the bracket that
// is translated by hand is printed; a translation without its figure is said and cannot be saved.
func TestInGerman(t *testing.T) {
	d := sit(t, "/steps?job=mill-lane-counter")
	d.allowed = "400" // a translation that lost its figure
	d.See(`[data-step="bolt"] figure svg`)
	d.Click(`[aria-label="Written in"]`)
	d.Type(kb.Escape + "D")
	d.Wait(`document.querySelector('[data-step="bolt"] h3').innerText === 'Die Arme anschrauben'`)
	d.Wait(`document.querySelector('[data-step="bolt"]').innerText.includes('Scheibe M6, Ø 18 × 1,6')`)
	d.Wait(`document.querySelector('[data-step="bolt"] figure').textContent.includes('Distanzhülse')`)
	d.Reload()
	d.Wait(`document.querySelector('[data-step="lock"] h3')?.innerText === 'Verriegeln'`)
	d.PressButton("button", "Markdown")
	if raw := string(d.downloaded("mill-lane-counter-velmora-pane-49-on-sill-40.md")); !strings.Contains(raw, "## Sicherheitshinweise") {
		t.Errorf("%.300s", raw)
	}
	d.Click(`a[href^="/at/"]`)
	d.Wait(`document.documentElement.lang === 'de' && document.querySelector('#where')?.innerText.includes('0 erledigt')`)

	d.Open(d.app.URL + "/catalogue/brackets/sill-40")
	d.See(".own-step")
	d.PressButton(".MuiAccordionSummary-root", "In other languages")
	text := `[lang="de"][aria-label^="Deutsch: Open the channel"]`
	d.Fill(text, "Kanal öffnen; {reach")
	d.Wait(`[...document.querySelectorAll('.translation .Mui-error')].some((e) => e.innerText.includes('figures'))`)
	d.Type("} weit.")
	d.Wait(`document.querySelectorAll('.translation .Mui-error').length === 0`)
	d.Fill(`input[placeholder="why it is changed"]`, "shorter")
	d.PressButton("button", "Save")
	d.Wait(`document.body.innerText.includes('revision 2')`)
	d.Open(d.app.URL + "/steps?job=mill-lane-counter&lang=de")
	d.Wait(`document.querySelector('.sequence')?.innerText.includes('Kanal öffnen; 480 mm weit.')`)
}

// TestPhotograph: a picture is chosen for a step and shown with it; a file that is none is refused with what is
// taken; it is saved with the job, stands on the telephone's page, and is taken off again.
func TestPhotograph(t *testing.T) {
	d := sit(t, "/steps?job=mill-lane-counter")
	d.allowed = "400" // the file that is no picture
	picture, other := filepath.Join(t.TempDir(), "box.png"), filepath.Join(t.TempDir(), "box.txt")
	var raw bytes.Buffer
	if err := png.Encode(&raw, image.NewGray(image.Rect(0, 0, 800, 600))); err != nil {
		t.Fatal(err)
	}
	if err := errors.Join(os.WriteFile(picture, raw.Bytes(), 0o600), os.WriteFile(other, []byte("no picture"), 0o600)); err != nil {
		t.Fatal(err)
	}
	d.See(`[data-step="level"] figure svg`)
	d.Click(`[aria-label="Change Level it"]`)
	d.Click(`[aria-label="What a photograph shows"]`)
	d.Type("the left screw")
	d.Choose(".step-editor button", "Attach", other)
	d.Wait(`document.querySelector('.step-editor').innerText.includes('no picture that can be read')`)
	d.Choose(".step-editor button", "Attach", picture)
	d.Wait(`document.querySelector('[data-step="level"] .photo img')?.naturalWidth === 800`)
	d.Wait(`document.querySelector('[data-step="level"] .photo').innerText === 'the left screw'`)
	d.Chord("s")
	d.Wait(`document.body.innerText.includes('Saved: job mill-lane-counter')`)
	d.Open(d.app.URL + "/at/mill-lane-counter")
	d.Wait(`document.querySelector('#step-level .photo img')?.complete &&
		document.querySelector('#step-level .photo').textContent.includes('the left screw')`)
	d.Open(d.app.URL + "/steps?job=mill-lane-counter")
	d.Click(`[aria-label="Change Level it"]`)
	d.Click(`.step-editor [aria-label*="the left screw"]`)
	d.Wait(`!document.querySelector('[data-step="level"] .photo')`)
	d.PressButton("button", "Undo")
	d.See(`[data-step="level"] .photo img`)
}

// TestTroubleOnTheBench: a caller of last week's: what is wrong is looked up on the bench by key.
func TestTroubleOnTheBench(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Press("x")
	d.See(`.symptoms select`)
	d.Wait(`document.activeElement === document.querySelector('.symptoms select')`)
	d.Type("The wall")
	d.Wait(`document.querySelector('.symptoms').innerText.includes('Take the display down before anything else')`)
}

// TestAtTheWall: on a telephone the steps of a job are gone through by touch; once opened they are there
// without a network, and the ticks stay; the same page as a file needs no server at all.
func TestAtTheWall(t *testing.T) {
	d := sit(t, "/at/mill-lane-counter")
	d.Touch(390, 844)
	d.Wait(`document.documentElement.dataset.aside === 'yes'`)
	walk := func() {
		d.Wait(`document.querySelector('#start.on')`)
		d.Tap("#next")
		d.Wait(`document.querySelector('#step-unpack.on figure svg')`)
		d.Tap("#step-unpack .tick")
		d.Tap("#next")
		d.Wait(`document.querySelector('#step-stand.on')`)
		if w := value[int](d, `document.documentElement.scrollWidth`); w > 390 {
			t.Errorf("the page is %d wide", w)
		}
		if small := value[string](d, `[...document.querySelectorAll('button')].filter((b) => b.offsetHeight < 44 || b.offsetWidth < 44)
			.map((b) => b.id).join()`); small != "" {
			t.Errorf("too small for a finger: %s", small)
		}
		d.Tap("#units")
		d.Wait(`document.documentElement.classList.contains('u-in')`)
	}
	// Studs that were found elsewhere move the points; what is mistyped is said, and changes nothing.
	d.Wait(`document.readyState === 'complete'`)
	was := value[string](d, `document.querySelector('#step-mark').textContent`)
	d.Tap(`[name="studs"]`)
	d.Type("1440; next to the door")
	d.Tap(`form button`)
	d.Wait(`document.querySelector('#start .stop')?.innerText.includes('next to the door') && document.readyState === 'complete'`)
	if now := value[string](d, `document.querySelector('#step-mark').textContent`); now != was {
		t.Error("a place that cannot be read moved the points")
	}
	d.Fill(`[name="studs"]`, "1440; 1846")
	d.Fill(`[name="bar"]`, "100.2")
	d.Tap(`form button`)
	d.Wait(`document.querySelector('#start').innerText.includes('Worked out anew for 2 studs') &&
		document.querySelector('#start').innerText.includes('Accepted') && document.readyState === 'complete'`)
	if now := value[string](d, `document.querySelector('#step-mark').textContent`); now == was {
		t.Error("the points did not move with the studs")
	}
	d.Wait(`document.documentElement.dataset.aside === 'yes'`)
	walk()
	page := d.downloads + "/steps.html"
	d.allowed = "net::ERR_"
	if err := d.app.Stop(); err != nil { // the network is cut
		t.Fatal(err)
	}
	d.Reload()
	d.Wait(`document.querySelector('#step-stand.on') && document.documentElement.classList.contains('u-in')`)
	d.Tap("#back")
	d.Wait(`document.querySelector('#step-unpack.on') && document.querySelector('#step-unpack input').checked`)
	d.Wait(`document.querySelector('#where').innerText.includes('1 done')`)
	// What is measured meanwhile is kept, and worked out when the network is back.
	d.Tap("#back")
	d.Fill(`[name="studs"]`, "1425; 1831")
	d.Tap(`form button`)
	d.Wait(`!document.querySelector('#kept').hidden`)
	d.Reload()
	d.Wait(`document.querySelector('#kept') && !document.querySelector('#kept').hidden &&
		document.querySelector('[name="studs"]').value === '1425; 1831'`)
	back, err := d.app.Again(program, "demo")
	if err != nil {
		t.Fatal(err)
	}
	d.Reload()
	d.Wait(`document.querySelector('#start').innerText.includes('Worked out anew for 2 studs') && location.search.includes('1425')`)
	if err := back.Stop(); err != nil {
		t.Fatal(err)
	}

	// As a file, written by the command line.
	demo := []string{"steps"}
	for _, name := range []string{"brackets", "bakeries", "museum", "jobs"} {
		demo = append(demo, "--in", filepath.Join("..", "demo", name+".json"))
	}
	if out, err := run(append(demo, "--job", "mill-lane-counter", "--out", page)...); err != nil {
		t.Fatal(err, out)
	}
	d.Open((&url.URL{Scheme: "file", Path: page}).String())
	walk()
	raw, err := os.ReadFile(page)
	if err != nil || strings.Contains(strings.ReplaceAll(string(raw), "http://www.w3.org/2000/svg", ""), "://") {
		t.Errorf("the file asks for something from outside: %v", err)
	}
}

// TestTicks: a step that is ticked on the telephone is done on the page of the office, and on another telephone;
// taken off again there, it is not.
func TestTicks(t *testing.T) {
	d := sit(t, "/at/mill-lane-counter")
	d.Touch(390, 844)
	tick := func(of *desk, on bool) {
		of.Wait(`document.querySelector('#start.on')`)
		of.Tap("#next")
		of.Tap("#step-unpack .tick")
		of.Wait(fmt.Sprintf(`document.querySelector('#step-unpack input').checked === %v`, on))
	}
	office := sitAt(t, d.app, "/steps?job=mill-lane-counter")
	tick(d, true)
	done := func(want string) {
		for range 100 { // it is told a moment after
			office.Reload()
			office.See(`[data-step="unpack"] h3`)
			if value[string](office, `(document.querySelector('.ticked')?.innerText ?? '')`) == want {
				return
			}
		}
		t.Fatalf("the office does not say %q", want)
	}
	done("At the wall 1 of 20 steps are done.")
	office.See(`[data-step="unpack"] .done`)
	other := sitAt(t, d.app, "/at/mill-lane-counter")
	other.Touch(390, 844)
	other.Wait(`document.querySelector('#step-unpack input')?.checked`)
	tick(other, false)
	done("")
}

// TestOwnStepByHand: a step of the bracket's own is typed in; a figure that there is not is said at its
// field and cannot be saved; mended, it is saved, and stands among the steps.
func TestOwnStepByHand(t *testing.T) {
	d := sit(t, "/catalogue/brackets/pantry-10")
	d.allowed = "400" // a figure that cannot be
	d.See(".own-step")
	d.PressButton("button", "Add a step")
	d.See(`[data-path="assembly[1].title"]`)
	d.Click(`[data-path="assembly[1].title"]`)
	d.Type("Lock it")
	d.Click(`[data-path="assembly[1].text"]`)
	d.Type("Push; {many}.")
	d.Wait(`[...document.querySelectorAll('.own-step .Mui-error')].some((e) => e.innerText.includes('{many}'))`)
	for range len("{many}.") {
		d.Type(kb.Backspace)
	}
	d.Type("{turns}.")
	d.Wait(`![...document.querySelectorAll('.own-step .Mui-error')].length`)
	d.Wait(`document.querySelector('.touched')?.innerText.includes('Its steps would change with')`)
	if got := value[string](d, `document.querySelector('[data-path="assembly[1].text"]').value`); got != "Push; {turns}." {
		t.Errorf("typed is %q", got)
	}
	d.Fill(`input[placeholder="why it is changed"]`, "new")
	d.PressButton("button", "Save")
	d.Wait(`document.body.innerText.includes('revision 2')`)
	d.Open(d.app.URL + "/steps?display=corvane-loaf-40&bracket=pantry-10")
	d.Wait(`[...document.querySelectorAll('.sequence h3')].some((h) => h.innerText === 'Lock it') || document.querySelector('.blocked')`)
}

// run runs the program's command line.
func run(args ...string) (string, error) {
	out, err := exec.Command(program, args...).CombinedOutput()
	return string(out), err
}

// TestStepIsChanged: an engineer rewords a step, in whose text a figure that there is not is said; leaves
// one for safety out, which takes a reason; adds one; the job is saved, and after a reload all of it is
// there. Another school changes the generated text: the change is a conflict with both sides, and is
// settled. The caution of what was left out stays.
func TestStepIsChanged(t *testing.T) {
	d := sit(t, "/steps?job=mill-lane-counter")
	d.See(`[data-step="level"] figure svg`)
	d.Click(`[aria-label="Change Level it"]`)
	d.See(`.step-editor textarea`)
	d.Wait(`document.activeElement.matches('.step-editor textarea')`)
	d.Type(kb.End + " Use {7}.")
	d.Wait(`document.querySelector('.step-editor')?.innerText.includes('There is no figure {7}')`)
	for range len("Use {7}.") {
		d.Type(kb.Backspace)
	}
	d.Type("Slowly, never more than {1}.")
	d.PressButton(".step-editor button", "Use this text")
	d.Wait(`document.querySelector('[data-step="level"]').innerText.includes('Slowly, never more than 6 mm.')`)

	d.Click(`[aria-label="Change Pull test"]`)
	d.PressButton(".step-editor button", "Leave this step out")
	d.Wait(`document.querySelector('.conflicts')?.innerText.includes('for safety')`)
	d.PressButton(".conflicts button", "Drop this change")
	d.Wait(`!document.querySelector('.conflicts')`)
	d.Click(`[aria-label="Change Pull test"]`)
	d.Click(`[aria-label="Reason to leave it out"]`)
	d.Type("the maker forbids it")
	d.PressButton(".step-editor button", "Leave this step out")
	d.Wait(`document.querySelector('.left-out')?.innerText.includes('Left out: Pull test. Reason: the maker forbids it')`)
	d.Wait(`!document.querySelector('[data-step="pull"]') &&
		document.querySelector('.sequence').innerText.includes('If anything gives, take the plate down')`)

	d.Click(`[aria-label="Change Finish"]`)
	d.Click(`[aria-label="Title of a new step after this"]`)
	d.Type("Sweep the floor")
	d.Click(`[aria-label="What is done in it"]`)
	d.Type("Dust and leftovers go with us.")
	d.PressButton(".step-editor button", "Add it")
	d.Wait(`[...document.querySelectorAll('.sequence h3')].some((h) => h.innerText === 'Sweep the floor')`)
	d.Chord("s")
	d.Wait(`document.body.innerText.includes('Saved: job mill-lane-counter')`)
	d.Open(d.app.URL + "/steps?job=mill-lane-counter")
	d.Wait(`document.querySelector('[data-step="level"]')?.innerText.includes('Slowly, never more than 6 mm.') &&
		document.querySelector('.left-out')`)
	// Its telephone page says so too.
	d.Open(d.app.URL + "/at/mill-lane-counter")
	d.Wait(`document.querySelector('#start')?.innerText.includes('Left out: Pull test. Reason: the maker forbids it')`)

	// Another school has another text: mine is a conflict, shown with both sides, and is put on the new one.
	d.Open(d.app.URL + "/steps?job=mill-lane-counter")
	d.Click(`[aria-label="Change Mark the holes"]`)
	d.See(`.step-editor textarea`)
	d.Chord(kb.End)
	d.Type(" Mind the tiles.")
	d.PressButton(".step-editor button", "Use this text")
	d.Wait(`document.querySelector('[data-step="mark"]').innerText.includes('Mind the tiles.')`)
	d.Click(`[data-setting="level_school"]`)
	d.Type(kb.Escape + kb.ArrowDown)
	d.Wait(`document.querySelector('.conflict')?.innerText.includes('line laser') &&
		document.querySelector('.conflict').innerText.includes('Mind the tiles.')`)
	d.Wait(`document.querySelector('[data-step="mark"]').innerText.includes('line laser')`) // what is true stands meanwhile
	d.PressButton(".conflict button", "Keep mine on it")
	d.Wait(`!document.querySelector('.conflict') && document.querySelector('[data-step="mark"]').innerText.includes('Mind the tiles.')`)
}

package e2e

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

const wallReady = `document.querySelector('.bench.wall[data-ready="yes"]')`

// atCounter is a person at the wall of the counter's job.
func atCounter(t *testing.T) *desk {
	d := sit(t, "/wall?display=velmora-pane-49&bracket=sill-40")
	d.Click(`.begin [data-job="mill-lane-counter"]`)
	d.Wait(counterOpen)
	return d
}

// across is where the display's middle is, as its field says.
func (d *desk) across() string {
	return value[string](d, `document.querySelector('[aria-label="Middle across"]').value`)
}

// TestWallIsWorkedOn: a display is dragged, snaps, is nudged by keyboard and
// brought back; studs are added and dragged; the wall is changed.
func TestWallIsWorkedOn(t *testing.T) {
	d := atCounter(t)
	if d.across() != "1650" {
		t.Fatal(d.across())
	}
	perMM := value[float64](d, `document.querySelector('.wall-picture svg').getScreenCTM().a`)
	// 100 mm to the right the plate finds no studs: it goes as far as it may.
	d.Drag(`polygon[data-tag="display.0"]`, 100*perMM, 0, false)
	d.Wait(wallReady + ` && document.querySelector('.snapped').innerText.includes('As far as the plate') ||
		document.querySelector('[aria-label="Middle across"]').value !== '1650'`)
	d.Wait(wallReady)
	snapped, _ := strconv.ParseFloat(d.across(), 64)
	if snapped < 1700 || snapped > 1730 || !strings.Contains(d.Text(`[data-rule="studs"]`), "The plate takes 2 studs") {
		t.Errorf("it snaps to %s: %s", d.across(), d.Text(`[data-rule="studs"]`))
	}
	// With Alt it stays where it is put, and says what is wrong.
	d.Drag(`polygon[data-tag="display.0"]`, 60*perMM, 0, true)
	d.See(`.bench.wall[data-ready="yes"] [data-rule="studs"][data-status="fail"]`)
	if !strings.Contains(d.Text(`[data-rule="studs"]`), "Move the display") {
		t.Error(d.Text(`[data-rule="studs"]`))
	}
	// The remedy can be pressed.
	d.Click(`[data-rule="studs"] [data-act="move"]`)
	d.See(`.bench.wall[data-ready="yes"] [data-rule="studs"][data-status="pass"]`)
	d.Press("z")
	d.Press("z")
	d.Press("z")
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Middle across"]').value === '1650'`)

	// By keyboard: a millimetre, or ten.
	d.tabTo(`[data-tag="display.0"]`)
	d.Type(kb.ArrowRight)
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Middle across"]').value === '1651'`)
	d.Wait(`document.activeElement.getAttribute('data-tag') === 'display.0'`)
	d.Type(kb.ArrowUp)
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Centre"]').value === '1501'`)

	// Who types in a figure keeps the keyboard while the picture follows.
	d.Click(`[aria-label="Eye height"]`)
	d.Chord("a")
	d.Type("1")
	d.Wait(wallReady + ` && document.querySelector('[data-school="eye"]').innerText.includes('1600') === false`)
	d.Wait(`document.activeElement.getAttribute('aria-label') === 'Eye height'`)
	d.Type("5")
	d.Wait(wallReady + ` && document.activeElement.getAttribute('aria-label') === 'Eye height'`)
	d.Type(kb.Escape)
	// A stud is added: now they are marked one by one, and can be dragged alone.
	studs := `new Set([...document.querySelectorAll('[data-tag^="stud."]')].map((e) => e.dataset.tag)).size`
	before := value[int](d, studs)
	d.Click(`[data-add="stud"]`)
	d.Wait(wallReady + ` && ` + studs + fmt.Sprintf(` === %d`, before+1))
	last := fmt.Sprintf(`[aria-label="Stud %d"]`, before)
	was := value[string](d, `document.querySelector('`+last+`').value`)
	d.Drag(fmt.Sprintf(`polygon[data-tag="stud.%d"]`, before-1), -80*perMM, 0, true)
	d.Wait(wallReady + ` && document.querySelector('` + last + `').value !== '` + was + `'`)
	now, _ := strconv.ParseFloat(value[string](d, `document.querySelector('`+last+`').value`), 64)
	then, _ := strconv.ParseFloat(was, 64)
	if math.Abs(then-now-80) > 8 {
		t.Errorf("the stud goes from %s to %g", was, now)
	}
	// Furniture is dragged up until it is in the way.
	d.Drag(`polygon[data-tag="furniture.0"]`, 0, -420*perMM, true)
	d.See(`.bench.wall[data-ready="yes"] [data-rule="below"][data-status="fail"]`)
	d.Press("z")

	// Another wall: no studs, and what is not known is asked for.
	d.choose(`.side.left select[aria-label="Wall"]`, "timber", "timber_board")
	d.Wait(wallReady + ` && !document.querySelector('[data-tag^="stud."]') &&
		document.querySelector('[data-rule="studs"]').innerText.includes('outermost')`)
	d.See(`[data-rule="fastener"][data-status="unknown"]`)
	d.Type(kb.Escape)
	d.Press("u")
	d.Wait(`document.querySelector('.bench.wall.units-in[data-ready="yes"] [data-hole="T1"]')?.innerText.includes('″')`)
	// The bench's template is of this wall too.
	d.Press("e")
	d.Wait(`!document.querySelector('.bench.wall') &&
		[...document.querySelectorAll('.verdict button')].some((b) => b.innerText === 'Template PDF')`)
	d.Ready()
	d.PressButton(".verdict button", "Template PDF")
	d.downloaded("mill-lane-counter-velmora-pane-49-on-sill-40.pdf")
	d.Press("l")
	d.Wait(wallReady)
	// Another height rule is a press away.
	d.Click(`[data-school="upper_third"] button`)
	d.Wait(wallReady + ` && document.querySelector('[data-school="upper_third"].lit') &&
		document.querySelector('[aria-label="Height by"]').value === 'upper_third'`)
}

// TestWallsFiguresAreTyped: a figure in any unit; what is wrong is said at its
// field, and the last wall stays.
func TestWallsFiguresAreTyped(t *testing.T) {
	d := sit(t, "/wall?display=velmora-pane-49&bracket=sill-40")
	d.allowed = "400 (Bad Request)"
	d.Click(`[data-begin="wood_stud"]`)
	d.Wait(wallReady)
	enter := func(label, text string) {
		d.Fill(fmt.Sprintf(`[aria-label=%q]`, label), text)
	}
	enter("Floor to ceiling", "8 ft")
	d.Wait(wallReady + ` && document.querySelector('[data-tag="ceiling"]') &&
		[...document.querySelectorAll('[data-tag="height.ceiling"].u-mm')].length > 0`)
	enter("Spacing", "5//8")
	d.See(`[aria-label="Spacing"][aria-invalid="true"]`)
	d.Wait(`document.querySelector('.figure-pull:has([aria-label="Spacing"]) .field-error')?.innerText.includes('5//8')`)
	d.See(`.wall-picture svg`)
	d.Wait(`document.querySelector('.wall-head .stamp').innerText === 'Not judged: a figure is not right'`)
	enter("Covering", "12x")
	d.Fill(`.job-bar input`, "bare-wall")
	d.PressButton(".job-bar button", "Save job")
	d.Wait(`document.querySelector('.not-saved')?.innerText.startsWith('Not saved. covering: unit "x"')`)
	if got := d.Text(`.not-saved`); strings.Count(got, "allowed:") != 1 {
		t.Errorf("%q says what is allowed more than once", got)
	}
	enter("Covering", "12")
	enter("Spacing", "24 in")
	d.Wait(wallReady + ` && !document.querySelector('.field-error')`)
	// Kept under a name, it is there after a reload, and opens from the list.
	enter("Job", "Corner shop 7")
	d.Click(`.job-bar [type="submit"]`)
	d.Wait(`document.body.innerText.includes('Saved: job Corner-shop-7')`)
	d.Reload()
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Job"]').value === 'Corner-shop-7' &&
		document.querySelector('[aria-label="Spacing"]').value === '609.6'`)
}

// TestJobsComeAndGo: a job is taken off the list and brought back; another one
// is opened by its name.
func TestJobsComeAndGo(t *testing.T) {
	d := sit(t, "/wall?display=velmora-pane-49&bracket=sill-40")
	d.Click(`[aria-label="Remove job mill-lane-counter"]`)
	d.Wait(`!document.querySelector('[data-job="mill-lane-counter"]') && document.body.innerText.includes('Removed: job mill-lane-counter')`)
	d.Click(`.MuiSnackbar-root button`)
	d.Click(`[data-job="mill-lane-counter"]`)
	d.Wait(counterOpen)
	d.Fill(`[aria-label="Job"]`, "signal-box-exhibit")
	d.Wait(`[...document.querySelectorAll('.job-bar button')].some((b) => b.innerText === 'Open')`)
	d.Type(kb.Enter)
	d.Wait(wallReady + ` && document.querySelector('.wall-head h1').innerText === 'Skerry Lantern 65 on Trestle 70' &&
		document.querySelectorAll('[data-tag="plate.0"]').length === 2`)
}

// TestPlotWithAJam: a template is plotted, the paper jams, another plot is
// cancelled, the jam is cleared, and the plot lands whole in the folder.
func TestPlotWithAJam(t *testing.T) {
	d := atCounter(t)
	d.Click(`.job-bar a[href^="/template"]`)
	d.See(`.template-page svg [data-tag="point.T1"]`)
	d.Click(`[data-act="jam"]`)
	d.See(`.plotter [role="alert"]`)
	d.Click(`[data-act="plot"]`)
	d.See(`[data-plot="1"][data-state="jammed"]`)
	d.Click(`[data-act="plot"]`)
	d.See(`[data-plot="2"]`)
	d.Click(`[data-plot="2"] [data-act="cancel"]`)
	d.See(`[data-plot="2"][data-state="cancelled"]`)
	d.Click(`[data-act="clear"]`)
	d.Wait(`document.querySelector('[data-plot="1"] [role="progressbar"]')?.ariaValueNow > 0`)
	d.See(`[data-plot="1"][data-state="done"]`)
	name := strings.TrimPrefix(d.Text(`[data-plot="1"] small`), "In the folder plots, as ")
	raw, err := os.ReadFile(filepath.Join(d.app.Data, "plots", name))
	if err != nil || !bytes.HasPrefix(raw, []byte("%PDF-")) {
		t.Error(err, name)
	}
	// The print is measured: refused with the reason, then accepted, and both
	// are kept with the job.
	check := func(text string) {
		d.Fill(`[aria-label="Measured"]`, text)
		d.Click(`.print-check [type="submit"]`)
	}
	check("97")
	d.See(`[data-print="refused"]`)
	if said := d.Text(`[data-print]`); !strings.Contains(said, "fit to page") || !strings.Contains(said, "Saved with job mill-lane-counter") {
		t.Error(said)
	}
	check("100.2 mm")
	d.See(`[data-print="accepted"]`)
	jobs := value[string](d, `fetch('/api/items/jobs/mill-lane-counter').then((r) => r.json()).then((k) =>
		JSON.stringify(k.job.prints.map((p) => p.accepted)))`)
	if jobs != "[false,true]" {
		t.Error(jobs)
	}
}

// TestPrintViewIsThePDF: what the browser prints has the PDF's page, and its
// lines of text begin where the PDF's do, to half a millimetre (read by
// poppler).
func TestPrintViewIsThePDF(t *testing.T) {
	d := atCounter(t)
	d.Click(`.job-bar a[href^="/template"]`)
	for _, sheet := range []string{"template", "card"} {
		d.Click(fmt.Sprintf(`[data-sheet=%q]`, sheet))
		d.Wait(fmt.Sprintf(`document.querySelector('.template-page[aria-label=%q] svg')`,
			map[string]string{"template": "Drilling template", "card": "Measure card"}[sheet]))
		d.Wait(map[string]string{"template": `document.querySelector('[data-tag="template.block"]')`,
			"card": `document.querySelector('[data-tag="card.row"]')`}[sheet])
		d.Wait(`document.fonts.status === 'loaded'`)
		printed := d.Printed()
		d.Click(`.tools .MuiButton-contained`)
		name := "mill-lane-counter-velmora-pane-49-on-sill-40" + map[string]string{"template": "", "card": "-measures"}[sheet] + ".pdf"
		want := d.downloaded(name)
		d.must()
		gotPage, got := words(t, printed)
		wantPage, there := words(t, want)
		if math.Abs(gotPage[0]-wantPage[0]) > 0.5 || math.Abs(gotPage[1]-wantPage[1]) > 0.5 {
			t.Errorf("%s: the print view's page is %.1f × %.1f mm, the PDF's %.1f × %.1f", sheet, gotPage[0], gotPage[1], wantPage[0], wantPage[1])
		}
		same := 0
		for word, at := range there {
			if len(at) != 1 || len(got[word]) != 1 ||
				!regexp.MustCompile(`^(Bracket|Job|Drill|Measure|For|Find|Eye|A|This|\d\.)$`).MatchString(word) {
				continue // of words at the beginning of a line
			}
			same++
			if x, y := math.Abs(got[word][0][0]-at[0][0]), math.Abs(got[word][0][1]-at[0][1]); x > 0.5 || y > 1.5 { // letters are of other fonts
				t.Errorf("%s: %q is printed %.2f, %.2f mm from where the PDF has it", sheet, word, x, y)
			}
		}
		if same < 3 {
			t.Errorf("%s: only %d words were found in both", sheet, same)
		}
	}
}

// TestStepsArePrinted: the printed steps say of what they are, whether it fits, and what is needed, in
// dark ink whatever the screen shows (read by poppler); nothing that is pressed is on them.
func TestStepsArePrinted(t *testing.T) {
	d := sit(t, "/")
	d.Scheme("dark")
	d.Open(d.app.URL + "/steps?display=velmora-pane-49&bracket=sill-40")
	d.See(".steps li")
	c := exec.Command("pdftotext", "-", "-")
	c.Stdin = bytes.NewReader(d.Printed())
	out, err := c.Output()
	if err != nil {
		t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
	}
	for _, want := range []string{"Velmora Pane 49 on Sill 40", "Fits with conditions", "To be supplied", "Cautions"} {
		if !strings.Contains(string(out), want) {
			t.Errorf("the print lacks %q", want)
		}
	}
	for _, not := range []string{"Markdown", "Go light", "Show inches"} {
		if strings.Contains(string(out), not) {
			t.Errorf("the print has %q, which cannot be pressed on paper", not)
		}
	}
	if ink := value[string](d, `(() => { const rules = [...document.styleSheets].flatMap((s) => [...s.cssRules])
		.filter((r) => r.conditionText === 'print').map((r) => r.cssText).join();
		return /--mui-palette-background-paper: ?white/.test(rules) ? 'white' : ''; })()`); ink != "white" {
		t.Error("a print in dark has no rule that makes its paper white")
	}
}

// words are the words of a PDF of one page with their places, in millimetres,
// and the page's size.
func words(t *testing.T, pdf []byte) (page [2]float64, at map[string][][2]float64) {
	t.Helper()
	c := exec.Command("pdftotext", "-bbox", "-", "-")
	c.Stdin = bytes.NewReader(pdf)
	out, err := c.Output()
	if err != nil {
		t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
	}
	if n := bytes.Count(out, []byte("<page ")); n != 1 {
		t.Fatalf("%d pages", n)
	}
	number := func(b []byte) float64 { f, _ := strconv.ParseFloat(string(b), 64); return f / 72 * 25.4 }
	m := regexp.MustCompile(`<page width="([\d.]+)" height="([\d.]+)"`).FindSubmatch(out)
	page = [2]float64{number(m[1]), number(m[2])}
	at = map[string][][2]float64{}
	for _, w := range regexp.MustCompile(`<word xMin="([\d.-]+)" yMin="[\d.-]+" xMax="[\d.-]+" yMax="([\d.-]+)">([^<]*)`).FindAllSubmatch(out,
		-1) {
		at[string(w[3])] = append(at[string(w[3])], [2]float64{number(w[1]), number(w[2])})
	}
	return page, at
}

// TestSitePointsInChromium: the SVG of a site has every point where it was
// computed, within 0.05 mm, by the browser's own bounding boxes.
func TestSitePointsInChromium(t *testing.T) {
	d := atCounter(t)
	site := value[string](d, `JSON.stringify({display_id: 'velmora-pane-49', bracket_id: 'sill-40',
		site: JSON.parse(sessionStorage.getItem('nexufix.inputs')).site})`)
	got := value[[][]float64](d, fmt.Sprintf(`(async () => {
		const ask = (path, body) => fetch(path, {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify(body)});
		const q = %s;
		const view = await (await ask('/api/wall', {request: q})).json();
		const svg = await (await ask('/api/template?format=svg', q)).text();
		const box = document.createElement('div');
		box.innerHTML = svg;
		document.body.append(box);
		const middle = (e) => { const b = e.getBBox(); return [b.x + b.width / 2, b.y + b.height / 2]; };
		const p = view.placements[0];
		const first = p.points[0];
		const at = (name) => middle(box.querySelector('circle[data-tag="point.' + name + '"]'));
		const from = at(first.hole);
		return p.points.map((pt) => { const m = at(pt.hole); return [m[0] - from[0] - (pt.x_mm - first.x_mm),
			from[1] - m[1] - (pt.y_mm - first.y_mm)]; });
	})()`, site))
	d.must()
	if len(got) != 4 {
		t.Fatal(got)
	}
	for _, off := range got {
		if math.Abs(off[0]) > 0.05 || math.Abs(off[1]) > 0.05 {
			t.Error(off)
		}
	}
}

// TestNothingGoesThereThatDoesNotFit: on the wall's page of a pairing that does
// not fit the stamp says so, and why, whatever the wall is.
func TestNothingGoesThereThatDoesNotFit(t *testing.T) {
	d := sit(t, "/wall?display=halden-wall-105&bracket=sill-40")
	d.Click(".begin button")
	d.See(`.bench.wall[data-ready="yes"]`)
	d.Wait(`document.querySelector('.wall-head .stamp').dataset.verdict === 'does_not_fit'`)
	if got := d.Text(".against"); !strings.Contains(got, "Do not install") || !strings.Contains(got, "more than the bracket is rated for") {
		t.Error(got)
	}
	d.Click(`.against a`)
	d.Ready()
}

package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"math"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	"nexufix/e2e/drive"
)

// view is a state of the page.
type view struct{ name, at, wait, press, then string }

// views are states of the page: where, what it shows when it is there, what is pressed then, and
// what that shows.
var views = []view{
	{"start", "/", `document.querySelectorAll('.start li').length > 5`, "", ""},
	{"bench", paneOnSill, `document.querySelector('.bench[data-ready="yes"]')`, "", ""},
	{"does not fit", "/?display=halden-wall-105", `document.querySelector('.bench[data-ready="yes"]')`, "", ""},
	{"figures missing", "/?display=tarn-oven-view-19", `document.querySelector('.bench[data-ready="yes"]')`, "", ""},
	{"template", "/template?display=velmora-pane-49&bracket=sill-40", `document.querySelector('.template-page svg')`, "", ""},
	{"steps", "/steps?display=velmora-pane-49&bracket=sill-40", `document.querySelector('.steps li')`, "", ""},
	{"step is changed", "/steps?job=mill-lane-counter", `document.querySelector('[data-step="pull"]')`, `[aria-label="Change Pull test"]`,
		`document.querySelector('.step-editor textarea')`},
	{"trouble", paneOnSill + "&panel=wrong", `document.querySelector('.symptoms select')`, "", ""},
	{"at the wall", "/at/mill-lane-counter", `document.querySelector('#start.on')`, "", ""},
	{"no wall", "/wall?display=velmora-pane-49&bracket=sill-40", `document.querySelector('.begin [data-job]')`, "", ""},
	{"wall", "/wall?display=velmora-pane-49&bracket=sill-40", `document.querySelector('.begin [data-job]')`,
		`.begin [data-job="mill-lane-counter"]`, counterOpen},
	{"card", "/template?display=velmora-pane-49&bracket=sill-40",
		`document.querySelector('[data-sheet="card"]')`, `[data-sheet="card"]`,
		`document.querySelector('.template-page[aria-label="Measure card"] svg')`},
	{"side", "/?display=velmora-pane-49&bracket=sill-40#side",
		`document.querySelector('.bench[data-ready="yes"]')`, `[data-picture="side"]`,
		`document.querySelector('[data-tag="side.wall"]')`},
	{"call", "/?display=tarn-oven-view-19#call",
		`document.querySelector('.bench[data-ready="yes"]')`, `[data-mode="call"]`,
		`document.querySelector('.call .hole svg')`},
	{"parts in hand", "/?display=velmora-pane-49&bracket=sill-40&panel=hand", `document.querySelectorAll('.in-hand').length === 2`, "", ""},
	{"help", paneOnSill, `document.querySelector('.bench[data-ready="yes"]')`, `header button[title^="Keys"]`,
		`document.querySelector('[role="dialog"] kbd')`},
	{"refused", paneOnSill + `&with={"changes":{"bracket.plate_thickness_mm":{"text":"thin","unit":"mm"}}}`,
		`document.querySelector('.field-error')`, "", ""},
	{"held", "/wall?job=signal-box-exhibit&picture=holding", `document.querySelector('[data-tag="edge"]')`, "", ""},
	{"no such address", "/nothing", `document.querySelector('h1')?.innerText.startsWith('There is nothing')`, "", ""},
	{"on the drawing", "/catalogue/displays/velmora-pane-49#figure", `document.querySelector('.editor svg')`,
		`.editor text[data-tag="outline.width"].u-mm`, `document.querySelector('.on-drawing input:focus')`},
	{"matrix", "/matrix", `document.querySelector('[data-cover]')`, "", ""},
	{"policy", "/policy", `document.querySelector('[data-setting="bolt_school"]')`, "", ""},
	{"catalogue", "/catalogue", `document.querySelectorAll('.MuiDataGrid-row').length > 8`, "", ""},
	{"import", "/catalogue/import", `document.querySelector('.import')`, "", `document.querySelector('td.wrong')`},
	{"display editor", "/catalogue/displays/velmora-pane-49", `document.querySelector('.editor svg')`, "", ""},
	{"bracket editor", "/catalogue/brackets/sill-40", `document.querySelector('[data-kit="0"] svg')`, "", ""},
	{"history", "/catalogue/history/displays/velmora-pane-49", `document.querySelector('.history td')`, "", ""},
	{"nobody yet", "/people", `document.querySelector('.people h1')`, "", ""},
	{"jobs", "/jobs", `document.querySelectorAll('.job-rows [data-job]').length > 20`, "", ""},
	{"no jobs", "/jobs?q=nothing-is-called-that", `document.body.innerText.includes('No job matches')`, "", ""},
}

// counterOpen says that the wall of the counter's job is there.
const counterOpen = `document.querySelector('.bench.wall[data-ready="yes"] .wall-picture svg')`

// TestEveryView goes to every view once: at 1280 × 800 nothing scrolls the page or sticks out, nor on a
// tablet; it has one head and a title; what is pressed is 24 pixels large; and axe-core, by the rules of
// WCAG 2.1 A and AA, finds nothing, light and dark.
func TestEveryView(t *testing.T) {
	d := sit(t, "/")
	d.allowed = "status of 40" // of the state in which a figure is refused, and of an address that is none
	for _, v := range views {
		d.Size(1280, 800)
		d.visit(v)
		d.isView(v)
	}
}

// isView holds the view that is there against what every view has to be.
func (d *desk) isView(v view) {
	d.t.Helper()
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		d.t.Fatal(err)
	}
	d.fits(v)
	d.heads(v)
	d.Run(string(axe))
	d.accessible(v.name+", light", `['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']`)
	light := value[string](d, `getComputedStyle(document.body).backgroundColor`)
	d.Scheme("dark")
	d.Wait(fmt.Sprintf(`getComputedStyle(document.body).backgroundColor !== %q`, light))
	d.accessible(v.name+", dark", `{type: 'rule', values: ['color-contrast']}`) // the rest is the same
	d.Scheme("light")
	d.Size(820, 1180)
	if w := value[int](d, `document.documentElement.scrollWidth`); w > 820 {
		d.t.Errorf("%s is %d wide on a tablet", v.name, w)
	}
	d.Size(1280, 800)
	d.must()
}

// accessible lets axe-core look at what is there, by some of its rules.
func (d *desk) accessible(name, rules string) {
	d.t.Helper()
	type violation struct{ ID, Help, Where string }
	raw := value[string](d, `axe.run(document, {runOnly: `+rules+`, resultTypes: ['violations'], selectors: false}).then((r) =>
			JSON.stringify(r.violations.flatMap((v) =>
			v.nodes.map((n) => ({ID: v.id, Help: v.help,
			Where: n.html.slice(0, 160) + ' ' + n.failureSummary})))))`)
	d.must()
	var found []violation
	if err := json.Unmarshal([]byte(raw), &found); err != nil {
		d.t.Fatal(err)
	}
	for _, f := range found {
		d.t.Errorf("%s: %s (%s): %s", name, f.ID, f.Help, f.Where)
	}
}

// fits: nothing scrolls the page, and nothing sticks out to the side. A page that is read on a telephone is
// scrolled down.
func (d *desk) fits(v view) {
	w, h := value[int](d, `document.documentElement.scrollWidth`), value[int](d, `document.documentElement.scrollHeight`)
	if w > 1280 || h > 800 && !strings.HasPrefix(v.at, "/at/") {
		d.t.Errorf("%s is %d × %d", v.name, w, h)
	}
}

// heads: a view has one head and a title of its own, and what is pressed is large enough.
func (d *desk) heads(v view) {
	if n := value[int](d, `document.querySelectorAll('h1').length`); n != 1 && !strings.HasPrefix(v.at, "/?display") {
		d.t.Errorf("%s has %d heads", v.name, n)
	}
	if v.at != "/" && value[string](d, "document.title") == "Nexufix" {
		d.t.Errorf("%s has no title of its own", v.name)
	}
	for _, small := range value[[]string](d, `[...document.querySelectorAll('button, select, input, nav a')].filter((e) => {
			if (!e.checkVisibility() || e.closest('svg, [aria-hidden="true"], .MuiDataGrid-root') || e.type === 'file') return false;
			const r = (e.closest('.MuiInputBase-root, .MuiCheckbox-root, .MuiSlider-root') ?? e).getBoundingClientRect();
			return r.width > 0 && (r.height < 23.5 || r.width < 23.5);
		}).map((e) => (e.getAttribute('aria-label') ?? e.innerText).slice(0,
			40) + ' ' + e.getBoundingClientRect().width + ' × ' + e.getBoundingClientRect().height)`) {
		d.t.Errorf("%s: %s is too small to be pressed", v.name, small)
	}
}

// TestFirstLoad: script and style of the first load are at most 300 kB as sent.
func TestFirstLoad(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	list := value[[]string](d, `performance.getEntriesByType('resource').map((r) => r.name).filter((n) => /\.(js|css)$/.test(n))`)
	d.must()
	if len(list) < 2 {
		t.Fatalf("only %v", list)
	}
	total := 0
	for _, url := range list {
		r, _ := http.NewRequest(http.MethodGet, url, nil)
		r.Header.Set("Accept-Encoding", "gzip")
		a, err := http.DefaultTransport.RoundTrip(r)
		if err != nil {
			t.Fatal(err)
		}
		n, err := io.Copy(io.Discard, a.Body)
		a.Body.Close()
		if err != nil || a.Header.Get("Content-Encoding") != "gzip" || !strings.Contains(a.Header.Get("Cache-Control"), "immutable") {
			t.Errorf("%s: %v", url, a.Header)
		}
		total += int(n)
	}
	t.Logf("%d bytes", total)
	if total > 300_000 {
		t.Errorf("%d bytes of script and style", total)
	}
	// Everything comes from here.
	for _, url := range value[[]string](d, `performance.getEntriesByType('resource').map((r) => r.name)`) {
		if !strings.HasPrefix(url, d.app.URL) {
			t.Errorf("%s was fetched from elsewhere", url)
		}
	}
}

// TestTemplateSVGInChromium opens the downloaded SVG by itself, and measures:
// a CSS millimetre is 96/25.4 pixels, and holes lie where the plate has them.
func TestTemplateSVGInChromium(t *testing.T) {
	d := sit(t, "/template?display=velmora-pane-49&bracket=sill-40")
	d.See(".template-page svg")
	d.PressButton(".tools button", "SVG")
	raw := d.downloaded("velmora-pane-49-on-sill-40.svg")
	plate := value[string](d, `fetch('/api/brackets/sill-40').then((r) => r.json()).then((b) => JSON.stringify(b.wall_plate.holes))`)
	d.must()
	var holes []struct {
		ID string
		X  float64 `json:"x_mm"`
		Y  float64 `json:"y_mm"`
	}
	if err := json.Unmarshal([]byte(plate), &holes); err != nil || len(holes) < 6 {
		t.Fatal(err, plate)
	}
	file := filepath.Join(t.TempDir(), "t.svg")
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	d.Open("file://" + file)
	box := func(tag string) (x, y, w float64) {
		b := value[[]float64](d, fmt.Sprintf(`(() => {
			const all = [...document.querySelectorAll('[data-tag=%q]')].filter((e) => e.tagName !== 'text').map((e) => e.getBoundingClientRect());
			const x0 = Math.min(...all.map((r) => r.left)), x1 = Math.max(...all.map((r) => r.right));
			const y0 = Math.min(...all.map((r) => r.top)), y1 = Math.max(...all.map((r) => r.bottom));
			return [(x0 + x1) / 2, (y0 + y1) / 2, x1 - x0]; })()`, tag))
		d.must()
		mm := 25.4 / 96
		return b[0] * mm, b[1] * mm, b[2] * mm
	}
	x0, y0, _ := box("hole." + holes[0].ID)
	for _, h := range holes[1:] {
		x, y, _ := box("hole." + h.ID)
		if math.Abs(x-x0-(h.X-holes[0].X)) > 0.05 || math.Abs(y0-y-(h.Y-holes[0].Y)) > 0.05 {
			t.Errorf("%s lies %.3f, %.3f from %s; want %.3f, %.3f", h.ID, x-x0, y0-y, holes[0].ID, h.X-holes[0].X, h.Y-holes[0].Y)
		}
	}
	if _, _, w := box("template.bar.mm"); math.Abs(w-100) > 0.5 { // with the ends of its pen
		t.Errorf("the bar of 100 mm is %.3f", w)
	}
}

// TestLettersCanBeSwitchedOff: a slip of the hand does nothing then.
func TestLettersCanBeSwitchedOff(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Press("?")
	d.Click(`[role="dialog"] input[type=checkbox]`)
	d.Type(kb.Escape)
	d.Wait(`!document.querySelector('[role="dialog"]')`)
	d.Press("t")
	d.Press("u")
	d.Chord("s") // not a single key
	d.Wait(`document.body.innerText.includes('Saved:')`)
	if got := value[string](d, `location.pathname + document.querySelector('.bench').classList.contains('units-mm')`); got != "/true" {
		t.Error(got)
	}
}

// BenchmarkKeystroke measures from a key press in a figure to the new drawing in the page, on the
// demo, at a hand's pace: faster than five a second only the latest is asked for.
func BenchmarkKeystroke(b *testing.B) {
	d := sit(b, paneOnSill)
	d.Ready()
	d.Press("f")
	d.See(`[data-pick="figures"]:focus`)
	d.Run(`
		window.pressed = () => new Promise((done) => {
			const before = document.querySelector('.drawing svg').outerHTML;
			let from;
			window.addEventListener('keydown', () => { from = performance.now(); }, {once: true, capture: true});
			const look = new MutationObserver(() => {
				const now = document.querySelector('.drawing svg');
				if (now && now.outerHTML !== before) { look.disconnect(); requestAnimationFrame(() => { window.shown = performance.now();
					done(shown - from); }); }
			});
			look.observe(document.body, {subtree: true, childList: true});
		})`)
	total, slowest := 0.0, 0.0
	up := false
	for b.Loop() {
		d.Run(`window.took = pressed()`)
		up = !up
		d.Type(map[bool]string{true: kb.ArrowUp, false: kb.ArrowDown}[up])
		ms := drive.Value[float64](d.Page, `window.took`)
		d.Wait(`performance.now() > shown + 200`)
		total += ms
		slowest = max(slowest, ms)
	}
	d.must()
	b.ReportMetric(total/float64(b.N), "ms/keystroke")
	b.ReportMetric(slowest, "ms-slowest")
}

// BenchmarkKey measures what a key costs in the fields of the four views that are typed in: script and all work of the page's main
// thread, the time to the next frame, and what goes over the line, at four keys a second.
func BenchmarkKey(b *testing.B) {
	for _, v := range [][3]string{
		{"bench", paneOnSill, `[data-path="display.patterns[0].rows.top.thread_depth_mm"]`},
		{"wall", "/wall?job=mill-lane-counter", `input[aria-label="Floor to ceiling"]`},
		{"display", "/catalogue/displays/velmora-pane-49", `[data-path="mass_kg"]`},
		{"bracket", "/catalogue/brackets/sill-40", `[data-path="rated_load_kg"]`},
	} {
		b.Run(v[0], func(b *testing.B) {
			d := sit(b, v[1])
			d.See(v[2])
			d.Wait(`document.querySelector('svg')`)
			d.Fill(v[2], "3")
			d.Run(`window.frames = [];
				window.addEventListener('keydown', () => { const from = performance.now();
					requestAnimationFrame(() => setTimeout(() => frames.push(performance.now() - from))); }, true);
				performance.clearResourceTimings(); performance.setResourceTimingBufferSize(100000)`)
			was := d.Spent()
			for i := 0; b.Loop(); i++ {
				d.Type(strconv.Itoa(i % 10))
				if i%3 == 2 {
					d.Type(kb.Backspace + kb.Backspace + kb.Backspace)
				}
				time.Sleep(250 * time.Millisecond)
			}
			is := d.Spent()
			keys := value[float64](d, `frames.length`)
			for _, name := range []string{"ScriptDuration", "TaskDuration"} {
				b.ReportMetric((is[name]-was[name])*1000/keys, "ms-"+name+"/key")
			}
			b.ReportMetric(value[float64](d, `frames.sort((a, b) => a - b)[Math.floor(frames.length * 0.95)]`), "ms-frame-p95")
			down := value[float64](d, `performance.getEntriesByType('resource').reduce((n, r) => n + r.transferSize, 0)`)
			b.ReportMetric(down/1000/keys, "kB-down/key")
			d.must()
		})
	}
}

// BenchmarkDemoStart measures from starting the built binary to its answer.
func BenchmarkDemoStart(b *testing.B) {
	for b.Loop() {
		app, err := drive.Start(program, "demo", filepath.Join(b.TempDir(), "data"))
		if err != nil {
			b.Fatal(err)
		}
		a, err := http.Get(app.URL + "/healthz")
		if err != nil || a.StatusCode != http.StatusOK {
			b.Fatal(err)
		}
		a.Body.Close()
		b.StopTimer()
		app.Stop()
		b.StartTimer()
	}
}

// visit goes to a state of the page: by its address, and by pressing something there.
func (d *desk) visit(v view) {
	d.Run(`sessionStorage.clear()`) // or the start would show what was asked last
	d.Open(d.app.URL + v.at)
	d.Wait(v.wait)
	switch {
	case v.press != "":
		d.Click(v.press)
	case v.then != "": // the import: a table with a wrong cell is dropped
		d.drop("list.csv", []byte("Maker,Model,Weight (kg)\nTarn,Shelf View,heavy\nTarn,Door View,3"))
	default:
		return
	}
	d.Wait(v.then)
}

// TestByHand: nothing in these tests does by script what a hand would do.
func TestByHand(t *testing.T) {
	files, err := filepath.Glob("*.go")
	more, err2 := filepath.Glob("*/*.go")
	if err != nil || err2 != nil || len(files)+len(more) < 8 {
		t.Fatal(err, err2, files, more)
	}
	for _, file := range append(files, more...) {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		for n, line := range strings.Split(string(raw), "\n") {
			if byScript.MatchString(line) {
				t.Errorf("%s:%d does by script what a hand would do: %s", file, n+1, strings.TrimSpace(line))
			}
		}
	}
}

// byScript finds JavaScript that sets a value, or moves the focus or sends an event by itself.
var byScript = regexp.MustCompile(`\.value ?= [^=]|\.proto` + `type\b|dispatch` + `Event\(new|\.(focus|click|select|submit)\(\)`)

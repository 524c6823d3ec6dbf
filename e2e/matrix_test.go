package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"nexufix/demo"
	"nexufix/e2e/drive"
)

// TestMatrix: the picture comes, answers which brackets cover most, is walked
// by keyboard, filtered, and a cell opens the bench.
func TestMatrix(t *testing.T) {
	d := sit(t, "/")
	d.See(`[data-pick="displays"]:focus`)
	d.Type(kb.Escape + kb.Escape) // the list, then the field
	d.Press("a")
	d.See(`[data-cover="3"]`)
	if got := d.Text("[data-cover]"); !strings.Contains(got, fmt.Sprintf("of %d displays", demoDisplays(t))) {
		t.Error(got)
	}
	d.See(fmt.Sprintf(`.picture[data-rows="%d"]`, demoDisplays(t)))
	d.tabTo(`.picture`)
	d.Type(kb.Home + strings.Repeat(kb.ArrowLeft, 12))
	first := d.Text("#matrix-cell")
	// The bracket that takes most stands first, counted from the table.
	most := value[string](d, `fetch('/api/matrix.csv').then((r) => r.text()).then((text) => {
		const rows = text.replace(/"[^"]*"/g, (q) => q.replaceAll(',', ';')).trim().split('\n').map((l) => l.split(','))
		const taken = rows[0].map((_, j) => rows.slice(1).filter((r) => /^"?fits/.test(r[j])).length)
		return rows[0][taken.indexOf(Math.max(...taken))].trim()
	})`)
	if !strings.Contains(first, " on "+most+":") {
		t.Errorf("the first cell is %q; %s takes most", first, most)
	}
	d.Type(kb.ArrowDown + kb.ArrowRight)
	d.Wait(fmt.Sprintf(`document.querySelector('#matrix-cell').innerText !== %q`, first))
	said := d.Text("#matrix-cell")
	d.Type(kb.Enter)
	d.Ready()
	display, rest, _ := strings.Cut(said, " on ")
	bracket, _, _ := strings.Cut(rest, ":")
	if got := value[string](d,
		`document.querySelector('[data-pick="displays"]').value + ' on ' +
			document.querySelector('[data-pick="brackets"]').value`); got != display+" on "+bracket {
		t.Errorf("the cell said %q, the bench shows %q", said, got)
	}
	if got := d.Text(".verdict .stamp"); !strings.Contains(said, strings.ToLower(got)) {
		t.Errorf("the cell said %q, the bench %q", said, got)
	}
	d.Press("a")
	d.See(`[data-cover="3"]`)
	d.choose(`select[aria-label="Which displays"]`, "Those that n", "none")
	d.Wait(`Number(document.querySelector('.picture').dataset.rows) < 20`)
	d.Fill(`[aria-label="Only displays named"]`, "wall 105")
	d.See(`.picture[data-rows="1"]`)
	d.Type(" zzz")
	d.Wait(`document.body.innerText.includes('No display is like that.')`)
	d.Fill(`[aria-label="Only displays named"]`, kb.Backspace)
	d.Wait(`!document.body.innerText.includes('No display is like that.')`)
	if got := value[int](d, `fetch('/api/matrix.csv').then((r) => r.text()).then((x) => x.split('\n').length)`); got != demoDisplays(t)+2 {
		t.Error("the table has not a line a display")
	}
}

// TestMatrixWhy: the matrix says why nothing fits a display, what a bracket
// misses by one thing, and groups displays by what keeps them off.
func TestMatrixWhy(t *testing.T) {
	d := sit(t, "/matrix")
	d.See(`[data-cover="3"]`)
	d.tabTo(`.picture`)
	d.Type(kb.Home + "y")
	d.Wait(`document.querySelector('.why')?.innerText.includes('No bracket takes it.')`)
	if got := d.Text(".why"); !strings.Contains(got, "by one thing") || !strings.Contains(got, ":") {
		t.Error(got)
	}
	d.Type(kb.Escape)
	d.Wait(`!document.querySelector('.why') && document.activeElement.matches('.picture')`)
	d.Type("n")
	d.Wait(fmt.Sprintf(`document.querySelector(".why")?.innerText.includes("of %d displays.")`, demoDisplays(t)))
	bracket := d.Text(".why h2")
	d.Wait(`document.querySelector('.why h3').innerText.startsWith('Misses by one thing: ')`)
	// One of them opens the bench: there, one rule fails and no other.
	d.Run(`[...document.querySelectorAll('.why li')].find((li) => !li.innerText.includes('not known')).id = 'near'`)
	near := d.Text("#near button")
	d.Click("#near button")
	d.Ready()
	if got := value[string](d,
		`document.querySelector('[data-pick="displays"]').value + ' on ' +
			document.querySelector('[data-pick="brackets"]').value`); got != near+" on "+bracket {
		t.Errorf("%s on %s opened %s", near, bracket, got)
	}
	if n := value[int](d, `document.querySelectorAll('.finding[data-status="fail"]').length`); n != 1 {
		t.Errorf("%s misses %s by one thing, the bench has %d", bracket, near, n)
	}
	d.Press("a")
	d.See(`[data-cover="3"]`)
	d.choose(`select[aria-label="Order of the displays"]`, "Grouped ", "reason")
	d.tabTo(`.picture`)
	d.Type(kb.Home)
	d.Wait(`/(does not fit|missing)/.test(document.querySelector('#matrix-cell').innerText)`)
}

// BenchmarkMatrixScreen measures the matrix at 2,000 displays by 60 brackets,
// made of the demo's: from the key press to the first cells and to the last,
// then the longest time between two frames while it is scrolled.
func BenchmarkMatrixScreen(b *testing.B) {
	d := sit(b, "/")
	d.See(`[data-pick="displays"]:focus`)
	d.Type(kb.Escape + kb.Escape)
	drive.Value[int](d.Page, `(async () => {
		const demo = await (await fetch('/api/export')).json();
		const many = (list, n) => Array.from({length: n}, (_, i) => ({...list[i % list.length], id: 'x' + i,
			[list[0].name ? 'name' : 'model']: 'Number ' + i}));
		const displays = many(demo.displays, 2000 - demo.displays.length).map((d, i) => ({...d, mass_kg: d.mass_kg &&
			Math.round(d.mass_kg * (100 + i % 37)) / 100}));
		const brackets = many(demo.brackets, 60 - demo.brackets.length).map((b, i) => ({...b, rated_load_kg: b.rated_load_kg &&
			b.rated_load_kg + i}));
		return (await fetch('/api/import', {method: 'POST', headers: {'Content-Type': 'application/json'},
			body: JSON.stringify({format: demo.format, displays, brackets})})).status;
	})()`)
	for b.Loop() {
		d.Open(d.app.URL + "/")
		d.See(`[data-pick="displays"]:focus`)
		d.Type(kb.Escape + kb.Escape)
		d.Run(`window.seen = {}; const from = performance.now(); const look = () => {
			if (!seen.first && document.querySelector('.picture canvas')) seen.first = performance.now() - from;
			if (!seen.all && document.querySelector('[data-cover]')) seen.all = performance.now() - from;
			if (!seen.all) requestAnimationFrame(look);
		}; look()`)
		d.Press("a")
		d.Wait(`seen.all`)
		b.ReportMetric(drive.Value[float64](d.Page, `seen.first`), "ms-first")
		b.ReportMetric(drive.Value[float64](d.Page, `seen.all`), "ms-all")
		b.ReportMetric(drive.Value[float64](d.Page, `new Promise((done) => {
			const box = document.querySelector('.picture'); let last = performance.now(), worst = 0, n = 0;
			const step = () => {
				const now = performance.now(); worst = Math.max(worst, now - last); last = now;
				box.scrollTop += n < 120 ? 250 : -250;
				if (++n < 240) requestAnimationFrame(step); else done(worst);
			};
			requestAnimationFrame(step);
		})`), "ms-slowest-frame")
	}
	d.must()
}

// demoDisplays is how many displays the demo has.
func demoDisplays(t *testing.T) int {
	t.Helper()
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	return len(c.Displays)
}

// TestMatrixFollowsTheKeys: the arrow keys lead to no cell that is out of sight, sideways too.
func TestMatrixFollowsTheKeys(t *testing.T) {
	d := sit(t, "/matrix")
	d.Size(420, 800)
	d.See(`[data-cover="3"]`)
	d.tabTo(`.picture`)
	at := `Math.max(...[...document.querySelectorAll('.picture, .picture *')].map((e) => e.scrollLeft))`
	d.Type(kb.Home + strings.Repeat(kb.ArrowRight, 20))
	d.Wait(at + ` > 0`)
	d.Type(strings.Repeat(kb.ArrowLeft, 20))
	d.Wait(at + ` === 0`)
}

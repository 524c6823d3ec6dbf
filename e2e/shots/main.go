// Command shots takes pictures of the views from the demo data: all of the
// documentation's, or one of any address.
//
//	go run ./e2e/shots -out docs/screenshots
//	go run ./e2e/shots -out /tmp -at '/?display=velmora-pane-49' -scheme dark -name look
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"nexufix/e2e/drive"
)

func main() {
	var s shot
	out := flag.String("out", "docs/screenshots", "folder for the pictures")
	flag.StringVar(&s.at, "at", "", "one address instead of all the views")
	flag.StringVar(&s.name, "name", "shot", "its name")
	flag.StringVar(&s.scheme, "scheme", "light", "light or dark")
	flag.StringVar(&s.wait, "wait", "true", "JavaScript to wait for")
	flag.StringVar(&s.keys, "keys", "", "keys to type then")
	flag.StringVar(&s.run, "run", "", "JavaScript to run then")
	flag.StringVar(&s.then, "then", "true", "JavaScript to wait for after that")
	size := flag.String("size", "1280x800", "size of the window")
	flag.Parse()
	shots := views
	if s.at != "" {
		shots = []shot{s}
	}
	if err := take(shots, *out, *size); err != nil {
		fmt.Fprintln(os.Stderr, "shots:", err)
		os.Exit(1)
	}
}

type shot struct {
	name, at, scheme, wait, keys, run, then string
	asked                                   string // what the page finds itself asked, as JSON
}

// asked is a call under way.
const asked = `{"display":"tarn-oven-view-19","bracket":"crumb-15","trials":{
	"patterns[0].rows.top":[{"thread":"M5","length":"12","outcome":"too_big","gap":"","turns":"","tolerance":"","said":"","unit":"mm"},
		{"thread":"M4","length":"20","outcome":"rests","gap":"20 mm","turns":"","tolerance":"0.5 mm","said":"","unit":"mm"},
		{"thread":"M4","length":"20","outcome":"stopped","gap":"11 mm","turns":"","tolerance":"0.5 mm","said":"","unit":"mm"}],
	"patterns[0].rows.bottom":[{"thread":"M5","length":"12","outcome":"too_big","gap":"","turns":"","tolerance":"","said":"","unit":"mm"},
		{"thread":"M4","length":"20","outcome":"rests","gap":"20 mm","turns":"","tolerance":"0.5 mm","said":"","unit":"mm"},
		{"thread":"M4","length":"20","outcome":"stopped","gap":"11 mm","turns":"","tolerance":"0.5 mm","said":"","unit":"mm"}]}}`

const ready = `document.querySelector('.bench[data-ready="yes"]')`

// views are the pictures of the documentation.
var views = []shot{
	{name: "start", at: "/", wait: `document.querySelectorAll('.start li').length > 5`},
	{name: "bench", at: "/?display=velmora-pane-49&bracket=sill-40", wait: ready},
	{name: "bench-dark", at: "/?display=skerry-lantern-48&bracket=platform-60", scheme: "dark", wait: ready},
	{name: "bench-does-not-fit", at: "/?display=halden-wall-105", wait: ready},
	{name: "bench-figures-missing", at: "/?display=tarn-oven-view-19", wait: ready},
	{name: "side", at: "/?display=velmora-pane-49&bracket=sill-40", wait: ready, asked: `{"display":"velmora-pane-49","bracket":"sill-40","tilt":9}`,
		run: press("m"), then: `document.querySelector('.s-hidden[data-tag="side.tilt"]')`},
	{name: "call", at: "/?display=tarn-oven-view-19&bracket=crumb-15", asked: asked, wait: `document.querySelector('.call .hole svg') && ` +
		ready},
	{name: "matrix", at: "/matrix", wait: `document.querySelector('[data-cover]')`},
	{name: "catalogue", at: "/catalogue", wait: `document.querySelectorAll('.MuiDataGrid-row').length > 8`},
	{name: "display-editor", at: "/catalogue/displays/velmora-pane-49", wait: `document.querySelector('.editor svg')`,
		run: typeIn(`input[data-path="mass_kg"]`, "34.5"), then: `document.querySelector('.effects').innerText.includes('It would change')`},
	{name: "bracket-editor", at: "/catalogue/brackets/sill-40", scheme: "dark", wait: `document.querySelector('[data-tag="kit.0"]')`},
	{name: "import", at: "/catalogue/import", wait: `document.querySelector('.import')`, run: dropped,
		then: `document.querySelector('td.wrong')`},
	{name: "policy", at: "/policy", wait: `document.querySelector('[data-setting="bolt_school"]')`},
	{name: "wall", at: noWall, wait: listed, run: open("mill-lane-counter"), then: onWall},
	{name: "wall-held", at: noWall, scheme: "dark", wait: listed, run: open("signal-box-exhibit") +
		soon(`.bench.wall [data-picture="holding"]`), then: onWall + ` && document.querySelector('[data-tag="edge"]')`},
	{name: "template", at: noWall, wait: listed, run: open("mill-lane-counter") + toTemplate,
		then: `document.querySelector('.template-page [data-tag="point.T1"]')`},
	{name: "card", at: noWall, wait: listed, run: open("mill-lane-menu-boards") + toTemplate + soon(`[data-sheet="card"]`),
		then: `document.querySelector('.template-page [data-tag="card.row"]')`},
	{name: "steps", at: "/steps?display=velmora-pane-49&bracket=sill-40", wait: `document.querySelector('.steps li')`},
	{name: "saved", at: "/?display=brindle-menu-55-high-bright", wait: ready,
		run:  `[...document.querySelectorAll('.verdict button')].find((b) => b.innerText === 'Save').click(); document.querySelector('a.navlink[href^="/saved"]').click()`,
		then: `document.querySelector('.saved td') && document.body.innerText.includes('Saved:')`},
}

// The wall's page before a job is opened, and after.
const (
	noWall     = "/wall?display=velmora-pane-49&bracket=sill-40"
	listed     = `document.querySelector('.begin [data-job]')`
	onWall     = `document.querySelector('.bench.wall[data-ready="yes"] .drawing svg')`
	toTemplate = `document.querySelector('a.navlink[href^="/template"]').click();`
)

func open(job string) string {
	return fmt.Sprintf("document.querySelector('[data-job=%q]').click();", job)
}

// soon presses something as soon as it is there.
func soon(css string) string {
	return fmt.Sprintf("const t = setInterval(() => { const e = document.querySelector(%q); if (e) { clearInterval(t); e.click(); } }, 30);",
		css)
}

// dropped drops a colleague's table on the page.
const dropped = `const t = new DataTransfer(); t.items.add(new File(['Counter screens;;;;;\n;;;;;\nBrand;Type;Size;Weight (lb);Hole pattern;Thread\nTarn;Oven View 19;19;6,5;100x100;M4\nTarn;Shelf View 22;21,6;7 kg;100x100;M4\nTarn;Door View 27;27;heavy;200x100;M4\nBrindle;Menu 43;42,5;23,81;200x200;M6\nTotal;;;;;'], 'counter-screens.csv'));
	document.querySelector('.import').dispatchEvent(new DragEvent('drop', {bubbles: true, cancelable: true, dataTransfer: t}))`

func press(key string) string {
	return fmt.Sprintf("window.dispatchEvent(new KeyboardEvent('keydown', {key: %q}));", key)
}

// typeIn types a text into a field, as the page sees it.
func typeIn(css, text string) string {
	return fmt.Sprintf("(() => { const i = document.querySelector(%q); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "+
		"'value').set.call(i, %q); i.dispatchEvent(new Event('input', {bubbles: true})); })();", css, text)
}

// It is one way through, each of whose lines needs those before it.
func take(shots []shot, out, size string) error {
	dir, err := os.MkdirTemp("", "nexufix-shots-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	program, err := drive.Build(".", dir)
	if err != nil {
		return err
	}
	app, err := drive.Start(program, "demo", filepath.Join(dir, "data"))
	if err != nil {
		return err
	}
	defer app.Stop()
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	var w, h int64
	if _, err := fmt.Sscanf(strings.ToLower(size), "%dx%d", &w, &h); err != nil {
		return fmt.Errorf("-size %s: %w", size, err)
	}
	browser, stop, err := drive.Chromium(context.Background())
	defer stop()
	if err != nil {
		return err
	}
	ctx, closeTab := drive.Tab(browser, func(string) {})
	defer closeTab()
	p := drive.NewPage(ctx)
	for _, s := range shots {
		p.Open("about:blank")
		p.Scheme(s.scheme)
		p.Open(app.URL + "/healthz") // where no page of ours remembers anything
		p.Run("sessionStorage.clear(); localStorage.clear()")
		if s.asked != "" {
			p.Run(fmt.Sprintf("sessionStorage.setItem('nexufix.asking', %q)", s.asked))
		}
		p.Open(app.URL + s.at)
		p.Size(w, h)
		if s.wait != "" {
			p.Wait(s.wait)
		}
		if s.keys != "" {
			p.Type(s.keys)
		}
		if s.run != "" {
			p.Run(s.run)
		}
		if s.then != "" {
			p.Wait(s.then)
		}
		raw := p.Picture()
		if p.Err != nil {
			return fmt.Errorf("%s: %w", s.name, p.Err)
		}
		if err := os.WriteFile(filepath.Join(out, s.name+".png"), raw, 0o644); err != nil {
			return err
		}
	}
	return nil
}

// Command shots takes pictures of the views from the demo data, for the documentation.
//
//	go run ./e2e/shots -out docs/screenshots
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"path/filepath"

	"github.com/chromedp/chromedp/kb"

	"nexufix/e2e/drive"
)

func main() {
	out := flag.String("out", "docs/screenshots", "folder for the pictures")
	flag.StringVar(&spoken, "lang", "", "language of the page, as if the person had chosen it")
	flag.Parse()
	if err := take(*out); err != nil {
		fmt.Fprintln(os.Stderr, "shots:", err)
		os.Exit(1)
	}
}

var spoken string

// shot is a picture: an address, what it shows when it is there, and what a hand does then.
type shot struct {
	name, at, scheme, wait string
	do                     func(p *drive.Page)
}

const (
	ready  = `document.querySelector('.bench[data-ready="yes"]')`
	noWall = "/wall?display=velmora-pane-49&bracket=sill-40"
	listed = `document.querySelector('.begin [data-job]')`
	onWall = `document.querySelector('.bench.wall[data-ready="yes"] .drawing svg')`
)

// views are the pictures of the documentation.
var views = []shot{
	{name: "start", at: "/", wait: `document.querySelectorAll('.start li').length > 5`},
	{name: "bench", at: "/?display=velmora-pane-49&bracket=sill-40", wait: ready},
	{name: "bench-dark", at: "/?display=skerry-lantern-48&bracket=platform-60", scheme: "dark", wait: ready},
	{name: "call", at: "/?display=tarn-oven-view-19&bracket=crumb-15&panel=call", wait: ready, do: called},
	{name: "matrix", at: "/matrix", wait: `document.querySelector('[data-cover]')`},
	{name: "catalogue", at: "/catalogue", wait: `document.querySelectorAll('.MuiDataGrid-row').length > 8`},
	{name: "display-editor", at: "/catalogue/displays/velmora-pane-49", wait: `document.querySelector('.editor svg')`,
		do: func(p *drive.Page) {
			p.Fill(`input[data-path="mass_kg"]`, "34.5")
			p.Wait(`/34[.,]5 kg/.test(document.querySelector('.effects').innerText)`)
		}},
	{name: "bracket-editor", at: "/catalogue/brackets/sill-40", scheme: "dark", wait: `document.querySelector('[data-kit="0"] svg')`},
	{name: "import", at: "/catalogue/import", wait: `document.querySelector('.import')`, do: dropped},
	{name: "policy", at: "/policy", wait: `document.querySelector('[data-setting="bolt_school"]')`},
	{name: "wall", at: "/wall?job=mill-lane-counter", wait: onWall},
	{name: "wall-held", at: "/wall?job=signal-box-exhibit&picture=holding", scheme: "dark",
		wait: onWall + ` && document.querySelector('[data-tag="edge"]')`},
	{name: "template", at: "/template?job=mill-lane-counter", wait: `document.querySelector('.template-page [data-tag="point.T1"]')`},
	{name: "jobs", at: "/jobs", wait: `document.querySelectorAll('.job-rows [data-job]').length > 20`},
	{name: "steps", at: "/steps?job=mill-lane-counter", wait: `document.querySelector('[data-step="bolt"] figure svg')`,
		do: func(p *drive.Page) { p.Point(`[data-step="bolt"] figure`) }},
	{name: "at-the-wall", at: "/at/mill-lane-counter", wait: `document.querySelector('#start.on')`, do: func(p *drive.Page) {
		p.Touch(390, 844)
		for range 5 {
			p.Tap("#next")
		}
		p.See("#step-bolt.on")
	}},
}

// amongPeople are those of a demo whose people sign in.
var amongPeople = []shot{
	{name: "people", at: "/people", wait: `document.querySelector('.sign-in form')`, do: func(p *drive.Page) {
		p.PressButton(".sign-in button", "Ada")
		p.See(`[data-login="mira"]`)
	}},
	{name: "desk", at: "/desk",
		wait: `[/may take it|tragen könnten/, /withdrawn|zurückgezogen/].every((is) => is.test(document.body.innerText))`},
	{name: "review", at: "/desk", wait: `document.querySelector('[data-part="waiting"] a')`, do: func(p *drive.Page) {
		p.PressButton(`[data-part="waiting"] a`, "signal-box-exhibit") // not the family, which is before or after it
		p.See(`.review[data-ready]`)
	}},
}

// labelled finds a field by its label in English or German.
func labelled(en, de string) string { return fmt.Sprintf("[aria-label=%q], [aria-label=%q]", en, de) }

// called tells three trials of a call: which thread, that it lies flush, and how deep it is.
func called(p *drive.Page) {
	tell := func(n int, outcome, gap string) {
		p.Click(`[data-pick="call"]`)
		p.Type(kb.Escape + outcome)
		if gap != "" {
			p.Fill(labelled("Gap under bolt head", "Abstand unter dem Schraubenkopf"), gap)
		}
		p.PressButton(".call button:has(kbd)", "")
		p.Wait(fmt.Sprintf(`document.querySelectorAll('.trials li').length === %d`, n))
	}
	said := map[string][]string{"": {"will", "push", "stop"}, "de": {"geht", "hinein", "blieb"}}[spoken]
	tell(1, said[0], "")
	p.Fill(labelled("Length of the bolt, mm", "Länge der Schraube, mm"), "20")
	tell(2, said[1], "20")
	p.Fill(labelled("Length of the bolt, mm", "Länge der Schraube, mm"), "20")
	tell(3, said[2], "11")
	p.Wait(ready + ` && document.querySelector('.call .hole svg')`)
}

// dropped drops a colleague's table on the page.
func dropped(p *drive.Page) {
	const table = "Counter screens;;;;;\n;;;;;\nBrand;Type;Size;Weight (lb);Hole pattern;Thread\nTarn;Oven View 19;19;6,5;100x100;M4\n" +
		"Tarn;Shelf View 22;21,6;7 kg;100x100;M4\nTarn;Door View 27;27;heavy;200x100;M4\nBrindle;Menu 43;42,5;23,81;200x200;M6\nTotal;;;;;"
	file := filepath.Join(os.TempDir(), "counter-screens.csv")
	if p.Err = os.WriteFile(file, []byte(table), 0o600); p.Err == nil {
		p.Drop(".import", file)
		p.See("td.wrong")
		p.Err = os.Remove(file)
	}
}

// take takes all pictures; it is one way through, each of whose lines needs those before it.
func take(out string) error {
	dir, err := os.MkdirTemp("", "nexufix-shots-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	program, err := drive.Build(".", dir)
	if err != nil {
		return err
	}
	alone, err := drive.Start(program, "demo", filepath.Join(dir, "data"))
	if err != nil {
		return err
	}
	defer alone.Stop()
	people, err := drive.StartWithPeople(program, filepath.Join(dir, "people"))
	if err != nil {
		return err
	}
	defer people.Stop()
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	browser, stop, err := drive.Chromium(context.Background())
	defer stop()
	if err != nil {
		return err
	}
	return errors.Join(takeOf(browser, alone, views, out), takeOf(browser, people, amongPeople, out))
}

func takeOf(browser context.Context, app *drive.App, shots []shot, out string) error {
	ctx, closeTab := drive.Tab(browser, func(string) {})
	defer closeTab()
	p := drive.NewPage(ctx)
	for _, s := range shots {
		p.Open("about:blank")
		p.Scheme(s.scheme)
		p.Open(app.URL + "/healthz") // where no page of ours remembers anything
		p.Run(fmt.Sprintf("sessionStorage.clear(); localStorage.clear(); if (%q) localStorage.setItem('nexufix.language', %q)", spoken, spoken))
		p.Open(app.URL + s.at)
		p.Wait(s.wait)
		if s.do != nil {
			s.do(p)
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

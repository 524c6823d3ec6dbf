package e2e

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
)

// pressed says which bracket of the strip is looked at.
const pressed = `document.querySelector('.strip [aria-pressed="true"]')?.dataset.bracket`

// TestBackAndForward: Back leads to what was asked before, with what was typed then; Forward
// leads on again, and a reload in between loses nothing.
func TestBackAndForward(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Fill(`[aria-label="Plate"]`, "4")
	d.Ready()
	d.Click(`.strip [data-bracket="siding-30"]`)
	d.Wait(pressed + ` === 'siding-30'`)
	d.Ready()
	d.PressButton("nav a", "Steps")
	d.See(".steps li")
	d.Back()
	d.Ready()
	if got := value[string](d, pressed); got != "siding-30" {
		t.Errorf("back from the steps the bracket is %s", got)
	}
	d.Back()
	d.Wait(pressed + ` === 'sill-40'`)
	if got := d.field(`[aria-label="Plate"]`); got != "4" {
		t.Errorf("back on Sill 40 its plate is %s, want 4 as typed", got)
	}
	d.Reload()
	d.Ready()
	if got := d.field(`[aria-label="Plate"]`); got != "4" {
		t.Errorf("after a reload the plate is %s, want 4", got)
	}
	d.Forward()
	d.Wait(pressed + ` === 'siding-30'`)
	d.Forward()
	d.See(".steps li")
	if got := value[string](d, "document.title"); got != "Steps – Nexufix" {
		t.Error(got)
	}
}

// TestPastedLink: another window that is given the address shows the same screen: the pairing, its
// turn, the wall, the height, the units and what is open of the screen; and so does a job's.
func TestPastedLink(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.choose(`select[aria-label="Turn"]`, "turned 90", "90")
	d.Fill(`[data-pick="height"]`, "60 in")
	d.Type(kb.Escape)
	d.Press("u")
	d.Press("m")
	d.See(`[data-picture="side"][aria-selected="true"]`)
	d.Ready()
	d.Wait(`location.search.includes('centre=')`) // what is typed is in the address a moment later
	const shown = `[document.title, document.querySelector('.stamp').innerText, document.querySelector('[aria-label="Turn"]').value,
		document.querySelector('[data-pick="height"]').value, document.querySelector('[data-units]').dataset.units,
		document.querySelector('.gist').innerText, document.querySelector('[data-picture][aria-selected="true"]').innerText].join('\n')`
	want, link := value[string](d, shown), value[string](d, "location.pathname + location.search")
	other := sitAt(t, d.app, link)
	other.Ready()
	if got := value[string](other, shown); got != want {
		t.Errorf("%s shows\n%s\nand not\n%s", link, got, want)
	}
	// So does what was typed: a changed figure, and a display that is in no catalogue.
	d.Fill(`[aria-label="Plate"]`, "1/8")
	d.Ready()
	d.Wait(`location.search.includes('with=')`)
	other.Open(d.app.URL + value[string](d, "location.pathname + location.search"))
	other.Ready()
	if got := other.field(`[aria-label="Plate"]`); got != "1/8" {
		t.Errorf("the link's plate is %q, want 1/8 as typed", got)
	}
	other.Open(d.app.URL + `/?with={"typed":{"id":"oak-board-40","model":"Oak Board 40"},"changes":{"display.mass_kg":{"text":"12",
		"unit":"mm"}}}`)
	other.Ready()
	if name, mass := other.field(`[data-pick="displays"]`), other.field(`[aria-label="Mass"]`); name != "Oak Board 40" || mass != "12" {
		t.Errorf("the link's display is %q of %q kg", name, mass)
	}
	other.Open(d.app.URL + `/?display=velmora-pane-49&with={"changes":[1],"schools":{"bolt_school":7},"trials":{"x":"y"},
		"tilt":"steep","site":{}}`)
	other.Ready() // a link of another make says nothing
	other.Open(d.app.URL + "/wall?job=signal-box-exhibit&picture=holding&units=in")
	other.Wait(wallReady + ` && document.querySelector('.wall-head h1').innerText === 'Skerry Lantern 65 on Trestle 70'`)
	other.See(`[data-picture="holding"][aria-selected="true"]`)
	if got := other.field(`[aria-label="Job"]`); got != "signal-box-exhibit" {
		t.Error(got)
	}
	other.Open(d.app.URL + "/wall?display=velmora-pane-49&job=nobody-has-this")
	other.allowed = "404"
	other.Wait(`document.body.innerText.includes('Job nobody-has-this cannot be opened')`)
}

// gate stands before the program: it can make every answer late, or be shut.
type gate struct {
	delay atomic.Int64 // ms
	shut  atomic.Bool
	*httptest.Server
}

func before(d *desk) *gate {
	to, err := url.Parse(d.app.URL)
	if err != nil {
		d.t.Fatal(err)
	}
	g := &gate{}
	proxy := &httputil.ReverseProxy{FlushInterval: -1, Rewrite: func(r *httputil.ProxyRequest) {
		r.SetURL(to)
		if r.Out.Header.Get("Origin") != "" {
			r.Out.Header.Set("Origin", d.app.URL)
		}
	}}
	g.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if g.shut.Load() {
			panic(http.ErrAbortHandler) // as when nobody is there
		}
		if ms := g.delay.Load(); ms > 0 {
			select {
			case <-time.After(time.Duration(ms) * time.Millisecond):
			case <-r.Context().Done():
				return
			}
		}
		proxy.ServeHTTP(w, r)
	}))
	d.t.Cleanup(func() {
		d.Open("about:blank") // it listens, and the gate would wait for that
		g.Close()
	})
	return g
}

// TestSlowServer: with every answer 300 ms late nothing that is typed is lost, Enter is not too
// fast for the search, and what is saved is what was typed last.
func TestSlowServer(t *testing.T) {
	d := sit(t, "/")
	g := before(d)
	g.delay.Store(300)
	d.Open(g.URL + "/")
	d.See(`[data-pick="displays"]:focus`)
	d.Type("lantrn 48" + kb.Enter)
	d.Wait(`document.querySelector('.bench[data-ready="yes"]') && document.title.includes('Skerry Lantern 48')`)
	d.Fill(`[aria-label="Plate"]`, "3.25")
	d.Type(kb.Tab)
	d.Type("11.5")
	d.Ready()
	if plate, slot := d.field(`[aria-label="Plate"]`), d.field(`[aria-label="Slot width"]`); plate != "3.25" || slot != "11.5" {
		t.Errorf("plate %s and slot %s, want 3.25 and 11.5 as typed", plate, slot)
	}
	d.Open(g.URL + "/catalogue/displays/velmora-pane-49")
	d.Fill(`input[data-path="mass_kg"]`, "14.9")
	d.Chord("s")
	d.Wait(`fetch('/api/items/displays/velmora-pane-49').then((r) => r.json()).then((k) => k.display.mass_kg === 14.9)`)
	d.Open(g.URL + "/wall?job=mill-lane-counter")
	d.Wait(wallReady)
	d.Drag(`polygon[data-tag="display.0"]`, 40, 0, true)
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Middle across"]').value !== '1650'`)
}

// TestServerComesBack: while the server is away the page says so and keeps what was typed; when it
// is back, pressing what is offered goes on.
func TestServerComesBack(t *testing.T) {
	d := sit(t, "/")
	g := before(d)
	d.allowed = "ERR_"
	d.Open(g.URL + paneOnSill)
	d.Ready()
	g.shut.Store(true)
	d.Fill(`[aria-label="Plate"]`, "4")
	d.Wait(`document.querySelector('.stamp')?.innerText.endsWith(': the server does not answer')`)
	d.Chord("s")
	d.Wait(`document.querySelector('.MuiSnackbar-root')?.innerText.includes('Not saved')`)
	g.shut.Store(false)
	d.Ready() // it is asked again by itself
	if got := d.field(`[aria-label="Plate"]`); got != "4" {
		t.Errorf("the plate is %s, want 4 as typed", got)
	}
	d.Chord("s")
	d.Wait(`document.querySelector('.MuiSnackbar-root')?.innerText.includes('Saved')`)
}

// TestByTouch: on a tablet in a workshop the bench, the wall, the steps and the card are used with a
// finger, upright and across; what is touched is at least 44 px high.
func TestByTouch(t *testing.T) {
	d := sit(t, paneOnSill)
	for _, size := range [][2]int64{{820, 1180}, {1180, 820}} {
		d.Touch(size[0], size[1])
		d.Open(d.app.URL + paneOnSill)
		d.Ready()
		if !value[bool](d, `matchMedia('(pointer: coarse)').matches`) {
			t.Fatal("the window is not a tablet's")
		}
		d.Tap(`.strip [data-bracket="siding-30"]`)
		d.Wait(pressed + ` === 'siding-30'`)
		d.Tap(`[data-picture="side"]`)
		d.See(`[data-picture="side"][aria-selected="true"]`)
		d.Tap(`[data-mode="hand"]`)
		d.See(`[aria-label="Bolt, long"]`)
		d.low(t, fmt.Sprintf("the bench at %d × %d", size[0], size[1]))
		d.Open(d.app.URL + "/wall?job=mill-lane-counter")
		d.Wait(wallReady)
		was := d.across()
		d.Draw(`polygon[data-tag="display.0"]`, 60, 0)
		d.Wait(wallReady + fmt.Sprintf(` && document.querySelector('[aria-label="Middle across"]').value !== %q`, was))
		d.low(t, fmt.Sprintf("the wall at %d × %d", size[0], size[1]))
		d.Tap(`.job-bar a[href^="/template"]`)
		d.Tap(`[data-sheet="card"]`)
		d.See(`.template-page[aria-label="Measure card"] svg`)
		d.low(t, fmt.Sprintf("the card at %d × %d", size[0], size[1]))
		d.Tap(`nav a[href^="/steps"]`)
		d.See(".steps li")
		if w := value[int64](d, "document.documentElement.scrollWidth"); w > size[0] {
			t.Errorf("the steps are %d wide at %d", w, size[0])
		}
	}
}

// low reports what is to be touched and is less than 44 px high.
func (d *desk) low(t *testing.T, where string) {
	t.Helper()
	for _, what := range value[[]string](d, `[...document.querySelectorAll(
		'button, select, input:not([type=checkbox]):not([type=range]), nav a')].filter((e) => {
		const r = (e.closest('.MuiInputBase-root') ?? e).getBoundingClientRect();
		return e.checkVisibility() && r.width > 0 && !e.closest('[aria-hidden="true"]') && r.height < 43.5;
	}).map((e) => (e.getAttribute('aria-label') ?? e.innerText).slice(0, 40) + ' ' + Math.round(e.getBoundingClientRect().height) + ' px')`) {
		t.Errorf("%s: %s high", where, what)
	}
}

// TestFigureOnTheDrawing: a dimension of an editor's drawing is pressed, its figure typed there, and
// Enter leads back; Escape does too, and a slip is undone like any other.
func TestFigureOnTheDrawing(t *testing.T) {
	d := sit(t, "/catalogue/displays/velmora-pane-49")
	d.Click(`.editor text[data-tag="outline.width"].u-mm`)
	d.See(`.on-drawing input:focus`)
	d.Type("1104.5" + kb.Enter)
	d.Wait(`!document.querySelector('.on-drawing')`)
	if got := d.field(`input[data-path="width_mm"]`); got != "1104.5" {
		t.Errorf("the width is %s, want 1104.5 as typed on the drawing", got)
	}
	d.Wait(`document.querySelector('.editor svg').outerHTML.includes('1104.5')`)
	d.Press("z")
	d.Wait(`document.querySelector('input[data-path="width_mm"]').value === '1095'`)
	d.Open(d.app.URL + "/catalogue/brackets/sill-40")
	d.Click(`.editor text[data-tag="arms.width"].u-mm`)
	d.See(`.on-drawing input:focus`)
	d.Type("620" + kb.Enter)
	d.Wait(`document.querySelector('input[data-path="interface.width_max_mm"]').value === '620'`)
}

// TestHelpIsOfTheScreen: the help lists what keys do on the screen that is looked at, the topmost
// scope's first; what the editor does with z is not said to be the bench's.
func TestHelpIsOfTheScreen(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Press("?")
	bench := d.Text(`[role="dialog"]`)
	d.Type(kb.Escape)
	d.Open(d.app.URL + "/catalogue/displays/velmora-pane-49")
	d.See(".editor svg")
	d.Press("?")
	editor := d.Text(`[role="dialog"]`)
	if !strings.Contains(bench, "next, previous bracket") || strings.Contains(editor, "next, previous bracket") {
		t.Error("the bench's keys are to be said on the bench, and nowhere else")
	}
	if !strings.Contains(editor, "undo the last edit") || strings.Count(editor, "undo") != 1 {
		t.Errorf("in the editor z undoes the last edit, and nothing else:\n%s", editor)
	}
}

// TestEveryFieldIsTyped goes through each screen's fields with Tab and types over every one: what
// stands there then is what was typed, on some screens in millimetres and on others in inches.
func TestEveryFieldIsTyped(t *testing.T) {
	d := sit(t, "/")
	d.allowed = "400" // figures that cannot be
	const typed = `(() => { const e = document.activeElement; return e?.matches('input:not([type]), input[type="text"]') ?
		(e.ariaLabel ?? e.placeholder) : e?.matches('body') ? 'end' : ''; })()`
	for _, s := range []struct {
		at, wait, units string
		least           int
	}{
		{paneOnSill, `document.querySelector('.bench[data-ready="yes"]')`, "mm", 13},
		{paneOnSill + "&panel=hand", `document.querySelector('[aria-label="Spacers, wide"]')`, "in", 9},
		{paneOnSill + "&panel=call", `document.querySelector('[aria-label="Tolerance ±"]')`, "mm", 8},
		{"/wall?job=mill-lane-counter", counterOpen, "in", 18},
		{"/policy", `document.querySelector('[data-setting="reveal_mm"]')`, "mm", 18},
		{"/catalogue/displays/velmora-pane-49", `document.querySelector('.editor svg')`, "mm", 18},
		{"/catalogue/brackets/sill-40", `document.querySelector('[data-kit="0"] svg')`, "in", 18},
		{"/template?job=mill-lane-counter", `document.querySelector('[aria-label="Measured"]')`, "mm", 1},
		{"/matrix", `document.querySelector('[data-cover]')`, "mm", 1},
	} {
		d.Run(`sessionStorage.clear()`)
		d.Open(d.app.URL + s.at + map[bool]string{true: "&", false: "?"}[strings.Contains(s.at, "?")] + "units=" + s.units)
		d.Wait(s.wait)
		fields := 0
		for range 400 {
			d.Type(kb.Tab)
			label := value[string](d, typed)
			if label == "end" && fields > 0 || fields == 18 || d.Err != nil { // the lines of a long kit are alike
				break
			}
			if label == "" || label == "end" {
				continue
			}
			fields++
			d.Type("17")
			if got := value[string](d, `document.activeElement.value`); got != "17" {
				t.Errorf("%s: 17 typed over %s is %q", s.at, label, got)
			}
		}
		if fields < s.least {
			t.Errorf("%s: only %d fields were reached, want %d", s.at, fields, s.least)
		}
	}
}

package e2e

import (
	"bytes"
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"nexufix/e2e/drive"
)

const paneOnSill = "/?display=velmora-pane-49&bracket=sill-40"

// TestMainJobByKeyboard goes from nothing to the template's PDF, a saved
// pairing and the steps, without a pointer.
func TestMainJobByKeyboard(t *testing.T) {
	d := sit(t, "/")
	d.See(`[data-pick="displays"]:focus`) // the first field waits for typing
	d.Type("lantrn 48")                   // a letter is missing
	d.Wait(`document.querySelector('[role="option"]')?.dataset.id === 'skerry-lantern-48'`)
	d.Type(kb.Enter)
	d.Ready()
	if got := d.Text(".strip [aria-pressed=true] b"); got != "Siding 30" {
		t.Errorf("the best bracket is %q at %s", got, value[string](d, `location.href`))
	}
	d.Type(kb.Escape)
	d.Press("n")
	d.Wait(`document.querySelector('.strip [aria-pressed=true] b').innerText === 'Gantry 25'`)
	d.Press("p")
	d.Wait(`document.querySelector('.strip [aria-pressed=true] b').innerText === 'Siding 30'`)
	d.Ready()

	d.Press("b") // the bracket by name
	d.See(`[data-pick="brackets"]:focus`)
	d.Type("sil")
	d.Wait(`document.querySelector('[role="option"]')?.dataset.id === 'sill-40'`)
	d.Type(kb.Enter)
	d.Wait(`document.querySelector('.strip [aria-pressed=true] b').innerText === 'Sill 40'`)
	d.Ready()

	d.Type(kb.Escape)
	d.Press("h") // the height
	d.See(`[data-pick="height"]:focus`)
	d.Type("150 cm")
	d.Wait(`document.querySelector('.gist').innerText.includes('Level line')`)

	d.Type(kb.Escape)
	d.Press("g") // findings, one after the other
	d.See(`.finding:focus`)
	first := d.Text(".finding:focus .rule")
	d.Type(kb.ArrowDown)
	d.Wait(fmt.Sprintf(`document.querySelector('.finding:focus .rule')?.innerText !== %q`, first))
	d.See(`.finding.lit`)

	d.Chord("s")
	d.Wait(`document.body.innerText.includes('Saved: Skerry Lantern 48 on Sill 40')`)

	d.Press("t")
	d.See(`.template-page svg`)
	d.Wait(`document.activeElement.innerText === 'Template PDF'`)
	d.Type(kb.Enter)
	if raw := d.downloaded("skerry-lantern-48-on-sill-40.pdf"); !bytes.HasPrefix(raw, []byte("%PDF-")) {
		t.Errorf("%.20q is no PDF", raw)
	}
	d.Press("s")
	d.See(`[data-step="lift"]`)
	if got := d.Text(`[data-step="offsets"]`); !strings.Contains(got, "that puts the display's centre at 1500 mm") {
		t.Error(got)
	}
	d.Press("v")
	d.Wait(`document.querySelector('[data-pairing]')?.innerText === 'Skerry Lantern 48 on Sill 40'`)
	d.Press("?")
	d.See(`[role="dialog"]`)
	d.Type(kb.Escape)
	d.Wait(`!document.querySelector('[role="dialog"]')`)
	d.Press("e")
	d.Ready()
}

// TestMainJobByMouse does the same with the pointer alone.
func TestMainJobByMouse(t *testing.T) {
	d := sit(t, "/")
	d.Wait(`document.querySelectorAll('.start li button').length > 40`)
	d.PressButton(".start li button", "Velmora Pane 49 200")
	d.Ready()
	d.Click(`.strip [data-bracket="sill-40"]`)
	d.Wait(`document.querySelector('.verdict .stamp').dataset.verdict === 'fits_with_conditions'`)
	d.Ready()
	d.PressButton(".verdict button", "Template PDF")
	if raw := d.downloaded("velmora-pane-49-on-sill-40.pdf"); !bytes.HasPrefix(raw, []byte("%PDF-")) {
		t.Errorf("%.20q is no PDF", raw)
	}
	d.PressButton(".verdict button", "Save")
	d.Wait(`document.body.innerText.includes('Saved: Velmora Pane 49 on Sill 40')`)
	d.Click(`.MuiSnackbar-root button`) // undo
	d.Wait(`document.body.innerText.includes('Taken off the list')`)
	d.Click(`a.navlink[href^="/jobs"]`)
	d.Wait(`document.querySelectorAll('.job-rows [data-job]').length > 20 && !document.querySelector('[data-pairing]')`)
	d.Click(`a.navlink[href^="/steps"]`)
	d.See(`[data-step="bolt"]`)
	d.PressButton(".tools button", "Markdown")
	if raw := d.downloaded("velmora-pane-49-on-sill-40-wood_stud.md"); !bytes.Contains(raw, []byte("(to be supplied)")) {
		t.Errorf("%.400s", raw)
	}
}

// TestWhatIsDrawn measures the section in the browser: the bolt is as long as
// the finding says, holds as much thread, and leaves as much free.
func TestWhatIsDrawn(t *testing.T) {
	d := sit(t, "/")
	for _, at := range []string{paneOnSill, "/?display=skerry-lantern-48&bracket=platform-60", "/?display=brindle-menu-43",
		"/?display=corvane-curve-34&bracket=ledge-20"} {
		d.Open(d.app.URL + at)
		d.Ready()
		groups := value[int](d, `document.querySelectorAll('.bolts tbody tr').length`)
		d.must()
		if groups == 0 {
			t.Fatalf("%s: no bolts", at)
		}
		for i := range groups {
			said := value[float64](d,
				fmt.Sprintf(`Number(document.querySelector('.bolts tr[data-group="%d"] [data-bolt]').dataset.bolt.split('×')[1])`, i))
			shank := value[float64](d, fmt.Sprintf(`document.querySelector('polygon[data-tag="stack.%d.bolt"]').getBBox().width`, i))
			if diff := said - shank; diff > 0.002 || diff < -0.002 {
				t.Errorf("%s, group %d: the finding says %g, the section draws %g", at, i, said, shank)
			}
			figure := func(column int, bar string) {
				said := value[float64](d,
					fmt.Sprintf(`Number(document.querySelector('.bolts tr[data-group="%d"]').children[%d].firstChild.textContent)`, i, column))
				drawn := value[float64](d, bar)
				if diff := drawn - said; diff < -0.002 || diff > 0.102 { // shown rounded down to a tenth
					t.Errorf("%s, group %d, column %d: said %g, drawn %g", at, i, column, said, drawn)
				}
			}
			figure(2, fmt.Sprintf(`document.querySelector('[data-tag="stack.%d.clearance"].s-clear').getBBox().width`, i))
			figure(1, fmt.Sprintf(`(() => { const i = document.querySelector('.s-insert[data-tag="stack.%d.insert"]').getBBox(),
				c = document.querySelector('.s-clear[data-tag="stack.%[1]d.clearance"]').getBBox(); return i.x + i.width - c.x - c.width; })()`, i))
		}
		d.must()
	}
}

// TestLightsBothWays: pointing at a finding lights its part of the drawing, and
// the other way round.
func TestLightsBothWays(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Point(`.finding[data-rule="arms"]`)
	d.Wait(`document.querySelectorAll('[data-tag="back.arms"].lit').length > 1 && !document.querySelector('[data-tag="back.outline"].lit')`)
	d.Point(`.finding[data-rule="load"]`)
	d.Wait(`document.querySelector('[data-tag="back.outline"].lit') && !document.querySelector('[data-tag="back.arms"].lit')`)
	d.Point(`.bolts tr[data-group="1"]`)
	d.Wait(`document.querySelector('[data-tag="stack.1.bolt"].lit') && document.querySelector('[data-tag="stack.1.hole.BL"].lit') &&
		!document.querySelector('[data-tag="stack.0.bolt"].lit')`)
	d.Point(`polygon[data-tag="stack.0.bolt"]`)
	d.Wait(`document.querySelector('.finding[data-rule="stack"].lit') && document.querySelector('.bolts tr[data-group="0"].lit') &&
		!document.querySelector('.bolts tr[data-group="1"].lit')`)
	d.Point(`polygon[data-tag="back.arms"]`)
	d.Wait(`document.querySelector('.finding[data-rule="arms"].lit') && !document.querySelector('.finding[data-rule="stack"].lit')`)
}

// TestWhatIf: a figure is changed and the answer follows; nothing is saved;
// nonsense is explained beside the figure and loses nothing.
func TestWhatIf(t *testing.T) {
	d := sit(t, paneOnSill)
	d.allowed = "400 (Bad Request)"
	d.Ready()
	d.Type(kb.Escape)
	d.Press("f")
	d.See(`[data-pick="figures"]:focus`)
	d.Type("6")
	d.Wait(`document.querySelector('.verdict .stamp').dataset.verdict === 'does_not_fit'`)
	if got := d.Text(".drawing .nothing"); !strings.Contains(got, "too shallow for M6: 7 mm") {
		t.Error(got)
	}
	d.Type(strings.Repeat(kb.ArrowUp, 7)) // by half a millimetre each
	d.Wait(`document.querySelector('[data-pick="figures"]').value === '9.5' &&
		document.querySelector('.verdict .stamp').dataset.verdict !== 'does_not_fit'`)
	d.Type("//")
	d.Wait(`document.querySelector('[data-pick="figures"]').getAttribute('aria-invalid') === 'true'`)
	d.Wait(`document.querySelector('.field-error')?.innerText.includes('9.5//')`)
	if got := d.Text(".field-error"); !strings.Contains(got, "thread depth") {
		t.Error(got)
	}
	d.See(`.drawing svg [data-tag="stack.0.bolt"]`) // the last answer stays
	d.Type(kb.Escape)
	d.Press("z") // the whole run of changes to the figure
	d.Wait(`document.querySelector('[data-pick="figures"]').value === '14' && !document.querySelector('.field-error')`)
	d.Ready()

	d.choose(`select[aria-label="Bolt length"]`, "deep")
	d.Wait(`document.querySelector('.bolts [data-bolt]').dataset.bolt === 'M6×16'`)
	// A reload loses nothing.
	d.Reload()
	d.Wait(`document.querySelector('select[aria-label="Bolt length"]')?.value === 'deep'`)
	d.Ready()
	if got := value[string](d, `fetch('/api/displays/velmora-pane-49').then((r) => r.text())`); !strings.Contains(got,
		`"thread_depth_mm":14`) || strings.Contains(got, `"thread_depth_mm":7`) {
		t.Error("the what-if was saved")
	}
}

// TestClickedFigureIsReplaced: what is typed after the click that enters a figure replaces it; a second click
// puts the caret into it.
func TestClickedFigureIsReplaced(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49")
	const depth = `[aria-label="Thread depth, Top"]`
	has := func(text string) { d.Wait(fmt.Sprintf(`document.querySelector('%s')?.value === %q`, depth, text)) }
	has("14")
	d.Click(depth)
	d.Type("12x")
	has("12x")
	d.Click(depth)
	d.Type(kb.End + kb.Backspace + ".5")
	has("12.5")
	d.Type(kb.Tab)
	d.Ready()
	has("12.5")
	// So it does where the page has put the focus itself.
	d.Click(`[data-mode="hand"]`)
	const bolt = `[aria-label="Bolt, long"]`
	d.See(bolt + ":focus")
	d.Click(bolt)
	d.Type("25x")
	d.Wait(fmt.Sprintf(`document.querySelector('%s').value === '25x'`, bolt))
	d.Click(bolt)
	d.Type(kb.End + kb.Backspace)
	d.Wait(fmt.Sprintf(`document.querySelector('%s').value === '25'`, bolt))
}

// TestTypedIn: a display that is not in the catalogue is typed in as it is
// read out, and answers as figures come.
func TestTypedIn(t *testing.T) {
	d := sit(t, "/")
	d.See(`[data-pick="displays"]:focus`)
	d.Type("Crumbline 50")
	d.Wait(`[...document.querySelectorAll('[role="option"]')].at(-1)?.innerText.includes('as a new display')`)
	d.Type(kb.ArrowUp + kb.Enter) // from the first option up to the last
	d.Wait(`document.querySelector('.verdict .stamp')?.dataset.verdict === 'missing_data'`)
	set := func(label, text string) {
		d.Fill(fmt.Sprintf(`[aria-label=%q]`, label), text)
	}
	set("Pattern width", "300")
	set("Pattern height", "200")
	d.choose(`select[aria-label="Thread"]`, "M6")
	set("Thread depth, Top", "13")
	set("Thread depth, Bottom", `1/2"`)
	set("Mass", "35 lb 4 oz")
	set("Diagonal", "50 in")
	d.Wait(`['fits', 'fits_with_conditions'].includes(document.querySelector('.verdict .stamp').dataset.verdict)`)
	d.Ready()
	d.Chord("s")
	d.Wait(`document.body.innerText.includes('Saved: Crumbline 50 on')`)
	if got := value[string](d, `fetch('/api/displays/crumbline-50').then((r) => r.text())`); !strings.Contains(got, `"thread_depth_mm":12.7`) {
		t.Error(got)
	}
}

// TestUnits: one key, and every figure is in the other system.
func TestUnits(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	before := d.Text(".finding[data-rule=load] .figure")
	d.Type(kb.Escape)
	d.Press("u")
	d.Wait(fmt.Sprintf(`document.querySelector('.finding[data-rule=load] .figure').innerText !== %q`, before))
	if got := d.Text(".finding[data-rule=load] .figure"); got != "31.4 lb · at most 79.3 lb" {
		t.Error(got)
	}
	// Figures are in inches; parts keep the names they are sold by.
	for tag, want := range map[string]string{"engagement": "″", "bolt": "bolt 12 mm"} {
		if got := value[string](d,
			fmt.Sprintf(`[...document.querySelectorAll('.drawing svg text[data-tag="stack.0.%s"]')]
				.filter((e) => e.getClientRects().length).map((e) => e.textContent).join()`,
				tag)); !strings.Contains(got, want) {
			t.Errorf("the section's %s says %q, want %s", tag, got, want)
		}
	}
	d.Reload()
	d.See(`.bench.units-in`)
}

// TestSavedSurvivesARestart: what was saved is there when the program comes
// again, and opens as it was.
func TestSavedSurvivesARestart(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	first, err := drive.Start(program, "demo", data)
	if err != nil {
		t.Fatal(err)
	}
	d := sitAt(t, first, "/?display=velmora-pane-49&bracket=sill-40&turn=90")
	d.allowed = "/api/live" // the server goes while the page listens
	d.Ready()
	d.Chord("s")
	d.Wait(`document.body.innerText.includes('Saved:')`)
	d.must()
	if err := first.Stop(); err != nil {
		t.Fatal(err)
	}
	second, err := drive.Start(program, "serve", data)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { second.Stop() })
	again := sitAt(t, second, "/saved?kind=pairing") // where it was before
	again.Wait(`document.querySelector('[data-pairing]')?.innerText === 'Velmora Pane 49 on Sill 40'`)
	again.Click("[data-pairing]")
	again.Ready()
	again.Wait(`document.querySelector('select[aria-label="Turn"]').value === '90'`)
}

// TestServerGone: the page says so, keeps what was asked, and goes on when the
// server is back.
func TestServerGone(t *testing.T) {
	d := sit(t, paneOnSill)
	d.allowed = "ERR_CONNECTION_REFUSED"
	d.Ready()
	d.must()
	if err := d.app.Stop(); err != nil {
		t.Fatal(err)
	}
	d.Type(kb.Escape)
	d.Press("f")
	d.Type("9")
	d.Wait(`document.querySelector('.stamp')?.innerText.endsWith(': the server does not answer')`)
	d.See(`.drawing svg`)
	if got := value[string](d, `document.querySelector('[data-pick="figures"]').value`); got != "9" {
		t.Errorf("what was typed became %q", got)
	}
}

// TestOddAddresses neither break nor run anything.
func TestOddAddresses(t *testing.T) {
	d := sit(t, "/?display=../../x&bracket=<script>window.hurt=1</script>")
	d.allowed = "Failed to load resource"
	d.Wait(`document.body.innerText.includes('is not in the catalogue')`)
	d.Open(d.app.URL + "/nothing/here")
	d.Wait(`document.body.innerText.includes('There is nothing at this address')`)
	if value[bool](d, `window.hurt === 1`) {
		t.Error("an address was executed")
	}
}

// TestSideView: the slider tilts the drawing, and says what touches and what
// sinks; pointing at the plugs lights them on the side.
func TestSideView(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Type(kb.Escape)
	d.Press("m")
	d.See(`[data-picture="side"][aria-selected="true"]`)
	d.See(`polygon[data-tag="side.display"]`)
	upright := value[string](d, `document.querySelector('polygon[data-tag="side.display"]').getAttribute('points')`)
	d.tabTo(`.slider input`)
	d.Type(kb.End)
	d.Wait(fmt.Sprintf(`document.querySelector('polygon[data-tag="side.display"]').getAttribute('points') !== %q &&
		document.querySelector('.slider p').innerText.includes('sinks')`, upright))
	if got := d.Text(".slider p"); !strings.Contains(got, "the rear bottom edge touches the wall at 10°") {
		t.Error(got)
	}
	d.Point(`.finding[data-rule="plugs"]`)
	d.See(`[data-tag="side.plug"].lit`)
	d.Press("m")
	d.See(`[data-picture="above"][aria-selected="true"]`)
	d.See(`polygon[data-tag="side.display"]`)
	d.tabTo(`.slider input`)
	d.Type(kb.End)
	d.See(`[data-tag="side.swivel"].s-hidden`)
}

// TestCall: a caller's display that nobody has measured gets to a safe bolt in
// a few entries, by keyboard, following what is proposed. The holes are M4, 9
// deep, flush.
func TestCall(t *testing.T) {
	d := sit(t, "/?display=tarn-oven-view-19&bracket=crumb-15")
	d.Ready()
	d.Press("c")
	tell := func(n int, outcome, then string) {
		d.See(`[data-pick="call"]:focus`)
		d.Type(outcome)
		d.Type(then)
		d.Type(kb.Enter)
		d.Wait(fmt.Sprintf(`document.querySelectorAll('.trials li').length === %d && document.querySelector('[data-pick="call"]')`, n))
	}
	d.Wait(`document.querySelector('[data-next]')?.dataset.next.startsWith('M5')`)
	tell(1, "will", "") // will not go in
	d.Wait(`document.querySelector('.hole [data-tag="hole.thread"]').textContent === 'M4'`)
	tell(2, "push", kb.Tab+"a coin's thickness") // rests, in the caller's words
	d.Wait(`document.querySelector('.trials q')?.innerText.includes('coin') ||
		document.querySelector('.trials li:nth-child(2)').innerText.includes('2 mm')`)
	d.must()
	if got := d.Text(".trials"); !strings.Contains(got, "2 mm left") {
		t.Error(got)
	}
	d.Click(`[aria-label="Remove trial 2"]`) // it was the whole bolt that was left
	d.Wait(`document.querySelectorAll('.trials li').length === 1`)
	d.Press("c")
	bolt := value[string](d, `document.querySelector('[aria-label="Length of the bolt, mm"]').value`)
	tell(2, "push", kb.Tab+bolt)
	d.Wait(`document.querySelector('[data-next]') && !document.querySelector('[data-next]').closest('p').innerText.includes('Push')`)
	for n := 3; ; n++ {
		next := value[string](d, `document.querySelector('[data-next]')?.dataset.next ?? ''`)
		d.must()
		if next == "" {
			break
		}
		if n > 8 {
			t.Fatalf("still asking for %s", next)
		}
		var length float64
		if _, err := fmt.Sscanf(next, "M4×%g", &length); err != nil {
			t.Fatal(next, err)
		}
		if length > 9 {
			tell(n, "stop", fmt.Sprintf("%s%g", kb.Tab, length-9))
		} else {
			tell(n, "turned", "")
		}
		d.Wait(fmt.Sprintf(`document.querySelector('[data-next]')?.dataset.next !== %q`, next))
	}
	d.Ready()
	if got := d.Text(".bolts"); !strings.Contains(got, "M4×") {
		t.Error(got)
	}
	if got := d.Text(".finding[data-rule=stack]"); !strings.Contains(got, "TL") {
		t.Error(got)
	}
	// A trial that clashes is named with the one it clashes with.
	d.choose(`[aria-label="Thread of the bolt"]`, "M8")
	d.Click(`.verdict .stamp`) // in a list, a letter is the list's own
	d.Press("c")
	d.See(`[data-pick="call"]:focus`)
	d.Type("turned" + kb.Enter)
	d.Wait(`document.querySelector('.call .field-error')?.innerText.includes('cannot both be right')`)
}

// TestHelpIsPressed: what would help is pressed, and does.
func TestHelpIsPressed(t *testing.T) {
	d := sit(t, "/?display=halden-exhibit-46&bracket=crumb-15") // above the bracket's range
	d.Ready()
	d.See(".helps .press")
	said := d.Text(".helps")
	before := d.Text(".verdict .stamp")
	d.Click(".helps .press")
	d.Wait(fmt.Sprintf(`document.querySelector('.verdict .stamp').innerText !== %q`, before))
	d.Ready()
	if got := d.Text(".verdict .stamp"); !strings.Contains(strings.ToLower(said), strings.ToLower(got)) {
		t.Errorf("it was to become %q and is %q", said, got)
	}
	d.Press("z")
	d.Wait(fmt.Sprintf(`document.querySelector('.verdict .stamp').innerText === %q`, before))
}

// TestPartsInHand: a caller's own bolt is judged at every hole as it is typed.
func TestPartsInHand(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Press("i")
	d.See(`[data-pick="hand"]:focus`)
	d.Wait(`document.querySelectorAll('.in-hand').length === 2`)
	d.Chord("a")
	d.Type("25")
	d.Wait(`document.querySelector('.in-hand').innerText.includes('would press on the panel from behind')`)
	if got := value[string](d, `document.querySelector('.in-hand').dataset.status`); got != "unsafe" {
		t.Error(got)
	}
	d.Chord("a")
	d.Type("M6x16") // as on its bag
	d.Wait(`document.querySelector('.in-hand').dataset.status === 'ok' && document.querySelector('.in-hand').innerText.includes('11.9 mm')`)
	// A part that cannot be read, or does not go in, is never left out of the judgement.
	says := func(css, text, wrong string) {
		t.Helper()
		d.Fill(css, text)
		if wrong == "" {
			d.Wait(`document.querySelectorAll('.in-hand').length === 2 && !document.querySelector('.call .field-error')`)
			return
		}
		d.Wait(fmt.Sprintf(`document.querySelector('.call .field-error')?.innerText.includes(%q) && !document.querySelector('.in-hand')`, wrong))
	}
	const bolt, spacers, washers = `[aria-label="Bolt, long"]`, `[aria-label="Spacers"]`, `[aria-label="Washers"]`
	says(spacers, "two", "their lengths in mm")
	says(spacers, "10 5", "their lengths in mm")
	says(spacers, "10 and 5", "")
	says(washers, "one", "how many, in figures")
	says(washers, kb.Backspace, "how many, in figures")
	says(washers, "1", "")
	says(bolt, "M8x16", "the display takes M6, not M8")
	says(bolt, "16", "")
}

// TestPolicy: a policy is kept under a name and counts; what is wrong is said
// beside its field; undo brings the one before back.
func TestPolicy(t *testing.T) {
	d := sit(t, "/policy")
	d.allowed = "400 (Bad Request)"
	d.See(`[data-setting="bolt_school"]`)
	set := func(label, text string) {
		d.Fill(fmt.Sprintf(`input[data-setting=%q], input[placeholder=%[1]q]`, label), text)
	}
	d.choose(`[data-setting="bolt_school"]`, "deep")
	set("max_washers", "9")
	set("a name", "Deep ones"+kb.Enter)
	d.Wait(`document.querySelector('.field-error')?.innerText.includes('at most 6')`)
	set("max_washers", "2")
	set("reveal_mm", "1/2 in"+kb.Enter)
	d.Wait(`document.body.innerText.includes('Saved and in use: Deep ones.')`)
	d.Wait(`document.querySelector('[data-setting="reveal_mm"]').value === '12.7'`)
	d.Open(d.app.URL + paneOnSill)
	d.Ready()
	d.Wait(`document.querySelector('.bolts [data-bolt]').dataset.bolt === 'M6×16'`)
	if got := value[string](d, `document.querySelector('select[aria-label="Bolt length"]').value`); got != "deep" {
		t.Error(got)
	}
	d.Open(d.app.URL + "/policy")
	d.See(`[aria-label="Use a saved policy"]`)
	d.choose(`[aria-label="Use a saved policy"]`, "t", "")
	if !value[bool](d, `document.querySelector('h1 + span').innerText === 'In use: Deep ones'`) {
		t.Error("a letter in a list put another policy into use for everybody")
	}
	d.Type(kb.Tab + kb.Enter) // Apply
	d.Wait(`document.body.innerText.includes('The defaults are in use.')`)
	// What is typed on is meant for the list still, and not for the keys of the shell.
	d.Wait(`document.activeElement?.getAttribute('aria-label') === 'Use a saved policy'`)
	d.Click(`.MuiSnackbar-root button`)
	d.Wait(`document.body.innerText.includes('In use: Deep ones')`)
}

// TestNothingHelps: where nothing tried makes a display fit, that is said.
func TestNothingHelps(t *testing.T) {
	d := sit(t, "/?display=halden-wall-105")
	d.Ready()
	if got := d.Text(`[data-help="none"]`); !strings.Contains(got, "None of these helps") {
		t.Error(got)
	}
}

// TestSpacersAreUsed: a plug that has no room gets it by one press, from the bag, and the arms stay out with the next figure.
func TestSpacersAreUsed(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-55&bracket=ledge-20")
	d.Ready()
	d.See(".helps[data-help=spacers] .press")
	if got := strings.ToLower(d.Text(".verdict .stamp")); got != "does not fit" {
		t.Fatal(got)
	}
	if got := d.Text(".helps"); !strings.Contains(got, "15 mm further out") || !strings.Contains(got, "from the bag") {
		t.Error(got)
	}
	d.Click(".helps[data-help=spacers] .press")
	d.Wait(`document.querySelector('.verdict .stamp').innerText.toLowerCase() === 'fits'`)
	d.Ready()
	if got := d.Text(".bolts"); !strings.Contains(got, "spacer") {
		t.Error(got)
	}
	d.Press("z")
	d.Wait(`document.querySelector('.verdict .stamp').innerText.toLowerCase() === 'does not fit'`)
}

// TestStandsOn: what nobody has said stands beside the verdict; pressing it opens its field, whatever panel is open, and on the telephone
// it is asked for.
func TestStandsOn(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-24&bracket=crumb-15")
	d.Ready()
	top := `[data-assumed$="rows.top.recess_mm"]`
	at := func(path string) string {
		return fmt.Sprintf(`document.activeElement?.dataset?.path === 'display.patterns[0].rows.%s'`, path)
	}
	d.See(".stands-on " + top)
	d.Press("x") // another panel is open
	d.Click(top)
	d.Wait(at("top.recess_mm"))
	d.Type("0" + kb.Enter)
	d.Wait(fmt.Sprintf(`!document.querySelector(%q)`, top))
	d.Click(".verdict .stamp")
	d.Press("c")
	bottom := `.ask-as-well input[data-path$="rows.bottom.recess_mm"]`
	d.See(bottom)
	if got := d.Text(".ask-as-well"); !strings.Contains(got, "No recess on record at BL and BR") && !strings.Contains(got, "BL") {
		t.Error(got)
	}
	d.Click(bottom)
	d.Type("0" + kb.Enter)
	d.Wait(`!document.querySelector('[data-assumed$="rows.bottom.recess_mm"]')`)
	// What the bench has no field for opens the display's own.
	for _, path := range []string{"cg_right_mm", "zones"} {
		d.Open(d.app.URL + "/?display=velmora-pane-65&bracket=sill-40")
		d.Ready()
		d.Click(fmt.Sprintf(`[data-assumed=%q]`, path))
		d.Wait(fmt.Sprintf(`location.pathname === '/catalogue/displays/velmora-pane-65' && document.activeElement?.dataset?.path === %q`, path))
	}
}

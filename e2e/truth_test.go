package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// stamp is what the head of the page says.
const stamp = `document.querySelector('.verdict .stamp, .tools .stamp').innerText`

// TestColleagueSavesMeanwhile: what somebody saves of a display reaches a bench on which it is open at once, with a figure tried out on
// it: the verdict is of what is saved now, and it is said who changed what. An old revision is never judged.
func TestColleagueSavesMeanwhile(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-65&bracket=sill-40")
	d.Ready()
	d.Fill(`[aria-label="Plate"]`, "3") // a trial of one's own
	d.Ready()
	d.Wait(stamp + ` !== 'Does not fit'`)
	mira := sitAt(t, d.app, "/catalogue/displays/velmora-pane-65")
	mira.Fill(`[data-path="mass_kg"]`, "54.3")
	mira.Fill(`[aria-label="Why"]`, "weighed anew")
	mira.PressButton("button", "Save")
	mira.Wait(`document.body.innerText.includes('revision 2')`)
	// Nothing is pressed on the bench.
	d.Wait(stamp + ` === 'Does not fit'`)
	d.Wait(`document.querySelector('.meanwhile').innerText.includes('weighed anew')`)
	if said := d.Text(".meanwhile"); !strings.Contains(said, "24.3 kg → 54.3 kg") {
		t.Errorf("it is not said what has changed: %s", said)
	}
	d.Fill(`[aria-label="Plate"]`, "3.5") // the next key is judged by what is saved now, too
	d.Ready()
	d.Wait(stamp + ` === 'Does not fit' && [...document.querySelectorAll('.finding')].some((f) => f.innerText.includes('54.3 kg'))`)
	d.PressButton(".meanwhile button", "OK")
	d.Wait(`!document.querySelector('.meanwhile')`)
	// Steps and template say the same.
	d.Press("s")
	d.Wait(`document.querySelector('.tools .stamp')?.innerText === 'Does not fit'`)
}

// TestNoNetwork: without a network there is no verdict, and the head says since when; with one there is again, and nothing was pressed.
func TestNoNetwork(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.allowed = "ERR_INTERNET_DISCONNECTED"
	d.Ready()
	d.Network(false)
	d.Fill(`[aria-label="Accessories"]`, "30")
	d.Wait(stamp + `.startsWith('Not judged since ') && ` + stamp + `.endsWith(': no network')`)
	d.Network(true)
	d.Wait(stamp + ` === 'Does not fit'`)
	// A view that could not be loaded can be loaded later, with what was typed.
	d.Network(false)
	d.Run(`document.activeElement.blur()`)
	d.Press("o")
	d.Wait(`document.querySelector('main h1')?.innerText === 'This view could not be loaded'`)
	d.PressButton("button", "Try again")
	d.Wait(`document.body.innerText.includes('still does not answer')`)
	d.Network(true)
	d.PressButton("button", "Try again")
	d.See(`[data-setting="reveal_mm"]`)
	d.Press("e")
	d.Ready()
	d.Wait(`document.querySelector('[aria-label="Accessories"]').value === '30'`)
}

// TestMeasuredFigureIsEmptied: a figure with an origin is emptied like any other, and a caller's trial bolt stands in for it.
func TestMeasuredFigureIsEmptied(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Fill(`[aria-label="Recess depth, Bottom"]`, kb.Delete)
	d.Wait(`document.querySelector('[aria-label="Recess depth, Bottom"]').value === ''`)
	d.Ready()
	d.Wait(stamp + ` !== 'Not judged: a figure is not right' && !document.querySelector('.MuiAlert-colorError')`)
	d.Run(`document.activeElement.blur()`)
	d.Press("z")
	d.Ready()
	d.Press("c")
	d.See(`[data-pick="call"]`)
	d.Fill(`[aria-label="Gap under bolt head"]`, "3")
	d.Type(kb.Enter)
	d.See(`.trials li`)
	d.Ready()
	d.Wait(`!document.querySelector('.MuiAlert-colorError') && ` + stamp + ` !== 'Not judged: a figure is not right'`)
}

// TestMeasuredFigureIsEdited: in the editor a measured figure is emptied, and a pattern with measured figures taken out: what was said of
// them goes with them, and what was said of the next one stays its own.
func TestMeasuredFigureIsEdited(t *testing.T) {
	d := sit(t, "/catalogue/displays/velmora-pane-49")
	d.Fill(`[data-path="patterns[0].rows.bottom.recess_mm"]`, kb.Delete)
	d.Wait(`document.querySelector('[data-path="patterns[0].rows.bottom.recess_mm"]').value === ''`)
	d.See(`.effects[data-ready="yes"]`)
	d.Wait(`!document.querySelector('.effects .MuiAlert-colorError')`)
	d.PressButton("button", "Save")
	d.Wait(`document.body.innerText.includes('revision 2')`)
	const origins = `fetch('/api/displays/velmora-pane-49').then((r) => r.json()).then((d) => JSON.stringify(d.origins ?? {}))`
	if got := value[string](d, origins); strings.Contains(got, "recess_mm") {
		t.Errorf("the origin of nothing is left: %s", got)
	}
	d.PressButton(".press", "Take the pattern out")
	d.See(`.effects[data-ready="yes"]`)
	d.Wait(`!document.querySelector('.effects .MuiAlert-colorError') && !document.querySelector('[data-path="patterns[0].width_mm"]')`)
}

// TestSheetsSayWhatTheWallSays: steps and template have the verdict of the job, which is the worse of pairing and wall.
func TestSheetsSayWhatTheWallSays(t *testing.T) {
	d := sit(t, "/wall?display=velmora-pane-49&bracket=sill-40")
	d.Click(`[data-begin="wood_stud"]`)
	d.Wait(wallReady)
	d.Fill(`[aria-label="Covering"]`, "90") // no screw reaches a stud through it
	d.Wait(wallReady + ` && document.querySelector('.wall-head .stamp').innerText === 'Does not fit here'`)
	d.Run(`document.activeElement.blur()`)
	for _, view := range []string{"s", "t"} {
		d.Press(view)
		d.Wait(`document.querySelector('.tools .stamp')?.innerText === 'Does not fit here'`)
	}
	d.Press("e")
	d.Ready()
	d.Wait(stamp + ` === 'Does not fit here'`)
	// A figure of the wall that cannot be read leaves the pairing judged, and says so.
	d.Press("l")
	d.Wait(wallReady)
	d.Fill(`[aria-label="Covering"]`, "thick")
	d.Wait(`document.querySelector('.wall-head .stamp').innerText === 'Not judged: a figure is not right'`)
	d.Run(`document.activeElement.blur()`)
	d.Press("e")
	d.Ready()
	d.Wait(stamp + ` === 'Fits with conditions' && document.querySelector('.gist').innerText.startsWith('The wall is not judged')`)
}

// TestRolesAreApplied: an arrow key in the list of somebody's role changes nothing; Apply does, is said, and is undone by one press.
func TestRolesAreApplied(t *testing.T) {
	d := among(t, "/people")
	d.PressButton(".sign-in button", "Ada")
	role := `select[aria-label="Role of Jun Shelvane"]`
	saved := `fetch('/api/people').then((r) => r.json()).then((all) => all.find((p) => p.login === 'jun').role)`
	d.See(role)
	d.choose(role, "e", "engineer")
	if got := value[string](d, saved); got != "reader" {
		t.Fatalf("a letter in the list made Jun %s", got)
	}
	d.Type(kb.Tab + kb.Enter)
	d.Wait(`document.querySelector('.MuiSnackbar-root')?.innerText.includes('Jun Shelvane is engineer now')`)
	if got := value[string](d, saved); got != "engineer" {
		t.Errorf("Jun is %s", got)
	}
	d.PressButton(".MuiSnackbar-root button", "Undo")
	d.Wait(`document.body.innerText.includes('It is as it was before.')`)
	if got := value[string](d, saved); got != "reader" {
		t.Errorf("undone, Jun is %s", got)
	}
}

// TestWhatIsTypedIsOnesOwn: who signs in after somebody else finds nothing of what they typed: not on the bench, not in an editor, not in
// the address, and not by the browser's Back. A link that was opened at the door leads where it says.
func TestWhatIsTypedIsOnesOwn(t *testing.T) {
	d := among(t, "/?display=velmora-pane-49&bracket=sill-40&turn=90")
	d.PressButton(".sign-in button", "Ada")
	d.Ready()
	d.Wait(`location.pathname === '/' && location.search.includes('turn=90')`)
	d.Fill(`[aria-label="Accessories"]`, "4.75")
	d.Ready()
	d.Open(d.app.URL + "/catalogue/brackets/ledge-20")
	d.Fill(`[data-path="rated_load_kg"]`, "99")
	d.Wait(`document.querySelector('.tools button[type="submit"]:not(:disabled)')`)
	d.Click(`a[href^="/people"]`)
	d.PressButton(".people button", "Sign out")
	d.See(".sign-in form")
	d.Wait(`location.search === ''`)
	d.PressButton(".sign-in button", "Mira")
	d.Wait(`location.pathname === '/desk' && document.querySelector('.desk')`)
	nothing := func(where string) {
		t.Helper()
		left := value[string](d, `[location.search, JSON.stringify(history.state?.workspace?.inputs ?? ''),
			...Object.values(sessionStorage), document.body.innerText, ...[...document.querySelectorAll('input')].map((i) => i.value)].join(' ')`)
		for _, of := range []string{"4.75", "99", "pane-49"} {
			if strings.Contains(left, of) {
				t.Errorf("%s has %s of somebody else: %.300s", where, of, left)
			}
		}
	}
	nothing("the desk")
	d.Press("e")
	d.See(`[data-pick="displays"]`)
	nothing("the bench")
	d.Open(d.app.URL + "/catalogue/brackets/ledge-20")
	d.See(`[data-path="rated_load_kg"]`)
	if got := value[string](d, `document.querySelector('[data-path="rated_load_kg"]').value`); got == "99" {
		t.Error("the draft of somebody else is in the editor")
	}
	for range 3 {
		d.Back()
		d.Wait(`document.readyState === 'complete'`)
	}
	d.Wait(`document.querySelector('main, .sign-in')`)
	left := value[string](d, `location.search + [...document.querySelectorAll('input')].map((i) => i.value).join(' ')`)
	if strings.Contains(left, "4.75") {
		t.Errorf("Back shows what somebody else typed: %s", left)
	}
}

// TestJobsLinkAtTheDoor: a link to a job leads to the job, from behind the door too.
func TestJobsLinkAtTheDoor(t *testing.T) {
	d := among(t, "/wall?job=mill-lane-counter")
	d.allowed = "401"
	d.PressButton(".sign-in button", "Mira")
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Job"]').value === 'mill-lane-counter'`)
}

// TestLabelsLeadIntoTheirFields: a press on what a figure is leads into its field.
func TestLabelsLeadIntoTheirFields(t *testing.T) {
	d := sit(t, "/catalogue/brackets/sill-40")
	d.See(`.editor svg`)
	d.PressButton(".editor .figures span", "Rated load")
	d.See(`input[data-path="rated_load_kg"]:focus`)
}

// TestAddressesAreTheirOwn: the address of a view that is not the bench says what that view shows, and nothing of the bench.
func TestAddressesAreTheirOwn(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Press("o")
	d.See(`[data-setting="reveal_mm"]`)
	d.Wait(`location.search === ''`)
	d.Press("e")
	d.Ready()
	d.Wait(`location.search.includes('display=velmora-pane-49')`)
	d.Open(d.app.URL + "/reviews/range?bracket=crumb-15&wall=concrete")
	d.Wait(`document.querySelector('main') && location.search === '?bracket=crumb-15&wall=concrete'`)
	// What is not seen is not undone.
	d.Open(d.app.URL + "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	d.Fill(`[aria-label="Accessories"]`, "4")
	d.Ready()
	d.Run(`document.activeElement.blur()`)
	d.Press("o")
	d.Fill(`[data-setting="reveal_mm"]`, "12")
	d.Run(`document.activeElement.blur()`)
	d.Press("z")
	d.Wait(`document.querySelector('[data-setting="reveal_mm"]').value === '10'`)
	d.Press("z")
	d.Fill(`[data-setting="reveal_mm"]`, "14")
	d.Run(`document.activeElement.blur()`)
	d.Press("e")
	d.Ready()
	d.Wait(`document.querySelector('[aria-label="Accessories"]').value === '4'`)
	d.Press("o")
	d.Wait(`document.querySelector('[data-setting="reveal_mm"]')?.value === '14'`) // what was typed is there again
}

// TestJobsConflict: a job that somebody else saved meanwhile is compared and settled, with either version.
func TestJobsConflict(t *testing.T) {
	d := sit(t, "/wall?job=mill-lane-counter")
	d.allowed = "409"
	d.Wait(wallReady)
	other := sitAt(t, d.app, "/wall?job=mill-lane-counter")
	other.Wait(wallReady)
	save := func(who *desk, covering string) {
		who.Fill(`[aria-label="Covering"]`, covering)
		who.Wait(wallReady)
		who.PressButton(".job-bar button", "Save job")
	}
	save(other, "13")
	other.Wait(`document.body.innerText.includes('Saved: job')`)
	save(d, "15")
	d.Wait(`document.querySelector('.stale')?.innerText.includes('covering')`)
	if said := d.Text(".stale"); !strings.Contains(said, "15") || !strings.Contains(said, "13") {
		t.Errorf("the two are not beside each other: %s", said)
	}
	d.PressButton(".stale button", "Keep my version")
	d.Wait(`!document.querySelector('.stale') && document.body.innerText.includes('Saved: job')`)
	save(other, "14")
	other.allowed = "409"
	other.See(".stale")
	other.PressButton(".stale button", "Take theirs")
	other.Wait(wallReady + ` && document.querySelector('[aria-label="Covering"]').value === '15'`)
}

// TestKeyboardIsNeverLost: after what is pressed, the keyboard is somewhere on the page, and a heading does not take it back.
func TestKeyboardIsNeverLost(t *testing.T) {
	d := sit(t, "/?display=velmora-pane-49&bracket=sill-40")
	d.Ready()
	kept := func(after string) {
		t.Helper()
		d.Wait(`document.activeElement !== document.body`)
		if d.Err != nil {
			t.Fatalf("after %s the keyboard is nowhere", after)
		}
	}
	press := func(css string) {
		t.Helper()
		d.tabTo(css)
		d.Type(kb.Enter)
	}
	press(`.verdict button[title^="Save"]`)
	d.Wait(`document.body.innerText.includes('Saved: Velmora')`)
	kept("Save on the bench")
	d.Fill(`[aria-label="Accessories"]`, "3")
	d.Ready()
	press(".side.left > .press:last-of-type")
	d.Wait(`!document.body.innerText.includes('Back to the catalogue')`)
	kept("Back to the catalogue's figures")
	d.Type(kb.Escape)
	kept("Escape")
	d.Press("l")
	press(`[data-begin="concrete"]`)
	d.Wait(wallReady)
	kept("a wall is begun")
	press(`[data-add="niche"]`)
	press(`[aria-label="Remove niche"]`)
	d.Wait(`!document.querySelector('[aria-label="Remove niche"]')`)
	kept("Remove niche")
	// The head of a view has the keyboard, and gives it away.
	d.Type(kb.Escape)
	d.Press("o")
	d.Wait(`document.activeElement?.tagName === 'H1'`)
	d.Type(kb.Tab)
	at := value[string](d, `document.activeElement.outerHTML.slice(0, 80)`)
	d.Run(`window.moved = 0; window.tabbedAt = performance.now(); document.addEventListener('focusin', () => window.moved++)`)
	d.Wait(`performance.now() > window.tabbedAt + 400`) // for three seconds after it came, the head used to
	if now := value[string](d, `document.activeElement.outerHTML.slice(0, 80)`); now != at || value[int](d, `window.moved`) != 0 {
		t.Errorf("the heading took the keyboard back from %s: %s", at, now)
	}
}

// TestListsAreEdited: entries of a list are added, taken out and moved while figures of others are being typed; each stays with its own,
// each press is undone by itself, and what a person writes comes back letter by letter.
func TestListsAreEdited(t *testing.T) {
	d := sit(t, "/catalogue/brackets/sill-40")
	d.allowed = "400"
	d.See(`[data-kit="0"] svg`)
	lines := value[int](d, `document.querySelectorAll('[data-kit]').length`)
	count := func(n int) {
		t.Helper()
		d.Wait(fmt.Sprintf(`document.querySelectorAll('[data-kit]').length === %d`, n))
	}
	stands := func(css, text string) {
		t.Helper()
		d.Wait(fmt.Sprintf(`document.querySelector(%q)?.value === %q`, css, text))
	}
	d.PressButton(".editor button", "Add a bolt")
	count(lines + 1)
	d.PressButton(".editor button", "Add a bolt")
	count(lines + 2)
	d.Press("z")
	count(lines + 1)
	own := fmt.Sprintf(`input[data-path="kit[%d].length_mm"]`, lines)
	d.Click(own)
	d.Chord("a")
	d.Type("27,5")
	d.Click(`[aria-label="Remove line 1"]`)
	count(lines)
	stands(fmt.Sprintf(`input[data-path="kit[%d].length_mm"]`, lines-1), "27,5")
	d.Click(`[aria-label="Remove line 1"]`)
	count(lines - 1)
	d.PressButton(".tools button", "Undo")
	count(lines)
	stands(fmt.Sprintf(`input[data-path="kit[%d].length_mm"]`, lines-1), "27,5")

	steps := value[int](d, `document.querySelectorAll('.own-step').length`)
	d.PressButton(".editor button", "Add a step")
	d.Wait(fmt.Sprintf(`document.querySelectorAll('.own-step').length === %d`, steps+1))
	title := fmt.Sprintf(`[data-path="assembly[%d].title"]`, steps)
	d.Click(title)
	d.Type("Slide the lock in")
	stands(title, "Slide the lock in")
	d.Click(fmt.Sprintf(`[data-path="assembly[%d].text"]`, steps))
	d.Type("Until it clicks")
	d.See(`.effects[data-ready="yes"]`)
	d.PressButton(".own-step button", "Earlier")
	d.Wait(fmt.Sprintf(`document.querySelectorAll('.own-step')[%d].innerText.startsWith('Slide the lock in')`, steps-1))
	d.PressButton(".editor button", "In other languages")
	german := `[aria-label="Deutsch: Until it clicks"]`
	d.Click(german)
	d.Type("Bis es einrastet")
	stands(german, "Bis es einrastet")
	d.See(`.effects[data-ready="yes"]`)
	d.Click(`form button[type=submit]:not([disabled])`)
	d.Wait(`document.querySelector('.catalogue').innerText.includes('revision 2')`)
	got := value[string](d, `fetch('/api/items/brackets/sill-40').then((r) => r.json()).then(({bracket: b}) => JSON.stringify([b.kit.length,
		b.kit.at(-1).length_mm, b.assembly.at(-2).title, b.translations.find((t) => t.of === 'Until it clicks').text]))`)
	if got != fmt.Sprintf(`[%d,27.5,"Slide the lock in","Bis es einrastet"]`, lines) {
		t.Error(got)
	}
}

// TestWordsOfADisplay: other names, a note and where a figure comes from are written by hand, and a measured figure typed over keeps it.
func TestWordsOfADisplay(t *testing.T) {
	d := sit(t, "/catalogue/displays/velmora-pane-49")
	d.See(`.editor svg`)
	names := `[aria-label="Other names, with commas between"]`
	d.Click(names)
	d.Type("VP 49, Pane-49")
	d.Wait(`document.querySelector('` + names + `').value === 'VP 49, Pane-49'`)
	d.choose(`[aria-label="Origin of Mass without stand"]`, "measured", "bench")
	d.Click(`input[data-path="mass_kg"]`)
	d.Click(`[aria-label="Note on mass_kg"]`)
	d.Type("hung scale, twice")
	d.Wait(`document.querySelector('[aria-label="Note on mass_kg"]').value === 'hung scale, twice'`)
	d.Click(`input[data-path="mass_kg"]`)
	d.Chord("a")
	d.Type(kb.Delete + "14,6")
	d.See(`.effects[data-ready="yes"]`)
	d.Click(`form button[type=submit]:not([disabled])`)
	d.Wait(`document.querySelector('.catalogue').innerText.includes('revision 2')`)
	got := value[string](d, `fetch('/api/items/displays/velmora-pane-49').then((r) => r.json()).then(({display: x}) =>
		JSON.stringify([x.aliases, x.mass_kg, x.origins.mass_kg, x.notes.mass_kg.text]))`)
	if got != `[["VP 49","Pane-49"],14.6,"bench","hung scale, twice"]` {
		t.Error(got)
	}
	d.Open(d.app.URL + "/catalogue/history/displays/velmora-pane-49")
	d.See(".history time")
	if said := value[[]string](d, `((e) => [e.innerText, e.title, e.dateTime])(document.querySelector('.history time'))`); said[0] != "now" ||
		!strings.Contains(said[1], said[2][:4]) {
		t.Errorf("just saved: %q", said)
	}
}

// TestWrongFigureAfterReload: a link with a figure that is refused, or a reload, says that nothing is judged, and where to look.
func TestWrongFigureAfterReload(t *testing.T) {
	d := sit(t, paneOnSill+`&with={"changes":{"bracket.slot_width_mm":{"text":"7","unit":"mm"}}}`)
	d.allowed = "400"
	d.Wait(`document.querySelector('.stamp')?.innerText.startsWith('Not judged: ')`)
	d.Wait(`document.querySelector('.board').innerText.includes('a figure is not right')`)
	d.Fill(`[aria-label="Slot width"]`, "9")
	d.Ready()
	d.Wait(`document.querySelector('.stamp').innerText === 'Fits with conditions'`)
}

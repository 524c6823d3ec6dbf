package e2e

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	"nexufix/e2e/drive"
)

// walker is a person who does this and that, by a seed.
type walker struct {
	*desk
	t       *testing.T
	rand    *rand.Rand
	who     string
	off     bool     // the network is cut
	unsaved []string // what was typed where it is never saved
	did     []string
}

const idle = `!document.querySelector('.stamp') || !['Judging…'].includes(document.querySelector('.stamp').innerText)`

// has says whether something is there to be used.
func (w *walker) has(css string) bool {
	return value[bool](w.desk, fmt.Sprintf(`!!document.querySelector(%q)?.checkVisibility()`, css))
}

// figures are fields of the bench and the wall, each with what is typed into it.
var figures = map[string][]string{
	`[aria-label="Plate"]`: {"2", "4,5", "3/16 in"}, `[aria-label="Accessories"]`: {"0.5", "1.25", "9"},
	`[aria-label="Thread depth, Top"]`: {"8", "14", "1/2 in"}, `[aria-label="Recess depth, Bottom"]`: {"", "6", "11.5"},
	`[aria-label="Covering"]`: {"12.5", "25", "90"}, `[aria-label="Middle across"]`: {"1500", "1700", "5 ft"},
	`[aria-label="Height of the display's centre"]`: {"1400", "1650", "x"}, `[aria-label="Slot width"]`: {"7", "9", "11"},
}

// steps are what a walker does, the likelier ones more than once.
func (w *walker) steps() []func() string {
	type_ := func() string {
		keys := make([]string, 0, len(figures))
		for css := range figures {
			keys = append(keys, css)
		}
		slices.Sort(keys)
		css := keys[w.rand.IntN(len(keys))]
		if !w.has(css) {
			return ""
		}
		text := figures[css][w.rand.IntN(len(figures[css]))]
		if text == "" {
			text = kb.Delete
		}
		w.Fill(css, text)
		return css + " " + text
	}
	key := func(of ...string) func() string {
		return func() string {
			k := of[w.rand.IntN(len(of))]
			w.Type(kb.Escape)
			w.Press(k)
			w.pause(200) // what it leads to takes the place of what was there
			return "key " + k
		}
	}
	save := func() string {
		w.Chord("s")
		if !w.off {
			w.Wait(`!document.querySelector('button.MuiButton-loading')`)
		}
		for _, settle := range []string{"Take theirs", "Make my changes in theirs"} {
			if w.has(".stale button") && w.rand.IntN(2) == 0 {
				w.PressButton(".stale button", settle)
				break
			}
		}
		return "save"
	}
	colleague := func() string { // saves the display that the others have on the bench
		if w.off {
			return ""
		}
		w.Open(w.app.URL + "/catalogue/displays/velmora-pane-49")
		w.See(`input[data-path="mass_kg"]`)
		kg := fmt.Sprintf("%.1f", 14+w.rand.Float64()*20)
		w.Fill(`input[data-path="mass_kg"]`, kg)
		w.Chord("s")
		w.Wait(`document.body.innerText.includes('revision') || document.querySelector('.stale')`)
		w.Open(w.app.URL + paneOnSill)
		return "mass " + kg
	}
	draft := func() string { // typed in an editor, and never saved
		if w.off {
			return ""
		}
		kg := fmt.Sprintf("%d.%03d", 40+w.rand.IntN(50), 101+w.rand.IntN(800))
		w.Open(w.app.URL + "/catalogue/brackets/ledge-20")
		w.See(`[data-path="rated_load_kg"]`)
		w.Fill(`[data-path="rated_load_kg"]`, kg)
		w.Wait(`document.querySelector('.tools button[type="submit"]:not(:disabled)')`)
		w.unsaved = append(w.unsaved, kg)
		w.Open(w.app.URL + paneOnSill)
		return "draft " + kg
	}
	network := func() string {
		w.off = !w.off
		w.Network(!w.off)
		return fmt.Sprint("network off: ", w.off)
	}
	reload := func() string {
		if w.off {
			return ""
		}
		w.Reload()
		return "reload"
	}
	return []func() string{type_, type_, type_, type_, type_, type_, key("n", "p", "n"), key("z", "u", "+", "m"), key("e", "l", "t", "s"),
		key("l", "e"), save, colleague, draft, network, network, reload}
}

// act does one thing.
func (w *walker) act() {
	all := w.steps()
	if did := all[w.rand.IntN(len(all))](); did != "" {
		w.did = append(w.did, did)
	}
}

// stamp is the verdict on the screen, or why there is none.
func (w *walker) stamp() string {
	return value[string](w.desk, `document.querySelector('.stamp') ?
		document.querySelector('.stamp').dataset.verdict + ' ' + document.querySelector('.stamp').innerText : ''`)
}

// pause waits until what was said by the server meanwhile has come.
func (w *walker) pause(ms int) {
	w.Run(`window.pausedAt = performance.now()`)
	w.Wait(fmt.Sprintf(`performance.now() > (window.pausedAt ??= performance.now()) + %d`, ms))
	if w.Err != nil && strings.Contains(w.Err.Error(), "navigated or closed") { // the page loaded itself again, for a view that it lacked
		w.Err = nil
		w.Wait(`document.readyState === 'complete'`)
	}
}

// isTrue holds the screen against the server: cut off, nothing that was changed since has a verdict; joined again, the verdict is the one
// that a page has that asks anew.
func (w *walker) isTrue() {
	w.t.Helper()
	if w.off {
		if css := `[aria-label="Plate"]`; w.has(css) {
			w.Fill(css, fmt.Sprintf("%.2f", 1+3*w.rand.Float64()))
			w.Wait(`!document.querySelector('.stamp') || document.querySelector('.stamp').dataset.verdict === 'none' &&
				document.querySelector('.stamp').innerText.startsWith('Not judged')`)
		}
		w.off = false
		w.Network(true)
	}
	w.Type(kb.Escape)
	if !w.has(".stamp") {
		w.Open(w.app.URL + paneOnSill)
		w.See(".stamp")
	}
	w.Wait(idle + ` && !document.querySelector('.stamp').innerText.startsWith('Not judged since') || !document.querySelector('.stamp')`)
	w.pause(700)
	w.Wait(idle)
	was, at := w.stamp(), value[string](w.desk, `location.pathname + location.search`)
	w.Reload()
	w.Wait(`document.readyState === 'complete' && document.querySelector('.stamp') && (` + idle + `)`)
	w.pause(300)
	w.Wait(idle)
	if now := w.stamp(); now != was && w.Err == nil {
		w.t.Errorf("%s at %s: the screen said %q, asked anew it is %q, after: %s", w.who, at, was, now, strings.Join(w.did, "; "))
	}
	w.did = nil
}

// leaves signs out, and somebody else comes in, who finds nothing of what was typed.
func (w *walker) leaves(to string) {
	w.t.Helper()
	w.Open(w.app.URL + "/people")
	w.PressButton(".people button", "Sign out")
	w.See(".sign-in form")
	w.PressButton(".sign-in button", to)
	w.See(".desk")
	w.Open(w.app.URL + "/catalogue/brackets/ledge-20")
	w.See(`[data-path="rated_load_kg"]`)
	left := value[string](w.desk, `[location.href, JSON.stringify(history.state ?? ''), ...Object.values(sessionStorage),
		...Object.values(localStorage),
		document.body.innerText, ...[...document.querySelectorAll('input')].map((i) => i.value)].join(' ')`)
	for _, secret := range w.unsaved {
		if w.who != to && strings.Contains(left, secret) {
			w.t.Errorf("%s finds %s, that %s typed", to, secret, w.who)
		}
	}
	if w.who != to {
		w.unsaved = nil
	}
	w.who = to
	w.Open(w.app.URL + paneOnSill)
}

// TestTwoPeopleAtWork: two people in three tabs type, save, undo, go from view to view, are cut off from the network, sign out and in,
// while the program is stopped and started: no verdict on a screen is another than the server's latest, and nobody finds what another
// typed. NEXUFIX_WALK says for how long, NEXUFIX_SEED by which seed; a short while by default.
func TestTwoPeopleAtWork(t *testing.T) {
	long, err := time.ParseDuration(os.Getenv("NEXUFIX_WALK"))
	if err != nil {
		long = 15 * time.Second
	}
	var seed uint64 = 20261202
	fmt.Sscan(os.Getenv("NEXUFIX_SEED"), &seed)
	t.Parallel()
	app, err := drive.StartWithPeople(program, filepath.Join(t.TempDir(), "data"))
	running(t, app, err)
	r := rand.New(rand.NewPCG(seed, 1))
	var walkers []*walker
	for _, who := range []string{"Ada", "Ada", "Mira"} {
		d := sitAt(t, app, paneOnSill)
		d.allowed = "" // what the browser says of cut networks and refused figures is no fault here
		d.PressButton(".sign-in button", who)
		d.See(".stamp")
		walkers = append(walkers, &walker{desk: d, t: t, rand: r, who: who})
	}
	rounds := 0
	for end := time.Now().Add(long); time.Now().Before(end) && !t.Failed(); rounds++ {
		w := walkers[r.IntN(len(walkers))]
		for range 2 + r.IntN(6) {
			w.act()
		}
		w.isTrue()
		switch r.IntN(12) {
		case 0:
			w.leaves([]string{"Ada", "Mira"}[r.IntN(2)])
		case 1:
			if err := app.Stop(); err != nil {
				t.Fatal(err)
			}
			app, err = app.Again(program, "people")
			running(t, app, err)
		}
		for _, w := range walkers {
			if err := w.Err; err != nil {
				t.Fatalf("seed %d, round %d, %s: %v, after %s", seed, rounds, w.who, err, strings.Join(w.did, "; "))
			}
			w.mu.Lock()
			w.complaints = nil
			w.mu.Unlock()
		}
	}
	t.Logf("seed %d: %d rounds", seed, rounds)
}

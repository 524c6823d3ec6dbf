package e2e

import (
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
	if said := d.Text(".meanwhile"); !strings.Contains(said, "24.3 → 54.3") {
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
	d.Fill(`[aria-label="Recess depth, Bottom"]`, "")
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

package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// listed are the links of the jobs on the list.
const listed = `[...document.querySelectorAll('.job-rows [data-job]')]`

// TestJobsAreFound: by words of their titles, places and references, by how they stand, in the order that is asked for; what is found leads
// on, and the address says what was asked.
func TestJobsAreFound(t *testing.T) {
	d := sit(t, "/jobs")
	d.Wait(`document.querySelectorAll('.job-rows [data-job]').length > 20`)
	d.Fill(`[aria-label^="Title, place"]`, "mill lane ML-11")
	d.Wait(listed + `.map((a) => a.dataset.job).sort().join() === 'mill-lane-counter,mill-lane-menu-boards'`)
	d.PressButton(".job-rows th [role=button], .job-rows th .MuiTableSortLabel-root", "Job")
	d.Wait(listed + `.map((a) => a.innerText).join() === 'Counter screen,Menu boards over the counter'`)
	d.Wait(`new URLSearchParams(location.search).get('q') === 'mill lane ML-11' && location.search.includes('sort=name')`)
	d.Click(`.job-rows [data-job="mill-lane-counter"]`)
	d.Wait(counterOpen)
	d.Back()
	d.Wait(listed + `.length === 2 && document.querySelector('[aria-label^="Title, place"]').value !== ''`)
	d.choose(`[aria-label="Verdict"]`, "Does", "does_not_fit")
	d.Wait(`document.body.innerText.includes('No job matches') || document.querySelectorAll('.job-rows [data-job]').length === 0`)
	d.Fill(`[aria-label^="Title, place"]`, "x")
	d.Type(kb.Backspace)
	d.Wait(`document.querySelectorAll('.job-rows [data-job]').length > 0 &&
		[...document.querySelectorAll('.job-rows tbody tr')].every((r) => r.innerText.includes('Does not fit'))`)
}

// TestJobIsNamed: a job's title, place and reference are typed on its wall, saved with it, and found on the list; they change no verdict.
func TestJobIsNamed(t *testing.T) {
	d := sit(t, "/wall?job=till-wanted-tilt")
	d.Wait(wallReady)
	d.Fill(`[aria-label="Title"]`, "Till by the door")
	d.Fill(`[aria-label="Place"]`, "Bakery, Weir Street")
	d.Fill(`[aria-label="Reference"]`, "WS-3")
	d.Ready()
	d.PressButton(".job-bar button", "Save job")
	d.Wait(`document.body.innerText.includes('Saved: job till-wanted-tilt')`)
	d.PressButton("nav a", "Jobs")
	d.Wait(`document.querySelector('.job-rows [data-job]')?.innerText === 'Till by the door'`) // changed last
	if row := d.Text(".job-rows tbody tr"); !strings.Contains(row, "till-wanted-tilt · Bakery, Weir Street · WS-3") {
		t.Errorf("%q", row)
	}
	// Emptied, it is called by its id again; the rest stays.
	d.Click(`.job-rows [data-job="till-wanted-tilt"]`)
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Title"]')?.value === 'Till by the door'`)
	d.Fill(`[aria-label="Title"]`, kb.Delete)
	d.Wait(`document.querySelector('[aria-label="Title"]').value === ''`)
	d.Ready()
	d.PressButton(".job-bar button", "Save job")
	d.PressButton("nav a", "Jobs")
	d.Wait(`document.querySelector('.job-rows [data-job]')?.innerText === 'till-wanted-tilt'`)
	if row := d.Text(".job-rows tbody tr"); !strings.Contains(row, "Bakery, Weir Street · WS-3") {
		t.Errorf("%q", row)
	}
	d.choose(`[aria-label="State"]`, "dra", "draft")
	d.Wait(`document.body.innerText.includes('No job matches.')`)
}

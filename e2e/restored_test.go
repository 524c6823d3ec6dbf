package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"nexufix/e2e/drive"
)

// TestAfterARestore: on a new machine a backup is restored and one administrator let in, by the command line. At the desk stands what is
// to be confirmed: one is confirmed on its page, the rest together; its code is in doubt until then. The audit is found by kind, words and
// day, as they are typed. A reader who presses Ctrl+S saves nothing, and is told why.
func TestAfterARestore(t *testing.T) {
	old := among(t, "/")
	dir := t.TempDir()
	data, backup := filepath.Join(dir, "data"), filepath.Join(dir, "monday.db")
	if err := os.Mkdir(data, 0o700); err != nil {
		t.Fatal(err)
	}
	for _, args := range [][]string{{"backup", "--data", old.app.Data, "--out", backup}, {"restore", "--data", data, "--in", backup},
		{"user", "enable", "ada", "--data", data}, {"user", "enable", "jun", "--data", data}} {
		if out, err := exec.Command(program, args...).CombinedOutput(); err != nil {
			t.Fatalf("%v: %v %s", args, err, out)
		}
	}
	app, err := drive.StartWithPeople(program, data)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { app.Stop() })
	d := sitAt(t, app, "/desk")
	d.Wait(`!document.body.innerText.includes('Mira Hookway')`) // who was not let in again
	d.PressButton(".sign-in button", "Ada")
	d.See(`[data-part="restored"] [data-approval]`)
	d.isView(view{name: "desk after a restore", at: "/desk"})
	d.Click(`[data-part="restored"] [data-approval="1"] a`)
	d.See(".review .restored")
	d.isView(view{name: "review after a restore", at: "/reviews"})
	d.See(`[data-issued] a[href^="/v/"]`)
	code := value[string](d, `document.querySelector('[data-issued] a[href^="/v/"]').getAttribute('href')`)
	page := sitAt(t, app, code)
	page.Wait(`document.querySelector('.standing')?.innerText === 'In doubt'`)
	d.PressButton(".decide button", "Confirm that it holds")
	d.Wait(`!document.querySelector('.review .restored') && document.querySelector('.review .state').dataset.state === 'approved'`)
	page.Reload()
	page.Wait(`document.querySelector('.standing')?.innerText === 'Current'`)
	d.Open(app.URL + "/desk")
	d.PressButton(`[data-part="restored"] button`, "Confirm these ")
	d.Wait(`document.querySelector('[data-part="waiting"]') && !document.querySelector('[data-part="restored"]')`)

	d.Open(app.URL + "/people")
	d.See(".audit tbody tr")
	d.Click(`[aria-label="Who, or what about"]`)
	d.Type("monday")
	d.Wait(`document.querySelectorAll('.audit tbody tr').length === 1 &&
		document.querySelector('.audit').innerText.includes('backup restored')`)
	d.Fill(`[aria-label="Who, or what about"]`, "\b")
	d.choose(`select[aria-label="Kind"]`, "approvals", "approvals")
	d.Wait(`[...document.querySelectorAll('.audit tbody tr')].every((r) => r.innerText.includes('approval: '))`)
	d.Click(`[aria-label="Since, as 2026-11-30"]`)
	d.Type("2199-01-0")
	d.See(".audit tbody tr") // half of a day is none
	d.Type("1")
	d.Wait(`document.querySelector('.audit-part').innerText.includes('Nothing of that kind.')`)
	d.must()

	jun := sitAt(t, app, "/catalogue/displays/velmora-pane-49")
	jun.allowed = "40"
	jun.PressButton(".sign-in button", "Jun")
	jun.Fill(`input[data-path="mass_kg"]`, "15")
	jun.Chord("s")
	jun.Wait(`document.querySelector('.not-allowed button').disabled &&
		document.querySelector('.not-allowed').innerText.includes('Engineers only.')`)
	jun.Reload()
	jun.Wait(`document.querySelector('input[data-path="mass_kg"]')?.value === '15' &&
		!document.body.innerText.includes('not for you')`) // a draft
	jun.must()
	page.must()
}

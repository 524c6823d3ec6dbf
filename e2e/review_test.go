package e2e

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexufix/demo"
	"nexufix/e2e/drive"
	"nexufix/exchange"
)

// signs is somebody who signs in at a desk of their own.
func signs(t *testing.T, app *drive.App, login, password string) *desk {
	t.Helper()
	d := sitAt(t, app, "/")
	d.allowed = "40" // what is refused
	d.See(".sign-in form")
	d.Click(`input[name="login"]`)
	d.Type(login + "\t" + password + "\r")
	d.choosesOwn(password)
	d.See(".desk")
	return d
}

// choosesOwn takes a password of one's own in place of the one that was given, which is asked for before anything else.
func (d *desk) choosesOwn(given string) {
	d.See(".first-password form")
	d.Click(`input[name="current"]`)
	d.Type(given + "\t" + ownPassword + "\r")
}

const ownPassword = "forty sleepers under the line"

// TestFromEmptyToIssued: in an empty installation the administrator is made and two people are invited; a catalogue is imported, a job
// judged, sent for review, sent back, changed, sent again and approved, with those who work on it seeing each other; a pack is issued and
// its code read from the page by zbar and followed without signing in; a display is weighed anew, and the approval is stale.
func TestFromEmptyToIssued(t *testing.T) {
	t.Parallel()
	app, err := drive.Start(program, "serve", filepath.Join(t.TempDir(), "data"))
	running(t, app, err)
	ada := sitAt(t, app, "/people")
	ada.allowed = "40"
	ada.Click(`input[name="code"]`)
	ada.Type("not the code\tada\tAda Quillmark\tseven loaves on a rail\r")
	ada.Wait(`document.querySelector('.people').innerText.includes('not the code')`)
	ada.Fill(`input[name="code"]`, app.Code)
	ada.PressButton(".people button", "Make the administrator")
	ada.See(`[data-login="ada"]`)
	for _, who := range []string{"Mira Hookway\tmira\tseven loaves on a rail", "Tomas Ledgerfield\ttomas\tseven loaves on a rail"} {
		ada.Fill(`form input[name="name"]`, "")
		ada.Click(`form input[name="name"]`)
		ada.Type(who)
		ada.PressButton(`.people button[type="submit"]`, "Add")
		ada.See(`[data-login="` + strings.Split(who, "\t")[1] + `"]`)
	}
	ada.choose(`select[aria-label="Role of Tomas Ledgerfield"]`, "approver", "approver")
	ada.PressButton(".applied button", "Apply")

	// The catalogue.
	all, err := demo.Contents()
	var document bytes.Buffer
	if err == nil {
		err = exchange.WriteTo(&document, all)
	}
	if err != nil {
		t.Fatal(err)
	}
	mira := signs(t, app, "mira", "seven loaves on a rail")
	mira.Open(app.URL + "/catalogue/import")
	mira.See(".import")
	mira.drop("catalogue.json", document.Bytes())
	mira.PressButton(".import button", "Import")
	mira.Wait(`document.body.innerText.includes(' new, 0 changed')`)

	// Judged and sent.
	mira.Open(app.URL + "/steps?job=mill-lane-counter")
	mira.See(".standing button")
	mira.PressButton(".standing button", "Send for review")
	mira.See(`.review[data-ready] .state[data-state="in_review"]`)
	tomas := signs(t, app, "tomas", "seven loaves on a rail")
	tomas.See(`[data-part="waiting"] [data-approval]`)
	tomas.Press("1")
	tomas.See(`.review[data-ready] .finding[data-status="caution"]`)
	mira.Wait(`document.querySelector('.here')?.innerText.includes('Tomas Ledgerfield')`) // both look at it
	tomas.isView(view{name: "review", at: "/reviews"})
	if got := tomas.Text(".review .decide"); strings.Contains(mira.Text(".review .decide"), "Approve") || !strings.Contains(got, "Approve") {
		t.Errorf("who prepared it is offered to approve it, or who did not is not: %s", got)
	}
	tomas.Click(`[aria-label="What is to be said"]`)
	tomas.Type("The display is to hang 100 mm higher: the counter's till is in the way.")
	tomas.PressButton(".decide button", "Send back")
	mira.See(`.review .state[data-state="draft"]`) // without a reload
	mira.Wait(`document.querySelector('.said').innerText.includes('100 mm higher')`)

	mira.must()
	tomas.must()

	// Changed, and sent again.
	mira.Open(app.URL + "/wall?job=mill-lane-counter")
	mira.See(`.bench.wall[data-ready="yes"]`)
	mira.Fill(`[aria-label="Centre"]`, "1600")
	mira.See(`.bench.wall[data-ready="yes"]`)
	mira.PressButton("button", "Save job")
	mira.See(".MuiSnackbar-root")
	mira.Open(app.URL + "/steps?job=mill-lane-counter")
	mira.Wait(`document.querySelector('.standing')?.innerText.includes('revision 2')`)
	mira.PressButton(".standing button", "Send for review")
	mira.See(`.review[data-ready] .state[data-state="in_review"]`)
	tomas.See(`.review .state[data-state="in_review"]`)
	tomas.PressButton(".decide button", "Approve")
	tomas.See(`.review .state[data-state="approved"]`)
	mira.See(`.review .state[data-state="approved"]`)

	// Issued, and its code followed by somebody without an account.
	mira.Click(`[aria-label="Who gets it"]`)
	mira.Type("Mill Lane bakery")
	mira.PressButton(".issue button", "Issue")
	mira.See(`[data-issued]`)
	mira.Click(`[data-issued] a[href^="/api/issued/"]`)
	name := mira.Text("[data-issued] a") + "-A-pack.pdf"
	mira.downloaded(name)
	address := codeOn(t, filepath.Join(mira.downloads, name))
	code := regexp.MustCompile(`/v/[0-9A-Z]{16}\?r=[0-9a-f]{8}\.[A-Za-z0-9_-]{43}\.[A-Za-z0-9_-]{86}$`).FindString(address)
	if code == "" {
		t.Fatalf("zbar reads %q", address)
	}
	if !strings.HasPrefix(address, app.URL) {
		t.Errorf("the code leads to %s, and the server is %s", address, app.URL)
	}
	keys := filepath.Join(mira.downloads, "keys.pem")
	got, err := http.Get(app.URL + "/v/keys")
	if err != nil {
		t.Fatal(err)
	}
	defer got.Body.Close()
	if raw, err := io.ReadAll(got.Body); err != nil || os.WriteFile(keys, raw, 0o600) != nil {
		t.Fatal(err)
	}
	said, err := exec.Command(program, "verify", filepath.Join(mira.downloads, name), "--key", keys).Output()
	if err != nil || !strings.Contains(string(said), `"signed": true`) || !strings.Contains(string(said), `"approved_by": "Tomas`) {
		t.Errorf("without the server the file is %s, %v", said, err)
	}
	mira.PressButton("[data-issued] button", "Send it")
	mira.See(`.write [aria-label="Mail address"]`)
	mira.Type("nobody")
	mira.PressButton(".write button", "Send")
	mira.Wait(`[...document.querySelectorAll('.write .Mui-error')].some((e) => e.innerText.includes('no mail address'))`)
	mira.Fill(`.write [aria-label="Mail address"]`, "till@bakery.example")
	mira.PressButton(".write button", "Send")
	mira.Wait(`document.querySelector('.letter')?.innerText.includes('till@bakery.example')`)
	visitor := sitAt(t, app, code)
	visitor.Wait(`document.querySelector('.standing.good')?.innerText === 'Current'`)

	mira.must()
	visitor.must()

	// A figure changes, and with it the result.
	mira.Open(app.URL + "/catalogue/displays/velmora-pane-49")
	mira.Fill(`input[data-path="mass_kg"]`, "29")
	mira.Fill(`input[placeholder="why it is changed"]`, "weighed")
	mira.PressButton("button", "Save")
	mira.Wait(`document.body.innerText.includes('revision 2')`)
	tomas.See(`.review .state[data-state="stale"]`)
	tomas.See(".review .stale .differences td")
	visitor.Reload()
	visitor.Wait(`document.querySelector('.standing.bad')?.innerText === 'In doubt'`)
	mira.Click(`a[href="/desk"]`)
	mira.See(`[data-part="stale"] [data-approval]`)
	mira.isView(view{name: "desk", at: "/desk"})

	// Whoever has it is told.
	mira.Click(`[data-part="stale"] a`)
	mira.PressButton("[data-issued] button", "Write to them")
	mira.Wait(`document.querySelector('.write [aria-label="Mail address"]')?.value === 'till@bakery.example'`)
	mira.PressButton(".write button", "Send")
	mira.Wait(`[...document.querySelectorAll('.letter')].some((l) => l.innerText.includes('Taken back'))`)
	letters, err := filepath.Glob(filepath.Join(app.Data, "mail", "*.eml"))
	if err != nil || len(letters) != 2 {
		t.Fatal(letters, err)
	}
	raw, err := os.ReadFile(letters[1])
	if err != nil || !strings.Contains(string(raw), "Subject: Wait with NX-") {
		t.Errorf("%s, %v", raw, err)
	}
}

// codeOn reads the code on a document's first page.
func codeOn(t *testing.T, file string) string {
	t.Helper()
	page := filepath.Join(t.TempDir(), "page")
	if out, err := exec.Command("pdftoppm", "-gray", "-singlefile", "-r", "100", file, page).CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	raw, err := exec.Command("zbarimg", "--quiet", "--raw", page+".pgm").Output()
	if err != nil {
		t.Fatal(err)
	}
	return strings.TrimSpace(string(raw))
}

// TestCheckedWithoutServer: a telephone that has once asked about a code checks the next one's signature when the server is gone: the
// number and the revision that are printed belong to it, and others do not.
func TestCheckedWithoutServer(t *testing.T) {
	d := among(t, "/")
	d.allowed = "ERR_CONNECTION"
	d.PressButton(".sign-in button", "Mira")
	d.Wait(`location.pathname === '/desk'`)
	type line struct {
		ID               int64
		Number, Revision string
	}
	issued := value[line](d, `fetch('/api/issued').then((a) => a.json()).then((all) => all.find((i) => i.what === 'card'))
		.then((i) => ({ID: i.id, Number: i.number, Revision: i.revision}))`)
	pdf := value[string](d, fmt.Sprintf(`fetch('/api/issued/%d').then((a) => a.blob())
		.then((b) => new Promise((go) => { const r = new FileReader(); r.onload = () => go(r.result.split(',')[1]);
		r.readAsDataURL(b); }))`, issued.ID))
	raw, err := base64.StdEncoding.DecodeString(pdf)
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "card.pdf")
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	code := codeOn(t, file)
	d.Open(code)
	d.Wait(`document.querySelector('.standing')?.innerText.includes('Superseded')`)
	value[bool](d, `navigator.serviceWorker.ready.then(() => true)`)
	if !value[bool](d, `caches.open('nexufix-check-1').then((c) => c.match('/v/keys')).then((k) => Boolean(k))`) {
		t.Error("the keys are not kept")
	}
	if err := d.app.Stop(); err != nil {
		t.Fatal(err)
	}
	d.Open(code)
	d.See("form:not([hidden])")
	check := func(number, revision, answer string) {
		t.Helper()
		d.Fill("#number", number)
		d.Fill("#revision", revision)
		d.PressButton("button", "Check")
		d.Wait(`document.querySelector('#answer').innerText === "` + answer + `"`)
	}
	check("NX-2026-99999", issued.Revision, "Not as it was issued")
	check(strings.ToLower(issued.Number), issued.Revision, "Signed by the desk")
	check(issued.Number, "Q", "Not as it was issued")
	d.Open(strings.Split(code, "?")[0]) // as it is typed
	d.Wait(`document.querySelector('#what').innerText.includes('no signature')`)
}

// TestCodeOfNobody: a code that is not one of ours is told as such, and nothing else.
func TestCodeOfNobody(t *testing.T) {
	d := among(t, "/v/0000000000000000")
	d.allowed = "404"
	d.Wait(`document.querySelector('.standing.bad')?.innerText === 'Not known here'`)
	if got, err := http.Get(d.app.URL + "/v/%00%2e%2e"); err != nil || got.StatusCode != http.StatusNotFound {
		t.Error(got, err)
	}
	if _, err := os.Stat(filepath.Join(d.app.Data, "nexufix.db")); err != nil {
		t.Error(err)
	}
}

// TestRangeByHand: an engineer picks a bracket and sends what is alike on it; an approver opens it from the desk by its key, has to look
// at a sample first, and approves all with one press.
func TestRangeByHand(t *testing.T) {
	d := among(t, "/")
	d.allowed = "40"
	d.PressButton(".sign-in button", "Mira")
	d.Wait(`location.pathname === '/desk'`)
	d.PressButton("a", "Send a range")
	d.Click(`.range input[role="combobox"]`)
	d.Type("crumb")
	d.Wait(`document.querySelector('[role="option"]')?.dataset.id === 'crumb-15'`)
	d.Type("\r")
	d.Wait(`document.querySelectorAll('.range .family').length > 5`)
	d.Click(`.range input[aria-label^="words"]`)
	d.Type("men")
	d.Wait(`document.querySelectorAll('.range .family').length === 1`)
	d.isView(view{name: "range", at: "/reviews/range"})
	d.PressButton(".range button", "Send 2 for review")
	d.Wait(`document.querySelector('.family-review')?.innerText.includes('somebody else does')`)

	tomas := sitAt(t, d.app, "/")
	tomas.allowed = "40"
	tomas.PressButton(".sign-in button", "Tomas")
	tomas.Wait(`document.querySelector('[data-part="waiting"]')?.innerText.includes('2 alike')`)
	tomas.Wait(`document.querySelectorAll('[data-part="waiting"] tbody tr').length === 3`) // that of the demo, this one, and a job
	tomas.Type("1")                                                                        // the last one that was sent
	tomas.Wait(`document.querySelector('.family-review h1')?.innerText.includes('wood stud')`)
	tomas.isView(view{name: "family", at: "/reviews/family"})
	tomas.Wait(`[...document.querySelectorAll('.decide button')].find((b) => b.innerText === 'Approve all')?.disabled`)
	tomas.PressButton(".family-review a", "Brindle Menu 43")
	tomas.See(`.review[data-ready="yes"]`)
	tomas.Back()
	tomas.Wait(`document.querySelector('.family-review')?.innerText.includes('opened')`)
	tomas.PressButton(".decide button", "Approve all")
	tomas.Wait(`location.pathname === '/desk' && document.querySelectorAll('[data-part="waiting"] tbody tr').length === 2`)
	tomas.Wait(`document.body.innerText.includes('2 are approved')`)
	d.Wait(`document.querySelector('.family-review')?.innerText.includes('in review any more')`) // somebody else has decided
	d.PressButton(".family-review a", "To the desk")
	d.Wait(`document.querySelector('[data-part="worth"]')?.innerText.includes('turn a bolt in by hand')`)
	d.PressButton(`[data-part="worth"] a`, "Tarn Oven View 19")
	d.Fill(`input[data-path="mass_kg"]`, "5.2")
	d.Click(`header a[href^="/desk"]`)
	d.Wait(`document.querySelector('[data-part="left"]')?.innerText.includes('tarn-oven-view-19')`) // typed, and not saved
	d.Wait(`[...document.querySelectorAll('[aria-label="All reviews"] tr')].filter((r) => r.innerText.includes('wood stud') &&
		r.innerText.includes('approved')).length === 2`)
}

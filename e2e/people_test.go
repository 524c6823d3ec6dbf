package e2e

import (
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"

	"nexufix/e2e/drive"
)

// among is a demo with its people.
func among(t *testing.T, at string) *desk {
	t.Helper()
	t.Parallel()
	app, err := drive.StartWithPeople(program, filepath.Join(t.TempDir(), "data"))
	return sitAt(t, running(t, app, err), at)
}

// TestPeopleByHand: nobody is let in without signing in, and a wrong password is told as such; an
// administrator adds somebody, whose bad password is said at its field; who was added signs in elsewhere, with
// a name that stands in the history, and may not make people; let in no more, the session ends at once.
func TestPeopleByHand(t *testing.T) {
	d := among(t, "/catalogue")
	d.allowed = "40" // what is refused
	d.See(".sign-in form")
	d.isView(view{name: "sign in", at: "/"})
	d.Click(`input[name="login"]`)
	d.Type("ada\tno such password\r")
	d.Wait(`document.querySelector('.sign-in').innerText.includes('not the login and its password')`)
	d.PressButton(".sign-in button", "Ada")
	d.Wait(`document.querySelectorAll('.MuiDataGrid-row').length > 8`) // where it was to go
	d.Click(`a[href^="/people"]`)
	d.See(`[data-login="mira"]`)
	d.isView(view{name: "people", at: "/people"})
	d.Click(`form input[name="name"]`)
	d.Type("Nora Plinth\tnora\tpassword1234")
	d.PressButton(`.people button[type="submit"]`, "Add")
	d.Wait(`[...document.querySelectorAll('.people .Mui-error')].some((e) => e.innerText.includes('common'))`)
	d.Fill(`form input[name="password"]:not([autocomplete="new-password"])`, "seven loaves on a rail")
	d.PressButton(`.people button[type="submit"]`, "Add")
	d.See(`[data-login="nora"]`)
	d.Wait(`document.querySelector('.audit').innerText.includes('nora as engineer')`)

	nora := sitAt(t, d.app, "/")
	nora.allowed = "40"
	nora.Click(`input[name="login"]`)
	nora.Type("Nora\tseven loaves on a rail\r")
	nora.choosesOwn("seven loaves on a rail")
	nora.Wait(`document.querySelector('header')?.innerText.includes('Nora Plinth')`)
	nora.Click(`a[href^="/people"]`)
	nora.Wait(`document.querySelector('.people h1')?.innerText === 'Nora Plinth' && !document.querySelector('[data-login]')`)
	nora.Fill(`form input[name="current"]`, "six loaves on a rail")
	nora.Fill(`form input[name="password"]`, "nora plinth 1234")
	nora.PressButton(".people button", "Change password")
	nora.Wait(`[...document.querySelectorAll('.people .Mui-error')].some((e) => e.innerText.includes('not your password')) &&
		[...document.querySelectorAll('.people .Mui-error')].some((e) => e.innerText.includes('name'))`)
	nora.Fill(`form input[name="current"]`, ownPassword)
	nora.Fill(`form input[name="password"]`, "eight loaves on a rail")
	nora.PressButton(".people button", "Change password")
	nora.Wait(`document.body.innerText.includes('The password is changed')`)
	nora.Open(d.app.URL + "/catalogue/displays/velmora-pane-49")
	nora.Fill(`input[data-path="mass_kg"]`, "14.9")
	nora.Fill(`input[placeholder="why it is changed"]`, "weighed")
	nora.PressButton("button", "Save")
	nora.Wait(`document.body.innerText.includes('revision 2')`)
	nora.Open(d.app.URL + "/catalogue/history")
	nora.Wait(`document.querySelector('main').innerText.includes('Nora Plinth')`)

	d.PressButton(`[data-login="nora"] button`, "Reset password")
	d.See(`[data-login="nora"] input[type="password"]`)
	d.Type("nine loaves on a rail\r") // the field has the focus
	d.Wait(`document.body.innerText.includes('Nora Plinth has another password') &&
		!document.querySelector('[data-login="nora"] input[type="password"]')`)
	nora.See(".sign-in form") // at once, without a press
	nora.Click(`input[name="login"]`)
	nora.Type("nora\tnine loaves on a rail\r")
	nora.choosesOwn("nine loaves on a rail")
	nora.Wait(`document.querySelector('header')?.innerText.includes('Nora Plinth')`)

	d.PressButton(`[data-login="nora"] button`, "Disable")
	d.Wait(`document.querySelector('[data-login="nora"]').innerText.includes('Enable')`)
	nora.See(".sign-in form")
}

// TestOwnAccountByHand: somebody gives a mail address, adds an authenticator and a passkey, and signs in elsewhere with the code and by the
// passkey; ends the other session; is given a token, which they end; and an administrator takes the second factor away.
func TestOwnAccountByHand(t *testing.T) {
	d := among(t, "/people")
	d.allowed = "40"
	d.PressButton(".sign-in button", "Ada")
	d.See(`[data-login="mira"]`)
	d.Click(`form input[name="name"]`)
	d.Type("Nora Plinth\tnora\tseven loaves on a rail\tnora at desk")
	d.PressButton(`.people button[type="submit"]`, "Add")
	d.Wait(`[...document.querySelectorAll('.people .MuiFormHelperText-root')].some((e) => e.innerText.includes('no mail address'))`)
	d.Fill(`input[name="mail"]`, "nora@desk.example\r")
	d.See(`[data-login="nora"]`)

	nora := sitAt(t, d.app, "/")
	nora.allowed = "40"
	named := strings.Replace(d.app.URL, "127.0.0.1", "localhost", 1)
	nora.Passkeys()
	nora.Open(named)
	nora.Click(`input[name="login"]`)
	nora.Type("nora\tseven loaves on a rail\r")
	nora.choosesOwn("seven loaves on a rail")
	nora.Wait(`document.querySelector('header')?.innerText.includes('Nora Plinth')`)
	nora.Click(`a[href^="/people"]`)
	nora.See(`.second`)
	nora.PressButton(".people .press", "Change")
	nora.Fill(`input[name="mail"]`, "nora@desk")
	nora.Type("\t" + ownPassword + "\r")
	nora.Wait(`document.querySelector('.people').innerText.includes('nora@desk') && !document.querySelector('input[name="mail"]')`)

	nora.PressButton(".second .press", "Add an authenticator")
	nora.Type("six loaves on a rail\r") // the field has the focus
	nora.Wait(`document.querySelector('.second .MuiFormHelperText-root')?.innerText.includes('not your password')`)
	nora.Fill(`.second input[name="current"]`, ownPassword)
	nora.PressButton(".second button", "Show the secret")
	nora.See(".second code")
	secret := strings.ReplaceAll(nora.Text(".second code"), " ", "")
	nora.Type("12345\r")
	nora.Wait(`document.querySelector('.second .MuiFormHelperText-root')?.innerText.includes('not the code')`)
	code := func(off time.Duration) string {
		c, err := totp.GenerateCode(secret, time.Now().Add(off))
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	nora.Fill(`.second input[name="code"]`, code(0))
	nora.Type("\r")
	nora.Wait(`document.querySelector('.second').innerText.includes('Remove the authenticator')`)
	nora.PressButton(".second .press", "Add a passkey")
	nora.Type(ownPassword + "\r")
	nora.See(".second .passkey")
	nora.isView(view{name: "own account", at: "/people"})

	// Elsewhere: the password alone is not enough, nor a wrong code.
	phone := sitAt(t, d.app, "/people")
	phone.allowed = "40"
	phone.Click(`input[name="login"]`)
	phone.Type("nora\t" + ownPassword + "\r")
	phone.See(`.sign-in input[name="code"]`)
	phone.Type("12345x\r")
	phone.Wait(`document.querySelector('.sign-in').innerText.includes('and a new code')`)
	phone.Fill(`.sign-in input[name="code"]`, code(0))
	phone.Type("\r")
	phone.Wait(`document.querySelectorAll('.sessions tbody tr').length === 2`)
	nora.Reload()
	nora.Wait(`document.querySelectorAll('.sessions tbody tr').length === 2`)
	nora.PressButton(".sessions .press", "End")
	nora.Wait(`document.querySelectorAll('.sessions tbody tr').length === 1`)
	phone.See(".sign-in form")

	nora.PressButton(".people .press", "Sign out")
	nora.See(".by-passkey")
	nora.Click(".by-passkey")
	nora.Wait(`document.querySelector('header')?.innerText.includes('Nora Plinth')`)

	d.choose(`select[aria-label="Of"]`, "Nora Plinth", "nora")
	d.Fill(`input[name="days"]`, "400\r")
	d.Wait(`[...document.querySelectorAll('.people .MuiFormHelperText-root')].some((e) => e.innerText.includes('366'))`)
	d.Fill(`input[name="days"]`, "30")
	d.Fill(`form:has(input[name="days"]) input[name="name"]`, "stock list")
	d.PressButton(".people button", "Give a token")
	d.See(".token-text code")
	d.See(".tokens")
	d.Wait(`document.querySelector('.tokens').innerText.includes('stock list')`)
	nora.Open(named + "/people")
	nora.See(".tokens")
	nora.PressButton(".tokens .press", "End")
	nora.Wait(`!document.querySelector('.tokens')`)

	d.PressButton(`[data-login="nora"] button`, "Remove second factor") // which came without a press
	d.Wait(`!document.querySelector('[data-login="nora"]').innerText.includes('Remove')`)
	nora.See(".sign-in form") // at once, without a press
	nora.Click(`input[name="login"]`)
	nora.Type("nora\t" + ownPassword + "\r")
	nora.Wait(`document.querySelector('header')?.innerText.includes('Nora Plinth')`)
}

// TestSecondFactorFirst: where a role shows a second factor, who has none sets it up before they see anything else, and the next time signs
// in with its code.
func TestSecondFactorFirst(t *testing.T) {
	t.Parallel()
	data := filepath.Join(t.TempDir(), "data")
	add := exec.Command(program, "user", "add", "ada", "--name", "Ada Quillmark", "--role", "administrator", "--data", data)
	add.Stdin = strings.NewReader(ownPassword + "\n")
	if out, err := add.CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	app, err := drive.Start(program, "serve", data, "--second-factor", "approver")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = app.Stop() })
	d := sitAt(t, app, "/")
	d.allowed = "40"
	sign := func() {
		d.Click(`input[name="login"]`)
		d.Type("ada\t" + ownPassword + "\r")
	}
	sign()
	d.See(".first-second .second")
	d.isView(view{name: "second factor first", at: "/first"})
	d.PressButton(".first-second .press", "Sign out")
	d.See(".sign-in form")
	sign()
	d.See(".first-second .second")
	d.PressButton(".second .press", "Add an authenticator")
	d.Type(ownPassword + "\r")
	d.See(".second code")
	secret := strings.ReplaceAll(d.Text(".second code"), " ", "")
	code := func(off time.Duration) string {
		c, err := totp.GenerateCode(secret, time.Now().Add(off))
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	d.Type(code(0) + "\r") // the field has the focus
	d.Wait(`document.querySelector('header')?.innerText.includes('Ada Quillmark')`)
	d.Open(app.URL + "/people")
	d.PressButton(".people .press", "Sign out")
	d.See(".sign-in form")
	sign()
	d.See(`.sign-in input[name="code"]`)
	d.Type(code(30*time.Second) + "\r")
	d.Wait(`document.querySelector('header')?.innerText.includes('Ada Quillmark')`)
}

// TestSingleSignOnByHand: the identity provider's page sends back whoever is picked there: to their desk, or to the door with the reason
// where nobody here has the account; and an administrator adds somebody who signs in there.
func TestSingleSignOnByHand(t *testing.T) {
	d := among(t, "/")
	d.allowed = "40"
	pick := func(who string) {
		d.Click(".sign-in .sso")
		d.Wait(`document.body.innerText.includes('stands in for')`)
		d.PressButton("a", who)
	}
	pick("None of them")
	d.Wait(`document.querySelector('.sign-in')?.innerText.includes('You were not signed in there')`)
	pick("Somebody who has no account")
	d.Wait(`document.querySelector('.sign-in')?.innerText.includes('nobody here has that account')`)
	d.PressButton(".sign-in button", "Ada")
	d.Click(`a[href^="/people"]`)
	d.See(`[data-login="ines"]`)
	d.choose(`select[aria-label="How they sign in"]`, "by", "sso")
	d.Click(`form input[name="name"]`)
	d.Type("Otto Verge\totto")
	d.PressButton(`.people button[type="submit"]`, "Add")
	d.See(`[data-login="otto"]`)
	d.PressButton(".people button", "Sign out")
	pick("Otto Verge")
	d.Wait(`location.pathname === '/desk' && document.querySelector('header')?.innerText.includes('Otto Verge')`)
	d.Click(`a[href^="/people"]`)
	d.Wait(`document.querySelector('.people')?.innerText.includes('You sign in by single sign-on')`)
}

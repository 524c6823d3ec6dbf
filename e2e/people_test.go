package e2e

import (
	"path/filepath"
	"strings"
	"testing"

	"nexufix/e2e/drive"
)

// among is a demo with its people.
func among(t *testing.T, at string) *desk {
	t.Helper()
	t.Parallel()
	app, err := drive.StartWithPeople(program, filepath.Join(t.TempDir(), "data"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := app.Stop(); err != nil && !strings.Contains(err.Error(), "already finished") {
			t.Errorf("the program did not stop cleanly: %v", err)
		}
	})
	return sitAt(t, app, at)
}

// TestPeopleByHand: nobody is let in without signing in, and a wrong password is told as such; an
// administrator adds somebody, whose bad password is said at its field; who was added signs in elsewhere, with
// a name that stands in the history, and may not make people; let in no more, the session ends at once.
// It is long because it is one story, from its first step to its last.
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
	d.PressButton(".people button", "Add")
	d.Wait(`[...document.querySelectorAll('.people .Mui-error')].some((e) => e.innerText.includes('common'))`)
	d.Fill(`form input[name="password"]:not([autocomplete="new-password"])`, "seven loaves on a rail")
	d.PressButton(".people button", "Add")
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
	nora.Click(`nav a[href^="/saved"]`)
	nora.See(".sign-in form")
	nora.Click(`input[name="login"]`)
	nora.Type("nora\tnine loaves on a rail\r")
	nora.choosesOwn("nine loaves on a rail")
	nora.Wait(`document.querySelector('header')?.innerText.includes('Nora Plinth')`)

	d.PressButton(`[data-login="nora"] button`, "Disable")
	d.Wait(`document.querySelector('[data-login="nora"]').innerText.includes('Enable')`)
	nora.Click(`nav a[href^="/catalogue"]`)
	nora.See(".sign-in form")
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
	d.PressButton(".people button", "Add")
	d.See(`[data-login="otto"]`)
	d.PressButton(".people button", "Sign out")
	pick("Otto Verge")
	d.Wait(`location.pathname === '/desk' && document.querySelector('header')?.innerText.includes('Otto Verge')`)
	d.Click(`a[href^="/people"]`)
	d.Wait(`document.querySelector('.people')?.innerText.includes('You sign in by single sign-on')`)
}

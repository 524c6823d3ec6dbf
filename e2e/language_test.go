package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// TestPageInGerman: the language is chosen in the help, by the keyboard; the page, what is judged, figures and dates are in it, and what is
// typed with a comma is read. It stays until another is chosen.
func TestPageInGerman(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	d.Press("?")
	d.See(`[aria-label="Language of the page"]`)
	d.Click(`[aria-label="Language of the page"]`)
	d.Type(kb.Escape)
	d.Type("Deu")
	d.Wait(`document.documentElement.lang === 'de' && document.querySelector('.stamp')?.innerText === 'Passt mit Auflagen'`)
	d.Ready()
	if said := d.Text("body"); !strings.Contains(said, "Jedes Loch ist sicher") || !strings.Contains(said, "mindestens 0 mm") {
		t.Errorf("the findings: %.600s", said)
	}
	d.Wait(`[...document.querySelectorAll('.drawing svg text')].some((x) => x.textContent.startsWith('Spitze frei'))`)
	d.Wait(`document.querySelector('[aria-label="Platte"]').value === '2,5'`)
	d.Fill(`[aria-label="Platte"]`, "3,5")
	d.Ready()
	d.Wait(`!document.body.innerText.includes('erlaubt:')`)
	d.Fill(`[aria-label="Platte"]`, "drei")
	d.Wait(`document.body.innerText.includes('erlaubt: eine Zahl in mm')`)
	d.Press("z")
	// Every view's name is German, and leads to it.
	for _, name := range []string{"Wand", "Schritte", "Katalog", "Vorgaben", "Aufträge"} {
		d.PressButton("nav a", name)
		d.Wait(`document.querySelector('nav [aria-current="page"]')?.innerText === '` + name + `'`)
	}
	d.Wait(`document.title === 'Aufträge – Nexufix' && document.querySelectorAll('.job-rows [data-job]').length > 20`)
	d.Reload()
	d.See(".job-rows [data-job]")
	d.Wait(`!/[a-z] on [A-Z]/.test(document.querySelector('.job-rows').innerText)`)
}

// leftInEnglish are words of the page that are English in no other language.
const leftInEnglish = `document.body.innerText.replace(/Halden Wall \d+|found in the store room|over the \w+|[\w-]+-[\w-]+/g, '')
	.match(/\b(the|with|and|of|saved|takes|bracket|wall|stud|not|which|what)\b/gi)?.join(' ') ?? ''`

// TestViewsAreInGerman: no view of the page has English words left, but for names.
func TestViewsAreInGerman(t *testing.T) {
	d := sit(t, "/jobs")
	d.Run(`localStorage.setItem('nexufix.language', 'de')`)
	for _, view := range []struct{ at, there string }{
		{"/", `document.querySelectorAll('.start li').length > 5`},
		{paneOnSill, `document.querySelector('.bench[data-ready="yes"]')`},
		{"/wall?job=signal-box-exhibit", counterOpen},
		{"/steps?job=signal-box-exhibit", `document.querySelector('[data-step="bolt"] figure svg')`},
		{"/template?job=signal-box-exhibit", `document.querySelector('.template-page svg')`},
		{"/catalogue/displays/velmora-pane-49", `document.querySelector('.editor svg')`},
		{"/policy", `document.querySelector('[data-setting="bolt_school"]')`},
		{"/jobs?q=signal-box", `document.querySelector('.job-rows [data-job]')`},
		{"/catalogue/import", `document.querySelector('.import')`},
	} {
		d.Open(d.app.URL + view.at)
		d.Wait(view.there)
		if left := value[string](d, leftInEnglish); left != "" {
			t.Errorf("%s: %s", view.at, left)
		}
	}
}

// TestLanguageGoesWithTheAccount: who has chosen a language finds it in a browser that remembers nothing, and somebody else does not.
func TestLanguageGoesWithTheAccount(t *testing.T) {
	d := among(t, "/people")
	d.See(".sign-in form")
	d.PressButton(".sign-in button", "Mira")
	d.See(`[aria-label="Language of the page"]`)
	d.Click(`[aria-label="Language of the page"]`)
	d.Type(kb.Escape)
	d.Type("Deu")
	d.See(`[aria-label="Sprache der Seite"]`)
	d.Run(`localStorage.clear()`)
	d.Reload()
	d.See(`[aria-label="Sprache der Seite"]`)
	d.PressButton("button", "Abmelden")
	d.See(".sign-in form")
	d.Click(`[aria-label="Sprache der Seite"]`)
	d.Type(kb.Escape)
	d.Type("Eng")
	d.See(`[aria-label="Language of the page"]`)
	d.PressButton(".sign-in button", "Tomas")
	d.Wait(`document.documentElement.lang === 'en' && document.querySelector('nav a')?.innerText === 'Bench'`)
}

// Package html writes a step sequence as one self-contained page, for a telephone at the wall
// and for companies without a server: one step a screen, saved ticks, a timer, both systems of
// units. Styles, scripts and figures are in the page; it loads nothing from outside.
package html

import (
	"bytes"
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"html"
	"html/template"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/render/svg"
)

// Page is what [Write] writes.
type Page struct {
	Sequence    *steps.Sequence
	Figures     map[string]*drawing.Drawing // of the steps, by name
	Photos      map[string][]byte           // of the steps, JPEG by id
	Verdict     string
	Fingerprint string // ticks are saved under it
	Inches      bool   // the system that is shown first
	Served      bool   // by the server, which lets the browser store it for use without a network

	// What was measured at the wall, as typed, and the answers to it; of a served page.
	Bar, Studs string
	HasStuds   bool
	Said       []Said
}

// Said is the answer to a measurement; Wrong means that work must not go on.
type Said struct {
	Text  quantity.Phrase
	Wrong bool
}

//go:embed page.tmpl
var source string

//go:embed page.css
var style string

//go:embed page.js
var script string

// Worker is the service worker of a served page: it answers with the stored page when there is no network.
//
//go:embed worker.js
var Worker string

// Manifest lets a telephone put a served page on its home screen. It starts with the page that it was put there from.
const Manifest = `{"name": "Nexufix steps", "short_name": "Steps", "display": "standalone", "scope": "./",
	"icons": [{"src": "../assets/icon.svg", "sizes": "any", "type": "image/svg+xml"}]}`

// Policy returns the content security policy of the page: its own style and script, by their hashes, and
// nothing from outside; a served one may also request from its own server.
func Policy(served bool) string {
	out := "default-src 'none'; style-src '" + hash(style) + "'; script-src '" + hash(script) + "'; base-uri 'none'; img-src data:"
	if served {
		return out + " 'self'; form-action 'self'; connect-src 'self'; worker-src 'self'; manifest-src 'self'; frame-ancestors 'none'"
	}
	return out + "; form-action 'none'"
}

func hash(text string) string {
	sum := sha256.Sum256([]byte(text))
	return "sha256-" + base64.StdEncoding.EncodeToString(sum[:])
}

var page = template.Must(template.New("page").Parse(source))

// words writes the page's texts in the language of its sequence.
type words struct{ language *quantity.Language }

// Say writes a sentence of the page itself.
func (w words) Say(format string, args ...any) template.HTML {
	return w.Both(quantity.Say(format, args...))
}

// Both writes a sentence in both systems of units, of which the page shows one.
func (w words) Both(p quantity.Phrase) template.HTML { return both(p.For(w.language)) }

// Plain writes a sentence without elements, as for a title.
func (w words) Plain(format string, args ...any) string {
	return quantity.Say(format, args...).For(w.language).In(quantity.Metric)
}

// Code returns the language code for HTML.
func (w words) Code() string {
	if w.language == nil {
		return "en"
	}
	return w.language.Code
}

// both writes a sentence in both systems of units, of which the page shows one.
func both(p quantity.Phrase) template.HTML {
	mm, in := html.EscapeString(p.In(quantity.Metric)), html.EscapeString(p.In(quantity.Imperial))
	if mm == in {
		return template.HTML(mm) // escaped above
	}
	return template.HTML(`<span class="mm">` + mm + `</span><span class="in">` + in + `</span>`)
}

// screen is one step for the template.
type screen struct {
	steps.Step
	Number  int
	Picture template.HTML
	Shown   []shown
}

// shown is a photograph of a step.
type shown struct {
	Source template.URL
	Shows  string
}

// Write writes the page.
func (p *Page) Write() ([]byte, error) {
	screens := make([]screen, 0, len(p.Sequence.Steps))
	for i := range p.Sequence.Steps {
		s := screen{Step: p.Sequence.Steps[i], Number: i + 1}
		if d := p.Figures[s.Figure]; d != nil {
			s.Picture = template.HTML(svg.Write(d, svg.Options{Both: true})) // made by svg.Write, which escapes texts
		}
		for _, photo := range s.Photos {
			if raw := p.Photos[photo.ID]; raw != nil {
				s.Shown = append(s.Shown, shown{template.URL("data:image/jpeg;base64," + base64.StdEncoding.EncodeToString(raw)), photo.Shows})
			}
		}
		screens = append(screens, s)
	}
	var out bytes.Buffer
	err := page.Execute(&out, map[string]any{"Page": p, "S": p.Sequence, "Steps": screens, "Of": len(screens), "Style": template.CSS(style),
		"Script": template.JS(script), "Policy": Policy(false), "L": words{p.Sequence.Language}})
	return out.Bytes(), err
}

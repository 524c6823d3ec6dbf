package bench

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/draw/install"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/steps"
	"nexufix/exchange"
	"nexufix/language"
	"nexufix/render/dxf"
	"nexufix/render/html"
	"nexufix/render/markdown"
	"nexufix/render/pdf"
	"nexufix/render/svg"
)

// Installation is a pairing's step sequence with everything that is handed over with it.
type Installation struct {
	*steps.Sequence
	Name        string // of its files
	Pairing     fit.Pairing
	Placed      []place.Placement
	Fingerprint string
	units       quantity.Units
	paper       string
	now         time.Time
	found       SiteMeasurements
	said        []html.Said
	photos      map[string][]byte // of the steps, by id
	release     *sheet.Release
}

// InstallOptions are options of an installation's files.
type InstallOptions struct {
	Paper string         // a4 or letter; "": a4
	Units quantity.Units // if the request does not say
	Now   time.Time

	Language *quantity.Language              // nil: English
	Photos   func(id string) ([]byte, error) // photographs of steps; nil if there is none
	// Ticks returns the ticked steps of a job; nil: those of its document.
	Ticks   func(j *catalog.Job) ([]catalog.Tick, error)
	Release *sheet.Release // of the pack; nil: it is a draft
}

// Papers are the papers that a pack can be written for.
var Papers = []string{"a4", "letter"}

// StepFormats are the formats of a step sequence's file.
var StepFormats = []string{"json", "md", "pdf", "html", "zip"}

// Install works out the step sequence, as [Workspace.Steps] does, and what is needed to write it.
func (a *Workspace) Install(o InstallOptions) (*Installation, error) {
	p := a.Judge()
	site, err := a.StepsSite(&p)
	if err != nil {
		return nil, err
	}
	if o.Ticks != nil && site.Job != nil {
		job := *site.Job
		if job.Ticks, err = o.Ticks(&job); err != nil {
			return nil, err
		}
		site.Job = &job
	}
	seq := steps.Generate(&p, site)
	seq.Language = o.Language.With(a.translated(o.Language))
	if o.Paper == "" {
		o.Paper = Papers[0]
	}
	if o.Paper != "a4" && o.Paper != "letter" {
		return nil, exchange.Problems{{Path: "paper", Found: "is not known", Allowed: "a4, letter"}}
	}
	out := &Installation{Sequence: &seq, Name: a.Name() + "-" + seq.Wall.String(), Pairing: p, Placed: site.Places, units: a.units(),
		paper: o.Paper, now: o.Now, Fingerprint: a.Fingerprint(o.Release)}
	out.release = o.Release
	if a.Request.Units == "" {
		out.units = o.Units
	}
	if a.job != nil && len(site.Places) > 0 {
		out.Name = a.job.ID + "-" + a.Name()
	}
	return out, out.photograph(o.Photos)
}

// Language returns the language of a code, nil for English.
func Language(code string) (*quantity.Language, error) {
	l, err := language.Of(code)
	if err != nil {
		return nil, exchange.Problems{{Path: "lang", Found: strconv.Quote(code) + " is not known", Allowed: strings.Join(language.Codes(), ", ")}}
	}
	return l, nil
}

// translated returns the texts of the bracket in a language.
func (a *Workspace) translated(l *quantity.Language) map[string]string {
	if l == nil {
		return nil
	}
	return a.bracket.Translated(l.Code)
}

// SiteMeasurements are the figures measured at the wall, as typed; "" if not measured.
type SiteMeasurements struct {
	Bar   string // of the template's bar of 100 mm
	Studs string // middles of the studs from the wall's left end, with semicolons between
}

// AtWall works out the steps of a saved job, with the studs that were found at the wall instead of the recorded
// ones. A figure that cannot be read changes nothing and is reported.
func AtWall(ctx context.Context, all *exchange.Contents, job string, found SiteMeasurements, o InstallOptions) (*Installation, error) {
	at := slices.IndexFunc(all.Jobs, func(j *catalog.Job) bool { return j.ID == job })
	if at < 0 {
		return nil, exchange.Problems{Missing("job", job)}
	}
	j := *all.Jobs[at]
	said := found.applyTo(&j, o.Units)
	w, err := Open(ctx, all, Request{Turn: int(j.Turn), Site: &j})
	if err != nil {
		return nil, err
	}
	out, err := w.Install(o)
	if err != nil {
		return nil, err
	}
	out.found, out.said = found, said
	return out, nil
}

// maxFound is how many studs can be typed at the wall.
const maxFound = 100

// Studs are separated by semicolons, or by commas with a space: a comma alone may be a decimal comma, and with three
// digits or more after it could be two places.
var (
	between  = regexp.MustCompile(`\s*(;|,\s)\s*`)
	twoInOne = regexp.MustCompile(`,\d{3}`)
)

// applyTo applies the measurements to a job, and returns the answers.
func (m SiteMeasurements) applyTo(j *catalog.Job, units quantity.Units) (said []html.Said) {
	bare := quantity.Millimetre
	if units == quantity.Imperial {
		bare = quantity.Inch
	}
	if text := strings.TrimSpace(m.Bar); text != "" {
		if l, err := quantity.ParseLength(text, bare); err != nil || l <= 0 || l > quantity.Metre {
			said = append(said, html.Said{Text: quantity.Say("The bar: %q is no length.", text), Wrong: true})
		} else {
			ok, words := sheet.CheckPrint(sheet.Bars[0], l)
			said = append(said, html.Said{Text: words, Wrong: !ok})
		}
	}
	if strings.TrimSpace(m.Studs) == "" {
		return said
	}
	wrong := func(text quantity.Phrase) []html.Said {
		return append(said, html.Said{Text: quantity.Say("%v The steps below are those for the studs on record.", text), Wrong: true})
	}
	if !j.Wall.Type.HasStuds() {
		return wrong(quantity.Say("This wall has no studs."))
	}
	var at []quantity.Length
	for _, text := range between.Split(strings.TrimSpace(m.Studs), -1) {
		l, err := quantity.ParseLength(strings.TrimSpace(text), bare)
		if err != nil || twoInOne.MatchString(text) || l < 0 || l > 100*quantity.Metre || len(at) >= maxFound {
			return wrong(quantity.Say("The studs: %q is no place on the wall.", strings.TrimSpace(text)))
		}
		at = append(at, l)
	}
	slices.Sort(at)
	next := &catalog.Studs{At: slices.Compact(at)}
	if old := j.Wall.Studs; old != nil {
		next.Width = old.Width
	}
	j.Wall.Studs = next
	return append(said, html.Said{Text: quantity.Say("Worked out anew for %v studs as they were found. The job itself is as it was.",
		len(next.At))})
}

// Figures returns the drawings of the steps, by name.
func (i *Installation) Figures() map[string]*drawing.Drawing {
	return install.Figures(&i.Pairing, i.Sequence, i.Placed, i.Language)
}

// Document returns the sequence in the exchange format, if requested with its figures as pictures that show
// both systems of units.
func (i *Installation) Document(figures bool) exchange.Sequence {
	out := exchange.SequenceOf(i.Sequence, i.units)
	out.Untranslated = i.untranslated()
	if figures {
		out.Figures = map[string]string{}
		for name, d := range i.Figures() {
			out.Figures[name] = svg.Picture(d)
		}
	}
	return out
}

// untranslated returns the texts of the bracket and of an engineer without a translation.
func (i *Installation) untranslated() (out []string) {
	if i.Language == nil {
		return nil
	}
	for _, text := range i.Pairing.Bracket.Untranslated(i.Language.Code) {
		if i.Language.Words(text) == text {
			out = append(out, text)
		}
	}
	for n := range i.Steps {
		for _, text := range i.Steps[n].Text {
			if i.Steps[n].Changed {
				out = append(out, text.In(i.units))
			}
		}
	}
	return out
}

// File writes the sequence in one of [StepFormats].
func (i *Installation) File(format string) ([]byte, error) {
	switch format {
	case "json":
		return json.MarshalIndent(i.Document(true), "", "  ")
	case "md":
		return markdown.Steps(i.Sequence, i.units), nil
	case "pdf":
		return i.Pack().Write()
	case "html":
		return i.Page(false)
	case "zip":
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		if err := i.Folder(z, ""); err != nil {
			return nil, err
		}
		err := z.Close()
		return out.Bytes(), err
	}
	return nil, exchange.Problems{{Path: "format", Found: "is missing or not known", Allowed: "json, md, pdf, html, zip"}}
}

// Page writes the sequence as one page for a telephone, served or as a file.
func (i *Installation) Page(served bool) ([]byte, error) {
	out := html.Page{Sequence: i.Sequence, Figures: i.Figures(), Verdict: i.verdict(), Fingerprint: i.Fingerprint,
		Inches: i.units == quantity.Imperial, Served: served,
		Photos: i.photos,
		Bar:    i.found.Bar, Studs: i.found.Studs, Said: i.said, HasStuds: i.Wall.HasStuds()}
	return out.Write()
}

// verdicts are the texts of a cover for the verdicts of a pairing.
var VerdictTexts = map[fit.Verdict]string{fit.Fits: "Fits", fit.FitsWithConditions: "Fits with conditions",
	fit.MissingData: "A figure is missing",
	fit.DoesNotFit:  "Does not fit"}

// verdict is the one answer in words: see [place.Verdict].
func (i *Installation) verdict() string { return VerdictTexts[place.Verdict(&i.Pairing, i.Placed)] }

// pack returns everything that is handed over on paper.
func (i *Installation) Pack() *pdf.Pack {
	out := &pdf.Pack{Sequence: i.Sequence, Figures: i.Figures(), Photos: i.photos, Verdict: i.verdict(),
		Fingerprint: i.Fingerprint, Paper: i.paper, Release: i.release,
		StandsOn: place.StandsOn(&i.Pairing, i.Placed), Units: i.units, Created: i.now}
	said := map[string]bool{} // once for all displays of a run; reasons against it are printed above them
	for _, c := range i.Blocked {
		said[c.Text.In(quantity.Metric)] = true
	}
	conditions := func(all []fit.Check) {
		for _, c := range all {
			if text := c.Text.In(quantity.Metric); c.Status > fit.Note && !said[text] {
				said[text] = true
				out.Conditions = append(out.Conditions, c.Sentences())
			}
		}
	}
	conditions(i.Pairing.Words())
	for n := range i.Placed {
		conditions(i.Placed[n].Checks)
	}
	out.Card, out.Template = sheet.MeasureCard(&i.Pairing, i.sheet(false)), sheet.DrillTemplate(&i.Pairing, i.sheet(true))
	return out
}

func (i *Installation) sheet(joined bool) sheet.Sheet {
	s := sheet.Sheet{Date: i.now.Format(time.DateOnly), Joined: joined, Mark: i.Fingerprint, Blocked: i.Blocked, Language: i.Language,
		Release: i.release}
	if len(i.Placed) > 0 && len(i.Placed[0].Points) > 0 {
		s.Places = i.Placed
	}
	return s
}

// Folder writes all files of the installation into a folder of an archive.
func (i *Installation) Folder(z *zip.Writer, folder string) error {
	files := []struct {
		name string
		make func() ([]byte, error)
	}{
		{"pack.pdf", i.Pack().Write}, {"steps.html", func() ([]byte, error) { return i.Page(false) }},
		{"steps.md", func() ([]byte, error) { return i.File("md") }}, {"steps.json", func() ([]byte, error) { return i.File("json") }},
		{"template.pdf", func() ([]byte, error) { return i.drawn(sheet.DrillTemplate(&i.Pairing, i.sheet(false))) }},
		{"template.svg", func() ([]byte, error) { return i.template("svg"), nil }},
		{"template.dxf", func() ([]byte, error) { return i.template("dxf"), nil }},
		{"measures.pdf", func() ([]byte, error) { return i.drawn(sheet.MeasureCard(&i.Pairing, i.sheet(false))) }},
	}
	for _, id := range slices.Sorted(maps.Keys(i.photos)) { // with the names used in the Markdown
		files = append(files, struct {
			name string
			make func() ([]byte, error)
		}{"photos/" + id + ".jpg", func() ([]byte, error) { return i.photos[id], nil }})
	}
	for _, f := range files {
		raw, err := f.make()
		if err != nil {
			return err
		}
		if raw == nil {
			continue
		}
		w, err := z.CreateHeader(&zip.FileHeader{Name: folder + f.name, Method: zip.Deflate, Modified: i.now})
		if err != nil {
			return err
		}
		if _, err := io.Copy(w, bytes.NewReader(raw)); err != nil {
			return err
		}
	}
	return nil
}

// template is the drilling template for other programs; nil if there is none.
func (i *Installation) template(format string) []byte {
	d := sheet.DrillTemplate(&i.Pairing, i.sheet(false))
	switch {
	case d == nil:
		return nil
	case format == "dxf":
		return dxf.Write(d, dxf.Options{Units: i.units})
	}
	return svg.Write(d, svg.Options{Units: i.units, File: true})
}

// drawn writes a drawing on one sheet of its size; nil if there is none.
func (i *Installation) drawn(d *drawing.Drawing) ([]byte, error) {
	if d == nil || max(d.Width(), d.Height()) > pdf.MostSheet {
		return nil, nil
	}
	return pdf.Sheet(d, i.units, i.now)
}

// photograph loads the photographs of the steps. A missing one is a conflict, and not shown.
func (i *Installation) photograph(get func(id string) ([]byte, error)) error {
	i.photos = map[string][]byte{}
	for n := range i.Steps {
		s := &i.Steps[n]
		var missing []steps.Photo
		for _, p := range s.Photos {
			raw, err := i.photos[p.ID], error(nil)
			if raw == nil && get != nil {
				raw, err = get(p.ID)
			}
			if err != nil {
				return err
			}
			if raw == nil {
				missing = append(missing, p)
				continue
			}
			i.photos[p.ID] = raw
		}
		for _, p := range missing {
			s.Photos = slices.DeleteFunc(s.Photos, func(x steps.Photo) bool { return x == p })
			i.Conflicts = append(i.Conflicts, steps.Conflict{Change: p.Change, Step: s.ID, Why: "its photograph is not here: attach it again"})
		}
	}
	return nil
}

package bench

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/steps"
	"nexufix/exchange"
	"nexufix/render/dxf"
	"nexufix/render/pdf"
	"nexufix/render/svg"
)

// SheetOptions say which sheet is drawn, and which parts of it.
type SheetOptions struct {
	Card bool     // the measure card in place of the drilling template
	Hide []string // parts of the template, see [sheet.Shows]
	// The paper of a PDF: on a4, letter and a3 the template shows what is drilled, and the
	// whole outline only if requested.
	Paper string
	Whole bool
	// Machine leaves one entity a place to drill in a DXF.
	Machine bool
	Now     time.Time

	Language *quantity.Language // nil: English
	Release  *sheet.Release     // nil: it is a draft
}

// Sheet is a drilling template or a measure card, with a name for its file.
type Sheet struct {
	Drawing  *drawing.Drawing
	Name     string
	SiteFree bool // there is a job, but it cannot be placed on its wall
	card     bool
	machine  bool
	units    quantity.Units
	now      time.Time
}

// Sheet draws the template or the measure card: on the site, if the displays can be
// placed there.
func (a *Workspace) Sheet(o SheetOptions) (*Sheet, error) {
	for _, part := range o.Hide {
		if !slices.Contains(sheet.Shows, part) {
			return nil, exchange.Problems{{Path: "hide", Found: strconv.Quote(part) + " is not known", Allowed: strings.Join(sheet.Shows, ", ")}}
		}
	}
	p := a.Judge()
	drawn := sheet.Sheet{Date: o.Now.Format(time.DateOnly), Hide: o.Hide, Joined: !o.Whole && !o.Card && o.Paper != "" && o.Paper != "sheet"}
	drawn.Language, drawn.Release = o.Language.With(a.translated(o.Language)), o.Release
	drawn.Mark = a.Fingerprint(o.Release)
	out := &Sheet{Name: a.Name(), SiteFree: a.job != nil, card: o.Card, machine: o.Machine, units: a.units(), now: o.Now}
	all := a.Placed(&p)
	drawn.Blocked = place.Blocking(&p, all)
	if len(all) > 0 && len(all[0].Points) > 0 {
		drawn.Places, out.SiteFree = all, false
		out.Name = a.job.ID + "-" + out.Name
	} else if a.job != nil && a.job.Wall.Type != "" {
		drawn.NotOn = a.job
	}
	draw := sheet.DrillTemplate
	if o.Card {
		draw, out.Name = sheet.MeasureCard, out.Name+"-measures"
	}
	if out.Drawing = draw(&p, drawn); out.Drawing == nil {
		return nil, &NoTemplate{sheet.WhyNoDrill(&p)}
	}
	return out, nil
}

// mark is the beginning of the fingerprint by which a sheet is told apart: of what was approved, or of what a draft was drawn from.
func (a *Workspace) Fingerprint(r *sheet.Release) string {
	if r != nil && r.Mark != "" {
		return r.Mark
	}
	return exchange.Fingerprint(a.display, a.bracket, a.policy, catalog.Turn(a.Turn), a.job)
}

// Name returns the name of the pairing's files.
func (a *Workspace) Name() string { return a.display.ID + "-on-" + a.bracket.ID }

// Formats are the formats of a sheet's file.
var Formats = []string{"svg", "pdf", "dxf"}

// File writes the sheet in one of [Formats]; a PDF on a paper, see [Sheet.PDF].
func (s *Sheet) File(format, paper string) ([]byte, error) {
	switch format {
	case "svg":
		return svg.Write(s.Drawing, svg.Options{Units: s.units, File: true}), nil
	case "dxf":
		return dxf.Write(s.Drawing, dxf.Options{Units: s.units, Machine: s.machine}), nil
	case "pdf":
		return s.PDF(paper)
	}
	return nil, exchange.Problems{{Path: "format", Found: "is missing or not known", Allowed: "page, " + strings.Join(Formats, ", ")}}
}

// Picture returns the sheet as SVG in both systems of units.
func (s *Sheet) Picture() []byte { return svg.Write(s.Drawing, svg.Options{Both: true}) }

// PDF writes the sheet on one page of its size, "sheet" or "", or on pages of a paper to be
// joined; a measure card, which is not to scale, on one page of it.
func (s *Sheet) PDF(paper string) ([]byte, error) {
	switch paper {
	case "", "sheet":
		if max(s.Drawing.Width(), s.Drawing.Height()) > pdf.MostSheet {
			return nil, exchange.Problems{{Path: "paper", Found: "the drawing is longer than a PDF's page can be, 5 m", Allowed: "a4, letter, a3"}}
		}
		return pdf.Sheet(s.Drawing, s.units, s.now)
	case "a4", "letter", "a3":
		if s.card {
			size := pdf.Papers[paper]
			return pdf.Sheet(s.Drawing.FittedIn(size[0], size[1]), s.units, s.now)
		}
		raw, err := pdf.Tiled(s.Drawing, paper, s.units, s.now)
		if err != nil {
			return nil, exchange.Problems{{Path: "paper", Found: err.Error(), Allowed: "another paper, or one sheet"}}
		}
		return raw, nil
	}
	return nil, exchange.Problems{{Path: "paper", Found: "is not known", Allowed: "sheet, a4, letter, a3"}}
}

// Pages returns how many pages of a paper the sheet takes.
func (s *Sheet) Pages(paper string) int {
	if s.card {
		return 1
	}
	tiles, err := pdf.Tiles(s.Drawing, paper)
	if err != nil {
		return 1
	}
	return len(tiles)
}

// site returns the site of the steps: the job's wall, else the requested type of wall,
// else wood studs.
func (a *Workspace) StepsSite(p *fit.Pairing) (steps.Site, error) {
	site := steps.Site{Wall: a.Wall, Load: a.extra(), Center: a.Center, Places: a.Placed(p), Job: a.job}
	if a.job != nil && a.job.Wall.Type != "" {
		site.Wall = a.job.Wall.Type
	}
	if a.job != nil && !site.Center.Known && a.job.Place.Rule == "center" {
		site.Center = a.job.Place.Center
	}
	if a.job == nil && site.Wall == "" {
		site.Wall = catalog.WoodStud
	}
	if site.Wall.Name() == "" {
		return site, exchange.Problems{{Path: "wall", Found: strconv.Quote(site.Wall.String()) + " is not known", Allowed: catalog.WallNames()}}
	}
	return site, nil
}

// NoTemplate is the error for a pairing without a drilling template: the reason.
type NoTemplate struct{ Why string }

// Error gives the reason.
func (e *NoTemplate) Error() string { return "no template: " + e.Why }

package server

import (
	"cmp"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/core/template"
	"nexufix/exchange"
	"nexufix/render/dxf"
	"nexufix/render/markdown"
	"nexufix/render/pdf"
	"nexufix/render/svg"
)

// drillTemplate answers with the drilling template or the measure card as a
// file: format svg, pdf, dxf, or page for the SVG that the page shows.
func (s *Server) drillTemplate(c *echo.Context) error {
	a, d, name, err := s.sheet(c)
	if err != nil {
		return err
	}
	switch c.QueryParam("format") {
	case "page":
		return c.Blob(http.StatusOK, "image/svg+xml", svg.Write(d, svg.Options{Both: true}))
	case "svg":
		return attachment(c, name+".svg", "image/svg+xml", svg.Write(d, svg.Options{Units: a.units()}))
	case "dxf":
		return attachment(c, name+".dxf", "image/vnd.dxf", dxf.Write(d, a.units()))
	case "pdf":
		raw, err := onPaper(d, c.QueryParam("paper"), a.units())
		if err != nil {
			return err
		}
		return attachment(c, name+".pdf", "application/pdf", raw)
	}
	return exchange.Problems{{Path: "format", Found: "is missing or not known", Allowed: "page, svg, pdf, dxf"}}
}

// sheet reads a question and draws the template or the measure card that is
// asked for, on the question's site when the displays can be placed there; and
// names its file.
func (s *Server) sheet(c *echo.Context) (*asked, *drawing.Drawing, string, error) {
	a, err := s.ask(c)
	if err != nil {
		return nil, nil, "", err
	}
	p := a.judge()
	sheet := template.Sheet{Date: time.Now().Format(time.DateOnly), Mark: exchange.Fingerprint(a.display, a.bracket, a.policy, catalog.Turn(a.Turn), a.job)}
	if hide := c.QueryParam("hide"); hide != "" {
		sheet.Hide = strings.Split(hide, ",")
		for _, part := range sheet.Hide {
			if !slices.Contains(template.Shows, part) {
				return nil, nil, "", exchange.Problems{{Path: "hide", Found: strconv.Quote(part) + " is not known", Allowed: strings.Join(template.Shows, ", ")}}
			}
		}
	}
	name := a.display.ID + "-on-" + a.bracket.ID
	all := a.places(&p)
	sheet.Blocked = place.Against(&p, all)
	if len(all) > 0 && len(all[0].Points) > 0 {
		sheet.Places = all
		name = a.job.ID + "-" + name
	}
	draw := template.DrillTemplate
	switch c.QueryParam("what") {
	case "", "template":
	case "card":
		draw, name = template.MeasureCard, name+"-measures"
	default:
		return nil, nil, "", exchange.Problems{{Path: "what", Found: "is not known", Allowed: "template, card"}}
	}
	d := draw(&p, sheet)
	if d == nil {
		return nil, nil, "", problem(http.StatusUnprocessableEntity, "There is no template for this pairing.", "Because "+template.WhyNoDrill(&p)+".")
	}
	return a, d, name, nil
}

// onPaper makes a PDF of a drawing: on one sheet of its size, or on pages.
func onPaper(d *drawing.Drawing, paper string, u quantity.Units) ([]byte, error) {
	switch paper {
	case "", "sheet":
		if max(d.Width(), d.Height()) > pdf.MostSheet {
			return nil, exchange.Problems{{Path: "paper", Found: "the drawing is longer than a PDF's page can be, 5 m", Allowed: "a4, letter, a3"}}
		}
		return pdf.Sheet(d, u, time.Now())
	case "a4", "letter", "a3":
		raw, err := pdf.Tiled(d, paper, u, time.Now())
		if err != nil {
			return nil, exchange.Problems{{Path: "paper", Found: err.Error(), Allowed: "another paper, or one sheet"}}
		}
		return raw, nil
	}
	return nil, exchange.Problems{{Path: "paper", Found: "is not known", Allowed: "sheet, a4, letter, a3"}}
}

// attachment answers with a file. Names are made of ids, which have nothing
// in them that a header could trip over.
func attachment(c *echo.Context, name, kind string, raw []byte) error {
	c.Response().Header().Set("Content-Disposition", `attachment; filename="`+strings.ReplaceAll(name, `"`, "")+`"`)
	return c.Blob(http.StatusOK, kind, raw)
}

// sequence answers with the step sequence: format json or md.
func (s *Server) sequence(c *echo.Context) error {
	a, err := s.ask(c)
	if err != nil {
		return err
	}
	p := a.judge()
	wall := cmp.Or(catalog.WallType(a.Wall), catalog.WoodStud)
	seq := steps.Generate(&p, steps.Site{Wall: wall, Load: a.extra(), Center: a.center(), Places: a.places(&p)})
	switch c.QueryParam("format") {
	case "json":
		return c.JSON(http.StatusOK, exchange.SequenceOf(&seq, a.units()))
	case "md":
		return attachment(c, a.display.ID+"-on-"+a.bracket.ID+"-"+wall.String()+".md", "text/markdown; charset=utf-8", markdown.Steps(&seq, a.units()))
	}
	return exchange.Problems{{Path: "format", Found: "is missing or not known", Allowed: "json, md"}}
}

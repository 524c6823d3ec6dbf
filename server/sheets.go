package server

import (
	"cmp"
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/core/steps"
	"nexufix/core/template"
	"nexufix/exchange"
	"nexufix/render/dxf"
	"nexufix/render/markdown"
	"nexufix/render/pdf"
	"nexufix/render/svg"
)

// drillTemplate answers with the drilling template as a file: format svg, pdf,
// or page for the SVG that the page shows.
func (s *Server) drillTemplate(c *echo.Context) error {
	a, err := s.ask(c)
	if err != nil {
		return err
	}
	p := a.judge()
	d := template.DrillTemplate(&p, template.Sheet{Date: time.Now().Format(time.DateOnly)})
	if d == nil {
		return problem(http.StatusUnprocessableEntity, "There is no template for this pairing.", "Because "+template.WhyNoDrill(&p)+".")
	}
	name := a.display.ID + "-on-" + a.bracket.ID
	switch c.QueryParam("format") {
	case "page":
		return c.Blob(http.StatusOK, "image/svg+xml", svg.Write(d, svg.Options{Both: true}))
	case "svg":
		return attachment(c, name+".svg", "image/svg+xml", svg.Write(d, svg.Options{Units: a.units()}))
	case "dxf":
		return attachment(c, name+".dxf", "image/vnd.dxf", dxf.Write(d, a.units()))
	case "pdf":
		var raw []byte
		var err error
		switch paper := c.QueryParam("paper"); paper {
		case "", "sheet":
			raw, err = pdf.Sheet(d, a.units(), time.Now())
		case "a4", "letter", "a3":
			if raw, err = pdf.Tiled(d, paper, a.units(), time.Now()); err != nil {
				return exchange.Problems{{Path: "paper", Found: err.Error(), Allowed: "another paper, or one sheet"}}
			}
		default:
			return exchange.Problems{{Path: "paper", Found: "is not known", Allowed: "sheet, a4, letter, a3"}}
		}
		if err != nil {
			return err
		}
		return attachment(c, name+".pdf", "application/pdf", raw)
	}
	return exchange.Problems{{Path: "format", Found: "is missing or not known", Allowed: "page, svg, pdf, dxf"}}
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
	wall := cmp.Or(a.Wall, steps.Walls[0])
	seq := steps.Generate(&p, steps.Site{Wall: wall, Load: a.extra(), Center: a.center()})
	switch c.QueryParam("format") {
	case "json":
		return c.JSON(http.StatusOK, exchange.SequenceOf(&seq, a.units()))
	case "md":
		return attachment(c, a.display.ID+"-on-"+a.bracket.ID+"-"+wall+".md", "text/markdown; charset=utf-8", markdown.Steps(&seq, a.units()))
	}
	return exchange.Problems{{Path: "format", Found: "is missing or not known", Allowed: "json, md"}}
}

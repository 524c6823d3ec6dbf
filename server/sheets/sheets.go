package sheets

import (
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/exchange"
	"nexufix/render/html"
	"nexufix/server/api"
)

// sheet reads a request and draws the requested template or measure card.
func (s *Feature) sheet(c *echo.Context) (*app.Sheet, error) {
	a, err := api.Ask(c, s.Store)
	if err != nil {
		return nil, err
	}
	l, err := app.Language(c.QueryParam("lang"))
	if err != nil {
		return nil, err
	}
	o := app.SheetOptions{Now: time.Now().UTC(), Paper: c.QueryParam("paper"), Whole: c.QueryParam("outline") == "whole", Language: l}
	if hide := c.QueryParam("hide"); hide != "" {
		o.Hide = strings.Split(hide, ",")
	}
	switch c.QueryParam("what") {
	case "", "template":
	case "card":
		o.Card = true
	default:
		return nil, exchange.Problems{{Path: "what", Found: "is not known", Allowed: "template, card"}}
	}
	return a.Sheet(o)
}

// sheetTypes are the content types of a sheet's files.
var sheetTypes = map[string]string{"svg": "image/svg+xml", "pdf": "application/pdf", "dxf": "image/vnd.dxf"}

// drillTemplate answers with the drilling template or the measure card as a
// file: format svg, pdf, dxf, or page for the SVG that the page shows.
func (s *Feature) drillTemplate(c *echo.Context) error {
	sheet, err := s.sheet(c)
	if err != nil {
		return err
	}
	format := c.QueryParam("format")
	if format == "page" {
		return c.Blob(http.StatusOK, "image/svg+xml", sheet.Picture())
	}
	raw, err := sheet.File(format, c.QueryParam("paper"))
	if err != nil {
		return err
	}
	return api.Attachment(c, sheet.Name+"."+format, sheetTypes[format], raw)
}

// stepTypes are the content types of a step sequence's files.
var stepTypes = map[string]string{"md": "text/markdown; charset=utf-8", "pdf": "application/pdf", "html": "text/html; charset=utf-8",
	"zip": "application/zip"}

// sequence answers with the step sequence: as JSON with its figures, or as a file.
func (s *Feature) sequence(c *echo.Context) error {
	a, err := api.Ask(c, s.Store)
	if err != nil {
		return err
	}
	l, err := app.Language(c.QueryParam("lang"))
	if err != nil {
		return err
	}
	out, err := a.Install(app.InstallOptions{Paper: c.QueryParam("paper"), Now: time.Now().UTC(), Language: l, Photos: s.photos(c),
		Ticks: s.ticks(c)})
	if err != nil {
		return err
	}
	format := c.QueryParam("format")
	if format == "json" {
		return c.JSON(http.StatusOK, out.Document(c.QueryParam("figures") == "yes"))
	}
	raw, err := out.File(format)
	if err != nil {
		return err
	}
	return api.Attachment(c, out.Name+"."+format, stepTypes[format], raw)
}

// atWall answers with the steps of a saved job as a page for a telephone.
func (s *Feature) atWall(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	l, err := app.Language(c.QueryParam("lang"))
	if err != nil {
		return err
	}
	found := app.SiteMeasurements{Bar: c.QueryParam("bar"), Studs: c.QueryParam("studs")}
	out, err := app.AtWall(c.Request().Context(), all, c.Param("id"), found, app.InstallOptions{Units: app.Units(c.QueryParam("units")),
		Now: time.Now().UTC(), Language: l, Photos: s.photos(c), Ticks: s.ticks(c)})
	if err != nil {
		return err
	}
	raw, err := out.Page(true)
	if err != nil {
		return err
	}
	c.Response().Header().Set("Content-Security-Policy", html.Policy(true))
	c.Response().Header().Set("Cache-Control", "no-cache")
	return c.HTMLBlob(http.StatusOK, raw)
}

func worker(c *echo.Context) error {
	c.Response().Header().Set("Content-Security-Policy", "default-src 'none'; connect-src 'self'") // it requests the pages again
	c.Response().Header().Set("Cache-Control", "no-cache")
	return c.Blob(http.StatusOK, "text/javascript; charset=utf-8", []byte(html.Worker))
}

func manifest(c *echo.Context) error {
	return c.Blob(http.StatusOK, "application/manifest+json", []byte(html.Manifest))
}

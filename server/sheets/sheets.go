package sheets

import (
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/render/html"
	"nexufix/server/api"
)

// sheet reads a request and draws the requested template or measure card.
func (s *Feature) sheet(c *echo.Context, q *SheetQuery) (*bench.Sheet, error) {
	a, err := api.Ask(c, s.Store)
	if err != nil {
		return nil, err
	}
	l, err := bench.Language(q.Lang)
	if err != nil {
		return nil, err
	}
	o := bench.SheetOptions{Now: time.Now().UTC(), Paper: q.Paper, Whole: q.Whole == "whole", Card: q.What == "card", Language: l,
		Machine: q.Machine == "yes"}
	if q.Hide != "" {
		o.Hide = strings.Split(q.Hide, ",")
	}
	return a.Sheet(o)
}

// sheetTypes are the content types of a sheet's files.
var sheetTypes = map[string]string{"svg": "image/svg+xml", "pdf": "application/pdf", "dxf": "image/vnd.dxf"}

// drillTemplate answers with the drilling template or the measure card as a
// file: format svg, pdf, dxf, or page for the SVG that the page shows.
func (s *Feature) drillTemplate(c *echo.Context) error {
	q, err := api.Query[templateQuery](c)
	if err != nil {
		return err
	}
	sheet, err := s.sheet(c, &q.SheetQuery)
	if err != nil {
		return err
	}
	if q.Format == "page" {
		return c.Blob(http.StatusOK, "image/svg+xml", sheet.Picture())
	}
	raw, err := sheet.File(q.Format, q.Paper)
	if err != nil {
		return err
	}
	return api.Attachment(c, sheet.Name+"."+q.Format, sheetTypes[q.Format], raw)
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
	q, err := api.Query[stepsQuery](c)
	if err != nil {
		return err
	}
	l, err := bench.Language(q.Lang)
	if err != nil {
		return err
	}
	out, err := a.Install(bench.InstallOptions{Paper: q.Paper, Now: time.Now().UTC(), Language: l, Photos: s.photos(c),
		Ticks: s.ticks(c)})
	if err != nil {
		return err
	}
	if q.Format == "json" {
		return c.JSON(http.StatusOK, out.Document(q.Figures == "yes"))
	}
	raw, err := out.File(q.Format)
	if err != nil {
		return err
	}
	return api.Attachment(c, out.Name+"."+q.Format, stepTypes[q.Format], raw)
}

// atWall answers with the steps of a saved job as a page for a telephone.
func (s *Feature) atWall(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	q, err := api.Query[atWall](c)
	if err != nil {
		return err
	}
	l, err := bench.Language(q.Lang)
	if err != nil {
		return err
	}
	found := bench.SiteMeasurements{Bar: q.Bar, Studs: q.Studs}
	out, err := bench.AtWall(c.Request().Context(), all, c.Param("id"), found, bench.InstallOptions{Units: bench.Units(q.Units),
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

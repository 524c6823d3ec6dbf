package files

import (
	"bufio"
	"bytes"
	"errors"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/people"
	"nexufix/exchange"
	"nexufix/exchange/tabular"
	"nexufix/server/api"
	"nexufix/store"
)

func (s *Feature) importDocument(c *echo.Context) error {
	raw, err := api.Body(c)
	if err != nil {
		return err
	}
	contents, err := exchange.Read(raw)
	if err != nil {
		return err
	}
	n, err := s.Store.Import(c.Request().Context(), api.Author(c, ""), "Import of a document", contents, nil, nil)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, n)
}

func (s *Feature) export(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	if all, err = s.Store.Whole(c.Request().Context(), all); err != nil {
		return err
	}
	s.exported(c, "the whole catalogue, as a document")
	w := c.Response()
	w.Header().Set("Content-Disposition", `attachment; filename="nexufix.json"`)
	w.Header().Set("Content-Type", "application/json")
	out := bufio.NewWriterSize(api.NewPatient(w, http.NewResponseController(w)), 64<<10)
	if err := errors.Join(exchange.WriteTo(out, all), out.Flush()); err != nil {
		s.Log.Debug("export not sent", "err", err) // it was begun: the client sees that it is incomplete
	}
	return nil
}

// exported records it in the audit. If that cannot be written, on a full disk or a read-only server, the catalogue is exported
// all the same: it may be the way to rescue it.
func (s *Feature) exported(c *echo.Context, what string) {
	if err := people.RecordExport(c.Request().Context(), s.Store, api.Person(c), what); err != nil {
		s.Log.Warn("an export is not in the audit", "who", api.Person(c).Name, "what", what, "err", err)
	}
}

type tableKind struct {
	Kind string `path:"kind"`
}

// exportCSV answers with a table of one kind.
func (s *Feature) exportCSV(c *echo.Context) error {
	kind := c.Param("kind")
	if kind != tabular.Displays && kind != tabular.Brackets && kind != tabular.Kits {
		return store.ErrNotFound
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := tabular.WriteCSV(&out, kind, all); err != nil {
		return err
	}
	s.exported(c, kind+", as a table")
	return api.Attachment(c, kind+".csv", "text/csv; charset=utf-8", out.Bytes())
}

// exportXLSX answers with the catalogue as a workbook.
func (s *Feature) exportXLSX(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := tabular.WriteXLSX(&out, all, time.Now()); err != nil {
		return err
	}
	s.exported(c, "the whole catalogue, as a workbook")
	return api.Attachment(c, "nexufix.xlsx", api.XLSX, out.Bytes())
}

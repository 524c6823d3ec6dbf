package files

import (
	"encoding/json"
	"errors"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/imports"
	"nexufix/server/api"
	"nexufix/store"
)

// FileStep is a line about the import of a file: its progress, and at the end its result.
type FileStep struct {
	Done     int             `json:"done" required:"true"`
	Of       int             `json:"of" required:"true"`
	Imported *store.Imported `json:"imported,omitempty"`
	Failed   *api.Problem    `json:"failed,omitempty"`
}

// openFile reads a file and answers with its preview.
func (s *Feature) openFile(c *echo.Context) error {
	raw, err := api.File(c, "Only a file is taken here.")
	if err != nil {
		return err
	}
	meanings, err := s.Store.Meanings(c.Request().Context())
	if err != nil {
		return err
	}
	q, err := api.Query[fileName](c)
	if err != nil {
		return err
	}
	f, err := imports.OpenFile(c.Request().Context(), q.Name, raw, meanings)
	if err != nil {
		return err
	}
	return s.showFile(c, f)
}

// showFile puts a file on the tray and answers with its preview.
func (s *Feature) showFile(c *echo.Context, f *imports.Incoming) error {
	have, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	f.Preview(have)
	s.tray.put(owner(c), f)
	return c.JSON(http.StatusOK, f.View())
}

// owner is whose open files a request is about: a person's, or everybody's on a desk of one.
func owner(c *echo.Context) string {
	if api.Person(c).Local {
		return ""
	}
	return api.Client(c)
}

// setLayout changes what the columns mean.
func (s *Feature) setLayout(c *echo.Context) error {
	old, err := s.tray.get(owner(c), c.Param("id"))
	if err != nil {
		return err
	}
	in, err := api.Read[imports.FileLayout](c)
	if err != nil {
		return err
	}
	meanings, err := s.Store.Meanings(c.Request().Context())
	if err != nil {
		return err
	}
	f, err := old.Relaid(in, meanings)
	if err != nil {
		return err
	}
	return s.showFile(c, f)
}

// commit imports a file, and answers with its progress, line by line in
// JSON.
func (s *Feature) commit(c *echo.Context) error {
	f, err := s.tray.get(owner(c), c.Param("id"))
	if err != nil {
		return err
	}
	var lines *json.Encoder
	var flush *http.ResponseController
	rows := 0
	say := func(step FileStep) {
		if err := errors.Join(lines.Encode(step), flush.Flush()); err != nil {
			s.Log.Debug("progress not sent", "err", err) // the import goes on, or ends with its context
		}
	}
	n, err := f.Commit(c.Request().Context(), s.Store, api.Author(c, ""),
		func(all int) { rows = all; lines, flush = api.Lines(c) },
		func(done, of int) { say(FileStep{Done: done, Of: of}) })
	switch {
	case err != nil && lines == nil:
		return err
	case err != nil:
		s.Log.Error("import failed", "err", err)
		say(FileStep{Of: rows, Failed: api.Describe(err)})
	default:
		say(FileStep{Done: rows, Of: rows, Imported: &n})
	}
	return nil
}

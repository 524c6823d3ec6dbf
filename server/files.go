package server

import (
	"encoding/json"
	"errors"
	"io"
	"mime"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/store"
)

// FileStep is a line of taking a file: how far it is, and at last what it did.
type FileStep struct {
	Done     int             `json:"done" required:"true"`
	Of       int             `json:"of" required:"true"`
	Imported *store.Imported `json:"imported,omitempty"`
	Failed   *Problem        `json:"failed,omitempty"`
}

// openFile reads a file and shows what would become of it.
func (s *Server) openFile(c *echo.Context) error {
	if kind, _, err := mime.ParseMediaType(c.Request().Header.Get("Content-Type")); err != nil || kind != "application/octet-stream" {
		return problem(http.StatusUnsupportedMediaType, "Only a file is taken here.", "Send it as the body, with Content-Type: application/octet-stream.")
	}
	raw, err := io.ReadAll(c.Request().Body)
	if err != nil {
		return err
	}
	meanings, err := s.store.Meanings(c.Request().Context())
	if err != nil {
		return err
	}
	f, err := app.OpenFile(c.QueryParam("name"), raw, meanings)
	if err != nil {
		return err
	}
	return s.showFile(c, f)
}

// showFile puts a file on the tray and answers with what would become of it.
func (s *Server) showFile(c *echo.Context, f *app.Incoming) error {
	have, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	f.Look(have)
	s.tray.put(f)
	return c.JSON(http.StatusOK, f.View())
}

// layFile takes what a person says the columns mean.
func (s *Server) layFile(c *echo.Context) error {
	old, err := s.tray.get(c.Param("id"))
	if err != nil {
		return err
	}
	in, err := request[app.FileLayout](c)
	if err != nil {
		return err
	}
	meanings, err := s.store.Meanings(c.Request().Context())
	if err != nil {
		return err
	}
	f, err := old.Relaid(in, meanings)
	if err != nil {
		return err
	}
	return s.showFile(c, f)
}

// takeFile puts a file into the catalogue, and tells how far it is, a line of
// JSON at a time.
func (s *Server) takeFile(c *echo.Context) error {
	f, err := s.tray.get(c.Param("id"))
	if err != nil {
		return err
	}
	var lines *json.Encoder
	var flush *http.ResponseController
	rows := 0
	say := func(step FileStep) {
		if err := errors.Join(lines.Encode(step), flush.Flush()); err != nil {
			s.log.Debug("progress not sent", "err", err) // the work goes on, or its context ends it
		}
	}
	n, err := f.Take(c.Request().Context(), s.store, author(c, "").Who,
		func(all int) { rows = all; lines, flush = s.lines(c) },
		func(done, of int) { say(FileStep{Done: done, Of: of}) })
	switch {
	case err != nil && lines == nil:
		return err
	case err != nil:
		s.log.Error("import failed", "err", err)
		say(FileStep{Of: rows, Failed: describe(err)})
	default:
		say(FileStep{Done: rows, Of: rows, Imported: &n})
	}
	return nil
}

// lines begins an answer of JSON, a line at a time, for work that takes a
// while.
func (s *Server) lines(c *echo.Context) (*json.Encoder, *http.ResponseController) {
	w := c.Response()
	w.Header().Set("Content-Type", "application/x-ndjson")
	w.Header().Set("Cache-Control", "no-store")
	flush := http.NewResponseController(w)
	return json.NewEncoder(newPatient(w, flush)), flush
}

// Undone says what undid a batch.
type Undone struct {
	Batch int64 `json:"batch" required:"true"`
}

// undoBatch brings back what was before a batch.
func (s *Server) undoBatch(c *echo.Context) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	n, err := s.store.Undo(c.Request().Context(), author(c, "").Who, id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Undone{n})
}

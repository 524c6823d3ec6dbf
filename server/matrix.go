package server

import (
	"bytes"
	"context"
	"io"
	"log/slog"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/fit"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// matrixFeature answers with every display on every bracket.
type matrixFeature struct {
	store *store.Store
	log   *slog.Logger
	grid  fit.Grid // the cells judged before
}

// Routes returns the feature's routes.
func (s *matrixFeature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/matrix", "Every display with every bracket: lines of JSON, a MatrixHead, a MatrixRow a display as it is done, a "+
			"MatrixEnd.", nil, bench.MatrixLines{}, s.matrix).Weighs(api.Heavy).Returns(200, "application/x-ndjson"),
		api.Get("/api/matrix.csv", "The same as a table.", nil, "", s.matrixCSV).Weighs(api.Heavy).Returns(200, "text/csv"),
		api.Get("/api/matrix.xlsx", "The same as a workbook.", nil, "", s.matrixXLSX).Weighs(api.Heavy).Returns(200,
			"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
	}
}

// matrix streams the matrix of the whole catalogue, a line of JSON for each display when it is
// done. The work ends when the client leaves.
func (s *matrixFeature) matrix(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	lines, flush := api.Lines(c)
	var gone, begun bool
	shown := time.Time{} // the first line is sent at once: two thousand displays take a while
	err = bench.Matrix(c.Request().Context(), &s.grid, all, func(line any) error {
		begun = true
		err := lines.Encode(line)
		if err == nil && time.Since(shown) > 100*time.Millisecond {
			shown = time.Now()
			err = flush.Flush()
		}
		gone = err != nil
		return err
	})
	switch {
	case err == nil || gone || c.Request().Context().Err() != nil:
		return nil // it is sent, or the client has left
	case begun:
		s.log.Error("matrix not finished", "err", err) // the client sees that the last line is missing
		return nil
	}
	return err
}

// matrixFile answers with the matrix as a file.
func (s *matrixFeature) matrixFile(c *echo.Context, name, kind string, write func(context.Context, *fit.Grid, *exchange.Contents,
	io.Writer) error) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := write(c.Request().Context(), &s.grid, all, &out); err != nil {
		return err
	}
	return api.Attachment(c, name, kind, out.Bytes())
}

func (s *matrixFeature) matrixCSV(c *echo.Context) error {
	return s.matrixFile(c, "matrix.csv", "text/csv; charset=utf-8", bench.MatrixCSV)
}

func (s *matrixFeature) matrixXLSX(c *echo.Context) error {
	return s.matrixFile(c, "matrix.xlsx", api.XLSX, bench.MatrixXLSX)
}

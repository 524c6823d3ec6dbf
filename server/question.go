package server

import (
	"io"
	"mime"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/exchange"
)

// body reads a JSON request whole.
func body(c *echo.Context) ([]byte, error) {
	kind, _, err := mime.ParseMediaType(c.Request().Header.Get("Content-Type"))
	if err != nil || kind != "application/json" {
		return nil, problem(http.StatusUnsupportedMediaType, "Only JSON is taken here.", "Send Content-Type: application/json.")
	}
	return io.ReadAll(c.Request().Body)
}

// request reads a JSON request of a shape, as strictly as a document.
func request[T any](c *echo.Context) (in T, err error) {
	raw, err := body(c)
	if err != nil {
		return in, err
	}
	return in, exchange.ReadInto(raw, &in)
}

// ask reads a question and finds what it is about.
func (s *Server) ask(c *echo.Context) (*app.Workspace, error) {
	raw, err := body(c)
	if err != nil {
		return nil, err
	}
	var q app.Question
	if err := exchange.ReadInto(raw, &q); err != nil {
		return nil, err
	}
	return s.open(c, q)
}

// open finds the nouns of a question in the catalogue.
func (s *Server) open(c *echo.Context, q app.Question) (*app.Workspace, error) {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return nil, err
	}
	return app.Open(c.Request().Context(), all, q)
}

package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
)

// probe works out what trial bolts tell of a hole.
func (s *Server) probe(c *echo.Context) error {
	in, err := request[app.Trials](c)
	if err != nil {
		return err
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out, err := app.Probe(all, in)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

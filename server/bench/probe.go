package bench

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/server/api"
)

// probe answers with the result of trial bolts.
func (s *Feature) probe(c *echo.Context) error {
	in, err := api.Read[app.Trials](c)
	if err != nil {
		return err
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out, err := app.Probe(all, in)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

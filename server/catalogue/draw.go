package catalogue

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/server/api"
)

// draw draws a display or bracket as edited, and lists what the edit would
// change.
func (s *Feature) draw(c *echo.Context) error {
	in, err := api.Read[bench.Drawing](c)
	if err != nil {
		return err
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out, err := bench.Draw(c.Request().Context(), all, in)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

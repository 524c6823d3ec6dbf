package bench

import (
	"net/http"

	"nexufix/server/api"

	"github.com/labstack/echo/v5"
)

// bench answers with a judged and drawn pairing.
func (s *Feature) bench(c *echo.Context) error {
	a, err := api.Ask(c, s.Store)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, a.Bench())
}

package wall

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/server/api"
)

// wall places a pairing on its wall, after moving something on it.
func (s *Feature) wall(c *echo.Context) error {
	in, err := api.Read[app.WallRequest](c)
	if err != nil {
		return err
	}
	a, err := api.Open(c, s.Store, in.Request)
	if err != nil {
		return app.At("request.", err)
	}
	view, err := a.OnWall(in.Move)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, view)
}

// jobs lists the jobs that are saved.
func (s *Feature) jobs(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, app.Jobs(all))
}

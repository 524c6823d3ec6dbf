package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
)

// wall places a pairing on its wall, after moving something on it.
func (s *Server) wall(c *echo.Context) error {
	in, err := request[app.WallAsk](c)
	if err != nil {
		return err
	}
	a, err := s.open(c, in.Question)
	if err != nil {
		return app.At("question.", err)
	}
	view, err := a.OnWall(in.Move)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, view)
}

// jobs lists the jobs that are kept.
func (s *Server) jobs(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, app.Jobs(all))
}

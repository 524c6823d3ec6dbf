package server

import (
	"net/http"

	"github.com/labstack/echo/v5"
)

// bench judges a pairing and draws it.
func (s *Server) bench(c *echo.Context) error {
	a, err := s.ask(c)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, a.Bench())
}

package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
)

// byHand says what parts in somebody's hand do.
func (s *Server) byHand(c *echo.Context) error {
	in, err := request[app.ByHand](c)
	if err != nil {
		return err
	}
	a, err := s.open(c, in.Question)
	if err != nil {
		return err
	}
	out, err := a.ByHand(in.Hand)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

package bench

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/server/api"
)

// given answers what the parts in somebody's hand do.
func (s *Feature) given(c *echo.Context) error {
	in, err := api.Read[app.GivenStack](c)
	if err != nil {
		return err
	}
	a, err := api.Open(c, s.Store, in.Request)
	if err != nil {
		return err
	}
	out, err := a.JudgeGiven(in.Hand)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

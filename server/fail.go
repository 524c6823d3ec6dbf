package server

import (
	"encoding/json"
	"net/http"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/server/api"
)

// fail is the only place where errors are answered.
func (s *Server) fail(c *echo.Context, err error) {
	if r, unwrapErr := echo.UnwrapResponse(c.Response()); unwrapErr == nil && r.Committed {
		return
	}
	p := api.Describe(err)
	wait := p.RetryAfter
	if wait == 0 && (p.Status == http.StatusServiceUnavailable || p.Status == http.StatusTooManyRequests) {
		wait = 2
	}
	if wait > 0 {
		c.Response().Header().Set("Retry-After", strconv.Itoa(wait))
	}
	switch {
	case p.Status == http.StatusServiceUnavailable:
		s.log.Warn("request put off", "method", c.Request().Method, "path", c.Request().URL.Path, "err", err)
	case p.Status >= 500:
		s.log.Error("request failed", "method", c.Request().Method, "path", c.Request().URL.Path, "err", err)
	}
	raw, jsonErr := json.Marshal(p)
	if jsonErr != nil {
		s.log.Error("problem not written", "err", jsonErr)
		return
	}
	if err := c.Blob(p.Status, "application/problem+json", raw); err != nil {
		s.log.Warn("answer not sent", "err", err)
	}
}

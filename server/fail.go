package server

import (
	"crypto/rand"
	"encoding/json"
	"net/http"
	"strconv"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/server/api"
)

// requestID is the header that names a request, in the answer and in the log.
const requestID = "X-Request-Id"

// named names every request, and logs what was answered where that is wanted.
func (s *Server) named(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		id := rand.Text()[:16]
		c.Response().Header().Set(requestID, id)
		from := time.Now()
		err := next(c)
		if s.Access {
			status := http.StatusOK
			if r, unwrapErr := echo.UnwrapResponse(c.Response()); unwrapErr == nil && r.Status != 0 {
				status = r.Status
			}
			if err != nil {
				status = api.Describe(err).Status
			}
			// The route, not the path: codes of documents and what was typed stay out of it.
			s.log.Info("answered", "request", id, "method", c.Request().Method, "route", c.Path(), "status", status, "took", time.Since(from),
				"person", api.Person(c).ID, "from", api.Address(c))
		}
		return err
	}
}

// fail is the only place where errors are answered.
func (s *Server) fail(c *echo.Context, err error) {
	if r, unwrapErr := echo.UnwrapResponse(c.Response()); unwrapErr == nil && r.Committed {
		return
	}
	p := api.Describe(err).In(api.Language(c))
	wait := p.RetryAfter
	if wait == 0 && (p.Status == http.StatusServiceUnavailable || p.Status == http.StatusTooManyRequests) {
		wait = 2
	}
	if wait > 0 {
		c.Response().Header().Set("Retry-After", strconv.Itoa(wait))
	}
	if p.Status == http.StatusUnauthorized {
		c.Response().Header().Set("WWW-Authenticate", `Bearer realm="nexufix"`) // of scripts; a page has its own door
	}
	said := []any{"request", c.Response().Header().Get(requestID), "method", c.Request().Method, "path", c.Request().URL.Path, "err", err}
	switch {
	case p.Status == http.StatusServiceUnavailable:
		s.log.Warn("request put off", said...)
	case p.Status >= 500:
		s.log.Error("request failed", said...)
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

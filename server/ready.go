package server

import (
	"net/http"
	"net/netip"

	"github.com/labstack/echo/v5"

	"nexufix/app/people"
	"nexufix/server/api"
)

// healthz answers while the process is alive; it checks nothing else.
func (s *Server) healthz(c *echo.Context) error { return c.String(http.StatusOK, "ok\n") }

// Ready is whether the server can work, and what it cannot do.
type Ready struct {
	Ready     bool   `json:"ready" required:"true"`
	Catalogue string `json:"catalogue" required:"true" description:"ok, or why it cannot be read."`
	Database  string `json:"database" required:"true" description:"ok, or what of it is damaged."`
	Writing   string `json:"writing" required:"true" description:"ok, or why nothing can be written."`
	Disk      string `json:"disk" required:"true" description:"ok, or why no more goes on it."`
	SetAside  int    `json:"set_aside" required:"true" description:"Documents that cannot be read."`
}

// readyz reports whether the catalogue can be read, a change written, and the disk
// has room.
func (s *Server) readyz(c *echo.Context) error {
	r := s.store.Ready(c.Request().Context())
	said := func(err error) string {
		if err != nil {
			s.log.Warn("not ready", "err", err)
			return err.Error()
		}
		return "ok"
	}
	out := Ready{r.Err() == nil, said(r.Catalogue), said(r.Database), said(r.Writing), said(r.Disk), r.Aside}
	status := http.StatusOK
	if !out.Ready {
		status = http.StatusServiceUnavailable
	}
	if !mayOperate(c) {
		return c.JSON(status, map[string]bool{"ready": out.Ready})
	}
	return c.JSON(status, out)
}

// mayOperate reports whether who asks may know how the server works: this computer, where no proxy asks for another, and administrators.
func mayOperate(c *echo.Context) bool {
	ip, err := netip.ParseAddr(c.RealIP())
	return err == nil && ip.Unmap().IsLoopback() || api.Person(c).Role.May(people.Administrator)
}

// operators refuses the requests of others.
func operators(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if !mayOperate(c) {
			return api.New(http.StatusForbidden, "That is not for you.", "It takes the computer that the server runs on, or an administrator.")
		}
		return next(c)
	}
}

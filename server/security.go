package server

import (
	"net"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"
)

// secureHeaders sets what every answer carries. The page adds its own
// content security policy with a nonce.
func secureHeaders(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'; base-uri 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), payment=(), usb=()")
		return next(c)
	}
}

// onlyFromHere refuses changes that another site's page asks for, and, on a
// loopback server, requests under a name that is not local.
func onlyFromHere(loopback bool) echo.MiddlewareFunc {
	crossOrigin := http.NewCrossOriginProtection()
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			if loopback && !localName(c.Request().Host) {
				return problem(http.StatusForbidden, "This server answers on this computer only.", "Open it as 127.0.0.1 or localhost.")
			}
			if err := crossOrigin.Check(c.Request()); err != nil {
				return problem(http.StatusForbidden, "Refused: the request came from another site.", "")
			}
			return next(c)
		}
	}
}

func localName(host string) bool {
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	host = strings.Trim(host, "[]")
	ip := net.ParseIP(host)
	return strings.EqualFold(host, "localhost") || ip != nil && ip.IsLoopback()
}

package server

import (
	"net"
	"net/http"
	"net/netip"
	"slices"
	"strings"

	"nexufix/seal"
	"nexufix/server/api"

	"github.com/labstack/echo/v5"
)

// secureHeaders sets the headers of every answer. The page adds its own
// content security policy with a nonce.
func secureHeaders(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'; base-uri 'none'")
		h.Set("Cache-Control", "no-store") // cacheable answers override this
		if api.Encrypted(c) {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), payment=(), usb=()")
		return next(c)
	}
}

// Hosts are the names under which a server answers. Requests for other names are refused, because of
// DNS rebinding: a page under another name would be of the same origin.
type Hosts struct {
	Loopback bool     // the socket can be reached from this computer only
	Names    []string // further ones
	// Base is the address that is printed on issued documents, as https://desk.example; "" where nobody has said it.
	Base string
	// Path is where a proxy has the server, as /nexufix; "": at the root. The proxy may take it off, or leave it.
	Path string
	// Key signs issued documents; nil: none are issued.
	Key *seal.Key
	// Proxies are the machines that say for whom they ask, and whether the browser encrypts; this computer always may.
	Proxies []netip.Prefix
}

// forwarded takes from a request what only a proxy may say of it, where no proxy sent it.
func (h *Hosts) forwarded(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		from, err := netip.ParseAddrPort(r.RemoteAddr)
		ip := from.Addr().Unmap()
		if err != nil || !ip.IsLoopback() && !slices.ContainsFunc(h.Proxies, func(p netip.Prefix) bool { return p.Contains(ip) }) {
			for _, name := range []string{"Forwarded", "X-Forwarded-For", "X-Forwarded-Proto", "X-Forwarded-Host", "X-Real-Ip"} {
				r.Header.Del(name)
			}
		}
		return next(c)
	}
}

// HostsOf returns the names for a listener's address, and further ones, as desk.example or desk.example:8443, below a path.
func HostsOf(bound net.Addr, names []string, path string) Hosts {
	tcp, ok := bound.(*net.TCPAddr)
	h := Hosts{Loopback: ok && tcp.IP.IsLoopback(), Base: "http://" + bound.String() + path, Path: path}
	switch {
	case len(names) > 0:
		h.Base = "https://" + names[0] + path
	case ok && tcp.IP.IsUnspecified():
		h.Base = "" // no browser gets there by it
	}
	for _, name := range names {
		if host, _, err := net.SplitHostPort(name); err == nil {
			name = host
		}
		h.Names = append(h.Names, name)
	}
	return h
}

// below takes the path that a proxy has left off a request, where it has; what is asked for by the path alone is its page.
func (h *Hosts) below(next http.Handler) http.Handler {
	if h.Path == "" {
		return next
	}
	stripped := http.StripPrefix(h.Path, next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case r.URL.Path == h.Path:
			http.Redirect(w, r, h.Path+"/", http.StatusPermanentRedirect)
		case strings.HasPrefix(r.URL.Path, h.Path+"/"):
			stripped.ServeHTTP(w, r)
		default:
			next.ServeHTTP(w, r)
		}
	})
}

// allow reports whether a request's Host is one of them: localhost, numeric
// addresses (of this computer, for a loopback server), and the given names.
func (h *Hosts) allow(host string) bool {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	host = strings.Trim(host, "[]")
	if ip := net.ParseIP(host); ip != nil {
		return !h.Loopback || ip.IsLoopback()
	}
	return strings.EqualFold(host, "localhost") || slices.ContainsFunc(h.Names, func(n string) bool { return strings.EqualFold(n, host) })
}

// onlyFromHere refuses requests under a name that is not the server's, and changes and
// computations that another site's page requests.
func onlyFromHere(hosts Hosts) echo.MiddlewareFunc {
	crossOrigin := http.NewCrossOriginProtection()
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			if !hosts.allow(r.Host) {
				how := "Open it by its address, or start it with --host and this name."
				if hosts.Loopback {
					how = "It answers on this computer only: open it as 127.0.0.1 or localhost."
				}
				return api.New(http.StatusForbidden, "This server does not answer under that name.", how)
			}
			ofAPI := strings.HasPrefix(r.URL.Path, "/api/")
			if err := crossOrigin.Check(r); err != nil || ofAPI && r.Header.Get("Sec-Fetch-Site") == "cross-site" {
				return api.New(http.StatusForbidden, "Refused: the request came from another site.", "")
			}
			return next(c)
		}
	}
}

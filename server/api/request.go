package api

import (
	"io"
	"mime"
	"net/http"
	"net/netip"
	"net/url"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/app/people"
	"nexufix/exchange"
	"nexufix/store"
)

// Body reads a JSON request whole.
func Body(c *echo.Context) ([]byte, error) {
	kind, _, err := mime.ParseMediaType(c.Request().Header.Get("Content-Type"))
	if err != nil || kind != "application/json" {
		return nil, New(http.StatusUnsupportedMediaType, "Only JSON is taken here.", "Send Content-Type: application/json.")
	}
	return io.ReadAll(c.Request().Body)
}

// File reads a file that is the body of a request; what says what is taken: "Only a picture's file is taken here."
func File(c *echo.Context, what string) ([]byte, error) {
	if kind, _, err := mime.ParseMediaType(c.Request().Header.Get("Content-Type")); err != nil || kind != "application/octet-stream" {
		return nil, New(http.StatusUnsupportedMediaType, what, "Send it as the body, with Content-Type: application/octet-stream.")
	}
	return io.ReadAll(c.Request().Body)
}

// Read reads a JSON request of a shape, as strictly as a document.
func Read[T any](c *echo.Context) (in T, err error) {
	raw, err := Body(c)
	if err != nil {
		return in, err
	}
	return in, exchange.ReadInto(raw, &in)
}

// Ask reads a request and finds what it is about.
func Ask(c *echo.Context, st *store.Store) (*bench.Workspace, error) {
	raw, err := Body(c)
	if err != nil {
		return nil, err
	}
	var q bench.Request
	if err := exchange.ReadInto(raw, &q); err != nil {
		return nil, err
	}
	return Open(c, st, q)
}

// Open finds the nouns of a request in the catalogue.
func Open(c *echo.Context, st *store.Store, q bench.Request) (*bench.Workspace, error) {
	all, err := st.Catalogue(c.Request().Context())
	if err != nil {
		return nil, err
	}
	q.Language = Language(c)
	return bench.Open(c.Request().Context(), all, q)
}

// personKey is where a request keeps its person.
const personKey = "person"

// Asks sets the person of a request, for the handlers after.
func Asks(c *echo.Context, p people.Person) { c.Set(personKey, p) }

// belowKey is where a request keeps the path that a proxy has the server under.
const belowKey = "below"

// Below sets the path, as /nexufix, that a proxy has the server under; "" at the root.
func Below(path string) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			c.Set(belowKey, path)
			return next(c)
		}
	}
}

// At is a path of this server, as a browser asks for it.
func At(c *echo.Context, path string) string {
	below, _ := c.Get(belowKey).(string)
	return below + path
}

// Encrypted reports whether the browser used HTTPS, to the server or to the proxy before it.
func Encrypted(c *echo.Context) bool {
	return c.Request().TLS != nil || c.Request().Header.Get("X-Forwarded-Proto") == "https"
}

// Person is the person of a request.
func Person(c *echo.Context) people.Person {
	p, _ := c.Get(personKey).(people.Person)
	return p
}

// Address is where a request comes from: an address, of IPv6 the network of 64 bits that one line has.
func Address(c *echo.Context) string {
	ip, err := netip.ParseAddr(c.RealIP())
	if ip = ip.Unmap(); err != nil || ip.Is4() || ip.IsLoopback() {
		return c.RealIP()
	}
	line, _ := ip.WithZone("").Prefix(64) // never fails
	return line.String()
}

// Client is who asks: the person who is signed in, or the address; "" for this computer, where it is not known for whom a proxy
// forwards.
func Client(c *echo.Context) string {
	if p := Person(c); p.ID > 0 {
		return "person " + strconv.FormatInt(p.ID, 10)
	}
	from := Address(c)
	if ip, err := netip.ParseAddr(from); err == nil && ip.Unmap().IsLoopback() {
		return ""
	}
	return from
}

// Author is the author of a change: the person who is signed in, or, on a desk without accounts, the name in the
// page's header.
func Author(c *echo.Context, why string) store.Author {
	if p := Person(c); p.ID > 0 {
		return store.Author{Who: p.Name, Person: p.ID, Why: why, Policy: p.Role.May(people.Approver)}
	}
	who, err := url.QueryUnescape(c.Request().Header.Get("Nexufix-Who"))
	if err != nil {
		who = c.Request().Header.Get("Nexufix-Who") // the store says what is wrong with it
	}
	return store.Author{Who: strings.TrimSpace(who), Why: why, Policy: Person(c).Role.May(people.Approver)}
}

// PathID is the number in a path.
func PathID(c *echo.Context) (int64, error) {
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
}

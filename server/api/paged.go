package api

import (
	"cmp"
	"net/url"
	"strconv"

	"github.com/labstack/echo/v5"
)

// PageOf is how many entries a page of a list has if nothing is said.
const PageOf = 50

// Paged is the page of a list that is asked for. Total-Count says how many entries the list has, Link where the next page is.
func Paged[T any](c *echo.Context, all []T, limit, offset int) []T {
	limit = cmp.Or(limit, PageOf)
	from := min(offset, len(all))
	to := min(from+limit, len(all))
	Counted(c, len(all), limit, to)
	return all[from:to]
}

// Counted says how many entries a list has, and where the page from an entry on is, if there is one.
func Counted(c *echo.Context, total, limit, to int) {
	h := c.Response().Header()
	h.Set("Total-Count", strconv.Itoa(total))
	if to < total {
		next := url.Values{}
		for name, said := range c.Request().URL.Query() {
			next[name] = said
		}
		next.Set("limit", strconv.Itoa(limit))
		next.Set("offset", strconv.Itoa(to))
		h.Set("Link", "<"+c.Request().URL.Path+"?"+next.Encode()+`>; rel="next"`)
	}
}

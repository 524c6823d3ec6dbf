package catalogue

import (
	"net/http"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/app/imports"
	"nexufix/app/search"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// items answers with the catalogue's grid.
func (s *Feature) items(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	to := api.Reader(c, "")
	return s.grid.Of(to).Answer(c, all, func() any { return bench.Grid(all, to) })
}

// duplicates lists displays that may be the same.
func (s *Feature) duplicates(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out := []Alike{}
	for _, pair := range search.Alike(all.Displays, 100) {
		out = append(out, Alike{[]bench.Name{nameOf(pair[0]), nameOf(pair[1])}})
	}
	return c.JSON(http.StatusOK, out)
}

// Alike are two displays that may be the same.
type Alike struct {
	Displays []bench.Name `json:"displays" required:"true"`
}

func nameOf(d *catalog.Display) bench.Name { return bench.Name{ID: d.ID, Name: d.Name()} }

// together changes several displays in one transaction, as one batch.
func (s *Feature) together(c *echo.Context) error {
	in, err := api.Read[bench.BulkChange](c)
	if err != nil {
		return err
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	contents, err := in.Changed(all)
	if err != nil {
		return err
	}
	what := strconv.Itoa(len(in.IDs)) + " displays changed together"
	n, err := s.Store.Import(c.Request().Context(), api.Author(c, what), what, contents, all, nil)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, n)
}

// Merging names the display that is kept and the one that is merged into it.
type Merging struct {
	Keep string `json:"keep" required:"true" maxLength:"80"`
	Gone string `json:"gone" required:"true" maxLength:"80"`
}

// merge merges two displays: the kept one gets the figures that it lacks
// from the other, and the other's name as a further name.
func (s *Feature) merge(c *echo.Context) error {
	in, err := api.Read[Merging](c)
	if err != nil {
		return err
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	keep, gone := all.Display(in.Keep), all.Display(in.Gone)
	if keep == nil || gone == nil || keep == gone {
		return exchange.Problems{{Path: "keep", Found: in.Keep + " and " + in.Gone, Allowed: "two displays of the catalogue"}}
	}
	both, err := imports.Merged(keep, gone)
	if err != nil {
		return err
	}
	i, err := store.DisplayItem(both)
	if err != nil {
		return err
	}
	n, err := s.Store.Merge(c.Request().Context(), api.Author(c, "Merged "+gone.ID+" into "+keep.ID), i, gone.ID, all)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Undone{n})
}

package catalogue

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/app/search"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// Entry is a display or bracket in a list to pick from.
type Entry struct {
	ID     string         `json:"id" required:"true"`
	Name   string         `json:"name" required:"true"`
	Note   string         `json:"note" required:"true"` // pattern and thread, or kind
	Size   exchange.OptMM `json:"diagonal_mm,omitzero"`
	Thread string         `json:"thread,omitempty"`
}

// most is how many entries are looked for: all where a program asks for a page of them, which says how many there are.
func (q searched) most(all int) int {
	if q.Limit == 0 && q.Offset == 0 && q.Q != "" {
		return api.PageOf
	}
	return max(all, 1)
}

func (s *Feature) displays(c *echo.Context) error {
	q, err := api.Query[searched](c)
	if err != nil {
		return err
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out, to := []Entry{}, api.Language(c)
	for _, d := range api.Paged(c, s.finder(all).Find(q.Q, q.most(len(all.Displays))), q.Limit, q.Offset) {
		out = append(out, Entry{ID: d.ID, Name: d.Name(), Note: to.Words(bench.PatternsNote(d)), Size: d.Diagonal})
	}
	return c.JSON(http.StatusOK, out)
}

// finder returns the index of the catalogue's displays, updated after a change.
func (s *Feature) finder(all *exchange.Contents) *search.Index[*catalog.Display] {
	s.found.Lock()
	defer s.found.Unlock()
	switch {
	case s.found.in == all:
	case s.found.index != nil:
		s.found.in, s.found.index = all, s.found.index.With(all.Displays)
	default:
		s.found.in, s.found.index = all, search.NewIndex(all.Displays, bench.FoundBy)
	}
	return s.found.index
}

func (s *Feature) brackets(c *echo.Context) error {
	q, err := api.Query[searched](c)
	if err != nil {
		return err
	}
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out, to := []Entry{}, api.Language(c)
	words := func(b *catalog.Bracket) string { return b.Name + " " + b.ID + " " + b.Kind.String() }
	for _, b := range api.Paged(c, search.NewIndex(all.Brackets, words).Find(q.Q, q.most(len(all.Brackets))), q.Limit, q.Offset) {
		out = append(out, Entry{ID: b.ID, Name: b.Name, Note: to.Words(b.Kind.Properties().Word)})
	}
	return c.JSON(http.StatusOK, out)
}

func (s *Feature) display(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	d := all.Display(c.Param("id"))
	if d == nil {
		return store.ErrNotFound
	}
	return c.JSON(http.StatusOK, d)
}

func (s *Feature) bracket(c *echo.Context) error {
	all, err := s.Store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	b := all.Bracket(c.Param("id"))
	if b == nil {
		return store.ErrNotFound
	}
	return c.JSON(http.StatusOK, b)
}

package server

import (
	"bufio"
	"errors"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/app/search"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/store"
)

// Entry is a display or bracket in a list to pick from.
type Entry struct {
	ID     string       `json:"id" required:"true"`
	Name   string       `json:"name" required:"true"`
	Note   string       `json:"note" required:"true"` // pattern and thread, or kind
	Size   *exchange.MM `json:"diagonal_mm,omitempty"`
	Thread string       `json:"thread,omitempty"`
}

// mostFound is how many entries a picker gets.
const mostFound = 50

// mostTyped is how many letters a search may have.
const mostTyped = 200

// typed is what is searched for.
func typed(c *echo.Context) (string, error) {
	q := c.QueryParam("q")
	if n := utf8.RuneCountInString(q); n > mostTyped {
		return "", exchange.Problems{{Path: "q", Found: strconv.Itoa(n) + " characters", Allowed: "at most " + strconv.Itoa(mostTyped) + " characters"}}
	}
	return q, nil
}

func (s *Server) displays(c *echo.Context) error {
	q, err := typed(c)
	if err != nil {
		return err
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	found := s.finder(all).Find(q, mostFound)
	out := []Entry{}
	for _, d := range found {
		e := Entry{ID: d.ID, Name: d.Name(), Note: app.PatternsNote(d)}
		if d.Diagonal.Known {
			size := exchange.MM(d.Diagonal.Value)
			e.Size = &size
		}
		out = append(out, e)
	}
	return c.JSON(http.StatusOK, out)
}

// finder is the index of the catalogue's displays, brought up to each change of it.
func (s *Server) finder(all *exchange.Contents) *search.Index[*catalog.Display] {
	s.found.Lock()
	defer s.found.Unlock()
	switch {
	case s.found.in == all:
	case s.found.index != nil:
		s.found.in, s.found.index = all, s.found.index.With(all.Displays)
	default:
		s.found.in, s.found.index = all, search.NewIndex(all.Displays, app.FoundBy)
	}
	return s.found.index
}

func (s *Server) brackets(c *echo.Context) error {
	q, err := typed(c)
	if err != nil {
		return err
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out := []Entry{}
	for _, b := range search.NewIndex(all.Brackets, func(b *catalog.Bracket) string { return b.Name + " " + b.ID + " " + b.Kind }).Find(q, mostFound) {
		out = append(out, Entry{ID: b.ID, Name: b.Name, Note: app.BracketKinds[b.Kind]})
	}
	return c.JSON(http.StatusOK, out)
}

func (s *Server) display(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	d := all.Display(c.Param("id"))
	if d == nil {
		return store.ErrNotFound
	}
	return c.JSON(http.StatusOK, exchange.DisplayOf(d))
}

func (s *Server) bracket(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	b := all.Bracket(c.Param("id"))
	if b == nil {
		return store.ErrNotFound
	}
	return c.JSON(http.StatusOK, exchange.BracketOf(b))
}

// author is who asks for a change, by the header that the page sends: there
// are no accounts, people say who they are.
func author(c *echo.Context, why string) store.Author {
	who, err := url.QueryUnescape(c.Request().Header.Get("Nexufix-Who"))
	if err != nil {
		who = c.Request().Header.Get("Nexufix-Who") // the store says what is wrong with it
	}
	return store.Author{Who: strings.TrimSpace(who), Why: why}
}

func (s *Server) importDocument(c *echo.Context) error {
	raw, err := body(c)
	if err != nil {
		return err
	}
	contents, err := exchange.Read(raw)
	if err != nil {
		return err
	}
	n, err := s.store.Import(c.Request().Context(), author(c, ""), "Import of a document", contents, nil, nil)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, n)
}

func (s *Server) export(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	w := c.Response()
	w.Header().Set("Content-Disposition", `attachment; filename="nexufix.json"`)
	w.Header().Set("Content-Type", "application/json")
	out := bufio.NewWriterSize(newPatient(w, http.NewResponseController(w)), 64<<10)
	if err := errors.Join(exchange.WriteTo(out, all), out.Flush()); err != nil {
		s.log.Debug("export not sent", "err", err) // it has begun: the client sees it end too early
	}
	return nil
}

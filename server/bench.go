package server

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// benchFeature answers the requests of the bench: one pairing judged and drawn, parts
// in somebody's hand, trial bolts, and the pairings that were saved.
type benchFeature struct {
	store *store.Store
}

// Routes returns the feature's routes.
func (s *benchFeature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/bench", "Judge a pairing and draw it. Saves nothing.", bench.Request{}, bench.Bench{}, s.bench).Requires(rights.Look),
		api.Post("/api/stack", "Whether given parts are safe at each group of holes, and by how much.", bench.GivenStack{}, []bench.GivenJudged{},
			s.given).Requires(rights.Look),
		api.Post("/api/probe", "What a caller's trial bolts tell of a hole, and which to try next.", bench.Trials{}, bench.ProbeResult{},
			s.probe).Requires(rights.Look),
		api.Get("/api/pairings", "Saved pairings, the latest first.", nil, []SavedPairing{}, s.pairings),
		api.Post("/api/pairings", "Save a pairing.", bench.Request{}, SavedPairing{}, s.savePairing).Returns(201, ""),
		api.Get("/api/pairings/{id}", "One saved pairing.", api.ByID{}, OpenedPairing{}, s.pairing),
		api.Delete("/api/pairings/{id}", "Take a saved pairing off the list.", api.ByID{}, s.removePairing),
		api.Post("/api/pairings/{id}/restore", "Bring a removed pairing back.", api.ByID{}, nil, s.restorePairing).Returns(204, ""),
	}
}

// bench answers with a judged and drawn pairing.
func (s *benchFeature) bench(c *echo.Context) error {
	q, err := api.Read[bench.Request](c)
	if err != nil {
		return err
	}
	ctx := c.Request().Context()
	all, err := s.store.Catalogue(ctx)
	if err != nil {
		return err
	}
	q.Language = api.Language(c)
	a, err := bench.OpenPairing(ctx, all, q)
	if err != nil {
		return err
	}
	out := a.Bench()
	if out.DisplayRevision, err = s.revision(ctx, "display", out.Display.ID, q.DisplayRevision, &out); err != nil {
		return err
	}
	if out.BracketRevision, err = s.revision(ctx, "bracket", out.Bracket.ID, q.BracketRevision, &out); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// revision is the saved revision of a document, 0 of one that is in no catalogue. What was saved since another one is
// put into the answer.
func (s *benchFeature) revision(ctx context.Context, kind, id string, since int, out *bench.Bench) (int, error) {
	now, err := s.store.Item(ctx, kind, id)
	if errors.Is(err, store.ErrNotFound) {
		return 0, nil
	}
	if err != nil || since == 0 || since == now.Revision {
		return now.Revision, err
	}
	meanwhile, err := bench.Since(ctx, s.store, kind, id, since, now.Revision)
	if err != nil {
		return 0, err
	}
	if meanwhile != nil {
		out.Meanwhile = append(out.Meanwhile, *meanwhile)
	}
	return now.Revision, nil
}

// given answers what the parts in somebody's hand do.
func (s *benchFeature) given(c *echo.Context) error {
	in, err := api.Read[bench.GivenStack](c)
	if err != nil {
		return err
	}
	a, err := api.Open(c, s.store, in.Request)
	if err != nil {
		return err
	}
	out, err := a.JudgeGiven(in.Hand)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// SavedPairing is a line in the list of saved pairings.
type SavedPairing struct {
	ID      int64  `json:"id" required:"true"`
	Display string `json:"display" required:"true"`
	Bracket string `json:"bracket" required:"true"`
	Title   string `json:"title" required:"true"`
	Verdict string `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	SavedAt string `json:"saved_at" required:"true"`
}

// OpenedPairing is a saved pairing with what it was computed from.
type OpenedPairing struct {
	SavedPairing
	Request bench.Request    `json:"request" required:"true"`
	Result  exchange.Pairing `json:"result" required:"true"`
}

func savedOf(p store.Saved) SavedPairing {
	return SavedPairing{p.ID, p.Display, p.Bracket, p.Title, p.Verdict, p.SavedAt}
}

func (s *benchFeature) savePairing(c *echo.Context) error {
	a, err := api.Ask(c, s.store)
	if err != nil {
		return err
	}
	row, toCatalogue, err := a.Save()
	if err != nil {
		return err
	}
	id, err := s.store.SavePairing(c.Request().Context(), api.Author(c, "").Who, row, toCatalogue)
	if err != nil {
		return err
	}
	saved, err := s.store.Pairing(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, savedOf(saved))
}

func (s *benchFeature) pairings(c *echo.Context) error {
	list, err := s.store.Pairings(c.Request().Context())
	if err != nil {
		return err
	}
	out := []SavedPairing{}
	for _, p := range list {
		out = append(out, savedOf(p))
	}
	return c.JSON(http.StatusOK, out)
}

// pairing opens a saved pairing. Request and result were written by this
// program and are sent as saved.
func (s *benchFeature) pairing(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	p, err := s.store.Pairing(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, struct {
		SavedPairing
		Request json.RawMessage `json:"request"`
		Result  json.RawMessage `json:"result"`
	}{savedOf(p), json.RawMessage(p.Request), json.RawMessage(p.Result)})
}

func (s *benchFeature) removePairing(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	if err := s.store.Remove(c.Request().Context(), id); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

func (s *benchFeature) restorePairing(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	if err := s.store.Restore(c.Request().Context(), id); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// probe answers with the result of trial bolts.
func (s *benchFeature) probe(c *echo.Context) error {
	in, err := api.Read[bench.Trials](c)
	if err != nil {
		return err
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out, err := bench.Probe(all, in, api.Reader(c, in.Units))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

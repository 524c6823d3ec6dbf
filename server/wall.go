package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/app/review"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/store"
)

// wallFeature answers the requests of the wall page: placements, and jobs.
type wallFeature struct {
	store  *store.Store
	judged *review.Verdicts // of the jobs
}

// Routes returns the feature's routes.
func (s *wallFeature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/wall", "Place a pairing on its wall, draw it, and move something on it. Saves nothing.", bench.WallRequest{},
			bench.WallView{},
			s.wall).Requires(rights.Look),
		api.Get("/api/jobs", "Jobs and saved pairings: what they are called, how they stand, and who changed them last.", jobsWanted{},
			[]review.JobLine{}, s.jobs),
	}
}

// wall places a pairing on its wall, after moving something on it.
func (s *wallFeature) wall(c *echo.Context) error {
	in, err := api.Read[bench.WallRequest](c)
	if err != nil {
		return err
	}
	a, err := api.Open(c, s.store, in.Request)
	if err != nil {
		return bench.At("request.", err)
	}
	view, err := a.OnWall(in)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, view)
}

// jobsWanted are which jobs a list has, and in which order.
type jobsWanted struct {
	Q       string `query:"q" maxLength:"200" description:"Words of the names, places and references; empty for all."`
	Kind    string `query:"kind" enum:"job,pairing" description:"Only jobs, or only saved pairings."`
	State   string `query:"state" enum:"none,draft,in_review,approved,superseded,withdrawn" description:"Of the last approval."`
	Verdict string `query:"verdict" enum:"fits,fits_with_conditions,missing_data,does_not_fit" description:"The verdict, with the wall."`
	Sort    string `query:"sort" enum:"name,changed,verdict,state" description:"By name, the last changed, the worst or the open ones first."`
	Limit   int    `query:"limit" minimum:"1" maximum:"1000" description:"The most entries of an answer: 50 if nothing is said."`
	Offset  int    `query:"offset" minimum:"0" maximum:"1000000" description:"How many entries are left out before them."`
}

// jobs lists the jobs and pairings that are saved.
func (s *wallFeature) jobs(c *echo.Context) error {
	q, err := api.Query[jobsWanted](c)
	if err != nil {
		return err
	}
	wanted := review.Wanted{Q: q.Q, Kind: q.Kind, State: q.State, Verdict: q.Verdict, Sort: q.Sort}
	out, err := s.judged.Jobs(c.Request().Context(), s.store, wanted, api.Reader(c, ""))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, api.Paged(c, out, q.Limit, q.Offset))
}

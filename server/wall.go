package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/store"
)

// wallFeature answers the requests of the wall page: placements, and jobs.
type wallFeature struct {
	store *store.Store
}

// Routes returns the feature's routes.
func (s *wallFeature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/wall", "Place a pairing on its wall, draw it, and move something on it. Saves nothing.", bench.WallRequest{},
			bench.WallView{},
			s.wall).Requires(rights.Look),
		api.Get("/api/jobs", "Jobs, by name.", nil, []bench.JobLine{}, s.jobs),
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

// jobs lists the jobs that are saved.
func (s *wallFeature) jobs(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, bench.Jobs(all))
}

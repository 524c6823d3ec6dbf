// Package wall answers the requests of the wall page: placements, and jobs.
package wall

import (
	"nexufix/app"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/store"
)

// Feature has the dependencies of the routes.
type Feature struct {
	Store *store.Store
}

// Routes returns the feature's routes.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/wall", "Place a pairing on its wall, draw it, and move something on it. Saves nothing.", app.WallRequest{}, app.WallView{},
			s.wall).Requires(rights.Look),
		api.Get("/api/jobs", "Jobs, by name.", nil, []app.JobLine{}, s.jobs),
	}
}

// Package wall answers the requests of the wall page: where displays come, and the jobs.
package wall

import (
	"nexufix/app"
	"nexufix/server/api"
	"nexufix/store"
)

// Feature is what it stands on.
type Feature struct {
	Store *store.Store
}

// Routes are its operations.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/wall", "Place a pairing on its wall, draw it, and move something on it. Saves nothing.", app.WallRequest{}, app.WallView{},
			s.wall).For(app.Reader),
		api.Get("/api/jobs", "Jobs, by name.", nil, []app.JobLine{}, s.jobs),
	}
}

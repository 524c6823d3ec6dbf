// Package bench answers the requests of the bench: one pairing judged and drawn, parts
// in somebody's hand, trial bolts, and the pairings that were saved.
package bench

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
		api.Post("/api/bench", "Judge a pairing and draw it. Saves nothing.", app.Request{}, app.Bench{}, s.bench).Requires(rights.Look),
		api.Post("/api/stack", "Whether given parts are safe at each group of holes, and by how much.", app.GivenStack{}, []app.GivenJudged{},
			s.given).Requires(rights.Look),
		api.Post("/api/probe", "What a caller's trial bolts tell of a hole, and which to try next.", app.Trials{}, app.ProbeResult{},
			s.probe).Requires(rights.Look),
		api.Get("/api/pairings", "Saved pairings, the latest first.", nil, []SavedPairing{}, s.pairings),
		api.Post("/api/pairings", "Save a pairing.", app.Request{}, SavedPairing{}, s.savePairing).Returns(201, ""),
		api.Get("/api/pairings/{id}", "One saved pairing.", api.ByID{}, OpenedPairing{}, s.pairing),
		api.Delete("/api/pairings/{id}", "Take a saved pairing off the list.", api.ByID{}, s.removePairing),
		api.Post("/api/pairings/{id}/restore", "Bring a removed pairing back.", api.ByID{}, nil, s.restorePairing).Returns(204, ""),
	}
}

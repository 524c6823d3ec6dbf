// Package policy answers with the company's policies, and saves them.
package policy

import (
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
		api.Get("/api/policies", "The policy in use, those that are saved, and the defaults.", nil, CompanyPolicy{}, s.policies),
		api.Put("/api/policies", "Save a policy under a name, and use it.", NamedPolicy{}, CompanyPolicy{}, s.savePolicy).Requires(rights.Policy),
		api.Post("/api/policies/use", "Use a saved policy, or the defaults.", PolicyChoice{}, CompanyPolicy{},
			s.usePolicy).Requires(rights.Policy),
	}
}

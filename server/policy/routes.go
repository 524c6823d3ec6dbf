// Package policy answers with the company's policies, and saves them.
package policy

import (
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
		api.Get("/api/policies", "The policy in use, those that are kept, and the defaults.", nil, CompanyPolicy{}, s.policies),
		api.Put("/api/policies", "Keep a policy under a name, and use it.", NamedPolicy{}, CompanyPolicy{}, s.keepPolicy),
		api.Post("/api/policies/use", "Use a kept policy, or the defaults.", PolicyChoice{}, CompanyPolicy{}, s.usePolicy),
	}
}

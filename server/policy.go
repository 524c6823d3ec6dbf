package server

import (
	"context"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// policyFeature answers with the company's policies, and saves them.
type policyFeature struct {
	store *store.Store
}

// Routes returns the feature's routes.
func (s *policyFeature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/policies", "The policy in use, those that are saved, and the defaults.", nil, CompanyPolicy{}, s.policies),
		api.Put("/api/policies", "Save a policy under a name, and use it.", NamedPolicy{}, CompanyPolicy{}, s.savePolicy).Requires(rights.Policy),
		api.Post("/api/policies/use", "Use a saved policy, or the defaults.", PolicyChoice{}, CompanyPolicy{},
			s.usePolicy).Requires(rights.Policy),
	}
}

// CompanyPolicy is the policy in use, the saved ones, and the product's
// defaults.
type CompanyPolicy struct {
	Name     string                  `json:"name" required:"true"` // "" for the defaults
	Policy   exchange.PolicySettings `json:"policy" required:"true"`
	Saved    []store.PolicyName      `json:"saved" required:"true"`
	Defaults exchange.PolicySettings `json:"defaults" required:"true"`
}

// NamedPolicy is a policy to save and use: whole, where settings that are absent are the defaults, or as changes of the one
// that is in use, where null takes a setting back to its default.
type NamedPolicy struct {
	Name    string                   `json:"name" required:"true" maxLength:"60"`
	Policy  *exchange.PolicySettings `json:"policy,omitempty"`
	Changes []exchange.Edit          `json:"changes,omitempty" maxItems:"200"` // as typed: policy.reveal_mm, policy.bolt_school
	Units   string                   `json:"units,omitempty" enum:"mm,in"`     // of figures that name none
}

// PolicyChoice is a saved policy to use; "" for the defaults.
type PolicyChoice struct {
	Name string `json:"name" maxLength:"60"`
}

func (s *policyFeature) policies(c *echo.Context) error {
	ctx := c.Request().Context()
	all, err := s.store.Catalogue(ctx)
	if err != nil {
		return err
	}
	saved, err := s.store.Policies(ctx)
	if err != nil {
		return err
	}
	out := CompanyPolicy{Policy: exchange.PolicyOf(all.PolicyOrDefault()), Saved: saved, Defaults: exchange.PolicyOf(catalog.DefaultPolicy())}
	for _, k := range saved {
		if k.InUse {
			out.Name = k.Name
		}
	}
	return c.JSON(http.StatusOK, out)
}

func (s *policyFeature) savePolicy(c *echo.Context) error {
	in, err := api.Read[NamedPolicy](c)
	if err != nil {
		return err
	}
	if in, err = s.changed(c.Request().Context(), in); err != nil {
		return err
	}
	if err := s.store.SavePolicy(c.Request().Context(), api.Author(c, ""), strings.TrimSpace(in.Name), in.Policy.Core()); err != nil {
		return err
	}
	return s.policies(c)
}

// changed is the policy with its changes made.
func (s *policyFeature) changed(ctx context.Context, in NamedPolicy) (NamedPolicy, error) {
	if in.Policy == nil && in.Changes == nil {
		return in, exchange.Problems{{Path: "policy", Found: "is missing", Allowed: "a policy, or changes of the one in use"}}
	}
	if in.Policy == nil {
		all, err := s.store.Catalogue(ctx)
		if err != nil {
			return in, err
		}
		now := exchange.PolicyOf(all.PolicyOrDefault())
		in.Policy = &now
	}
	edits := in.Changes
	in.Changes = nil
	if err := bench.Within(edits, "policy"); err != nil {
		return in, err
	}
	// A setting that is taken away is the default's, which may be the less careful one: by a null, and not by a slip.
	var problems exchange.Problems
	for _, e := range edits {
		if e.Emptied() {
			problems = append(problems, exchange.Problem{Path: e.Path, Found: "is empty", Allowed: "a figure, or null for the default"})
		}
	}
	if problems != nil {
		return in, problems
	}
	out, _, err := exchange.Edited(in, edits, bench.Units(in.Units))
	return out, err
}

func (s *policyFeature) usePolicy(c *echo.Context) error {
	in, err := api.Read[PolicyChoice](c)
	if err != nil {
		return err
	}
	if err := s.store.UsePolicy(c.Request().Context(), api.Author(c, ""), in.Name); err != nil {
		return err
	}
	return s.policies(c)
}

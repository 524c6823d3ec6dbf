package policy

import (
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// CompanyPolicy is the policy in use, the saved ones, and the product's
// defaults.
type CompanyPolicy struct {
	Name     string                  `json:"name" required:"true"` // "" for the defaults
	Policy   exchange.PolicySettings `json:"policy" required:"true"`
	Saved    []store.PolicyName      `json:"saved" required:"true"`
	Defaults exchange.PolicySettings `json:"defaults" required:"true"`
}

// NamedPolicy is a policy to save and use. Settings that are absent are the
// defaults.
type NamedPolicy struct {
	Name   string                   `json:"name" required:"true" maxLength:"60"`
	Policy *exchange.PolicySettings `json:"policy" required:"true"`
}

// PolicyChoice is a saved policy to use; "" for the defaults.
type PolicyChoice struct {
	Name string `json:"name" maxLength:"60"`
}

func (s *Feature) policies(c *echo.Context) error {
	ctx := c.Request().Context()
	all, err := s.Store.Catalogue(ctx)
	if err != nil {
		return err
	}
	saved, err := s.Store.Policies(ctx)
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

func (s *Feature) savePolicy(c *echo.Context) error {
	in, err := api.Read[NamedPolicy](c)
	if err != nil {
		return err
	}
	if err := s.Store.SavePolicy(c.Request().Context(), api.Author(c, ""), strings.TrimSpace(in.Name), in.Policy.Core()); err != nil {
		return err
	}
	return s.policies(c)
}

func (s *Feature) usePolicy(c *echo.Context) error {
	in, err := api.Read[PolicyChoice](c)
	if err != nil {
		return err
	}
	if err := s.Store.UsePolicy(c.Request().Context(), api.Author(c, ""), in.Name); err != nil {
		return err
	}
	return s.policies(c)
}

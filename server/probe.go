package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/core/catalog"
	"nexufix/core/probe"
	"nexufix/core/quantity"
	"nexufix/core/template"
	"nexufix/exchange"
)

// Trials is what a caller told, and the bracket whose kit is in the caller's
// hands.
type Trials struct {
	Trials    []exchange.Trial `json:"trials" required:"true" maxItems:"64"`
	BracketID string           `json:"bracket_id,omitempty" maxLength:"80"`
	Units     string           `json:"units,omitempty" enum:"mm,in"`
}

// Probed is what the trials tell, with the hole drawn.
type Probed struct {
	Result  exchange.ProbeResult `json:"result" required:"true"`
	Drawing string               `json:"drawing" required:"true"` // SVG
}

func (s *Server) probe(c *echo.Context) error {
	in, err := request[Trials](c)
	if err != nil {
		return err
	}
	var kit []catalog.Item
	if in.BracketID != "" {
		all, err := s.store.Catalogue(c.Request().Context())
		if err != nil {
			return err
		}
		b := all.Bracket(in.BracketID)
		if b == nil {
			return exchange.Problems{missing("bracket", in.BracketID)}
		}
		kit = b.Kit
	}
	units := quantity.Metric
	if in.Units == "in" {
		units = quantity.Imperial
	}
	r := probe.Solve(exchange.Trials(in.Trials), kit)
	return c.JSON(http.StatusOK, Probed{exchange.ProbeResultOf(r, units), picture(template.Hole(r))})
}

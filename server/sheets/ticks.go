package sheets

import (
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// Ticked are steps that were ticked at the wall.
type Ticked struct {
	Ticks []TickedStep `json:"ticks" required:"true" minItems:"1" maxItems:"300"`
}

// TickedStep is a step that was ticked or unticked.
type TickedStep struct {
	Step string `json:"step" required:"true" pattern:"^[a-z][a-z0-9_-]{0,39}$"`
	Done bool   `json:"done"`
	At   string `json:"at,omitempty" maxLength:"40" description:"When, as RFC 3339; now by default."`
}

// Done is how many steps of a job are ticked.
type Done struct {
	Ticked int `json:"ticked" required:"true"`
}

// tick saves ticks with their job. Two telephones at one wall both have their say: what one did not touch
// stays.
func (s *Feature) tick(c *echo.Context) error {
	in, err := api.Read[Ticked](c)
	if err != nil {
		return err
	}
	now := time.Now().UTC()
	var ticks []catalog.Tick
	var wrong exchange.Problems
	for n, t := range in.Ticks {
		at := now
		if t.At != "" {
			if at, err = time.Parse(time.RFC3339, t.At); err != nil || at.After(now.Add(24*time.Hour)) {
				wrong = append(wrong, exchange.Problem{Path: fmt.Sprintf("ticks[%d].at", n), Found: t.At, Allowed: "a time of RFC 3339 that is past"})
				continue
			}
		}
		tick := catalog.Tick{Step: t.Step}
		if t.Done {
			tick.At = at.UTC().Format(time.RFC3339)
		}
		ticks = append(ticks, tick)
	}
	if wrong != nil {
		return wrong
	}
	ctx := c.Request().Context()
	i, err := s.Store.Item(ctx, "job", c.Param("id"))
	if err != nil {
		return err
	}
	saved, err := bench.SavedItemOf(i)
	if err != nil {
		return err
	}
	all, err := s.Store.Tick(ctx, saved.Job, ticks)
	if errors.Is(err, store.ErrManyTicks) {
		most := fmt.Sprintf("%d steps in all", catalog.MostTicks)
		return exchange.Problems{{Path: "ticks", Found: "are more than a job can have", Allowed: most}}
	}
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Done{len(all)})
}

// ticks returns the ticks of a saved job; none if it is not saved.
func (s *Feature) ticks(c *echo.Context) func(j *catalog.Job) ([]catalog.Tick, error) {
	return func(j *catalog.Job) ([]catalog.Tick, error) { return s.Store.Ticks(c.Request().Context(), j) }
}

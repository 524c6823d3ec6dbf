package bench

import (
	"encoding/json"
	"net/http"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// SavedPairing is a line in the list of saved pairings.
type SavedPairing struct {
	ID      int64  `json:"id" required:"true"`
	Display string `json:"display" required:"true"`
	Bracket string `json:"bracket" required:"true"`
	Title   string `json:"title" required:"true"`
	Verdict string `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	SavedAt string `json:"saved_at" required:"true"`
}

// OpenedPairing is a saved pairing with what it was computed from.
type OpenedPairing struct {
	SavedPairing
	Request app.Request      `json:"request" required:"true"`
	Result  exchange.Pairing `json:"result" required:"true"`
}

func savedOf(p store.Saved) SavedPairing {
	return SavedPairing{p.ID, p.Display, p.Bracket, p.Title, p.Verdict, p.SavedAt}
}

func (s *Feature) savePairing(c *echo.Context) error {
	a, err := api.Ask(c, s.Store)
	if err != nil {
		return err
	}
	row, toCatalogue, err := a.Save()
	if err != nil {
		return err
	}
	id, err := s.Store.SavePairing(c.Request().Context(), api.Author(c, "").Who, row, toCatalogue)
	if err != nil {
		return err
	}
	saved, err := s.Store.Pairing(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, savedOf(saved))
}

func (s *Feature) pairings(c *echo.Context) error {
	list, err := s.Store.Pairings(c.Request().Context())
	if err != nil {
		return err
	}
	out := []SavedPairing{}
	for _, p := range list {
		out = append(out, savedOf(p))
	}
	return c.JSON(http.StatusOK, out)
}

func pairingID(c *echo.Context) (int64, error) {
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
}

// pairing opens a saved pairing. Request and result were written by this
// program and are sent as saved.
func (s *Feature) pairing(c *echo.Context) error {
	id, err := pairingID(c)
	if err != nil {
		return err
	}
	p, err := s.Store.Pairing(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, struct {
		SavedPairing
		Request json.RawMessage `json:"request"`
		Result  json.RawMessage `json:"result"`
	}{savedOf(p), json.RawMessage(p.Request), json.RawMessage(p.Result)})
}

func (s *Feature) removePairing(c *echo.Context) error {
	id, err := pairingID(c)
	if err != nil {
		return err
	}
	if err := s.Store.Remove(c.Request().Context(), id); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

func (s *Feature) restorePairing(c *echo.Context) error {
	id, err := pairingID(c)
	if err != nil {
		return err
	}
	if err := s.Store.Restore(c.Request().Context(), id); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

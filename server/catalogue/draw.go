package catalogue

import (
	"context"
	"errors"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/server/api"
	"nexufix/store"
)

// draw draws a display or bracket as edited, and lists what the edit would
// change.
func (s *Feature) draw(c *echo.Context) error {
	in, err := api.Read[bench.Drawing](c)
	if err != nil {
		return err
	}
	ctx := c.Request().Context()
	all, err := s.Store.Catalogue(ctx)
	if err != nil {
		return err
	}
	var meanwhile *bench.Meanwhile
	if in.Display == nil && in.Bracket == nil && (in.DisplayID == "") != (in.BracketID == "") {
		if in, meanwhile, err = s.base(ctx, in); err != nil {
			return err
		}
	}
	out, err := bench.Draw(ctx, all, in, api.Reader(c, in.Units))
	if err != nil {
		return err
	}
	out.Meanwhile = meanwhile
	return c.JSON(http.StatusOK, out)
}

// base is the request with the revision that its changes are made in, and what was saved since.
func (s *Feature) base(ctx context.Context, in bench.Drawing) (bench.Drawing, *bench.Meanwhile, error) {
	kind, id := "display", in.DisplayID
	if in.BracketID != "" {
		kind, id = "bracket", in.BracketID
	}
	now, err := s.Store.Item(ctx, kind, id)
	if errors.Is(err, store.ErrNotFound) && in.Revision > 0 {
		now.Revision, err = in.Revision, nil // taken out meanwhile: saving says so
	}
	if err != nil {
		return in, nil, err
	}
	if in.Revision == 0 {
		in.Revision = now.Revision
	}
	saved, err := s.edition(ctx, kind, id, in.Revision)
	if err != nil {
		return in, nil, err
	}
	in.Display, in.Bracket = saved.Display, saved.Bracket
	meanwhile, err := bench.Since(ctx, s.Store, kind, id, in.Revision, now.Revision)
	return in, meanwhile, err
}

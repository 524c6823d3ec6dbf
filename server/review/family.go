package review

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/review"
	"nexufix/server/api"
	"nexufix/store"
)

func (f *Feature) families(c *echo.Context) error {
	q, err := api.Query[ranged](c)
	if err != nil {
		return err
	}
	r := review.Range{Bracket: q.Bracket, Wall: q.Wall, Turn: q.Turn, Words: q.Words}
	out, err := review.RangeOf(c.Request().Context(), f.Store, r)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

func (f *Feature) submitFamily(c *echo.Context) error {
	in, err := api.Read[FamilySubmission](c)
	if err != nil {
		return err
	}
	all, err := review.SubmitFamily(c.Request().Context(), f.Store, api.Person(c), in.Subjects, in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, linesOf(c, all))
}

func linesOf(c *echo.Context, all []store.Approval) []review.ApprovalLine {
	out := []review.ApprovalLine{}
	for i := range all {
		out = append(out, review.LineOf(&all[i], api.Person(c)))
	}
	return out
}

func (f *Feature) family(c *echo.Context) error {
	out, err := review.FamilyOf(c.Request().Context(), f.Store, api.Person(c), c.Param("key"))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

func (f *Feature) decideFamily(c *echo.Context) error {
	in, err := api.Read[FamilyDecision](c)
	if err != nil {
		return err
	}
	all, err := review.DecideFamily(c.Request().Context(), f.Store, api.Person(c),
		review.OfFamily{Key: c.Param("key"), Members: in.Members}, in.Act, in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, linesOf(c, all))
}

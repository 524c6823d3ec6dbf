package review

import (
	"net/http"
	"slices"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// asked reads what range is asked for.
func (ranged) read(c *echo.Context) (app.Range, error) {
	r := app.Range{Bracket: c.QueryParam("bracket"), Wall: catalog.WallType(c.QueryParam("wall")), Words: c.QueryParam("words")}
	var wrong exchange.Problems
	if !slices.Contains(catalog.WallTypes, r.Wall) {
		wrong = append(wrong, exchange.Problem{Path: "wall", Found: strconv.Quote(string(r.Wall)) + " is not known", Allowed: "a kind of wall"})
	}
	if len(r.Words) > 200 {
		wrong = append(wrong, exchange.Problem{Path: "words", Found: "are long", Allowed: "200 letters"})
	}
	if text := c.QueryParam("turn_deg"); text != "" && text != "0" {
		turn, err := strconv.Atoi(text)
		if err != nil || turn != 90 && turn != 270 {
			wrong = append(wrong, exchange.Problem{Path: "turn_deg", Found: strconv.Quote(text), Allowed: "0, 90 or 270"})
		}
		r.Turn = turn
	}
	if wrong != nil {
		return r, wrong
	}
	return r, nil
}

func (f *Feature) families(c *echo.Context) error {
	r, err := ranged{}.read(c)
	if err != nil {
		return err
	}
	out, err := app.RangeOf(c.Request().Context(), f.Store, r)
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
	all, err := app.SubmitFamily(c.Request().Context(), f.Store, api.Person(c), in.Subjects, in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, linesOf(c, all))
}

func linesOf(c *echo.Context, all []store.Approval) []app.ApprovalLine {
	out := []app.ApprovalLine{}
	for i := range all {
		out = append(out, app.LineOf(&all[i], api.Person(c)))
	}
	return out
}

func (f *Feature) family(c *echo.Context) error {
	out, err := app.FamilyOf(c.Request().Context(), f.Store, api.Person(c), c.Param("key"))
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
	all, err := app.DecideFamily(c.Request().Context(), f.Store, api.Person(c),
		app.OfFamily{Key: c.Param("key"), Members: in.Members}, in.Act, in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, linesOf(c, all))
}

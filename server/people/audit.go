package people

import (
	"bufio"
	"errors"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// auditAsk says which entries of the audit are wanted.
type auditAsk struct {
	Before int64  `query:"before" minimum:"0" description:"Of a lower number; 0: the latest."`
	Kind   string `query:"kind" enum:"sign_ins,people,policy,approvals,exports,restores"`
	Words  string `query:"words" maxLength:"200"`
	From   string `query:"from" format:"date" description:"A day, as 2026-11-30; of UTC, as the entries are."`
	Till   string `query:"till" format:"date" description:"The day after the last."`
	Format string `query:"format" enum:"csv,jsonl" description:"Of an export."`
}

// auditAsked reads what is asked for of the audit.
func auditAsked(c *echo.Context) (ask store.AuditAsk, err error) {
	ask = store.AuditAsk{Kind: c.QueryParam("kind"), Words: c.QueryParam("words"), From: c.QueryParam("from"), Till: c.QueryParam("till")}
	var wrong exchange.Problems
	if text := c.QueryParam("before"); text != "" {
		if ask.Before, err = strconv.ParseInt(text, 10, 64); err != nil || ask.Before < 0 {
			wrong = append(wrong, exchange.Problem{Path: "before", Found: strconv.Quote(text), Allowed: "the number of an entry"})
		}
	}
	if ask.Kind != "" && store.AuditKinds[ask.Kind] == nil {
		wrong = append(wrong, exchange.Problem{Path: "kind", Found: strconv.Quote(ask.Kind) + " is not known",
			Allowed: strings.Join(slices.Sorted(maps.Keys(store.AuditKinds)), ", ")})
	}
	if len(ask.Words) > 200 {
		wrong = append(wrong, exchange.Problem{Path: "words", Found: "are long", Allowed: "200 letters"})
	}
	for path, text := range map[string]string{"from": ask.From, "till": ask.Till} {
		if _, err := time.Parse(time.DateOnly, text); text != "" && err != nil {
			wrong = append(wrong, exchange.Problem{Path: path, Found: strconv.Quote(text), Allowed: "a day, as 2026-11-30"})
		}
	}
	if wrong != nil {
		return ask, wrong
	}
	return ask, nil
}

func (d *Door) audit(c *echo.Context) error {
	ask, err := auditAsked(c)
	if err != nil {
		return err
	}
	out, err := app.AuditOf(c.Request().Context(), d.store, api.Person(c), ask)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// exportAudit answers with all that is asked for of the audit.
func (d *Door) exportAudit(c *echo.Context) error {
	ask, err := auditAsked(c)
	if err != nil {
		return err
	}
	format, kind := "jsonl", "application/x-ndjson"
	if c.QueryParam("format") == "csv" {
		format, kind = "csv", "text/csv; charset=utf-8"
	}
	w := c.Response()
	w.Header().Set("Content-Disposition", `attachment; filename="audit.`+format+`"`)
	w.Header().Set("Content-Type", kind)
	out := bufio.NewWriterSize(api.NewPatient(w, http.NewResponseController(w)), 64<<10)
	err = app.ExportAudit(c.Request().Context(), d.store, api.Person(c), ask, format, out)
	return errors.Join(err, out.Flush())
}

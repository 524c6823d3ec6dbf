package people

import (
	"bufio"
	"errors"
	"net/http"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/app"
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

// auditAsked reads what is asked for of the audit, which [api.Queries] has checked.
func auditAsked(c *echo.Context) store.AuditAsk {
	before, _ := strconv.ParseInt(c.QueryParam("before"), 10, 64) // "": 0
	return store.AuditAsk{Before: before, Kind: c.QueryParam("kind"), Words: c.QueryParam("words"), From: c.QueryParam("from"),
		Till: c.QueryParam("till")}
}

func (d *Authenticator) audit(c *echo.Context) error {
	out, err := app.AuditOf(c.Request().Context(), d.store, api.Person(c), auditAsked(c))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// exportAudit answers with all that is asked for of the audit.
func (d *Authenticator) exportAudit(c *echo.Context) error {
	format, kind := "jsonl", "application/x-ndjson"
	if c.QueryParam("format") == "csv" {
		format, kind = "csv", "text/csv; charset=utf-8"
	}
	w := c.Response()
	w.Header().Set("Content-Disposition", `attachment; filename="audit.`+format+`"`)
	w.Header().Set("Content-Type", kind)
	out := bufio.NewWriterSize(api.NewPatient(w, http.NewResponseController(w)), 64<<10)
	err := app.ExportAudit(c.Request().Context(), d.store, api.Person(c), auditAsked(c), format, out)
	return errors.Join(err, out.Flush())
}

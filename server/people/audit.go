package people

import (
	"bufio"
	"errors"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/people"
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

// asked is it as the store takes it.
func (q *auditAsk) asked() store.AuditAsk {
	return store.AuditAsk{Before: q.Before, Kind: q.Kind, Words: q.Words, From: q.From, Till: q.Till}
}

func (d *Authenticator) audit(c *echo.Context) error {
	q, err := api.Query[auditAsk](c)
	if err != nil {
		return err
	}
	out, err := people.AuditOf(c.Request().Context(), d.store, api.Person(c), q.asked())
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// exportAudit answers with all that is asked for of the audit.
func (d *Authenticator) exportAudit(c *echo.Context) error {
	q, err := api.Query[auditAsk](c)
	if err != nil {
		return err
	}
	format, kind := "jsonl", "application/x-ndjson"
	if q.Format == "csv" {
		format, kind = "csv", "text/csv; charset=utf-8"
	}
	w := c.Response()
	w.Header().Set("Content-Disposition", `attachment; filename="audit.`+format+`"`)
	w.Header().Set("Content-Type", kind)
	out := bufio.NewWriterSize(api.NewPatient(w, http.NewResponseController(w)), 64<<10)
	err = people.ExportAudit(c.Request().Context(), d.store, api.Person(c), q.asked(), format, out)
	return errors.Join(err, out.Flush())
}

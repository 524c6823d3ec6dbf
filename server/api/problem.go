package api

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"syscall"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
)

// Problem is an error as people and programs get it: problem details, RFC
// 9457.
type Problem struct {
	Type     string             `json:"type" required:"true"`
	Title    string             `json:"title" required:"true"`
	Status   int                `json:"status" required:"true"`
	Detail   string             `json:"detail,omitempty"`
	Problems []exchange.Problem `json:"problems,omitempty"`
	Theirs   *app.TheirVersion  `json:"theirs,omitempty"` // of a change that came too late
	// The seconds after which to try again, sent as the header Retry-After; 0: no advice.
	RetryAfter int `json:"-"`
}

// Error makes a Problem an error.
func (p *Problem) Error() string { return p.Title + " " + p.Detail }

// New makes a problem that is explained to the client.
func New(status int, title, detail string) *Problem {
	return &Problem{Type: "about:blank", Title: title, Status: status, Detail: detail}
}

// statusGone is logged for a client that has left, as servers commonly do; nobody
// gets it.
const statusGone = 499

// Describe makes problem details of any error. What is the caller's fault is
// explained; what is ours is logged and not shown.
func Describe(err error) *Problem {
	var p *Problem
	var problems exchange.Problems
	var conflict *store.Conflict
	var tooLarge *http.MaxBytesError
	var noTemplate *app.NoTemplate
	var badFile *app.BadFile
	var lacks *rights.Lacks
	var notFor *rights.NotFor
	var taken *app.AlreadyImported
	var wrong *app.WrongRows
	switch status := echo.StatusCode(err); {
	case errors.As(err, &p):
		return p
	case errors.Is(err, context.Canceled), errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, syscall.ECONNRESET):
		return New(statusGone, "Nobody waits for the answer.", "")
	case errors.Is(err, store.ErrReadOnly):
		return New(http.StatusConflict, "This server only reads.", "Nothing was changed. Make the change where the catalogue is written.")
	case errors.Is(err, store.ErrElsewhere):
		return New(http.StatusServiceUnavailable, "This server does not write now.", capital(err.Error())+".")
	case errors.Is(err, store.ErrBusy):
		return New(http.StatusServiceUnavailable, "The database is busy.", "Nothing was changed. Try again in a moment.")
	case errors.As(err, &conflict):
		p = New(http.StatusConflict, "It was changed meanwhile.",
			cmp.Or(conflict.Theirs.Who, "Somebody else")+" changed it while you did. Compare the two, and keep what is right.")
		p.Theirs = app.TheirVersionOf(conflict)
		return p
	case errors.Is(err, rights.ByToken{}):
		return New(http.StatusForbidden, "A token does not do that.", "Somebody who may signs in, and looks at it.")
	case errors.As(err, &notFor):
		return New(http.StatusForbidden, "The token is not for that.", "It is for "+rights.List(notFor.Acts)+".")
	case errors.As(err, &lacks):
		return New(http.StatusForbidden, "That is not for you.", "It takes the role "+string(lacks.Need)+". Ask an administrator.")
	case errors.Is(err, store.ErrShutOut):
		return New(http.StatusForbidden, "That is not for you.", "The account has not, or no longer, the role for it.")
	case errors.As(err, &noTemplate):
		return New(http.StatusUnprocessableEntity, "There is no template for this pairing.", "Because "+noTemplate.Why+".")
	case errors.As(err, &taken):
		return New(http.StatusConflict, "The file is in the catalogue already.", "Undo that first, or open the file again.")
	case errors.As(err, &wrong):
		return New(http.StatusConflict, "Nothing was taken.",
			strconv.Itoa(wrong.Count)+" rows are wrong: fix the file, or ignore their columns.")
	case errors.As(err, &badFile):
		return New(http.StatusBadRequest, "The file cannot be read.", capital(badFile.Error())+".")
	case errors.As(err, &problems):
		p = New(http.StatusBadRequest, "The input is not right.", fmt.Sprintf("%d things to fix; nothing was saved.", len(problems)))
		if len(problems) == 1 {
			p.Detail = "One thing to fix; nothing was saved."
		}
		p.Problems = problems
		return p
	case errors.Is(err, store.ErrMoved):
		return New(http.StatusConflict, "The catalogue was changed meanwhile.", "Nothing was written. Look again, and repeat it.")
	case errors.Is(err, store.ErrNotFound), status == http.StatusNotFound:
		return New(http.StatusNotFound, "Not found.", "Check the address or the id.")
	case errors.As(err, &tooLarge), status == http.StatusRequestEntityTooLarge:
		return New(http.StatusRequestEntityTooLarge, "Too large.", fmt.Sprintf("A file may have up to %d MB, anything else up to %d MB.",
			MostFile>>20, MostRequest>>20))
	case status == http.StatusMethodNotAllowed:
		return New(status, "This address does not take that method.", "")
	case status >= 400 && status < 500:
		return New(status, http.StatusText(status)+".", "")
	}
	if store.Damaged(err) {
		return New(http.StatusServiceUnavailable, "A page of the database is damaged.",
			"Nothing was changed. What can be read is there; whoever runs the server restores a backup.")
	}
	if store.Unwritten(err) {
		return New(http.StatusInsufficientStorage, "The disk is full, or does not take what is written.",
			"Nothing was changed. Whoever runs the server makes room where the database is; then try again.")
	}
	return New(http.StatusInternalServerError, "The server failed.", "Nothing was changed. Try again; if it stays, look at the server's log.")
}

func capital(s string) string {
	if s != "" && s[0] >= 'a' && s[0] <= 'z' {
		return string(s[0]-'a'+'A') + s[1:]
	}
	return s
}

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

	"nexufix/app/bench"
	"nexufix/app/imports"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/core/quantity"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
)

// Problem is an error as people and programs get it: problem details, RFC
// 9457.
type Problem struct {
	Type     string              `json:"type" required:"true"`
	Title    string              `json:"title" required:"true"`
	Status   int                 `json:"status" required:"true"`
	Detail   string              `json:"detail,omitempty"`
	Problems []exchange.Problem  `json:"problems,omitempty"`
	Theirs   *bench.TheirVersion `json:"theirs,omitempty"` // of a change that came too late
	// The seconds after which to try again, sent as the header Retry-After; 0: no advice.
	RetryAfter int `json:"-"`
}

// Error makes a Problem an error.
func (p *Problem) Error() string { return p.Title + " " + p.Detail }

// New makes a problem that is explained to the client.
func New(status int, title, detail string) *Problem {
	return (&Problem{Title: title, Status: status, Detail: detail}).Of(ofStatus[status])
}

// ofStatus are the kinds of problems that their status tells.
var ofStatus = map[int]string{
	http.StatusBadRequest:            "invalid",
	http.StatusUnauthorized:          "not-signed-in",
	http.StatusForbidden:             "forbidden",
	http.StatusNotFound:              "not-found",
	http.StatusConflict:              "conflict",
	http.StatusPreconditionFailed:    "changed-meanwhile",
	http.StatusRequestEntityTooLarge: "too-large",
	http.StatusUnsupportedMediaType:  "media-type",
	http.StatusUnprocessableEntity:   "cannot-be-done",
	http.StatusTooManyRequests:       "too-many",
	http.StatusServiceUnavailable:    "busy",
	http.StatusInternalServerError:   "failed",
}

// Of names the kind of a problem, for programs: its title may change, and be in another language.
func (p *Problem) Of(kind string) *Problem {
	p.Type = "about:blank"
	if kind != "" {
		p.Type = "urn:nexufix:problem:" + kind
	}
	return p
}

// In is the problem in a language, as far as that has words for it.
func (p *Problem) In(l *quantity.Language) *Problem {
	if l == nil {
		return p
	}
	out := *p
	out.Title, out.Detail, out.Problems = l.Words(p.Title), l.Words(p.Detail), exchange.Problems(p.Problems).In(l)
	return &out
}

// statusGone is logged for a client that has left, as servers commonly do; nobody
// gets it.
const statusGone = 499

// Describe makes problem details of any error, by the first line of the table that knows it. What is the caller's fault is explained;
// what is ours is logged and not shown.
func Describe(err error) *Problem {
	for _, knows := range explained {
		if p := knows(err); p != nil {
			return p
		}
	}
	return New(http.StatusInternalServerError, "The server failed.", "Nothing was changed. Try again; if it stays, look at the server's log.")
}

// explanation makes problem details of the errors that it knows; of others nil.
type explanation func(error) *Problem

// explained is how each kind of error is answered.
var explained = []explanation{
	as(func(p *Problem) *Problem { return p }),
	when(func(err error) bool {
		return errors.Is(err, context.Canceled) || errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, syscall.ECONNRESET)
	}, "gone", statusGone, "Nobody waits for the answer.", ""),

	is(store.ErrReadOnly, "read-only", http.StatusConflict, "This server only reads.",
		"Nothing was changed. Make the change where the catalogue is written."),
	func(err error) *Problem {
		if !errors.Is(err, store.ErrElsewhere) {
			return nil
		}
		return New(http.StatusServiceUnavailable, "This server does not write now.", capital(err.Error())+".").Of("not-writing")
	},
	is(store.ErrBusy, "busy", http.StatusServiceUnavailable, "The database is busy.", "Nothing was changed. Try again in a moment."),
	as(func(conflict *store.Conflict) *Problem {
		p := New(http.StatusConflict, "It was changed meanwhile.",
			cmp.Or(conflict.Theirs.Who, "Somebody else")+" changed it while you did. Compare the two, and keep what is right.").
			Of("changed-meanwhile")
		p.Theirs = bench.TheirVersionOf(conflict)
		return p
	}),
	is(store.ErrMoved, "changed-meanwhile", http.StatusConflict, "The catalogue was changed meanwhile.",
		"Nothing was written. Look again, and repeat it."),

	is(rights.ByToken{}, "token-not-for-that", http.StatusForbidden, "A token does not do that.",
		"Somebody who may signs in, and looks at it."),
	as(func(notFor *rights.NotFor) *Problem {
		return New(http.StatusForbidden, "The token is not for that.", "It is for "+rights.List(notFor.Acts)+".").Of("token-not-for-that")
	}),
	as(func(lacks *rights.Lacks) *Problem {
		return New(http.StatusForbidden, "That is not for you.", "It takes the role "+string(lacks.Need)+". Ask an administrator.").
			Of("role-lacking")
	}),
	is(store.ErrShutOut, "role-lacking", http.StatusForbidden, "That is not for you.", "The account has not, or no longer, the role for it."),
	is(review.ErrNoAccount, "no-accounts", http.StatusForbidden, "Nobody signs in here.",
		"Approvals and documents take accounts: make the first one on the page People."),

	as(func(no *approval.NotNow) *Problem {
		return New(http.StatusConflict, "That cannot be done now.", "Because "+no.Error()+". Look at it again.").Of("not-now")
	}),
	as(func(approval.Own) *Problem {
		return New(http.StatusForbidden, "You have prepared it.", "Who prepared it does not approve it: ask somebody else who may approve.").
			Of("own-work")
	}),
	is(review.ErrNoAddress, "no-address", http.StatusConflict, "The code on the document would lead nowhere.",
		"Whoever runs the server starts it with --host and the name by which people reach it."),
	is(store.ErrInReview, "in-review", http.StatusConflict, "It is in review already.", "Wait for the decision, or have it sent back."),
	is(store.ErrVersion, "changed-meanwhile", http.StatusConflict, "It was changed meanwhile.",
		"Nothing was done. Look at it again, then decide."),
	is(store.ErrStale, "result-changed", http.StatusConflict, "What it rests on has changed, and the result with it.",
		"Look at the differences; send it for review again."),
	is(store.ErrRestored, "restored", http.StatusConflict, "It came from a backup, and nobody has confirmed it since.",
		"What happened after the backup is not known: an approver confirms on its page that it still holds, or withdraws it."),

	as(func(no *bench.NoTemplate) *Problem {
		return New(http.StatusUnprocessableEntity, "There is no template for this pairing.", "Because "+no.Why+".").Of("no-template")
	}),
	as(func(*imports.AlreadyImported) *Problem {
		return New(http.StatusConflict, "The file is in the catalogue already.", "Undo that first, or open the file again.").
			Of("already-imported")
	}),
	as(func(wrong *imports.WrongRows) *Problem {
		return New(http.StatusConflict, "Nothing was taken.",
			strconv.Itoa(wrong.Count)+" rows are wrong: fix the file, or ignore their columns.").
			Of("wrong-rows")
	}),
	as(func(bad *imports.BadFile) *Problem {
		return New(http.StatusBadRequest, "The file cannot be read.", capital(bad.Error())+".").Of("unreadable-file")
	}),
	as(func(problems exchange.Problems) *Problem {
		p := New(http.StatusBadRequest, "The input is not right.", fmt.Sprintf("%d things to fix; nothing was saved.", len(problems)))
		if len(problems) == 1 {
			p.Detail = "One thing to fix; nothing was saved."
		}
		p.Problems = problems
		return p
	}),

	when(func(err error) bool {
		return errors.Is(err, store.ErrNotFound) || echo.StatusCode(err) == http.StatusNotFound
	},
		"not-found", http.StatusNotFound, "Not found.", "Check the address or the id."),
	when(func(err error) bool {
		var tooLarge *http.MaxBytesError
		return errors.As(err, &tooLarge) || echo.StatusCode(err) == http.StatusRequestEntityTooLarge
	}, "too-large", http.StatusRequestEntityTooLarge, "Too large.",
		fmt.Sprintf("A file may have up to %d MB, anything else up to %d MB.", MostFile>>20, MostRequest>>20)),
	when(func(err error) bool { return echo.StatusCode(err) == http.StatusMethodNotAllowed },
		"method", http.StatusMethodNotAllowed, "This address does not take that method.", ""),
	func(err error) *Problem {
		if status := echo.StatusCode(err); status >= 400 && status < 500 {
			return New(status, http.StatusText(status)+".", "")
		}
		return nil
	},
	when(store.Damaged, "damaged", http.StatusServiceUnavailable, "A page of the database is damaged.",
		"Nothing was changed. What can be read is there; whoever runs the server restores a backup."),
	when(store.Unwritten, "disk-full", http.StatusInsufficientStorage, "The disk is full, or does not take what is written.",
		"Nothing was changed. Whoever runs the server makes room where the database is; then try again."),
}

// when explains the errors of which something is so, always in the same way.
func when(so func(error) bool, kind string, status int, title, detail string) explanation {
	return func(err error) *Problem {
		if !so(err) {
			return nil
		}
		return New(status, title, detail).Of(kind)
	}
}

func is(target error, kind string, status int, title, detail string) explanation {
	return when(func(err error) bool { return errors.Is(err, target) }, kind, status, title, detail)
}

func as[E error](explain func(E) *Problem) explanation {
	return func(err error) *Problem {
		var e E
		if !errors.As(err, &e) {
			return nil
		}
		return explain(e)
	}
}

func capital(s string) string {
	if s != "" && s[0] >= 'a' && s[0] <= 'z' {
		return string(s[0]-'a'+'A') + s[1:]
	}
	return s
}

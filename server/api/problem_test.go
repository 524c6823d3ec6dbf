package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"nexufix/app/bench"
	"nexufix/app/imports"
	"nexufix/app/review"
	"nexufix/core/approval"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
)

// TestErrorsAreExplained: each kind of error has its status and words, wrapped too; what nobody knows is ours, and says nothing of itself.
func TestErrorsAreExplained(t *testing.T) {
	for _, c := range []struct {
		err    error
		status int
		says   string
	}{
		{New(http.StatusTeapot, "As it is.", ""), http.StatusTeapot, "As it is."},
		{context.Canceled, statusGone, "Nobody waits"},
		{store.ErrReadOnly, http.StatusConflict, "only reads"},
		{store.ErrElsewhere, http.StatusServiceUnavailable, "does not write now"},
		{store.ErrBusy, http.StatusServiceUnavailable, "busy"},
		{&store.Conflict{}, http.StatusConflict, "Somebody else changed it"},
		{store.ErrMoved, http.StatusConflict, "repeat it"},
		{rights.ByToken{}, http.StatusForbidden, "A token does not"},
		{&rights.NotFor{}, http.StatusForbidden, "The token is not for that."},
		{&rights.Lacks{Need: "approver"}, http.StatusForbidden, "the role approver"},
		{store.ErrShutOut, http.StatusForbidden, "no longer"},
		{review.ErrNoAccount, http.StatusForbidden, "Nobody signs in here."},
		{approval.Own{}, http.StatusForbidden, "You have prepared it."},
		{&approval.NotNow{}, http.StatusConflict, "That cannot be done now."},
		{review.ErrNoAddress, http.StatusConflict, "--host"},
		{store.ErrInReview, http.StatusConflict, "in review already"},
		{store.ErrVersion, http.StatusConflict, "then decide"},
		{store.ErrStale, http.StatusConflict, "send it for review again"},
		{store.ErrRestored, http.StatusConflict, "backup"},
		{&bench.NoTemplate{Why: "it does not fit"}, http.StatusUnprocessableEntity, "Because it does not fit."},
		{&imports.AlreadyImported{}, http.StatusConflict, "already"},
		{&imports.WrongRows{Count: 3}, http.StatusConflict, "3 rows"},
		{exchange.Problems{{Path: "x"}}, http.StatusBadRequest, "One thing to fix"},
		{exchange.Problems{{Path: "x"}, {Path: "y"}}, http.StatusBadRequest, "2 things to fix"},
		{store.ErrNotFound, http.StatusNotFound, "Check the address"},
		{&http.MaxBytesError{}, http.StatusRequestEntityTooLarge, "MB"},
		{errors.New("disk of secrets"), http.StatusInternalServerError, "The server failed."},
	} {
		for _, err := range []error{c.err, fmt.Errorf("while it was done: %w", c.err)} {
			p := Describe(err)
			if p.Status != c.status || !strings.Contains(p.Error(), c.says) || strings.Contains(p.Error(), "secrets") {
				t.Errorf("%T %v: %d %s", c.err, c.err, p.Status, p.Error())
			}
		}
	}
}

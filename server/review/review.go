package review

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"sync/atomic"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/app/review"
	"nexufix/server/api"
	"nexufix/store"
)

// Feature holds what the operations of reviews use.
type Feature struct {
	Store *store.Store
	Log   *slog.Logger
	// Issuer has the address printed on issued documents, as https://desk.example, and the key that signs them.
	review.Issuer
	Mail   string        // folder of the simulated mail desk
	Ending chan struct{} // closed when the server stops: streams end then

	judging    atomic.Pointer[string]
	again      chan struct{}
	hub        hub
	streams    api.Streams
	asked      api.RateLimiter // codes, by address
	said       api.RateLimiter // remarks and letters, by person: they are kept for ever
	priorities priorities
}

// New makes the feature.
func New(st *store.Store, log *slog.Logger, on review.Issuer, mail string, ending chan struct{}) *Feature {
	return &Feature{Store: st, Log: log, Issuer: on, Mail: mail, Ending: ending, again: make(chan struct{}, 1),
		streams: api.Streams{Most: maxListening, OfOne: listeningOf}, asked: api.RateLimiter{Some: 60, Every: 2 * time.Second},
		said: api.RateLimiter{Some: 100, Every: 10 * time.Second}, priorities: priorities{turn: make(chan struct{}, 1)}}
}

// After wraps handlers that change something: afterwards approvals are judged again where the catalogue changed, and
// listening pages reload.
func (f *Feature) After(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		err := next(c)
		if err == nil {
			select {
			case f.again <- struct{}{}:
			default: // it is to be done already
			}
			f.hub.changed()
		}
		return err
	}
}

// lookAgain is how often changes by other programs are looked for.
const lookAgain = time.Minute

// Run judges approvals again whenever what they rest on has changed, until the context ends.
func (f *Feature) Run(ctx context.Context) {
	var last *store.CatalogueVersion // what was judged last; nil: nothing yet
	unasked := false                 // nobody here has changed anything
	for {
		_, now, err := f.Store.CatalogueAt(ctx)
		if err == nil && (last == nil || now != *last) {
			n, at, judged := review.RejudgeSince(ctx, f.Store, last, f.tell)
			f.judging.Store(nil)
			if err = judged; err == nil {
				last = &at
			}
			if n > 0 {
				f.Log.Info("approvals judged again", "changed", n)
			}
			if n > 0 || unasked { // a change of this program was told when it was made
				f.hub.changed()
			}
		}
		if err := review.SendOut(ctx, f.Store, f.Mail); err != nil && ctx.Err() == nil {
			f.Log.Error("mails about accounts were not sent, and will be", "err", err)
		}
		wait := lookAgain
		switch {
		case errors.Is(err, store.ErrBusy):
			wait = 50 * time.Millisecond // somebody writes
		case err != nil && ctx.Err() == nil:
			f.Log.Error("approvals were not judged again", "err", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-f.again:
			unasked = false
		case <-time.After(wait):
			unasked = true
		}
	}
}

func (f *Feature) tell(done, of int) {
	text := fmt.Sprintf("%d of %d", done, of)
	f.judging.Store(&text)
}

func (f *Feature) desk(c *echo.Context) error {
	out, err := review.DeskOf(c.Request().Context(), f.Store, api.Person(c))
	if err != nil {
		return err
	}
	if text := f.judging.Load(); text != nil {
		out.Judging = *text
	}
	return c.JSON(http.StatusOK, out)
}

// priorities is what is priorities measuring at one state of the catalogue.
type priorities struct {
	turn  chan struct{} // one at a time; who waits may leave
	at    store.CatalogueVersion
	known bool
	all   map[string][]bench.MeasurementPriority // by language
}

// measurementPriorities is worked out once for each state of the catalogue.
func (f *Feature) measurementPriorities(c *echo.Context) error {
	all, at, err := f.Store.CatalogueAt(c.Request().Context())
	if err != nil {
		return err
	}
	w := &f.priorities
	select {
	case w.turn <- struct{}{}:
		defer func() { <-w.turn }()
	case <-c.Request().Context().Done():
		return c.Request().Context().Err()
	}
	if !w.known || w.at != at {
		w.all, w.at, w.known = map[string][]bench.MeasurementPriority{}, at, true
	}
	to := api.Reader(c, "")
	out, known := w.all[to.Code()]
	if !known {
		if out, err = bench.MeasurementPriorities(c.Request().Context(), all, to); err != nil {
			return err
		}
		w.all[to.Code()] = out
	}
	return c.JSON(http.StatusOK, out)
}

func (f *Feature) list(c *echo.Context) error {
	q, err := api.Query[listed](c)
	if err != nil {
		return err
	}
	out, err := review.ApprovalsAbout(c.Request().Context(), f.Store, api.Person(c), review.About(q), maxListed)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

// maxListed is the most approvals or documents in a list.
const maxListed = 1000

func (f *Feature) submit(c *echo.Context) error {
	in, err := api.Read[Submission](c)
	if err != nil {
		return err
	}
	a, err := review.SubmitReview(c.Request().Context(), f.Store, api.Person(c), in.Subject, in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, review.LineOf(&a, api.Person(c)))
}

func (f *Feature) review(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	out, err := review.ReviewOf(c.Request().Context(), f.Store, api.Person(c), id, api.Reader(c, ""))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, out)
}

func (f *Feature) decide(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	in, err := api.Read[Decision](c)
	if err != nil {
		return err
	}
	a, err := review.DecideReview(c.Request().Context(), f.Store, api.Person(c), store.Seen{ID: id, Version: int64(in.Version)}, in.Act,
		in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, review.LineOf(&a, api.Person(c)))
}

func (f *Feature) comment(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	in, err := api.Read[Remark](c)
	if err != nil {
		return err
	}
	if wait := f.said.Wait(api.Client(c)); wait > 0 {
		return api.TooOften("You have said very much.", wait)
	}
	if err := review.AddComment(c.Request().Context(), f.Store, api.Person(c), id, in.About, in.Text); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

func (f *Feature) sheet(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	q, err := api.Query[sheetAsk](c)
	if err != nil {
		return err
	}
	name, file, err := review.ReviewSheet(c.Request().Context(), f.Store, id, q.What, q.Lang, time.Now())
	if err != nil {
		return err
	}
	return api.Attachment(c, name, "application/pdf", file)
}

func (f *Feature) issue(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	in, err := api.Read[review.Issue](c)
	if err != nil {
		return err
	}
	i, err := review.IssueDocument(c.Request().Context(), f.Store, api.Person(c), id, in, f.Issuer)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, review.IssuedLineOf(&i))
}

func (f *Feature) allIssued(c *echo.Context) error {
	all, err := f.Store.IssuedOf(c.Request().Context(), 0, maxListed)
	if err != nil {
		return err
	}
	out := []review.IssuedLine{}
	for i := range all {
		out = append(out, review.IssuedLineOf(&all[i]))
	}
	return c.JSON(http.StatusOK, out)
}

func (f *Feature) file(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	i, err := f.Store.IssuedFile(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return api.Attachment(c, i.Name, "application/pdf", i.File)
}

func (f *Feature) letter(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	l, err := review.ReadyLetter(c.Request().Context(), f.Store, id, f.Base)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, l)
}

func (f *Feature) send(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	in, err := api.Read[review.SendLetter](c)
	if err != nil {
		return err
	}
	if wait := f.said.Wait(api.Client(c)); wait > 0 {
		return api.TooOften("You have sent very many.", wait)
	}
	l, err := review.PostLetter(c.Request().Context(), f.Store, api.Person(c), id, in, review.MailDesk{Base: f.Base, Folder: f.Mail})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, l)
}

func (f *Feature) confirm(c *echo.Context) error {
	in, err := api.Read[Confirmation](c)
	if err != nil {
		return err
	}
	all, err := review.ConfirmReviews(c.Request().Context(), f.Store, api.Person(c), in.Members, in.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, linesOf(c, all))
}

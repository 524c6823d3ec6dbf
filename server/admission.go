package server

import (
	"bytes"
	"context"
	"errors"
	"io"
	"net/http"
	"os"
	"runtime"
	"sync"
	"time"

	"nexufix/server/api"

	"github.com/labstack/echo/v5"
)

// Limits of heavy requests: matrix, import, export, PDF. As many are worked on at once as
// there are processors; a few wait for them, not for long; and no client has more
// than a few of them.
const (
	maxQueued = 16
	maxOfOne  = 6
	maxQuick  = 1000 // waiting quick requests, which take milliseconds
	queueFor  = 20 * time.Second
	maxSignIn = 400             // waiting sign-ins, which have a queue of their own; half of them of one office
	maxComing = 200             // requests of each kind whose body is being received, of people; and as many of nobody
	comingOf  = 100             // of them of one person or address, which an office may share
	bodyFor   = 8 * time.Second // that nobody's body may take
)

// admission admits requests in the order they came.
type admission struct {
	slots   chan struct{}
	most    int // waiting at most
	ofOne   int // at most for one person or address, working and waiting
	queueIn time.Duration
	bodyIn  time.Duration // that nobody's body may take

	// Requests whose body is being received: of people, and of nobody, who keep no place from people.
	coming, unknown api.Streams

	mu       sync.Mutex
	queued   int
	byClient map[string]int // working and waiting
}

func newAdmission(slots, most, ofOne int) *admission {
	return &admission{slots: make(chan struct{}, slots), most: most, ofOne: ofOne, queueIn: queueFor, bodyIn: bodyFor,
		coming: api.Streams{Most: maxComing, OfOne: comingOf}, unknown: api.Streams{Most: maxComing, OfOne: comingOf},
		byClient: map[string]int{}}
}

// admit makes a handler wait until it is admitted. The body is read before, so
// that a slow client does not hold a place.
func (a *admission) admit(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r, client := c.Request(), api.Client(c)
		raw, err := a.receive(c, client)
		if err != nil {
			return err
		}
		r.Body = io.NopCloser(bytes.NewReader(raw))
		leave, err := a.enter(r.Context(), client)
		if err != nil {
			return err
		}
		defer leave()
		return next(c)
	}
}

// receive reads a body, before any queue, and from nobody only for some seconds.
func (a *admission) receive(c *echo.Context, client string) ([]byte, error) {
	coming := &a.coming
	if api.Person(c).ID == 0 {
		coming = &a.unknown
	}
	if err := coming.Enter(client); err != nil {
		return nil, err
	}
	defer coming.Leave(client)
	control := http.NewResponseController(c.Response())
	if coming == &a.unknown {
		// It has an effect on a connection, which a test may not have. After a failure it stays: what is left is not waited for.
		_ = control.SetReadDeadline(time.Now().Add(a.bodyIn))
	}
	raw, err := io.ReadAll(c.Request().Body)
	if errors.Is(err, os.ErrDeadlineExceeded) {
		c.Response().Header().Set("Connection", "close")
		return nil, api.New(http.StatusRequestTimeout, "That came too slowly.", "Send it again.")
	}
	if err == nil {
		_ = control.SetReadDeadline(time.Time{})
	}
	return raw, err
}

// waiting returns how many requests wait.
func (a *admission) waiting() int {
	a.mu.Lock()
	defer a.mu.Unlock()
	return a.queued
}

// enter waits until there is room; the request calls leave when it is done.
func (a *admission) enter(ctx context.Context, client string) (leave func(), err error) {
	a.mu.Lock()
	if client != "" && a.byClient[client] >= a.ofOne {
		a.mu.Unlock()
		return nil, api.TooMuchOfOne
	}
	if a.queued >= a.most {
		a.mu.Unlock()
		return nil, api.TooMuch
	}
	a.byClient[client]++
	a.queued++
	a.mu.Unlock()
	forget := func() {
		a.mu.Lock()
		defer a.mu.Unlock()
		if a.byClient[client]--; a.byClient[client] == 0 {
			delete(a.byClient, client)
		}
	}
	waiting := time.NewTimer(a.queueIn)
	defer waiting.Stop()
	select {
	case a.slots <- struct{}{}:
	case <-ctx.Done():
		err = ctx.Err()
	case <-waiting.C:
		err = api.TooMuch
	}
	a.mu.Lock()
	a.queued--
	a.mu.Unlock()
	if err != nil {
		forget()
		return nil, err
	}
	return func() { <-a.slots; forget() }, nil
}

// bufferedResponse buffers an answer until its place is free for the next request, so that a client that
// reads slowly does not hold it.
type bufferedResponse struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

// Unwrap is for deadlines, which are the connection's.
func (h *bufferedResponse) Unwrap() http.ResponseWriter { return h.ResponseWriter }

func (h *bufferedResponse) WriteHeader(status int)        { h.status = status }
func (h *bufferedResponse) Write(raw []byte) (int, error) { return h.body.Write(raw) }

// buffered sends a handler's answer after it has left.
func (a *admission) buffered(next echo.HandlerFunc) echo.HandlerFunc {
	inside := a.admit(next)
	return func(c *echo.Context) error {
		to := c.Response()
		h := &bufferedResponse{ResponseWriter: to, status: http.StatusOK}
		err := func() error {
			c.SetResponse(h)
			defer c.SetResponse(to) // also in a panic, whose answer is not buffered
			return inside(c)
		}()
		if err != nil {
			return err
		}
		to.WriteHeader(h.status)
		_, err = to.Write(h.body.Bytes())
		if err != nil {
			return context.Canceled // the client has left
		}
		return nil
	}
}

// heavyWorks and quickWorks are let in by the processors there are. Requests that
// are answered one after the other are all answered sooner than if they were worked
// on together.
func heavyWorks() *admission { return newAdmission(runtime.GOMAXPROCS(0), maxQueued, maxOfOne) }

// signIns are let in beside them: whoever guesses keeps nobody from the bench, and the bench nobody from the door.
func signIns() *admission { return newAdmission(runtime.GOMAXPROCS(0), maxSignIn, maxSignIn/2) }

func quickWorks() *admission {
	return newAdmission(runtime.GOMAXPROCS(0), maxQuick, maxQuick/4)
}

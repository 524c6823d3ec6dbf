package server

import (
	"bytes"
	"context"
	"io"
	"net"
	"net/http"
	"runtime"
	"strconv"
	"sync"
	"time"

	"nexufix/server/api"

	"github.com/labstack/echo/v5"
)

// Limits of heavy requests: matrix, import, export, PDF. As many are worked on at once as
// there are processors; a few wait for them, not for long; and no client has more
// than a few of them.
const (
	mostQueued = 16
	mostOfOne  = 6
	mostQuick  = 1000 // waiting quick requests, which take milliseconds
	queueFor   = 20 * time.Second
	mostComing = 200 // requests of each kind whose body is being received
)

// admission admits requests in the order they came.
type admission struct {
	slots   chan struct{}
	most    int // waiting at most
	ofOne   int // at most for one person or address, working and waiting
	queueIn time.Duration

	coming api.Streams // requests whose body is being received

	mu       sync.Mutex
	queued   int
	byClient map[string]int // working and waiting
}

func newAdmission(slots, most, ofOne int) *admission {
	return &admission{slots: make(chan struct{}, slots), most: most, ofOne: ofOne, queueIn: queueFor, coming: api.Streams{Most: mostComing},
		byClient: map[string]int{}}
}

// admit makes a handler wait until it is admitted. The body is read before, so
// that a slow client does not hold a place.
func (a *admission) admit(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if !a.coming.Enter() {
			return api.TooMuch
		}
		r := c.Request()
		raw, err := io.ReadAll(r.Body)
		a.coming.Leave()
		if err != nil {
			return err
		}
		r.Body = io.NopCloser(bytes.NewReader(raw))
		leave, err := a.enter(c.Request().Context(), clientOf(c))
		if err != nil {
			return err
		}
		defer leave()
		return next(c)
	}
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

// clientOf returns the client: the person who is signed in, or the address; "" for this computer, where a proxy may forward
// requests of everybody.
func clientOf(c *echo.Context) string {
	if p := api.Person(c); p.ID > 0 {
		return "person " + strconv.FormatInt(p.ID, 10)
	}
	host, _, err := net.SplitHostPort(c.Request().RemoteAddr)
	if ip := net.ParseIP(host); err != nil || ip == nil || ip.IsLoopback() {
		return ""
	}
	return host
}

// held buffers an answer until its place is free for the next request, so that a client that
// reads slowly does not hold it.
type held struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (h *held) WriteHeader(status int)        { h.status = status }
func (h *held) Write(raw []byte) (int, error) { return h.body.Write(raw) }

// answerAfter sends a handler's answer after it has left.
func (a *admission) answerAfter(next echo.HandlerFunc) echo.HandlerFunc {
	inside := a.admit(next)
	return func(c *echo.Context) error {
		to := c.Response()
		h := &held{ResponseWriter: to, status: http.StatusOK}
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
func heavyWorks() *admission { return newAdmission(runtime.GOMAXPROCS(0), mostQueued, mostOfOne) }
func quickWorks() *admission {
	return newAdmission(runtime.GOMAXPROCS(0), mostQuick, mostQuick/4)
}

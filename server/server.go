// Package server is the web application's back end: a JSON API over the core,
// and the embedded front end. Handlers bind, call and answer; one error
// handler turns errors into problem details (RFC 9457).
package server

import (
	"compress/gzip"
	"context"
	"errors"
	"log/slog"
	"net"
	"net/http"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"nexufix/app/search"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/exchange"
	"nexufix/gauge"
	"nexufix/plotter"
	"nexufix/store"
)

// Limits of request bodies.
const (
	maxQuestion = 1 << 20
	maxImport   = 20 << 20
)

// plotPace is the simulated plotter's time for a step.
const plotPace = 80 * time.Millisecond

// Server answers requests from one store.
type Server struct {
	store   *store.Store
	log     *slog.Logger
	echo    *echo.Echo
	page    *page
	grid    fit.Grid
	tray    tray
	ending  chan struct{}   // closed when the server stops: streams without an end end then
	gauge   gauge.Simulated // a real gauge's reader could stand here
	queue   *plotter.Plotter
	heavies *admission
	asking  *admission
	streams streams
	found   struct {
		sync.Mutex
		in    *exchange.Contents // what it is the index of
		index *search.Index[*catalog.Display]
	}
}

// New sets up the routes. Only requests for one of its hosts are answered, so that
// no web page elsewhere can reach the server under a name of its own. Plots land
// in the folder plots.
func New(s *store.Store, log *slog.Logger, hosts Hosts, plots string) (*Server, error) {
	p, err := loadPage()
	if err != nil {
		return nil, err
	}
	srv := &Server{store: s, log: log, echo: echo.New(), page: p, ending: make(chan struct{}), queue: plotter.New(plots, plotPace), heavies: heavyWorks(), asking: questions(), streams: streams{most: mostStreaming}}
	e := srv.echo
	e.Logger = log
	e.HTTPErrorHandler = srv.fail
	watched := newMetrics(srv)
	e.Use(watched.count, middleware.Recover(), secureHeaders, onlyFromHere(hosts))
	// Answers are made for one question each: packing them fast matters more than tight.
	e.Use(middleware.GzipWithConfig(middleware.GzipConfig{Level: gzip.BestSpeed, MinLength: 512, Skipper: func(c *echo.Context) bool {
		return c.Path() == "/assets/*" // served compressed already
	}}))

	e.GET("/healthz", srv.healthz)
	e.GET("/readyz", srv.readyz)
	e.GET("/metrics", watched.handler())
	for _, r := range srv.routes() {
		limit := int64(maxQuestion)
		if r.path == "/api/import" || r.path == "/api/files" {
			limit = maxImport
		}
		handler := r.handler
		if isHeavy(r.path) {
			handler = srv.heavies.admit(handler)
		}
		if isQuestion(r.method, r.path) {
			handler = srv.asking.answerAfter(handler)
		}
		e.Add(r.method, echoPath(r.path), handler, middleware.BodyLimit(limit))
	}
	e.GET("/api/openapi.json", openapi31JSON)
	e.GET("/api/*", func(*echo.Context) error { return echo.ErrNotFound })
	e.GET("/assets/*", p.asset)
	e.GET("/*", p.index)
	return srv, nil
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.echo.ServeHTTP(w, r) }

// Serve answers requests on a listener until the context ends, then lets the
// ones under way finish.
func (s *Server) Serve(ctx context.Context, l net.Listener) error {
	h := &http.Server{
		Handler: s, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute,
		WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
		ErrorLog: slog.NewLogLogger(s.log.Handler(), slog.LevelWarn),
	}
	plotting, stopPlotter := context.WithCancel(ctx)
	defer stopPlotter()
	go s.queue.Run(plotting)
	failed := make(chan error, 1)
	go func() { failed <- h.Serve(l) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	close(s.ending)
	stop, cancel := context.WithTimeout(context.WithoutCancel(ctx), 10*time.Second)
	defer cancel()
	err := h.Shutdown(stop)
	if e := <-failed; !errors.Is(e, http.ErrServerClosed) {
		err = errors.Join(err, e)
	}
	return err
}

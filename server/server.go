// Package server is the web application's back end: a JSON API over package app,
// and the embedded front end.
//
// Each feature (bench, wall, catalogue, files, matrix, sheets, policy, review, people, gauge) is a package of
// its own with its routes in routes.go, its handlers and its types. A handler binds what was sent, calls
// app, and answers. This package combines them: [New] adds every [api.Route] to Echo, and the
// OpenAPI document is generated from the same list.
//
// On its way in a request meets, in this order: the count of the metrics, what is allowed in a header, the
// hosts that are answered (security.go), who it is from (server/people), and the room there is for work
// of its kind (admission.go): looking something up goes in at once, what takes milliseconds waits its
// turn, and what may take seconds waits in a short queue. On its way out an error becomes problem
// details (RFC 9457) in one place, fail.go.
package server

import (
	"compress/gzip"
	"context"
	"errors"
	"log/slog"
	"net"
	"net/http"
	"path/filepath"
	"strings"
	"time"

	"github.com/klauspost/compress/gzhttp"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"nexufix/app/people"
	"nexufix/app/review"
	"nexufix/core/rights"
	"nexufix/server/api"
	"nexufix/server/catalogue"
	"nexufix/server/files"
	peopleroutes "nexufix/server/people"
	reviewroutes "nexufix/server/review"
	"nexufix/server/sheets"
	"nexufix/standins/plotter"
	"nexufix/store"
)

// plotPace is the time of a step of the simulated plotter.
const plotPace = 80 * time.Millisecond

// Server answers requests from one store. Each feature has its routes, handlers and
// types in a package of its own.
type Server struct {
	// Access logs every request that is answered. It is set before the server serves.
	Access bool

	store   *store.Store
	log     *slog.Logger
	echo    *echo.Echo
	handler http.Handler  // the same, compressed
	ending  chan struct{} // closed when the server stops, to end streams
	queue   *plotter.Plotter
	heavies *admission
	quick   *admission
	signIns *admission
	door    *peopleroutes.Authenticator
	reviews *reviewroutes.Feature
}

// features are the routes of all features.
func (s *Server) features() (all []api.Route) {
	for _, f := range []interface{ Routes() []api.Route }{
		&benchFeature{store: s.store}, &wallFeature{store: s.store, judged: review.NewVerdicts()},
		&sheets.Feature{Store: s.store, Queue: s.queue},
		&matrixFeature{store: s.store, log: s.log}, &catalogue.Feature{Store: s.store}, &files.Feature{Store: s.store, Log: s.log},
		&policyFeature{store: s.store}, newGauge(s.log, s.ending), s.people(), s.reviewing(),
	} {
		all = append(all, f.Routes()...)
	}
	return append(all, api.Get("/api/schema/{kind}", "The JSON Schema of a kind of the exchange format.", schemaOf{}, "",
		s.schema).Returns(http.StatusOK, "application/schema+json"))
}

// people returns the sign-in feature, also for a server that only generates documentation.
func (s *Server) people() *peopleroutes.Authenticator {
	if s.door == nil {
		s.door = peopleroutes.NewDoor(s.store, nil, peopleroutes.Options{})
	}
	return s.door
}

// reviewing returns the approvals feature, also for a server that only generates documentation.
func (s *Server) reviewing() *reviewroutes.Feature {
	if s.reviews == nil {
		s.reviews = reviewroutes.New(s.store, s.log, review.Issuer{}, "", s.ending)
	}
	return s.reviews
}

// New sets up the routes. Only requests for one of its hosts are answered, so that
// no other web page can reach the server under its own name. Plots are written
// to the folder plots. People sign in as configured by o.
func New(s *store.Store, log *slog.Logger, hosts Hosts, plots string, o peopleroutes.Options) (*Server, error) {
	p, err := loadPage()
	if err != nil {
		return nil, err
	}
	if err := p.keepEarlier(filepath.Join(filepath.Dir(plots), "page")); err != nil {
		log.Warn("views of the program before this one are not served", "err", err)
	}
	srv := &Server{store: s, log: log, echo: echo.New(), ending: make(chan struct{}), queue: plotter.New(plots, plotPace),
		heavies: heavyWorks(), quick: quickWorks(), signIns: signIns(), door: peopleroutes.NewDoor(s, log, o)}
	srv.reviews = reviewroutes.New(s, log, review.Issuer{Base: hosts.Base, Key: hosts.Key}, filepath.Join(filepath.Dir(plots),
		"mail"), srv.ending)
	e := srv.echo
	e.Logger = log
	trusted := []echo.TrustOption{echo.TrustLinkLocal(false), echo.TrustPrivateNet(false)}
	for _, p := range hosts.Proxies {
		ip := p.Masked().Addr()
		trusted = append(trusted, echo.TrustIPRange(&net.IPNet{IP: ip.AsSlice(), Mask: net.CIDRMask(p.Bits(), ip.BitLen())}))
	}
	e.IPExtractor = echo.ExtractIPFromXFFHeader(trusted...)
	e.HTTPErrorHandler = srv.fail
	watched := newMetrics(srv)
	e.Use(api.Below(hosts.Path), hosts.forwarded, srv.named,
		watched.count, middleware.Recover(), secureHeaders, onlyFromHere(hosts), srv.door.Enter)
	pack, err := compressed()
	if err != nil {
		return nil, err
	}
	srv.handler = hosts.below(pack(e))

	e.GET("/healthz", srv.healthz)
	e.GET("/readyz", srv.readyz)
	e.GET("/metrics", watched.handler(), operators)
	keys := newOnce()
	for _, r := range srv.features() {
		limit := int64(api.MostRequest)
		if r.Large {
			limit = api.MostFile
		}
		handler := r.Handler
		switch {
		case r.Work == api.Heavy:
			handler = srv.heavies.admit(handler)
		case r.Work == api.Quick && r.Needs() == people.Nobody:
			handler = srv.signIns.buffered(handler)
		case r.Work == api.Quick:
			handler = srv.quick.buffered(handler)
		}
		if r.Method != http.MethodGet && (r.Needs().May(people.Engineer) || r.Right == rights.Password) {
			handler = srv.reviews.After(handler)
			if r.Right != rights.Password {
				handler = keys.only(handler)
			}
		}
		e.Add(r.Method, echoPath(r.Path), handler, peopleroutes.RequireRight(r.Right, r.Other), api.Queries(&r), middleware.BodyLimit(limit))
	}
	e.GET("/api/openapi.json", openapi31JSON, peopleroutes.RequireRight(rights.Look, ""))
	e.GET("/api/*", func(*echo.Context) error { return echo.ErrNotFound })
	e.GET("/assets/*", p.asset)
	for _, part := range []string{"offline.html", "check.js", "check.css", "sw.js"} {
		e.GET("/v/"+part, p.check)
	}
	e.GET("/*", p.index)
	return srv, nil
}

// compressed compresses answers for one request each, unless they are already: speed matters more than size. It begins when something is
// written, so that who waits takes no memory for it; streams, which stay open, are not.
func compressed() (func(http.Handler) http.HandlerFunc, error) {
	return gzhttp.NewWrapper(gzhttp.MinSize(512), gzhttp.CompressionLevel(gzip.BestSpeed), gzhttp.EnableZstd(false),
		gzhttp.ContentTypeFilter(func(kind string) bool {
			return gzhttp.DefaultContentTypeFilter(kind) && !strings.HasPrefix(kind, "text/event-stream")
		}))
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.Method == http.MethodHead { // answered as GET is (RFC 9110, 9.3.2); net/http leaves the body out
		r = r.Clone(r.Context())
		r.Method = http.MethodGet
	}
	s.handler.ServeHTTP(w, r)
}

// Serve answers requests on a listener until the context ends, and then waits for
// requests in progress.
func (s *Server) Serve(ctx context.Context, l net.Listener) error {
	h := &http.Server{
		Handler: s, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute,
		WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
		ErrorLog: slog.NewLogLogger(s.log.Handler(), slog.LevelWarn),
	}
	plotting, stopPlotter := context.WithCancel(ctx)
	defer stopPlotter()
	go s.queue.Run(plotting)
	go s.reviews.Run(plotting)
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

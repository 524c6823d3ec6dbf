package server

import (
	"net/http"
	"strconv"
	"time"

	"nexufix/server/api"
	"nexufix/version"

	"github.com/labstack/echo/v5"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// metrics are figures for operators, in the format of Prometheus.
type metrics struct {
	all      *prometheus.Registry
	requests *prometheus.CounterVec
	seconds  *prometheus.HistogramVec
}

func newMetrics(s *Server) *metrics {
	m := &metrics{
		all: prometheus.NewRegistry(),
		requests: prometheus.NewCounterVec(prometheus.CounterOpts{Name: "nexufix_requests_total",
			Help: "Requests answered, by operation and status."},
			[]string{"method", "path", "status"}),
		seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "nexufix_request_seconds",
			Help:    "How long answers took, by operation.",
			Buckets: []float64{.005, .01, .025, .05, .1, .25, .5, 1, 2.5, 10}}, []string{"method", "path"}),
	}
	gauge := func(name, help string, of func() float64) {
		m.all.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: name, Help: help}, of))
	}
	gauge("nexufix_heavy_working", "Heavy works that are being done.", func() float64 { return float64(len(s.heavies.slots)) })
	gauge("nexufix_heavy_waiting", "Heavy works that wait.", func() float64 { return float64(s.heavies.waiting()) })
	gauge("nexufix_quick_waiting", "Requests that wait, each of milliseconds.", func() float64 { return float64(s.quick.waiting()) })
	m.all.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "nexufix_build_info", Help: "The program that answers: always 1.",
		ConstLabels: prometheus.Labels{"version": version.Of()}}, func() float64 { return 1 }))
	m.all.MustRegister(m.requests, m.seconds, collectors.NewGoCollector(), collectors.NewBuildInfoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	return m
}

// count counts requests by the operation's pattern, of which there are few, and
// never by the path.
func (m *metrics) count(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		from := time.Now()
		err := next(c)
		path := c.Path()
		if path == "" {
			path = "other"
		}
		method := c.Request().Method
		switch method {
		case http.MethodGet, http.MethodPost, http.MethodPut, http.MethodDelete, http.MethodHead:
		default:
			method = "other"
		}
		status := http.StatusOK
		if r, unwrapErr := echo.UnwrapResponse(c.Response()); unwrapErr == nil && r.Status != 0 {
			status = r.Status
		}
		if err != nil {
			status = api.Describe(err).Status
		}
		m.requests.WithLabelValues(method, path, strconv.Itoa(status)).Inc()
		m.seconds.WithLabelValues(method, path).Observe(time.Since(from).Seconds())
		return err
	}
}

func (m *metrics) handler() echo.HandlerFunc {
	return echo.WrapHandler(promhttp.HandlerFor(m.all, promhttp.HandlerOpts{}))
}

// Package gauge sends the bench gauge's readings to the page.
package gauge

import (
	"log/slog"

	"nexufix/server/api"
	"nexufix/standins/gauge"
)

// Feature has the dependencies of the routes.
type Feature struct {
	Log     *slog.Logger
	Ending  chan struct{} // closed when the server stops: streams end then
	gauge   gauge.Simulated
	streams api.Streams
}

// maxStreaming is how many pages listen to the gauge.
const maxStreaming = 32

// New returns the feature with a simulated gauge, in place of the reader of a real one.
func New(log *slog.Logger, ending chan struct{}) *Feature {
	return &Feature{Log: log, Ending: ending, streams: api.Streams{Most: maxStreaming, OfOne: maxStreaming / 4}}
}

// Routes returns the feature's routes.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/gauge", "The bench gauge's readings, as server-sent events with a GaugeReading each.", nil, GaugeReading{},
			s.gaugeLines).Returns(200, "text/event-stream"),
		api.Post("/api/gauge/put", "Lay the simulated gauge on something of a size.", GaugePut{}, nil, s.putGauge).Returns(204, ""),
	}
}

package server

import (
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/standins/gauge"
)

// gaugeFeature sends the bench gauge's readings to the page.
type gaugeFeature struct {
	log     *slog.Logger
	ending  chan struct{} // closed when the server stops: streams end then
	gauge   gauge.Simulated
	streams api.Streams
}

// maxStreaming is how many pages listen to the gauge.
const maxStreaming = 32

// newGauge returns the feature with a simulated gauge, in place of the reader of a real one.
func newGauge(log *slog.Logger, ending chan struct{}) *gaugeFeature {
	return &gaugeFeature{log: log, ending: ending, streams: api.Streams{Most: maxStreaming, OfOne: maxStreaming / 4}}
}

// Routes returns the feature's routes.
func (s *gaugeFeature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/gauge", "The bench gauge's readings, as server-sent events with a GaugeReading each.", nil, GaugeReading{},
			s.gaugeLines).Returns(200, "text/event-stream"),
		api.Post("/api/gauge/put", "Lay the simulated gauge on something of a size.", GaugePut{}, nil, s.putGauge).Returns(204, ""),
	}
}

// GaugePut puts the simulated gauge on something.
type GaugePut struct {
	Kind  string         `json:"kind" required:"true" enum:"depth,weight"`
	Depth exchange.OptMM `json:"depth_mm,omitzero" minimum:"-500" maximum:"500"`
	Mass  exchange.OptKG `json:"mass_kg,omitzero" minimum:"0" maximum:"500"`
}

// GaugeReading is an event of the gauge's stream. Take is the figure to be
// typed, once the reading is steady.
type GaugeReading struct {
	Line   string `json:"line" required:"true"`
	Kind   string `json:"kind" required:"true"`
	Text   string `json:"text" required:"true"`
	Steady bool   `json:"steady" required:"true"`
	Take   string `json:"take" required:"true"`
}

// gaugeLines streams the gauge's readings as server-sent events.
func (s *gaugeFeature) gaugeLines(c *echo.Context) error {
	client := api.Client(c)
	if err := s.streams.Enter(client); err != nil {
		return err
	}
	defer s.streams.Leave(client)
	w := c.Response()
	w.Header().Set("Content-Type", "text/event-stream")
	flush := http.NewResponseController(w)
	if err := flush.SetWriteDeadline(time.Time{}); err != nil {
		s.log.Debug("no write deadline", "err", err)
	}
	ctx, cancel := api.Lasts(c, s.ending)
	defer cancel()
	var last []gauge.Reading
	err := s.gauge.Lines(ctx, func(line string) error {
		r, ok := gauge.Parse(line)
		if !ok {
			return nil
		}
		if last = append(last, r); len(last) > 16 {
			last = last[1:]
		}
		out := GaugeReading{Line: line, Kind: map[gauge.Kind]string{gauge.Depth: "depth", gauge.Weight: "weight"}[r.Kind], Text: r.Text(),
			Steady: r.Steady}
		if m, ok := gauge.Steady(last); ok {
			out.Take = m.Text()
		}
		raw, err := json.Marshal(out)
		if err != nil {
			return err
		}
		if _, err := fmt.Fprintf(w, "data: %s\n\n", raw); err != nil {
			return err
		}
		return flush.Flush()
	})
	if err != nil {
		s.log.Debug("gauge stream ended", "err", err) // the client has left
	}
	return nil
}

// putGauge puts the simulated gauge on something of a size.
func (s *gaugeFeature) putGauge(c *echo.Context) error {
	in, err := api.Read[GaugePut](c)
	if err != nil {
		return err
	}
	switch {
	case in.Kind == "depth" && in.Depth.Known:
		s.gauge.Put(gauge.Depth, "mm", in.Depth.Value.MM())
	case in.Kind == "weight" && in.Mass.Known:
		s.gauge.Put(gauge.Weight, "kg", in.Mass.Value.Kilograms())
	default:
		return exchange.Problems{{Path: "depth_mm", Found: "no size of that kind", Allowed: "depth_mm for a depth, mass_kg for a weight"}}
	}
	return c.NoContent(http.StatusNoContent)
}

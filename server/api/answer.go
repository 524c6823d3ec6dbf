package api

import (
	"encoding/json"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// Attachment answers with a file. Names are made of ids, which have nothing
// in them that a header could trip over.
func Attachment(c *echo.Context, name, kind string, raw []byte) error {
	c.Response().Header().Set("Content-Disposition", `attachment; filename="`+strings.ReplaceAll(name, `"`, "")+`"`)
	return c.Blob(http.StatusOK, kind, raw)
}

// Lines begins an answer of JSON, a line at a time, for work that takes a
// while.
func Lines(c *echo.Context) (*json.Encoder, *http.ResponseController) {
	w := c.Response()
	w.Header().Set("Content-Type", "application/x-ndjson")
	flush := http.NewResponseController(w)
	return json.NewEncoder(NewPatient(w, flush)), flush
}

// XLSX is the content type of a workbook.
const XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

// TooMuch is the answer when too much is being worked on.
var TooMuch = New(http.StatusServiceUnavailable, "Too much is being worked on.", "Nothing was changed. Try again in a moment.")

// TooMuchOfOne is the answer when one client has too much in work already.
var TooMuchOfOne = New(http.StatusTooManyRequests, "You have asked for much at once.",
	"Nothing was changed. Wait until some of it is done.")

// Streams counts answers or requests that take long, of all clients and of each.
type Streams struct {
	Most, OfOne int // OfOne 0: one may have all
	mu          sync.Mutex
	open        int
	of          map[string]int
}

// Enter counts one of a client; "" is nobody in particular. It fails when there are too many.
func (s *Streams) Enter(client string) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	switch {
	case s.open >= s.Most:
		return TooMuch
	case client != "" && s.OfOne > 0 && s.of[client] >= s.OfOne:
		return TooMuchOfOne
	}
	if s.of == nil {
		s.of = map[string]int{}
	}
	s.open++
	s.of[client]++
	return nil
}

// Leave ends one of a client.
func (s *Streams) Leave(client string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.open--
	if s.of[client]--; s.of[client] == 0 {
		delete(s.of, client)
	}
}

// DeadlineWriter writes an answer of many parts: each part has some time of its own, and
// all of them together, so that a client that does not read holds nothing up for
// long.
type DeadlineWriter struct {
	w       http.ResponseWriter
	control *http.ResponseController
	end     time.Time
}

const (
	partFor = 20 * time.Second
	allFor  = 5 * time.Minute
)

// NewPatient writes to a client.
func NewPatient(w http.ResponseWriter, control *http.ResponseController) *DeadlineWriter {
	return &DeadlineWriter{w, control, time.Now().Add(allFor)}
}

func (p *DeadlineWriter) Write(raw []byte) (int, error) {
	next := time.Now().Add(partFor)
	if next.After(p.end) {
		next = p.end
	}
	_ = p.control.SetWriteDeadline(next) // where there is none, there is no need
	return p.w.Write(raw)
}

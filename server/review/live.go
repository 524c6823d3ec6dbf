package review

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/server/api"
)

// The most event streams at a time.
const (
	maxListening = 500
	listeningOf  = 20 // of one person: their tabs
)

// Live is an event of the stream: a change, or a person who came or left.
type Live struct {
	Changed int      `json:"changed" required:"true"` // another number than before: look again
	Here    []string `json:"here" required:"true"`    // who else is at the same address
}

// hub notifies the pages that listen. The zero value has none.
type hub struct {
	mu       sync.Mutex
	count    int
	visitors map[*visitor]bool
}

// visitor is a page that listens.
type visitor struct {
	person int64
	name   string
	path   string
	poke   chan struct{}
}

func (h *hub) enter(v *visitor) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.visitors == nil {
		h.visitors = map[*visitor]bool{}
	}
	h.visitors[v] = true
	h.notify(v.path)
}

func (h *hub) leave(v *visitor) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.visitors, v)
	h.notify(v.path)
}

func (h *hub) changed() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.count++
	h.notify("")
}

// notify wakes the visitors of an address, "" for all.
func (h *hub) notify(path string) {
	for v := range h.visitors {
		if path == "" || v.path == path {
			select {
			case v.poke <- struct{}{}:
			default: // it will look anyway
			}
		}
	}
}

// begun makes the numbers of a program that was started again other ones.
var begun = int(time.Now().UnixMilli())

// now is the event that a visitor gets.
func (h *hub) now(v *visitor) Live {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := Live{Changed: begun + h.count, Here: []string{}}
	for o := range h.visitors {
		if o.path == v.path && o.person != v.person && !slices.Contains(out.Here, o.name) {
			out.Here = append(out.Here, o.name)
		}
	}
	slices.Sort(out.Here)
	return out
}

// keepAlive is how often the stream sends something, so that proxies keep it open.
const keepAlive = 25 * time.Second

// maxStream is how long a stream lasts. The page opens the next one, which authenticates again.
const maxStream = 5 * time.Minute

// live streams events to a page.
func (f *Feature) live(c *echo.Context) error {
	client := api.Client(c)
	if err := f.streams.Enter(client); err != nil {
		return err
	}
	defer f.streams.Leave(client)
	q, err := api.Query[at](c)
	if err != nil {
		return err
	}
	p := api.Person(c)
	v := &visitor{person: p.ID, name: p.Name, path: q.Path, poke: make(chan struct{}, 1)}
	f.hub.enter(v)
	defer f.hub.leave(v)
	w := c.Response()
	w.Header().Set("Content-Type", "text/event-stream")
	flush := http.NewResponseController(w)
	if err := flush.SetWriteDeadline(time.Time{}); err != nil {
		f.Log.Debug("no write deadline", "err", err)
	}
	ctx, cancel := api.Lasts(c, f.Ending)
	defer cancel()
	end := time.After(maxStream)
	for {
		raw, err := json.Marshal(f.hub.now(v))
		if err != nil {
			return err
		}
		if _, err := fmt.Fprintf(w, "data: %s\n\n", raw); err != nil {
			return nil // the reader has gone
		}
		if err := flush.Flush(); err != nil {
			return nil
		}
		select {
		case <-ctx.Done():
			return nil
		case <-end:
			return nil
		case <-v.poke:
		case <-time.After(keepAlive):
		}
	}
}

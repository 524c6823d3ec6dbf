package server

import (
	"bytes"
	"crypto/sha256"
	"io"
	"net/http"
	"sync"
	"time"

	"github.com/hashicorp/golang-lru/v2/simplelru"
	"github.com/labstack/echo/v5"

	"nexufix/server/api"
)

// idempotencyKey is the header by which a script that has heard no answer asks again without doing it twice (IETF draft
// httpapi-idempotency-key-header).
const idempotencyKey = "Idempotency-Key"

// How long and how much is remembered of what was done under a key: as long as the server runs, a day at the most.
const (
	mostKey      = 200
	mostRemember = 10_000
	mostAnswer   = 64 << 10
	keyHolds     = 24 * time.Hour
)

// once remembers what was done under the keys of clients.
type once struct {
	mu   sync.Mutex
	done *simplelru.LRU[string, *doneOnce] // looked at by Peek alone: the oldest goes first
}

func newOnce() *once {
	done, err := simplelru.NewLRU[string, *doneOnce](mostRemember, nil)
	if err != nil {
		panic(err) // of a size that is none
	}
	return &once{done: done}
}

// doneOnce is what was asked under a key, and the answer, when there is one.
type doneOnce struct {
	asked  [sha256.Size]byte
	at     time.Time
	ended  bool
	status int
	header http.Header
	body   []byte
	large  bool // the answer was too long to be remembered
}

// errors of a key, beside those of what is asked.
var (
	errKey = api.New(http.StatusBadRequest, "The Idempotency-Key is no key.", "1 to 200 letters, made anew for everything that is to be done.")

	errKeyUsed = api.New(http.StatusUnprocessableEntity, "This Idempotency-Key was used for something else.",
		"Make a new one for everything that is to be done.")

	errKeyBusy = api.New(http.StatusConflict, "What was asked under this Idempotency-Key is still being done.", "Ask again in a moment.")

	errKeyLarge = api.New(http.StatusConflict, "It was done under this Idempotency-Key, and its answer was too long to be kept.",
		"Look up what became of it.")
)

// only does what is asked under a key once, and answers the same again. What failed was not done, and is done when it is asked again.
func (o *once) only(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		values, sent := r.Header[idempotencyKey]
		if !sent {
			return next(c)
		}
		if len(values) != 1 || values[0] == "" || len(values[0]) > mostKey {
			return errKey
		}
		body, err := io.ReadAll(r.Body)
		if err != nil {
			return err
		}
		r.Body = io.NopCloser(bytes.NewReader(body))
		asked := sha256.Sum256(append([]byte(r.Method+" "+r.URL.RequestURI()+" "+r.Header.Get("If-Match")+"\n"), body...))
		key := api.Client(c) + "\n" + values[0]
		was, mine := o.begin(key, asked, time.Now())
		if !mine {
			return was.again(c, asked)
		}
		to := c.Response()
		heard := &hearing{ResponseWriter: to, status: http.StatusOK}
		c.SetResponse(heard)
		ok := false
		defer func() { // also in a panic
			c.SetResponse(to)
			o.end(key, was, heard, ok)
		}()
		err = next(c)
		ok = err == nil && heard.status < http.StatusBadRequest
		return err
	}
}

// begin is what was asked under a key, and whether it is to be done now.
func (o *once) begin(key string, asked [sha256.Size]byte, now time.Time) (copied *doneOnce, mine bool) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if was, known := o.done.Peek(key); known && now.Sub(was.at) <= keyHolds {
		out := *was
		return &out, false
	}
	d := &doneOnce{asked: asked, at: now}
	o.done.Remove(key) // as old as it is now
	o.done.Add(key, d)
	return d, true
}

// end remembers what was answered; nothing, where nothing was done.
func (o *once) end(key string, d *doneOnce, heard *hearing, ok bool) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if !ok {
		if now, known := o.done.Peek(key); known && now == d {
			o.done.Remove(key)
		}
		return
	}
	d.ended, d.status, d.header, d.body, d.large = true, heard.status, heard.Header().Clone(), heard.body.Bytes(), heard.large
}

// again answers what was answered before.
func (d *doneOnce) again(c *echo.Context, asked [sha256.Size]byte) error {
	switch {
	case d.asked != asked:
		return errKeyUsed
	case !d.ended:
		return errKeyBusy
	case d.large:
		return errKeyLarge
	}
	h := c.Response().Header()
	for _, name := range []string{"Content-Type", "ETag", "Location"} {
		if v := d.header.Get(name); v != "" {
			h.Set(name, v)
		}
	}
	h.Set("Idempotency-Replayed", "true")
	c.Response().WriteHeader(d.status)
	_, _ = c.Response().Write(d.body) // to a client that has left there is nothing to say
	return nil
}

// hearing writes an answer and remembers it.
type hearing struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
	large  bool
}

// WriteHeader hears the status.
func (h *hearing) WriteHeader(status int) {
	h.status = status
	h.ResponseWriter.WriteHeader(status)
}

// Write hears the body.
func (h *hearing) Write(p []byte) (int, error) {
	if h.large = h.large || h.body.Len()+len(p) > mostAnswer; !h.large {
		h.body.Write(p)
	}
	return h.ResponseWriter.Write(p)
}

// Unwrap lets what is below be found, to flush it.
func (h *hearing) Unwrap() http.ResponseWriter { return h.ResponseWriter }

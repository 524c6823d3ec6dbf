package api

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"nexufix/core/quantity"
	"strconv"
	"strings"
	"sync"

	"github.com/labstack/echo/v5"
)

// Kept is an answer in JSON that is the same for everybody until something changes. It is encoded and compressed once, by the first who
// asks; a client that has it already is told so. The zero value has none.
type Kept struct {
	mu   sync.Mutex
	of   any // what it was made of
	gz   []byte
	size int
	tag  string
}

// Answer answers with what make makes of something, which is told from another by ==.
func (k *Kept) Answer(c *echo.Context, of any, make func() any) error {
	gz, size, tag, err := k.encoded(of, make)
	if err != nil {
		return err
	}
	h := c.Response().Header()
	h.Set("ETag", tag)
	h.Set("Cache-Control", "private, no-cache") // it may be kept where it is asked for again each time
	h.Add("Vary", "Accept-Encoding")
	for _, have := range strings.Split(c.Request().Header.Get("If-None-Match"), ",") {
		if strings.TrimPrefix(strings.TrimSpace(have), "W/") == tag {
			return c.NoContent(http.StatusNotModified)
		}
	}
	h.Set("Content-Type", "application/json")
	to := NewPatient(c.Response(), http.NewResponseController(c.Response()))
	if strings.Contains(c.Request().Header.Get("Accept-Encoding"), "gzip") {
		h.Set("Content-Encoding", "gzip")
		h.Set("Content-Length", strconv.Itoa(len(gz)))
		_, _ = to.Write(gz) // to a client that has left there is nothing to say
		return nil
	}
	h.Set("Content-Length", strconv.Itoa(size))
	plain, err := gzip.NewReader(bytes.NewReader(gz))
	if err == nil {
		_, _ = io.Copy(to, plain)
	}
	return err
}

func (k *Kept) encoded(of any, make func() any) (gz []byte, size int, tag string, err error) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.of == of {
		return k.gz, k.size, k.tag, nil
	}
	var out bytes.Buffer
	packed, sum := gzip.NewWriter(&out), sha256.New()
	count := &counter{}
	if err := errors.Join(json.NewEncoder(io.MultiWriter(packed, sum, count)).Encode(make()), packed.Close()); err != nil {
		return nil, 0, "", err
	}
	k.of, k.gz, k.size, k.tag = of, bytes.Clone(out.Bytes()), count.n, `"`+hex.EncodeToString(sum.Sum(nil)[:12])+`"`
	return k.gz, k.size, k.tag, nil
}

// KeptByLanguage are the answers to one question, each kept in its language. The zero value has none.
type KeptByLanguage struct{ by sync.Map }

// Of is the answer for a reader.
func (k *KeptByLanguage) Of(to quantity.Reader) *Kept {
	one, _ := k.by.LoadOrStore(to.Code(), &Kept{})
	return one.(*Kept)
}

type counter struct{ n int }

func (c *counter) Write(raw []byte) (int, error) { c.n += len(raw); return len(raw), nil }

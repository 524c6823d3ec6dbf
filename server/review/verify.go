package review

import (
	"bytes"
	_ "embed"
	"errors"
	"html/template"
	"net/http"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
	"golang.org/x/time/rate"

	"nexufix/app"
	"nexufix/server/api"
	"nexufix/store"
)

//go:embed verify.tmpl
var verifyText string

var verifyPage = template.Must(template.New("verify").Parse(verifyText))

// verified is what everybody is told of a document, and nothing else.
type verified struct {
	Number, By string
	Standing   app.Standing
	Known      bool
}

// verify tells whoever has a document in hand whether it is current.
func (f *Feature) verify(c *echo.Context) error {
	if !f.asked.allow(c.RealIP()) {
		return api.New(http.StatusTooManyRequests, "Too many codes were asked for.", "Wait a minute, then try again.")
	}
	var v verified
	status := http.StatusOK
	standing, number, by, err := app.StandingOf(c.Request().Context(), f.Store, c.Param("code"))
	switch {
	case errors.Is(err, store.ErrNotFound):
		status = http.StatusNotFound
	case err != nil:
		return err
	default:
		v = verified{number, by, standing, true}
	}
	var out bytes.Buffer
	if err := verifyPage.Execute(&out, v); err != nil {
		return err
	}
	c.Response().Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
	c.Response().Header().Set("Cache-Control", "no-store")
	return c.HTMLBlob(status, out.Bytes())
}

// tries holds back who asks for many codes: an address has some, and then one in two seconds.
type tries struct {
	mu  sync.Mutex
	all map[string]*rate.Limiter
}

func newTries() *tries { return &tries{all: map[string]*rate.Limiter{}} }

func (t *tries) allow(address string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	if len(t.all) > 10_000 {
		clear(t.all)
	}
	if t.all[address] == nil {
		t.all[address] = rate.NewLimiter(rate.Every(2*time.Second), 60)
	}
	return t.all[address].Allow()
}

package review

import (
	"bytes"
	"crypto/rand"
	_ "embed"
	"errors"
	"html/template"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/server/api"
	"nexufix/store"
)

//go:embed verify.tmpl
var verifyText string

var verifyPage = template.Must(template.New("verify").Parse(verifyText))

// verified is the public answer about a document, and all that is public.
type verified struct {
	Number, By string
	Standing   app.DocumentStatus
	Known      bool
	Restored   string // the day of the last restore, after which codes may be missing; ""
	Nonce      string // of its style
}

// verify tells the holder of a document whether it is current.
func (f *Feature) verify(c *echo.Context) error {
	if wait := f.asked.Wait(api.Address(c)); wait > 0 {
		return api.TooOften("Too many codes were asked for.", wait)
	}
	v := verified{Nonce: rand.Text()}
	status := http.StatusOK
	standing, number, by, err := app.StatusOf(c.Request().Context(), f.Store, c.Param("code"))
	switch {
	case errors.Is(err, store.ErrNotFound):
		status = http.StatusNotFound
		at, err := f.Store.LastRestored(c.Request().Context())
		if err != nil {
			return err
		}
		v.Restored, _, _ = strings.Cut(at, "T")
	case err != nil:
		return err
	default:
		v.Number, v.By, v.Standing, v.Known = number, by, standing, true
	}
	var out bytes.Buffer
	if err := verifyPage.Execute(&out, v); err != nil {
		return err
	}
	c.Response().Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'nonce-"+v.Nonce+
		"'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'")
	return c.HTMLBlob(status, out.Bytes())
}

package review

import (
	"bytes"
	"crypto/rand"
	_ "embed"
	"encoding/json"
	"errors"
	"html/template"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app/review"
	"nexufix/server/api"
	"nexufix/store"
)

//go:embed verify.tmpl
var verifyText string

var verifyPage = template.Must(template.New("verify").Parse(verifyText))

// verified is the public answer about a document, and all that is public.
type verified struct {
	Number, By string
	Standing   review.DocumentStatus
	Known      bool
	Forged     bool   // the code has a signature, which is not of this document
	Restored   string // the day of the last restore, after which codes may be missing; ""
	Nonce      string // of its style and script
}

// keys are the public keys by which documents are signed, for whoever checks them without this server.
func (f *Feature) keys(c *echo.Context) error {
	all, err := f.Store.SigningKeys(c.Request().Context())
	if err != nil {
		return err
	}
	var out strings.Builder
	for _, id := range slices.Sorted(maps.Keys(all)) {
		out.WriteString(id + "\n" + all[id])
	}
	return c.Blob(http.StatusOK, "application/x-pem-file", []byte(out.String()))
}

// release is the statement of a document with its signature and its figures.
func (f *Feature) release(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	out, err := review.ReleaseOf(c.Request().Context(), f.Store, id)
	if err != nil {
		return err
	}
	raw, err := json.MarshalIndent(out, "", " ")
	if err != nil {
		return err
	}
	return api.Attachment(c, out.Statement.Number+"-"+out.Statement.Revision+"-release.json", "application/json", raw)
}

// verify tells the holder of a document whether it is current.
func (f *Feature) verify(c *echo.Context) error {
	if wait := f.asked.Wait(api.Address(c)); wait > 0 {
		return api.TooOften("Too many codes were asked for.", wait)
	}
	v := verified{Nonce: rand.Text()}
	status := http.StatusOK
	q, err := api.Query[byCode](c)
	if err != nil {
		return err
	}
	standing, number, by, err := review.StatusOf(c.Request().Context(), f.Store, c.Param("code"))
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
		genuine, err := review.PaperIsOurs(c.Request().Context(), f.Store, c.Param("code"), q.Said)
		if err != nil {
			return err
		}
		v.Forged = !genuine
	}
	var out bytes.Buffer
	if err := verifyPage.Execute(&out, v); err != nil {
		return err
	}
	c.Response().Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'nonce-"+v.Nonce+
		"'; script-src 'nonce-"+v.Nonce+"'; worker-src 'self'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'")
	return c.HTMLBlob(status, out.Bytes())
}

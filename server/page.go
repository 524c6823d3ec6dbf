package server

import (
	"bytes"
	"compress/gzip"
	"crypto/rand"
	"errors"
	"html"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"
	"sync"

	"github.com/labstack/echo/v5"

	"nexufix/server/api"
	"nexufix/web"
)

// nonceMark is the placeholder in the built page for the nonce of an answer.
const nonceMark = "__NONCE__"

// belowMark is the placeholder for the path that a proxy has the server under.
const belowMark = "__BELOW__"

const notBuilt = `<!doctype html>
<html lang="en"><meta charset="utf-8"><title>Nexufix</title>
<h1>Nexufix</h1>
<p>The server runs, but the front end has not been built yet. In the source folder, run <code>make build</code>, then start the program again.</p>
<p>The API is described at <a href="api/openapi.json">/api/openapi.json</a>.</p>
</html>
`

// page is the front end: its one HTML page and its assets, each compressed when it is first asked for.
type page struct {
	html   string
	assets map[string]asset
}

type asset struct {
	plain  []byte
	zipped func() []byte // nil for what is compressed by itself
	kind   string
}

func loadPage() (*page, error) {
	p := &page{html: notBuilt, assets: map[string]asset{}}
	html, err := web.Dist.ReadFile("dist/index.html")
	if errors.Is(err, fs.ErrNotExist) {
		return p, nil
	}
	if err != nil {
		return nil, err
	}
	p.html = string(html)
	err = fs.WalkDir(web.Dist, "dist", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || name == "dist/index.html" {
			return err
		}
		raw, err := web.Dist.ReadFile(name)
		if err != nil {
			return err
		}
		a := asset{plain: raw, kind: mime.TypeByExtension(path.Ext(name))}
		if path.Ext(name) != ".woff2" {
			a.zipped = sync.OnceValue(func() []byte { return zipped(raw) })
		}
		p.assets[strings.TrimPrefix(name, "dist")] = a
		return nil
	})
	return p, err
}

// zipped compresses; into memory, which cannot fail.
func zipped(raw []byte) []byte {
	var b bytes.Buffer
	z, _ := gzip.NewWriterLevel(&b, gzip.BestCompression)
	_, _ = z.Write(raw)
	_ = z.Close()
	return b.Bytes()
}

// asset serves a file of the build. Its name changes with its contents, so it
// can be cached without a limit.
func (p *page) asset(c *echo.Context) error {
	a, ok := p.assets[path.Clean(c.Request().URL.Path)]
	if !ok {
		return echo.ErrNotFound
	}
	h := c.Response().Header()
	h.Set("Cache-Control", "public, max-age=31536000, immutable")
	if strings.HasPrefix(a.kind, "text/plain") { // the licences have always the same name
		h.Set("Cache-Control", "no-cache")
	}
	h.Add("Vary", "Accept-Encoding")
	if a.zipped != nil && strings.Contains(c.Request().Header.Get("Accept-Encoding"), "gzip") {
		h.Set("Content-Encoding", "gzip")
		return c.Blob(http.StatusOK, a.kind, a.zipped())
	}
	return c.Blob(http.StatusOK, a.kind, a.plain)
}

// check serves a part of what checks a sheet without the server, whose address stays.
func (p *page) check(c *echo.Context) error {
	a, ok := p.assets[c.Request().URL.Path]
	if !ok {
		return echo.ErrNotFound
	}
	h := c.Response().Header()
	h.Set("Cache-Control", "no-cache")
	h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; connect-src 'self'; frame-ancestors 'none'; "+
		"base-uri 'none'; form-action 'none'")
	return c.Blob(http.StatusOK, a.kind, a.plain)
}

// views are the addresses of the page, by their first part: of the front end's routes.
var views = map[string]bool{"": true, "wall": true, "template": true, "steps": true, "matrix": true, "catalogue": true, "policy": true,
	"jobs": true, "saved": true, "desk": true, "reviews": true, "people": true}

// index serves the page for every address of the application; what is none is not found.
func (p *page) index(c *echo.Context) error {
	nonce := rand.Text()
	h := c.Response().Header()
	h.Set("Content-Security-Policy", "default-src 'self'; script-src 'self' 'nonce-"+nonce+"'; style-src 'self' 'nonce-"+nonce+
		"'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; "+
		"frame-ancestors 'none'")
	status := http.StatusNotFound // the page says that nothing is there, and where to go on
	if part, _, _ := strings.Cut(strings.TrimPrefix(c.Request().URL.Path, "/"), "/"); views[part] {
		status = http.StatusOK
	}
	below := html.EscapeString(api.At(c, ""))
	return c.HTML(status, strings.NewReplacer(nonceMark, nonce, belowMark, below, `="./`, `="`+below+`/`).Replace(p.html))
}

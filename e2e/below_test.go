package e2e

import (
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"nexufix/e2e/drive"
)

// TestBelowAPath: behind a proxy that has the program below a path, and takes it off or leaves it, somebody signs in, walks through the
// views, loads them anew, opens the page for the wall and takes a file; and nothing is asked of the proxy outside the path.
func TestBelowAPath(t *testing.T) {
	const below = "/office/nexufix"
	for name, takesOff := range map[string]bool{"left": false, "taken off": true} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			app, err := drive.Start(program, "people", filepath.Join(t.TempDir(), "data"), "--base-path", below)
			if err != nil {
				t.Fatal(err)
			}
			t.Cleanup(func() { _ = app.Stop() })
			there, err := url.Parse(strings.TrimSuffix(app.URL, below))
			if err != nil {
				t.Fatal(err)
			}
			var handler http.Handler = httputil.NewSingleHostReverseProxy(there)
			if takesOff {
				handler = http.StripPrefix(below, handler)
			}
			var mu sync.Mutex
			var outside []string
			proxy := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
				if !strings.HasPrefix(r.URL.Path, below+"/") {
					mu.Lock()
					outside = append(outside, r.URL.Path)
					mu.Unlock()
					http.NotFound(w, r)
					return
				}
				handler.ServeHTTP(w, r)
			}))
			t.Cleanup(proxy.Close)
			app.URL = proxy.URL + below

			d := sitAt(t, app, "/catalogue/brackets")
			d.allowed = "401"
			d.PressButton(".sign-in button", "Ada")
			d.Wait(`document.querySelectorAll('.MuiDataGrid-row').length > 8`)
			for _, key := range []string{"a", "o", "v"} {
				d.Type(key)
				d.See("h1")
			}
			d.Wait(`location.pathname === '` + below + `/jobs'`)
			d.See(".jobs tbody tr")
			d.Open(app.URL + "/jobs")
			d.Click(`.jobs a[href^="` + below + `/steps"]`)
			d.See(".steps h2")
			d.Wait(`location.pathname === '` + below + `/steps' && location.search.includes('job=')`)
			d.PressButton("a", "At the wall")
			d.Wait(`location.pathname.startsWith('` + below + `/at/') && document.querySelector('section')`)
			d.Open(app.URL + "/catalogue")
			d.PressButton("a", "JSON")
			if raw := d.downloaded("nexufix.json"); !strings.Contains(string(raw), `"nexufix/1"`) {
				t.Errorf("the file is %.100s", raw)
			}
			if len(outside) > 0 {
				t.Errorf("asked outside of the path: %v", outside)
			}
		})
	}
}

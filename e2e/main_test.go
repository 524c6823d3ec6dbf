// Package e2e drives the real program on a real database file in headless
// Chromium, as a person would: by keyboard, by mouse, on bad days too.
package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"nexufix/e2e/drive"
)

var (
	program string          // the built binary
	browser context.Context // one for all tests
)

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "nexufix-e2e-")
	stop := func() {}
	if err == nil {
		program, err = drive.Build("..", dir)
	}
	if err == nil {
		browser, stop, err = drive.Chromium(context.Background())
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	code := m.Run()
	stop()
	os.RemoveAll(dir)
	os.Exit(code)
}

// desk is a person at the program: a page, the program, and a folder for what
// is downloaded.
type desk struct {
	*drive.Page
	t         testing.TB
	app       *drive.App
	downloads string
	allowed   string // a complaint of the browser that belongs to the test

	mu         sync.Mutex
	complaints []string
}

// sit starts a program with the demo's data and opens an address of it. Two people sit at a time:
// a browser waits more than it works.
func sit(t testing.TB, at string) *desk {
	t.Helper()
	if test, ok := t.(*testing.T); ok {
		test.Parallel()
	}
	return sitAt(t, demoApp(t), at)
}

// demoApp is a program with the demo's data, at a desk of one.
func demoApp(t testing.TB) *drive.App {
	t.Helper()
	app, err := drive.Start(program, "demo", filepath.Join(t.TempDir(), "data"))
	return running(t, app, err)
}

// running is a program that was started; when the test ends it has to stop cleanly.
func running(t testing.TB, app *drive.App, err error) *drive.App {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := app.Stop(); err != nil && !strings.Contains(err.Error(), "already finished") {
			t.Errorf("the program did not stop cleanly: %v", err)
		}
	})
	return app
}

func sitAt(t testing.TB, app *drive.App, at string) *desk {
	t.Helper()
	d := &desk{t: t, app: app, downloads: t.TempDir()}
	ctx, stop := drive.Tab(browser, func(text string) {
		d.mu.Lock()
		defer d.mu.Unlock()
		d.complaints = append(d.complaints, text)
	})
	t.Cleanup(stop)
	t.Cleanup(func() {
		if d.Err != nil {
			t.Error(d.Err)
		}
		d.mu.Lock()
		defer d.mu.Unlock()
		for _, c := range d.complaints {
			half := d.Typed && strings.Contains(c, "400 (Bad Request)") // a figure while it is typed
			if !half && (d.allowed == "" || !strings.Contains(c, d.allowed)) {
				t.Error(c)
			}
		}
	})
	d.Page = drive.NewPage(ctx)
	d.Open("about:blank")
	d.Scheme("light")
	d.Downloads(d.downloads)
	d.Open(app.URL + at)
	return d
}

// must stops the test at the first thing that went wrong.
func (d *desk) must() {
	d.t.Helper()
	if d.Err != nil {
		d.t.FailNow()
	}
}

// downloaded waits for a file to arrive whole.
func (d *desk) downloaded(name string) []byte {
	d.t.Helper()
	d.must()
	file := filepath.Join(d.downloads, name)
	ctx, cancel := context.WithTimeout(d.t.Context(), 15*time.Second)
	defer cancel()
	for tick := time.NewTicker(20 * time.Millisecond); ; {
		if raw, err := os.ReadFile(file); err == nil && len(raw) > 0 {
			return raw
		}
		select {
		case <-tick.C:
		case <-ctx.Done():
			d.t.Fatalf("%s did not arrive", name)
		}
	}
}

// value reads from the page.
func value[T any](d *desk, js string) T { return drive.Value[T](d.Page, js) }

//go:build outside

package e2e

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
)

// The other browsers of Debian: firefox-esr by WebDriver BiDi (W3C, 2025), WebKitGTK's MiniBrowser by WebDriver (W3C, 2018). They take
// minutes and a quarter of a gigabyte of packages: `make outside` builds these tests, `make test` does not.

// patience is how long a browser may take for an answer.
const patience = 60 * time.Second

// another is a browser that goes to an address and says whether something is true there.
type another interface {
	open(url string) error
	is(js string) (bool, error)
	complaints() []string // errors of its console
}

// TestOtherBrowsers: every main view opens in Firefox and in WebKit, and their consoles have no error.
func TestOtherBrowsers(t *testing.T) {
	app := demoApp(t)
	for name, begin := range map[string]func(*testing.T) another{"Firefox": firefox, "WebKit": webkit} {
		t.Run(name, func(t *testing.T) {
			b := begin(t)
			for _, v := range views {
				if v.wait == "" || v.name == "refused" {
					continue
				}
				_, _ = b.is(`(sessionStorage.clear(), true)`) // nothing of the view before
				if err := b.open(app.URL + v.at); err != nil {
					t.Fatalf("%s: %v", v.name, err)
				}
				if !soon(b, v.wait) {
					t.Errorf("%s: it does not become %s", v.name, v.wait)
				}
			}
			for _, c := range b.complaints() {
				if !strings.Contains(c, "/api/live") { // it is left with the page
					t.Error(c)
				}
			}
		})
	}
}

// TestGeneratedClient: oapi-codegen makes a client of the API's document, which compiles and does a job (.ci/client).
func TestGeneratedClient(t *testing.T) {
	app := demoApp(t)
	dir := filepath.Join(t.TempDir(), "client")
	if err := os.CopyFS(dir, os.DirFS("../.ci/client")); err != nil {
		t.Fatal(err)
	}
	document, err := exec.Command(program, "openapi").Output()
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, "openapi.json"), document, 0o600); err != nil {
		t.Fatal(err)
	}
	for _, args := range [][]string{
		{"tool", "oapi-codegen", "-generate", "types,client", "-package", "main", "-o", "client.gen.go", "openapi.json"},
		{"run", ".", app.URL},
	} {
		c := exec.Command("go", args...)
		c.Dir, c.Env = dir, append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off")
		if out, err := c.CombinedOutput(); err != nil {
			t.Fatalf("go %s: %v %s", strings.Join(args[:2], " "), err, out)
		}
	}
}

// soon asks until something is true.
func soon(b another, js string) bool {
	for end := time.Now().Add(patience / 3); time.Now().Before(end); {
		if is, err := b.is("!!(" + js + ")"); err == nil && is {
			return true
		}
	}
	return false
}

// started is a program that runs until the test ends, and the first words that its output has of a kind.
func started(t *testing.T, words *regexp.Regexp, name string, args ...string) []string {
	t.Helper()
	c := exec.Command(name, args...)
	c.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	r, w, err := os.Pipe()
	if err != nil {
		t.Fatal(err)
	}
	c.Stdout, c.Stderr = w, w
	if err := c.Start(); err != nil {
		t.Fatal(err)
	}
	w.Close()
	t.Cleanup(func() {
		_ = syscall.Kill(-c.Process.Pid, syscall.SIGKILL)
		_ = c.Wait()
	})
	lines := bufio.NewScanner(r)
	for lines.Scan() {
		if m := words.FindStringSubmatch(lines.Text()); m != nil {
			go func() {
				for lines.Scan() {
				}
			}()
			return m
		}
	}
	t.Fatalf("%s never said %s", name, words)
	return nil
}

type bidi struct {
	conn *websocket.Conn
	tab  string

	mu    sync.Mutex
	asked int
	waits map[int]chan json.RawMessage
	said  []string
}

// firefox starts Firefox without a window.
func firefox(t *testing.T) another {
	at := started(t, regexp.MustCompile(`BiDi listening on (ws://\S+)`), "firefox-esr", "--headless", "--no-remote",
		"--profile", t.TempDir(), "--remote-debugging-port", "0")
	conn, _, err := websocket.Dial(t.Context(), at[1]+"/session", nil)
	if err != nil {
		t.Fatal(err)
	}
	conn.SetReadLimit(-1)
	b := &bidi{conn: conn, waits: map[int]chan json.RawMessage{}}
	go b.listen()
	t.Cleanup(func() { _ = conn.CloseNow() })
	var tree struct {
		Contexts []struct{ Context string }
	}
	if err := b.ask("session.new", map[string]any{"capabilities": map[string]any{}}, nil); err != nil {
		t.Fatal(err)
	}
	if err := b.ask("session.subscribe", map[string]any{"events": []string{"log.entryAdded"}}, nil); err != nil {
		t.Fatal(err)
	}
	if err := b.ask("browsingContext.getTree", map[string]any{}, &tree); err != nil || len(tree.Contexts) == 0 {
		t.Fatal(err, tree)
	}
	b.tab = tree.Contexts[0].Context
	return b
}

func (b *bidi) listen() {
	for {
		var m struct {
			ID             int
			Type, Method   string
			Error, Message string
			Result, Params json.RawMessage
		}
		if wsjson.Read(context.Background(), b.conn, &m) != nil {
			return
		}
		b.mu.Lock()
		switch {
		case m.Method == "log.entryAdded":
			var entry struct{ Level, Text string }
			if json.Unmarshal(m.Params, &entry) == nil && entry.Level == "error" {
				b.said = append(b.said, entry.Text)
			}
		case b.waits[m.ID] != nil && m.Error != "":
			b.said = append(b.said, m.Error+": "+m.Message)
			b.waits[m.ID] <- nil
		case b.waits[m.ID] != nil:
			b.waits[m.ID] <- m.Result
		}
		b.mu.Unlock()
	}
}

func (b *bidi) ask(method string, params, into any) error {
	b.mu.Lock()
	b.asked++
	id, answer := b.asked, make(chan json.RawMessage, 1)
	b.waits[id] = answer
	b.mu.Unlock()
	ctx, stop := context.WithTimeout(context.Background(), patience)
	defer stop()
	if err := wsjson.Write(ctx, b.conn, map[string]any{"id": id, "method": method, "params": params}); err != nil {
		return err
	}
	select {
	case raw := <-answer:
		if raw == nil {
			return fmt.Errorf("%s: %s", method, strings.Join(b.complaints(), "; "))
		}
		if into == nil {
			return nil
		}
		return json.Unmarshal(raw, into)
	case <-ctx.Done():
		return fmt.Errorf("%s: %w", method, ctx.Err())
	}
}

func (b *bidi) open(url string) error {
	return b.ask("browsingContext.navigate", map[string]any{"context": b.tab, "url": url, "wait": "interactive"}, nil)
}

func (b *bidi) is(js string) (bool, error) {
	var got struct{ Result struct{ Value bool } }
	err := b.ask("script.evaluate",
		map[string]any{"expression": js, "target": map[string]string{"context": b.tab}, "awaitPromise": false}, &got)
	return got.Result.Value, err
}

func (b *bidi) complaints() []string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return append([]string{}, b.said...)
}

type classic struct {
	at   string
	said []string
}

// webkit starts WebKitGTK's small browser on a screen that nobody sees.
func webkit(t *testing.T) another {
	driver, err := filepath.Glob("/usr/lib/*/webkit2gtk-4.*/MiniBrowser")
	if err != nil || len(driver) == 0 {
		t.Fatal("no MiniBrowser", err)
	}
	t.Setenv("WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS", "1") // its sandbox wants a user of its own; what it opens is ours
	port := "18461"
	started(t, regexp.MustCompile(`ready`), "xvfb-run", "-a", "sh", "-c", "WebKitWebDriver --port="+port+" & sleep 1; echo ready; wait")
	b := &classic{at: "http://127.0.0.1:" + port}
	var got struct{ SessionID string }
	options := map[string]any{"binary": driver[0], "args": []string{"--automation"}}
	wanted := map[string]any{"alwaysMatch": map[string]any{"webkitgtk:browserOptions": options}}
	if err := b.ask("/session", map[string]any{"capabilities": wanted}, &got); err != nil {
		t.Fatal(err)
	}
	b.at += "/session/" + got.SessionID
	return b
}

func (b *classic) ask(path string, body, into any) error {
	raw, err := json.Marshal(body)
	if err != nil {
		return err
	}
	a, err := (&http.Client{Timeout: patience}).Post(b.at+path, "application/json", bytes.NewReader(raw))
	if err != nil {
		return err
	}
	defer a.Body.Close()
	var got struct{ Value json.RawMessage }
	if err := json.NewDecoder(a.Body).Decode(&got); err != nil {
		return err
	}
	if a.StatusCode != http.StatusOK {
		return fmt.Errorf("%s: %s", path, got.Value)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(got.Value, into)
}

// open goes to an address. WebDriver has no console: what the page before complained of is kept by the page itself.
func (b *classic) open(url string) error {
	b.gather()
	if err := b.ask("/url", map[string]string{"url": url}, nil); err != nil {
		return err
	}
	return b.ask("/execute/sync", map[string]any{"args": []string{}, "script": `window.wrong = [];
		addEventListener('error', (e) => window.wrong.push(String(e.message)));
		addEventListener('unhandledrejection', (e) => window.wrong.push(String(e.reason)));
		const say = console.error; console.error = (...all) => { window.wrong.push(all.join(' ')); say(...all); };`}, nil)
}

func (b *classic) gather() {
	var wrong []string
	if b.ask("/execute/sync", map[string]any{"args": []string{}, "script": `return window.wrong ?? []`}, &wrong) == nil {
		b.said = append(b.said, wrong...)
	}
}

func (b *classic) is(js string) (is bool, err error) {
	err = b.ask("/execute/sync", map[string]any{"args": []string{}, "script": "return " + js}, &is)
	return is, err
}

func (b *classic) complaints() []string {
	b.gather()
	return b.said
}

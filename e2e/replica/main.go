// Command replica shows what continuous copying by Litestream is worth: a server
// writes while its log is copied and a second one follows to read; then the first
// and the copying are killed at once, as if the machine were gone, and what was
// acknowledged is looked for in the copy. It is run by hand: make replica.
package main

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"time"
)

func main() {
	program := flag.String("program", "bin/nexufix", "the program")
	litestream := flag.String("litestream", "litestream", "Litestream")
	writing := flag.Duration("for", 15*time.Second, "how long is written")
	flag.Parse()
	if err := run(*program, *litestream, *writing); err != nil {
		fmt.Fprintln(os.Stderr, "replica:", err)
		os.Exit(1)
	}
}

var listening = regexp.MustCompile(`url=(http://\S+)`)

// serve starts a server and gives its address.
func serve(program string, args ...string) (*exec.Cmd, string, error) {
	c := exec.Command(program, append([]string{"serve", "--addr", "127.0.0.1:0"}, args...)...)
	log, err := c.StderrPipe()
	if err != nil {
		return nil, "", err
	}
	if err := c.Start(); err != nil {
		return nil, "", err
	}
	lines := bufio.NewScanner(log)
	for lines.Scan() {
		if m := listening.FindStringSubmatch(lines.Text()); m != nil {
			go func() {
				for lines.Scan() { // so that it never waits for a reader
				}
			}()
			return c, m[1], nil
		}
	}
	return nil, "", errors.Join(errors.New("the server did not start"), c.Wait())
}

// It is long because each step uses what those before it worked out.
func run(program, litestream string, writing time.Duration) error {
	dir, err := os.MkdirTemp("", "nexufix-replica-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	first, second, copied := filepath.Join(dir, "first"), filepath.Join(dir, "second"), "file://"+filepath.Join(dir, "copy")
	if err := os.MkdirAll(second, 0o700); err != nil {
		return err
	}
	writer, at, err := serve(program, "--data", first)
	if err != nil {
		return err
	}
	defer writer.Process.Kill()
	config := filepath.Join(dir, "litestream.yml")
	if err := os.WriteFile(config, fmt.Appendf(nil, `dbs:
  - path: %s
    monitor-interval: 200ms
    replica:
      url: %s
      sync-interval: 200ms
`, filepath.Join(first, "nexufix.db"), copied), 0o600); err != nil {
		return err
	}
	copying := exec.Command(litestream, "replicate", "-config", config)
	if err := copying.Start(); err != nil {
		return err
	}
	defer copying.Process.Kill()

	acknowledged := map[string]time.Time{}
	follower := ""
	for end := time.Now().Add(writing); time.Now().Before(end); {
		id := fmt.Sprintf("d%05d", len(acknowledged))
		r, err := http.NewRequest(http.MethodPut, at+"/api/items/displays/"+id,
			strings.NewReader(fmt.Sprintf(`{"revision":0,"display":{"id":%q,"model":"Pane"}}`, id)))
		if err != nil {
			return err
		}
		r.Header.Set("Content-Type", "application/json")
		a, err := http.DefaultClient.Do(r)
		if err != nil {
			return err
		}
		a.Body.Close()
		if a.StatusCode != http.StatusOK {
			return fmt.Errorf("%s: %s", id, a.Status)
		}
		acknowledged[id] = time.Now()
		if follower == "" && len(acknowledged) > 200 && time.Until(end) < writing*2/3 {
			ctx, stop := context.WithCancel(context.Background())
			defer stop()
			following := exec.CommandContext(ctx, litestream, "restore", "-f", "-follow-interval", "500ms", "-o",
				filepath.Join(second, "nexufix.db"), copied)
			if err := following.Start(); err != nil {
				return err
			}
			for range 100 { // until there is something to follow
				if _, err := os.Stat(filepath.Join(second, "nexufix.db")); err == nil {
					break
				}
				time.Sleep(50 * time.Millisecond)
			}
			time.Sleep(time.Second)
			reader, where, err := serve(program, "--read-only", "--data", second)
			if err != nil {
				return fmt.Errorf("the second server: %w", err)
			}
			defer reader.Process.Kill()
			follower = where
		}
		time.Sleep(2 * time.Millisecond)
	}
	killed := time.Now()
	if err := errors.Join(writer.Process.Kill(), copying.Process.Kill()); err != nil {
		return err
	}
	time.Sleep(2 * time.Second) // for the follower to come up to the copy
	seen, err := displays(follower)
	if err != nil {
		return fmt.Errorf("the second server: %w", err)
	}
	report("the second server", acknowledged, seen, killed)

	restored := filepath.Join(dir, "third")
	if out, err := exec.Command(litestream, "restore", "-o", filepath.Join(restored, "nexufix.db"), copied).CombinedOutput(); err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	third, where, err := serve(program, "--data", restored)
	if err != nil {
		return err
	}
	defer third.Process.Kill()
	if seen, err = displays(where); err != nil {
		return err
	}
	report("the copy restored elsewhere", acknowledged, seen, killed)
	return nil
}

// displays are the ids of a server's catalogue.
func displays(at string) (map[string]bool, error) {
	a, err := http.Get(at + "/api/export")
	if err != nil {
		return nil, err
	}
	defer a.Body.Close()
	var doc struct{ Displays []struct{ ID string } }
	if err := json.NewDecoder(a.Body).Decode(&doc); err != nil {
		return nil, err
	}
	out := map[string]bool{}
	for _, d := range doc.Displays {
		out[d.ID] = true
	}
	return out, nil
}

func report(what string, acknowledged map[string]time.Time, seen map[string]bool, killed time.Time) {
	lost, oldest := 0, time.Duration(0)
	for id, at := range acknowledged {
		if !seen[id] {
			lost++
			oldest = max(oldest, killed.Sub(at))
		}
	}
	fmt.Printf("%s has %d of %d that were acknowledged; of the %d it lacks the oldest was written %v before the end\n", what,
		len(acknowledged)-lost, len(acknowledged), lost, oldest.Round(time.Millisecond))
}

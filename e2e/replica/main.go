// Command replica shows what continuous copying by Litestream is worth, to a folder or to a simulated object store: a server writes while
// its log is copied and a second one follows to read; then the first and the copying are killed at once, as if the machine were gone, a
// third one is promoted from the copy, and what was acknowledged is looked for. It fails where anything is lost that was acknowledged a
// second before the end, or where the first one writes again. It is run by hand: make replica.
package main

import (
	"bufio"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"nexufix/standins/bucket"
)

func main() {
	program := flag.String("program", "bin/nexufix", "the program")
	litestream := flag.String("litestream", "litestream", "Litestream")
	writing := flag.Duration("for", 15*time.Second, "how long is written")
	to := flag.String("to", "folder", "where it is copied to: folder or bucket")
	flag.Parse()
	if err := run(*program, *litestream, *to, *writing); err != nil {
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

// place is where the log is copied to.
type place struct {
	url, more string // of the configuration
	env       []string
}

// placeOf is a folder, or the simulated object store, which it starts.
func placeOf(to, dir string) (place, error) {
	if to == "folder" {
		return place{url: "file://" + filepath.Join(dir, "copy")}, nil
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return place{}, err
	}
	go func() { fmt.Fprintln(os.Stderr, "the bucket:", bucket.Serve(l)) }()
	return place{"s3://" + bucket.Name + "/desk",
		fmt.Sprintf("\n      endpoint: http://%s\n      region: us-east-1\n      force-path-style: true",
			l.Addr()), []string{"AWS_ACCESS_KEY_ID=simulated", "AWS_SECRET_ACCESS_KEY=simulated", "AWS_CA_BUNDLE="}}, nil
}

// machines are the folders, the programs and what they share.
type machines struct {
	program, litestream   string
	first, second, third  string // data folders
	lease, config, copied string
	env                   []string
}

func (m *machines) copier(args ...string) *exec.Cmd {
	c := exec.Command(m.litestream, args...)
	c.Env = append(os.Environ(), m.env...)
	c.Stderr = os.Stderr
	return c
}

// write puts displays into a server's catalogue as fast as one client can, until the time is over, and says when each was acknowledged.
// After each that is a hundredth it calls each.
func write(at, prefix string, until time.Time, each func(id string, n int) error) (map[string]time.Time, error) {
	acknowledged := map[string]time.Time{}
	for time.Now().Before(until) {
		id := fmt.Sprintf("%s%05d", prefix, len(acknowledged))
		r, err := http.NewRequest(http.MethodPut, at+"/api/items/displays/"+id,
			strings.NewReader(fmt.Sprintf(`{"revision":0,"display":{"id":%q,"model":"Pane"}}`, id)))
		if err != nil {
			return nil, err
		}
		r.Header.Set("Content-Type", "application/json")
		a, err := http.DefaultClient.Do(r)
		if err != nil {
			return nil, err
		}
		a.Body.Close()
		if a.StatusCode != http.StatusOK {
			return nil, fmt.Errorf("%s: %s", id, a.Status)
		}
		acknowledged[id] = time.Now()
		if err := each(id, len(acknowledged)); err != nil {
			return nil, err
		}
	}
	return acknowledged, nil
}

// follow lets a second server read what is copied, once there is something.
func (m *machines) follow() (*exec.Cmd, *exec.Cmd, string, error) {
	file := filepath.Join(m.second, "nexufix.db")
	following := m.copier("restore", "-config", m.config, "-f", "-follow-interval", "200ms", "-o", file,
		filepath.Join(m.first, "nexufix.db"))
	if err := following.Start(); err != nil {
		return nil, nil, "", err
	}
	for begun := time.Now(); time.Since(begun) < 20*time.Second; time.Sleep(50 * time.Millisecond) {
		if _, err := os.Stat(file); err == nil {
			break
		}
	}
	reader, at, err := serve(m.program, "--read-only", "--data", m.second)
	for range 50 { // the file may not be whole yet
		if err == nil {
			break
		}
		time.Sleep(100 * time.Millisecond)
		reader, at, err = serve(m.program, "--read-only", "--data", m.second)
	}
	return following, reader, at, err
}

// behind measures how long after it was acknowledged a display is seen by the server that follows.
func behind(at, id string, acknowledged time.Time) (time.Duration, error) {
	for time.Since(acknowledged) < 20*time.Second {
		a, err := http.Get(at + "/api/items/displays/" + id)
		if err != nil {
			return 0, err
		}
		if a.Body.Close(); a.StatusCode == http.StatusOK {
			return time.Since(acknowledged), nil
		}
		time.Sleep(5 * time.Millisecond)
	}
	return 0, fmt.Errorf("%s is not seen by the server that follows", id)
}

func run(program, litestream, to string, writing time.Duration) error {
	dir, err := os.MkdirTemp("", "nexufix-replica-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	where, err := placeOf(to, dir)
	if err != nil {
		return err
	}
	at := func(name string) string { return filepath.Join(dir, name) }
	m := machines{program: program, litestream: litestream, first: at("first"), second: at("second"), third: at("third"),
		lease: at("lease"), config: at("litestream.yml"), copied: where.url, env: where.env}
	if err := errors.Join(os.MkdirAll(m.second, 0o700), os.WriteFile(m.config, fmt.Appendf(nil, `dbs:
  - path: %s
    monitor-interval: 200ms
    replica:
      url: %s%s
      sync-interval: 200ms
`, filepath.Join(m.first, "nexufix.db"), m.copied, where.more), 0o600)); err != nil {
		return err
	}
	writer, url, err := serve(program, "--data", m.first, "--lease", m.lease)
	if err != nil {
		return err
	}
	defer writer.Process.Kill()
	copying := m.copier("replicate", "-config", m.config)
	if err := copying.Start(); err != nil {
		return err
	}
	defer copying.Process.Kill()
	if _, err := write(url, "before", time.Now().Add(2*time.Second), func(string, int) error { return nil }); err != nil {
		return err
	}
	following, reader, reads, err := m.follow()
	if err != nil {
		return fmt.Errorf("the second server: %w", err)
	}
	defer following.Process.Kill()
	defer reader.Process.Kill()

	var late []time.Duration
	acknowledged, err := write(url, "d", time.Now().Add(writing), func(id string, n int) error {
		if n%100 != 0 {
			return nil
		}
		d, err := behind(reads, id, time.Now())
		late = append(late, d)
		return err
	})
	if err != nil {
		return err
	}
	killed := time.Now()
	if err := errors.Join(writer.Process.Kill(), copying.Process.Kill()); err != nil {
		return err
	}
	_ = writer.Wait() // it was killed
	slices.Sort(late)
	fmt.Printf("the second server saw a change after %v in the middle of %d, %v at the most\n", late[len(late)/2].Round(time.Millisecond),
		len(late), late[len(late)-1].Round(time.Millisecond))

	return m.takeOver(acknowledged, killed)
}

// takeOver promotes a third server from the copy, looks for what was acknowledged, and starts the first one again, which is to be refused.
func (m *machines) takeOver(acknowledged map[string]time.Time, killed time.Time) error {
	promote := exec.Command(m.program, "promote", "--data", m.third, "--lease", m.lease, "--get",
		fmt.Sprintf("%s restore -config %s -o $FILE %s", m.litestream, m.config, filepath.Join(m.first, "nexufix.db")))
	promote.Env = append(os.Environ(), m.env...)
	if out, err := promote.CombinedOutput(); err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	third, url, err := serve(m.program, "--data", m.third)
	if err != nil {
		return err
	}
	defer third.Process.Kill()
	fmt.Printf("the third server writes %v after the end of the first\n", time.Since(killed).Round(100*time.Millisecond))
	seen, err := displays(url)
	if err != nil {
		return err
	}
	oldest := report("the third server", acknowledged, seen, killed)
	if back, _, err := serve(m.program, "--data", m.first); err == nil {
		return errors.Join(errors.New("the first server writes again"), back.Process.Kill())
	}
	if oldest > time.Second {
		return errors.New("what was acknowledged more than a second before the end is lost")
	}
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

// report says what is lost, and how long before the end the oldest of it was acknowledged.
func report(what string, acknowledged map[string]time.Time, seen map[string]bool, killed time.Time) time.Duration {
	lost, oldest := 0, time.Duration(0)
	for id, at := range acknowledged {
		if !seen[id] {
			lost++
			oldest = max(oldest, killed.Sub(at))
		}
	}
	fmt.Printf("%s has %d of %d that were acknowledged; of the %d it lacks the oldest was written %v before the end\n", what,
		len(acknowledged)-lost, len(acknowledged), lost, oldest.Round(time.Millisecond))
	return oldest
}

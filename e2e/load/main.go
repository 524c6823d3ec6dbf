// Command load asks a server of this computer as many people do at once, and says how long they wait and how much memory it takes: five
// hundred that listen, two hundred that sign in at the same moment, sixty-four at the bench and in the search, and readers while fifty
// people write. It is run by hand: make load.
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"nexufix/app/people"
	"nexufix/e2e/drive"
	"nexufix/store"
)

func main() {
	program := flag.String("program", "bin/nexufix", "the program")
	long := flag.Duration("for", 10*time.Second, "how long each is asked")
	flag.Parse()
	if err := run(*program, *long); err != nil {
		fmt.Fprintln(os.Stderr, "load:", err)
		os.Exit(1)
	}
}

const password = "seven loaves on a rail"

// crowd is how many sign in at the same moment, and writers how many of them write.
const (
	crowd   = 200
	writers = 50
)

type load struct {
	app    *drive.App
	client *http.Client
	long   time.Duration
	cookie []string // of who has signed in
}

func run(program string, long time.Duration) error {
	dir, err := os.MkdirTemp("", "nexufix-load-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	data := filepath.Join(dir, "data")
	first, err := drive.StartWithPeople(program, data) // the demo's catalogue
	if err != nil {
		return err
	}
	if err := first.Stop(); err != nil {
		return err
	}
	if err := invite(data); err != nil {
		return err
	}
	again, err := drive.StartWithPeople(program, data)
	if err != nil {
		return err
	}
	defer again.Stop()
	l := &load{app: again, long: long, cookie: make([]string, crowd),
		client: &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 1000}, Timeout: time.Minute}}
	for _, do := range []func() error{l.signIn, l.listen, l.ask, l.write} {
		if err := do(); err != nil {
			return err
		}
	}
	return nil
}

// invite makes the accounts.
func invite(data string) (err error) {
	st, err := store.Open(context.Background(), filepath.Join(data, "nexufix.db"))
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	for n := range crowd {
		p := people.NewPerson{Identity: people.Identity{Login: fmt.Sprint("load", n), Name: fmt.Sprint("Person ", n), Password: password},
			Role: people.Engineer}
		if _, err := p.Add(context.Background(), st, people.Person{Name: "load", Role: people.Administrator}, false); err != nil {
			return err
		}
	}
	return nil
}

// memory is what the server has now, and had at the most, in MB.
func (l *load) memory() (now, most int) {
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", l.app.Pid()))
	if err != nil {
		return 0, 0
	}
	for line := range strings.Lines(string(raw)) {
		f := strings.Fields(line)
		switch f[0] {
		case "VmRSS:":
			now, _ = strconv.Atoi(f[1])
		case "VmHWM:":
			most, _ = strconv.Atoi(f[1])
		}
	}
	return now >> 10, most >> 10
}

// do asks as a person, of an address of theirs, and returns how long it took; an answer other than want is an error.
func (l *load) do(n int, method, path, body string, want int) (time.Duration, []byte, *http.Response, error) {
	r, err := http.NewRequest(method, l.app.URL+path, bytes.NewReader([]byte(body)))
	if err != nil {
		return 0, nil, nil, err
	}
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("X-Forwarded-For", fmt.Sprintf("198.51.%d.%d", 100+n/250, n%250+1))
	if l.cookie[n%crowd] != "" {
		r.Header.Set("Cookie", l.cookie[n%crowd])
	}
	begun := time.Now()
	a, err := l.client.Do(r)
	if err != nil {
		return 0, nil, nil, err
	}
	defer a.Body.Close()
	raw, err := io.ReadAll(a.Body)
	if err == nil && a.StatusCode != want {
		err = fmt.Errorf("%s %s: %d %.200s", method, path, a.StatusCode, raw)
	}
	return time.Since(begun), raw, a, err
}

// say reports waits.
func say(what string, waits []time.Duration, beside string) {
	slices.Sort(waits)
	at := func(part int) time.Duration {
		return waits[min(len(waits)*part/1000, len(waits)-1)].Round(time.Millisecond / 10)
	}
	fmt.Printf("%s: %d answers, half within %v, 99 of 100 within %v, the last after %v%s\n", what, len(waits), at(500), at(990), at(1000),
		beside)
}

// signIn lets the crowd sign in at the same moment.
func (l *load) signIn() error {
	var all sync.WaitGroup
	waits, failed := make([]time.Duration, crowd), make([]error, crowd)
	ended := make([]time.Time, crowd)
	for n := range crowd {
		all.Go(func() {
			time.Sleep(time.Duration(n) * time.Millisecond / 2) // so that there is an order
			var a *http.Response
			who := fmt.Sprintf(`{"login":"load%d","password":%q}`, n, password)
			waits[n], _, a, failed[n] = l.do(n, http.MethodPost, "/api/sign-in", who, 200)
			ended[n] = time.Now()
			for _, c := range a.Cookies() {
				if c.Name == "nexufix" {
					l.cookie[n] = c.Name + "=" + c.Value
				}
			}
		})
	}
	all.Wait()
	for _, err := range failed {
		if err != nil {
			return err
		}
	}
	early := 0 // answered before somebody who came twenty or more before
	for n := 20; n < crowd; n++ {
		if ended[n].Before(ended[n-20]) {
			early++
		}
	}
	_, most := l.memory()
	say(fmt.Sprint(crowd, " sign in at once"), waits,
		fmt.Sprintf("; %d out of order by twenty or more; memory at the most %d MB", early, most))
	return nil
}

// listen opens five hundred streams, of forty people and more, as many as each may have.
func (l *load) listen() error {
	const listeners = 500
	before, _ := l.memory()
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	open := 0
	client := &http.Client{Transport: &http.Transport{MaxConnsPerHost: 0}}
	for n := range listeners {
		r, err := http.NewRequestWithContext(ctx, http.MethodGet, l.app.URL+"/api/live?path=/desk", nil)
		if err != nil {
			return err
		}
		r.Header.Set("Accept", "text/event-stream")
		r.Header.Set("Cookie", l.cookie[n%crowd])
		r.Header.Set("X-Forwarded-For", fmt.Sprintf("198.51.%d.%d", 100+n/250, n%250+1))
		a, err := client.Do(r)
		if err != nil {
			return err
		}
		if a.StatusCode == http.StatusOK {
			open++
			go func() { _, _ = io.Copy(io.Discard, a.Body) }() // until it is stopped
		} else {
			a.Body.Close()
		}
	}
	time.Sleep(2 * time.Second)
	now, _ := l.memory()
	fmt.Printf("%d of %d listen: the server has %d MB, %d before\n", open, listeners, now, before)
	return nil
}

// many asks with so many clients at once until the time is over.
func (l *load) many(clients int, path, body string) ([]time.Duration, error) {
	var mu sync.Mutex
	var waits []time.Duration
	var failed atomic.Pointer[error]
	var all sync.WaitGroup
	method := http.MethodGet
	if body != "" {
		method = http.MethodPost
	}
	end := time.Now().Add(l.long)
	for n := range clients {
		all.Go(func() {
			for time.Now().Before(end) && failed.Load() == nil {
				d, _, _, err := l.do(n, method, path, body, 200)
				if err != nil {
					failed.Store(&err)
					return
				}
				mu.Lock()
				waits = append(waits, d)
				mu.Unlock()
			}
		})
	}
	all.Wait()
	if err := failed.Load(); err != nil {
		return waits, *err
	}
	return waits, nil
}

const bench = `{"display_id":"velmora-pane-49","bracket_id":"sill-40"}`

// ask lets sixty-four clients ask the bench, and then the search.
func (l *load) ask() error {
	for _, of := range [][3]string{{"64 at the bench", "/api/bench", bench}, {"64 in the search", "/api/displays?q=pnae+49", ""}} {
		waits, err := l.many(64, of[1], of[2])
		if err != nil {
			return err
		}
		_, most := l.memory()
		say(of[0], waits, fmt.Sprintf("; memory at the most %d MB", most))
	}
	return nil
}

// write lets fifty people save displays, each their own, about twice in a second, while eight read.
func (l *load) write() error {
	var all sync.WaitGroup
	var saved atomic.Int64
	stop := make(chan struct{})
	var failed atomic.Pointer[error]
	var mu sync.Mutex
	var waits []time.Duration
	for n := range writers {
		all.Go(func() {
			for revision := 0; ; {
				select {
				case <-stop:
					return
				case <-time.After(500 * time.Millisecond):
				}
				d, raw, _, err := l.do(n, http.MethodPut, fmt.Sprintf("/api/items/displays/load-%d", n),
					fmt.Sprintf(`{"revision":%d,"display":{"id":"load-%d","model":"Pane %d","depth_mm":%d}}`, revision, n, n, 40+revision%20), 200)
				if err != nil {
					failed.Store(&err)
					return
				}
				var kept struct{ Revision int }
				if err := json.Unmarshal(raw, &kept); err != nil {
					failed.Store(&err)
					return
				}
				revision = kept.Revision
				saved.Add(1)
				mu.Lock()
				waits = append(waits, d)
				mu.Unlock()
			}
		})
	}
	reads, err := l.many(8, "/api/bench", bench)
	close(stop)
	all.Wait()
	if err != nil {
		return err
	}
	if err := failed.Load(); err != nil {
		return *err
	}
	say("8 at the bench while 50 write", reads, "")
	say("what the 50 write", waits, fmt.Sprintf("; %.0f in a second", float64(saved.Load())/l.long.Seconds()))
	return nil
}

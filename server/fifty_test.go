package server

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"nexufix/app/people"
	"nexufix/app/review"
)

var fiftyFor = flag.Duration("fifty", 0, "how long fifty people work: server's TestFifty; 0: as long as it takes to do a few things each")

// worker is one of many people at a server, with a browser's cookies.
type worker struct {
	*fifty
	client http.Client
	name   string
	role   people.Role
	n      int
	*rand.Rand
}

// fifty is what they have in common.
type fifty struct {
	t      *testing.T
	at     string
	added  atomic.Int64 // to the display that all weigh
	issued atomic.Int64
	mu     sync.Mutex
	waits  map[string][]time.Duration
	states map[string]map[int]int
}

// ask sends something and notes how long it took.
func (w *worker) ask(what, method, path, body string) (int, []byte) {
	r, err := http.NewRequestWithContext(w.t.Context(), method, w.at+path, strings.NewReader(body))
	if err != nil {
		w.t.Error(err)
		return 0, nil
	}
	r.Header.Set("Content-Type", "application/json")
	begun := time.Now()
	a, err := w.client.Do(r)
	if err != nil {
		w.t.Errorf("%s: %v", what, err)
		return 0, nil
	}
	defer a.Body.Close()
	raw, err := io.ReadAll(a.Body)
	took := time.Since(begun)
	if err != nil || a.StatusCode >= 500 {
		w.t.Errorf("%s: %d %.300s %v", what, a.StatusCode, raw, err)
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	w.waits[what] = append(w.waits[what], took)
	if w.states[what] == nil {
		w.states[what] = map[int]int{}
	}
	w.states[what][a.StatusCode]++
	return a.StatusCode, raw
}

// typing: a display is looked for letter by letter, and each time the bench answers.
func (w *worker) typing() {
	word := []string{"velmora pane", "corvane loaf", "skerry lantern", "brindle menu"}[w.IntN(4)]
	for n := 2; n <= len(word); n += 2 {
		w.ask("search", "GET", "/api/displays?q="+url.QueryEscape(word[:n]), "")
		w.pause(200)
	}
	for n := range 4 {
		w.ask("bench", "POST", "/api/bench", fmt.Sprintf(`{"display_id":"velmora-pane-49","bracket_id":"sill-40","accessories_kg":%d.%d}`, n, w.IntN(100)))
		w.pause(200)
	}
}

// pause is how long somebody thinks, on average, in milliseconds; nobody does where it is not for long.
func (w *worker) pause(ms int) {
	if *fiftyFor > 0 {
		time.Sleep(time.Duration(w.IntN(2*ms)) * time.Millisecond)
	}
}

type savedItem struct {
	Revision int             `json:"revision"`
	Display  json.RawMessage `json:"display"`
	Job      json.RawMessage `json:"job"`
}

var accessory = regexp.MustCompile(`"accessories_kg":[\d.]+`)

// weighs adds a gram to what everybody's accessories weigh, on what was read, until nobody else was faster.
func (w *worker) weighs() {
	for range 200 {
		var have savedItem
		_, raw := w.ask("read", "GET", "/api/items/jobs/shared", "")
		if json.Unmarshal(raw, &have) != nil {
			return
		}
		var grams float64
		if _, err := fmt.Sscanf(string(accessory.Find(have.Job)), `"accessories_kg":%f`, &grams); err != nil {
			w.t.Errorf("%v in %s", err, have.Job)
			return
		}
		job := accessory.ReplaceAll(have.Job, fmt.Appendf(nil, `"accessories_kg":%.3f`, grams+0.001))
		if status, _ := w.ask("save", "PUT", "/api/items/jobs/shared", fmt.Sprintf(`{"revision":%d,"job":%s}`, have.Revision, job)); status == 200 {
			w.added.Add(1)
			return
		}
		w.pause(20)
	}
}

// prepares issues what is approved of one's own job; and where nothing waits for review, now and then changes the job and sends it.
func (w *worker) prepares() {
	id := fmt.Sprintf("job-%d", w.n)
	_, raw := w.ask("list", "GET", "/api/approvals?job="+id, "")
	var all []review.ApprovalLine
	if json.Unmarshal(raw, &all) != nil {
		return
	}
	for _, a := range all {
		if a.State == "in_review" {
			return
		}
		if a.State == "approved" && !a.Stale {
			if status, _ := w.ask("issue", "POST", fmt.Sprintf("/api/approvals/%d/issue", a.ID), `{"what":"card","receiver":"Mill Lane"}`); status == 201 {
				w.issued.Add(1)
			}
			if w.IntN(3) > 0 {
				return
			}
		}
	}
	var have savedItem
	if _, raw = w.ask("read", "GET", "/api/items/jobs/"+id, ""); json.Unmarshal(raw, &have) != nil {
		return
	}
	job := accessory.ReplaceAll(have.Job, fmt.Appendf(nil, `"accessories_kg":1.%d`, w.IntN(5)))
	w.ask("save", "PUT", "/api/items/jobs/"+id, fmt.Sprintf(`{"revision":%d,"job":%s}`, have.Revision, job))
	w.pause(400)
	w.ask("submit", "POST", "/api/approvals", `{"subject":{"job":"`+id+`"}}`)
}

// decides opens what waits and approves it, or sends it back.
func (w *worker) decides() {
	_, raw := w.ask("desk", "GET", "/api/desk", "")
	var desk review.Desk
	if json.Unmarshal(raw, &desk) != nil || len(desk.Waiting) == 0 {
		return
	}
	a := desk.Waiting[w.IntN(len(desk.Waiting))]
	w.ask("review", "GET", fmt.Sprintf("/api/approvals/%d", a.ID), "")
	w.pause(600)
	act := `"approve"`
	if w.IntN(6) == 0 {
		act = `"send_back","text":"Weigh it again."`
	}
	w.ask("decide", "POST", fmt.Sprintf("/api/approvals/%d/decide", a.ID), fmt.Sprintf(`{"version":%d,"act":%s}`, a.Version, act))
}

// TestFifty: fifty people read, type, save, send for review, approve and issue at once. Nothing is answered with a fault of the server's,
// no change is lost, no document's number is given twice, and one approval a job is in force. With -fifty 60s they work for a
// minute, with the pauses that people make, and it says how long they waited and what memory was used.
func TestFifty(t *testing.T) {
	d := newDesk(t)
	f := &fifty{t: t, waits: map[string][]time.Duration{}, states: map[string]map[int]int{}}
	on := httptest.NewServer(d.srv)
	t.Cleanup(on.Close)
	f.at = on.URL
	many := times(15, 50)
	if *fiftyFor > 0 {
		many = 50
	}
	workers := f.workers(d, many)
	runReviews(t, d)

	end := time.Now().Add(*fiftyFor)
	var heap []uint64
	begun := time.Now()
	var all sync.WaitGroup
	for _, w := range workers {
		all.Go(func() {
			for n := 0; n < 10 && *fiftyFor == 0 || time.Now().Before(end); n++ {
				w.works()
			}
		})
	}
	done := make(chan struct{})
	go func() { all.Wait(); close(done) }()
	for tick := time.NewTicker(2 * time.Second); ; {
		select {
		case <-tick.C:
			runtime.GC()
			var m runtime.MemStats
			runtime.ReadMemStats(&m)
			heap = append(heap, m.HeapAlloc>>20)
			continue
		case <-done:
		}
		break
	}
	f.report(time.Since(begun), heap)
	f.holds(d, workers[0])
}

// runReviews judges again what is approved, as a server that serves does.
func runReviews(t *testing.T, d *desk) {
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		d.srv.reviews.Run(t.Context())
	}()
	t.Cleanup(func() { <-ended })
}

// workers are people who are signed in, each with a job; one in five approves.
func (f *fifty) workers(d *desk, many int) (out []*worker) {
	f.t.Helper()
	job := read[savedItem](f.t, d.get("/api/items/jobs/mill-lane-counter"), 200).Job
	for n := range many {
		w := &worker{fifty: f, name: fmt.Sprintf("worker%d", n), role: people.Engineer, n: n, Rand: rand.New(rand.NewPCG(7, uint64(n)))}
		if n%5 == 0 {
			w.role = people.Approver
		}
		jar, err := cookiejar.New(nil)
		if err != nil {
			f.t.Fatal(err)
		}
		w.client = http.Client{Jar: jar, Timeout: time.Minute}
		out = append(out, w)
		for _, id := range []string{fmt.Sprintf("job-%d", n), "shared"} {
			raw := bytes.Replace(job, []byte("mill-lane-counter"), []byte(id), 1)
			a := d.request("PUT", "/api/items/jobs/"+id, "application/json", fmt.Appendf(nil, `{"revision":0,"job":%s}`, raw))
			if a.StatusCode != 201 && !(id == "shared" && n > 0) {
				f.t.Fatalf("%d %s", a.StatusCode, a.body)
			}
		}
	}
	for _, w := range out {
		p := people.NewPerson{Identity: people.Identity{Login: w.name, Name: "Worker " + w.name, Password: "seven loaves on a rail"},
			Role: w.role}
		if _, err := p.Add(f.t.Context(), d.srv.store, people.Person{Name: "test", Role: people.Administrator}, false); err != nil {
			f.t.Fatal(err)
		}
		if status, raw := w.ask("sign in", "POST", "/api/sign-in", `{"login":"`+w.name+`","password":"seven loaves on a rail"}`); status != 200 {
			f.t.Fatalf("%s is not let in: %d %s", w.name, status, raw)
		}
	}
	delete(f.waits, "sign in")
	return out
}

// works is what somebody does next.
func (w *worker) works() {
	switch n := w.IntN(10); {
	case n < 5:
		w.typing()
	case n < 6:
		w.weighs()
	case w.role == people.Approver:
		w.decides()
	default:
		w.prepares()
	}
	w.pause(1000)
}

// report says how long people waited.
func (f *fifty) report(took time.Duration, heap []uint64) {
	var all []time.Duration
	for what, waits := range f.waits {
		slices.Sort(waits)
		all = append(all, waits...)
		f.t.Logf("%-8s %6d, p50 %v, p99 %v, most %v: %v", what, len(waits), waits[len(waits)/2].Round(time.Millisecond),
			waits[len(waits)*99/100].Round(time.Millisecond), waits[len(waits)-1].Round(time.Millisecond), f.states[what])
	}
	slices.Sort(all)
	f.t.Logf("all %d, %.0f a second, p50 %v, p99 %v; %d documents; heap after collecting, every 2 s, MB: %v", len(all),
		float64(len(all))/took.Seconds(), all[len(all)/2].Round(time.Millisecond), all[len(all)*99/100].Round(time.Millisecond),
		f.issued.Load(), heap)
}

// holds says what must be true of what they have done.
func (f *fifty) holds(d *desk, w *worker) {
	_, raw := w.ask("read", "GET", "/api/items/jobs/shared", "")
	var have savedItem
	if err := json.Unmarshal(raw, &have); err != nil {
		f.t.Fatal(err)
	}
	var kg float64
	if _, err := fmt.Sscanf(string(accessory.Find(have.Job)), `"accessories_kg":%f`, &kg); err != nil {
		f.t.Fatal(err)
	}
	if want := 1.1 + float64(f.added.Load())/1000; kg < want-1e-9 || kg > want+1e-9 {
		f.t.Errorf("it weighs %.3f kg after %d saved a gram more: want %.3f", kg, f.added.Load(), want)
	}
	issued, err := d.srv.store.IssuedOf(f.t.Context(), 0, 100_000)
	if err != nil {
		f.t.Fatal(err)
	}
	numbers := map[string]bool{}
	for i := range issued {
		numbers[review.IssuedLineOf(&issued[i]).Number] = true
	}
	if int64(len(numbers)) != f.issued.Load() {
		f.t.Errorf("%d documents were issued, with %d numbers", f.issued.Load(), len(numbers))
	}
	all, err := d.srv.store.Approvals(f.t.Context())
	if err != nil {
		f.t.Fatal(err)
	}
	inForce := map[string]int{}
	for _, a := range all {
		if a.State == "approved" {
			inForce[a.Subject]++
			if a.ApprovedBy.String == a.PreparedBy {
				f.t.Errorf("%s has approved their own", a.PreparedBy)
			}
		}
	}
	for subject, n := range inForce {
		if n > 1 {
			f.t.Errorf("%d approvals are in force of %s", n, subject)
		}
	}
	if len(inForce) == 0 {
		f.t.Error("nothing was approved")
	}
}

package server

import (
	"bytes"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"slices"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"nexufix/demo"
	"nexufix/store"
)

// loaded is a server on a socket with the demo's brackets and 10,000 displays.
func loaded(b *testing.B) string {
	b.Helper()
	s := emptyServer(b)
	c, err := demo.Contents()
	if err != nil {
		b.Fatal(err)
	}
	all := twentyThousand(b)
	all.Displays = append(c.Displays, all.Displays[:10_000]...)
	all.Brackets = c.Brackets
	if _, err := s.store.Import(b.Context(), store.Author{}, "", all, nil, nil); err != nil {
		b.Fatal(err)
	}
	on := httptest.NewServer(s)
	b.Cleanup(on.Close)
	return on.URL
}

// benchmarkLoad lets clients ask one thing after the other, on the same processors
// as the server, and reports how long they wait, in milliseconds.
func benchmarkLoad(b *testing.B, clients int, ask func(n int) *http.Request) {
	client := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: clients}}
	send := func(n int) time.Duration {
		begun := time.Now()
		answer, err := client.Do(ask(n))
		if err != nil {
			b.Error(err)
			return 0
		}
		defer answer.Body.Close()
		if said, err := io.ReadAll(answer.Body); err != nil || answer.StatusCode != http.StatusOK {
			b.Errorf("%d %v %.200s", answer.StatusCode, err, said)
		}
		return time.Since(begun)
	}
	send(0)
	waits := make([]time.Duration, b.N)
	var next atomic.Int64
	var all sync.WaitGroup
	b.ResetTimer()
	for range clients {
		all.Go(func() {
			for n := next.Add(1) - 1; n < int64(b.N); n = next.Add(1) - 1 {
				waits[n] = send(int(n))
			}
		})
	}
	all.Wait()
	b.StopTimer()
	slices.Sort(waits)
	b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "/s")
	b.ReportMetric(waits[b.N/2].Seconds()*1e3, "ms-p50")
	b.ReportMetric(waits[b.N*99/100].Seconds()*1e3, "ms-p99")
}

func get(b *testing.B, url string) *http.Request {
	r, err := http.NewRequestWithContext(b.Context(), http.MethodGet, url, nil)
	if err != nil {
		b.Fatal(err)
	}
	return r
}

func post(b *testing.B, url, body string) *http.Request {
	r, err := http.NewRequestWithContext(b.Context(), http.MethodPost, url, bytes.NewReader([]byte(body)))
	if err != nil {
		b.Fatal(err)
	}
	r.Header.Set("Content-Type", "application/json")
	return r
}

// BenchmarkLoadSearch: two letters are swapped in what is typed.
func BenchmarkLoadSearch(b *testing.B) {
	at := loaded(b)
	benchmarkLoad(b, 64, func(n int) *http.Request {
		return get(b, at+fmt.Sprintf("/api/displays?q=mkaer%d+%d", n%40, 1000+n*7919%9000))
	})
}

func BenchmarkLoadBench(b *testing.B) {
	at := loaded(b)
	benchmarkLoad(b, 64, func(n int) *http.Request {
		return post(b, at+"/api/bench", fmt.Sprintf(`{"display_id":"d%05d","bracket_id":"sill-40"}`, n*7919%10_000))
	})
}

func BenchmarkLoadTemplate(b *testing.B) {
	at := loaded(b)
	benchmarkLoad(b, 16, func(n int) *http.Request {
		return post(b, at+"/api/template?format=pdf&paper=sheet", `{"display_id":"velmora-pane-49","bracket_id":"sill-40"}`)
	})
}

// unlikeBrackets is a document of 2,008 brackets of which no two have an equal bag.
func unlikeBrackets() []byte {
	var doc bytes.Buffer
	doc.WriteString(`{"format":"nexufix/1","brackets":[`)
	for n := range 2008 {
		if n > 0 {
			doc.WriteByte(',')
		}
		fmt.Fprintf(&doc, `{"id":"unlike-%d","name":"Unlike %d","revision":"A","kind":"fixed","profile_mm":40,"rated_load_kg":60,
			"threads":["M4","M6","M8"],"plate_thickness_mm":2.5,"slot_width_mm":9,"rows_used":["top","bottom"],
			"interface":{"type":"arms","slots_mm":[[20,40],[45,65],[70,90],[95,115],
			[120,140],[145,165],[170,190],[195,215],[220,240],[245,265]],
			"arm_top_mm":10,"arm_bottom_mm":400,"width_min_mm":100,"width_max_mm":800,"arm_width_mm":34,"rail_width_mm":680},"kit":[`, n, n)
		for k, thread := range []string{"M4", "M6", "M8"} {
			for i, length := range []int{10, 12, 16, 20, 25, 30, 35, 40, 45, 50} {
				fmt.Fprintf(&doc, `{"kind":"bolt","thread":%q,"length_mm":%d.%d%04d,"count":4,"bag":"B"},`, thread, length, (n+i+k)%10, n)
			}
			for i := range 3 {
				fmt.Fprintf(&doc, `{"kind":"washer","thread":%q,"thickness_mm":%d.%04d,"outer_mm":18,"count":16,"bag":"B"},`, thread, 1+i, n)
			}
		}
		for i := range 6 {
			fmt.Fprintf(&doc, `%s{"kind":"spacer","threads":["M6","M8","M4"],"outer_mm":18,"length_mm":%d.%04d,"count":8,
				"bag":"D"}`, map[bool]string{i > 0: ","}[true], 5+5*i, n)
		}
		doc.WriteString(`]}`)
	}
	doc.WriteString(`]}`)
	return doc.Bytes()
}

// processor is how long this process has been on the processors, in seconds.
func processor(b *testing.B) float64 {
	var u syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
		b.Fatal(err)
	}
	return float64(u.Utime.Sec+u.Stime.Sec) + float64(u.Utime.Usec+u.Stime.Usec)/1e6
}

// BenchmarkUnlikeBrackets imports 2,008 brackets that are all unlike, and judges the
// demo's displays on them; in seconds of processor.
func BenchmarkUnlikeBrackets(b *testing.B) {
	c, err := demo.Contents()
	if err != nil {
		b.Fatal(err)
	}
	doc := unlikeBrackets()
	for b.Loop() {
		s := emptyServer(b)
		if _, err := s.store.Import(b.Context(), store.Author{}, "", c, nil, nil); err != nil {
			b.Fatal(err)
		}
		begun := processor(b)
		call(b, s, http.MethodPost, "/api/import", "application/json", doc)
		read := processor(b)
		call(b, s, http.MethodGet, "/api/matrix", "", nil)
		b.ReportMetric(read-begun, "s-import")
		b.ReportMetric(processor(b)-read, "s-matrix")
	}
}

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


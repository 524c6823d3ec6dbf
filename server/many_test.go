package server

import (
	"bytes"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"runtime"
	"testing"
	"time"

	"nexufix/app/imports"
	"nexufix/demo"
	"nexufix/exchange"
	"nexufix/exchange/tabular"
	"nexufix/server/people"
	"nexufix/store"
)

// twentyThousand is a catalogue of that many displays, made up.
func twentyThousand(b *testing.B) *exchange.Contents {
	b.Helper()
	c, err := demo.Many(0, 20_000)
	if err != nil {
		b.Fatal(err)
	}
	return c
}

func emptyServer(b *testing.B) *Server {
	b.Helper()
	st, err := store.Open(b.Context(), filepath.Join(b.TempDir(), "nexufix.db"))
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { st.Close() })
	srv, err := New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), Hosts{Loopback: true}, b.TempDir(), people.Options{})
	if err != nil {
		b.Fatal(err)
	}
	return srv
}

func call(b *testing.B, s *Server, method, path, kind string, body []byte) []byte {
	b.Helper()
	r := httptest.NewRequest(method, "http://127.0.0.1:8460"+path, bytes.NewReader(body))
	r.Header.Set("Content-Type", kind)
	w := httptest.NewRecorder()
	s.ServeHTTP(w, r)
	if w.Code != http.StatusOK {
		b.Fatalf("%s: %d %.300s", path, w.Code, w.Body)
	}
	return w.Body.Bytes()
}

// benchmarkImport opens a file of 20,000 displays, previews it and takes it
// into an empty catalogue.
func benchmarkImport(b *testing.B, name string, raw []byte) {
	for b.Loop() {
		b.StopTimer()
		s := emptyServer(b)
		b.StartTimer()
		var file imports.File
		if err := json.Unmarshal(call(b, s, http.MethodPost, "/api/files?name="+name, "application/octet-stream", raw), &file); err != nil {
			b.Fatal(err)
		}
		said := call(b, s, http.MethodPost, "/api/files/"+file.ID+"/commit", "application/json", nil)
		if !bytes.Contains(said, []byte(`"new":20000`)) {
			b.Fatalf("%.300s", said)
		}
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		b.ReportMetric(float64(m.HeapSys)/1e6, "MB-heap")
	}
}

func BenchmarkImportCSV20000(b *testing.B) {
	var raw bytes.Buffer
	if err := tabular.WriteCSV(&raw, tabular.Displays, twentyThousand(b)); err != nil {
		b.Fatal(err)
	}
	benchmarkImport(b, "x.csv", raw.Bytes())
}

func BenchmarkImportXLSX20000(b *testing.B) {
	var raw bytes.Buffer
	if err := tabular.WriteXLSX(&raw, twentyThousand(b), time.Now()); err != nil {
		b.Fatal(err)
	}
	benchmarkImport(b, "x.xlsx", raw.Bytes())
}

// Benchmark20000 is what one asks of a catalogue of 20,000 displays once it is
// read.
func Benchmark20000(b *testing.B) {
	s := emptyServer(b)
	if _, err := s.store.Import(b.Context(), store.Author{}, "", twentyThousand(b), nil, nil); err != nil {
		b.Fatal(err)
	}
	for _, path := range []string{"/api/export", "/api/export.xlsx", "/api/export/displays", "/api/catalogue", "/api/displays?q=mkaer7+19999",
		"/api/displays?q=model+19", "/api/duplicates"} {
		b.Run(path[5:], func(b *testing.B) {
			call(b, s, http.MethodGet, path, "", nil) // the catalogue and its index are read once
			for b.Loop() {
				call(b, s, http.MethodGet, path, "", nil)
			}
		})
	}
}

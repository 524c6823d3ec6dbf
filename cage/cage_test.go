package cage

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"
)

// jobs are what a child of this test can do.
var jobs = map[string]func([]byte) ([]byte, error){
	"echo":   func(raw []byte) ([]byte, error) { return raw, nil },
	"refuse": func(raw []byte) ([]byte, error) { return nil, fmt.Errorf("no: %s", raw) },
	"memory": func([]byte) ([]byte, error) {
		var all [][]byte
		for {
			b := make([]byte, 1<<20)
			for i := 0; i < len(b); i += 4096 {
				b[i] = 1
			}
			all = append(all, b)
			if len(all) > 4096 {
				return nil, errors.New("it has 4 GB")
			}
		}
	},
	"time": func([]byte) ([]byte, error) {
		for n := 0; ; n++ {
		}
	},
	"sleep": func(raw []byte) ([]byte, error) {
		if err := os.WriteFile(string(raw), nil, 0o600); err == nil {
			return nil, errors.New("it wrote a file")
		}
		time.Sleep(time.Hour)
		return nil, nil
	},
	"panic":  func([]byte) ([]byte, error) { panic("no") },
	"answer": func([]byte) ([]byte, error) { return make([]byte, 2<<20), nil },
	"files": func([]byte) ([]byte, error) {
		for range 40 {
			if _, err := os.Open(os.DevNull); err != nil {
				return []byte("few"), nil
			}
		}
		return nil, errors.New("it opens as many as it likes")
	},
	"writes": func(raw []byte) ([]byte, error) {
		f, err := os.Create(string(raw))
		if err == nil {
			_, err = f.WriteString("x")
		}
		if err == nil {
			return nil, errors.New("it wrote")
		}
		return []byte("no"), nil
	},
	"environment": func([]byte) ([]byte, error) { return []byte(strings.Join(os.Environ(), " ")), nil },
}

func job(name string) *Job {
	return &Job{Name: name, Do: jobs[name], Memory: 256 << 20, CPU: time.Second, Answer: 1 << 20}
}

func init() {
	var all []*Job
	for name := range jobs {
		all = append(all, job(name))
	}
	Inside(all...)
}

// TestCage: a job answers or refuses; one that takes too much of anything is ended, and says nothing else.
func TestCage(t *testing.T) {
	t.Setenv("SECRET", "of the server")
	file := filepath.Join(t.TempDir(), "written")
	for name, want := range map[string]struct {
		raw, out string
		err      error
	}{
		"echo":        {"text", "text", nil},
		"refuse":      {"text", "", &Refused{"no: text"}},
		"memory":      {"", "", ErrTooMuch},
		"time":        {"", "", ErrTooMuch},
		"panic":       {"", "", ErrTooMuch},
		"answer":      {"", "", ErrTooMuch},
		"files":       {"", "few", nil},
		"writes":      {file, "no", nil},
		"environment": {"", jobEnv + "=environment GOMAXPROCS=1", nil},
		"nobody's":    {"", "", ErrTooMuch},
	} {
		out, err := job(name).Run(t.Context(), []byte(want.raw))
		var no *Refused
		if errors.As(err, &no) {
			err = nil
			if want.err == nil || no.Why != want.err.Error() {
				t.Errorf("%s is refused: %s", name, no.Why)
			}
			continue
		}
		if string(out) != want.out || !errors.Is(err, want.err) {
			t.Errorf("%s: %.40q, %v", name, out, err)
		}
	}
	if raw, err := os.ReadFile(file); err == nil && len(raw) > 0 {
		t.Error("a child has written a file")
	}
	raw := make([]byte, 1<<20)
	for most, want := range map[int64]error{1 << 20: nil, 1<<20 - 1: ErrTooMuch} {
		j := job("echo")
		j.Answer = most
		if out, err := j.Run(t.Context(), raw); !errors.Is(err, want) || want == nil && len(out) != len(raw) {
			t.Errorf("an answer of %d with room for %d: %v", len(raw), most, err)
		}
	}
}

// TestCageEndsWithItsClient: when nobody waits any more the child is gone.
func TestCageEndsWithItsClient(t *testing.T) {
	ctx, cancel := context.WithTimeout(t.Context(), 300*time.Millisecond)
	defer cancel()
	if _, err := job("sleep").Run(ctx, []byte("/nowhere/x")); !errors.Is(err, context.DeadlineExceeded) {
		t.Error(err)
	}
	for range 100 {
		if children(t) == 0 {
			return
		}
		time.Sleep(20 * time.Millisecond)
	}
	t.Error("it goes on")
}

// children counts the processes of which this one is the parent.
func children(t *testing.T) (n int) {
	t.Helper()
	all, err := filepath.Glob("/proc/[0-9]*/stat")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range all {
		raw, err := os.ReadFile(f)
		if err != nil {
			continue // it has ended
		}
		_, rest, _ := strings.Cut(string(raw), ") ")
		if fields := strings.Fields(rest); len(fields) > 1 && fields[1] == strconv.Itoa(os.Getpid()) && fields[0] != "Z" {
			n++
		}
	}
	return n
}

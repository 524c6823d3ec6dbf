package plotter

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

var paper = []byte("%PDF-1.4 something")

// at is what has become of a plot.
func at(t *testing.T, p *Plotter, id int) Plot {
	t.Helper()
	all, _ := p.List()
	for _, x := range all {
		if x.ID == id {
			return x
		}
	}
	t.Fatalf("plot %d is gone", id)
	return Plot{}
}

// TestPlot: two plots go one after the other, and land whole in the folder.
func TestPlot(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "plots")
	p := newPlotter(dir, nil)
	if _, err := p.Add("x", []byte("<html>"), 1); !errors.Is(err, ErrNotPDF) {
		t.Error(err)
	}
	a, _ := p.Add("pane on/../sill", paper, 1)
	b, _ := p.Add("second", paper, 2)
	if a.State != Waiting || b.Steps != 2*stepsOfPage {
		t.Errorf("%+v %+v", a, b)
	}
	p.step()
	if one, two := at(t, p, a.ID), at(t, p, b.ID); one.State != Plotting || one.Done != 1 || two.State != Waiting {
		t.Errorf("%+v %+v", one, two)
	}
	for p.step() {
	}
	for _, id := range []int{a.ID, b.ID} {
		x := at(t, p, id)
		raw, err := os.ReadFile(x.File)
		if err != nil || !bytes.Equal(raw, paper) || x.State != Done || filepath.Dir(x.File) != dir {
			t.Errorf("%+v: %v", x, err)
		}
	}
	left, _ := filepath.Glob(filepath.Join(dir, "*"))
	if len(left) != 2 || strings.Contains(left[0], ".part") {
		t.Error(left)
	}
}

// TestJam: a jam stops the plot where it is, clearing it goes on from there,
// and what is jammed can be cancelled.
func TestJam(t *testing.T) {
	p := newPlotter(t.TempDir(), nil)
	a, _ := p.Add("a", paper, 1)
	b, _ := p.Add("b", paper, 1)
	p.step()
	p.step()
	p.Jam(true)
	if p.step() || at(t, p, a.ID).State != Jammed || at(t, p, a.ID).Done != 2 {
		t.Errorf("%+v", at(t, p, a.ID))
	}
	p.Jam(false)
	p.step()
	if x := at(t, p, a.ID); x.State != Plotting || x.Done != 3 {
		t.Errorf("%+v", x)
	}
	p.Jam(true)
	p.step()
	if err := p.Cancel(a.ID); err != nil {
		t.Error(err)
	}
	if err := p.Cancel(a.ID); !errors.Is(err, ErrNotThere) {
		t.Error(err)
	}
	p.step()
	if at(t, p, b.ID).State != Jammed {
		t.Error("the next one jams as well, until it is cleared")
	}
	p.Jam(false)
	for p.step() {
	}
	if x := at(t, p, b.ID); x.State != Done || at(t, p, a.ID).File != "" {
		t.Errorf("%+v", x)
	}
}

// TestQueue: it does not grow without end, a folder that cannot be written to
// is said, and it stops when asked.
func TestQueue(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(file, nil, 0o644); err != nil {
		t.Fatal(err)
	}
	p := newPlotter(file, func(context.Context) error { return nil })
	for range MostWaiting {
		if _, err := p.Add("x", paper, 1); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := p.Add("x", paper, 1); !errors.Is(err, ErrFull) {
		t.Error(err)
	}
	for p.step() {
	}
	all, jammed := p.List()
	if all[0].State != Failed || all[0].Note == "" || jammed {
		t.Errorf("%+v", all[0])
	}
	if _, err := p.Add("x", paper, 1); err != nil {
		t.Error(err)
	}
	if all, _ := p.List(); len(all) != kept+1 {
		t.Errorf("%d are kept", len(all))
	}
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan struct{})
	go func() { p.Run(ctx); close(done) }()
	stop()
	<-done
}

// TestPlotsAreClearedUp: the folder keeps the latest plots, and no more; what went
// wrong is said without where the folder is.
func TestPlotsAreClearedUp(t *testing.T) {
	dir := t.TempDir()
	old := time.Now().Add(-time.Hour)
	for i := range maxFiles + 30 {
		name := filepath.Join(dir, fmt.Sprintf("old-%03d.pdf", i))
		if err := os.WriteFile(name, nil, 0o600); err != nil {
			t.Fatal(err)
		}
		if err := os.Chtimes(name, old, old.Add(time.Duration(i)*time.Second)); err != nil {
			t.Fatal(err)
		}
	}
	p := New(dir, 0)
	p.clear()
	left, err := filepath.Glob(filepath.Join(dir, "*.pdf"))
	if err != nil || len(left) != maxFiles || filepath.Base(left[0]) != "old-030.pdf" {
		t.Errorf("%d files from %s on, %v", len(left), left[0], err)
	}
	if text := said(&os.PathError{Op: "open", Path: dir, Err: os.ErrPermission}); strings.Contains(text, dir) {
		t.Error(text)
	}
}

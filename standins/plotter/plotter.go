// Package plotter is a small stand-in for a plotter on the network: a queue
// that takes PDF files, shows how far each is, can jam and be cleared, and
// whose plots can be cancelled. A plot lands as a file in a folder.
package plotter

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"sync"
	"time"
)

// State is what becomes of a plot.
type State string

// The states.
const (
	Waiting   State = "waiting"
	Plotting  State = "plotting"
	Jammed    State = "jammed"
	Done      State = "done"
	Cancelled State = "cancelled"
	Failed    State = "failed"
)

// Plot is one file in the queue.
type Plot struct {
	ID    int
	Name  string
	State State
	Done  int // of Steps
	Steps int
	File  string // where it landed, once done
	Note  string // what went wrong
	pdf   []byte
}

// over reports whether nothing more will become of a plot.
func (p *Plot) over() bool { return p.State == Done || p.State == Cancelled || p.State == Failed }

// Limits of the queue.
const (
	MostWaiting = 50
	kept        = 20 // plots that are over
	stepsOfPage = 12
)

// Errors of [Plotter.Add] and the others.
var (
	ErrNotPDF   = errors.New("the file is not a PDF")
	ErrFull     = errors.New("the queue is full")
	ErrNotThere = errors.New("there is no such plot, or it is over")
)

// Plotter is the stand-in. Its queue is saved in memory, as a plotter's is.
type Plotter struct {
	folder string
	tick   func(context.Context) error // waits for the next step

	mu    sync.Mutex
	last  int
	plots []*Plot
	jam   bool
	wake  chan struct{}
}

// New makes a plotter whose plots land in a folder, and that takes a time for
// a step.
func New(folder string, pace time.Duration) *Plotter {
	return newPlotter(folder, func(ctx context.Context) error {
		select {
		case <-time.After(pace):
			return nil
		case <-ctx.Done():
			return ctx.Err()
		}
	})
}

func newPlotter(folder string, tick func(context.Context) error) *Plotter {
	return &Plotter{folder: folder, tick: tick, wake: make(chan struct{}, 1)}
}

var odd = regexp.MustCompile(`[^A-Za-z0-9._-]+`)

// Add puts a PDF of a number of pages into the queue.
func (p *Plotter) Add(name string, pdf []byte, pages int) (Plot, error) {
	if !bytes.HasPrefix(pdf, []byte("%PDF-")) {
		return Plot{}, ErrNotPDF
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	waiting := 0
	for _, x := range p.plots {
		if !x.over() {
			waiting++
		}
	}
	if waiting >= MostWaiting {
		return Plot{}, ErrFull
	}
	p.last++
	x := &Plot{ID: p.last, Name: odd.ReplaceAllString(name, "-"), State: Waiting, Steps: max(1, pages) * stepsOfPage, pdf: pdf}
	p.plots = append(p.plots, x)
	for over := len(p.plots) - waiting - 1 - kept; over > 0; over-- {
		p.plots = slices.Delete(p.plots, slices.IndexFunc(p.plots, (*Plot).over), slices.IndexFunc(p.plots, (*Plot).over)+1)
	}
	p.stir()
	return *x, nil
}

// stir wakes the plotter up.
func (p *Plotter) stir() {
	select {
	case p.wake <- struct{}{}:
	default:
	}
}

// List is the queue, in the order it came, and whether the paper is jammed.
func (p *Plotter) List() (plots []Plot, jammed bool) {
	p.mu.Lock()
	defer p.mu.Unlock()
	for _, x := range p.plots {
		one := *x
		one.pdf = nil
		plots = append(plots, one)
	}
	return plots, p.jam
}

// Cancel takes a plot out of the queue, also one that is being plotted or
// jammed.
func (p *Plotter) Cancel(id int) error {
	p.mu.Lock()
	defer p.mu.Unlock()
	for _, x := range p.plots {
		if x.ID == id && !x.over() {
			x.State, x.pdf = Cancelled, nil
			p.stir()
			return nil
		}
	}
	return ErrNotThere
}

// Jam crumples the paper, or clears it; what was being plotted goes on where
// it was.
func (p *Plotter) Jam(jammed bool) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.jam = jammed
	for _, x := range p.plots {
		switch {
		case jammed && x.State == Plotting:
			x.State = Jammed
		case !jammed && x.State == Jammed:
			x.State = Plotting
		}
	}
	p.stir()
}

// Run plots what is in the queue until the context ends.
func (p *Plotter) Run(ctx context.Context) {
	for {
		busy := p.step()
		if !busy {
			select {
			case <-p.wake:
			case <-ctx.Done():
				return
			}
			continue
		}
		if p.tick(ctx) != nil {
			return
		}
	}
}

// step goes one step on; false when there is nothing to do now.
func (p *Plotter) step() bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	i := slices.IndexFunc(p.plots, func(x *Plot) bool { return !x.over() })
	if i < 0 {
		return false
	}
	x := p.plots[i]
	if p.jam {
		x.State = Jammed
		return false
	}
	x.State = Plotting
	if x.Done++; x.Done < x.Steps {
		return true
	}
	file, err := p.land(x)
	x.pdf = nil
	if err != nil {
		x.State, x.Note = Failed, said(err)
		return true
	}
	x.State, x.File = Done, file
	return true
}

// said is an error without the folder's name, which is nobody's business.
func said(err error) string {
	var at *os.PathError
	var link *os.LinkError
	switch {
	case errors.As(err, &at):
		return "the plot could not be written: " + at.Err.Error()
	case errors.As(err, &link):
		return "the plot could not be written: " + link.Err.Error()
	}
	return err.Error()
}

// maxFiles is how many plots the folder keeps: the latest.
const maxFiles = 200

// clear takes the oldest plots away when there are too many.
func (p *Plotter) clear() {
	files, err := filepath.Glob(filepath.Join(p.folder, "*.pdf"))
	if err != nil || len(files) <= maxFiles {
		return
	}
	age := map[string]time.Time{}
	for _, f := range files {
		if i, err := os.Stat(f); err == nil {
			age[f] = i.ModTime()
		}
	}
	slices.SortFunc(files, func(a, b string) int { return age[a].Compare(age[b]) })
	for _, f := range files[:len(files)-maxFiles] {
		_ = os.Remove(f) // it is tried again with the next plot
	}
}

// land writes a plot into the folder, whole or not at all.
func (p *Plotter) land(x *Plot) (string, error) {
	if err := os.MkdirAll(p.folder, 0o755); err != nil {
		return "", err
	}
	name := filepath.Join(p.folder, fmt.Sprintf("%s-%s-%d.pdf", x.Name, time.Now().Format("20060102-150405"), x.ID))
	if err := os.WriteFile(name+".part", x.pdf, 0o644); err != nil {
		return "", err
	}
	if err := os.Rename(name+".part", name); err != nil {
		return "", err
	}
	p.clear()
	return name, nil
}

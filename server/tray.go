package server

import (
	"net/http"
	"slices"
	"strconv"
	"sync"
	"time"

	"nexufix/exchange"
	"nexufix/exchange/tabular"
)

// Limits of the files that wait to be taken: how many, how large together, and
// for how long.
const (
	mostOpen     = 6
	mostOpenSize = 60 << 20
	openFor      = 30 * time.Minute
)

// tray holds the files that are being looked at, the latest few.
type tray struct {
	mu    sync.Mutex
	last  int
	files []*opened // in the order they came
}

// opened is a file on the tray. What is made of it for a catalogue changes with
// that, under its lock; the rest does not.
type opened struct {
	id, name string
	size     int // of the file as it came, in bytes
	came     time.Time
	tables   []tabular.Table
	layouts  []tabular.Layout
	document *exchange.Contents // in place of tables

	sync.Mutex
	taken   tabular.Taken
	against *exchange.Contents // the catalogue that taken was made for
	done    bool               // it is in the catalogue
}

// put lays a file on the tray; the oldest go when there are too many or too
// large ones.
func (d *tray) put(f *opened) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.last++
	f.id, f.came = strconv.Itoa(d.last), time.Now()
	d.files = append(d.files, f)
	d.clear()
	size := 0
	for i := len(d.files) - 1; i >= 0; i-- {
		if size += d.files[i].size; size > mostOpenSize && i < len(d.files)-1 || len(d.files)-i > mostOpen {
			d.files = slices.Delete(d.files, 0, i+1)
			break
		}
	}
	time.AfterFunc(openFor+time.Second, func() {
		d.mu.Lock()
		defer d.mu.Unlock()
		d.clear()
	})
}

// clear takes away what has lain there for too long.
func (d *tray) clear() {
	d.files = slices.DeleteFunc(d.files, func(f *opened) bool { return time.Since(f.came) > openFor })
}

func (d *tray) get(id string) (*opened, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, f := range d.files {
		if f.id == id {
			return f, nil
		}
	}
	return nil, problem(http.StatusNotFound, "The file is no longer there.", "Open it again.")
}

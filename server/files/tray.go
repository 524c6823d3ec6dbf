package files

import (
	"crypto/rand"
	"net/http"
	"slices"
	"sync"
	"time"

	"nexufix/app/imports"
	"nexufix/server/api"
)

// Limits of the files that wait to be taken: how many, how large together, and
// for how long.
const (
	maxOpen     = 24
	maxOfOne    = 6
	maxOpenSize = 60 << 20
	openFor     = 30 * time.Minute
)

// uploads holds the files that are being previewed, the latest few of each person.
type uploads struct {
	mu    sync.Mutex
	files []waiting // in the order they came
}

// waiting is a file on the tray.
type waiting struct {
	*imports.Incoming
	owner string
	came  time.Time
}

// put puts somebody's file on the tray. Where there are too many of theirs, the oldest is dropped; where there is too much of all, the
// oldest of who has the most.
func (d *uploads) put(owner string, f *imports.Incoming) {
	d.mu.Lock()
	defer d.mu.Unlock()
	f.ID = rand.Text()
	d.files = append(d.files, waiting{f, owner, time.Now()})
	d.clear()
	time.AfterFunc(openFor+time.Second, func() {
		d.mu.Lock()
		defer d.mu.Unlock()
		d.clear()
	})
	for len(d.files) > 1 {
		count, size, all := map[string]int{}, map[string]int{}, 0
		greatest := owner
		for _, w := range d.files {
			count[w.owner]++
			size[w.owner] += w.Size
			if all += w.Size; size[w.owner] > size[greatest] {
				greatest = w.owner
			}
		}
		switch {
		case count[owner] > maxOfOne:
			d.dropOldest(owner)
		case all > maxOpenSize || len(d.files) > maxOpen:
			d.dropOldest(greatest)
		default:
			return
		}
	}
}

// dropOldest drops the oldest file of a person, but never the last that came.
func (d *uploads) dropOldest(owner string) {
	i := slices.IndexFunc(d.files, func(w waiting) bool { return w.owner == owner })
	if i == len(d.files)-1 {
		i = 0
	}
	d.files = slices.Delete(d.files, i, i+1)
}

// clear drops files that are too old.
func (d *uploads) clear() {
	d.files = slices.DeleteFunc(d.files, func(f waiting) bool { return time.Since(f.came) > openFor })
}

// get finds a file of somebody.
func (d *uploads) get(owner, id string) (*imports.Incoming, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, f := range d.files {
		if f.ID == id && f.owner == owner {
			return f.Incoming, nil
		}
	}
	return nil, api.New(http.StatusNotFound, "The file is no longer there.", "Open it again.")
}

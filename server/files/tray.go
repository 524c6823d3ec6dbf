package files

import (
	"net/http"
	"slices"
	"strconv"
	"sync"
	"time"

	"nexufix/app"
	"nexufix/server/api"
)

// Limits of the files that wait to be taken: how many, how large together, and
// for how long.
const (
	mostOpen     = 6
	mostOpenSize = 60 << 20
	openFor      = 30 * time.Minute
)

// tray holds the files that are being previewed, the latest few.
type tray struct {
	mu    sync.Mutex
	last  int
	files []waiting // in the order they came
}

// waiting is a file on the tray.
type waiting struct {
	*app.Incoming
	came time.Time
}

// put puts a file on the tray; the oldest are dropped when there are too many or too
// large ones.
func (d *tray) put(f *app.Incoming) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.last++
	f.ID = strconv.Itoa(d.last)
	d.files = append(d.files, waiting{f, time.Now()})
	d.clear()
	size := 0
	for i := len(d.files) - 1; i >= 0; i-- {
		if size += d.files[i].Size; size > mostOpenSize && i < len(d.files)-1 || len(d.files)-i > mostOpen {
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

// clear drops files that are too old.
func (d *tray) clear() {
	d.files = slices.DeleteFunc(d.files, func(f waiting) bool { return time.Since(f.came) > openFor })
}

func (d *tray) get(id string) (*app.Incoming, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, f := range d.files {
		if f.ID == id {
			return f.Incoming, nil
		}
	}
	return nil, api.New(http.StatusNotFound, "The file is no longer there.", "Open it again.")
}

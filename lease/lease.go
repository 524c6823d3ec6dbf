// Package lease lets one of several machines write: the one whose name stands on the latest term, a file in a folder that all of them
// reach.
//
// Who writes touches its term again and again. It stops writing when it could not for [Lasts], or when there is a later term. Who takes
// over makes the next term, which succeeds once (O_EXCL), and waits for [Lasts] before it writes: then nobody else does. No clocks are
// compared: each machine measures its own.
package lease

import (
	"cmp"
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// How long a server may write after it last touched its term, and how often it touches it.
const (
	Lasts   = 5 * time.Second
	touches = time.Second
)

// Term is a term as it stands in the folder.
type Term struct {
	Number int    `json:"-"`
	Owner  string `json:"owner"` // the name of a data folder
	Host   string `json:"host"`
	Count  int64  `json:"count"` // how often it was touched
}

// Elsewhere is the error of who may not write, for another does.
type Elsewhere struct {
	Host string
	Why  string
}

func (e *Elsewhere) Error() string {
	return fmt.Sprintf("the server on %s writes now: %s", cmp.Or(e.Host, "another machine"), e.Why)
}

// Lease is the right to write, as long as it is held.
type Lease struct {
	dir  string
	mu   sync.Mutex
	term Term   // as it was left
	next Term   // as it may have been left, by a touch of which is not known whether it was made
	good moment // when the term was last touched
	lost error  // for good
}

// moment is a time by two clocks: one that nobody sets and that goes on while the machine sleeps, and one that goes on while a virtual
// machine is held.
type moment struct {
	boot time.Duration
	wall time.Time
}

func clock() moment {
	boot := sinceBoot()
	if boot == 0 {
		return moment{} // long ago: it is not held
	}
	return moment{boot, time.Now().Round(0)}
}

// within reports whether it is less than d since the moment by both clocks; a clock that was put back does not count.
func (m moment) within(d time.Duration) bool {
	now := clock()
	return now.boot != 0 && m.boot != 0 && now.boot-m.boot < d && now.wall.Sub(m.wall) < d
}

// Latest reads the latest term of a folder; number 0: there is none.
func Latest(dir string) (t Term, err error) {
	files, err := os.ReadDir(dir)
	if err != nil {
		return t, err
	}
	for _, f := range files {
		var n int
		if _, err := fmt.Sscanf(f.Name(), "term-%d", &n); err != nil || name(n) != f.Name() || n <= t.Number {
			continue
		}
		t.Number = n
	}
	if t.Number == 0 {
		return t, nil
	}
	raw, err := os.ReadFile(filepath.Join(dir, name(t.Number)))
	if err == nil && len(raw) > 0 { // empty: it is being made
		err = json.Unmarshal(raw, &t)
	}
	return t, err
}

func name(number int) string { return fmt.Sprintf("term-%06d", number) }

// put writes a term in place of what it was.
func (t *Term) put(dir string) error {
	raw, err := json.Marshal(t)
	if err != nil {
		return err
	}
	part := filepath.Join(dir, "."+name(t.Number)+"."+rand.Text()[:6])
	if err := os.WriteFile(part, raw, 0o600); err != nil {
		return errors.Join(err, os.Remove(part))
	}
	return os.Rename(part, filepath.Join(dir, name(t.Number)))
}

// begin makes the next term for an owner; [Elsewhere] when another did at the same time.
func begin(dir, owner string, after int) (*Lease, error) {
	host, _ := os.Hostname() // "": it is only shown
	t := Term{Number: after + 1, Owner: owner, Host: host, Count: 1}
	at := clock()
	f, err := os.OpenFile(filepath.Join(dir, name(t.Number)), os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if errors.Is(err, os.ErrExist) {
		return nil, &Elsewhere{Why: "it took over at the same time"}
	}
	if err != nil {
		return nil, err
	}
	if err := errors.Join(f.Close(), t.put(dir)); err != nil {
		return nil, err
	}
	return &Lease{dir: dir, term: t, good: at}, nil
}

// Claim is for a server that starts: the first term is its own where there is none, and it goes on with the latest where that is its own.
// It waits for a moment, to see that the same name is not at work elsewhere.
func Claim(ctx context.Context, dir, owner string) (*Lease, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	t, err := Latest(dir)
	if err != nil {
		return nil, err
	}
	if t.Number == 0 {
		return begin(dir, owner, 0)
	}
	if t.Owner != owner {
		return nil, &Elsewhere{t.Host, "nexufix promote takes over from it"}
	}
	select {
	case <-ctx.Done():
		return nil, ctx.Err()
	case <-time.After(2 * touches):
	}
	l := &Lease{dir: dir, term: t}
	l.touch()
	return l, l.Held()
}

// TakeOver makes the next term, and waits until the server that wrote before has stopped.
func TakeOver(ctx context.Context, dir, owner string) error {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	t, err := Latest(dir)
	if err != nil {
		return err
	}
	if _, err := begin(dir, owner, t.Number); err != nil {
		return err
	}
	select {
	case <-ctx.Done():
		return ctx.Err()
	case <-time.After(Lasts):
	}
	return nil
}

// Keep touches the term until the context ends.
func (l *Lease) Keep(ctx context.Context) {
	for {
		l.touch()
		select {
		case <-ctx.Done():
			return
		case <-time.After(touches):
		}
	}
}

// touch looks whether the term is still the latest and as it was left, and touches it.
func (l *Lease) touch() {
	at := clock() // before it is looked: what happens meanwhile is not missed
	now, err := Latest(l.dir)
	l.mu.Lock()
	defer l.mu.Unlock()
	switch {
	case l.lost != nil || err != nil: // err: it ends by itself, unless it is there again before
		return
	case now.Number != l.term.Number:
		l.lost = &Elsewhere{now.Host, "it took over"}
		return
	case now != l.term && now != l.next:
		l.lost = &Elsewhere{now.Host, "from a copy of this data folder; take the file writer-id out of one of them"}
		return
	}
	l.term, l.next = now, now
	l.next.Count++
	if l.next.put(l.dir) == nil {
		l.term, l.good = l.next, at
	}
}

// Held reports why the server may not write; nil: it may.
func (l *Lease) Held() error {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.lost == nil && !l.good.within(Lasts) {
		return &Elsewhere{Why: "the folder of the lease, " + l.dir + ", was not reached for " + Lasts.String()}
	}
	return l.lost
}

// OwnerOf is the name of a data folder, which is made the first time.
func OwnerOf(dir string) (string, error) {
	file := filepath.Join(dir, "writer-id")
	raw, err := os.ReadFile(file)
	if err == nil && len(strings.TrimSpace(string(raw))) > 0 {
		return strings.TrimSpace(string(raw)), nil
	}
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return "", err
	}
	id := rand.Text()
	return id, os.WriteFile(file, []byte(id+"\n"), 0o600)
}

// folderFile remembers in a data folder the folder of its lease.
const folderFile = "lease-folder"

// Folder is the folder of a data folder's lease, as it was remembered; "": it has none.
func Folder(dir string) (string, error) {
	raw, err := os.ReadFile(filepath.Join(dir, folderFile))
	if errors.Is(err, os.ErrNotExist) {
		return "", nil
	}
	return strings.TrimSpace(string(raw)), err
}

// Remember remembers the folder of a data folder's lease.
func Remember(dir, folder string) error {
	whole, err := filepath.Abs(folder)
	if err != nil {
		return err
	}
	return os.WriteFile(filepath.Join(dir, folderFile), []byte(whole+"\n"), 0o600)
}

// Beside says for a command that works beside a server, or without one, why it may not write in a data folder.
func Beside(dir string) error {
	folder, err := Folder(dir)
	if err != nil || folder == "" {
		return err
	}
	owner, err := OwnerOf(dir)
	if err != nil {
		return err
	}
	t, err := Latest(folder)
	if err == nil && t.Owner != owner {
		err = &Elsewhere{t.Host, "this folder is not the one"}
	}
	return err
}

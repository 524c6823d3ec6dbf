package store

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"os"
	"reflect"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// Catalogue is all displays, brackets and jobs, by name, and the policy in use.
// It must not be changed: all callers share it until the next
// change. Displays and brackets that a change does not touch keep their pointers, so that
// results computed for them can be reused. Documents that cannot be read are left out: see
// [Store.Unreadable].
func (s *Store) Catalogue(ctx context.Context) (*exchange.Contents, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.read(ctx)
}

// Unreadable is an item whose document cannot be read: it was written by
// another version, or is on a damaged page. It stays in the database until
// somebody saves it again.
type Unreadable struct {
	Kind     string
	ID       string
	Revision int
	Why      string
	Doc      string // as much as can be read
	Damaged  bool   // its page in the file is damaged
}

// Unreadable lists the items that cannot be read, by kind and id.
func (s *Store) Unreadable(ctx context.Context) ([]Unreadable, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if _, err := s.read(ctx); err != nil {
		return nil, err
	}
	return slices.Clone(s.unreadable), nil
}

// read reads what has changed since the last reading: a few changes from the
// history, otherwise everything.
func (s *Store) read(ctx context.Context) (*exchange.Contents, error) {
	version, err := s.fileVersion(ctx)
	if err != nil {
		return nil, err
	}
	if s.catalogue != nil && s.version == version {
		return s.catalogue, nil
	}
	// Read before the documents: a change in between is then read again, not missed.
	var now state
	if err := s.db.GetContext(ctx, &now, stateNow); err != nil {
		return nil, err
	}
	damaged := slices.ContainsFunc(s.unreadable, func(u Unreadable) bool { return u.Damaged })
	if s.latestRead != nil && s.state == now && !damaged { // something else in the file was written
		s.catalogue, s.version = s.latestRead, version
		return s.catalogue, nil
	}
	r := reading{ctx: ctx, s: s, documents: s.documents}
	if damaged || !r.readChanges(now) {
		r.readAll()
	}
	c := &exchange.Contents{}
	c.Displays, c.Brackets, c.Jobs = readable(&r, r.rows.displays), readable(&r, r.rows.brackets), readable(&r, r.rows.jobs)
	r.policy(c)
	c.Indexed()
	if r.err != nil {
		return nil, r.err
	}
	if was := s.latestRead; was != nil && slices.Equal(c.Displays, was.Displays) && slices.Equal(c.Brackets, was.Brackets) &&
		slices.Equal(c.Jobs, was.Jobs) && reflect.DeepEqual(c.Policy, was.Policy) {
		c = was // only something else in the file was changed: results for it stay valid
	}
	s.catalogue, s.latestRead, s.version, s.state, s.unreadable, s.rows = c, c, version, now, r.aside, r.rows
	s.documents = noDocuments() // they are in the rows now
	return c, nil
}

// fileVersion changes whenever this or another program has changed the file. A replication
// tool that copies pages bypasses SQLite: for a read-only database the version is when
// its files were written.
func (s *Store) fileVersion(ctx context.Context) (string, error) {
	if s.writeLock != nil {
		var version string
		err := s.watch.QueryRowContext(ctx, `PRAGMA data_version`).Scan(&version)
		return version, err
	}
	out := ""
	for _, end := range []string{"", "-wal"} {
		if i, err := os.Stat(s.file + end); err == nil {
			out += fmt.Sprint(i.ModTime().UnixNano(), " ", i.Size(), " ")
		}
	}
	return out, nil
}

// state identifies the contents of a database: its latest revision, how
// often all of it was replaced, and how often an item was written.
type state struct {
	Latest     int64 `db:"latest"`
	Generation int64 `db:"generation"`
	Touched    int64 `db:"touched"`
}

const stateNow = `SELECT (SELECT coalesce(max(seq), 0) FROM revision) AS latest, (SELECT user_version FROM pragma_user_version) AS generation,
	(SELECT n FROM touched) AS touched`

// rows are the items that were read, each kind in its order.
type rows struct {
	displays []row[*catalog.Display]
	brackets []row[*catalog.Bracket]
	jobs     []row[*catalog.Job]
}

// row is an item with what was read from its document, or the reason why it cannot be read.
type row[T any] struct {
	Item
	x   T
	why string
}

// fewChanges is the largest number of changes that are read one by one.
const fewChanges = 500

// readChanges reads what was changed since the last reading; false if that is too much,
// or is not in the history.
func (r *reading) readChanges(now state) bool {
	s := r.s
	if s.latestRead == nil || s.state.Generation != now.Generation || now.Latest <= s.state.Latest { // by a hand that writes no revision
		return false
	}
	var keys []Item
	if err := s.db.SelectContext(r.ctx, &keys, `SELECT DISTINCT kind, id FROM revision WHERE seq > ? LIMIT ?`, s.state.Latest,
		fewChanges+1); err != nil || len(keys) > fewChanges {
		return false
	}
	gone := map[itemKey]bool{}
	by := map[string][]Item{}
	for _, k := range keys {
		gone[itemKey{k.Kind, k.ID}] = true
		switch i, err := s.Item(r.ctx, k.Kind, k.ID); {
		case err == nil:
			by[k.Kind] = append(by[k.Kind], i)
		case !errors.Is(err, ErrNotFound):
			return false
		}
	}
	r.rows.displays = replaced(r, s.rows.displays, gone, by["display"], func(d *documents) map[string]*catalog.Display { return d.displays })
	r.rows.brackets = replaced(r, s.rows.brackets, gone, by["bracket"], func(d *documents) map[string]*catalog.Bracket { return d.brackets })
	r.rows.jobs = replaced(r, s.rows.jobs, gone, by["job"], func(d *documents) map[string]*catalog.Job { return d.jobs })
	return true
}

// replaced removes items from rows and inserts others, in order.
func replaced[T any](r *reading, before []row[T], gone map[itemKey]bool, items []Item, of func(*documents) map[string]T) []row[T] {
	fresh := readRows(r, items, of)
	slices.SortFunc(fresh, func(a, b row[T]) int { return a.Item.compare(&b.Item) })
	out := make([]row[T], 0, len(before)+len(fresh))
	for n := range before {
		old := &before[n]
		if len(gone) > 0 && gone[itemKey{old.Kind, old.ID}] {
			continue
		}
		for len(fresh) > 0 && fresh[0].Item.compare(&old.Item) < 0 {
			out, fresh = append(out, fresh[0]), fresh[1:]
		}
		out = append(out, *old)
	}
	return append(out, fresh...)
}

// compare is the order of items of a kind.
func (i *Item) compare(o *Item) int {
	return cmp.Or(strings.Compare(i.Sort, o.Sort), strings.Compare(i.ID, o.ID))
}

// readAll reads everything; documents with the same text as before are not parsed again.
func (r *reading) readAll() {
	known := noDocuments()
	known.add(&r.s.documents)
	for _, x := range r.s.rows.displays {
		known.displays[x.Doc] = x.x
	}
	for _, x := range r.s.rows.brackets {
		known.brackets[x.Doc] = x.x
	}
	for _, x := range r.s.rows.jobs {
		known.jobs[x.Doc] = x.x
	}
	r.documents = known
	r.rows.displays = readRows(r, r.items("display"), func(d *documents) map[string]*catalog.Display { return d.displays })
	r.rows.brackets = readRows(r, r.items("bracket"), func(d *documents) map[string]*catalog.Bracket { return d.brackets })
	r.rows.jobs = readRows(r, r.items("job"), func(d *documents) map[string]*catalog.Job { return d.jobs })
}

// readRows reads items of a kind, except for those that have been read.
func readRows[T any](r *reading, items []Item, of func(*documents) map[string]T) []row[T] {
	if r.err != nil {
		return nil
	}
	var fresh []Item
	for n := range items {
		if !r.documents.has(&items[n]) {
			fresh = append(fresh, items[n])
		}
	}
	bad, err := r.documents.read(r.ctx, fresh)
	if err != nil {
		r.err = err
		return nil
	}
	why := map[string]string{}
	for _, u := range bad {
		why[u.ID] = reason(u.why)
	}
	out := make([]row[T], len(items))
	for n, i := range items {
		out[n] = row[T]{i, of(&r.documents)[i.Doc], why[i.ID]}
	}
	return out
}

// readable returns the items that could be read; the others are recorded as unreadable.
func readable[T any](r *reading, all []row[T]) []T {
	out := make([]T, 0, len(all))
	for n := range all {
		if x := &all[n]; x.why == "" {
			out = append(out, x.x)
		} else {
			r.aside = append(r.aside, Unreadable{Kind: x.Kind, ID: x.ID, Revision: x.Revision, Why: x.why, Doc: x.Doc})
		}
	}
	return out
}

// reading is one reading of the database: the error that stopped it, and
// the items that cannot be read.
type reading struct {
	ctx   context.Context
	s     *Store
	aside []Unreadable
	err   error
	documents
	rows rows
}

// items returns all items of a kind, in order.
func (r *reading) items(kind string) []Item {
	if r.err != nil {
		return nil
	}
	var out []Item
	err := r.s.db.SelectContext(r.ctx, &out, `SELECT * FROM item WHERE kind = ? ORDER BY sort, id`, kind)
	switch {
	case Damaged(err):
		return r.oneByOne(kind)
	case err != nil:
		r.err = err
	}
	return out
}

// oneByOne reads the items of a kind from a damaged file: each by itself, and
// from the history where its page is damaged.
func (r *reading) oneByOne(kind string) []Item {
	var keys []Item
	for _, from := range []string{
		`SELECT id, sort FROM item INDEXED BY item_sorted WHERE kind = ? ORDER BY sort, id`,
		`SELECT DISTINCT id, id AS sort FROM revision WHERE kind = ? ORDER BY id`,
	} {
		keys = nil
		if err := r.s.db.SelectContext(r.ctx, &keys, from, kind); err == nil {
			break
		} else if !Damaged(err) {
			r.err = err
			return nil
		}
	}
	var out []Item
	for _, k := range keys {
		i, err := r.s.Item(r.ctx, kind, k.ID)
		switch {
		case err == nil:
			out = append(out, i)
		case Damaged(err):
			u := Unreadable{Kind: kind, ID: k.ID, Damaged: true,
				Why: "Its page in the database is damaged. This is its latest revision as the history has it."}
			var last []Revision
			if last, err = r.s.History(r.ctx, kind, k.ID, 1, 0); err != nil || len(last) == 0 {
				u.Why = "Its page in the database is damaged, and so is its history. Restore a backup."
			} else {
				u.Revision, u.Doc = last[0].Number, last[0].Doc.String
			}
			r.aside = append(r.aside, u)
		case !errors.Is(err, ErrNotFound):
			r.err = err
			return nil
		}
	}
	return out
}

// policy reads the policy in use; if it cannot be read, that is recorded and the
// defaults are used.
func (r *reading) policy(c *exchange.Contents) {
	if r.err != nil {
		return
	}
	doc, err := r.s.inUse(r.ctx)
	if err != nil || doc == "" {
		r.err = err
		return
	}
	found, err := readDocuments(nil, nil, nil, doc)
	if err != nil {
		r.aside = append(r.aside, Unreadable{Kind: "policy", ID: "in use", Why: reason(err), Doc: doc})
		return
	}
	c.Policy = found.Policy
}

// reason returns why a document cannot be read.
func reason(err error) string {
	return strings.NewReplacer("displays[0].", "", "brackets[0].", "", "jobs[0].", "", "policy.", "").Replace(err.Error())
}

// readItems reads displays, brackets or jobs, all of one kind, with the strict
// reader of the format, and checks that each document has the item's id.
func readItems(items []Item) (*exchange.Contents, error) {
	docs := make([]string, len(items))
	for n, i := range items {
		docs[n] = i.Doc
	}
	by := map[string][]string{items[0].Kind: docs}
	c, err := readDocuments(by["display"], by["bracket"], by["job"], "")
	if err != nil {
		return nil, err
	}
	n := 0
	for _, id := range c.IDs() {
		if n >= len(items) || id != items[n].ID {
			return nil, exchange.Problems{{Path: "id", Found: id, Allowed: items[min(n, len(items)-1)].ID}}
		}
		n++
	}
	return c, nil
}

func readDocuments(displays, brackets, jobs []string, policy string) (*exchange.Contents, error) {
	var raw bytes.Buffer
	fmt.Fprintf(&raw, `{"format":%q,"displays":[%s],"brackets":[%s],"jobs":[%s]`, exchange.Format, strings.Join(displays, ","),
		strings.Join(brackets, ","), strings.Join(jobs, ","))
	if policy != "" {
		raw.WriteString(`,"policy":` + policy)
	}
	raw.WriteString(`}`)
	return exchange.Read(raw.Bytes())
}

const latestRevision = `SELECT coalesce(max(seq), 0) FROM revision`

// checkBasis returns an error if anything was changed since a catalogue was read.
func (w *writing) checkBasis(s *Store, basis *exchange.Contents) error {
	var now int64
	if err := w.tx.GetContext(w.ctx, &now, latestRevision); err != nil {
		return err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.latestRead != basis || s.state.Latest != now {
		return ErrMoved
	}
	return nil
}

package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// Catalogue is all displays, brackets and jobs, by name, and the policy in use.
// It must not be changed: it is shared by everyone who asks until the next
// change. What that does not touch stays the same display or bracket, so that
// work done on it can be kept. What cannot be read is not in it: see
// [Store.Unreadable].
func (s *Store) Catalogue(ctx context.Context) (*exchange.Contents, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.read(ctx)
}

// Unreadable is an item that the database has and nobody can use: a document of
// an older or another version, or one on a damaged page. It stays as it is until
// somebody saves it anew.
type Unreadable struct {
	Kind     string
	ID       string
	Revision int
	Why      string
	Doc      string // as far as it can be had
	Damaged  bool   // by its page in the file
}

// Unreadable lists what is set aside, by kind and id.
func (s *Store) Unreadable(ctx context.Context) ([]Unreadable, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if _, err := s.read(ctx); err != nil {
		return nil, err
	}
	return slices.Clone(s.aside), nil
}

// read reads what has changed since it was read last.
func (s *Store) read(ctx context.Context) (*exchange.Contents, error) {
	var version int64
	if err := s.watch.QueryRowContext(ctx, `PRAGMA data_version`).Scan(&version); err != nil {
		return nil, err
	}
	if s.catalogue != nil && s.version == version {
		return s.catalogue, nil
	}
	// Read before the documents: a change in between is taken for one after.
	var latest int64
	if err := s.db.GetContext(ctx, &latest, latestRevision); err != nil {
		return nil, err
	}
	r := reading{ctx: ctx, s: s, documents: noDocuments()}
	c := &exchange.Contents{}
	displays, brackets, jobs := r.items("display"), r.items("bracket"), r.items("job")
	c.Displays = together(&r, displays, func(d *documents) map[string]*catalog.Display { return d.displays })
	c.Brackets = together(&r, brackets, func(d *documents) map[string]*catalog.Bracket { return d.brackets })
	c.Jobs = together(&r, jobs, func(d *documents) map[string]*catalog.Job { return d.jobs })
	r.policy(c)
	if r.err != nil {
		return nil, r.err
	}
	if was := s.latestRead; was != nil && slices.Equal(c.Displays, was.Displays) && slices.Equal(c.Brackets, was.Brackets) && slices.Equal(c.Jobs, was.Jobs) && reflect.DeepEqual(c.Policy, was.Policy) {
		c = was // something else in the file was changed: work on it goes on
	}
	s.catalogue, s.latestRead, s.version, s.latest, s.aside, s.documents = c, c, version, latest, r.aside, r.documents
	return c, nil
}

// reading is one reading of the database: the first error that stops it, and
// what of it cannot be read.
type reading struct {
	ctx   context.Context
	s     *Store
	aside []Unreadable
	err   error
	documents
}

// items are all of a kind, in their order.
func (r *reading) items(kind string) []Item {
	if r.err != nil {
		return nil
	}
	var out []Item
	err := r.s.db.SelectContext(r.ctx, &out, `SELECT * FROM item WHERE kind = ? ORDER BY sort, id`, kind)
	switch {
	case damaged(err):
		return r.oneByOne(kind)
	case err != nil:
		r.err = err
	}
	return out
}

// oneByOne reads the items of a kind from a damaged file: each by itself, and
// where its page is gone, as it was last written down in the history.
func (r *reading) oneByOne(kind string) []Item {
	var keys []Item
	for _, from := range []string{
		`SELECT id, sort FROM item INDEXED BY item_sorted WHERE kind = ? ORDER BY sort, id`,
		`SELECT DISTINCT id, id AS sort FROM revision WHERE kind = ? ORDER BY id`,
	} {
		keys = nil
		if err := r.s.db.SelectContext(r.ctx, &keys, from, kind); err == nil {
			break
		} else if !damaged(err) {
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
		case damaged(err):
			u := Unreadable{Kind: kind, ID: k.ID, Damaged: true, Why: "Its page in the database is damaged. This is its latest revision as the history has it."}
			var last []Revision
			if last, err = r.s.History(r.ctx, kind, k.ID, 1); err != nil || len(last) == 0 {
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

// policy reads the one in use; one that cannot be read is set aside, and the
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

// together puts what was read before and what is read now in the order of the
// items, and keeps it by document. What cannot be read is set aside.
func together[T any](r *reading, items []Item, of func(*documents) map[string]T) []T {
	if r.err != nil {
		return nil
	}
	before, kept := of(&r.s.documents), of(&r.documents)
	var fresh []Item
	for _, i := range items {
		if x, ok := before[i.Doc]; ok {
			kept[i.Doc] = x
		} else {
			fresh = append(fresh, i)
		}
	}
	var bad []unread
	if bad, r.err = r.documents.read(r.ctx, fresh); r.err != nil {
		return nil
	}
	for _, u := range bad {
		r.aside = append(r.aside, Unreadable{Kind: u.Kind, ID: u.ID, Revision: u.Revision, Why: reason(u.why), Doc: u.Doc})
	}
	all := make([]T, 0, len(items))
	for _, i := range items {
		if x, ok := kept[i.Doc]; ok {
			all = append(all, x)
		}
	}
	return all
}

// reason says of one document why it cannot be read.
func reason(err error) string {
	return strings.NewReplacer("displays[0].", "", "brackets[0].", "", "jobs[0].", "", "policy.", "").Replace(err.Error())
}

// readItems reads displays, brackets or jobs, all of one kind, by the strict
// reader of the format, and sees that each goes by its own id.
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
	fmt.Fprintf(&raw, `{"format":%q,"displays":[%s],"brackets":[%s],"jobs":[%s]`, exchange.Format, strings.Join(displays, ","), strings.Join(brackets, ","), strings.Join(jobs, ","))
	if policy != "" {
		raw.WriteString(`,"policy":` + policy)
	}
	raw.WriteString(`}`)
	return exchange.Read(raw.Bytes())
}

const latestRevision = `SELECT coalesce(max(seq), 0) FROM revision`

// unmoved is an error unless nothing was changed since a catalogue was read.
func (w *writing) unmoved(s *Store, basis *exchange.Contents) error {
	var now int64
	if err := w.tx.GetContext(w.ctx, &now, latestRevision); err != nil {
		return err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.latestRead != basis || s.latest != now {
		return ErrMoved
	}
	return nil
}

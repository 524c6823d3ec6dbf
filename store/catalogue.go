package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"strings"

	"nexufix/exchange"
)

// Catalogue is all displays and brackets, by name, and the policy in use. It
// must not be changed: it is shared by everyone who asks until the next change.
// What that does not touch stays the same display or bracket, so that work done
// on it can be kept.
func (s *Store) Catalogue(ctx context.Context) (*exchange.Contents, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
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
	var displays, brackets, jobs []string
	for _, x := range []struct {
		kind string
		docs *[]string
	}{{"display", &displays}, {"bracket", &brackets}, {"job", &jobs}} {
		if err := s.db.SelectContext(ctx, x.docs, `SELECT doc FROM item WHERE kind = ? ORDER BY sort, id`, x.kind); err != nil {
			return nil, err
		}
	}
	policy, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	fresh, err := readDocuments(unread(displays, s.displays), unread(brackets, s.brackets), jobs, policy)
	if err != nil {
		return nil, fmt.Errorf("the catalogue in the database is damaged: %w", errors.New(err.Error()))
	}
	c := &exchange.Contents{Policy: fresh.Policy, Jobs: fresh.Jobs}
	c.Displays, s.displays = together(displays, s.displays, fresh.Displays)
	c.Brackets, s.brackets = together(brackets, s.brackets, fresh.Brackets)
	s.catalogue, s.version, s.latest = c, version, latest
	return c, nil
}

// unread are the documents that have not been read before.
func unread[T any](docs []string, read map[string]T) []string {
	var out []string
	for _, d := range docs {
		if _, ok := read[d]; !ok {
			out = append(out, d)
		}
	}
	return out
}

// together puts what was read before and what was read now in the order of
// the documents, and keeps it by document.
func together[T any](docs []string, before map[string]T, now []T) ([]T, map[string]T) {
	all := make([]T, 0, len(docs))
	kept := make(map[string]T, len(docs))
	for _, d := range docs {
		x, ok := before[d]
		if !ok {
			x, now = now[0], now[1:]
		}
		all = append(all, x)
		kept[d] = x
	}
	return all, kept
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
	if s.catalogue != basis || s.latest != now {
		return ErrMoved
	}
	return nil
}

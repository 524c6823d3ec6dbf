package store

import (
	"context"
	"encoding/json"
	"errors"
	"maps"
	"slices"
	"sync"

	"nexufix/core/catalog"
	"nexufix/core/workers"
	"nexufix/exchange"
)

// documents caches what was read, by the document's text.
type documents struct {
	displays map[string]*catalog.Display
	brackets map[string]*catalog.Bracket
	jobs     map[string]*catalog.Job
}

func noDocuments() documents {
	return documents{map[string]*catalog.Display{}, map[string]*catalog.Bracket{}, map[string]*catalog.Job{}}
}

func (d *documents) add(o *documents) {
	maps.Copy(d.displays, o.displays)
	maps.Copy(d.brackets, o.brackets)
	maps.Copy(d.jobs, o.jobs)
}

// has reports whether the document of an item, with exactly this text, has been read.
func (d *documents) has(i *Item) bool {
	switch i.Kind {
	case "display":
		x := d.displays[i.Doc]
		return x != nil && x.ID == i.ID
	case "bracket":
		x := d.brackets[i.Doc]
		return x != nil && x.ID == i.ID
	case "job":
		x := d.jobs[i.Doc]
		return x != nil && x.ID == i.ID
	}
	return false
}

// all reads items of any kinds; the error names those that cannot be read.
func (d *documents) all(ctx context.Context, items []Item) error {
	by := map[string][]Item{}
	for _, i := range items {
		by[i.Kind] = append(by[i.Kind], i)
	}
	var out exchange.Problems
	for _, kind := range slices.Sorted(maps.Keys(by)) {
		bad, err := d.read(ctx, by[kind])
		if err != nil {
			return err
		}
		for _, u := range bad {
			var problems exchange.Problems
			if !errors.As(u.why, &problems) {
				return u.why
			}
			for _, p := range problems {
				out = append(out, exchange.Problem{Path: kind + " " + u.ID + ": " + p.Path, Found: p.Found, Allowed: p.Allowed})
			}
		}
	}
	if out != nil {
		return out
	}
	return nil
}

// unread is an item that cannot be read, and why.
type unread struct {
	Item
	why error
}

// readTogether is how many documents are read at a time.
const readTogether = 500

// read reads items of one kind with the strict reader of the format, on all cores,
// adds them, and returns those that cannot be read. It ends early, with an error,
// when the context does.
func (d *documents) read(ctx context.Context, items []Item) ([]unread, error) {
	var mu sync.Mutex
	var bad []unread
	parts := slices.Collect(slices.Chunk(items, readTogether))
	workers.Each(len(parts), func(n int) {
		if ctx.Err() != nil {
			return
		}
		found, failed := readSome(parts[n])
		mu.Lock()
		defer mu.Unlock()
		d.add(&found)
		bad = append(bad, failed...)
	})
	slices.SortFunc(bad, func(a, b unread) int { return slices.Compare([]string{a.Sort, a.ID}, []string{b.Sort, b.ID}) })
	return bad, ctx.Err()
}

// readSome reads items together, and if that fails one by one.
func readSome(items []Item) (found documents, bad []unread) {
	found = noDocuments()
	switch items[0].Kind {
	case "use", "policy":
		for _, i := range items {
			var err error
			if i.Kind == "use" {
				var name string
				err = json.Unmarshal([]byte(i.Doc), &name)
			} else {
				_, err = readDocuments(nil, nil, nil, i.Doc)
			}
			if err != nil {
				bad = append(bad, unread{i, err})
			}
		}
		return found, bad
	}
	c, err := readItems(items)
	switch {
	case err != nil && len(items) == 1:
		return found, []unread{{items[0], err}}
	case err != nil:
		for n := range items {
			one, failed := readSome(items[n : n+1])
			found.add(&one)
			bad = append(bad, failed...)
		}
		return found, bad
	}
	for n, x := range c.Displays {
		found.displays[items[n].Doc] = x
	}
	for n, x := range c.Brackets {
		found.brackets[items[n].Doc] = x
	}
	for n, x := range c.Jobs {
		found.jobs[items[n].Doc] = x
	}
	return found, nil
}

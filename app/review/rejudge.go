package review

import (
	"context"
	"encoding/json"
	"errors"
	"slices"

	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/workers"
	"nexufix/exchange"
	"nexufix/store"
)

// rejudge judges an approval's subject by the present catalogue; changed says that there is an event to store.
func rejudge(ctx context.Context, all *exchange.Contents, a *store.Approval, w *documents) (out store.Rejudged, changed bool,
	err error) {
	out = store.Rejudged{ID: a.ID, Version: a.Version, Was: a.Seen, Seen: a.Seen, Stale: a.Stale}
	var s Subject
	if approval.Sum(a.Document) != a.Fingerprint || exchange.ReadInto([]byte(a.Subject), &s) != nil {
		out.Broken = true
		return out, true, nil
	}
	out.RestsOn = s.restsOn(func(id string) *catalog.Job { return w.job(all, id) })
	now, err := w.source(all, s)
	if gone := (exchange.Problems{}); errors.As(err, &gone) {
		return stale(out, a, "", []approval.Difference{{Path: gone[0].Path, Was: "in the catalogue", Now: gone[0].Found}})
	} else if err != nil {
		return out, false, err
	}
	present, seen, err := w.of(now)
	if err != nil || seen == a.Seen {
		return out, false, err
	}
	differ, err := now.differs(ctx, a.Document, a.Result, present)
	if problems := (exchange.Problems{}); errors.As(err, &problems) {
		return stale(out, a, seen, []approval.Difference{{Path: problems[0].Path, Was: "sound", Now: problems[0].Found}})
	} else if err != nil {
		return out, false, err
	}
	return stale(out, a, seen, differ)
}

// stale is the event of a result that differs.
func stale(out store.Rejudged, a *store.Approval, seen string, differ []approval.Difference) (store.Rejudged, bool, error) {
	out.Seen, out.Stale = seen, ""
	if len(differ) > 0 {
		raw, err := json.Marshal(differ)
		if err != nil {
			return out, false, err
		}
		out.Stale = string(raw)
	}
	return out, out.Seen != a.Seen || out.Stale != a.Stale, nil
}

// maxAtOnce is how many approvals are written in one transaction.
const maxAtOnce = 500

// RejudgeAll judges everything that is approved or in review by the present catalogue.
func RejudgeAll(ctx context.Context, st *store.Store) (changed int, err error) {
	changed, _, err = RejudgeSince(ctx, st, nil, nil)
	return changed, err
}

// RejudgeSince judges again what is approved or in review and rests on something that has changed since a moment of the catalogue, all
// of it without one; what was issued first. It returns the moment that it was judged at. What changes meanwhile keeps back what rests
// on it, and nothing else: that is for the next time. Tell, where it is not nil, gets the progress.
func RejudgeSince(ctx context.Context, st *store.Store, since *store.CatalogueVersion, tell func(done, of int)) (changed int,
	at store.CatalogueVersion,
	err error) {
	all, at, err := st.CatalogueAt(ctx)
	if err != nil {
		return 0, at, err
	}
	var w documents
	list, err := toJudge(ctx, st, all, since, &w)
	if err != nil {
		return 0, at, err
	}
	written := make(chan error, 1) // of the part before, while the next one is judged
	written <- nil
	read := readAhead(ctx, st, list)
	for done := 0; err == nil && done < len(list); done += maxAtOnce {
		var kept []store.Rejudged
		part := <-read()
		if err = part.err; err == nil {
			kept, err = rejudgePart(ctx, all, part.all, &w)
		}
		if before := <-written; err == nil {
			err = before
		}
		if err != nil {
			written <- nil
			break
		}
		go func() { written <- st.Rejudge(ctx, kept, at) }()
		if changed += len(kept); tell != nil {
			tell(done+len(part.all), len(list))
		}
	}
	return changed, at, errors.Join(err, <-written)
}

// toJudge lists what is approved or in review and rests on something that has changed since a moment; all of it without one. What
// was issued comes first.
func toJudge(ctx context.Context, st *store.Store, all *exchange.Contents, since *store.CatalogueVersion,
	w *documents) ([]store.Approval, error) {
	list, err := st.Approvals(ctx, approval.Approved, approval.InReview)
	if err != nil {
		return nil, err
	}
	if since != nil {
		moved, err := st.ChangedSince(ctx, *since)
		if err != nil {
			return nil, err
		}
		job := func(id string) *catalog.Job { return w.job(all, id) }
		list = slices.DeleteFunc(list, func(a store.Approval) bool {
			var s Subject
			return exchange.ReadInto([]byte(a.Subject), &s) == nil && !moved.Any(s.restsOn(job))
		})
	}
	issued, err := st.IssuedFrom(ctx)
	slices.SortStableFunc(list, func(a, b store.Approval) int {
		switch {
		case issued[a.ID] == issued[b.ID]:
			return 0
		case issued[a.ID]:
			return -1
		}
		return 1
	})
	return list, err
}

// results are some approvals and what they are judged to.
type results struct {
	all []store.Approval
	err error
}

// readAhead returns the next approvals at each call; they are read while those before are judged.
func readAhead(ctx context.Context, st *store.Store, list []store.Approval) func() <-chan results {
	read := func() <-chan results {
		out := make(chan results, 1)
		part := list[:min(maxAtOnce, len(list))]
		list = list[len(part):]
		if len(part) > 0 {
			go func() {
				all, err := st.ApprovalResults(ctx, part)
				out <- results{all, err}
			}()
		}
		return out
	}
	next := read()
	return func() (now <-chan results) {
		now, next = next, read()
		return now
	}
}

// rejudgePart judges some approvals and returns those with an event to store.
func rejudgePart(ctx context.Context, all *exchange.Contents, part []store.Approval, w *documents) (kept []store.Rejudged,
	err error) {
	found, faults := make([]*store.Rejudged, len(part)), make([]error, len(part))
	workers.Each(len(part), func(n int) {
		again, is, err := rejudge(ctx, all, &part[n], w)
		if faults[n] = err; is && err == nil {
			found[n] = &again
		}
	})
	for _, f := range found {
		if f != nil {
			kept = append(kept, *f)
		}
	}
	return kept, errors.Join(faults...)
}

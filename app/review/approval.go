package review

import (
	"context"
	"errors"
	"fmt"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/store"
	"strconv"
	"strings"
)

// ErrNoAccount is the error of a person without an account, which approvals need.
var ErrNoAccount = errors.New("who asks has no account")

// recorded is a person as an approval records them: with an account.
func recorded(p people.Person) (store.By, error) {
	if p.ID == 0 {
		return store.By{}, ErrNoAccount
	}
	return store.By{Person: p.ID, Name: p.Name, Most: p.Role}, nil
}

// tries is how often a judgement is repeated when the catalogue changes meanwhile.
const tries = 4

// onCatalogue runs a function on the present catalogue, and again when that changed meanwhile.
func onCatalogue(ctx context.Context, st *store.Store, do func(all *exchange.Contents, at store.CatalogueVersion) error) error {
	for n := 0; ; n++ {
		all, at, err := st.CatalogueAt(ctx)
		if err != nil {
			return err
		}
		if err = do(all, at); !errors.Is(err, store.ErrMoved) || n == tries {
			return err
		}
	}
}

// SubmitReview judges a subject by the present catalogue and sends it for review. What must not be installed or lacks a figure is
// refused.
func SubmitReview(ctx context.Context, st *store.Store, by people.Person, s Subject, text string) (out store.Approval, err error) {
	if err := by.May(rights.Submit, nil); err != nil {
		return out, err
	}
	who, err := recorded(by)
	if err != nil {
		return out, err
	}
	err = onCatalogue(ctx, st, func(all *exchange.Contents, at store.CatalogueVersion) error {
		var w documents
		f, err := w.source(all, s)
		if err != nil {
			return err
		}
		if err := f.photographs(ctx, st); err != nil {
			return err
		}
		l, j, err := f.familyKey(ctx)
		if err != nil {
			return err
		}
		if err := j.against(); err != nil {
			return err
		}
		a, err := w.approval(f, j)
		if err != nil {
			return err
		}
		a.Family = l.key
		sent, err := st.Submit(ctx, []store.Approval{a}, who, at, text)
		if err == nil {
			out = sent[0]
		}
		return err
	})
	return out, err
}

// approval is a judgement as a new approval, in review.
func (w *documents) approval(f *source, j *Judgement) (store.Approval, error) {
	document, fingerprint, err := w.of(f)
	return store.Approval{Subject: f.key(), Title: j.Title, Verdict: string(j.Verdict), Document: document, Fingerprint: fingerprint,
		Result: string(j.Result)}, err
}

// DecideReview approves, sends back or withdraws. Before approving, it judges again.
func DecideReview(ctx context.Context, st *store.Store, by people.Person, seen store.Seen, act approval.Act,
	text string) (out store.Approval,
	err error) {
	all, err := decideAll(ctx, st, by, []store.Seen{seen}, act, text)
	if err == nil {
		out = all[0]
	}
	return out, err
}

// ConfirmReviews confirms, all or none, that approvals which a backup gave back still hold.
func ConfirmReviews(ctx context.Context, st *store.Store, by people.Person, seen []store.Seen, text string) ([]store.Approval, error) {
	if len(seen) == 0 || len(seen) > maxFamily {
		return nil, exchange.Problems{{Path: "members", Found: fmt.Sprintf("are %d", len(seen)), Allowed: fmt.Sprintf("1 to %d", maxFamily)}}
	}
	return decideAll(ctx, st, by, seen, approval.Confirm, text)
}

// decideAll decides several approvals, all or none.
func decideAll(ctx context.Context, st *store.Store, by people.Person, seen []store.Seen, act approval.Act,
	text string) (out []store.Approval,
	err error) {
	if err := by.May(rights.Act(act), nil); err != nil {
		return out, err
	}
	who, err := recorded(by)
	if err != nil {
		return out, err
	}
	if act == approval.SendBack && strings.TrimSpace(text) == "" {
		return out, exchange.Problems{{Path: "text", Found: "is missing", Allowed: "what has to be changed"}}
	}
	err = onCatalogue(ctx, st, func(all *exchange.Contents, at store.CatalogueVersion) error {
		if act == approval.Approve {
			if err := recheck(ctx, st, all, seen, at); err != nil {
				return err
			}
		}
		out, err = st.Decide(ctx, seen, act, who, at, text)
		return err
	})
	return out, err
}

// recheck judges an approval again before it is approved, and stores the new result where it differs from what was seen.
func recheck(ctx context.Context, st *store.Store, all *exchange.Contents, seen []store.Seen, at store.CatalogueVersion) error {
	var w documents
	var moved []store.Rejudged
	unseen := false
	for _, s := range seen {
		a, err := st.Approval(ctx, s.ID)
		if err != nil {
			return err
		}
		again, changed, err := rejudge(ctx, all, &a, &w)
		if err != nil {
			return err
		}
		if again.Broken || again.Stale != "" {
			moved = append(moved, again)
		} else if err := photographsOf(ctx, st, &a); err != nil {
			return err
		}
		unseen = unseen || changed // the same came out of other figures: who approves has not seen these
	}
	switch {
	case moved != nil:
		if err := st.Rejudge(ctx, moved, at); err != nil {
			return err
		}
		return store.ErrStale
	case unseen:
		return store.ErrVersion
	}
	return nil
}

// AddComment stores a comment on an approval, or on a finding or step of it.
func AddComment(ctx context.Context, st *store.Store, by people.Person, id int64, about, text string) error {
	if err := by.May(rights.Comment, nil); err != nil {
		return err
	}
	who, err := recorded(by)
	if err != nil {
		return err
	}
	if strings.TrimSpace(text) == "" {
		return exchange.Problems{{Path: "text", Found: "is missing", Allowed: "what is to be said"}}
	}
	if kind, of, _ := strings.Cut(about, ":"); about != "" && (kind != "rule" && kind != "step" || of == "") {
		return exchange.Problems{{Path: "about", Found: strconv.Quote(about),
			Allowed: "rule: and the name of a rule, or step: and the id of a step"}}
	}
	return st.Comment(ctx, id, who, about, text)
}

// May lists what a person may do with an approval that those accounts prepared, for the page to offer.
func May(by people.Person, a *store.Approval, preparers []int64) (acts []approval.Act) {
	for _, act := range []approval.Act{approval.Approve, approval.Confirm, approval.SendBack, approval.Withdraw} {
		if by.ID > 0 && by.May(rights.Act(act), a.Of(act, preparers)) == nil && a.Fits(act) == nil {
			acts = append(acts, act)
		}
	}
	return acts
}

// photographs refuses a job that shows a photograph which nobody has.
func (f *source) photographs(ctx context.Context, st *store.Store) error {
	if f.job == nil {
		return nil
	}
	for _, id := range exchange.Photographs(f.job) {
		raw, err := st.Photo(ctx, id)
		if err != nil {
			return err
		}
		if raw == nil {
			return exchange.Problems{{Path: "job", Found: "shows photograph " + id + ", which is nowhere", Allowed: "one that is attached again"}}
		}
	}
	return nil
}

// photographsOf is that of what is frozen.
func photographsOf(ctx context.Context, st *store.Store, a *store.Approval) error {
	f, err := readFrozen(a.Document)
	if err != nil {
		return err
	}
	return f.photographs(ctx, st)
}

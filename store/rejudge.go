package store

import (
	"context"
	"slices"

	"github.com/jmoiron/sqlx"

	"nexufix/core/approval"
)

// Rejudged is the outcome of judging an approval again.
type Rejudged struct {
	ID      int64
	Version int64
	Was     string // the fingerprint of what was judged before
	Seen    string // that of what the catalogue has
	Stale   string // differences as JSON; "": the result is the same
	Broken  bool   // its document has not its fingerprint: it is withdrawn
	RestsOn []Ref  // what it was judged by, besides the policy
}

// Ref names an item of the catalogue.
type Ref struct {
	Kind string `db:"kind"`
	ID   string `db:"id"`
}

// ChangedSince is what changed since a moment of the catalogue; all of it where the database was replaced.
type ChangedSince struct {
	All   bool
	items map[Ref]bool
}

// Any reports whether the policy is among it, or one of some items.
func (c *ChangedSince) Any(of []Ref) bool {
	return c.All || slices.ContainsFunc(of, func(r Ref) bool { return c.items[r] })
}

// ChangedSince lists what changed since a moment.
func (s *Store) ChangedSince(ctx context.Context, at CatalogueVersion) (*ChangedSince, error) {
	return at.since(ctx, s.db)
}

func (m CatalogueVersion) since(ctx context.Context, q sqlx.QueryerContext) (*ChangedSince, error) {
	var generation int64
	if err := sqlx.GetContext(ctx, q, &generation, `SELECT user_version FROM pragma_user_version`); err != nil {
		return nil, err
	}
	out := &ChangedSince{All: generation != m.Generation, items: map[Ref]bool{}}
	var all []Ref
	if err := sqlx.SelectContext(ctx, q, &all, `SELECT DISTINCT kind, id FROM revision WHERE seq > ?`, m.Latest); err != nil {
		return nil, err
	}
	for _, r := range all {
		out.items[r] = true
		out.All = out.All || r.Kind == "policy" || r.Kind == "use"
	}
	return out, nil
}

// Rejudge stores the outcomes of judging approvals again at a moment of the catalogue, but none of approvals that changed meanwhile,
// or of which something that they rest on did.
func (s *Store) Rejudge(ctx context.Context, all []Rejudged, at CatalogueVersion) error {
	if len(all) == 0 {
		return nil
	}
	return s.change(ctx, func(tx *sqlx.Tx) error {
		moved, err := at.since(ctx, tx)
		if err != nil {
			return err
		}
		set, err := tx.PrepareContext(ctx, `UPDATE approval SET seen = ?, stale = ?, state = iif(?, 'withdrawn', state), version = version + 1
			WHERE id = ? AND version = ?`)
		if err != nil {
			return err
		}
		defer set.Close()
		say, err := tx.PrepareNamedContext(ctx, putEvent)
		if err != nil {
			return err
		}
		defer say.Close()
		for _, r := range all {
			if moved.Any(r.RestsOn) {
				continue
			}
			did, err := set.ExecContext(ctx, r.Seen, r.Stale, r.Broken, r.ID, r.Version)
			if err != nil {
				return err
			}
			if n, err := did.RowsAffected(); err != nil || n == 0 {
				if err != nil {
					return err
				}
				continue
			}
			what, text := "judged again: the same", approval.Short(r.Was)+" to "+approval.Short(r.Seen)
			switch {
			case r.Broken:
				what, text = "withdrawn: its fingerprint is not that of its document", ""
			case r.Stale != "":
				what = "judged again: another result"
			}
			if _, err := say.ExecContext(ctx, By{Name: "Nexufix"}.event(r.ID, what, "", text)); err != nil {
				return err
			}
		}
		return nil
	})
}

package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// YoungestThinned is the least age of what is thinned: a quarter of a year.
const YoungestThinned = 90 * 24 * time.Hour

// thinnedAtOnce is how many revisions are thinned in one transaction, between which others write.
const thinnedAtOnce = 2000

// Thin empties the documents of revisions from before a time, and reports of how many. It keeps those of the first revision of an item,
// its two latest (the last change can be undone) and the last of each month, and of all revisions who made them, when and why. Approvals,
// what was issued, and the audit keep documents of their own: nothing of them is lost.
func (s *Store) Thin(ctx context.Context, before time.Time, by AuditEntry) (thinned int64, err error) {
	for done := false; !done; {
		err = s.change(ctx, func(tx *sqlx.Tx) error {
			r, err := tx.ExecContext(ctx, `UPDATE revision SET doc = '' WHERE seq IN (SELECT r.seq FROM revision r
				WHERE r.doc <> '' AND r.at < ? AND r.number > 1
				AND r.number < (SELECT max(number) FROM revision WHERE kind = r.kind AND id = r.id) - 1
				AND EXISTS (SELECT 1 FROM revision later WHERE later.kind = r.kind AND later.id = r.id AND later.number > r.number
					AND substr(later.at, 1, 7) = substr(r.at, 1, 7))
				ORDER BY r.seq LIMIT ?)`, Stamp(before), thinnedAtOnce)
			if err != nil {
				return err
			}
			n, err := r.RowsAffected()
			thinned += n
			if done = n < thinnedAtOnce; done && err == nil && thinned > 0 {
				err = addAudit(ctx, tx, by)
			}
			return err
		})
		if err != nil {
			return thinned, err
		}
	}
	return thinned, nil
}

// Thinned reports whether the document of a revision was emptied by [Store.Thin].
func (r *Revision) Thinned() bool { return r.Doc.Valid && r.Doc.String == "" }

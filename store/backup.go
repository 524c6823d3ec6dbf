package store

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"

	"github.com/jmoiron/sqlx"
)

// Check checks the database with SQLite's own integrity check and by
// reading the catalogue.
func (s *Store) Check(ctx context.Context) error {
	var said []string
	if err := s.db.SelectContext(ctx, &said, `PRAGMA integrity_check(3)`); err != nil {
		return err
	}
	if len(said) != 1 || said[0] != "ok" {
		return fmt.Errorf("the database is damaged: %v", said)
	}
	_, err := s.Catalogue(ctx)
	return err
}

// Backup writes the whole database with its history into a new file, as it
// is at one moment, while others go on working. The file is renamed to its name after it
// has been read back; a backup that fails leaves no file.
func (s *Store) Backup(ctx context.Context, file string) (err error) {
	exists := fmt.Errorf("%s is there already; choose another name", file)
	if _, err := os.Lstat(file); err == nil {
		return exists
	}
	part := filepath.Join(filepath.Dir(file), "."+filepath.Base(file)+".part")
	removeAll(part) // left by a backup that was killed
	defer removeAll(part)
	// It has everybody's sessions and the hashes of their passwords: nobody else reads it. SQLite writes into an empty file.
	made, err := os.OpenFile(part, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	if err := made.Close(); err != nil {
		return err
	}
	if _, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, part); err != nil {
		return err
	}
	if err := s.readBackup(ctx, part); err != nil {
		return fmt.Errorf("the backup cannot be used: %w", err)
	}
	err = place(part, file)
	if errors.Is(err, os.ErrExist) {
		return exists
	}
	return err
}

// readBackup reads a backup of this database.
func (s *Store) readBackup(ctx context.Context, file string) error {
	backup, err := Open(ctx, file)
	if err != nil {
		return err
	}
	err = backup.Check(ctx)
	var now, then int64
	if err == nil {
		err = errors.Join(s.db.GetContext(ctx, &now, latestRevision), backup.db.GetContext(ctx, &then, latestRevision))
	}
	if err == nil && then > now {
		err = fmt.Errorf("it has revision %d, the database %d", then, now)
	}
	return errors.Join(err, backup.Close())
}

// tables in an order that satisfies their foreign keys.
var tables = []string{"batch", "item", "revision", "column_meaning", "pairing", "photo", "tick"}

// RestoreFrom replaces everything by the contents of a backup, in one
// transaction. The backup is inspected and checked first, and a copy of it is migrated to the
// current schema.
//
// Accounts stay as they are, so that a backup does not give back a right that an administrator
// has taken away. Approvals in the database stay as they are, whatever the backup has: each
// contains all that was judged, and is judged again on the restored catalogue. Sessions end; neither they nor tokens are ever restored.
//
// On a new machine without accounts, the people, the audit and the approvals are restored too. What happened after the backup is not
// known there: nobody may sign in until they are enabled again, approvals are to be confirmed, and numbers go on in a new series.
func (s *Store) RestoreFrom(ctx context.Context, file string) (err error) {
	if s.writeLock == nil {
		return ErrReadOnly
	}
	if err := Inspect(ctx, file); err != nil {
		return err
	}
	copied, err := os.CreateTemp("", "nexufix-restore-*.db")
	if err != nil {
		return err
	}
	name := copied.Name()
	defer removeAll(name)
	if err := copyFile(copied, file); err != nil {
		return err
	}
	backup, err := Open(ctx, name)
	if err != nil {
		return fmt.Errorf("%s cannot be used: %w", filepath.Base(file), err)
	}
	err = errors.Join(backup.Check(ctx), backup.Close())
	if err != nil {
		return fmt.Errorf("%s cannot be used: %w", filepath.Base(file), err)
	}
	select {
	case s.writeLock <- struct{}{}:
		defer func() { <-s.writeLock }()
	case <-ctx.Done():
		return ctx.Err()
	}
	if err := s.may(); err != nil {
		return err
	}
	c, err := s.db.Connx(ctx)
	if err != nil {
		return err
	}
	defer c.Close()
	if _, err := c.ExecContext(ctx, `ATTACH ? AS backup`, name); err != nil {
		return err
	}
	defer func() {
		_, detached := c.ExecContext(context.WithoutCancel(ctx), `DETACH backup`)
		err = errors.Join(err, detached)
	}()
	tx, err := c.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	err = replaceAll(ctx, tx, filepath.Base(file))
	if err == nil {
		err = addAudit(ctx, tx, AuditEntry{Who: "the command line", What: "backup restored", About: filepath.Base(file)})
	}
	if err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

func replaceAll(ctx context.Context, tx *sqlx.Tx, file string) error {
	if _, err := tx.ExecContext(ctx, `PRAGMA defer_foreign_keys = 1`); err != nil {
		return err
	}
	for i := len(tables) - 1; i >= 0; i-- {
		if _, err := tx.ExecContext(ctx, `DELETE FROM main.`+tables[i]); err != nil {
			return err
		}
	}
	var generation int64 // tells readers that the whole database was replaced
	if err := tx.GetContext(ctx, &generation, `PRAGMA main.user_version`); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, fmt.Sprintf(`PRAGMA main.user_version = %d`, generation+1)); err != nil {
		return err
	}
	var anybody bool
	if err := tx.GetContext(ctx, &anybody, `SELECT EXISTS (SELECT 1 FROM main.person) OR EXISTS (SELECT 1 FROM main.audit)`); err != nil {
		return err
	}
	filled := tables
	if !anybody {
		filled = slices.Concat(tables, []string{"person", "audit", "approval", "approval_event", "issued", "letter", "restored", "signing_key"})
	}
	// Approvals are inserted in any state, which only a restore may do.
	var begins string
	if err := tx.GetContext(ctx, &begins, `SELECT sql FROM main.sqlite_schema WHERE name = 'approval_begins'`); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `DROP TRIGGER main.approval_begins`); err != nil {
		return err
	}
	for _, t := range filled {
		// A public key may be here already, when the private one was brought first.
		if _, err := tx.ExecContext(ctx, `INSERT INTO main.`+t+` SELECT * FROM backup.`+t+map[bool]string{
			true: ` WHERE id NOT IN (SELECT id FROM main.signing_key)`}[t == "signing_key"]); err != nil {
			return err
		}
	}
	if _, err := tx.ExecContext(ctx, begins); err != nil {
		return err
	}
	if !anybody {
		// Who was disabled since is not known.
		if _, err := tx.ExecContext(ctx, `UPDATE main.person SET disabled = 1, epoch = epoch + 1`); err != nil {
			return err
		}
		if err := doubtAll(ctx, tx, file, "restored from a backup"); err != nil {
			return err
		}
	}
	_, err := tx.ExecContext(ctx, `DELETE FROM main.session`)
	return err
}

// doubtAll marks what may have ended since the state that was given back: approvals. Numbers go on in a new series, with a name of its own,
// since the same state may be given back twice.
func doubtAll(ctx context.Context, tx *sqlx.Tx, file, what string) error {
	at := now()
	for _, do := range []struct {
		query string
		args  []any
	}{
		{`INSERT INTO main.approval_event (approval, at, person, who, what, about, text)
			SELECT id, ?, 0, 'Nexufix', ?, '', '' FROM main.approval WHERE state = 'approved' ORDER BY id`, []any{at, what}},
		{`UPDATE main.approval SET restored = ?, version = version + 1 WHERE state = 'approved'`, []any{at}},
		{`INSERT INTO main.restored (at, file, series) VALUES (?, ?, ?)`, []any{at, file, rand.Text()[:4]}},
	} {
		if _, err := tx.ExecContext(ctx, do.query, do.args...); err != nil {
			return err
		}
	}
	return nil
}

// Promote marks a copy of another server's database as the one that is written from now on. What happened there after the copy's last
// change, of which it says the time, is not known: approvals are to be confirmed, numbers go on in a new series, and sessions end.
// Accounts stay as they are.
func (s *Store) Promote(ctx context.Context, by AuditEntry) (last string, err error) {
	err = s.change(ctx, func(tx *sqlx.Tx) error {
		if err := tx.GetContext(ctx, &last, `SELECT max(coalesce((SELECT max(at) FROM audit), ''), coalesce((SELECT max(at) FROM revision), ''),
			coalesce((SELECT max(at) FROM approval_event), ''))`); err != nil {
			return err
		}
		if err := doubtAll(ctx, tx, "another server's, as of "+last, "taken over by another server"); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM session`); err != nil {
			return err
		}
		return addAudit(ctx, tx, by)
	})
	return last, err
}

// LastRestored is when the database was last restored onto a machine without accounts; "" where it never was.
func (s *Store) LastRestored(ctx context.Context) (at string, err error) {
	return at, s.db.GetContext(ctx, &at, `SELECT coalesce(max(at), '') FROM restored`)
}

func copyFile(to *os.File, file string) error {
	from, err := os.Open(file)
	if err != nil {
		return errors.Join(err, to.Close())
	}
	defer from.Close()
	_, err = io.Copy(to, from)
	return errors.Join(err, to.Close())
}

package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
)

// Readiness is what a store can do at the moment. A nil error means that it can.
type Readiness struct {
	Catalogue error // it can be read
	Database  error // its pages are whole
	Writing   error // a change can be written
	Disk      error // there is room for more
	Aside     int   // documents that cannot be read
}

// Err joins its errors, nil if it is ready.
func (r Readiness) Err() error { return errors.Join(r.Catalogue, r.Database, r.Writing, r.Disk) }

// minRoom is the least free room on the disk, in bytes.
const minRoom = 32 << 20

// Ready tries everything that a store must be able to do. It changes nothing.
func (s *Store) Ready(ctx context.Context) Readiness {
	var r Readiness
	all, err := s.Unreadable(ctx)
	r.Catalogue, r.Aside = err, len(all)
	for i := range all {
		if all[i].Damaged {
			r.Database = fmt.Errorf("the page of %s %s is damaged", all[i].Kind, all[i].ID)
		}
	}
	if err := s.tables(ctx); err != nil && r.Database == nil {
		r.Database = err
	}
	r.Writing = s.writes(ctx)
	if s.writeLock != nil {
		r.Disk = room(filepath.Dir(s.file))
	}
	return r
}

// tables reads the first page of every table, and the first row.
func (s *Store) tables(ctx context.Context) error {
	var names []string
	if err := s.db.SelectContext(ctx, &names, `SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`); err != nil {
		return errors.New("the list of its tables cannot be read")
	}
	for _, name := range names {
		rows, err := s.db.QueryxContext(ctx, `SELECT * FROM "`+name+`" NOT INDEXED LIMIT 1`)
		if err == nil {
			rows.Next()
			err = errors.Join(rows.Err(), rows.Close())
		}
		if Damaged(err) {
			return fmt.Errorf("a page of the table %s is damaged", name)
		}
		if err != nil {
			return fmt.Errorf("the table %s cannot be read", name)
		}
	}
	return nil
}

// writes tries a change and rolls it back; if the last change could not be written,
// it commits one that changes nothing, to reach the disk. While somebody is
// writing, that is proof enough.
func (s *Store) writes(ctx context.Context) error {
	if s.writeLock == nil {
		return nil // it is read-only
	}
	select {
	case s.writeLock <- struct{}{}:
		defer func() { <-s.writeLock }()
	default:
		return nil
	}
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	large := strings.Repeat("x", 64<<10) // a change of some size
	if _, err = tx.ExecContext(ctx, `INSERT INTO column_meaning (kind, head, field) VALUES ('ready', 'ready', ?)`, large); err != nil ||
		!s.unwritten.Load() {
		return errors.Join(err, tx.Rollback())
	}
	if _, err = tx.ExecContext(ctx, `DELETE FROM column_meaning WHERE kind = 'ready'`); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	err = tx.Commit()
	s.recordUnwritten(err)
	return err
}

// room returns an error unless a file can be written to a folder, whose disk has room for more.
func room(dir string) error {
	free, err := freeIn(dir)
	if err != nil {
		return errors.New("the folder of the database cannot be reached")
	}
	if free < minRoom {
		return fmt.Errorf("the disk has %d MB left", free>>20)
	}
	f, err := os.CreateTemp(dir, ".nexufix-ready-*")
	if err == nil {
		_, err = f.WriteString("ready")
		err = errors.Join(err, f.Sync(), f.Close(), os.Remove(f.Name()))
	}
	if err != nil { // without the folder's name, which the public page must not show
		return errors.New("no file can be written where the database is")
	}
	return nil
}

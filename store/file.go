package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"

	"github.com/jmoiron/sqlx"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Unusable is a file that is not a database of this program. It was
// not changed.
type Unusable struct {
	File string // its name
	Why  string // what it is
}

// Error says what the file is.
func (u *Unusable) Error() string { return fmt.Sprintf("%s %s", u.File, u.Why) }

// Damaged reports whether an error is one of damaged pages.
func Damaged(err error) bool {
	var e *sqlite.Error
	return errors.As(err, &e) && (e.Code()&0xff == sqlite3.SQLITE_CORRUPT || e.Code()&0xff == sqlite3.SQLITE_NOTADB)
}

// SetAside renames a database with its journal files, so that another
// can take its place. It must not be open.
func SetAside(file, as string) error {
	if _, err := os.Lstat(as); err == nil {
		return fmt.Errorf("%s is there already", as)
	}
	for _, end := range []string{"-wal", "-shm", ""} {
		if err := os.Rename(file+end, as+end); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// busy reports whether another program holds the database.
func busy(err error) bool {
	var e *sqlite.Error
	return errors.As(err, &e) && (e.Code()&0xff == sqlite3.SQLITE_BUSY || e.Code()&0xff == sqlite3.SQLITE_LOCKED)
}

// Unwritten reports whether a change, or a file, could not be written to the disk: it is
// full, takes nothing, or writing fails.
func Unwritten(err error) bool {
	for _, no := range []error{syscall.ENOSPC, syscall.EDQUOT, syscall.EROFS, syscall.EIO} {
		if errors.Is(err, no) {
			return true
		}
	}
	var e *sqlite.Error
	return errors.As(err, &e) && slices.Contains([]int{sqlite3.SQLITE_FULL, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_READONLY}, e.Code()&0xff)
}

// Inspect reports whether a file is a database of this program that can be
// opened, and not of a newer version. It only reads.
func Inspect(ctx context.Context, file string) error {
	fresh, err := inspect(ctx, file)
	if err == nil && fresh {
		return &Unusable{filepath.Base(file), "is a database without anything in it."}
	}
	return err
}

// sqliteHeader begins every SQLite database.
const sqliteHeader = "SQLite format 3\x00"

// inspect is [Inspect]; fresh means that the file has no tables yet.
func inspect(ctx context.Context, file string) (fresh bool, err error) {
	name := filepath.Base(file)
	f, err := os.Open(file)
	if err != nil {
		return false, err
	}
	head := make([]byte, len(sqliteHeader))
	n, readErr := io.ReadFull(f, head)
	if err := f.Close(); err != nil {
		return false, err
	}
	switch {
	case n == 0 && errors.Is(readErr, io.EOF):
		return false, &Unusable{name, "is empty: there is no database in it. Restore a backup, or take it away to begin anew."}
	case readErr != nil && !errors.Is(readErr, io.ErrUnexpectedEOF):
		return false, readErr
	case string(head[:n]) != sqliteHeader:
		return false, &Unusable{name, fmt.Sprintf("is no database: it begins with %q.", head[:n])}
	}
	settings := []string{"mode=ro", "_pragma=busy_timeout(5000)"}
	if wal, err := os.Stat(file + "-wal"); err != nil || wal.Size() == 0 {
		settings = append(settings, "immutable=1") // nobody writes: SQLite creates no files beside it
	}
	db, err := sqlx.Open("sqlite", dsn(file, settings...))
	if err != nil {
		return false, err
	}
	defer db.Close()
	fresh, err = identify(ctx, db, name)
	if Damaged(err) {
		return false, &Unusable{name, "is damaged: " + err.Error() + ". Restore a backup."}
	}
	return fresh, err
}

// identify recognises an open database by its tables.
func identify(ctx context.Context, db *sqlx.DB, name string) (fresh bool, err error) {
	var have []string
	if err := db.SelectContext(ctx, &have,
		`SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`); err != nil {
		return false, err
	}
	if len(have) == 0 {
		return true, nil
	}
	var version int64
	err = db.GetContext(ctx, &version, `SELECT coalesce(max(version_id), -1) FROM goose_db_version WHERE is_applied`)
	switch {
	case err != nil && Damaged(err):
		return false, err
	case err != nil:
		return false, &Unusable{name, "is the database of another program. It has the tables " + strings.Join(have[:min(len(have), 6)], ", ") +
			"."}
	}
	latest, err := latestSchema()
	if err != nil {
		return false, err
	}
	if version > latest {
		return false, &Unusable{name,
			fmt.Sprintf("was written by a newer version of this program: its schema is %d, this one knows up to %d. Take the newer program.",
				version, latest)}
	}
	ours := map[string]bool{"display": true, "item": true} // of the first schema, and of later ones
	for _, t := range have {
		if ours[t] {
			return false, nil
		}
	}
	if version <= 0 {
		return true, nil // killed before its first table
	}
	return false, &Unusable{name, "is the database of another program. It has the tables " + strings.Join(have[:min(len(have), 6)], ", ") +
		"."}
}

// create makes a new database under another name and renames it when it is
// complete, so that a program that is killed meanwhile leaves no partial one.
func create(ctx context.Context, file string) error {
	made, err := os.CreateTemp(filepath.Dir(file), ".nexufix-new-*.db")
	if err != nil {
		return err
	}
	name := made.Name()
	defer removeAll(name)
	if err := made.Close(); err != nil {
		return err
	}
	db, err := sql.Open("sqlite", dsn(name, "_pragma=synchronous(FULL)"))
	if err != nil {
		return err
	}
	if err := errors.Join(migrate(ctx, db), db.Close()); err != nil {
		return err
	}
	return place(name, file)
}

// place renames a complete file, unless the name is taken.
func place(from, to string) error {
	if err := os.Link(from, to); err == nil || errors.Is(err, os.ErrExist) {
		return err
	}
	if _, err := os.Stat(to); err == nil { // no hard links here
		return &os.PathError{Op: "write", Path: to, Err: os.ErrExist}
	}
	return os.Rename(from, to)
}

// removeAll deletes a database with its journal files.
func removeAll(name string) {
	for _, end := range []string{"", "-wal", "-shm", "-journal"} {
		_ = os.Remove(name + end) // most of them do not exist
	}
}

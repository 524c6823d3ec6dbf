// Package store keeps the catalogue, saved pairings, approvals, people and the audit in one SQLite
// file.
//
// Displays, brackets, the policy and jobs are rows of one table of items, each with its document in the
// exchange format, which loses nothing. Every change adds a revision with who, when and
// why; changes made together are a batch, which can be undone as a whole. A change names the revision it
// was made from, and is refused with a [Conflict] if that is not the latest.
//
// Every change is one transaction, and what it has written is read back by the strict reader before it
// is committed: what is written can be read. A document that cannot be read, because another program
// wrote it, is left out and reported ([Unreadable]). The schema is in migrations, which only go forward.
// Rules are in core, search is in app/search.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver "sqlite"

	"nexufix/exchange"
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrNotFound is returned for an id that does not exist.
var ErrNotFound = errors.New("not found")

// ErrElsewhere is the error of a change where another machine writes.
var ErrElsewhere = errors.New("changes are made elsewhere")

// ErrMoved is returned for a change worked out from a catalogue that somebody has
// changed since.
var ErrMoved = errors.New("the catalogue was changed meanwhile")

// ErrBusy is returned for a change when another program held the database for
// too long.
var ErrBusy = errors.New("the database is busy")

// ErrReadOnly is returned for a change to a database that was opened read-only.
var ErrReadOnly = errors.New("the database is open for reading only")

// Store is an open database. It is safe for concurrent use.
type Store struct {
	db        *sqlx.DB
	file      string
	writeLock chan struct{} // held by the writer: one at a time, in the order they came; nil: read-only

	unwritten atomic.Bool // the last change could not be written

	// May says why nothing may be written here, as another machine writes; nil: it may. It is set before the store is used.
	May func() error

	mu         sync.Mutex
	watch      *sql.Conn          // sees when this or another program has changed the file
	version    string             // of the file when the catalogue was read
	state      state              // of the database at that time
	catalogue  *exchange.Contents // read once, dropped by every change
	latestRead *exchange.Contents // the same, saved
	unreadable []Unreadable       // the items that could not be read then
	rows       rows               // as last read
	documents                     // as written since
}

// maxPages is how large a database may become, in pages of 4 kB: SQLite's own
// limit. Tests lower it to simulate a full disk.
var maxPages = 4294967294

// busyTimeout is how long a change waits for other programs.
var busyTimeout = 5 * time.Second

// dsn returns the address of a database file with settings, each name=value.
func dsn(file string, settings ...string) string {
	q := url.Values{}
	for _, s := range settings {
		name, value, _ := strings.Cut(s, "=")
		q.Add(name, value)
	}
	u := url.URL{Scheme: "file", OmitHost: true, Path: file, RawQuery: q.Encode()}
	return u.String()
}

// Open opens the database file, creating it if there is none, and migrates it to
// the current schema. For a file that is not a database of this program, or of a
// newer version, the error is an [Unusable]; the file is not changed.
func Open(ctx context.Context, file string) (*Store, error) {
	if _, err := os.Stat(file); errors.Is(err, os.ErrNotExist) {
		if err := create(ctx, file); err != nil && !errors.Is(err, os.ErrExist) { // another program created it first
			return nil, fmt.Errorf("%s: %w", file, err)
		}
	}
	if _, err := inspect(ctx, file); err != nil {
		return nil, err
	}
	db, err := sqlx.Open("sqlite", dsn(file, "_pragma=journal_mode(WAL)", "_pragma=foreign_keys(1)",
		fmt.Sprintf("_pragma=busy_timeout(%d)", busyTimeout.Milliseconds()), "_pragma=synchronous(FULL)", logPragma,
		fmt.Sprintf("_pragma=max_page_count(%d)",
			maxPages), "_txlock=immediate"))
	if err != nil {
		return nil, err
	}
	if err := migrate(ctx, db.DB); err != nil {
		return nil, errors.Join(fmt.Errorf("%s: %w", file, err), db.Close())
	}
	watch, err := db.Conn(ctx)
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	return &Store{writeLock: make(chan struct{}, 1), db: db, file: file, watch: watch, documents: noDocuments()}, nil
}

// OpenReadOnly opens a database that another server writes, or that is replicated
// from elsewhere. Nothing of it is changed; its schema must be the current
// one.
func OpenReadOnly(ctx context.Context, file string) (*Store, error) {
	if err := Inspect(ctx, file); err != nil {
		return nil, err
	}
	db, err := sqlx.Open("sqlite",
		dsn(file, "mode=ro", "_pragma=query_only(1)", fmt.Sprintf("_pragma=busy_timeout(%d)", busyTimeout.Milliseconds())))
	if err != nil {
		return nil, err
	}
	var version int64
	latest, err := latestSchema()
	if err == nil {
		err = db.GetContext(ctx, &version, `SELECT max(version_id) FROM goose_db_version WHERE is_applied`)
	}
	if err == nil && version < latest {
		err = &Unusable{filepath.Base(file),
			fmt.Sprintf("is of an older version of this program: its schema is %d, this one's %d. Start the server that writes it first.", version,
				latest)}
	}
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	db.SetMaxIdleConns(0) // each query opens the file again, whoever has written it
	return &Store{db: db, file: file, documents: noDocuments()}, nil
}

func migrate(ctx context.Context, db *sql.DB) error {
	p, err := provider(db)
	if err == nil {
		_, err = p.Up(ctx)
	}
	return err
}

// provider brings a database from one migration to another.
func provider(db *sql.DB) (*goose.Provider, error) {
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectSQLite3, db, dir)
}

// latestSchema is the number of the latest migration.
func latestSchema() (int64, error) {
	entries, err := migrations.ReadDir("migrations")
	if err != nil {
		return 0, err
	}
	var latest int64
	for _, e := range entries {
		number, err := goose.NumericComponent(e.Name())
		if err != nil {
			return 0, err
		}
		latest = max(latest, number)
	}
	return latest, nil
}

// Close closes the database.
func (s *Store) Close() error {
	if s.watch != nil {
		return errors.Join(s.watch.Close(), s.db.Close())
	}
	return s.db.Close()
}

// OnlyReads reports whether nothing is written, since another server writes.
func (s *Store) OnlyReads() bool { return s.writeLock == nil }

// change runs a transaction and drops the cached catalogue. Changes wait
// for each other in this process, and for other programs up to
// busyTimeout.
func (s *Store) change(ctx context.Context, do func(*sqlx.Tx) error) error {
	if s.writeLock == nil {
		return ErrReadOnly
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
	tx, err := s.db.BeginTxx(ctx, nil)
	if busy(err) {
		return ErrBusy
	}
	if err != nil {
		return err
	}
	if err = do(tx); err != nil {
		s.recordUnwritten(err)
		return errors.Join(err, tx.Rollback())
	}
	err = tx.Commit()
	if err == nil {
		err = s.may() // what is written here after another took over is not acknowledged
	}
	s.recordUnwritten(err)
	s.mu.Lock()
	s.catalogue = nil
	s.mu.Unlock()
	return err
}

// may reports why nothing may be written here, as an [ErrElsewhere].
func (s *Store) may() error {
	if s.May == nil {
		return nil
	}
	if err := s.May(); err != nil {
		return fmt.Errorf("%w: %w", ErrElsewhere, err)
	}
	return nil
}

// recordUnwritten records whether the last change could be written.
func (s *Store) recordUnwritten(err error) {
	switch {
	case Unwritten(err):
		s.unwritten.Store(true)
	case err == nil:
		s.unwritten.Store(false)
	}
}

// logPragma keeps the log at 64 MB at the most, once what was written is in the file: a large import lets it grow.
const logPragma = "_pragma=journal_size_limit(67108864)"

// clock is replaced by tests.
var clock = time.Now

func now() string { return Stamp(clock()) }

// Stamp is a time as it is stored: of a fixed width, so that texts compare as times do. (time.RFC3339Nano leaves zeros out at the end, by
// which half a second comes before its beginning.) Those of before may be shorter; a second's difference is right with them too.
func Stamp(at time.Time) string { return at.UTC().Format("2006-01-02T15:04:05.000000000Z") }

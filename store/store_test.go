package store

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

func open(t *testing.T) (*Store, string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "a folder with spaces & marks?", "nexufix.db")
	if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
		t.Fatal(err)
	}
	s, err := Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s, file
}

func contents(t *testing.T, raw string) *exchange.Contents {
	t.Helper()
	c, err := exchange.Read([]byte(raw))
	if err != nil {
		t.Fatal(err)
	}
	return c
}

var me = Author{Who: "Ada", Why: "for a test", Policy: true}

const bracket = `{"id":"b","name":"B","kind":"fixed","threads":["M6"],"plate_thickness_mm":2,"interface":{"type":"plate",
	"patterns_mm":[[100,100]],"center_below_hook_mm":5}}`

func catalogue(t *testing.T, model string) *exchange.Contents {
	return contents(t, `{"format":"nexufix/1","displays":[{"id":"d","model":"`+model+`"},{"id":"e","model":"E",
		"origins":{"model":"bench"}}],"brackets":[`+bracket+`]}`)
}

func TestPragmas(t *testing.T) {
	s, _ := open(t)
	for pragma, want := range map[string]string{"journal_mode": "wal", "foreign_keys": "1", "busy_timeout": "5000",
		"synchronous": "2", "journal_size_limit": "67108864"} {
		var got string
		if err := s.db.Get(&got, "PRAGMA "+pragma); err != nil || got != want {
			t.Errorf("%s is %q, %v", pragma, got, err)
		}
	}
}

func TestImportCounts(t *testing.T) {
	s, file := open(t)
	for i, c := range []struct {
		model string
		want  Imported
	}{{"One", Imported{New: 3}}, {"One", Imported{Same: 3}}, {"Two", Imported{Changed: 1, Same: 2}}} {
		if n, err := s.Import(t.Context(), me, "test", catalogue(t, c.model), nil, nil); err != nil || n.New != c.want.New ||
			n.Changed != c.want.Changed || n.Same != c.want.Same || n.Batch == 0 != (n.New+n.Changed == 0) {
			t.Errorf("%d: %+v, %v; want %+v", i, n, err, c.want)
		}
	}
	all, err := s.Catalogue(t.Context())
	if err != nil || all.Display("d").Model != "Two" || all.Bracket("b") == nil || len(all.Displays) != 2 {
		t.Fatal(all, err)
	}
	// What was acknowledged is in the file.
	s.Close()
	again, err := Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer again.Close()
	if all, err := again.Catalogue(t.Context()); err != nil || all.Display("d").Model != "Two" {
		t.Error(all, err)
	}
}

// TestImportIsAllOrNothing: a failure in the middle leaves nothing behind.
func TestImportIsAllOrNothing(t *testing.T) {
	s, _ := open(t)
	ctx, cancel := context.WithCancel(t.Context())
	c := catalogue(t, "One")
	cancel()
	if _, err := s.Import(ctx, me, "test", c, nil, nil); err == nil {
		t.Fatal("an import without time succeeded")
	}
	if _, err := s.db.Exec(`CREATE TRIGGER no_brackets BEFORE INSERT ON item WHEN NEW.kind = 'bracket'
		BEGIN SELECT RAISE(ABORT, 'the disk is full'); END`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Import(t.Context(), me, "test", c, nil, nil); err == nil {
		t.Fatal("the import succeeded")
	}
	var n int
	if err := s.db.Get(&n, `SELECT count(*) FROM item`); err != nil || n != 0 {
		t.Errorf("%d displays were left behind, %v", n, err)
	}
	if all, err := s.Catalogue(t.Context()); err != nil || len(all.Displays) != 0 {
		t.Error("the catalogue shows what was not taken")
	}
}

func TestPairings(t *testing.T) {
	s, _ := open(t)
	if _, err := s.Import(t.Context(), me, "test", catalogue(t, "One"), nil, nil); err != nil {
		t.Fatal(err)
	}
	row := Saved{Display: "d", Bracket: "b", Title: "One on B", Verdict: "fits", Request: "{}", Result: "{}"}
	none := &exchange.Contents{}
	id, err := s.SavePairing(t.Context(), "Ada", row, none)
	if err != nil {
		t.Fatal(err)
	}
	// A typed-in display goes into the catalogue with the pairing.
	typed := &exchange.Contents{Displays: []*catalog.Display{{ID: "typed", Model: "Typed"}}}
	second, err := s.SavePairing(t.Context(), "Ada", Saved{Display: "typed", Bracket: "b", Title: "Typed on B", Verdict: "missing_data",
		Request: "{}", Result: "{}"}, typed)
	if err != nil {
		t.Fatal(err)
	}
	if all, _ := s.Catalogue(t.Context()); all.Display("typed") == nil {
		t.Error("the typed-in display was not saved")
	}
	list, err := s.Pairings(t.Context())
	if err != nil || len(list) != 2 || list[0].ID != second || list[1].ID != id {
		t.Fatalf("%+v %v", list, err)
	}
	if err := s.Remove(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Pairing(t.Context(), id); !errors.Is(err, ErrNotFound) {
		t.Error(err)
	}
	for _, err := range []error{s.Remove(t.Context(), id), s.Remove(t.Context(), 999), s.Restore(t.Context(), second)} {
		if !errors.Is(err, ErrNotFound) {
			t.Errorf("%v, want not found", err)
		}
	}
	if err := s.Restore(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	if p, err := s.Pairing(t.Context(), id); err != nil || p.Title != "One on B" || p.SavedAt == "" {
		t.Error(p, err)
	}
}

// TestMany people at once: readers see whole imports only.
func TestManyAtOnce(t *testing.T) {
	s, _ := open(t)
	if _, err := s.Import(t.Context(), me, "test", catalogue(t, "Start"), nil, nil); err != nil {
		t.Fatal(err)
	}
	var all sync.WaitGroup
	for i := range 8 {
		all.Go(func() {
			for range 10 {
				if i%2 == 0 {
					if _, err := s.Import(t.Context(), me, "test", catalogue(t, string(rune('A'+i))), nil, nil); err != nil {
						t.Error(err)
					}
				} else if c, err := s.Catalogue(t.Context()); err != nil || len(c.Displays) != 2 || len(c.Brackets) != 1 {
					t.Error(c, err)
				}
			}
		})
	}
	all.Wait()
	var ok string
	if err := s.db.Get(&ok, `PRAGMA integrity_check`); err != nil || ok != "ok" {
		t.Error(ok, err)
	}
}

// TestMigrationKeepsWhatIsThere: a database of the first schema, with real
// rows, comes forward and loses nothing.
func TestMigrationKeepsWhatIsThere(t *testing.T) {
	file := filepath.Join(t.TempDir(), "nexufix.db")
	db, err := sql.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	p, err := provider(db)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := p.UpTo(t.Context(), 1); err != nil {
		t.Fatal(err)
	}
	for _, row := range []string{
		`INSERT INTO display VALUES ('d', 'M', 'N', '{"id":"d","maker":"M","model":"N"}', '2026-01-01')`,
		`INSERT INTO bracket VALUES ('b', 'B', '', '` + bracket + `', '2026-01-01')`,
		`INSERT INTO pairing (display_id, bracket_id, title, verdict, question, result, saved_at)
			VALUES ('d', 'b', 'N on B', 'fits', '{}', '{}', '2026-01-01')`,
	} {
		if _, err := db.Exec(row); err != nil {
			t.Fatal(err)
		}
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	s, err := Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	all, err := s.Catalogue(t.Context())
	if err != nil || all.Display("d") == nil || all.Bracket("b") == nil || all.Policy != nil {
		t.Error(all, err)
	}
	if list, err := s.Pairings(t.Context()); err != nil || len(list) != 1 || list[0].Title != "N on B" {
		t.Error(list, err)
	}
	if list, err := s.Policies(t.Context()); err != nil || len(list) != 0 {
		t.Error(list, err)
	}
}

func TestPolicyInUse(t *testing.T) {
	s, _ := open(t)
	deep := catalog.DefaultPolicy()
	deep.BoltSchool = "deep"
	if err := s.SavePolicy(t.Context(), me, "Deep", deep); err != nil {
		t.Fatal(err)
	}
	if err := s.SavePolicy(t.Context(), me, "Plain", catalog.DefaultPolicy()); err != nil {
		t.Fatal(err)
	}
	school := func() string {
		all, err := s.Catalogue(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		return all.PolicyOrDefault().BoltSchool
	}
	if err := s.UsePolicy(t.Context(), me, "Deep"); err != nil || school() != "deep" {
		t.Error(err, school())
	}
	if err := s.UsePolicy(t.Context(), me, "none"); !errors.Is(err, ErrNotFound) || school() != "deep" {
		t.Error(err, school())
	}
	if err := s.UsePolicy(t.Context(), me, ""); err != nil || school() != "balanced" {
		t.Error(err, school())
	}
}

// TestOtherWritesKeepTheCatalogue: what is written beside the catalogue (the audit, sessions) does not let it be read again; what another
// hand writes into it does.
func TestOtherWritesKeepTheCatalogue(t *testing.T) {
	s, _ := open(t)
	many(t, s, 3)
	whole := exported(t, s)
	if _, err := s.db.Exec(`DROP TRIGGER item_changed; UPDATE item SET doc = replace(doc, 'Pane', 'Pain')`); err != nil {
		t.Fatal(err) // what is not read again is not seen
	}
	if err := s.Note(t.Context(), AuditEntry{Who: "test", What: "exported"}); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(exported(t, s), whole) {
		t.Error("an entry of the audit lets the catalogue be read again")
	}
	if _, err := s.db.Exec(`DELETE FROM item WHERE id = 'd0'`); err != nil {
		t.Fatal(err)
	}
	if now := exported(t, s); bytes.Equal(now, whole) || bytes.Contains(now, []byte(`"d0"`)) {
		t.Error("another hand's change is not seen")
	}
}

// TestStampsCompare: times of any fraction of a second compare as texts as they do as times.
func TestStampsCompare(t *testing.T) {
	at := time.Date(2026, 12, 1, 7, 0, 0, 0, time.FixedZone("", 3600))
	fractions := []time.Duration{0, 1, 10, 250 * time.Millisecond, 500 * time.Millisecond, 500*time.Millisecond + 1, time.Second - 1,
		time.Second}
	for i, a := range fractions {
		for j, b := range fractions {
			if x, y := Stamp(at.Add(a)), Stamp(at.Add(b)); (x < y) != (i < j) {
				t.Errorf("%s and %s", x, y)
			}
			if again, err := time.Parse(time.RFC3339Nano, Stamp(at.Add(a))); err != nil || !again.Equal(at.Add(a)) {
				t.Errorf("%v, %v", again, err)
			}
		}
	}
}

package store

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

// many puts displays d0 … into a store, and gives them back as exported.
func many(t *testing.T, s *Store, n int) []byte {
	t.Helper()
	c := &exchange.Contents{}
	for i := range n {
		c.Displays = append(c.Displays, display(fmt.Sprintf("d%d", i), fmt.Sprintf("Pane %d %s", i, strings.Repeat("x", 90)), 500))
	}
	if _, err := s.Import(t.Context(), me, "test", c, nil, nil); err != nil {
		t.Fatal(err)
	}
	return exported(t, s)
}

// TestSetAside: a document that cannot be read is shown with its reason and its
// text, everything else goes on, and saving it anew puts it right.
func TestSetAside(t *testing.T) {
	s, _ := open(t)
	whole := many(t, s, 3)
	docs := map[string]string{
		"older":   `{"id":"older","colour":"red"}`,
		"nothing": `{"id":"nothing","mass_kg":0}`,
		"other":   `{"id":"another"}`,
		"two":     `{"id":"two"},{"id":"three"}`,
		"breaks":  `{"id":"breaks"}],"brackets":[{`,
		"text":    `this is a letter to the baker`,
	}
	for id, doc := range docs {
		if _, err := s.db.Exec(`INSERT INTO item VALUES ('display', ?, '', ?, 7)`, id, doc); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := s.db.Exec(`INSERT INTO item VALUES ('job', 'j', 'j', '{"id":"j"}', 1),
		('policy', 'P', 'P', '{"max_washers":99}', 1), ('use', 'policy', '', '"P"', 1)`); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(exported(t, s), whole) {
		t.Error("what can be read is not what it was")
	}
	aside, err := s.Unreadable(t.Context())
	if err != nil || len(aside) != len(docs)+2 {
		t.Fatalf("%+v %v", aside, err)
	}
	for _, u := range aside {
		if u.Why == "" || u.Doc == "" || u.Kind == "display" && (u.Doc != docs[u.ID] || u.Revision != 7) {
			t.Errorf("%+v", u)
		}
	}
	if n, err := keep(t, s, display("older", "Right", 400), 7); err != nil || n != 8 {
		t.Fatal(n, err)
	}
	if aside, err = s.Unreadable(t.Context()); err != nil || len(aside) != len(docs)+1 ||
		slices.ContainsFunc(aside, func(u Unreadable) bool { return u.ID == "older" }) {
		t.Errorf("%+v %v", aside, err)
	}
	file := filepath.Join(t.TempDir(), "b.db")
	if err := s.Backup(t.Context(), file); err != nil {
		t.Error("there is no backup of it any more:", err)
	}
}

// TestDamagedPage: of a file of which pages were overwritten what can be read is
// read, the rest is shown as the history has it; a backup is refused and leaves
// nothing.
func TestDamagedPage(t *testing.T) {
	s, file := open(t)
	many(t, s, 400)
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	const page, indexLeaf = 4096, 0x0a // SQLite's file format, 1.6
	hit := 0
	for at := page; at < len(raw); at += page {
		if p := raw[at : at+page]; p[0] == indexLeaf && bytes.Contains(p, []byte(`"id":"d1`)) && hit < 2 {
			copy(p, bytes.Repeat([]byte{0xff}, 600))
			hit++
		}
	}
	if hit == 0 {
		t.Fatal("no page of items was found")
	}
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	if s, err = Open(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	all, err := s.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	aside, err := s.Unreadable(t.Context())
	if err != nil || len(aside) == 0 || len(all.Displays)+len(aside) != 400 || len(all.Displays) < 300 {
		t.Fatalf("%d can be read, %d are set aside: %v", len(all.Displays), len(aside), err)
	}
	for _, u := range aside {
		if !strings.Contains(u.Doc, `"id":"`+u.ID+`"`) || !strings.Contains(u.Why, "damaged") {
			t.Errorf("%+v", u)
		}
	}
	if err := s.Ready(t.Context()).Database; err == nil {
		t.Error("it is ready all the same")
	}
	dir := t.TempDir()
	if err := s.Backup(t.Context(), filepath.Join(dir, "b.db")); err == nil {
		t.Error("a backup of it was written")
	}
	if left, _ := os.ReadDir(dir); len(left) > 0 {
		t.Errorf("the backup left %v", left)
	}
}

// TestUnusableFiles: a file that is no database of this program is neither
// opened nor restored nor changed, and the answer says what it is.
func TestUnusableFiles(t *testing.T) {
	write := func(name string, raw []byte) string {
		file := filepath.Join(t.TempDir(), name)
		if err := os.WriteFile(file, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		return file
	}
	database := func(name string, statements ...string) string {
		file := filepath.Join(t.TempDir(), name)
		db, err := sql.Open("sqlite", file)
		if err != nil {
			t.Fatal(err)
		}
		for _, x := range statements {
			if _, err := db.Exec(x); err != nil {
				t.Fatal(err)
			}
		}
		if err := db.Close(); err != nil {
			t.Fatal(err)
		}
		return file
	}
	own, ownFile := open(t)
	many(t, own, 50)
	if err := own.Close(); err != nil {
		t.Fatal(err)
	}
	raw, err := os.ReadFile(ownFile)
	if err != nil {
		t.Fatal(err)
	}
	newer := write("newer.db", raw)
	if db, err := sql.Open("sqlite", newer); err != nil {
		t.Fatal(err)
	} else if _, err = db.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1)`); errors.Join(err, db.Close()) != nil {
		t.Fatal(err)
	}
	scrambled := bytes.Clone(raw)
	copy(scrambled[100:], bytes.Repeat([]byte{0x5a}, 3000)) // the table of tables
	for name, c := range map[string]struct{ file, says string }{
		"empty":    {write("empty.db", nil), "empty"},
		"a letter": {write("letter.db", []byte("this is not a database, it is a letter to the baker")), "begins with"},
		"short":    {write("short.db", []byte("SQL")), "begins with"},
		"foreign":  {database("foreign.db", `CREATE TABLE recipe (bread TEXT)`), "another program"},
		"versioned": {database("versioned.db", `CREATE TABLE goose_db_version (id INTEGER PRIMARY KEY, version_id INTEGER, is_applied INTEGER)`,
			`INSERT INTO goose_db_version VALUES (1, 3, 1)`), "another program"},
		"newer":     {newer, "newer version"},
		"scrambled": {write("scrambled.db", scrambled), "damaged"},
	} {
		before, err := os.ReadFile(c.file)
		if err != nil {
			t.Fatal(err)
		}
		var u *Unusable
		if s, err := Open(t.Context(), c.file); !errors.As(err, &u) || !strings.Contains(u.Error(), c.says) {
			t.Errorf("%s was opened: %v", name, err)
			if err == nil {
				s.Close()
			}
		}
		s, _ := open(t)
		have := many(t, s, 3)
		if err := s.RestoreFrom(t.Context(), c.file); !errors.As(err, &u) || !strings.Contains(u.Error(), c.says) {
			t.Errorf("%s was restored: %v", name, err)
		}
		if !bytes.Equal(have, exported(t, s)) {
			t.Errorf("%s: restoring it changed something", name)
		}
		after, err := os.ReadFile(c.file)
		if err != nil || !bytes.Equal(before, after) {
			t.Errorf("%s was changed: %v", name, err)
		}
		if left, _ := os.ReadDir(filepath.Dir(c.file)); len(left) != 1 {
			t.Errorf("%s: %v stands beside it now", name, left)
		}
	}
	// Of a backup that is whole at its beginning and not at its end nothing is taken.
	s, _ := open(t)
	have := many(t, s, 3)
	if err := s.RestoreFrom(t.Context(), write("cut.db", raw[:len(raw)-2*4096])); err == nil || !bytes.Equal(have, exported(t, s)) {
		t.Error("half a backup was restored:", err)
	}
	if _, err := os.Stat(filepath.Join(t.TempDir(), "none.db")); err == nil {
		t.Error("a file that is not there was made")
	}
}

// TestBackupLeavesNothing: a backup that is stopped, or has no place to go.
func TestBackupLeavesNothing(t *testing.T) {
	s, _ := open(t)
	many(t, s, 50)
	dir := t.TempDir()
	stopped, stop := context.WithCancel(t.Context())
	stop()
	if err := s.Backup(stopped, filepath.Join(dir, "b.db")); err == nil {
		t.Error("it was written")
	}
	if err := s.Backup(t.Context(), filepath.Join(dir, "none", "b.db")); err == nil {
		t.Error("it was written into no folder")
	}
	if left, _ := os.ReadDir(dir); len(left) > 0 {
		t.Errorf("%v is left", left)
	}
	file := filepath.Join(dir, "b.db") // sessions and hashes are in it
	if err := s.Backup(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	if i, err := os.Stat(file); err != nil || i.Mode().Perm() != 0o600 {
		t.Errorf("others can read it: %v, %v", i.Mode(), err)
	}
}

// TestWrittenIsRead: what its own reader would refuse is not saved, whichever way
// it comes, and nothing else of the same change is either.
func TestWrittenIsRead(t *testing.T) {
	s, _ := open(t)
	have := many(t, s, 2)
	for name, i := range map[string]Item{
		"no mass":         {Kind: "display", ID: "x", Doc: `{"id":"x","mass_kg":0}`},
		"another's id":    {Kind: "display", ID: "x", Doc: `{"id":"y"}`},
		"a control":       {Kind: "job", ID: "x", Doc: `{"id":"x","display":"d0","bracket":"b","prints":[{"who":"A\u0007"}]}`},
		"an origin":       {Kind: "display", ID: "x", Doc: `{"id":"x","origins":{"mass_kg":"bench"}}`},
		"not JSON":        {Kind: "bracket", ID: "x", Doc: `{`},
		"a policy":        {Kind: "policy", ID: "x", Doc: `{"max_washers":99}`},
		"two in one":      {Kind: "display", ID: "x", Doc: `{"id":"x"},{"id":"z"}`},
		"an unknown kind": {Kind: "recipe", ID: "x", Doc: `{}`},
	} {
		if _, err := s.Save(t.Context(), me, i, 0); err == nil {
			t.Errorf("%s was saved", name)
		}
	}
	// Through every door: with a saved pairing, a merge, a restored revision, an undo.
	unwritable := &exchange.Contents{Displays: []*catalog.Display{{ID: "x", Mass: quantity.Some(quantity.Mass(400))}, {ID: "fine"}}}
	unwritable.Displays[0].Aliases = []string{strings.Repeat("a", 300)}
	if _, err := s.SavePairing(t.Context(), "Ada", Saved{Display: "x", Bracket: "b", Title: "x", Request: "{}", Result: "{}"},
		unwritable); err == nil {
		t.Error("a pairing brought it in")
	}
	if _, err := s.Import(t.Context(), me, "test", unwritable, nil, nil); err == nil {
		t.Error("an import brought it in")
	}
	basis, err := s.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if i, err := DisplayItem(unwritable.Displays[0]); err != nil {
		t.Fatal(err)
	} else if _, err := s.Merge(t.Context(), me, i, "d1", basis); err == nil {
		t.Error("a merge brought it in")
	}
	if _, err := s.db.Exec(`INSERT INTO revision (kind, id, number, doc, who, why, at)
		VALUES ('display', 'd0', 99, '{"id":"d0","mass_kg":0}', '', '', '')`); err != nil {
		t.Fatal(err)
	}
	var seq int64
	if err := s.db.Get(&seq, `SELECT max(seq) FROM revision`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.RestoreRevision(t.Context(), Author{Who: "Ada"}, seq); err == nil {
		t.Error("a restored revision brought it in")
	}
	for _, who := range []string{"A\u0007da", strings.Repeat("x", 81), "\xff"} {
		if _, err := s.Save(t.Context(), Author{Who: who}, Item{Kind: "display", ID: "n", Doc: `{"id":"n"}`}, 0); err == nil {
			t.Errorf("%q changed something", who)
		}
	}
	if !bytes.Equal(have, exported(t, s)) {
		t.Error("something was saved")
	}
	if list, err := s.Pairings(t.Context()); err != nil || len(list) > 0 {
		t.Error(list, err)
	}
}

// TestDamagedTables: whether a page of any table cannot be read is said, not only of the catalogue's.
func TestDamagedTables(t *testing.T) {
	s, file := open(t)
	many(t, s, 3)
	if err := s.Ready(t.Context()).Database; err != nil {
		t.Fatal(err)
	}
	var size int64
	roots := map[string]int64{}
	rows, err := s.db.Query(`SELECT name, rootpage FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	for rows.Next() {
		var name string
		var root int64
		if err := rows.Scan(&name, &root); err != nil {
			t.Fatal(err)
		}
		roots[name] = root
	}
	if err := errors.Join(rows.Err(), s.db.Get(&size, `PRAGMA page_size`)); err != nil {
		t.Fatal(err)
	}
	if _, err := s.db.Exec(`PRAGMA wal_checkpoint(TRUNCATE)`); err != nil {
		t.Fatal(err)
	}
	whole, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{"approval", "approval_event", "issued", "audit", "person", "letter", "photo", "session"} {
		copied := filepath.Join(t.TempDir(), "copy.db")
		raw := bytes.Clone(whole)
		for i := range size {
			raw[(roots[name]-1)*size+i] = byte(i*7 + 1)
		}
		if err := os.WriteFile(copied, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		d, err := Open(t.Context(), copied)
		if err != nil {
			t.Fatal(name, err)
		}
		if err := d.Ready(t.Context()).Database; err == nil || !strings.Contains(err.Error(), name) {
			t.Errorf("%s is damaged, and it is said: %v", name, err)
		}
		if err := d.Close(); err != nil {
			t.Fatal(err)
		}
	}
}

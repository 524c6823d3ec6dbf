package review

import (
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/jmoiron/sqlx"

	"nexufix/core/approval"
	"nexufix/store"
)

// earlier are databases that earlier versions of this program have written, each the last of its schema, with the demo's data and
// what was done by hand then: a pairing saved; from the third on a display weighed, from the fifth on with people, from the sixth on with
// approvals in each state and documents that were issued. Those from the seventh on are demos as they begin.
var earlier = []struct {
	schema, displays, brackets, jobs int
	approvals                        int
}{{1, 46, 8, 0, 0}, {2, 48, 8, 0, 0}, {3, 53, 9, 25, 0}, {4, 53, 9, 25, 0}, {5, 53, 9, 25, 0}, {6, 53, 9, 25, 7}, {7, 53, 9, 25, 7},
	{8, 60, 9, 35, 9}, {10, 60, 9, 35, 9}, {15, 60, 9, 35, 9}}

// unpacked is such a database as a file.
func unpacked(t *testing.T, schema string) string {
	t.Helper()
	in, err := os.Open("testdata/earlier/schema-" + schema + ".db.gz")
	if err != nil {
		t.Fatal(err)
	}
	defer in.Close()
	z, err := gzip.NewReader(in)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := io.ReadAll(z)
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "nexufix.db")
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

// standings are the states of all approvals in a database, by number, without this program.
func standings(t *testing.T, file string) map[int64]string {
	t.Helper()
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	out := map[int64]string{}
	rows, err := db.Query(`SELECT id, state || iif(stale <> '', ', stale', '') FROM approval`)
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	for rows.Next() {
		var id int64
		var state string
		if err := rows.Scan(&id, &state); err != nil {
			t.Fatal(err)
		}
		out[id] = state
	}
	if err := rows.Err(); err != nil {
		t.Fatal(err)
	}
	return out
}

// TestEarlierDatabases: what an earlier version has written is all there, and read by the strict reader; approvals
// stand as they stood, and are
// stale where rules that came since answer otherwise.
func TestEarlierDatabases(t *testing.T) {
	for _, was := range earlier {
		t.Run(strconv.Itoa(was.schema), func(t *testing.T) {
			file := unpacked(t, strconv.Itoa(was.schema))
			var before map[int64]string
			if was.approvals > 0 {
				before = standings(t, file)
			}
			for range 2 { // brought forward, and as it is then
				st, err := store.Open(t.Context(), file)
				if err != nil {
					t.Fatal(err)
				}
				holdsWhatItHad(t, st, was.displays, was.brackets, was.jobs, was.schema)
				issuedStands(t, st, was.approvals > 0, was.schema == 6)
				if err := st.Close(); err != nil {
					t.Fatal(err)
				}
			}
			after := standings(t, file)
			if len(after) != was.approvals {
				t.Errorf("%d approvals, want %d", len(after), was.approvals)
			}
			for id, state := range before {
				if after[id] != state && after[id] != state+", stale" {
					t.Errorf("approval %d was %s, and is %s", id, state, after[id])
				}
			}
			isRestored(t, unpacked(t, strconv.Itoa(was.schema)), len(after)) // as it is
			isRestored(t, worksOn(t, file), len(after))
		})
	}
}

func holdsWhatItHad(t *testing.T, st *store.Store, displays, brackets, jobs, schema int) {
	t.Helper()
	if err := st.Check(t.Context()); err != nil {
		t.Error(err)
	}
	all, err := st.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if len(all.Displays) != displays || len(all.Brackets) != brackets || len(all.Jobs) != jobs {
		t.Errorf("%d displays, %d brackets, %d jobs; want %d, %d, %d", len(all.Displays), len(all.Brackets), len(all.Jobs),
			displays, brackets, jobs)
	}
	if schema > 6 {
		return
	}
	if saved, err := st.Pairings(t.Context()); err != nil || len(saved) != 1 || saved[0].Title != "Velmora Pane 49 on Sill 40" {
		t.Errorf("%+v, %v", saved, err)
	}
	if i, err := st.Item(t.Context(), "display", "wick-signal-32"); schema >= 3 && (err != nil || i.Revision != 2) {
		t.Errorf("what was weighed has revision %d, %v", i.Revision, err)
	}
	people, err := st.People(t.Context())
	if err != nil || (len(people) == 4) != (schema >= 5) {
		t.Errorf("%d people, %v", len(people), err)
	}
	for _, p := range people {
		if p.SSO || p.Subject.Valid {
			t.Errorf("%s signs in at a provider", p.Login)
		}
	}
}

// worksOn changes a database that was brought forward, and returns a backup of it.
func worksOn(t *testing.T, file string) string {
	t.Helper()
	st, err := store.Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	i, err := st.Item(t.Context(), "display", "velmora-pane-49")
	if err != nil {
		t.Fatal(err)
	}
	before := i.Revision
	i.Doc = strings.Replace(i.Doc, `"model":"`, `"model":"The `, 1)
	if n, err := st.Save(t.Context(), store.Author{Who: "test"}, i, before); err != nil || n != before+1 {
		t.Errorf("saved as %d, %v", n, err)
	}
	if _, err := RejudgeAll(t.Context(), st); err != nil {
		t.Error(err)
	}
	if _, why, err := st.CheckAudit(t.Context()); why != "" || err != nil {
		t.Errorf("%s, %v", why, err)
	}
	backup := filepath.Join(t.TempDir(), "backup.db")
	if err := st.Backup(t.Context(), backup); err != nil {
		t.Fatal(err)
	}
	return backup
}

// isRestored restores a file onto a new machine, where all of it is.
func isRestored(t *testing.T, file string, approvals int) {
	t.Helper()
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	if err := st.RestoreFrom(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	if err := st.Check(t.Context()); err != nil {
		t.Error(err)
	}
	all, err := st.Approvals(t.Context())
	if err != nil || len(all) != approvals {
		t.Errorf("%d approvals, want %d: %v", len(all), approvals, err)
	}
	for _, a := range all {
		if a.State == approval.Approved && a.Restored == "" {
			t.Errorf("approval %d is in force on another machine", a.ID)
		}
	}
	if c, err := st.Catalogue(t.Context()); err != nil || c.Display("velmora-pane-49") == nil {
		t.Error(err)
	}
	if aside, err := st.Unreadable(t.Context()); err != nil || len(aside) > 0 {
		t.Errorf("%+v, %v", aside, err)
	}
}

// issuedStands judges everything again, and reads what was issued; before there were families, none is in one.
func issuedStands(t *testing.T, st *store.Store, some, noFamilies bool) {
	t.Helper()
	if _, err := RejudgeAll(t.Context(), st); err != nil {
		t.Fatal(err)
	}
	issued, err := st.IssuedOf(t.Context(), 0, 100)
	if err != nil || (len(issued) == 3) != some {
		t.Errorf("%d documents, %v", len(issued), err)
	}
	for _, i := range issued {
		whole, err := st.IssuedFile(t.Context(), i.ID)
		sum := sha256.Sum256(whole.File)
		if err != nil || hex.EncodeToString(sum[:]) != i.Sum {
			t.Errorf("%s: %v", i.Number, err)
		}
		if _, number, _, err := StatusOf(t.Context(), st, i.Code); err != nil || number != i.Number {
			t.Errorf("the code of %s leads to %s, %v", i.Number, number, err)
		}
	}
	if !noFamilies {
		return
	}
	// Sent before families were known: it is in none, and may be approved all the same.
	waits, err := st.Approvals(t.Context(), approval.InReview)
	if err != nil || len(waits) != 1 || waits[0].Family != "" {
		t.Errorf("%+v, %v", waits, err)
	}
}

package store

import (
	"crypto/sha256"
	"encoding/hex"
	"path/filepath"
	"testing"

	"github.com/jmoiron/sqlx"
)

// landed are the migrations that databases in use have run, by the beginning of their SHA-256. They are never edited: what a later one
// expects would be missing there. A new one is added at the end.
var landed = map[string]string{
	"00001_catalogue.sql":      "28ef202fa47cbd34",
	"00002_policy.sql":         "aed3c58f3eaaf677",
	"00003_history.sql":        "419ffb25b6226ca9",
	"00004_wall.sql":           "7374c3e06c470ce0",
	"00005_people.sql":         "94c61a4ff43d0df7",
	"00006_approval.sql":       "698f44579d76b325",
	"00007_single_sign_on.sql": "cb58674a9accc992",
	"00008_family.sql":         "5de677841e2f7288",
	"00009_whole.sql":          "4caeb941cee28319",
	"00010_preparers.sql":      "45910a39e41cad57",
	"00011_restored.sql":       "236b79cda5cfe850",
	"00012_doors.sql":          "b6af39ba8c3d353a",
	"00013_audit_chain.sql":    "68e18fef844d61f9",
	"00014_keys.sql":           "4acd1d1684ec2573",
	"00015_given.sql":          "4e046aa532b85485",
	"00016_second.sql":         "9948f50bdfadaf1b",
	"00017_years.sql":          "f4c5f70fe0075ba4",
	"00018_language.sql":       "2ab432845f0a80ff",
}

// TestMigrationsAreFrozen: no migration that landed has been edited, and each is on the list.
func TestMigrationsAreFrozen(t *testing.T) {
	files, err := migrations.ReadDir("migrations")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		raw, err := migrations.ReadFile("migrations/" + f.Name())
		if err != nil {
			t.Fatal(err)
		}
		sum := sha256.Sum256(raw)
		if got := hex.EncodeToString(sum[:8]); landed[f.Name()] != got {
			t.Errorf("%q: %q", f.Name(), got)
		}
	}
	if len(files) != len(landed) {
		t.Errorf("%d files, %d landed", len(files), len(landed))
	}
}

// TestWhatEditedMigrationsLeftOut: databases of the days before the fourth, fifth and sixth migration were edited have no ticks, tokens
// and letters. Opened they have all of it, and a backup of one is restored.
func TestWhatEditedMigrationsLeftOut(t *testing.T) {
	file := filepath.Join(t.TempDir(), "nexufix.db")
	st, err := Open(t.Context(), file)
	if err == nil {
		err = st.Close()
	}
	if err != nil {
		t.Fatal(err)
	}
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	p, err := provider(db.DB)
	if err == nil {
		_, err = p.DownTo(t.Context(), 8)
	}
	if err != nil {
		t.Fatal(err)
	}
	for _, table := range []string{"tick", "token", "letter"} {
		if _, err := db.Exec(`DROP TABLE ` + table); err != nil {
			t.Fatal(err)
		}
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	fresh, err := Open(t.Context(), filepath.Join(t.TempDir(), "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer fresh.Close()
	if err := fresh.RestoreFrom(t.Context(), file); err != nil {
		t.Errorf("its backup is not restored: %v", err)
	}
	if st, err = Open(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	for _, table := range []string{"tick", "token", "letter"} {
		var n int
		if err := st.db.Get(&n, `SELECT count(*) FROM `+table); err != nil {
			t.Error(err)
		}
	}
}

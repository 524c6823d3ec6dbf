// Package demotest gives tests the demo's documents, and databases with them in it.
package demotest

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"nexufix/demo"
	"nexufix/exchange"
	"nexufix/store"
)

// Contents reads the demo's documents.
func Contents(t testing.TB) *exchange.Contents {
	t.Helper()
	all, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	return all
}

// Store opens a database with the demo's catalogue that is the test's own, and says where it is.
func Store(t testing.TB) (st *store.Store, file string) {
	t.Helper()
	raw, err := imported()
	file = filepath.Join(t.TempDir(), "nexufix.db")
	if err == nil {
		err = os.WriteFile(file, raw, 0o600)
	}
	if err == nil {
		st, err = store.Open(t.Context(), file)
	}
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() }) // some tests close it themselves
	return st, file
}

// imported is the file of such a database: making the tables takes longer than most tests.
var imported = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "nexufix-demo-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	file, ctx := filepath.Join(dir, "nexufix.db"), context.Background()
	st, err := store.Open(ctx, file)
	if err != nil {
		return nil, err
	}
	all, err := demo.Contents()
	if err == nil {
		_, err = st.Import(ctx, store.Author{}, "", all, nil, nil)
	}
	if err == nil {
		err = st.Close()
	}
	if err != nil {
		return nil, err
	}
	return os.ReadFile(file)
})

// Package demotest gives each test a database of its own with the demo's data. The data
// are worked out once a test binary and copied.
package demotest

import (
	"context"
	"os"
	"path/filepath"
	"runtime/debug"
	"sync"
	"testing"

	"kollaris/internal/demo"
	"kollaris/internal/store"
)

// Tests make much and keep little: the collector runs less often than it would in a house.
func init() { debug.SetGCPercent(300) }

// filled is the demo's database as one file.
var filled = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "kollaris-demo-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "demo.db")
	st, err := store.Open(context.Background(), file)
	if err != nil {
		return nil, err
	}
	if err := demo.Fill(context.Background(), st); err != nil {
		return nil, err
	}
	if err := st.Close(); err != nil { // what stands beside the file goes into it
		return nil, err
	}
	return os.ReadFile(file)
})

// Open opens a copy, which is closed and gone when the test ends.
func Open(t testing.TB) (st *store.Store, file string) {
	t.Helper()
	data, err := filled()
	if err != nil {
		t.Fatal(err)
	}
	file = filepath.Join(t.TempDir(), "k.db")
	if err := os.WriteFile(file, data, 0o600); err != nil {
		t.Fatal(err)
	}
	if st, err = store.Open(context.Background(), file); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { st.Close() })
	return st, file
}

package store

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/recipe"
	"kollaris/core/table"
)

// shelved is a store with so many recipes.
func shelved(t *testing.T, n int) (*Store, string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "house", "k.db")
	s, err := Open(t.Context(), file)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	for k := range n {
		_, err := s.AddRecipe(t.Context(), &recipe.Recipe{Title: fmt.Sprint("Rye rolls ", k)}, "", Typed{})
		require.NoError(t, err)
	}
	return s, file
}

func titles(t *testing.T, s *Store) (out []string) {
	t.Helper()
	all, err := s.Recipes(t.Context(), "")
	require.NoError(t, err)
	for _, r := range all {
		out = append(out, r.Title)
	}
	return out
}

func TestABackupIsWholeAndComesBack(t *testing.T) {
	s, file := shelved(t, 3)
	ctx := t.Context()
	to := filepath.Join(t.TempDir(), "copy.db")
	n, err := s.Backup(ctx, to)
	require.NoError(t, err)
	assert.Equal(t, 3, n.Recipes)
	assert.Positive(t, n.Size)
	_, err = s.Backup(ctx, to)
	require.ErrorIs(t, err, ErrThere)
	assert.NoFileExists(t, to+".part")

	require.NoError(t, s.Delete(ctx, 1))
	_, err = s.AddRecipe(ctx, &recipe.Recipe{Title: "Seed bread"}, "", Typed{})
	require.NoError(t, err)
	_, kept, err := s.BringBack(ctx, to) // while it is open
	require.NoError(t, err)
	assert.Equal(t, []string{"Rye rolls 2", "Rye rolls 1", "Rye rolls 0"}, titles(t, s))
	_, err = s.AddRecipe(ctx, &recipe.Recipe{Title: "Scones"}, "", Typed{})
	require.NoError(t, err, "it goes on being written to")
	require.NoError(t, s.Close())

	old, err := Open(ctx, kept)
	require.NoError(t, err)
	assert.Equal(t, []string{"Seed bread", "Rye rolls 2", "Rye rolls 1"}, titles(t, old), "what was replaced")
	require.NoError(t, old.Close())

	// closed, all is in the one file
	assert.NoFileExists(t, file+"-wal")
	again, err := Verify(ctx, file)
	require.NoError(t, err)
	assert.Equal(t, 4, again.Recipes)
}

// A file that is damaged in the middle is not opened, not backed up and not brought back; a good backup takes its place.
func TestADamagedFile(t *testing.T) {
	s, file := shelved(t, 40)
	ctx := t.Context()
	good := filepath.Join(t.TempDir(), "good.db")
	_, err := s.Backup(ctx, good)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	for n := 8192; n < len(data)-8192; n += 512 {
		copy(data[n:], "this is no page of a database at all")
	}
	require.NoError(t, os.WriteFile(file, data, 0o600))

	_, err = Open(ctx, file)
	require.Error(t, err)
	assert.Equal(t, FileBroken, TroubleOf(err), "%v", err)
	_, err = Verify(ctx, file)
	assert.Equal(t, FileBroken, TroubleOf(err))
	_, _, err = PutBack(ctx, file, good)
	require.Error(t, err, "nothing is replaced by it")

	n, kept, err := PutBack(ctx, good, file)
	require.NoError(t, err)
	assert.Equal(t, 40, n.Recipes)
	was, err := os.ReadFile(kept)
	require.NoError(t, err)
	assert.Equal(t, data, was, "the damaged file is kept as it was")
	s, err = Open(ctx, file)
	require.NoError(t, err)
	assert.Len(t, titles(t, s), 40)
	require.NoError(t, s.Close())

	other := filepath.Join(t.TempDir(), "other.db")
	db, err := sql.Open("sqlite", other)
	require.NoError(t, err)
	_, err = db.Exec("CREATE TABLE theirs (x)")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, _, err = PutBack(ctx, good, other)
	require.ErrorIs(t, err, ErrForeign, "another program's file is never replaced")
	_, _, err = PutBack(ctx, other, file)
	require.ErrorIs(t, err, ErrForeign)
}

func TestNobodyElseReadsTheFile(t *testing.T) {
	_, file := shelved(t, 1)
	mode := func(name string) os.FileMode {
		about, err := os.Stat(name)
		require.NoError(t, err)
		return about.Mode().Perm()
	}
	assert.Equal(t, os.FileMode(0o600), mode(file))
	assert.Equal(t, os.FileMode(0o600), mode(file+"-wal"))
	assert.Equal(t, os.FileMode(0o700), mode(filepath.Dir(file)))
	require.NoError(t, os.Chmod(file, 0o644)) // by an older program
	s, err := Open(t.Context(), file)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	assert.Equal(t, os.FileMode(0o600), mode(file))
}

func TestRollingCopies(t *testing.T) {
	s, _ := shelved(t, 1)
	ctx := t.Context()
	begin := time.Date(2026, 9, 7, 8, 0, 0, 0, time.Local) // a Monday
	for day := range 70 {
		for range 2 { // twice a day is once
			require.NoError(t, s.Rolling(ctx, begin.AddDate(0, 0, day)))
		}
	}
	_, _, err := s.TakeCopy(ctx)
	require.NoError(t, err)
	have, err := s.Copies()
	require.NoError(t, err)
	var names []string
	for _, c := range have {
		if c.Auto {
			names = append(names, c.Name[9:19])
		}
	}
	// the last seven days, and of the weeks before that the last day each
	assert.Equal(t, []string{
		"2026-11-15", "2026-11-14", "2026-11-13", "2026-11-12", "2026-11-11", "2026-11-10", "2026-11-09",
		"2026-11-08", "2026-11-01", "2026-10-25", "2026-10-18", "2026-10-11", "2026-10-04", "2026-09-27",
	}, names)
	assert.Len(t, have, 15, "what somebody asked for stays")

	require.NoError(t, s.ChangeHousehold(ctx, AnyRev, func(h *Household) { h.DailyCopies, h.WeeklyCopies = 2, 1 }))
	require.NoError(t, s.Rolling(ctx, begin.AddDate(0, 0, 50)), "the clock went back: no copy is lost for it but those that are too many")
	have, err = s.Copies()
	require.NoError(t, err)
	assert.Len(t, have, 3)

	_, err = s.CheckCopy(ctx, have[0].Name)
	require.NoError(t, err)
	for _, name := range []string{"../k.db", "kollaris-2026-11-15.db/..", "k.db", "", "kollaris-2001-01-01.db"} {
		_, err := s.CopyFile(name)
		require.ErrorIs(t, err, ErrNotFound, name)
	}
}

// An older backup is brought up to date as it comes back.
func TestAnOlderBackup(t *testing.T) {
	s, _ := shelved(t, 2)
	ctx := t.Context()
	old := filepath.Join(t.TempDir(), "old.db")
	_, err := s.Backup(ctx, old)
	require.NoError(t, err)
	db, err := sql.Open("sqlite", address(old))
	require.NoError(t, err)
	_, err = db.Exec("ALTER TABLE phrase DROP COLUMN deleted_at; ALTER TABLE remembered_amount DROP COLUMN deleted_at; ALTER TABLE draft DROP COLUMN seen; ALTER TABLE draft DROP COLUMN brought; DROP TABLE brought; DROP INDEX recipe_shelf; DROP INDEX recipe_kind; DROP INDEX recipe_away; DROP TABLE session; DROP TABLE access; DELETE FROM goose_db_version WHERE version_id >= 15")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, _, err = s.BringBack(ctx, old)
	require.NoError(t, err)
	require.NoError(t, s.db.QueryRow("SELECT count(*) FROM session").Scan(new(int)))
}

// What the disk, the file and other programs do is told apart.
func TestTroubles(t *testing.T) {
	s, file := shelved(t, 1)
	ctx := t.Context()
	require.NoError(t, s.Health(ctx))
	require.NoError(t, s.db.QueryRow("SELECT count(*) FROM phrase WHERE phrase LIKE 'health%'").Scan(new(int)))

	db, err := sql.Open("sqlite", address(file)+"?_txlock=exclusive&_pragma=busy_timeout(10)")
	require.NoError(t, err)
	defer db.Close()
	tx, err := db.Begin()
	require.NoError(t, err)
	short, err := sql.Open("sqlite", address(file)+"?_txlock=immediate&_pragma=busy_timeout(10)")
	require.NoError(t, err)
	defer short.Close()
	assert.Equal(t, FileBusy, TroubleOf((&Store{db: short, file: file, place: s.place}).Health(ctx)))
	require.NoError(t, tx.Rollback())

	_, err = s.db.Exec("PRAGMA max_page_count = 1") // as a disk without room
	require.NoError(t, err)
	_, err = s.db.Exec("CREATE TABLE more AS SELECT randomblob(100000) AS x")
	assert.Equal(t, DiskFull, TroubleOf(err), "%v", err)

	for err, want := range map[error]Trouble{
		nil: NoTrouble, context.Canceled: NoTrouble, ErrNotFound: NoTrouble,
		&os.PathError{Op: "write", Err: syscall.ENOSPC}: DiskFull, &os.PathError{Op: "open", Err: syscall.EACCES}: FileFixed,
		&os.PathError{Op: "open", Err: syscall.EROFS}: FileFixed, fmt.Errorf("k.db: %w", ErrDamaged): FileBroken, fmt.Errorf("k.db: %w", ErrMoved): FileMoved,
	} {
		assert.Equal(t, want, TroubleOf(err), "%v", err)
		assert.Equal(t, want == NoTrouble, TroubleOf(err).WhatToDo() == "", "%v", err)
	}
}

// Once the file is not where it was opened, or another is, nothing is acknowledged that would be lost; all can still be read and copied,
// and where it is put back it goes on.
func TestTheFileIsMovedAway(t *testing.T) {
	for name, move := range map[string]func(t *testing.T, file string) (back func()){
		"gone": func(t *testing.T, file string) func() {
			require.NoError(t, os.Rename(file, file+".away"))
			return func() { require.NoError(t, os.Rename(file+".away", file)) }
		},
		"another in its place": func(t *testing.T, file string) func() {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			require.NoError(t, os.Rename(file, file+".away"))
			require.NoError(t, os.WriteFile(file, data, 0o600))
			return func() { require.NoError(t, os.Rename(file+".away", file)) }
		},
		"what was written last": func(t *testing.T, file string) func() {
			require.NoError(t, os.Rename(file+"-wal", file+".away"))
			return func() { require.NoError(t, os.Rename(file+".away", file+"-wal")) }
		},
		"its folder": func(t *testing.T, file string) func() {
			dir := filepath.Dir(file)
			require.NoError(t, os.Rename(dir, dir+".away"))
			return func() {
				require.NoError(t, os.RemoveAll(dir)) // the copies that were taken
				require.NoError(t, os.Rename(dir+".away", dir))
			}
		},
	} {
		t.Run(name, func(t *testing.T) {
			s, file := shelved(t, 3)
			ctx := t.Context()
			ask := func(name string) error {
				_, err := s.AddPerson(ctx, table.Person{Name: name})
				return err
			}
			require.NoError(t, ask("cox"))
			back := move(t, file)
			assert.Equal(t, FileMoved, TroubleOf(ask("bow")))
			assert.Equal(t, FileMoved, TroubleOf(s.SetLast(ctx, "x")), "also by one statement")
			assert.Equal(t, FileMoved, TroubleOf(s.Health(ctx)))
			var all sync.WaitGroup
			for range 20 {
				all.Go(func() {
					for s.place.holds() != nil {
						if people, err := s.People(ctx); err == nil {
							assert.Len(t, people, 1)
							return
						}
					}
				})
			}
			all.Wait()
			if name == "gone" {
				askedForMore(t, s)
			}
			copied, n, err := s.TakeCopy(ctx)
			require.NoError(t, err)
			assert.Equal(t, [2]int{3, 1}, [2]int{n.Recipes, n.People}, copied)
			back()
			require.NoError(t, ask("bow"))
			require.NoError(t, s.Health(ctx))
			people, err := s.People(ctx)
			require.NoError(t, err)
			assert.Len(t, people, 2)
		})
	}
}

// Where nothing was there is nothing to keep.
func TestABackupIsBroughtWhereNothingWas(t *testing.T) {
	s, _ := shelved(t, 2)
	copied := filepath.Join(t.TempDir(), "copy.db")
	_, err := s.Backup(t.Context(), copied)
	require.NoError(t, err)
	for _, was := range []func(file string){func(string) {}, func(file string) { require.NoError(t, os.WriteFile(file, nil, 0o600)) }} {
		file := filepath.Join(t.TempDir(), "new.db")
		was(file)
		n, kept, err := PutBack(t.Context(), copied, file)
		require.NoError(t, err)
		assert.Equal(t, 2, n.Recipes)
		assert.Empty(t, kept)
		left, err := filepath.Glob(file + "*")
		require.NoError(t, err)
		assert.Equal(t, []string{file}, left)
	}
}

// askedForMore takes all lines to a file that is gone, and asks for one more: it waits for one of them, since none is opened any more.
func askedForMore(t *testing.T, s *Store) {
	t.Helper()
	var lines []*sql.Conn
	for range s.db.Stats().OpenConnections - s.db.Stats().InUse {
		c, err := s.db.Conn(t.Context())
		require.NoError(t, err)
		lines = append(lines, c)
	}
	require.GreaterOrEqual(t, len(lines), 3)
	ask := func() error {
		brief, stop := context.WithTimeout(t.Context(), 50*time.Millisecond)
		defer stop()
		_, err := s.People(brief)
		return err
	}
	ask() //nolint:errcheck // told or waiting, as others asked before
	assert.ErrorIs(t, ask(), context.DeadlineExceeded)
	for _, c := range lines {
		require.NoError(t, c.Close())
	}
}

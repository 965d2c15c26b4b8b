// Package store keeps recipes, versions and drafts in one SQLite file.
//
// Rules of the file: STRICT tables; a version never changes once kept (a
// trigger sees to it); every writing names the rev it read, and a writing that
// finds another rev is ErrChanged; deleting sets deleted_at, so that it can be
// undone.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/url"
	"os"
	"path/filepath"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	_ "modernc.org/sqlite" // the driver "sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// applicationID marks a SQLite file as ours ("KOLL").
const applicationID = 0x4b4f4c4c

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrChanged  = errors.New("changed meanwhile by another window")
	ErrNewer    = errors.New("made by a newer version of Kollaris")
	ErrForeign  = errors.New("not a Kollaris database")
)

// Store is an open database. It is safe for concurrent use.
type Store struct {
	db     *sql.DB
	Engine string // stamped on every version kept
	Data   string // hash of the catalogue, stamped likewise
}

// Open opens or creates the file and brings its tables up to date. The error
// wraps ErrNewer or ErrForeign where that is the matter; the file is then left
// untouched.
func Open(ctx context.Context, file string) (*Store, error) {
	if dir := filepath.Dir(file); dir != "." {
		if err := os.MkdirAll(dir, 0o755); err != nil {
			return nil, err
		}
	}
	q := url.Values{}
	for _, p := range []string{"busy_timeout(5000)", "journal_mode(WAL)", "foreign_keys(1)", "synchronous(FULL)"} {
		q.Add("_pragma", p)
	}
	q.Set("_txlock", "immediate")
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: file}).EscapedPath()+"?"+q.Encode())
	if err != nil {
		return nil, err
	}
	s := &Store{db: db, Engine: "dev"}
	if err := s.prepare(ctx); err != nil {
		db.Close()
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return s, nil
}

func (s *Store) prepare(ctx context.Context) error {
	var id, tables int
	if err := s.db.QueryRowContext(ctx, "PRAGMA application_id").Scan(&id); err != nil {
		return fmt.Errorf("cannot be read as a database: %w", err)
	}
	if err := s.db.QueryRowContext(ctx, "SELECT count(*) FROM sqlite_master").Scan(&tables); err != nil {
		return fmt.Errorf("cannot be read as a database: %w", err)
	}
	if id != applicationID && (id != 0 || tables > 0) {
		return ErrForeign
	}
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(database.DialectSQLite3, s.db, sub, goose.WithSlog(slog.New(slog.DiscardHandler)))
	if err != nil {
		return err
	}
	if tables > 0 {
		have, err := p.GetDBVersion(ctx)
		if err != nil {
			return err
		}
		known := p.ListSources()
		if have > known[len(known)-1].Version {
			return ErrNewer
		}
	}
	if _, err := p.Up(ctx); err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, fmt.Sprintf("PRAGMA application_id = %d", applicationID))
	return err
}

// Close closes the file.
func (s *Store) Close() error { return s.db.Close() }

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error { return s.db.PingContext(ctx) }

// write runs f in a transaction.
func (s *Store) write(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback() //nolint:errcheck // after Commit it does nothing
	if err := f(tx); err != nil {
		return err
	}
	return tx.Commit()
}

func now() string { return time.Now().UTC().Format(time.RFC3339Nano) }

// missing turns "no rows" into ErrNotFound.
func missing(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

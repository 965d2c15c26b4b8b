package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io/fs"
	"os"

	"modernc.org/sqlite"
)

// ErrMoved says that the file is no longer where the program opened it: it was deleted, moved, or another was put in its place, by
// somebody or by a program that keeps folders alike. What were written then would be acknowledged and be gone with the program.
var ErrMoved = errors.New("the file is gone, or another lies in its place")

// place is a file as it was opened.
type place struct {
	file string
	is   os.FileInfo
}

// holds reports ErrMoved where the file is no longer the one that was opened, nor what was written last beside it.
func (p place) holds() error {
	now, err := os.Stat(p.file)
	switch {
	case errors.Is(err, fs.ErrNotExist), err == nil && !os.SameFile(p.is, now):
		return fmt.Errorf("%s: %w", p.file, ErrMoved)
	case err != nil:
		return err
	}
	if _, err := os.Stat(p.file + "-wal"); errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("%s-wal: %w", p.file, ErrMoved)
	}
	return nil
}

// guarded opens the lines to a file that is in its place, and lets nothing be written by them once it is not.
type guarded struct {
	driver.Connector
	place place
	db    *sql.DB // of these lines
}

func (g *guarded) Connect(ctx context.Context) (driver.Conn, error) {
	if now, err := os.Stat(g.place.file); err != nil || !os.SameFile(g.place.is, now) {
		if open := g.db.Stats().OpenConnections - 1; open >= leastLines {
			g.db.SetMaxOpenConns(open) // what is still open is waited for, so that all can be read and copied
		}
		return nil, fmt.Errorf("%s: %w", g.place.file, errors.Join(ErrMoved, err)) // else this line would be to another file than the others
	}
	c, err := g.Connector.Connect(ctx)
	if err != nil {
		return nil, err
	}
	c.(sqlite.HookRegisterer).RegisterCommitHook(func() int32 {
		if g.place.holds() != nil {
			return 1 // it is rolled back
		}
		return 0
	})
	return c, nil
}

// openInPlace opens a file that is there.
func openInPlace(file string) (*sql.DB, place, error) {
	p := place{file: file}
	var err error
	if p.is, err = os.Stat(file); err != nil {
		return nil, p, err
	}
	c, err := sqlite.NewConnector(dsn(file, "journal_mode(WAL)"))
	if err != nil {
		return nil, p, err
	}
	g := &guarded{Connector: c, place: p}
	g.db = sql.OpenDB(g)
	return g.db, p, nil
}

// leastLines are open from the start: a page asks by three at once.
const leastLines = 4

// openLines opens them.
func openLines(ctx context.Context, db *sql.DB) (err error) {
	for range leastLines {
		c, opened := db.Conn(ctx)
		if opened != nil {
			return opened
		}
		defer func() { err = errors.Join(err, c.Close()) }()
	}
	return nil
}

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
	"io"
	"io/fs"
	"log/slog"
	"net/url"
	"os"
	"regexp"
	"slices"
	"sync"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	_ "modernc.org/sqlite" // the driver "sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// applicationID marks a SQLite file as ours ("KOLL").
const applicationID = 0x4b4f4c4c

// sqliteHead is what every SQLite database begins with (sqlite.org/fileformat2.html).
const sqliteHead = "SQLite format 3\x00"

// Errors that callers tell apart.
var (
	ErrNotFound   = errors.New("not found")
	ErrChanged    = errors.New("changed meanwhile by another window")
	ErrNewer      = errors.New("made by a newer version of Kollaris")
	ErrNoDatabase = errors.New("cannot be read as a database")
	ErrForeign    = errors.New("not a Kollaris database")
	ErrFull       = errors.New("too much for one bake")
)

// idleConns is how many lines to the file stay open: opening one costs more than most questions.
const idleConns = 16

// Store is an open database. It is safe for concurrent use.
type Store struct {
	db    *sql.DB
	file  string
	place place
	watch struct {
		sync.Mutex
		conn *sql.Conn
	}
	Engine string // stamped on every version kept
	Data   string // hash of the catalogue, stamped likewise
}

// Open opens or creates the file and brings its tables up to date. The error wraps
// ErrNewer or ErrForeign where that is the matter; the file is then left untouched.
//
// A first start that is broken off, by a kill or a full disk, leaves a file that the next
// start goes on with: the id is written before anything else, and each migration whole.
func Open(ctx context.Context, file string) (*Store, error) {
	if err := inspect(ctx, file); err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	if err := private(file); err != nil {
		return nil, err
	}
	if err := stamp(ctx, file); err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	db, at, err := openInPlace(file)
	if err != nil {
		return nil, err
	}
	db.SetMaxIdleConns(idleConns)
	s := &Store{db: db, file: file, place: at, Engine: "dev"}
	if err := s.undamaged(ctx); err != nil {
		db.Close()
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	if err := s.migrate(ctx, file); err != nil {
		db.Close()
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	if err := openLines(ctx, db); err != nil {
		db.Close()
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return s, nil
}

// dsn addresses the file with the pragmas that every connection has, and more.
func dsn(file string, pragmas ...string) string {
	q := url.Values{
		"_txlock": {"immediate"},
		"_pragma": append([]string{"busy_timeout(5000)", "foreign_keys(1)", "synchronous(FULL)"}, pragmas...),
	}
	return address(file) + "?" + q.Encode()
}

// unchanged addresses the file so that nothing is written to it, nor beside it.
func unchanged(file string) string {
	if wal, err := os.Stat(file + "-wal"); err == nil && wal.Size() > 0 {
		return address(file) + "?mode=ro" // what was written last stands beside it
	}
	return address(file) + "?immutable=1"
}

func address(file string) string { return "file:" + (&url.URL{Path: file}).EscapedPath() }

// ours are the tables of this program; an older one wrote its id last, so that a first
// start that was broken off left some of them without it.
var ours = regexp.MustCompile(
	`^(?:goose_db_version|sqlite_.*|household|recipe|recipe_fts.*|version|draft|phrase|own_ingredient|remembered_amount|person|equipment|plan|bake|bake_event|bake_log|photo|tasting|learned_spoonful|learned_forgotten|version_mark|version_fts.*|access|session|brought)$`,
)

// inspect looks whether the file may be used, without writing to it: it is not there or
// empty, or it is ours and not newer than this program.
func inspect(ctx context.Context, file string) error {
	head := make([]byte, len(sqliteHead))
	f, err := os.Open(file)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return err
	}
	n, err := io.ReadFull(f, head)
	f.Close()
	switch {
	case n == 0:
		return nil
	case err != nil || string(head) != sqliteHead:
		return ErrNoDatabase
	}
	db, err := sql.Open("sqlite", unchanged(file))
	if err != nil {
		return err
	}
	defer db.Close()
	var id, have int
	var tables []string
	if err := db.QueryRowContext(ctx, "PRAGMA application_id").Scan(&id); err != nil {
		return fmt.Errorf("cannot be read as a database: %w", err)
	}
	if err := each(ctx, db, "SELECT name FROM sqlite_master WHERE type = 'table'", func(scan func(...any) error) error {
		var name string
		err := scan(&name)
		tables = append(tables, name)
		return err
	}); err != nil {
		return fmt.Errorf("cannot be read as a database: %w", err)
	}
	if id != applicationID &&
		(id != 0 || slices.ContainsFunc(tables, func(t string) bool { return !ours.MatchString(t) })) {
		return ErrForeign
	}
	if !slices.Contains(tables, "goose_db_version") {
		if id != applicationID && len(tables) > 0 {
			return ErrForeign
		}
		return nil
	}
	if err := db.QueryRowContext(ctx, "SELECT coalesce(max(version_id), 0) FROM goose_db_version WHERE is_applied").Scan(&have); err != nil {
		return fmt.Errorf("cannot be read as a database: %w", err)
	}
	known, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil {
		return err
	}
	if have > len(known) { // they are numbered from 1 on, as a test sees to
		return ErrNewer
	}
	return nil
}

// stamp writes the id into a file that has none yet.
func stamp(ctx context.Context, file string) error {
	db, err := sql.Open("sqlite", dsn(file))
	if err != nil {
		return err
	}
	defer db.Close()
	var id int
	if err := db.QueryRowContext(ctx, "PRAGMA application_id").Scan(&id); err != nil || id == applicationID {
		return err
	}
	_, err = db.ExecContext(ctx, fmt.Sprintf("PRAGMA application_id = %d", applicationID))
	return err
}

func (s *Store) migrate(ctx context.Context, file string) error {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(database.DialectSQLite3, s.db, sub, goose.WithSlog(slog.New(slog.DiscardHandler)))
	if err != nil {
		return err
	}
	if err := s.copyBefore(ctx, p, file); err != nil {
		return fmt.Errorf("no copy could be made before the file is brought up to date, so it was left as it is: %w", err)
	}
	_, err = p.Up(ctx)
	return err
}

// copyBefore copies a file of an older schema beside itself, as FILE.before-N, N the schema it is brought to; a copy that is there
// stays. What a step does wrong can then be undone by putting the copy back.
func (s *Store) copyBefore(ctx context.Context, p *goose.Provider, file string) error {
	now, to, err := p.GetVersions(ctx)
	if err != nil || now == 0 || now >= to {
		return err
	}
	_, err = s.Backup(ctx, fmt.Sprintf("%s.before-%d", file, to))
	if errors.Is(err, ErrThere) {
		return nil
	}
	return err
}

// undamaged looks for damage, for as long as a start may take: what cannot be read through in that time is opened.
func (s *Store) undamaged(ctx context.Context) error {
	brief, stop := context.WithTimeout(ctx, checkTime)
	defer stop()
	err := whole(brief, s.db)
	if err != nil && brief.Err() != nil && ctx.Err() == nil {
		return nil
	}
	return err
}

// Close closes the file, with all that was written in it and nothing beside it: it can then be copied.
func (s *Store) Close() error {
	s.watch.Lock()
	if s.watch.conn != nil {
		s.watch.conn.Close() //nolint:errcheck // the file is closed with it
		s.watch.conn = nil
	}
	s.watch.Unlock()
	_, err := s.db.Exec("PRAGMA wal_checkpoint(TRUNCATE)")
	if closed := s.db.Close(); closed != nil {
		return closed
	}
	if TroubleOf(err) == FileBusy { // another program has it open, and writes it there
		return nil
	}
	return err
}

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

// changed is the error of a statement that has to change a row: ErrNotFound where it changed none.
func changed(res sql.Result, err error) error {
	if err != nil {
		return err
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}

// timeOf reads when something was. Nothing is judged by it, so that one which is damaged holds nothing up: it is long ago.
func timeOf(stamp string) time.Time {
	t, _ := time.Parse(time.RFC3339Nano, stamp)
	return t
}

func now() string { return time.Now().UTC().Format(time.RFC3339Nano) }

// missing turns "no rows" into ErrNotFound.
func missing(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

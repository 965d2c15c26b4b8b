package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"time"

	"modernc.org/sqlite"
)

// Errors of backups.
var (
	ErrThere   = errors.New("is there already, and is not written over")
	ErrDamaged = errors.New("is damaged")
)

// How many copies of a household are kept where it says nothing else: a week of days, two months of weeks. Common practice.
const (
	DailyCopies  = 7
	WeeklyCopies = 8
	mostCopies   = 366 // of each, at most
)

// checkTime is how long a start looks for damage: in that time it reads some five megabytes, and a household has a few. The copy
// of each day reads it all.
const checkTime = 60 * time.Millisecond

// Counted is what a database holds, put away or not.
type Counted struct {
	Recipes, Versions, People, Bakes int
	Size                             int64 // bytes
}

// Copy is one of the copies that the program keeps beside its database.
type Copy struct {
	Name    string    // of the file
	Taken   time.Time // as the name says: by the day, or by the second where somebody asked for it
	Auto    bool      // by the program, and taken away again when newer ones follow
	Checked time.Time // when it was last opened and read through
	Size    int64     // bytes
}

const autoName, askedName = "kollaris-2006-01-02.db", "kollaris-2006-01-02T150405.db"

var copyName = regexp.MustCompile(`^kollaris-\d{4}-\d\d-\d\d(?:T\d{6})?\.db$`)

// File is the database file.
func (s *Store) File() string { return s.file }

// CopyDir is the folder of the copies.
func (s *Store) CopyDir() string { return copyDir(s.file) }

func copyDir(file string) string { return strings.TrimSuffix(file, ".db") + "-backups" }

// Backup copies the database to a new file, as it is in this moment whatever is written meanwhile, and reads the copy
// through. It returns ErrThere for a file that exists and ErrDamaged where the database itself is.
func (s *Store) Backup(ctx context.Context, file string) (Counted, error) {
	if _, err := os.Lstat(file); err == nil {
		return Counted{}, fmt.Errorf("%s %w", file, ErrThere)
	}
	if err := whole(ctx, s.db); err != nil {
		return Counted{}, fmt.Errorf("%s: %w", s.file, err)
	}
	part := file + ".part" // what breaks off is no backup
	os.Remove(part)        //nolint:errcheck // it may not be there
	defer os.Remove(part)  //nolint:errcheck // likewise
	if f, err := os.OpenFile(part, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600); err != nil {
		return Counted{}, err
	} else if err := f.Close(); err != nil {
		return Counted{}, err
	}
	if _, err := s.db.ExecContext(ctx, "VACUUM INTO ?", part); err != nil {
		return Counted{}, err
	}
	if err := synced(part); err != nil {
		return Counted{}, err
	}
	n, err := Verify(ctx, part)
	if err != nil {
		return n, err
	}
	return n, os.Rename(part, file)
}

// Verify opens a file as a database of ours without changing it, reads it through and counts what it holds.
func Verify(ctx context.Context, file string) (Counted, error) {
	about, err := os.Stat(file)
	if err != nil {
		return Counted{}, err
	}
	if err := inspect(ctx, file); err != nil {
		return Counted{}, err
	}
	db, err := sql.Open("sqlite", unchanged(file))
	if err != nil {
		return Counted{}, err
	}
	defer db.Close()
	if err := whole(ctx, db); err != nil {
		return Counted{}, err
	}
	n := Counted{Size: about.Size()}
	for table, to := range map[string]*int{"recipe": &n.Recipes, "version": &n.Versions, "person": &n.People, "bake": &n.Bakes} {
		err := db.QueryRowContext(ctx, "SELECT count(*) FROM "+table).Scan(to)
		if err != nil && !strings.Contains(err.Error(), "no such table") { // an older one has fewer
			return n, err
		}
	}
	return n, nil
}

// whole looks for damage.
func whole(ctx context.Context, db *sql.DB) error {
	var said string
	err := db.QueryRowContext(ctx, "PRAGMA quick_check(1)").Scan(&said)
	if err == nil && said != "ok" {
		err = fmt.Errorf("%w: %s", ErrDamaged, said)
	}
	return err
}

// BringBack puts a backup in the place of what is in the database, which is first copied beside it; kept names that copy.
// The backup is read through before anything is changed, and an older one is brought up to date.
func (s *Store) BringBack(ctx context.Context, file string) (n Counted, kept string, err error) {
	if n, err = Verify(ctx, file); err != nil {
		return n, "", fmt.Errorf("%s: %w", file, err)
	}
	kept = s.file + ".replaced-" + time.Now().Format("20060102T150405.000")
	if _, err := s.Backup(ctx, kept); err != nil {
		return n, "", err
	}
	phc, _, err := s.access(ctx)
	if err != nil {
		return n, kept, err
	}
	conn, err := s.db.Conn(ctx)
	if err != nil {
		return n, kept, err
	}
	defer conn.Close()
	err = conn.Raw(func(c any) error {
		from, err := c.(interface {
			NewRestore(string) (*sqlite.Backup, error)
		}).NewRestore(unchanged(file))
		if err != nil {
			return err
		}
		for more := true; more && err == nil; {
			more, err = from.Step(-1)
		}
		return errors.Join(err, from.Finish())
	})
	if err != nil {
		return n, kept, err
	}
	if err := s.migrate(ctx, s.file); err != nil {
		return n, kept, err
	}
	return n, kept, s.write(ctx, func(tx *sql.Tx) error { // who may come in is not brought back
		for _, q := range []string{"DELETE FROM session", "DELETE FROM access"} {
			if _, err := tx.ExecContext(ctx, q); err != nil {
				return err
			}
		}
		if phc == "" {
			return nil
		}
		_, err := tx.ExecContext(ctx, "INSERT INTO access (id, passphrase, made_at) VALUES (1, ?, ?)", phc, now())
		return err
	})
}

// PutBack puts a backup in the place of a database file that nobody has open and that may be unreadable. What stood there
// is kept under the name that is returned, "" where there was nothing.
func PutBack(ctx context.Context, from, file string) (n Counted, kept string, err error) {
	if n, err = Verify(ctx, from); err != nil {
		return n, "", fmt.Errorf("%s: %w", from, err)
	}
	about, err := os.Stat(file)
	nothing := errors.Is(err, os.ErrNotExist) || err == nil && about.Size() == 0
	if st, err := Open(ctx, file); err == nil {
		defer st.Close()
		n, kept, err := st.BringBack(ctx, from)
		if err == nil && nothing {
			kept, err = "", os.Remove(kept) // the copy of an empty file
		}
		return n, kept, err
	} else if errors.Is(err, ErrForeign) || errors.Is(err, ErrNewer) {
		return n, "", err
	}
	kept = file + ".replaced-" + time.Now().Format("20060102T150405.000")
	for _, end := range []string{"", "-wal", "-shm"} {
		if err := os.Rename(file+end, kept+end); err != nil && !errors.Is(err, os.ErrNotExist) {
			return n, "", err
		}
	}
	st, err := Open(ctx, file)
	if err != nil {
		return n, kept, err
	}
	defer st.Close()
	n, empty, err := st.BringBack(ctx, from)
	if err == nil {
		err = os.Remove(empty) // the copy of an empty file
	}
	return n, kept, err
}

// Copies lists the copies that the program keeps, newest first.
func (s *Store) Copies() ([]Copy, error) { return CopiesOf(s.file) }

// CopiesOf lists the copies that were kept of a file, also of one that cannot be opened, newest first.
func CopiesOf(file string) ([]Copy, error) {
	files, err := os.ReadDir(copyDir(file))
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	var out []Copy
	for _, f := range files {
		name := f.Name()
		if !copyName.MatchString(name) {
			continue
		}
		about, err := f.Info()
		if err != nil {
			continue // gone meanwhile
		}
		c := Copy{Name: name, Checked: about.ModTime(), Size: about.Size()}
		if c.Taken, err = time.ParseInLocation(autoName, name, time.Local); err == nil {
			c.Auto = true
		} else if c.Taken, err = time.ParseInLocation(askedName, name, time.Local); err != nil {
			continue // no day of the calendar
		}
		out = append(out, c)
	}
	slices.SortFunc(out, func(a, b Copy) int { return b.Taken.Compare(a.Taken) })
	return out, err
}

// CopyFile is the path of one of them; ErrNotFound for any other name.
func (s *Store) CopyFile(name string) (string, error) { return CopyOf(s.file, name) }

// CopyOf is the path of one of the copies that were kept of a file; ErrNotFound for any other name.
func CopyOf(file, name string) (string, error) {
	if !copyName.MatchString(name) {
		return "", ErrNotFound
	}
	path := filepath.Join(copyDir(file), name)
	if _, err := os.Stat(path); err != nil {
		return "", ErrNotFound
	}
	return path, nil
}

// TakeCopy takes a copy now, because somebody asks for it: it stays until it is deleted by hand.
func (s *Store) TakeCopy(ctx context.Context) (string, Counted, error) {
	return s.takeCopy(ctx, time.Now().Format(askedName))
}

func (s *Store) takeCopy(ctx context.Context, name string) (string, Counted, error) {
	if err := os.MkdirAll(s.CopyDir(), 0o700); err != nil {
		return name, Counted{}, err
	}
	broken, err := filepath.Glob(filepath.Join(s.CopyDir(), "kollaris-*.part"))
	if err != nil {
		return name, Counted{}, err
	}
	for _, f := range broken { // of a program that was killed meanwhile
		if about, err := os.Stat(f); err == nil && time.Since(about.ModTime()) > time.Hour {
			os.Remove(f) //nolint:errcheck // it may be gone
		}
	}
	n, err := s.Backup(ctx, filepath.Join(s.CopyDir(), name))
	return name, n, err
}

// CheckCopy reads one of the copies through, and remembers that as the time of its file.
func (s *Store) CheckCopy(ctx context.Context, name string) (Counted, error) {
	file, err := s.CopyFile(name)
	if err != nil {
		return Counted{}, err
	}
	n, err := Verify(ctx, file)
	if err == nil {
		err = os.Chtimes(file, time.Time{}, time.Now())
	}
	return n, err
}

// Rolling takes the copy of a day that has none yet, and takes away those of its own that are no longer wanted.
// A program that runs calls it now and then.
func (s *Store) Rolling(ctx context.Context, now time.Time) error {
	h, err := s.Household(ctx)
	if err != nil {
		return err
	}
	name := now.Format(autoName)
	if _, err := s.CopyFile(name); err != nil {
		if _, _, err := s.takeCopy(ctx, name); err != nil {
			return err
		}
	}
	have, err := s.Copies()
	if err != nil {
		return err
	}
	daily, weekly := h.Copies()
	for _, c := range surplus(have, daily, weekly) {
		if err := os.Remove(filepath.Join(s.CopyDir(), c.Name)); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// Copies is how many copies are kept: of the last days that have one, and of the last weeks.
func (h Household) Copies() (daily, weekly int) {
	of := func(x, usual int) int {
		if x < 1 || x > mostCopies {
			return usual
		}
		return x
	}
	return of(h.DailyCopies, DailyCopies), of(h.WeeklyCopies, WeeklyCopies)
}

// surplus are the automatic copies, of a list that begins with the newest, which are neither one of the last daily days nor
// the newest of one of the last weekly weeks (ISO 8601). Days and weeks that have none do not count, so that a program that
// was not started for a year still has its copies.
func surplus(have []Copy, daily, weekly int) []Copy {
	var out []Copy
	days, weeks := 0, map[string]bool{}
	for _, c := range have {
		if !c.Auto {
			continue
		}
		year, n := c.Taken.ISOWeek()
		week := fmt.Sprint(year, " ", n)
		fits := false
		if days < daily {
			days, fits = days+1, true
		}
		if !weeks[week] && len(weeks) < weekly {
			weeks[week], fits = true, true
		}
		if !fits {
			out = append(out, c)
		}
	}
	return out
}

// synced has what was written to a file on the disk.
func synced(file string) error {
	f, err := os.OpenFile(file, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	defer f.Close()
	return f.Sync()
}

// private lets nobody else of this machine read the file, nor look into a folder that is made for it. Windows keeps a
// user's folder by other means.
func private(file string) error {
	if dir := filepath.Dir(file); dir != "." {
		if err := os.MkdirAll(dir, 0o700); err != nil {
			return err
		}
	}
	f, err := os.OpenFile(file, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return err
	}
	defer f.Close()
	about, err := f.Stat()
	if err != nil || runtime.GOOS == "windows" || about.Mode().Perm()&0o077 == 0 {
		return err
	}
	return f.Chmod(0o600)
}

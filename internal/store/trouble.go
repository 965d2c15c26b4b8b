package store

import (
	"context"
	"errors"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"syscall"

	"modernc.org/sqlite"
	lib "modernc.org/sqlite/lib"
)

// Trouble is something about the file that whoever keeps it can put right.
type Trouble string

// The troubles that are told apart.
const (
	NoTrouble  Trouble = ""
	DiskFull   Trouble = "the disk is full"
	FileBusy   Trouble = "another program holds the file"
	FileFixed  Trouble = "the file or its folder may not be written to"
	FileBroken Trouble = "the file is damaged"
	FileAway   Trouble = "the file or the disk cannot be read"
	FileMoved  Trouble = "the file is gone, or another lies in its place"
)

// TroubleOf tells what is the matter with the file from what a call returned; NoTrouble where it is something else.
func TroubleOf(err error) Trouble {
	var se *sqlite.Error
	switch {
	case err == nil:
		return NoTrouble
	case errors.Is(err, syscall.ENOSPC), onWindows(err, 112, 39): // ERROR_DISK_FULL, ERROR_HANDLE_DISK_FULL
		return DiskFull
	case errors.Is(err, ErrDamaged):
		return FileBroken
	case errors.Is(err, ErrMoved):
		return FileMoved
	case errors.Is(err, fs.ErrPermission), errors.Is(err, syscall.EROFS):
		return FileFixed
	case errors.As(err, &se):
		if se.Code() == lib.SQLITE_CONSTRAINT_COMMITHOOK { // guarded
			return FileMoved
		}
		switch se.Code() & 0xff { // the kind; what is above tells more of it
		case lib.SQLITE_FULL:
			return DiskFull
		case lib.SQLITE_BUSY, lib.SQLITE_LOCKED:
			return FileBusy
		case lib.SQLITE_READONLY, lib.SQLITE_PERM:
			return FileFixed
		case lib.SQLITE_CORRUPT, lib.SQLITE_NOTADB:
			return FileBroken
		case lib.SQLITE_IOERR, lib.SQLITE_CANTOPEN:
			return FileAway
		}
	}
	return NoTrouble
}

// onWindows tells whether it is one of these errors of that system, whose numbers Go's names of the others do not match.
func onWindows(err error, numbers ...syscall.Errno) bool {
	var no syscall.Errno
	return runtime.GOOS == "windows" && errors.As(err, &no) && slices.Contains(numbers, no)
}

// AddressTaken tells whether an address could not be listened at because another program does.
func AddressTaken(err error) bool {
	return errors.Is(err, syscall.EADDRINUSE) || onWindows(err, 10048) // WSAEADDRINUSE
}

// WhatToDo says what would do about it.
func (t Trouble) WhatToDo() string {
	switch t {
	case DiskFull:
		return "Make room on it, then do it again. Nothing that was kept before is lost."
	case FileBusy:
		return "Wait a moment and do it again. If it stays, close other windows and programs that use the file."
	case FileFixed:
		return "Give the program leave to write there, or start it with another file. Nothing that was kept before is lost."
	case FileBroken:
		return "Stop the program and bring back a backup: “kollaris restore” with one of those in its folder of backups. What is there now is kept beside it."
	case FileAway:
		return "See that the disk is there and well, then do it again."
	case FileMoved:
		return "Nothing more is written down: it would be lost. Take a copy under Settings, Backups, and carry it away: it holds all that was kept. Then stop the program, and put the file back or bring back that copy with “kollaris restore”."
	}
	return ""
}

// Health asks the database: that it reads, that it takes a write, which is rolled back, that the file is where it was and begins as one
// does, and that the disk has room for a page more.
func (s *Store) Health(ctx context.Context) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback() //nolint:errcheck // it is not to be kept
	var n int
	if err := tx.QueryRowContext(ctx, "SELECT count(*) FROM household").Scan(&n); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, "INSERT INTO phrase (phrase, ingredient) VALUES ('health ' || hex(randomblob(16)), 'salt')"); err != nil {
		return err
	}
	if err := s.place.holds(); err != nil {
		return err
	}
	if err := headed(s.file); err != nil {
		return err
	}
	return roomBeside(s.file)
}

// headed looks at the file itself for what every database begins with: what a line has read of it stays remembered.
func headed(file string) error {
	head := make([]byte, len(sqliteHead))
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	if _, err := io.ReadFull(f, head); err != nil || string(head) != sqliteHead {
		return errors.Join(ErrDamaged, err)
	}
	return nil
}

// roomBeside writes a page beside the file and takes it away.
func roomBeside(file string) error {
	f, err := os.CreateTemp(filepath.Dir(file), ".kollaris-room-*")
	if err != nil {
		return err
	}
	defer os.Remove(f.Name()) //nolint:errcheck // nothing hangs on it
	_, err = f.Write(make([]byte, 4096))
	return errors.Join(err, f.Close())
}

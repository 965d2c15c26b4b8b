package main

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/gofrs/flock"
	"github.com/spf13/cobra"

	"kollaris/internal/store"
)

func backupCommand() *cobra.Command {
	var db string
	c := &cobra.Command{
		Use: "backup FILE [--db FILE]", Short: "Copy the database, while it is used or not, and read the copy through", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			file, err := dbFile(db)
			if err != nil {
				return err
			}
			if _, err := os.Stat(file); err != nil {
				return unusable("there is no database at %s: name one with --db", file)
			}
			st, err := openStore(c, db)
			if err != nil {
				return err
			}
			defer st.Close()
			if args[0] == "" {
				return unusable("a backup needs a name: kollaris backup FILE")
			}
			n, err := st.Backup(c.Context(), args[0])
			if err != nil {
				return troubled("no backup was made", err)
			}
			fmt.Fprintf(c.OutOrStdout(), "%s: %s. It was read through, and is whole.\n", args[0], counted(n))
			return nil
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	return c
}

func restoreCommand() *cobra.Command {
	var db string
	c := &cobra.Command{
		Use: "restore FILE [--db FILE]", Short: "Put a backup in the place of the database, which is kept beside it", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			file, err := dbFile(db)
			if err != nil {
				return err
			}
			held, _, err := hold(file)
			if err != nil {
				return err
			}
			if held == nil {
				return fmt.Errorf("%s is used by a running Kollaris: stop it first, or bring the backup back on its Settings page", file)
			}
			defer held.Unlock() //nolint:errcheck // the program ends
			n, kept, err := store.PutBack(c.Context(), args[0], file)
			if err != nil {
				return troubled("nothing was brought back", err)
			}
			fmt.Fprintf(c.OutOrStdout(), "Brought back: %s.\n", counted(n))
			if kept != "" {
				fmt.Fprintf(c.OutOrStdout(), "What was there before is kept as %s\n", kept)
			}
			return nil
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	return c
}

func counted(n store.Counted) string {
	return fmt.Sprintf("%d recipes, %d versions, %d people, %d bakes, %.1f MB", n.Recipes, n.Versions, n.People, n.Bakes, float64(n.Size)/1e6)
}

// troubled says what did not happen, why, and what would do where that is known.
func troubled(what string, err error) error {
	if errors.Is(err, os.ErrNotExist) {
		return unusable("%s: %v", what, err)
	}
	if t := store.TroubleOf(err); t != store.NoTrouble {
		return fmt.Errorf("%s: %s (%w). %s", what, t, err, t.WhatToDo())
	}
	return fmt.Errorf("%s: %w", what, err)
}

// unopened says what would do about a database that cannot be opened.
func unopened(what string, err error) error {
	var at *fs.PathError
	if store.TroubleOf(err) == store.NoTrouble && (errors.Is(err, store.ErrForeign) || errors.Is(err, store.ErrNoDatabase) || errors.As(err, &at)) {
		return fmt.Errorf("%s: %w: name another file with --db, or bring back a backup in its place with “kollaris restore”", what, err)
	}
	return troubled(what, err)
}

// hold takes the file for this program alone; nil where another one has it, and address is then where that one answers.
// The lock is the system's and goes with the program, however that ends.
func hold(file string) (held *flock.Flock, address string, err error) {
	if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
		return nil, "", unopened("the folder cannot be used", err)
	}
	l := flock.New(file+".lock", flock.SetPermissions(0o600), flock.SetFlag(os.O_CREATE|os.O_RDWR))
	got, err := l.TryLock()
	if err != nil {
		return nil, "", troubled("the file cannot be used", err)
	}
	if got {
		return l, "", nil
	}
	at, err := os.ReadFile(file + ".address")
	if errors.Is(err, os.ErrNotExist) {
		err = nil
	}
	return nil, string(at), err
}

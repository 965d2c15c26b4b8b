package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"
)

func everythingCommand() *cobra.Command {
	var db, zipFile, from string
	c := &cobra.Command{
		Use: "everything --zip FILE|--from FILE [--db FILE]", Short: "All that the household has, out and back", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			st, err := openStore(c, db)
			if err != nil {
				return err
			}
			defer st.Close()
			if from != "" {
				f, size, err := openZip(from)
				if err != nil {
					return err
				}
				defer f.Close()
				n, err := st.BringEverything(c.Context(), f, size)
				if err == nil {
					fmt.Fprintf(c.OutOrStdout(), "Everything is back: %d recipes, and all that belongs to them.\n", n)
				}
				return err
			}
			return writeNew(c, zipFile, func(w io.Writer) error { return st.Everything(c.Context(), w, nil) })
		},
	}
	c.Flags().StringVar(&zipFile, "zip", "", "write it into a zip; - for standard output")
	c.Flags().StringVar(&from, "from", "", "bring such a zip into an empty database")
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	c.MarkFlagsMutuallyExclusive("zip", "from")
	c.MarkFlagsOneRequired("zip", "from")
	return c
}

// openZip opens a zip to be brought in; size is its bytes.
func openZip(file string) (f *os.File, size int64, err error) {
	if f, err = os.Open(file); err != nil {
		return nil, 0, fmt.Errorf("cannot read the zip: %w", err)
	}
	info, err := f.Stat()
	if err != nil {
		return nil, 0, errors.Join(fmt.Errorf("cannot read the zip: %w", err), f.Close())
	}
	return f, info.Size(), nil
}

// writeNew writes a file that is not there yet, or to standard output for "-".
func writeNew(c *cobra.Command, file string, write func(io.Writer) error) error {
	if file == "-" {
		return write(c.OutOrStdout())
	}
	f, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return fmt.Errorf("cannot write the zip: %w", err)
	}
	if err := write(f); err != nil {
		f.Close()
		return err
	}
	return f.Close()
}

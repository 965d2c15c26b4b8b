package main

import (
	"fmt"
	"io"
	"time"

	"github.com/spf13/cobra"

	"kollaris/core/larder"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// wireLogged is a bake as programs read it.
type wireLogged struct {
	At      time.Time `json:"at"`
	Title   string    `json:"title"`
	Recipe  int64     `json:"recipe"` // 0 where it is no longer there
	Bake    int64     `json:"bake"`
	Overall int       `json:"overall"`
	Words   string    `json:"words"`
	Who     string    `json:"who,omitempty"`
}

func logCommand() *cobra.Command {
	var asJSON, asCSV, asMarkdown bool
	var db, zipFile, from string
	c := &cobra.Command{
		Use: "log [--json|--csv|--md|--zip FILE|--from FILE] [--db FILE]", Short: "What was baked, and what came of it", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			st, err := openStore(c, db)
			if err != nil {
				return err
			}
			defer st.Close()
			out := c.OutOrStdout()
			switch {
			case asCSV:
				return journal.CSV(c.Context(), st, out)
			case asMarkdown:
				return journal.Markdown(c.Context(), st, out)
			case zipFile != "":
				return takeLog(c, st, zipFile)
			case from != "":
				return bringLog(c, st, from)
			}
			return printLog(c, st, asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	c.Flags().BoolVar(&asCSV, "csv", false, "write a table")
	c.Flags().BoolVar(&asMarkdown, "md", false, "write a page to read")
	c.Flags().StringVar(&zipFile, "zip", "", "write all of it, with its pictures, into a zip; - for standard output")
	c.Flags().StringVar(&from, "from", "", "bring a log back from such a zip")
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	c.MarkFlagsMutuallyExclusive("json", "csv", "md", "zip", "from")
	return c
}

// printLog prints the log, the last first.
func printLog(c *cobra.Command, st *store.Store, asJSON bool) error {
	lines, err := st.Log(c.Context(), 0)
	if err != nil {
		return err
	}
	all := []wireLogged{}
	for _, l := range lines {
		all = append(all, wireLogged{l.At, l.Title, l.Recipe, l.Bake, l.Overall, l.Words, l.Who})
	}
	if asJSON {
		return writeJSON(c.OutOrStdout(), all)
	}
	for _, l := range all {
		fmt.Fprintf(c.OutOrStdout(), "%s  %s  %s\n", l.At.Local().Format("2006-01-02"), l.Title, l.Words)
	}
	if len(all) == 0 {
		fmt.Fprintln(c.OutOrStdout(), "Nothing was baked yet.")
	}
	return nil
}

// takeLog writes the log into a zip; a file that is there already stays.
func takeLog(c *cobra.Command, st *store.Store, file string) error {
	return writeNew(c, file, func(w io.Writer) error { return journal.Zip(c.Context(), st, w) })
}

// bringLog brings a log back from a zip.
func bringLog(c *cobra.Command, st *store.Store, file string) error {
	f, size, err := openZip(file)
	if err != nil {
		return err
	}
	defer f.Close()
	came, there, err := journal.Bring(c.Context(), st, larder.Builtin(), f, size)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	fmt.Fprintf(c.OutOrStdout(), "%d came, %d were there already.\n", came, there)
	return nil
}

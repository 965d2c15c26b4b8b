package main

import (
	"encoding/csv"
	"fmt"
	"strconv"
	"time"

	"github.com/spf13/cobra"

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
}

func logCommand() *cobra.Command {
	var asJSON, asCSV bool
	var db string
	c := &cobra.Command{
		Use: "log [--json|--csv] [--db FILE]", Short: "What was baked, and what came of it", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			file, err := dbFile(db)
			if err != nil {
				return err
			}
			st, err := store.Open(c.Context(), file)
			if err != nil {
				return fmt.Errorf("cannot use the database: %w", err)
			}
			defer st.Close()
			lines, err := st.Log(c.Context(), 0)
			if err != nil {
				return err
			}
			all := []wireLogged{}
			for _, l := range lines {
				all = append(all, wireLogged{l.At, l.Title, l.Recipe, l.Bake, l.Overall, l.Words})
			}
			out := c.OutOrStdout()
			switch {
			case asJSON:
				return writeJSON(out, all)
			case asCSV:
				w := csv.NewWriter(out)
				_ = w.Write([]string{"at", "title", "recipe", "bake", "overall", "words"})
				for _, l := range all {
					_ = w.Write([]string{l.At.Format(time.RFC3339), l.Title, strconv.FormatInt(l.Recipe, 10), strconv.FormatInt(l.Bake, 10), strconv.Itoa(l.Overall), l.Words})
				}
				w.Flush()
				return w.Error()
			}
			for _, l := range all {
				fmt.Fprintf(out, "%s  %s  %s\n", l.At.Local().Format("2006-01-02"), l.Title, l.Words)
			}
			if len(all) == 0 {
				fmt.Fprintln(out, "Nothing was baked yet.")
			}
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	c.Flags().BoolVar(&asCSV, "csv", false, "write a table")
	c.Flags().StringVar(&db, "db", "", "database file (default: kollaris.db in your data directory)")
	return c
}

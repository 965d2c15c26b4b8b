package main

import (
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"kollaris/core/adapt"
	"kollaris/core/phrase"
	"kollaris/core/tasting"
	"kollaris/core/why"
)

// wireCause is a cause as programs read it.
type wireCause struct {
	Cause   string   `json:"cause"`
	Words   string   `json:"words"`
	Odds    float64  `json:"odds"`
	For     []string `json:"for"`
	Against []string `json:"against"`
	Tell    string   `json:"tell"`
	Change  string   `json:"change"`
}

// mostCauses is how many are named. Source: practice: more than three nobody tries.
const mostCauses = 3

func whyCommand() *cobra.Command {
	var asJSON, list bool
	var shows, denied []string
	var flags adaptFlags
	c := &cobra.Command{
		Use:   "why --symptom gummy [--symptom low]… [--json] [adapt's flags] [FILE|-]",
		Short: "What may be behind a fault, and the one change to try",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			out := c.OutOrStdout()
			if list {
				for _, s := range why.Symptoms() {
					fmt.Fprintf(out, "%-12s %s\n", s.ID, s.Words)
				}
				return nil
			}
			if len(shows) == 0 {
				return unusable("say what is seen: --symptom gummy; --symptoms lists them")
			}
			for _, id := range append(shows, denied...) {
				if _, ok := why.Find(id); !ok {
					return unusable("“%s” is no symptom: --symptoms lists them", phrase.Clip(id, 30))
				}
			}
			kit := adapt.DefaultKit()
			req, err := flags.request(kit)
			if err != nil {
				return err
			}
			asked := why.Case{Is: map[string]bool{"wheat": true, "chemical": true}}
			if len(args) == 1 {
				_, res, err := adapted(c.InOrStdin(), args[0], req, kit)
				if err != nil {
					return err
				}
				asked = why.Of(res, kit)
			}
			asked.Symptoms, asked.Denied = shows, denied
			return printCauses(out, asked, asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	c.Flags().BoolVar(&list, "symptoms", false, "list the symptoms")
	c.Flags().StringArrayVar(&shows, "symptom", nil, "what is seen or tasted, by its id; may be given several times")
	c.Flags().StringArrayVar(&denied, "not", nil, "what is not seen")
	flags.add(c.Flags())
	return c
}

func printCauses(out io.Writer, asked why.Case, asJSON bool) error {
	found := why.Diagnose(asked)
	if asJSON {
		all := []wireCause{}
		for _, f := range found {
			all = append(all, wireCause{f.ID, f.Words, math.Round(1000*f.Odds) / 1000, list(f.For), list(f.Against), f.Tell, f.Change})
		}
		return writeJSON(out, all)
	}
	for _, f := range found[:min(len(found), mostCauses)] {
		fmt.Fprintf(out, "%.0f %%  %s.\n", 100*f.Odds, phrase.Capital(f.Words))
		for _, w := range f.For {
			fmt.Fprintf(out, "      for: %s\n", w)
		}
		for _, w := range f.Against {
			fmt.Fprintf(out, "      against: %s\n", w)
		}
		fmt.Fprintf(out, "      %s\n      Next time, this alone: %s\n", f.Tell, f.Change)
	}
	if q, ok := why.Ask(asked); ok {
		fmt.Fprintf(out, "What would part them: %s\n", q.Tell)
	}
	return nil
}

func triangleCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use: "triangle RIGHT OF", Short: "Can anybody tell? What so many right answers of a triangle test mean", Args: cobra.ExactArgs(2),
		RunE: func(c *cobra.Command, args []string) error {
			right, err := strconv.Atoi(strings.TrimSpace(args[0]))
			of, err2 := strconv.Atoi(strings.TrimSpace(args[1]))
			if err != nil || err2 != nil {
				return unusable("%v", tasting.ErrTasters)
			}
			t, err := tasting.Tri(right, of)
			if err != nil {
				return unusable("%v", err)
			}
			if asJSON {
				return writeJSON(c.OutOrStdout(), map[string]any{"right": right, "of": of, "chance": t.Chance, "tasters_needed": t.Tasters, "right_wanted": tasting.RightWanted(of, 0.05)})
			}
			fmt.Fprintf(c.OutOrStdout(), "%s\nA difference that three in ten taste is found by %d tasters, eight times in ten; of %d, %s.\n", t.Words(), t.Tasters, of, wantedWords(of))
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	return c
}

func wantedWords(of int) string {
	k := tasting.RightWanted(of, 0.05)
	if k > of {
		return "not even all right would rule out chance"
	}
	return fmt.Sprintf("%d right would rule out chance", k)
}

package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/plan"
	"kollaris/format"
)

// wirePlan is a timetable.
type wirePlan struct {
	Feasible bool           `json:"feasible"`
	Begin    string         `json:"begin"`
	Ready    string         `json:"ready"`
	Busy     int            `json:"busy_min"`
	Late     []wireLate     `json:"late"`
	Broken   []string       `json:"broken"` // what waits longer than it keeps
	Tasks    []wirePlanTask `json:"tasks"`
}

type wireLate struct {
	Task    string   `json:"task"`
	By      int      `json:"by_min"`
	WaysOut []string `json:"ways_out"`
}

type wirePlanTask struct {
	Bake  string  `json:"bake"`
	Verb  string  `json:"verb"`
	Text  string  `json:"text"`
	From  string  `json:"from"`
	To    string  `json:"to"`    // when what waits is ready
	Hands int     `json:"hands"` // minutes
	Where string  `json:"where"`
	Oven  string  `json:"oven,omitempty"`
	Heat  float64 `json:"oven_c,omitempty"`
}

// planFlags say when and with what.
type planFlags struct {
	eat, now, awake, ics string
	ovens                []string
	cooks                int
	room                 string
}

// someFiles asks for one recipe's file at least.
func someFiles(_ *cobra.Command, args []string) error {
	if len(args) == 0 {
		return unusable("name one recipe's file or more")
	}
	return nil
}

func planCommand() *cobra.Command {
	var asJSON bool
	var flags adaptFlags
	var p planFlags
	c := &cobra.Command{
		Use:   "plan --eat 2026-12-05T09:00 [adapt's flags] FILE…",
		Short: "Count backwards from the meal: when to begin, and with what",
		Args:  someFiles,
		RunE: func(c *cobra.Command, args []string) error {
			kit := adapt.DefaultKit()
			req, err := flags.request(kit)
			if err != nil {
				return err
			}
			made, names, err := p.plan(c.InOrStdin(), args, req, kit)
			if err != nil {
				return err
			}
			if p.ics != "" {
				now := time.Now()
				id := strings.Join(names, "|") + made.Ready.Format("2006-01-02")
				if err := os.WriteFile(p.ics, format.Calendar(id, names, made, int(now.Unix()/60), now), 0o644); err != nil {
					return unusable("the calendar cannot be written: %v", err)
				}
			}
			if asJSON {
				return writeJSON(c.OutOrStdout(), planOf(made, names))
			}
			printPlan(c.OutOrStdout(), made, names)
			return nil
		},
	}
	f := c.Flags()
	f.BoolVar(&asJSON, "json", false, "write one JSON document")
	f.StringVar(&p.eat, "eat", "", "when it is eaten: 2026-12-05T09:00")
	f.StringVar(&p.now, "now", "", "nothing can begin before: 2026-12-05T06:00, or “now”")
	f.StringVar(&p.awake, "awake", "06:00-22:30", "hours in which hands work; “always”")
	f.StringVar(&p.ics, "ics", "", "write the calendar to this file")
	f.StringArrayVar(&p.ovens, "oven", nil, "an oven, with the minutes it takes to be hot: “gas oven=15”; may be given more than once")
	f.StringVar(&p.room, "room", "", "how warm it is where dough proves: 20, 68F")
	f.IntVar(&p.cooks, "cooks", 1, "how many work at a time")
	flags.add(f)
	return c
}

// plan adapts the files and plans them.
func (p planFlags) plan(stdin io.Reader, files []string, req adapt.Request, kit adapt.Kit) (*plan.Plan, []string, error) {
	eat, err := localTime(p.eat)
	if err != nil {
		return nil, nil, unusable("%v", plan.ErrNoReady)
	}
	k := plan.Kitchen{Cooks: p.cooks}
	if k.Cooks < 1 || k.Cooks > 9 {
		return nil, nil, unusable("%d cooks cannot be planned with: try 1 to 9", p.cooks)
	}
	switch {
	case p.now == "now":
		k.Now = time.Now()
	case p.now != "":
		if k.Now, err = localTime(p.now); err != nil {
			return nil, nil, unusable("“%s” is no time: try 2026-12-05T06:00", p.now)
		}
	}
	if p.room != "" {
		t, ok := measure.ParseTemperature(p.room, false)
		if !ok || t < 5 || t > 45 {
			return nil, nil, unusable("“%s” is not how warm a kitchen is: try 21 or 70F", p.room)
		}
		k.Room = t
	}
	if p.awake != "always" {
		from, to, ok := strings.Cut(p.awake, "-")
		if !ok {
			return nil, nil, unusable("“%s” are no hours: try 06:00-22:30", p.awake)
		}
		k.Awake = [2]string{strings.TrimSpace(from), strings.TrimSpace(to)}
	}
	for _, o := range p.ovens {
		name, heat, _ := strings.Cut(o, "=")
		oven := plan.Oven{Name: strings.TrimSpace(name)}
		if heat != "" {
			if _, err := fmt.Sscanf(heat, "%d", &oven.Preheat); err != nil || oven.Preheat < 1 || oven.Preheat > 120 {
				return nil, nil, unusable("“%s” are no minutes to be hot: try 20", heat)
			}
		}
		k.Ovens = append(k.Ovens, oven)
	}
	var bakes []plan.Bake
	var names []string
	for _, file := range files {
		_, res, err := adapted(stdin, file, req, kit)
		if err != nil {
			return nil, nil, err
		}
		if res.Refused != nil {
			return nil, nil, exitError{exitRefused, fmt.Sprintf("%s: %s", filepath.Base(file), res.Refused.Reason)}
		}
		bakes = append(bakes, plan.Bake{Name: res.Recipe.Title, Tasks: res.Method, Ready: eat})
		names = append(names, res.Recipe.Title)
	}
	made, err := plan.Make(bakes, k)
	if err != nil {
		return nil, nil, unusable("%v", err)
	}
	return made, names, nil
}

// localTime reads a time of the machine's zone, or one with its own.
func localTime(s string) (time.Time, error) {
	if t, err := time.Parse(time.RFC3339, s); err == nil {
		return t, nil
	}
	for _, layout := range []string{"2006-01-02T15:04", "2006-01-02 15:04"} {
		if t, err := time.ParseInLocation(layout, s, time.Local); err == nil {
			return t, nil
		}
	}
	return time.Time{}, fmt.Errorf("“%s” is no time", s)
}

func planOf(p *plan.Plan, names []string) wirePlan {
	w := wirePlan{
		Feasible: p.Feasible, Begin: p.Begin.Format(time.RFC3339), Ready: p.Ready.Format(time.RFC3339), Busy: p.Busy,
		Late: []wireLate{}, Broken: list(p.Broken), Tasks: []wirePlanTask{},
	}
	for _, l := range p.Late {
		w.Late = append(w.Late, wireLate{l.Text, l.By, list(l.WaysOut)})
	}
	for _, t := range p.Tasks {
		w.Tasks = append(w.Tasks, wirePlanTask{
			names[t.Bake], string(t.Verb), t.Text, t.From.Format(time.RFC3339), t.To.Format(time.RFC3339),
			int(t.Hands.Sub(t.From) / time.Minute), string(t.Where), t.Oven, float64(t.Task.Oven),
		})
	}
	return w
}

func printPlan(w io.Writer, p *plan.Plan, names []string) {
	fmt.Fprintf(w, "Begin %s. Ready %s. Hands %s in all.\n", p.Begin.Format("Mon 2 Jan 15:04"), p.Ready.Format("Mon 2 Jan 15:04"), plan.Long(p.Busy))
	for _, l := range p.Late {
		fmt.Fprintf(w, "✕ Late by %s: %s\n", plan.Long(l.By), l.Text)
		for _, way := range l.WaysOut {
			fmt.Fprintf(w, "  · %s\n", way)
		}
	}
	for _, b := range p.Broken {
		fmt.Fprintf(w, "? %s\n", b)
	}
	if p.Order != "" {
		fmt.Fprintln(w, p.Order)
	}
	if !p.Whole {
		fmt.Fprintln(w, "? There are more orders than could be tried: this is a good one, perhaps not the best.")
	}
	fmt.Fprintln(w)
	tw := tabwriter.NewWriter(w, 0, 4, 2, ' ', 0)
	for _, t := range p.Tasks {
		name := ""
		if len(names) > 1 {
			name = names[t.Bake] + "\t"
		}
		until := ""
		if t.To.After(t.Hands) {
			until = "till " + t.To.Format("15:04")
		}
		where := t.Task.Text
		if t.Oven != "" {
			where += " (" + t.Oven + ")"
		}
		fmt.Fprintf(tw, "%s\t%s\t%s%s\n", t.From.Format("Mon 15:04"), until, name, where)
	}
	tw.Flush()
}

// wireBuy is something to have in the house.
type wireBuy struct {
	Ingredient string   `json:"ingredient"`
	Name       string   `json:"name"`
	Grams      float64  `json:"grams"`
	Buy        string   `json:"buy"` // as a kitchen would say it
	Labels     []string `json:"labels"`
}

func shopCommand() *cobra.Command {
	var asJSON bool
	var flags adaptFlags
	c := &cobra.Command{
		Use:   "shop [adapt's flags] FILE…",
		Short: "What is needed for one bake or several, in one list",
		Args:  someFiles,
		RunE: func(c *cobra.Command, args []string) error {
			kit := adapt.DefaultKit()
			req, err := flags.request(kit)
			if err != nil {
				return err
			}
			var results []*adapt.Result
			for _, file := range args {
				_, res, err := adapted(c.InOrStdin(), file, req, kit)
				if err != nil {
					return err
				}
				if res.Refused != nil {
					return exitError{exitRefused, fmt.Sprintf("%s: %s", filepath.Base(file), res.Refused.Reason)}
				}
				results = append(results, res)
			}
			buys := []wireBuy{}
			for _, b := range adapt.Shopping(results, kit) {
				buys = append(buys, wireBuy{string(b.Ingredient), b.Name, tidy(b.Grams), b.Buy, list(b.Labels)})
			}
			if asJSON {
				return writeJSON(c.OutOrStdout(), buys)
			}
			for _, b := range buys {
				fmt.Fprintf(c.OutOrStdout(), "%s %s\n", b.Buy, b.Name)
				for _, l := range b.Labels {
					fmt.Fprintf(c.OutOrStdout(), "  · %s\n", l)
				}
			}
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	flags.add(c.Flags())
	return c
}

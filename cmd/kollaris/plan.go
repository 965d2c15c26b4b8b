package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strconv"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/plan"
	"kollaris/format"
	"kollaris/internal/store"
)

// wirePlan is a timetable.
type wirePlan struct {
	Feasible bool           `json:"feasible"`
	Begin    string         `json:"begin"`
	Ready    string         `json:"ready"`
	Soonest  string         `json:"soonest,omitempty"` // when it could be ready, where it is late
	Busy     int            `json:"busy_min"`
	Whole    bool           `json:"whole"` // every order was tried
	Late     []wireLate     `json:"late"`
	Ways     []wireWay      `json:"ways_out"`
	Broken   []string       `json:"broken"` // what waits longer than it keeps
	Order    string         `json:"order,omitempty"`
	Clashes  []string       `json:"clashes"` // bakes between which all is washed
	Tasks    []wirePlanTask `json:"tasks"`
	Notes    []wireNote     `json:"notes"` // for a day, without an hour
}

type wireLate struct {
	Task    string   `json:"task"`
	By      int      `json:"by_min"`
	WaysOut []string `json:"ways_out"`
}

type wireWay struct {
	Words string `json:"words"`
	Late  int    `json:"late_min"` // even so
}

type wireNote struct {
	Bake string `json:"bake"`
	On   string `json:"on"` // date
	Text string `json:"text"`
}

type wirePlanTask struct {
	Bake  string  `json:"bake"`
	Verb  string  `json:"verb"`
	Text  string  `json:"text"`
	Note  string  `json:"note,omitempty"`
	From  string  `json:"from"`
	To    string  `json:"to"`    // when what waits is ready
	Hands int     `json:"hands"` // minutes
	Where string  `json:"where"`
	Oven  string  `json:"oven,omitempty"`
	Heat  float64 `json:"oven_c,omitempty"`
	Slack int     `json:"slack_min,omitempty"` // by which it may begin earlier
}

// planFlags say when and with what.
type planFlags struct {
	sourceFlags
	eat, now, awake, away, ics, room string
	serve, rise                      string
	ovens                            []string
	cooks                            int
}

// sourceFlags name kept versions of a household's file beside the recipes' own.
type sourceFlags struct {
	versions []int64
	db       string
}

func (s *sourceFlags) add(f *pflag.FlagSet) {
	f.Int64SliceVar(&s.versions, "version", nil, "a kept version by its number, from the household’s file; may be given more than once")
	f.StringVar(&s.db, "db", "", "the household’s file, for --version (default: kollaris.db in your data directory)")
}

// wants asks for one recipe's file or one version at least.
func (s *sourceFlags) wants(_ *cobra.Command, args []string) error {
	if len(args) == 0 && len(s.versions) == 0 {
		return unusable("name one recipe's file or more, or a kept version with --version")
	}
	return nil
}

// house is what of a household's file a plan reckons with.
type house struct {
	day   store.Day
	ovens []store.Oven
}

// results adapts the files and fetches the versions; what cannot be baked is an error.
func (s *sourceFlags) results(c *cobra.Command, files []string, flags *adaptFlags) (names []string, results []*adapt.Result, kit adapt.Kit, h house, err error) {
	kit = adapt.DefaultKit()
	if len(s.versions) > 0 {
		if names, results, h, err = s.kept(c.Context(), &kit); err != nil {
			return nil, nil, kit, h, err
		}
	}
	req, err := flags.request(kit)
	if err != nil {
		return nil, nil, kit, h, err
	}
	for _, file := range files {
		_, res, err := adapted(c.InOrStdin(), file, req, kit)
		if err != nil {
			return nil, nil, kit, h, err
		}
		names, results = append(names, res.Recipe.Title), append(results, res)
	}
	for n, res := range results {
		if res.Refused != nil {
			return nil, nil, kit, h, exitError{exitRefused, fmt.Sprintf("%s: %s", names[n], res.Refused.Reason)}
		}
	}
	return names, results, kit, h, nil
}

// kept fetches the versions from the household's file, with its larder and ovens.
func (s *sourceFlags) kept(ctx context.Context, kit *adapt.Kit) (names []string, results []*adapt.Result, h house, err error) {
	db, err := dbFile(s.db)
	if err != nil {
		return nil, nil, h, err
	}
	if _, err := os.Stat(db); err != nil {
		return nil, nil, h, unusable("there is no household’s file at %s: name it with --db", db)
	}
	st, err := store.Open(ctx, db)
	if err != nil {
		return nil, nil, h, unusable("cannot use the household’s file: %v", err)
	}
	defer st.Close()
	home, err := st.Household(ctx)
	if err != nil {
		return nil, nil, h, err
	}
	own, lost, err := st.Own(ctx)
	if err != nil || len(lost) > 0 {
		return nil, nil, h, unusable("own ingredients of the household cannot be read: open the larder in the application first")
	}
	l, left := kit.Larder.With(own)
	if len(left) > 0 {
		return nil, nil, h, unusable("own ingredients of the household cannot be used: open the larder in the application first")
	}
	kit.Larder, kit.Kitchen, h.day = l, home.Kitchen, home.Day
	if h.ovens, err = st.Ovens(ctx); err != nil {
		return nil, nil, h, err
	}
	for _, id := range s.versions {
		v, err := st.Version(ctx, id)
		switch {
		case errors.Is(err, store.ErrNotFound):
			return nil, nil, h, unusable("no version %d is kept in %s", id, db)
		case err != nil:
			return nil, nil, h, err
		}
		res := v.Result
		if res == nil { // the written recipe itself
			if res, err = adapt.Predicted(v.Doc, adapt.Request{}, *kit); err != nil {
				return nil, nil, h, err
			}
		}
		names, results = append(names, v.Title), append(results, res.Predict(kit.Kitchen))
	}
	return names, results, h, nil
}

func planCommand() *cobra.Command {
	var asJSON bool
	var flags adaptFlags
	var p planFlags
	c := &cobra.Command{
		Use:   "plan --eat 2026-12-05T09:00 [adapt's flags] FILE…",
		Short: "Count backwards from the meal: when to begin, and with what",
		Args:  p.wants,
		RunE: func(c *cobra.Command, args []string) error {
			names, results, kit, h, err := p.results(c, args, &flags)
			if err != nil {
				return err
			}
			bakes := plan.Bakes(names, results, kit)
			made, err := p.plan(bakes, h)
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
				return writeJSON(c.OutOrStdout(), planOf(made, bakes, names))
			}
			printPlan(c.OutOrStdout(), made, bakes, names)
			return nil
		},
	}
	f := c.Flags()
	f.BoolVar(&asJSON, "json", false, "write one JSON document")
	f.StringVar(&p.eat, "eat", "", "when it is eaten: 2026-12-05T09:00")
	f.StringVar(&p.now, "now", "", "nothing can begin before: 2026-12-05T06:00, or “now”")
	f.StringVar(&p.awake, "awake", "", "hours in which hands work (06:00-22:30); “always”")
	f.StringVar(&p.away, "away", "", "hours in which nobody is there: “Mon-Fri 08:30-17:00; Sat 9-12”")
	f.StringVar(&p.serve, "serve", "", "how it is eaten: warm, iced or aged (after a day)")
	f.StringVar(&p.rise, "rise", "", "which rise of a dough is made in the fridge: first, final or none; empty where the hours ask for it")
	f.StringVar(&p.ics, "ics", "", "write the calendar to this file")
	f.StringArrayVar(&p.ovens, "oven", nil, "an oven, with the minutes it takes to be hot: “gas oven=15”; may be given more than once")
	f.StringVar(&p.room, "room", "", "how warm it is where dough proves: 20, 68F")
	f.IntVar(&p.cooks, "cooks", 1, "how many work at a time")
	p.sourceFlags.add(f)
	flags.add(f)
	return c
}

// plan plans the bakes as the flags ask, and where they are silent as the household has it.
func (p *planFlags) plan(bakes []plan.Bake, h house) (*plan.Plan, error) {
	eat, err := localTime(p.eat)
	if err != nil {
		return nil, unusable("%v", plan.ErrNoReady)
	}
	k, err := p.kitchen(h)
	if err != nil {
		return nil, err
	}
	k.Has = h.day.Counts().Has(bakes)
	serve, rise := plan.Serve(p.serve), plan.Retard(p.rise)
	if !serve.Known() {
		return nil, unusable("“%s” is no way to eat it: try warm, iced or aged", p.serve)
	}
	if !rise.Known() {
		return nil, unusable("“%s” is no rise: try first, final or none", p.rise)
	}
	for n := range bakes {
		bakes[n].Ready, bakes[n].Serve, bakes[n].Retard = eat, serve, rise
	}
	made, err := plan.Make(bakes, k)
	if err != nil {
		return nil, unusable("%v", err)
	}
	return made, nil
}

// kitchen is what there is to work with.
func (p *planFlags) kitchen(h house) (k plan.Kitchen, err error) {
	if k.Cooks = p.cooks; k.Cooks == 1 && h.day.Cooks > 1 {
		k.Cooks = h.day.Cooks
	}
	if k.Cooks < 1 || k.Cooks > 9 {
		return k, unusable("%d cooks cannot be planned with: try 1 to 9", p.cooks)
	}
	switch {
	case p.now == "now":
		k.Now = time.Now()
	case p.now != "":
		if k.Now, err = localTime(p.now); err != nil {
			return k, unusable("“%s” is no time: try 2026-12-05T06:00", p.now)
		}
	}
	k.Room = h.day.Room
	if p.room != "" {
		t, ok := measure.ParseTemperature(p.room, false)
		if !ok || t < 5 || t > 45 {
			return k, unusable("“%s” is not how warm a kitchen is: try 21 or 70F", p.room)
		}
		k.Room = t
	}
	k.Awake = [2]string{cmp.Or(h.day.From, "06:00"), cmp.Or(h.day.To, "22:30")}
	switch from, to, ok := strings.Cut(p.awake, "-"); {
	case p.awake == "":
	case p.awake == "always":
		k.Awake = [2]string{}
	case !ok:
		return k, unusable("“%s” are no hours: try 06:00-22:30", p.awake)
	default:
		k.Awake = [2]string{strings.TrimSpace(from), strings.TrimSpace(to)}
	}
	if k.Away, err = plan.ParseAway(cmp.Or(p.away, h.day.Away)); err != nil {
		return k, unusable("%v", err)
	}
	for _, o := range p.ovens {
		name, heat, _ := strings.Cut(o, "=")
		oven := plan.Oven{Name: strings.TrimSpace(name)}
		if heat != "" {
			if oven.Preheat, err = strconv.Atoi(strings.TrimSpace(heat)); err != nil || oven.Preheat < 1 || oven.Preheat > 120 {
				return k, unusable("“%s” are no minutes to be hot: try 20", heat)
			}
		}
		k.Ovens = append(k.Ovens, oven)
	}
	if len(p.ovens) == 0 {
		for _, o := range h.ovens {
			k.Ovens = append(k.Ovens, plan.Oven{Name: o.Name, Preheat: o.Preheat, Width: o.Width, Depth: o.Depth, Shelves: o.Shelves})
		}
	}
	return k, nil
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

func planOf(p *plan.Plan, bakes []plan.Bake, names []string) wirePlan {
	w := wirePlan{
		Feasible: p.Feasible, Begin: p.Begin.Format(time.RFC3339), Ready: p.Ready.Format(time.RFC3339), Busy: p.Busy, Whole: p.Whole,
		Late: []wireLate{}, Ways: []wireWay{}, Broken: list(p.Broken), Order: p.Order, Clashes: list(plan.ClashWords(bakes)),
		Tasks: []wirePlanTask{}, Notes: []wireNote{},
	}
	if !p.Soonest.IsZero() {
		w.Soonest = p.Soonest.Format(time.RFC3339)
	}
	for _, l := range p.Late {
		w.Late = append(w.Late, wireLate{l.Text, l.By, list(l.WaysOut)})
	}
	for _, x := range p.Ways {
		w.Ways = append(w.Ways, wireWay{x.Words, x.Late})
	}
	for _, t := range p.Tasks {
		w.Tasks = append(w.Tasks, wirePlanTask{
			names[t.Bake], string(t.Verb), t.Text, t.Note, t.From.Format(time.RFC3339), t.To.Format(time.RFC3339),
			int(t.Hands.Sub(t.From) / time.Minute), string(t.Where), t.Oven, float64(t.Task.Oven), t.Slack,
		})
	}
	for _, n := range p.Notes {
		w.Notes = append(w.Notes, wireNote{names[n.Bake], n.On.Format(time.DateOnly), n.Text})
	}
	return w
}

func printPlan(w io.Writer, p *plan.Plan, bakes []plan.Bake, names []string) {
	fmt.Fprintf(w, "Begin %s. Ready %s. Hands %s in all.\n", p.Begin.Format("Mon 2 Jan 15:04"), p.Ready.Format("Mon 2 Jan 15:04"), plan.Long(p.Busy))
	for _, l := range p.Late {
		fmt.Fprintf(w, "✕ Late by %s: %s\n", plan.Long(l.By), l.Text)
	}
	for _, b := range p.Broken {
		fmt.Fprintf(w, "? %s\n", b)
	}
	for _, x := range p.Ways {
		even := ""
		if x.Late > 0 {
			even = fmt.Sprintf(" (late by %s even so)", plan.Long(x.Late))
		}
		fmt.Fprintf(w, "  · %s%s\n", x.Words, even)
	}
	if p.Order != "" {
		fmt.Fprintln(w, p.Order)
	}
	for _, c := range plan.ClashWords(bakes) {
		fmt.Fprintf(w, "? %s\n", c)
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
	for _, n := range p.Notes {
		fmt.Fprintf(w, "%s  %s: %s\n", n.On.Format("Mon 2 Jan"), names[n.Bake], n.Text)
	}
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
	var from sourceFlags
	c := &cobra.Command{
		Use:   "shop [adapt's flags] FILE…",
		Short: "What is needed for one bake or several, in one list",
		Args:  from.wants,
		RunE: func(c *cobra.Command, args []string) error {
			_, results, kit, _, err := from.results(c, args, &flags)
			if err != nil {
				return err
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
	from.add(c.Flags())
	flags.add(c.Flags())
	return c
}

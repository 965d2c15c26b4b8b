package main

import (
	"encoding/json"
	"fmt"
	"io"
	"net/url"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/format"
)

func readCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "read [--json] FILE|-",
		Short: "Read a recipe and say what was understood",
		Args:  oneFile,
		RunE: func(c *cobra.Command, args []string) error {
			rd, err := readFile(c.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			if asJSON {
				w := wireOf(rd.Recipe, findingsOf(rd), nil)
				w.wireDoing = doingOf(method.Read(rd.Recipe, larder.Builtin()), rd.Recipe)
				return writeJSON(c.OutOrStdout(), w)
			}
			printReading(c.OutOrStdout(), rd)
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	return c
}

// adaptFlags are the flags by which a recipe is adapted.
type adaptFlags struct {
	diets, bans, swaps, limits, loose, keeps []string
	tin, at, scale, servings                 string
}

func (a *adaptFlags) add(f *pflag.FlagSet) {
	f.StringArrayVar(&a.diets, "diet", nil, "egg-free or dairy-free; may be given more than once")
	f.StringArrayVar(&a.bans, "ban", nil, "an allergen (nuts, soya, sesame …) or an ingredient")
	f.StringArrayVar(&a.loose, "loose", nil, "take off what the recipe is as written: gluten-free, vegan, nuts …")
	f.StringArrayVar(&a.swaps, "swap", nil, "USE=SCHOOL, for instance egg=flax-gel")
	f.StringArrayVar(&a.limits, "limit", nil, "the most of a serving: net-carb=6, sugars=9, added-sugars=5, sweet-load=14, sodium=140")
	f.StringArrayVar(&a.keeps, "keep", nil, "an ingredient that stays as written, such as honey, while others go for a limit")
	f.StringVar(&a.scale, "scale", "", "size of the batch: 2, 0.5")
	f.StringVar(&a.servings, "servings", "", "servings that the whole is cut into")
	f.StringVar(&a.at, "at", "", "the heat of the oven: 180, 350 F, gas 4 or 160 fan")
	f.StringVar(&a.tin, "tin", "", "a tin, as people name it: “loaf 9x5 in”, “round 20 cm”, “muffin”")
}

// request reads the flags; an error says what would do.
func (a *adaptFlags) request(kit adapt.Kit) (adapt.Request, error) {
	for _, d := range a.diets {
		if _, ok := diet.Find(diet.ID(d)); !ok {
			return adapt.Request{}, unusable("“%s” is no diet: the ids are %s", d, dietIDs())
		}
	}
	for _, b := range a.bans {
		if strings.TrimSpace(b) == "" {
			return adapt.Request{}, unusable("--ban names nothing: say what must not be eaten, such as --ban nuts, or leave it out")
		}
	}
	for _, l := range a.limits {
		if _, err := diet.ParseLimit(l); err != nil {
			return adapt.Request{}, unusable("%v", err)
		}
	}
	for _, s := range a.swaps {
		if err := checkSwap(kit, s); err != nil {
			return adapt.Request{}, err
		}
	}
	v := url.Values{"diet": a.diets, "ban": a.bans, "swap": a.swaps, "limit": a.limits, "loose": a.loose, "keep": a.keeps}
	for field, typed := range map[string]string{"tin": a.tin, "at": a.at, "scale": a.scale, "servings": a.servings} {
		if typed != "" {
			v.Set(field, typed)
		}
	}
	req, faults := adapt.ParseRequest(v, kit.Larder)
	if len(faults) > 0 {
		return req, unusable("%s", faults[0].Why)
	}
	return req, nil
}

// adapted reads a file and adapts it.
func adapted(stdin io.Reader, file string, req adapt.Request, kit adapt.Kit) (*reader.Reading, *adapt.Result, error) {
	rd, err := readFile(stdin, file)
	if err != nil {
		return nil, nil, err
	}
	if len(rd.Recipe.Lines) == 0 {
		return nil, nil, unusable("no ingredient line was found: write the ingredients one to a line, each with its amount")
	}
	res, err := adapt.Predicted(rd.Recipe, req, kit)
	return rd, res, err
}

func adaptCommand() *cobra.Command {
	var asJSON bool
	var flags adaptFlags
	c := &cobra.Command{
		Use:   "adapt [--json] [--diet egg-free]… [--ban ID]… [--swap egg=flax-gel]… [--limit net-carb=6]… [--tin NAME] FILE|-",
		Short: "Adapt a recipe and say why",
		Args:  oneFile,
		RunE: func(c *cobra.Command, args []string) error {
			kit := adapt.DefaultKit()
			req, err := flags.request(kit)
			if err != nil {
				return err
			}
			rd, res, err := adapted(c.InOrStdin(), args[0], req, kit)
			if err != nil {
				return err
			}
			if asJSON {
				err = writeJSON(c.OutOrStdout(), adaptedOf(res, findingsOf(rd)))
			} else {
				printAdapted(c.OutOrStdout(), res, findingsOf(rd))
			}
			if err == nil && res.Refused != nil {
				return exitError{exitRefused, ""}
			}
			if err == nil && res.Verdict.State == "stop" {
				return exitError{exitStopped, ""}
			}
			return err
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON document")
	flags.add(c.Flags())
	return c
}

func oneFile(_ *cobra.Command, args []string) error {
	if len(args) != 1 {
		return unusable("name one file, or - for standard input")
	}
	return nil
}

func dietIDs() string {
	var ids []string
	for _, d := range diet.Diets {
		ids = append(ids, string(d.ID))
	}
	return strings.Join(ids, ", ")
}

// checkSwap refuses a use or a school that does not exist, naming those that do.
func checkSwap(kit adapt.Kit, s string) error {
	use, school, ok := strings.Cut(s, "=")
	if !ok {
		use, school, ok = strings.Cut(s, ":")
	}
	id, _, _ := strings.Cut(use, ".") // "sugar.icing"
	u := kit.Swaps.Use(strings.TrimSuffix(id, "-topping"))
	if !ok || u == nil {
		var uses []string
		for _, u := range kit.Swaps.Uses() {
			uses = append(uses, u.ID)
		}
		return unusable("“%s” is no swap: write USE=SCHOOL with a use of %s", s, strings.Join(uses, ", "))
	}
	if school != "as-written" && u.With(school, kit.Larder).School(school) == nil {
		var schools []string
		for _, sc := range u.Schools {
			schools = append(schools, sc.ID)
		}
		return unusable("“%s” is no way to replace %s: there are %s", school, u.Title, strings.Join(append(schools, "as-written"), ", "))
	}
	return nil
}

func readFile(stdin io.Reader, name string) (*reader.Reading, error) {
	in := stdin
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return nil, unusable("%v", err)
		}
		defer f.Close()
		in = f
	}
	data, err := io.ReadAll(io.LimitReader(in, format.MaxFile+1))
	if err != nil {
		return nil, unusable("%s: %v", name, err)
	}
	found := format.Recipes(name, data)
	switch {
	case found[0].Fault != "":
		return nil, unusable("%s: %s", found[0].File, found[0].Fault)
	case len(found) > 1:
		return nil, unusable("%s holds %d recipes: give a file with one", name, len(found))
	}
	rd, err := reader.Read(found[0].Text, reader.Options{})
	if err != nil {
		return nil, unusable("%v", err)
	}
	return rd, nil
}

func writeJSON(w io.Writer, doc any) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(doc)
}

func printReading(w io.Writer, rd *reader.Reading) {
	r := rd.Recipe
	k := measure.DefaultKitchen()
	fmt.Fprintf(
		w, "%s\n%s · serves %d · %s · %g–%g min\n", r.Title, r.Kind.Words(), r.Servings, k.OvenText(r.Oven), r.Bake.Min,
		r.Bake.Max,
	)
	for _, t := range r.Tins {
		fmt.Fprintf(w, "in %s, %.0f ml\n", t.Words(), t.Volume)
	}
	for _, t := range r.OtherTins {
		fmt.Fprintf(w, "or in %s, %.0f ml\n", t.Words(), t.Volume)
	}
	fmt.Fprintf(w, "%d of %d lines understood\n\n", rd.Understood(), len(r.Lines))
	tw := tabwriter.NewWriter(w, 2, 0, 2, ' ', 0)
	for _, l := range r.Lines {
		state := l.How
		if l.Doubt != "" {
			state = "? " + l.Doubt
		}
		fmt.Fprintf(tw, "%s\t%s\t%s\n", measure.Grams(l.Grams), l.Name, state)
	}
	tw.Flush()
	for _, f := range findingsOf(rd) {
		fmt.Fprintf(w, "\n%s %s\n", map[string]string{"stop": "✕", "look": "!", "note": "·"}[f.Severity], f.Message)
	}
}

func printAdapted(w io.Writer, res *adapt.Result, found []wireFinding) {
	fmt.Fprintf(w, "%s\n%s\n", res.Recipe.Title, res.Verdict.Words)
	for _, more := range res.Verdict.More {
		fmt.Fprintln(w, more)
	}
	for _, f := range found {
		if f.Severity != "note" {
			fmt.Fprintf(w, "%s %s\n", map[bool]string{true: "✕", false: "?"}[f.Severity == "stop"], f.Message)
		}
	}
	if res.Refused != nil {
		fmt.Fprintf(w, "\n%s\n", res.Refused.Reason)
		for _, n := range res.Refused.Nearest {
			fmt.Fprintf(w, "  · %s\n", n)
		}
		return
	}
	for _, c := range res.Request.Demand().Covers() {
		fmt.Fprintf(w, "Shut out: %s.\n", c)
	}
	holds, newly, gone := res.Verdict.Allergens("none")
	fmt.Fprintf(w, "Still holds: %s. New: %s. Gone: %s.\n\n", holds, newly, gone)
	for _, l := range res.Recipe.Lines {
		fmt.Fprintf(w, "  %s\n", l.Text)
	}
	for _, c := range res.Changes {
		fmt.Fprintf(w, "\n%s → %s (%s)\n  %s\n", c.Title, toWords(c), c.Confidence, c.Reason)
	}
	fmt.Fprintln(w)
	for n, t := range res.Method {
		fmt.Fprintf(w, "%d. %s\n", n+1, strings.TrimSpace(t.Text+" "+t.Note))
	}
	hands, all := method.Hands(res.Method), method.Total(res.Method)
	fmt.Fprintf(w, "Hands on %.0f to %.0f min, %.0f to %.0f min in all. You need: %s.\n", hands.Min, hands.Max, all.Min, all.Max,
		strings.Join(method.Equipment(res.Method, res.Recipe), ", "))
	f, b := res.Serving, res.ServingBefore
	least := ""
	if len(res.Gaps) > 0 {
		least = "at least "
	}
	fmt.Fprintf(
		w,
		"\nA serving, 1 of %d: "+least+"%.0f kcal (was %.0f), fat %.1f g, carbohydrate %.1f g of which sugars %.1f g, net %.1f g, protein %.1f g, salt %.2f g\n",
		res.Recipe.Servings, f.Energy, b.Energy, f.Fat, f.Carbohydrate, f.Sugars, f.NetCarb, f.Protein, f.Salt,
	)
	for _, l := range res.Limits {
		fmt.Fprintln(w, l.Words)
		for _, way := range l.Ways {
			fmt.Fprintf(w, "  · %s\n", way)
		}
	}
	for _, d := range res.Doubts {
		fmt.Fprintf(w, "? %s\n", d)
	}
	if e := res.Bake; e != nil {
		fmt.Fprintf(
			w, "Bake at %.0f °C %s: look at %.0f min, likely done %.0f–%.0f\n", e.Oven, e.Fill.Tin.In(), e.FirstLook,
			e.Low, e.High,
		)
		if over := e.Fill.Over(); over != "" {
			fmt.Fprintf(w, "? %s is %.0f %% full: %s.\n", phrase.Capital(e.Fill.Tin.Words()), 100*e.Fill.Share, over)
		}
	}
	if res.Bake == nil && res.BakeProblem != "" {
		fmt.Fprintln(w, res.BakeProblem)
	}
	for _, c := range res.Cautions {
		fmt.Fprintf(w, "! %s %s\n", c.Text, c.Defers)
	}
}

func toWords(c adapt.Change) string {
	if len(c.To) == 0 {
		return "left out"
	}
	var out []string
	for _, t := range c.To {
		if t.Grams == 0 {
			continue // for greasing
		}
		out = append(out, measure.Grams(t.Grams).String()+" "+t.Name)
	}
	return strings.Join(out, " + ")
}

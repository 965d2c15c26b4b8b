package web

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/measure"
	"kollaris/core/phrase"
)

type ledgerRow struct {
	Key, Kind     string
	Title         string
	Becomes       string
	Role          string
	Jobs          []jobChoice
	Breaks        string
	Reason        string
	Effect        string
	Confidence    string
	ConfidenceKey string
	Use           string
	Amounts       []amountField
	WhyAmounts    []whyAmount
	Options       []optionView // those that are shut last
	AsWritten     *optionView  // of Options, which is always in sight; nil where it is not allowed
	Fold          string       // what stands over the options
	Labels        string       // what of the chosen way has its label read
	DropID        int
	Keeps         []checkbox // of several that a limit replaces, those that may be kept
	New           string
}

// jobChoice is something that what is replaced may be there for.
type jobChoice struct {
	ID string
	On bool
}

type amountField struct {
	ID, Name, Grams, Held, Measure string
}

// whyAmount says how an amount was come by.
type whyAmount struct{ Name, Came, Brings string }

type optionView struct {
	Use, School, Value string
	Title, About       string
	Effect             string
	Confidence         string
	New, Labels, Say   string
	Shut               string
	Chosen             bool
	Source             string
}

func ledgerOf(res *adapt.Result, req adapt.Request, k measure.Kitchen) []ledgerRow {
	say := inSpoons(res, k)
	var out []ledgerRow
	seen := map[string]bool{} // one field an ingredient: it is held wherever it stands
	for n, c := range res.Changes {
		row := ledgerRow{
			Key: fmt.Sprintf("change-%d", n), Kind: c.Kind, Title: c.Title, Role: c.Role,
			Breaks: phrase.Capital(c.Breaks), Reason: say(c.Reason), Effect: c.Effect,
			Confidence:    confidenceWords(string(c.Confidence)),
			ConfidenceKey: string(c.Confidence),
			Use:           c.Use,
			Becomes:       amountWords(c.To),
		}
		for _, j := range c.Jobs {
			row.Jobs = append(row.Jobs, jobChoice{j, j == c.Job})
		}
		if c.Kind == adapt.Swapped {
			total, most := 0.0, 0.0
			for _, t := range c.To {
				total, most = total+t.Grams, max(most, t.Grams)
			}
			if most > 0.95*total { // beside a pinch of gum
				total = most
			}
			row.Becomes = c.SchoolName
			if total > 0 {
				row.Becomes += " " + measure.Grams(total).String()
			}
			if len(c.New) > 0 {
				row.New = "brings " + allergenWords(c.New)
			}
		}
		if c.Kind == adapt.Swapped && c.Why == (diet.Reason{}) && !strings.HasSuffix(c.Use, "-topping") {
			for _, f := range c.From {
				if !slices.ContainsFunc(row.Keeps, func(k checkbox) bool { return k.ID == string(f.Ingredient) }) {
					row.Keeps = append(row.Keeps, checkbox{ID: string(f.Ingredient), Words: f.Name})
				}
			}
			if len(row.Keeps) == 1 {
				row.Keeps = nil // to leave it as written is one of the ways
			}
		}
		if c.Kind == adapt.Dropped {
			row.Becomes = "left out"
			if id := c.From[0].Line; slices.Contains(req.Drops, id) {
				row.DropID = int(id)
			}
		}
		if c.Kind == adapt.Moved && len(c.To) == 1 {
			row.Title = fmt.Sprintf("%s %s", c.Title, measure.Grams(c.From[0].Grams))
			row.Becomes = measure.Grams(c.To[0].Grams).String()
		}
		for _, t := range c.To {
			if seen[string(t.Ingredient)] || t.Grams == 0 && !t.Held {
				continue
			}
			seen[string(t.Ingredient)] = true
			f := amountField{
				ID: string(t.Ingredient), Name: t.Name, Grams: measure.Digits(t.Grams, 3), Measure: t.Measure,
			}
			if g, ok := req.Holds[t.Ingredient]; ok {
				f.Held = fmt.Sprintf("%g", g)
			}
			row.Amounts = append(row.Amounts, f)
			if w, ok := res.Why[t.Ingredient]; ok {
				row.WhyAmounts = append(row.WhyAmounts, whyOf(t.Name, w))
			}
		}
		out = append(out, row.choices(c))
	}
	return out
}

// choices adds the ways of a change: the open ones, then those that are shut.
func (row ledgerRow) choices(c adapt.Change) ledgerRow {
	var shut []optionView
	for _, o := range c.Options {
		v := optionOf(c.Use, o, c.School)
		if v.Chosen {
			row.Labels = v.Labels
		}
		switch {
		case o.Shut != "":
			shut = append(shut, v)
			continue
		case o.School == "as-written":
			row.AsWritten = &v
		}
		row.Options = append(row.Options, v)
	}
	others := 0
	for _, v := range row.Options {
		if !v.Chosen && v.School != "as-written" {
			others++
		}
	}
	row.Options = append(row.Options, shut...)
	switch {
	case others == 1:
		row.Fold = "1 other way"
	case others > 1:
		row.Fold = fmt.Sprintf("%d other ways", others)
	case len(shut) > 0:
		row.Fold = "No other way is open"
	default:
		row.Fold = "More of this"
	}
	return row
}

// whyOf writes how an amount was come by.
func whyOf(name string, w formula.Why) whyAmount {
	g := func(x float64) string { return measure.Grams(x).String() }
	out := whyAmount{Name: name}
	switch {
	case w.Held:
		out.Came = "Held by you."
	case w.Most-w.Least < 0.01:
		out.Came = fmt.Sprintf("Settled by the way chosen: %s.", g(w.Solved))
	case w.Begins == 0:
		out.Came = fmt.Sprintf(
			"Not in the written recipe; up to %s may come in. The sums ask for %s.", g(w.Most), g(w.Solved),
		)
	default:
		out.Came = fmt.Sprintf(
			"Begins at the usual %s and may go from %s to %s. The sums ask for %s.", g(w.Begins), g(w.Least), g(w.Most),
			g(w.Solved),
		)
	}
	var brings []string
	for _, b := range w.Brings {
		brings = append(brings, fmt.Sprintf("%s %s %s", strings.ToLower(b.Name), measure.Digits(b.Value, 2), b.Unit))
	}
	if len(brings) > 0 {
		out.Brings = "It brings: " + strings.Join(brings, ", ") + "."
	}
	return out
}

func optionOf(use string, o adapt.Option, chosen string) optionView {
	v := optionView{
		Use: use, School: o.School, Value: o.School, Title: o.Title, Effect: o.Effect,
		Confidence: confidenceWords(string(o.Confidence)), Shut: o.Shut, Chosen: o.School == chosen,
		Source: o.Source.Words(), Say: strings.Join(o.Say, "; "),
	}
	if o.Auto {
		v.Value = "" // chosen unless somebody chooses
	}
	var about []string
	if len(o.About) == 1 && strings.HasPrefix(o.About[0].Name, strings.Split(o.Title, ",")[0]) {
		about = append(about, measure.Grams(o.About[0].Grams).String())
		o.About = nil
	}
	for _, a := range o.About {
		about = append(about, measure.Grams(a.Grams).String()+" "+a.Name)
	}
	v.About = strings.Join(about, " + ")
	if len(o.New) > 0 {
		v.New = "brings " + allergenWords(o.New)
	}
	v.Labels = strings.Join(o.Labels, "; ")
	if len(o.Labels) == 1 {
		_, v.Labels, _ = strings.Cut(v.Labels, ": ")
	}
	return v
}

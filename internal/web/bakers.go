package web

import (
	"fmt"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// bakersView is the formula as the trade writes it.
type bakersView struct {
	Summary string // "flour 100 %, water 68 %"
	Base    string // "500 g"
	Counted string // "strong white bread flour, wholemeal flour"
	Rows    []bakersRow
	Sums    []bakersRow
}

type bakersRow struct{ Name, Grams, Percent, How string }

// sumHow says what each sum counts.
var sumHow = map[string]string{
	"water": "the flour's own and whole dried fruit's left out",
	"sugar": "those of milk and fruit too, the flour's own left out",
	"fat":   "the flour's own left out",
	"egg":   "as it stands in the list",
	"yeast": "as it stands in the list",
	"salt":  "put in as salt, or with salted fats and cheese",
}

// bakersOf writes the view; nil when nothing in the recipe counts as flour.
func bakersOf(r *recipe.Recipe, l *larder.Larder) *bakersView {
	f, ok := balance.Baker(balance.Items(r, l))
	if !ok {
		return nil
	}
	v := &bakersView{Base: measure.Grams(f.Base).String(), Counted: strings.Join(f.Counted, ", ")}
	for _, s := range f.Lines {
		v.Rows = append(
			v.Rows, bakersRow{Name: s.Name, Grams: measure.Grams(s.Grams).String(), Percent: bakersPercent(s.Percent)},
		)
	}
	short := []string{"flour 100 %"}
	for _, s := range f.Sums {
		how := sumHow[s.Name]
		if len(s.From) > 1 {
			var from []string
			for _, t := range s.From {
				if t.Value >= 0.5 {
					from = append(from, t.Name+" "+measure.Grams(t.Value).String())
				}
			}
			how = strings.Join(from, ", ") + "; " + how
		}
		v.Sums = append(
			v.Sums, bakersRow{phrase.Capital(s.Name), measure.Grams(s.Grams).String(), bakersPercent(s.Percent), how},
		)
		short = append(short, s.Name+" "+bakersPercent(s.Percent))
	}
	how := "what goes into the tin, raw"
	if len(r.Tins) > 0 && r.Tins[0].Count > 1 {
		how = fmt.Sprintf("raw; %s in each of %d", measure.Grams(f.Mass/float64(r.Tins[0].Count)), r.Tins[0].Count)
	}
	v.Sums = append(
		v.Sums, bakersRow{"Batter or dough", measure.Grams(f.Mass).String(), bakersPercent(100 * f.Mass / f.Base), how},
	)
	v.Summary = strings.Join(short, ", ")
	return v
}

func bakersPercent(p float64) string {
	if p < 100 {
		return measure.Digits(p, 2) + " %"
	}
	return fmt.Sprintf("%.0f %%", p)
}

package web

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// bakersView is the formula as the trade writes it: everything as per cent of the
// flour. What counts as flour is said, because nut and gluten-free bases count too.
type bakersView struct {
	Summary string // "flour 100 %, water 68 %"
	Base    string // "500 g"
	Counted string // "strong white bread flour, wholemeal flour"
	Rows    []bakersRow
	Sums    []bakersRow
}

type bakersRow struct{ Name, Grams, Percent, How string }

// bakersOf works out the view; nil when nothing in the recipe counts as flour.
func bakersOf(r *recipe.Recipe, l *larder.Larder) *bakersView {
	items := balance.Items(r, l)
	b := balance.Add(items)
	if b.Base <= 0 {
		return nil
	}
	v := &bakersView{Base: measure.Grams(b.Base).String()}
	percent := func(x float64) string {
		if p := b.Per(x); p < 100 {
			return measure.Digits(p, 2) + " %"
		}
		return fmt.Sprintf("%.0f %%", b.Per(x))
	}
	var counted []string
	yeast, salt, fat, sugar := 0.0, 0.0, 0.0, 0.0
	for _, it := range items {
		if it.Ingredient.IsBase() && !slices.Contains(counted, it.Ingredient.Name) {
			counted = append(counted, it.Ingredient.Name)
		}
		if !it.Ingredient.IsBase() {
			fat += it.Grams / 100 * it.Ingredient.Facts[larder.Fat]
			sugar += it.Grams / 100 * it.Ingredient.Facts.Sugars()
		}
		switch it.Ingredient.Family {
		case "yeast":
			yeast += it.Grams
		case "salt":
			salt += it.Grams
		default:
			salt += it.Grams / 100 * balance.SaltOf(it.Ingredient)
		}
		v.Rows = append(v.Rows, bakersRow{Name: it.Ingredient.Name, Grams: measure.Grams(it.Grams).String(), Percent: percent(it.Grams)})
	}
	v.Counted = strings.Join(counted, ", ")
	short := []string{"flour 100 %"}
	for _, s := range []struct {
		name  string
		grams float64
		how   string
	}{
		{"water", b.Water, "of every source: milk, eggs, fruit; the flour's own and whole dried fruit's left out"},
		{"sugar", sugar, "all sugars, those of milk and fruit too, the flour's own left out"},
		{"fat", fat, "of every source, the flour's own left out"},
		{"egg", b.Egg, "as it stands in the list"},
		{"yeast", yeast, "as it stands in the list"},
		{"salt", salt, "put in as salt, or with salted fats and cheese"},
	} {
		if b.Per(s.grams) < 0.1 {
			continue
		}
		v.Sums = append(v.Sums, bakersRow{sentenceCase(s.name), measure.Grams(s.grams).String(), percent(s.grams), s.how})
		short = append(short, s.name+" "+percent(s.grams))
	}
	how := "what goes into the tin, raw"
	if len(r.Tins) > 0 && r.Tins[0].Count > 1 {
		how = fmt.Sprintf("raw; %s in each of %d", measure.Grams(b.Mass/float64(r.Tins[0].Count)), r.Tins[0].Count)
	}
	v.Sums = append(v.Sums, bakersRow{"Batter or dough", measure.Grams(b.Mass).String(), percent(b.Mass), how})
	v.Summary = strings.Join(short, ", ")
	return v
}

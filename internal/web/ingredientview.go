package web

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
)

// ingredientViewOf is all that is known of an ingredient, each figure with its source.
func ingredientViewOf(i *larder.Ingredient, kit adapt.Kit) ingredientView {
	v := ingredientView{
		ID: string(i.ID), Name: i.Name, Family: i.Family.Words(), Origin: i.Origin, Does: i.Does(), Own: i.Own,
		Bar: compositionBar(&i.Facts, 600, 28), Holds: holdsWords(i), Names: kit.Larder.NamesOf(i.ID),
		Facts: composition(i), Behaviour: behaviour(i), Weights: weightRows(i), Keeps: keepsWords(i.Keeps),
	}
	if i.Glycaemic != "" {
		v.Notes = append(
			v.Notes,
			map[string]string{"high": "Its carbohydrate is felt fast.", "medium": "Its carbohydrate is felt at a middling pace.", "low": "Its carbohydrate, if any, is felt slowly.", "none": "It hardly moves blood sugar; doses stay the care team's."}[i.Glycaemic],
		)
	}
	if u := kit.Swaps.For(i.ID); u != nil {
		for _, sc := range u.Schools {
			if len(sc.Parts) != 1 || sc.Parts[0].ID != i.ID {
				v.Instead = append(v.Instead, sc.Title+": "+sc.Effect)
			}
		}
	}
	for _, u := range kit.Swaps.Uses() {
		for _, sc := range u.Schools {
			if slices.ContainsFunc(sc.Parts, func(p swapPart) bool { return p.ID == i.ID }) && i.ID != "water" {
				v.StandsFor = append(v.StandsFor, fmt.Sprintf("%s (%s)", u.Title, sc.Title))
			}
		}
	}
	return v
}

func factOf(name string, x float64, unit, source string) factRow {
	return factRow{name, measure.Digits(x, 3) + " " + unit, source}
}

// composition is what 100 g hold.
func composition(i *larder.Ingredient) []factRow {
	f := &i.Facts
	n := nutrition.Per100(f)
	macro, sugars, minerals := i.Sources["macro"].Words(), i.Sources["sugars"].Words(), i.Sources["minerals"].Words()
	row := factOf
	out := []factRow{
		row(
			"Energy", n.Energy, "kcal", "calculated: factors of EU 1169/2011",
		), row("Water", f[larder.Water], "g", macro), row("Protein", f[larder.Protein], "g", macro), row("Fat", f[larder.Fat], "g", macro),
		row(
			"of which saturates", f[larder.Saturates], "g", macro,
		), row("Carbohydrate by difference", f[larder.Carbohydrate], "g", macro), row("Fibre", f[larder.Fibre], "g", macro),
		row(
			"Sugars", f.Sugars(), "g", sugars,
		), row("Starch", f[larder.Starch], "g", sugars), row("Polyols", f.Polyols(), "g", sugars), row("Sodium", f.Or(larder.Sodium, 0), "mg", minerals),
	}
	for _, col := range []larder.Column{larder.Cholesterol, larder.Potassium, larder.Calcium, larder.Iron, larder.Phosphorus} {
		name := strings.ToUpper(larder.Columns[col].Name[:1]) + larder.Columns[col].Name[1:]
		if !f.Known(col) {
			out = append(out, factRow{name, "not known", ""})
			continue
		}
		out = append(out, row(name, f[col], larder.Columns[col].Unit, minerals))
	}
	return out
}

// behaviour is what 100 g do in a batter; what they do not is left out.
func behaviour(i *larder.Ingredient) []factRow {
	f := &i.Facts
	var out []factRow
	behave, acid := i.Sources["behave"].Words(), i.Sources["acid"].Words()
	for _, b := range []struct {
		name, unit string
		col        larder.Column
		source     string
	}{
		{"Drinks", "g water per g", larder.Absorption, behave}, {"Sweetness", "× sugar", larder.Sweetness, behave}, {"Binds", "eggs' worth in 100 g", larder.Binding, behave}, {"Gluten", "g", larder.Gluten, behave},
		{"Protein that sets", "g", larder.SettingProtein, behave}, {"Fat firm at 20 °C", "g", larder.SolidFat, behave}, {"Air it holds", "mmol gas", larder.Air, behave},
		{"Acid", "meq", larder.Acid, acid}, {"Soda", "meq", larder.Soda, acid}, {"Gas by itself", "mmol CO2", larder.CO2, acid},
	} {
		if f[b.col] != 0 && (b.col != larder.Sweetness || f[b.col] >= 0.02) {
			out = append(out, factOf(b.name, f[b.col], b.unit, b.source))
		}
	}
	return out
}

// weightRows are the weights by cup and piece.
func weightRows(i *larder.Ingredient) []factRow {
	var out []factRow
	for _, w := range i.Weights {
		name := "1 " + w.Unit + ", " + w.How
		if w.Unit == "piece" {
			name = "1 " + w.How
			if i.Edible < 1 && (w.How == "small" || w.How == "medium" || w.How == "large") {
				out = append(
					out,
					factRow{
						name + ", with peel, stone or shell", measure.Grams(float64(w.Grams) / i.Edible).String(),
						"calculated: edible share " + measure.Digits(i.Edible, 2),
					},
				)
			}
		}
		out = append(out, factRow{name, w.Grams.String(), w.Source.Words()})
	}
	return out
}

func keepsWords(k larder.Keeping) string {
	var out []string
	for _, x := range []struct {
		days  int
		where string
	}{{k.Room, "in the cupboard"}, {k.Fridge, "in the fridge"}, {k.Freezer, "frozen"}} {
		switch {
		case x.days >= 60:
			out = append(out, fmt.Sprintf("%d months %s", x.days/30, x.where))
		case x.days > 0:
			out = append(out, fmt.Sprintf("%d days %s", x.days, x.where))
		}
	}
	return strings.Join(out, ", ")
}

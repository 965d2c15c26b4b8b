package web

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/fact"
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

// sourceWords is where a figure comes from: a packet only where it was typed from it, else what the catalogue says of it, or of
// what it behaves like.
func sourceWords(i *larder.Ingredient, col larder.Column) string {
	table := larder.Columns[col].Table
	src := i.Sources[table]
	if src.Tag() != fact.Yours || i.Typed[col] {
		return src.Words()
	}
	base := larder.Builtin().Get(i.ID)
	if base == nil {
		base = larder.Builtin().Get(i.Like)
	}
	if base == nil {
		return src.Words()
	}
	return base.Sources[table].Words()
}

// composition is what 100 g hold.
func composition(i *larder.Ingredient) []factRow {
	f := &i.Facts
	n := nutrition.Per100(f)
	row := factOf
	of := func(name string, col larder.Column) factRow { return row(name, f[col], "g", sourceWords(i, col)) }
	sugars := sourceWords(i, larder.Sucrose)
	out := []factRow{
		row(
			"Energy", n.Energy, "kcal", "calculated: factors of EU 1169/2011",
		), of("Water", larder.Water), of("Protein", larder.Protein), of("Fat", larder.Fat),
		of("of which saturates", larder.Saturates), of("Carbohydrate by difference", larder.Carbohydrate), of("Fibre", larder.Fibre),
		row(
			"Sugars", f.Sugars(), "g", sugars,
		), of("Starch", larder.Starch), row("Polyols", f.Polyols(), "g", sugars), row("Sodium", f.Or(larder.Sodium, 0), "mg", sourceWords(i, larder.Sodium)),
	}
	for _, col := range []larder.Column{larder.Cholesterol, larder.Potassium, larder.Calcium, larder.Iron, larder.Phosphorus} {
		name := strings.ToUpper(larder.Columns[col].Name[:1]) + larder.Columns[col].Name[1:]
		if !f.Known(col) {
			out = append(out, factRow{name, "not known", ""})
			continue
		}
		out = append(out, row(name, f[col], larder.Columns[col].Unit, sourceWords(i, col)))
	}
	return out
}

// behaviour is what 100 g do in a batter; what they do not is left out.
func behaviour(i *larder.Ingredient) []factRow {
	f := &i.Facts
	var out []factRow
	for _, b := range []struct {
		name, unit string
		col        larder.Column
	}{
		{"Drinks", "g water per g", larder.Absorption}, {"Sweetness", "× sugar", larder.Sweetness}, {"Binds", "eggs' worth in 100 g", larder.Binding}, {"Gluten", "g", larder.Gluten},
		{"Protein that sets", "g", larder.SettingProtein}, {"Fat firm at 20 °C", "g", larder.SolidFat}, {"Air it holds", "mmol gas", larder.Air},
		{"Acid", "meq", larder.Acid}, {"Soda", "meq", larder.Soda}, {"Gas by itself", "mmol CO2", larder.CO2},
	} {
		if f[b.col] != 0 && (b.col != larder.Sweetness || f[b.col] >= 0.02) {
			out = append(out, factOf(b.name, f[b.col], b.unit, sourceWords(i, b.col)))
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

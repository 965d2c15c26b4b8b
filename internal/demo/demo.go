// Package demo fills a scratch database with the Saturday breakfast of a
// riverside rowing club: recipes of different kinds in different notations, and
// versions adapted for those who come off the water. All of it is invented.
package demo

import (
	"context"
	"fmt"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/table"
	"kollaris/internal/demo/recipes"
	"kollaris/internal/store"
)

// kept are the versions on the demo shelf, by the recipe's file.
var kept = map[string][]adapt.Request{
	"1-pear-cardamom-loaf.txt":   {{Diets: []diet.ID{diet.EggFree, diet.DairyFree}}},
	"3-cheddar-chive-scones.txt": {{Diets: []diet.ID{diet.DairyFree}, Bans: []string{"soya"}}},
}

// larderOf is what the boathouse buys: invented packs and prices, and an oat drink
// of its own.
var larderOf = []larder.Own{
	{ID: "plain-flour", Pack: &larder.Pack{Grams: 1500, Price: 1.35, Stock: 2400}},
	{ID: "self-raising-flour", Pack: &larder.Pack{Grams: 1500, Price: 1.45, Stock: 900}},
	{ID: "sugar", Pack: &larder.Pack{Grams: 1000, Price: 1.20, Stock: 1500}},
	{ID: "butter", Pack: &larder.Pack{Grams: 250, Price: 2.40, Stock: 500}},
	{ID: "egg", Pack: &larder.Pack{Grams: 600, Price: 3.60, Stock: 900}},
	{ID: "buttermilk", Pack: &larder.Pack{Grams: 500, Price: 1.10, Stock: 0}},
	{ID: "pear", Pack: &larder.Pack{Grams: 1000, Price: 2.60, Stock: 1200}},
	{ID: "sunflower-oil", Pack: &larder.Pack{Grams: 920, Price: 2.10, Stock: 600}},
	{ID: "flax-ground", Pack: &larder.Pack{Grams: 250, Price: 2.25, Stock: 180}},
	{ID: "oat-drink", Pack: &larder.Pack{Grams: 1030, Price: 1.55, Stock: 2060}},
	{ID: "lemon-juice", Pack: &larder.Pack{Grams: 250, Price: 1.30, Stock: 250}},
	{
		ID: "own-mill-oat-drink", Name: "Mill oat drink", Like: "oat-drink",
		Values: map[string]float64{"fat": 2.8, "saturates": 0.3, "sucrose": 0, "maltose": 3.9, "water": 88.4},
		Names:  []string{"boathouse oat drink"}, Pack: &larder.Pack{Grams: 1030, Price: 2.05, Stock: 1030},
	},
}

// eaters are those at the boathouse's Saturday breakfast, by their seats.
var eaters = []table.Person{
	{Name: "cox", Diets: []diet.ID{diet.GlutenFree}, Strict: table.Allergy},
	{Name: "bow", Diets: []diet.ID{diet.EggFree}, Strict: table.Allergy},
	{Name: "two", Diets: []diet.ID{diet.DairyFree}, Strict: table.Upsets},
	{Name: "four", Strict: table.Choice, Portion: 2},
	{Name: "six", Diets: []diet.ID{diet.Vegan}, Strict: table.Choice},
	{Name: "seven", Bans: []string{"nuts"}, Strict: table.Allergy},
	{
		Name: "stroke", Diets: []diet.ID{diet.LowSugar}, Limits: []diet.Limit{{What: diet.AddedSugars, Max: 7}},
		Strict: table.Upsets,
	},
	{Name: "coach", Diets: []diet.ID{diet.Keto}, Strict: table.Choice},
}

// ovens are the boathouse's: an old gas one that runs hot and a small electric one, with
// what the thermometer said.
var ovens = []store.Oven{
	{
		Name: "old gas oven", Width: 44, Depth: 37, Shelves: 2,
		Readings: []store.Reading{
			{Dial: 180, Air: 193, On: "2026-09-05"}, {Dial: 160, Air: 175, On: "2026-09-05"},
			{Dial: 200, Air: 211, On: "2026-10-10"},
		},
	},
	{Name: "small electric oven", Fan: true, Width: 34, Depth: 28, Shelves: 1},
}

// tins are those of the boathouse that no shop names.
var tins = []store.OwnTin{
	{Name: "dented ring", Text: "ring 24 cm, 9 cm deep, holds 2100 ml"},
	{Name: "black loaf tin", Text: "loaf 26×10 cm, 8 cm deep, dark metal"},
}

// Fill puts the demo's recipes and versions on the shelf.
func Fill(ctx context.Context, st *store.Store) error {
	if err := st.SetOwn(ctx, larderOf...); err != nil {
		return err
	}
	for _, p := range eaters {
		if _, err := st.AddPerson(ctx, p); err != nil {
			return err
		}
	}
	for _, o := range ovens {
		if _, err := st.AddOven(ctx, o); err != nil {
			return err
		}
	}
	for _, t := range tins {
		if _, err := st.AddTin(ctx, t); err != nil {
			return err
		}
	}
	names := recipes.Names()
	for n := len(names) - 1; n >= 0; n-- { // the first one comes to stand on top
		text := recipes.Text(names[n])
		rd, err := reader.Read(text, reader.Options{})
		if err != nil {
			return fmt.Errorf("%s: %w", names[n], err)
		}
		id, err := st.AddRecipe(ctx, rd.Recipe, text, store.Typed{})
		if err != nil {
			return err
		}
		r, err := st.Recipe(ctx, id)
		if err != nil {
			return err
		}
		for _, req := range kept[names[n]] {
			res, err := adapt.Predicted(r.Doc, req, adapt.DefaultKit())
			if err != nil {
				return err
			}
			if _, err := st.KeepAdapted(ctx, id, r.Head, r.Title+", "+strings.Join(req.Demand().Words(), ", "), res); err != nil {
				return err
			}
		}
	}
	return nil
}

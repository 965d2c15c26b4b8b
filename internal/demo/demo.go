// Package demo fills a scratch database with the Saturday breakfast of a
// riverside rowing club: recipes of different kinds in different notations, and
// versions adapted for those who come off the water. All of it is invented.
package demo

import (
	"context"
	"fmt"
	"net/url"
	"strings"
	"time"

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
		Name: "old gas oven", Width: 44, Depth: 37, Shelves: 2, Preheat: 15,
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

// soaked is a bake that is begun two days before: what the plan of the breakfast is about.
const soaked = `Apricot-oat squares
Makes 16

150 g dried apricots, chopped
120 ml orange juice
150 g rolled oats
120 g wholemeal flour
1 tsp baking powder
1/4 tsp salt
100 g unsalted butter
90 g honey
1 egg

Soak the apricots in the orange juice for 36 hours in the fridge, shaking the jar once a day.
Melt the butter with the honey and let it cool. Stir the oats, flour, powder and salt together.
Beat the egg into the butter, stir it into the oats with the apricots and their juice.
Spread in a lined 20 cm square tin and bake at 180 °C for 25-30 minutes. Cool in the tin, then cut.
`

// saturday is the breakfast that is planned: half past eight on the Saturday that is three days away or
// more, so that the fruit can be soaked on Thursday.
func saturday(now time.Time) time.Time {
	day := time.Date(now.Year(), now.Month(), now.Day(), 8, 30, 0, 0, time.Local)
	for day = day.AddDate(0, 0, 3); day.Weekday() != time.Saturday; {
		day = day.AddDate(0, 0, 1)
	}
	return day
}

// planned keeps the plan of the breakfast: a loaf without gluten for the cox, scones and rolls warm,
// squares of soaked fruit.
func planned(ctx context.Context, st *store.Store, ids map[string]int64) error {
	q := url.Values{"eat": {saturday(time.Now()).Format("2006-01-02T15:04")}, "from": {"06:00"}, "to": {"22:00"}, "room": {"21"}}
	for _, b := range []struct{ of, asked, serve string }{
		{"1-pear-cardamom-loaf.txt", "diet=gluten-free&diet=dairy-free", ""}, {"3-cheddar-chive-scones.txt", "", "warm"},
		{"4-rye-honey-rolls.txt", "", "warm"}, {"soaked", "", ""},
	} {
		q.Add("b", fmt.Sprintf("%d:%s", ids[b.of], b.asked))
		q.Add("p-serve", b.serve)
	}
	_, err := st.AddPlan(ctx, store.Plan{Name: "Boathouse breakfast", Query: q.Encode()})
	return err
}

// titleOf is the title of a recipe of the demo.
func titleOf(file string) string {
	rd, err := reader.Read(recipes.Text(file), reader.Options{})
	if err != nil {
		return ""
	}
	return rd.Recipe.Title
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
	ids := map[string]int64{}
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
		ids[names[n]] = id
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
	rd, err := reader.Read(soaked, reader.Options{})
	if err != nil {
		return err
	}
	if ids["soaked"], err = st.AddRecipe(ctx, rd.Recipe, soaked, store.Typed{}); err != nil {
		return err
	}
	return planned(ctx, st, ids)
}

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
	"kollaris/core/reader"
	"kollaris/internal/demo/recipes"
	"kollaris/internal/store"
)

// kept are the versions on the demo shelf, by the recipe's file.
var kept = map[string][]adapt.Request{
	"1-pear-cardamom-loaf.txt":   {{Diets: []diet.ID{diet.EggFree, diet.DairyFree}}},
	"3-cheddar-chive-scones.txt": {{Diets: []diet.ID{diet.DairyFree}, Bans: []string{"soya"}}},
}

// Fill puts the demo's recipes and versions on the shelf.
func Fill(ctx context.Context, st *store.Store) error {
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
			res, err := adapt.Adapt(r.Doc, req, adapt.DefaultKit())
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

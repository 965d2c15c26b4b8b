// Package demo fills a scratch database with the Saturday breakfast of a
// riverside rowing club: recipes of different kinds in different notations, and
// versions adapted for those who come off the water. All of it is invented.
package demo

import (
	"context"
	"embed"
	"fmt"
	"io/fs"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/reader"
	"kollaris/internal/store"
)

//go:embed recipes/*.txt
var recipes embed.FS

// kept are the versions on the demo shelf, by the recipe's file.
var kept = map[string][]adapt.Request{
	"1-pear-cardamom-loaf.txt":   {{Diets: []diet.ID{diet.EggFree, diet.DairyFree}}},
	"3-cheddar-chive-scones.txt": {{Diets: []diet.ID{diet.DairyFree}, Bans: []string{"soya"}}},
}

// Texts returns the recipes as they were written, by file name, for tests.
func Texts() map[string]string {
	out := map[string]string{}
	names, _ := fs.Glob(recipes, "recipes/*.txt")
	for _, n := range names {
		b, _ := recipes.ReadFile(n)
		out[strings.TrimPrefix(n, "recipes/")] = string(b)
	}
	return out
}

// Fill puts the demo's recipes and versions on the shelf.
func Fill(ctx context.Context, st *store.Store) error {
	names, err := fs.Glob(recipes, "recipes/*.txt")
	if err != nil {
		return err
	}
	for n := len(names) - 1; n >= 0; n-- { // the first one comes to stand on top
		b, err := recipes.ReadFile(names[n])
		if err != nil {
			return err
		}
		rd, err := reader.Read(string(b), reader.Options{})
		if err != nil {
			return fmt.Errorf("%s: %w", names[n], err)
		}
		id, err := st.AddRecipe(ctx, rd.Recipe, string(b), store.Typed{})
		if err != nil {
			return err
		}
		r, err := st.Recipe(ctx, id)
		if err != nil {
			return err
		}
		for _, req := range kept[strings.TrimPrefix(names[n], "recipes/")] {
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
